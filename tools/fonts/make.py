#!/usr/bin/env python3
"""Makes the TrueType fonts that printed pages embed. Run it from the project folder:

    apt-get install fonts-sil-andika python3-fonttools python3-brotli
    (cd web && npm ci) && python3 tools/fonts/make.py

Sources: Andika of Debian's fonts-sil-andika, Atkinson Hyperlegible of the @fontsource package, both SIL Open Font
License 1.1. A cut font is a modified version, so it does not keep the reserved names: the files call themselves
"Chalk Hand" and "Chalk Text". Tables for ligatures and kerning go: printed words show one glyph for each letter.
"""
import os
import sys

from fontTools import subset
from fontTools.ttLib import TTFont

OUT = "internal/drawing/fonts"
ANDIKA = "/usr/share/fonts/truetype/andika/Andika-%s.ttf"
ATKINSON = "web/node_modules/@fontsource/atkinson-hyperlegible/files/atkinson-hyperlegible-latin-%s-normal.woff2"

# Latin with its extensions, the phonetic alphabet and its Greek letters, Cyrillic, Vietnamese, punctuation, arrows, tick.
RANGES = [(0x20, 0x7E), (0xA0, 0x17F), (0x1A0, 0x1B0), (0x218, 0x21B), (0x250, 0x2FF), (0x300, 0x36F), (0x400, 0x45F),
          (0x490, 0x491), (0x1EA0, 0x1EF9), (0x2010, 0x2027), (0x2030, 0x203A), (0x20AC, 0x20AC), (0x2190, 0x2193)]
SIGNS = [0x3B2, 0x3B8, 0x3BB, 0x3C6, 0x3C7, 0x2212, 0x25A1, 0x25CB, 0x25CC, 0x2713, 0x2022]


def make(source, name, weight, target):
    font = TTFont(source)
    options = subset.Options(layout_features=[], name_IDs=["*"], notdef_outline=True, hinting=False, glyph_names=False)
    options.drop_tables += ["GSUB", "GPOS", "GDEF", "kern", "Silf", "Sill", "Feat", "Gloc", "Glat", "FFTM", "DSIG"]
    cut = subset.Subsetter(options)
    cut.populate(unicodes=[c for a, b in RANGES for c in range(a, b + 1)] + SIGNS)
    cut.subset(font)
    for record in font["name"].names:
        if record.nameID in (1, 3, 4, 6, 16, 18):
            text = "%s %s" % (name, weight) if record.nameID in (3, 4, 18) else name
            record.string = text.replace(" ", "") + "-" + weight if record.nameID == 6 else text
    font.flavor = None
    font.save(os.path.join(OUT, target))
    print(target, os.path.getsize(os.path.join(OUT, target)), "bytes,", len(font.getBestCmap()), "signs")


if not os.path.isdir(OUT):
    sys.exit("run this from the project folder")
for style, weight in (("Regular", "400"), ("Bold", "700")):
    make(ANDIKA % style, "Chalk Hand", style, "hand-%s.ttf" % style.lower())
    make(ATKINSON % weight, "Chalk Text", style, "text-%s.ttf" % style.lower())
