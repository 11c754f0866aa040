"""The words of disagree.txt, for compare.py and compare-american.py."""
import os


def listed(accent):
    words, here = set(), False
    for line in open(os.path.join(os.path.dirname(__file__), "disagree.txt")):
        if line.startswith("= "):
            here = line[2:].strip() == accent
        elif here and line[0] not in "#-\n":
            words.update(line.split())
    return words


def report(accent, bad):
    """Prints the rows whose word has no reason in the list, and the listed words that agree by now."""
    known = listed(accent)
    new = [b for b in bad if not {b[0], b[0].removesuffix("s")} & known]  # a plural goes with its word
    print(len(new), "of these without a reason in disagree.txt; listed and no longer disagreeing:", " ".join(sorted(known - {b[0] for b in bad})) or "none")
    for b in new:
        print(" | ".join(b))
