"""The shipped typefaces in the form drawing engines read: TTF made from the interface's woff2 files."""

from __future__ import annotations

from pathlib import Path

from fontTools.ttLib import TTFont

#: Packages and files under `node_modules/@fontsource-variable`; both families are under the SIL Open Font License.
_SOURCES = {
    "commissioner-latin": "commissioner/files/commissioner-latin-wght-normal.woff2",
    "commissioner-latin-ext": "commissioner/files/commissioner-latin-ext-wght-normal.woff2",
    "spline-sans-mono-latin": "spline-sans-mono/files/spline-sans-mono-latin-wght-normal.woff2",
}


def make_fonts(node_modules: Path, target: Path) -> list[Path]:
    """Writes the TTF files that are missing and gives all of them. Raises FileNotFoundError without the packages."""
    target.mkdir(parents=True, exist_ok=True)
    made = []
    for name, source in _SOURCES.items():
        path = target / f"{name}.ttf"
        if not path.exists():
            font = TTFont(node_modules / "@fontsource-variable" / source)
            font.flavor = None
            part = path.with_suffix(".part")
            font.save(part)
            part.replace(path)
        made.append(path)
    return made
