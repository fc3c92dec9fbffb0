"""The shipped typefaces in the form drawing engines read: plain TTF files made from the interface's woff2 files.

All families are variable and under the SIL Open Font License; engines get single weights under plain names.
"""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path
from typing import NamedTuple

from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont


class Face(NamedTuple):
    """One file to make: family, weight, and its source under `node_modules/@fontsource-variable`."""

    family: str
    style: str
    weight: int
    source: str


_COMMISSIONER = "commissioner/files/commissioner-{}-wght-normal.woff2"
FACES = (
    Face("Commissioner", "Regular", 400, _COMMISSIONER.format("latin")),
    Face("Commissioner", "Bold", 700, _COMMISSIONER.format("latin")),
    Face("Commissioner Ext", "Regular", 400, _COMMISSIONER.format("latin-ext")),
    Face("Commissioner Cyrillic", "Regular", 400, _COMMISSIONER.format("cyrillic")),
    Face("Commissioner Cyrillic Ext", "Regular", 400, _COMMISSIONER.format("cyrillic-ext")),
    Face("Commissioner Greek", "Regular", 400, _COMMISSIONER.format("greek")),
    Face("Commissioner Vietnamese", "Regular", 400, _COMMISSIONER.format("vietnamese")),
    Face("Source Serif 4", "Regular", 400, "source-serif-4/files/source-serif-4-latin-wght-normal.woff2"),
    Face("Spline Sans Mono", "Regular", 400, "spline-sans-mono/files/spline-sans-mono-latin-wght-normal.woff2"),
)


def make_fonts(node_modules: Path, target: Path) -> list[Path]:
    """Writes the TTF files that are missing and gives all of them. Raises FileNotFoundError without the packages."""
    target.mkdir(parents=True, exist_ok=True)
    made = []
    for face in FACES:
        path = target / f"{face.family.replace(' ', '')}-{face.style}.ttf"
        if not path.exists():
            font = instantiateVariableFont(
                TTFont(node_modules / "@fontsource-variable" / face.source), {"wght": face.weight}
            )
            _rename(font, face)
            part = path.with_suffix(".part")
            font.save(part)
            part.replace(path)
        made.append(path)
    return made


@lru_cache(maxsize=4)
def letters(folder: Path) -> frozenset[int]:
    """The code points that at least one of the made text faces has."""
    faces = [path for path in sorted(folder.glob("*.ttf")) if path.name.startswith("Commissioner")]
    return frozenset(point for path in faces for point in TTFont(path, lazy=True).getBestCmap())


def _rename(font: TTFont, face: Face) -> None:
    """Sets the names by which engines look a face up (OpenType `name` table, ids 1, 2, 4, 6)."""
    font.flavor = None
    font["OS/2"].usWeightClass = face.weight
    full = f"{face.family} {face.style}"
    names = {1: face.family, 2: face.style, 4: full, 6: full.replace(" ", "-")}
    table = font["name"]
    for number in (16, 17, 21, 22, 25):
        table.removeNames(nameID=number)
    for number, text in names.items():
        table.removeNames(nameID=number)
        table.setName(text, number, 3, 1, 0x409)
