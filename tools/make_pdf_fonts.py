"""Make the fonts of PDFs out of the web fonts that ship with the program: `npm ci`, then run this
with fonttools and brotli installed. The result is committed.
"""

from __future__ import annotations

from pathlib import Path
from tempfile import TemporaryDirectory

from fontTools.merge import Merger
from fontTools.ttLib import TTFont
from fontTools.varLib import instancer

ROOT = Path(__file__).resolve().parents[1]
FILES = ROOT / "node_modules/@fontsource-variable/atkinson-hyperlegible-next/files"
MADE = ROOT / "roundpantry/counter/fonts"
WEIGHTS = {"Regular": 400, "Bold": 700}
LAYOUT_TABLES = ("GSUB", "GPOS", "GDEF", "STAT", "HVAR", "MVAR", "avar")

for name, weight in WEIGHTS.items():
    with TemporaryDirectory() as folder:
        parts = []
        for letters in ("latin", "latin-ext"):
            font = TTFont(FILES / f"atkinson-hyperlegible-next-{letters}-wght-normal.woff2")
            font.flavor = None
            font = instancer.instantiateVariableFont(font, {"wght": weight})
            for table in LAYOUT_TABLES:
                if table in font:
                    del font[table]
            path = Path(folder) / f"{letters}.ttf"
            font.save(path)
            parts.append(str(path))
        made = Merger().merge(parts)
        for number in (1, 4, 6):  # family, full and PostScript name: two fonts, two names
            made["name"].setName(f"AtkinsonNext-{name}", number, 3, 1, 0x409)
            made["name"].setName(f"AtkinsonNext-{name}", number, 1, 0, 0)
        made.save(MADE / f"AtkinsonNext-{name}.ttf")
