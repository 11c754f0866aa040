#!/usr/bin/env python3
"""Synthesises the demo's takes with espeak-ng (Debian). They stand in for adults' recordings and say so.

Hums are cut from the middle of a long one; friction is made longer by overlaying copies; stops are the first
moment of a syllable. a, l and r are takes 0596, 0669 and 0681 of `go run ./tools/takes` (its own formant
synthesiser). Run: python3 demo/make-takes.py
"""
import array, os, random, subprocess, tempfile, wave

HERE = os.path.dirname(os.path.abspath(__file__))
RATE = 22050


def speak(phonemes):
    with tempfile.NamedTemporaryFile(suffix=".wav") as f:
        subprocess.run(["espeak-ng", "-v", "en-gb+f4", "-s", "105", "-p", "40", "-w", f.name, f"[[{phonemes}]]"], check=True)
        with wave.open(f.name) as w:
            assert w.getframerate() == RATE
            return [v / 32768 for v in array.array("h", w.readframes(w.getnframes()))]


def active(x, share=0.02):
    peak = max(map(abs, x))
    on = [i for i, v in enumerate(x) if abs(v) > share * peak]
    return x[on[0]:on[-1] + 1]


def middle(x, seconds):
    x = active(x)
    n = min(len(x), int(seconds * RATE))
    at = (len(x) - n) // 2
    return x[at:at + n]


def burst(x, seconds):
    """The first moment of a stop said by itself, before any voice."""
    x = active(x, 0.05)
    return x[:int(seconds * RATE)]


def lengthen(x, seconds):
    """A noise made longer by laying copies over one another with long cross-fades."""
    n, half = int(seconds * RATE), len(x) // 2
    out = [0.0] * (n + len(x))
    for start in range(0, n, half):
        for i, v in enumerate(x):
            out[start + i] += v * min(i, len(x) - i) / half
    return out[half:half + n]


def held(x, first=0.05, last=0.17, times=3):
    """The steady part of a hum that opens at its end, laid over itself by whole periods."""
    part = x[int(first * RATE):int(last * RATE)]
    period = max(range(RATE // 300, RATE // 80), key=lambda n: sum(a * b for a, b in zip(part[n:], part)))
    over = len(part) - len(part) * 2 // 3 // period * period
    out = x[:int(first * RATE)] + part
    for _ in range(times):
        for i in range(over):
            out[-over + i] = out[-over + i] * (1 - i / over) + part[i] * i / over
        out += part[over:]
    return out


def fade(x, rise, fall):
    r, f = int(rise * RATE), int(fall * RATE)
    return [v * min(1, (i + 1) / r, (len(x) - i) / f) for i, v in enumerate(x)]


def save(name, x):
    peak = max(map(abs, x))
    rng = random.Random(name)
    quiet = lambda s: [rng.gauss(0, 0.0006) for _ in range(int(s * RATE))]
    body = [0.6 * v / peak + rng.gauss(0, 0.0006) for v in x]
    with wave.open(os.path.join(HERE, "takes", name + ".wav"), "wb") as w:
        w.setparams((1, 2, RATE, 0, "NONE", ""))
        w.writeframes(array.array("h", [int(max(-1, min(1, v)) * 32767) for v in quiet(0.35) + body + quiet(0.4)]).tobytes())


os.makedirs(os.path.join(HERE, "takes"), exist_ok=True)
save("m", fade(middle(speak("amm:m:m:ma"), 0.55), 0.04, 0.06))
save("n", fade(held(middle(speak("ann:n:n:na"), 0.55)), 0.04, 0.05))
for name, phonemes in {"s": "s", "f": "f"}.items():
    save(name, fade(lengthen(middle(speak(phonemes), 0.09), 0.5), 0.05, 0.08))
save("h", fade(lengthen(middle(speak("h"), 0.06), 0.18), 0.03, 0.08))
for name, phonemes in {"e": "EEE", "i": "III", "o": "000", "u": "VVV"}.items():
    save(name, fade(middle(speak(phonemes), 0.34), 0.03, 0.06))
for name, phonemes in {"t": "t", "p": "p", "c": "k"}.items():
    save(name, fade(burst(speak(phonemes), 0.05), 0.001, 0.025))
for name, (phonemes, seconds) in {"d": ("d@", 0.085), "g": ("g@", 0.085), "b": ("b@", 0.073)}.items():
    save(name, fade(active(speak(phonemes), 0.01)[:int(seconds * RATE)], 0.003, 0.03))
# Vowels and what glides; consonants of two letters. One take serves every spelling of its sound.
for name, (phonemes, seconds) in {"ee": ("i:i:i:", 0.5), "oo": ("u:u:u:", 0.5), "ar": ("A:A:A:", 0.5), "or": ("O:O:O:", 0.5), "oo-short": ("UUU", 0.34), "er": ("@@", 0.2)}.items():
    save(name, fade(middle(speak(phonemes), seconds), 0.03, 0.06))
for name, phonemes in {"ai": "eI", "ie": "aI", "oa": "oU", "ou": "aU", "oi": "OI"}.items():
    save(name, fade(active(speak(phonemes)), 0.03, 0.06))
for name, phonemes in {"ng": "aNN:N:N:N", "z": "azz:z:z:za", "v": "avv:v:v:va"}.items():
    save(name, fade(held(middle(speak(phonemes), 0.55)), 0.04, 0.05))
for name, phonemes in {"sh": "S", "th": "T"}.items():
    save(name, fade(lengthen(middle(speak(phonemes), 0.09), 0.5), 0.05, 0.08))
save("ch", fade(active(speak("tS"))[:int(0.16 * RATE)], 0.002, 0.05))
save("j", fade(active(speak("dZ@"))[:int(0.14 * RATE)], 0.003, 0.04))
save("w", fade(active(speak("wu:"))[:int(0.12 * RATE)], 0.02, 0.05))
save("le", fade(active(speak("@l-")), 0.02, 0.06))
save("x", fade(active(speak("ks"), 0.01), 0.003, 0.06))
