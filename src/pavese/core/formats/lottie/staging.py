"""Still drawings set in motion: four motions of our own, as Lottie.

A drawing of plain outlines stays vector; any other is put in as a picture, which keeps its look and no more. The stage
is larger than the drawing, so that nothing of the motion is cut off.
"""

from __future__ import annotations

import json
from base64 import b64encode
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from pavese.core.color.srgb import Rgba
from pavese.core.formats.svg.outlines import Contour, NotPlainError, Outline, outlines
from pavese.core.formats.svg.size import extent
from pavese.core.formats.xml_source import read_xml

Json = dict[str, Any]
#: Keyframes: (frame, value).
Track = Sequence[tuple[int, float]]


class Motion(StrEnum):
    """The motions there are."""

    ARRIVE = "arrive"
    BREATHE = "breathe"
    TURN = "turn"
    RING = "ring"


@dataclass(frozen=True)
class Score:
    """One motion: its length in frames, and how the drawing moves; what is not said stays as it is.

    `rise` is how far below its place the drawing stands, as part of its height, `size` its size (1 its own), `turn`
    degrees clockwise, `veil` its opacity (0 to 1). It turns and grows about `pivot`, as parts of width and height.
    """

    words: str
    length: int
    rise: Track = ()
    size: Track = ()
    turn: Track = ()
    veil: Track = ()
    pivot: tuple[float, float] = (0.5, 0.5)


MOTIONS: dict[Motion, Score] = {
    Motion.ARRIVE: Score(
        "comes up from below and stays",
        60,
        rise=((0, 0.16), (16, -0.03), (24, 0)),
        size=((0, 0.86), (16, 1.03), (24, 1)),
        veil=((0, 0), (10, 1)),
    ),
    Motion.BREATHE: Score("grows a little and shrinks again", 72, size=((0, 1), (34, 1.07), (72, 1))),
    Motion.TURN: Score("turns once about its middle and rests", 66, turn=((0, 0), (46, 360))),
    Motion.RING: Score(
        "swings from its top, as a bell does, and comes to rest",
        64,
        turn=((0, 0), (6, 13), (14, -11), (22, 8), (30, -5), (38, 2), (46, 0)),
        pivot=(0.5, 0.08),
    ),
}

_RATE = 30
#: Longer side of the drawing on the stage, in its units; a picture has as many pixels: not every player scales it.
_SIDE = 800
#: The stage in parts of the drawing.
_ROOM = 1.3
#: How far beyond its edges a drawing may reach without being cut off there.
_SLIGHT = 4.0
_CAPS = {"butt": 1, "round": 2, "square": 3}
_JOINS = {"miter": 1, "round": 2, "bevel": 3}
_EASE: Json = {"i": {"x": 0.4, "y": 1}, "o": {"x": 0.6, "y": 0}}
_DIGITS = 3
#: The transform that every group ends with, here one that does nothing.
_IN_PLACE: Json = {
    "ty": "tr", "a": {"a": 0, "k": [0, 0]}, "p": {"a": 0, "k": [0, 0]}, "s": {"a": 0, "k": [100, 100]},
    "r": {"a": 0, "k": 0}, "o": {"a": 0, "k": 100},
}  # fmt: skip


def set_in_motion(name: str, svg: bytes, motion: Motion, picture: Callable[[int], bytes]) -> bytes:
    """A Lottie animation of a drawing in the plain notation of the engine.

    `picture` gives it as a PNG with the longer side in pixels, and is asked only for what is no plain drawing.
    Raises RefusedFileError when the drawing cannot be read.
    """
    source = read_xml(name, svg)
    score = MOTIONS[motion]
    assets: list[Json] = []
    try:
        found, size = outlines(source, _SIDE)
        layer: Json = {"ty": 4, "shapes": [_group(one) for one in reversed(found)]}
        if _overhangs(found, size):
            layer |= {"hasMask": True, "masksProperties": [_frame(size)]}
    except NotPlainError:
        width, height = extent(source.root)
        scale = _SIDE / max(width, height)
        size = (width * scale, height * scale)
        assets.append(_pictured(picture(_SIDE), size))
        layer = {"ty": 2, "refId": "drawing"}
    stage = [max(round(side * _ROOM), 1) for side in size]
    layer.update(
        {"nm": name, "ind": 1, "ddd": 0, "ip": 0, "op": score.length, "st": 0, "sr": 1, "bm": 0}
        | {"ks": _transform(score, size, stage)}
    )
    body = {
        "v": "5.7.4", "fr": _RATE, "ip": 0, "op": score.length, "w": stage[0], "h": stage[1], "nm": name, "ddd": 0,
        "assets": assets, "layers": [layer], "markers": [{"tm": 0, "cm": motion.value, "dr": score.length}],
    }  # fmt: skip
    return json.dumps(body, ensure_ascii=False, separators=(",", ":")).encode()


