"""The shipped typefaces in the form drawing engines read: plain TTF files made from the interface's woff2 files.

All families are variable and under the SIL Open Font License; engines get single weights under plain names.
"""

from __future__ import annotations

import shutil
from concurrent.futures import ProcessPoolExecutor
from functools import lru_cache
from itertools import repeat
from pathlib import Path
from typing import NamedTuple

from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

from pavese.core.kit.typefaces import BASIC, SHIPPED


class Face(NamedTuple):
    """One file to make: family, weight, and its source under `node_modules/@fontsource-variable`."""

    family: str
    style: str
    weight: int
    source: str

    @property
    def file(self) -> str:
        """The name of the file that is made."""
        return f"{self.family.replace(' ', '')}-{self.style}.ttf"


#: What the interface's packages call the parts of a family by their letters, and where those stand (CSS Fonts 4, 4.5).
SUBSETS = {
    "latin": "U+0000-00FF,U+0131,U+0152-0153,U+02BB-02BC,U+02C6,U+02DA,U+02DC,U+2000-206F,U+20AC,U+2122,U+2191,U+2193,"
    "U+2212,U+2215,U+FEFF,U+FFFD",
    "latin-ext": "U+0100-02BA,U+02BD-02C5,U+02C7-02CC,U+02CE-02D7,U+02DD-02FF,U+0304,U+0308,U+0329,U+1D00-1DBF,"
    "U+1E00-1E9F,U+1EF2-1EFF,U+2020,U+20A0-20AB,U+20AD-20C0,U+2113,U+2C60-2C7F,U+A720-A7FF",
}
_MORE = ("latin-ext", "cyrillic", "cyrillic-ext", "greek", "vietnamese")
#: The widest face in scripts: sheets set in it what other faces have no letters for.
_BASIC_MORE = tuple(
    Face(f"{BASIC} {subset.replace('latin-', '').title().replace('-', ' ')}", "Regular", 400, subset)
    for subset in _MORE
)


def source(slug: str, subset: str) -> str:
    """The path of a family's part in the packages."""
    return f"{slug}/files/{slug}-{subset}-wght-normal.woff2"


FACES = (
    *(
        Face(face.family, style, min(weight, face.weights[1]), source(face.slug, "latin"))
        for face in SHIPPED
        for style, weight in (("Regular", 400), ("Bold", 700))
    ),
    *(face._replace(source=source(SHIPPED[0].slug, face.source)) for face in _BASIC_MORE),
)


def make_fonts(node_modules: Path, target: Path) -> list[Path]:
    """Writes the TTF files that are missing and gives all of them; beside them, under `web`, what browsers are given.

    Raises FileNotFoundError without the packages.
    """
    packages = node_modules / "@fontsource-variable"
    (target / "web").mkdir(parents=True, exist_ok=True)
    for face in SHIPPED:
        for subset in SUBSETS:
            shutil.copyfile(packages / source(face.slug, subset), target / "web" / f"{face.slug}-{subset}.woff2")
    missing = [face for face in FACES if not (target / face.file).exists()]
    with ProcessPoolExecutor() as children:
        list(children.map(_make, missing, repeat(packages), repeat(target)))
    return [target / face.file for face in FACES]


def _make(face: Face, packages: Path, target: Path) -> None:
    font = instantiateVariableFont(TTFont(packages / face.source), {"wght": face.weight})
    _rename(font, face)
    path = target / face.file
    part = path.with_suffix(".part")
    font.save(part)
    part.replace(path)


@lru_cache(maxsize=4)
def letters(folder: Path) -> frozenset[int]:
    """The code points that at least one of the made text faces has."""
    faces = [path for path in sorted(folder.glob("*.ttf")) if path.name.startswith(BASIC)]
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
