#!/usr/bin/env python3
"""Lists offered words whose General American sounds disagree with every pronunciation of the CMU dictionary.

Schwa and short i, and the weak vowel of happy, are taken as one. Needs tools/lexicon/node_modules and a built
bin/brightchalk; run from the project's folder.
"""
import json, subprocess

import disagreements

cmu = {}
for l in subprocess.run(["node", "dump.mjs"], cwd="tools/lexicon", capture_output=True, text=True).stdout.splitlines():
    kind, word, value = l.split("\t")[:3]
    if kind == "cmu":
        cmu.setdefault(word.split("(")[0], []).append(value.split(" #")[0])
rows = [l.rstrip("\n").split("\t") for l in open("internal/core/lexicon/data/words.txt") if l[0] != "#"]
words = [r[0] for r in rows if int(r[2]) >= 2 and "x" not in r[4] and "g" not in r[4] and r[0] in cmu]
seg = [json.loads(l) for l in subprocess.run(["bin/brightchalk", "segment", "--accent", "general-american", "--json"], input="\n".join(words), capture_output=True, text=True).stdout.splitlines()]
IPA = dict(AA="ɑː", AE="æ", AH="@", AO="ɔː", AW="aʊ", AY="aɪ", B="b", CH="tʃ", D="d", DH="ð", EH="e", ER="ɜːr", EY="eɪ", F="f", G="ɡ", HH="h", IH="@", IY="i", JH="dʒ", K="k", L="l", M="m", N="n", NG="ŋ", OW="oʊ", OY="ɔɪ", P="p", R="r", S="s", SH="ʃ", T="t", TH="θ", UH="ʊ", UW="uː", V="v", W="w", Y="j", Z="z", ZH="ʒ")
def theirs(p): return "".join(IPA[x.rstrip("012")] for x in p.split())
def ours(ps): return "".join({"ɪ": "@", "ə": "@", "ʌ": "@", "iː": "i", "ər": "ɜːr", "ɑːr": "ɑːr", "ɪər": "@r", "eər": "er", "ʊər": "ʊr"}.get(p, p) for p in ps)
def norm(s): return s.replace("i", "@").replace("ŋ", "n").replace("ɜːrr", "ɜːr").replace("@rr", "@r").replace("err", "er").replace("ɔːrr", "ɔːr").replace("ɑːrr", "ɑːr")
bad = []
for w, m in zip(words, seg):
    said = {norm(theirs(p)) for p in cmu[w]}
    mine = [m["phonemes"]] + [a["phonemes"] for a in m["alternatives"]]
    if not any(norm(ours(p)) in said for p in mine):
        bad.append((w, "".join(m["phonemes"]), " / ".join(cmu[w])))
print(len(words), "offered words,", len(bad), "disagree")
disagreements.report("general-american", bad)