def _overhangs(found: Sequence[Outline], size: tuple[float, float]) -> bool:
    """Whether anything lies beyond the edges of the drawing, where it must not be seen."""
    points = (at for outline in found for contour in outline.contours for corner in contour.corners for at in corner)
    return any(not (-_SLIGHT <= x <= size[0] + _SLIGHT and -_SLIGHT <= y <= size[1] + _SLIGHT) for x, y in points)


def _frame(size: tuple[float, float]) -> Json:
    width, height = size
    corners = [[0.0, 0.0], [width, 0.0], [width, height], [0.0, height]]
    bare = [[0.0, 0.0]] * 4
    edge = {"c": True, "v": [_rounded(corner) for corner in corners], "i": bare, "o": bare}
    return {"nm": "edge", "mode": "a", "inv": False, "pt": {"a": 0, "k": edge}, "o": _still(100), "x": _still(0)}


def _transform(score: Score, size: tuple[float, float], stage: Sequence[int]) -> Json:
    anchor = [side * share for side, share in zip(size, score.pivot, strict=True)]
    place = [(room - side) / 2 + side * share for room, side, share in zip(stage, size, score.pivot, strict=True)]
    return {
        "a": _still([*anchor, 0]),
        "p": _track(score.rise, lambda rise: [place[0], place[1] + rise * size[1], 0]) or _still([*place, 0]),
        "s": _track(score.size, lambda grown: [100 * grown, 100 * grown, 100]) or _still([100, 100, 100]),
        "r": _track(score.turn, lambda turned: [turned]) or _still(0),
        "o": _track(score.veil, lambda share: [100 * share]) or _still(100),
    }


def _track(track: Track, value: Callable[[float], list[float]]) -> Json | None:
    if not track:
        return None
    # The last keyframe leads nowhere, so it has no easing.
    eased = [{**_EASE, "t": frame, "s": _rounded(value(number))} for frame, number in track[:-1]]
    return {"a": 1, "k": [*eased, {"t": track[-1][0], "s": _rounded(value(track[-1][1]))}]}


def _still(value: Any) -> Json:
    return {"a": 0, "k": _rounded(value) if isinstance(value, list) else value}


def _group(outline: Outline) -> Json:
    items: list[Json] = [{"ty": "sh", "ks": {"a": 0, "k": _bezier(contour)}} for contour in outline.contours]
    # The stroke lies on the fill: what comes first is in front.
    if outline.stroke:
        stroke = {
            "ty": "st", "w": _still(round(outline.width, _DIGITS)), "lc": _CAPS.get(outline.cap, 1),
            "lj": _JOINS.get(outline.join, 1), "ml": outline.miter, **_painted(outline.stroke),
        }  # fmt: skip
        if outline.dashes:
            lengths = outline.dashes * (1 + len(outline.dashes) % 2)
            # Some players take the last length for the offset where none is given.
            stroke["d"] = [
                *({"n": "dg"[at % 2], "v": _still(round(length, _DIGITS))} for at, length in enumerate(lengths)),
                {"n": "o", "v": _still(round(outline.dashed_from, _DIGITS))},
            ]
        items.append(stroke)
    if outline.fill:
        items.append({"ty": "fl", "r": 2 if outline.evenodd else 1, **_painted(outline.fill)})
    return {"ty": "gr", "it": [*items, _IN_PLACE]}


def _painted(paint: Rgba) -> Json:
    levels = [round(level / 255, 6) for level in paint.rgb]
    return {"c": {"a": 0, "k": [*levels, 1]}, "o": _still(round(100 * paint.alpha, 2))}


def _bezier(contour: Contour) -> Json:
    corners = contour.corners
    return {
        "c": contour.closed,
        "v": [_rounded([*at]) for _, at, _ in corners],
        "i": [_rounded([before[0] - at[0], before[1] - at[1]]) for before, at, _ in corners],
        "o": [_rounded([behind[0] - at[0], behind[1] - at[1]]) for _, at, behind in corners],
    }


def _pictured(png: bytes, size: tuple[float, float]) -> Json:
    code = f"data:image/png;base64,{b64encode(png).decode()}"
    return {"id": "drawing", "w": max(round(size[0]), 1), "h": max(round(size[1]), 1), "e": 1, "u": "", "p": code}


def _rounded(numbers: list[float]) -> list[float]:
    return [round(number, _DIGITS) + 0.0 for number in numbers]
