"""Tone families: colors that go together because they share lightness and strength, whatever their hue.

A family is a range of OKLCH lightness and a range of chroma. Where sRGB cannot hold a range's least chroma at a hue (a
deep blue-green, say), being near the edge of sRGB there is enough. How the ranges were set is in
docs/decisions/0007-tone-families.md.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from pavese.core.color.gamut import max_chroma, to_rgb
from pavese.core.color.oklab import Array, lch_of, oklch_of
from pavese.core.color.srgb import Rgb


class HueFamily(StrEnum):
    """The families, in the order in which a color is tried for them."""

    NEAR_BLACK = "near-black"
    NEAR_WHITE = "near-white"
    NEUTRAL = "neutral"
    FLUORESCENT = "fluorescent"
    JEWEL = "jewel"
    PASTEL = "pastel"
    EARTH = "earth"


@dataclass(frozen=True)
class Range:
    """Least and most lightness (0 to 1) and chroma.

    Where `edge` of sRGB's own limit is below the least chroma, that is enough, but never less than `floor`.
    """

    lightness: tuple[float, float]
    chroma: tuple[float, float]
    edge: float = 1.0
    floor: float = 0.0

    def least(self, limit: Array) -> Array:
        """The least chroma where sRGB's limit is `limit`."""
        return np.maximum(np.minimum(self.chroma[0], self.edge * limit), self.floor)


RANGES: dict[HueFamily, Range] = {
    HueFamily.NEAR_BLACK: Range((0.0, 0.27), (0.0, 0.045)),
    HueFamily.NEAR_WHITE: Range((0.95, 1.0), (0.0, 0.025)),
    HueFamily.NEUTRAL: Range((0.27, 0.95), (0.0, 0.035)),
    HueFamily.FLUORESCENT: Range((0.70, 0.93), (0.18, 0.4), edge=0.93, floor=0.13),
    HueFamily.JEWEL: Range((0.30, 0.62), (0.105, 0.4), edge=0.72, floor=0.04),
    HueFamily.PASTEL: Range((0.80, 0.95), (0.035, 0.105)),
    HueFamily.EARTH: Range((0.30, 0.72), (0.035, 0.10)),
}
#: Families whose colors have a hue; a grey cannot be pulled into one, having none.
COLORFUL = frozenset((HueFamily.FLUORESCENT, HueFamily.JEWEL, HueFamily.PASTEL, HueFamily.EARTH))

_GREY = 0.004
#: How far inside a range a pulled color is set, so that rounding to 8 bits does not carry it out again.
_INSET = 0.004


def family_of(color: Rgb) -> HueFamily | None:
    """The family a color is in; None between the families."""
    return families_of([color])[0]


def families_of(colors: Sequence[Rgb]) -> list[HueFamily | None]:
    """The family of each color."""
    if not colors:
        return []
    lightness, chroma, hue = np.moveaxis(oklch_of(colors), -1, 0)
    limit = max_chroma(lightness, hue)
    found: list[HueFamily | None] = [None] * len(colors)
    for family, wanted in reversed(RANGES.items()):
        inside = (wanted.lightness[0] <= lightness) & (lightness <= wanted.lightness[1])
        inside &= (wanted.least(limit) <= chroma) & (chroma <= wanted.chroma[1])
        for i in np.flatnonzero(inside):
            found[i] = family
    return found


def pull(color: Rgb, family: HueFamily) -> Rgb | None:
    """The nearest color of the family at the same hue; None for a grey and a family that needs a hue.

    A color that is in the family already is given back unchanged.
    """
    if family_of(color) is family:
        return color
    lightness, chroma, hue = lch_of(color)
    if chroma < _GREY and family in COLORFUL:
        return None
    wanted = RANGES[family]
    grid = np.linspace(wanted.lightness[0] + _INSET, wanted.lightness[1] - _INSET, 61)
    edge = max_chroma(grid, np.full_like(grid, hue))
    least = wanted.least(edge) + (_INSET if family in COLORFUL else 0.0)
    most = np.minimum(wanted.chroma[1] - _INSET, edge)
    reached = np.clip(chroma, np.minimum(least, most), most)
    # Among the lightnesses of the family the nearest one, counting a loss of chroma as much as a change of lightness.
    cost = np.abs(grid - lightness) + np.abs(reached - chroma) + np.where(least > most, 10.0, 0.0)
    tried = to_rgb(np.stack([grid, reached, np.full_like(grid, hue)], axis=-1))
    inside = families_of(tried)
    return next((tried[i] for i in np.argsort(cost, kind="stable") if inside[i] is family), None)


def outliers(colors: Sequence[Rgb]) -> tuple[HueFamily | None, list[int]]:
    """The family most of the colorful colors are in, and the indexes of the colorful ones that are not in it.

    There is no such family when fewer than two colors share one.
    """
    found = families_of(colors)
    chroma = oklch_of(colors)[:, 1] if colors else np.zeros(0)
    counts = {family: found.count(family) for family in HueFamily if family in COLORFUL}
    most = max(counts, key=lambda family: counts[family])
    if counts[most] < 2:
        return None, []
    quiet = (HueFamily.NEAR_BLACK, HueFamily.NEAR_WHITE, HueFamily.NEUTRAL)
    return most, [
        i
        for i, family in enumerate(found)
        if family is not most and family not in quiet and chroma[i] >= RANGES[HueFamily.NEUTRAL].chroma[1]
    ]


def same_tone(color: Rgb, count: int = 12) -> list[tuple[Rgb, bool]]:
    """Colors around the circle of hues with the lightness and chroma of this one, itself first.

    With each: whether sRGB holds it at that chroma; where not, its chroma is as near as sRGB allows.
    """
    lightness, chroma, hue = lch_of(color)
    hues = (hue + np.arange(count) * 360 / count) % 360
    reach = max_chroma(np.full(count, lightness), hues)
    lch = np.stack([np.full(count, lightness), np.minimum(reach, chroma), hues], axis=-1)
    held = [bool(enough) for enough in reach >= chroma - 1e-3]
    return [(color, True), *zip(to_rgb(lch)[1:], held[1:], strict=True)]
