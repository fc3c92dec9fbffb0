"""A picture or a board with its palette: numbered pins on it, and beside it their swatches with names and codes."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from importlib.resources import files

from pavese.core.color.contrast import readable_ink
from pavese.core.color.srgb import Rgb
from pavese.core.formats.svg.raster import svg_of_png
from pavese.core.handoff.published import CodeKind, code
from pavese.core.handoff.sheet import MAIN

_TEMPLATE = "picture_palette.typ"
_PICTURE = "picture.svg"


@dataclass(frozen=True)
class PinOnPicture:
    """A numbered pin, its place as parts of the picture's width and height."""

    number: int
    x: float
    y: float
    color: Rgb


@dataclass(frozen=True)
class NamedColor:
    """A color of the picture: its pin (None: none), its name, and what there is to say of it."""

    number: int | None
    name: str
    color: Rgb
    about: str


@dataclass(frozen=True)
class PicturePalette:
    """A picture as PNG with its shape (width by height), what is on it and beside it; `rights` are lines about it."""

    title: str
    kit: str
    png: bytes
    shape: float
    pins: Sequence[PinOnPicture]
    colors: Sequence[NamedColor]
    rights: Sequence[str]


def palette_page(shown: PicturePalette, kinds: Sequence[CodeKind]) -> dict[str, bytes]:
    """The files a page is set from: the template as MAIN, `data.json`, and the picture."""
    data = {
        "title": shown.title,
        "kit": shown.kit,
        "shape": shown.shape,
        "pins": [
            {"number": pin.number, "x": pin.x, "y": pin.y, "hex": pin.color.hex, "ink": readable_ink(pin.color).hex}
            for pin in shown.pins
        ],
        "rights": list(shown.rights),
        "colors": [
            {
                "number": one.number,
                "name": one.name,
                "hex": one.color.hex,
                "ink": readable_ink(one.color).hex,
                "codes": [code(one.color, kind) for kind in kinds],
                "about": one.about,
            }
            for one in shown.colors
        ],
    }
    template = files(__package__).joinpath(_TEMPLATE).read_bytes()
    return {MAIN: template, "data.json": json.dumps(data, ensure_ascii=False).encode(), _PICTURE: svg_of_png(shown.png)}
