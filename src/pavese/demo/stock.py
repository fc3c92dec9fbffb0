"""A stand-in for a stock library: six packs of different look, drawn by code, with tags, author and rights.

Its motifs are those of the deck signs and route illustrations; each pack draws them in its own manner.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import cache
from typing import NamedTuple

from pavese.core.color.contrast import luminance
from pavese.core.color.srgb import Rgb, parse_hex
from pavese.core.formats import read
from pavese.core.gather.stock import StockItem, StockKind
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.traits import traits_of
from pavese.demo.icons import ICONS
from pavese.demo.illustrations import illustration_files
from pavese.demo.shapes import Notation, Shape, attributes, box, sheet, styles, svg

_INK = "#1f2328"
#: Words beside those of the name by which a motif is found.
_TAGS = {
    "crossing": "ferry ship boat sea water",
    "lifebuoy": "ring rescue safety help",
    "harbor-light": "lighthouse beacon tower",
    "ticket": "card pass fare",
    "luggage": "bag suitcase travel",
    "mooring": "anchor port",
    "steward": "person crew staff",
    "caution": "warning danger alert",
    "life-jacket": "vest safety",
    "first-aid": "medical kit help",
    "galley": "cup coffee cafe",
    "extinguisher": "fire safety",
    "car-deck": "car vehicle parking",
    "bicycles": "bike cycle",
    "timetable": "clock time hours",
    "stairs": "steps up",
    "lift": "elevator",
    "step-free": "wheelchair access",
    "dogs": "pet animal",
    "sea-state": "waves weather sun",
    "wind": "weather flag",
    "gangway": "ramp board",
    "radio": "phone call",
    "bell": "sound alarm",
    "island-map": "place pin route",
    "quiet-deck": "sleep moon night",
    "no-entry": "stop forbidden",
    "parcel": "box freight cargo",
    "crew": "people staff team",
    "assembly-point": "people meeting group safety",
}


def _as_drawn(paint: str) -> str:
    return paint


def _remapped(table: dict[str, str]) -> Callable[[str], str]:
    return lambda paint: table.get(paint, paint)


def _by_light(steps: Sequence[str]) -> Callable[[str], str]:
    def paint(code: str) -> str:
        color = parse_hex(code)
        light = luminance(color.rgb if color else Rgb(0, 0, 0))
        return steps[min(int(light**0.5 * len(steps)), len(steps) - 1)]

    return paint


_SOFT = {
    "#2f3e9e": "#7a86c9", "#5c6bc0": "#a6afe0", "#6fb6e8": "#b4dcf5", "#e53935": "#f2958f", "#b3261e": "#d9706a",
    "#ffca28": "#ffe08a", "#43a047": "#97d09a", "#607d8b": "#a9bcc5", "#000000": "#5a6472",
}  # fmt: skip


def _filled(shapes: Sequence[Shape], paint: Callable[[str], str]) -> list[Shape]:
    return [
        shape._replace(fill=shape.fill and paint(shape.fill), stroke=shape.stroke and paint(shape.stroke))
        for shape in shapes
    ]


def _outlined(shapes: Sequence[Shape], _: Callable[[str], str]) -> list[Shape]:
    """Every shape as a line of one width and color."""
    lined = {"stroke-width": "2", "stroke-linecap": "round", "stroke-linejoin": "round"}
    return [shape._replace(geometry=shape.geometry | lined, fill=None, stroke=_INK) for shape in shapes]


def _badged(shapes: Sequence[Shape], paint: Callable[[str], str]) -> list[Shape]:
    """Light shapes on a round-cornered ground."""
    return [box("#8a3ffc", 0, 0, 48, 48, 12), *_filled(shapes, paint)]


_TIDES = ("#123a5c", "#123a5c", "#4f9bd1", "#e6f1f8")
_BADGE = ("#2b0a5e", "#d9c2ff", "#ffffff")


class _Pack(NamedTuple):
    manner: Callable[[Sequence[Shape], Callable[[str], str]], list[Shape]]
    paint: Callable[[str], str]
    notation: Notation
    author: str
    rights: str


#: Pack: its manner, what it does with colors, how its files are written, its author and rights.
_PACKS = {
    "Harbor flat": _Pack(_filled, _as_drawn, attributes, "Ines Halloran", "CC BY 4.0"),
    "Signal line": _Pack(_outlined, _as_drawn, attributes, "Studio Kestrel Row", "CC0 1.0"),
    "Deck solid": _Pack(_filled, _by_light([_INK, _INK, "#ffffff"]), attributes, "Studio Kestrel Row", "CC0 1.0"),
    "Two tides": _Pack(_filled, _by_light(_TIDES), sheet, "Bram Osterlund", "CC BY 4.0"),
    "Chalk": _Pack(_filled, _remapped(_SOFT), styles, "Ines Halloran", "CC BY-SA 4.0"),
    "Badges": _Pack(_badged, _by_light(_BADGE), attributes, "Mara Quill", "own license, free to use in print"),
}
_SCENE_PACKS = ("Harbor flat", "Two tides", "Chalk")


class StandIn:
    """See `pavese.core.gather.stock.StockLibrary`."""

    name = "Quayside Stock (a stand-in)"

    def items(self) -> Sequence[StockItem]:
        return _catalog()

    def file(self, item_id: str) -> bytes:
        return _files()[item_id]


@cache
def _files() -> dict[str, bytes]:
    made = {}
    for pack, way in _PACKS.items():
        for name, shapes in ICONS.items():
            drawn = way.manner(shapes, way.paint)
            made[f"{_key(pack)}/{name}"] = svg(drawn, way.notation, f"{name.replace('-', ' ').capitalize()}")
    for pack in _SCENE_PACKS:
        paint = _PACKS[pack].paint
        for file_name, data in illustration_files().items():
            document = read(file_name, data)
            wanted = {one: color.rgb for one in document.inventory().paints if (color := parse_hex(paint(one.rgb.hex)))}
            made[f"{_key(pack)}/scene-{file_name.removesuffix('.svg')}"] = document.write(wanted)
    return made


@cache
def _catalog() -> tuple[StockItem, ...]:
    packs = {_key(pack): pack for pack in _PACKS}
    found = []
    for item_id, data in _files().items():
        key, _, name = item_id.partition("/")
        pack = packs[key]
        scene = name.startswith("scene-")
        title = name.removeprefix("scene-").replace("-", " ").capitalize()
        tags = tuple(_TAGS.get(name, "harbor island ferry sea landscape").split())
        kind = StockKind.ILLUSTRATION if scene else StockKind.ICON
        traits = traits_of(read(f"{name}.svg", data).inventory(), Measured())
        found.append(StockItem(item_id, title, pack, kind, tags, _PACKS[pack].author, _PACKS[pack].rights, traits))
    return tuple(found)


def _key(pack: str) -> str:
    return pack.lower().replace(" ", "-")
