"""Colors around one color, in three directions at once: lighter or darker, stronger or softer, warmer or cooler.

Neighbors are the same distance apart in OKLab, so the steps look even; what sRGB cannot hold ends the row.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from enum import StrEnum
from itertools import takewhile

import numpy as np

from pavese.core.color.gamut import fit, to_rgb
from pavese.core.color.oklab import lch_of
from pavese.core.color.srgb import Rgb

#: Distance between neighbors in OKLab: clearly seen side by side, still the same family three steps on.
STEP = 0.035
#: The warmest hue in OKLCH degrees; the coolest lies opposite.
_WARMEST = 55.0
#: Greys have no hue to turn; below this chroma a turn would be all noise.
_HUELESS = 0.01
#: How much chroma a change of lightness or warmth may cost on the way into sRGB: red may get lighter as it pales.
_LEFT = {"darker to lighter": 0.35, "cooler to warmer": 0.7, "softer to stronger": 0.97}


_Lch = tuple[float, float, float]


class Direction(StrEnum):
    """What a row of variations changes, from its first to its last color."""

    LIGHTNESS = "darker to lighter"
    CHROMA = "softer to stronger"
    WARMTH = "cooler to warmer"


def variations(base: Rgb, each_way: int = 3) -> dict[Direction, tuple[list[Rgb], int]]:
    """For each direction a row of different colors and the index of the base in it; at most 2 x each_way + 1."""
    lightness, chroma, hue = lch_of(base)
    # A chord of STEP on the circle of this chroma; very soft colors turn no more than an eighth of it at a time.
    turn = math.degrees(2 * math.asin(min(STEP / (2 * chroma), math.sin(math.pi / 8)))) if chroma > _HUELESS else 0.0
    from_warm = (hue - _WARMEST + 180) % 360 - 180

    def wanted(direction: Direction, n: int) -> _Lch | None:
        match direction:
            case Direction.LIGHTNESS:
                moved = lightness + n * STEP
                return (moved, chroma, hue) if 0 <= moved <= 1 else None
            case Direction.CHROMA:
                stronger = chroma + n * STEP / 2
                return (lightness, stronger, hue) if stronger >= 0 else None
            case Direction.WARMTH:
                # Beyond the warmest hue it would get cooler again, and beyond the coolest warmer.
                away = abs(from_warm) - n * turn
                return (lightness, chroma, _WARMEST + math.copysign(away, from_warm)) if 0 <= away <= 180 else None

    steps = range(1, each_way + 1)
    rows = {}
    for direction in Direction:
        below, above = (
            _reached([wanted(direction, sign * n) for n in steps], base, _LEFT[direction.value]) for sign in (-1, 1)
        )
        above = [color for color in above if color not in below]
        rows[direction] = [*reversed(below), base, *above], len(below)
    return rows


def _reached(wanted: Sequence[_Lch | None], base: Rgb, left: float) -> list[Rgb]:
    """The colors in order until the first that there is not, or that sRGB cannot hold; no color twice."""
    there = list(takewhile(lambda lch: lch is not None, wanted))
    if not there:
        return []
    aims = np.array(there, dtype=np.float64)
    fitted = fit(aims)
    found: list[Rgb] = []
    for color, aim, got in zip(to_rgb(fitted), aims, fitted, strict=True):
        if got[1] < left * aim[1]:
            break
        if color != base and color not in found:
            found.append(color)
    return found
