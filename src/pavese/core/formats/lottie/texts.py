"""The text layers of an animation, and the same animation with each of them as a box in a color of its own.

Lottie 1.0, section "Text"; what players agree on beyond it (`ps` and `sz` of a box, `j` of the alignment) as their
documentation gives it. Boxes are estimates: the letters' own widths are not looked up.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any, NamedTuple

import orjson

from pavese.core import limits
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.lottie.places import color_of, dicts, selectors_of
from pavese.core.recolor.texts import Text

Json = dict[str, Any]

_TEXT, _NULL, _INNER, _SHAPES = 5, 3, 0, 4
#: Mean width of a letter, height of capitals above the baseline, and distance of lines, in parts of the font's size.
_WIDTH, _ASCENT, _LINE = 0.52, 0.72, 1.2
_RIGHT, _CENTER = 1, 2
_SHOWN_LETTERS = 80


class Lettering(NamedTuple):
    """What a text layer says at its first moment."""

    layer: Json
    said: Json


def texts_of(tree: Json, within: tuple[str, ...] = ()) -> list[Text | None]:
    """The text of each text layer, in document order; None for one without an ink."""
    faces = {
        font.get("fName"): f"{font.get('fStyle', '')} {font.get('fName', '')}".casefold()
        for font in dicts((tree.get("fonts") or {}).get("list") if isinstance(tree.get("fonts"), dict) else None)
    }
    return [_text(one, faces, within) for one in _letterings(tree)]


def inked(data: bytes, inks: Sequence[Rgb]) -> bytes:
    """The animation with nothing but its text layers, each a box in its ink, as they move."""
    tree = orjson.loads(data.removeprefix(b"\xef\xbb\xbf"))
    letterings = _letterings(tree)
    numbers = {id(one.layer): number for number, one in enumerate(letterings)}
    for layers in _layers(tree):
        for at, layer in enumerate(layers):
            if isinstance(layer, dict):
                number = numbers.get(id(layer), len(inks))
                shown = number < len(inks)
                layers[at] = _boxed(layer, _box(letterings[number].said), inks[number]) if shown else _empty(layer)
    return orjson.dumps(tree)


def _letterings(tree: Json) -> list[Lettering]:
    found = []
    for layers in _layers(tree):
        for layer in dicts(layers):
            text = layer.get("t")
            if layer.get("ty") != _TEXT or not isinstance(text, dict) or not isinstance(text.get("d"), dict):
                continue
            first = next(dicts(text["d"].get("k")), {}).get("s")
            if isinstance(first, dict) and isinstance(first.get("t"), str) and first["t"].strip():
                found.append(Lettering(layer, first))
    return found[: limits.TEXTS]


def _text(one: Lettering, faces: dict[Any, str], within: tuple[str, ...]) -> Text | None:
    ink = color_of(one.said.get("fc"))
    if ink is None:
        return None
    motion = one.layer.get("ks") if isinstance(one.layer.get("ks"), dict) else {}
    size = _number(one.said.get("s"), 16.0) * _part(motion.get("s")) if motion else _number(one.said.get("s"), 16.0)
    face = faces.get(one.said.get("f"), str(one.said.get("f", "")).casefold())
    words = " ".join(one.said["t"].split())
    opacity = _part(motion.get("o")) if motion else 1.0
    bold = "bold" in face or "black" in face or "heavy" in face
    return Text(words[:_SHOWN_LETTERS], Rgba(*ink), opacity, round(size, 2), bold, (*selectors_of(one.layer), *within))


def _box(said: Json) -> tuple[float, float, float, float]:
    """Left, top, width and height of a text in the units of its layer."""
    size = _number(said.get("s"), 16.0)
    lines = str(said["t"]).replace("\n", "\r").split("\r")
    width, line = max(map(len, lines)) * size * _WIDTH, _number(said.get("lh"), size * _LINE)
    height = size * _ASCENT + line * (len(lines) - 1)
    place, room = _pair(said.get("ps")), _pair(said.get("sz"))
    if place and room:
        free = max(room[0] - width, 0.0)
        left = place[0] + {_RIGHT: free, _CENTER: free / 2}.get(said.get("j", 0), 0.0)
        return left, place[1], min(width, room[0]), height
    left = {_RIGHT: -width, _CENTER: -width / 2}.get(said.get("j", 0), 0.0)
    return left, -size * _ASCENT, width, height


def _boxed(layer: Json, box: tuple[float, float, float, float], ink: Rgb) -> Json:
    left, top, width, height = box
    group = [
        {"ty": "rc", "p": _still([left + width / 2, top + height / 2]), "s": _still([width, height]), "r": _still(0)},
        {"ty": "fl", "c": _still([level / 255 for level in ink] + [1]), "o": _still(100)},
        {
            "ty": "tr",
            "p": _still([0, 0]),
            "a": _still([0, 0]),
            "s": _still([100, 100]),
            "r": _still(0),
            "o": _still(100),
        },
    ]
    kept = {key: value for key, value in layer.items() if key not in ("t", "ef", "sy", "tt", "td", "tp")}
    return {**kept, "ty": _SHAPES, "shapes": [{"ty": "gr", "it": group}]}


def _empty(layer: Json) -> Json:
    """A layer that shows nothing of its own; what hangs on it still moves with it."""
    if layer.get("ty") == _INNER:
        return {key: value for key, value in layer.items() if key not in ("tt", "td", "tp")}
    kept = ("ind", "parent", "ks", "ip", "op", "st", "sr", "nm", "ddd", "ao")
    return {"ty": _NULL, **{key: layer[key] for key in kept if key in layer}}


def _layers(tree: Json) -> Iterator[list[Any]]:
    for holder in (tree, *dicts(tree.get("assets"))):
        if isinstance(holder.get("layers"), list):
            yield holder["layers"]


def _still(value: Any) -> Json:
    return {"a": 0, "k": value}


def _part(value: Any) -> float:
    """A percentage that a property has, or begins with, as a part of 1; of several, the first."""
    at = value.get("k") if isinstance(value, dict) else None
    if isinstance(at, list) and at and isinstance(at[0], dict):
        at = at[-1].get("s") if isinstance(at[-1], dict) and "s" in at[-1] else at[0].get("s")
    if isinstance(at, list) and at:
        at = at[0]
    return abs(_number(at, 100.0)) / 100


def _number(value: Any, otherwise: float) -> float:
    return float(value) if isinstance(value, int | float) and not isinstance(value, bool) else otherwise


def _pair(value: Any) -> tuple[float, float] | None:
    told = isinstance(value, list) and len(value) >= 2 and all(isinstance(one, int | float) for one in value[:2])
    return (float(value[0]), float(value[1])) if told else None
