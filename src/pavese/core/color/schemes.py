"""Color schemes on a wheel: a base, and partners at fixed angles from it.

Two wheels: the perceptual one is the hue circle of OKLCH; on the painters' one red, yellow and blue stand a third of
a turn apart, as in the pigment circles that art teaching has used since the 18th century, so that red faces green.
The anchors between the two are our own, set by looking at swatches of OKLCH hues beside the pigments' names.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

import numpy as np

from pavese.core.color.gamut import fit, max_chroma, to_rgb
from pavese.core.color.oklab import Array, encode, lch_of, oklch_to_linear
from pavese.core.color.srgb import Rgb
from pavese.core.color.variations import Direction, variations

#: The chroma at the rim of the drawn wheel; sRGB reaches 0.323 (magenta).
RIM = 0.33


#: The most chroma that partners have, in multiples of the base's.
MOST_CHROMA = 2.0


class Wheel(StrEnum):
    """Which circle the angles are measured on."""

    PERCEPTUAL = "perceptual"
    PAINTERS = "painters"


# Painters' angle (red, red-orange, orange, … red-violet) and the OKLCH hue that stands there, a turn and back to red.
_PAINTERS = np.arange(0.0, 361.0, 30.0)
_PERCEPTUAL = np.array([25.0, 42.0, 60.0, 80.0, 105.0, 128.0, 150.0, 200.0, 258.0, 285.0, 310.0, 345.0, 385.0])


@dataclass(frozen=True)
class Rule:
    """A scheme: the angle of each partner, made of a fixed part and a share of the spread (degrees).

    In a rule without partners at an angle (`monochrome`) the spread moves lightness instead, a hundredth a degree.
    """

    name: str
    fixed: tuple[float, ...]
    share: tuple[float, ...]
    spread: float
    most: float
    by_lightness: bool = False


RULES: dict[str, Rule] = {
    rule.name: rule
    for rule in (
        Rule("complementary", (180,), (0,), 0, 0),
        Rule("split complementary", (180, 180), (-1, 1), 30, 75),
        Rule("analogous", (0, 0), (-1, 1), 30, 75),
        Rule("triad", (120, 240), (0, 0), 0, 0),
        Rule("square", (90, 180, 270), (0, 0, 0), 0, 0),
        Rule("tetrad", (0, 180, 180), (1, 0, 1), 60, 85),
        Rule("monochrome", (0, 0, 0, 0), (-2, -1, 1, 2), 12, 20, by_lightness=True),
    )
}


@dataclass(frozen=True)
class Point:
    """A color on the wheel as it is wanted (lightness 0 to 1, chroma from 0, hue in OKLCH degrees), in sRGB or not."""

    lightness: float
    chroma: float
    hue: float

    @classmethod
    def of(cls, color: Rgb) -> Point:
        """The point of an 8-bit color."""
        return cls(*lch_of(color))

    @property
    def lch(self) -> tuple[float, float, float]:
        """Lightness, chroma, hue."""
        return self.lightness, self.chroma, self.hue

    def place(self, wheel: Wheel) -> tuple[float, float]:
        """Where it stands on a disc of radius 1, y upwards, angle 0 at the right."""
        angle = np.radians(to_wheel(self.hue, wheel))
        radius = min(self.chroma / RIM, 1.0)
        return float(radius * np.cos(angle)), float(radius * np.sin(angle))


def to_wheel(hue: float, wheel: Wheel) -> float:
    """The angle (degrees, 0 to 360) at which an OKLCH hue stands on a wheel."""
    if wheel is Wheel.PERCEPTUAL:
        return hue % 360
    return float(np.interp((hue - _PERCEPTUAL[0]) % 360 + _PERCEPTUAL[0], _PERCEPTUAL, _PAINTERS)) % 360


def from_wheel(angle: float, wheel: Wheel) -> float:
    """The OKLCH hue (degrees, 0 to 360) at an angle of a wheel; the inverse of `to_wheel`."""
    if wheel is Wheel.PERCEPTUAL:
        return angle % 360
    return float(np.interp(angle % 360, _PAINTERS, _PERCEPTUAL)) % 360


def points(
    base: Point, rule: Rule, wheel: Wheel, spread: float, lightness: float = 0, chroma: float = 1
) -> list[Point]:
    """The base and its partners; partners are `lightness` lighter and have `chroma` times the base's chroma."""
    angle = to_wheel(base.hue, wheel)
    found = [base]
    for turn, tone in _offsets(rule, spread):
        hue = from_wheel(angle + turn, wheel) if turn else base.hue
        level = min(max(base.lightness + tone + lightness, 0.0), 1.0)
        found.append(Point(level, base.chroma * chroma, hue))
    return found


def base_for(
    moved: Point, index: int, base: Point, rule: Rule, wheel: Wheel, spread: float, chroma: float = 1
) -> Point:
    """The base whose partner `index` has the hue and chroma of `moved`: dragging a partner with the rule holding."""
    if index == 0:
        return moved
    turn, _ = _offsets(rule, spread)[index - 1]
    hue = from_wheel(to_wheel(moved.hue, wheel) - turn, wheel) if turn else moved.hue
    return replace(base, hue=hue, chroma=moved.chroma / chroma if chroma else base.chroma)


def beside(moved: Point, index: int, base: Point, rule: Rule, wheel: Wheel, spread: float) -> tuple[float, float]:
    """The spread, and the chroma of partners in multiples of the base's, that bring partner `index` nearest to `moved`
    while the base stays: dragging a partner of a base that is locked."""
    share = 0.0 if rule.by_lightness else rule.share[index - 1]
    if share:
        away = to_wheel(moved.hue, wheel) - to_wheel(base.hue, wheel) - rule.fixed[index - 1]
        spread = min(max(((away + 180) % 360 - 180) / share, 0.0), rule.most)
    return spread, min(moved.chroma / base.chroma, MOST_CHROMA) if base.chroma else 1.0


def tuned(found: Sequence[Point], each_way: int) -> dict[Direction, dict[int, list[Point]]]:
    """All points moved by up to so many steps in each direction (negative: the other way), each on its own; what cannot
    go on stays. Steps at which no point moves are left out."""
    around = [variations(to_rgb(fit(np.array([point.lch])))[0], each_way) for point in found]

    def moved(direction: Direction, by: int) -> Iterator[Point]:
        for point, rows in zip(found, around, strict=True):
            row, base = rows[direction]
            place = min(max(base + by, 0), len(row) - 1)
            yield point if place == base else Point.of(row[place])

    steps = [by for by in range(-each_way, each_way + 1) if by]
    made = {direction: {by: list(moved(direction, by)) for by in steps} for direction in Direction}
    return {
        direction: {by: points for by, points in row.items() if points != list(found)}
        for direction, row in made.items()
    }


def in_gamut(wanted: Sequence[Point]) -> list[tuple[Rgb, bool]]:
    """Each point as a color of sRGB, and whether its chroma had to be reduced for that."""
    lch = np.array([point.lch for point in wanted], dtype=np.float64).reshape(-1, 3)
    fitted = fit(lch)
    reduced = fitted[:, 1] < lch[:, 1] - 1e-3
    return [(color, bool(less)) for color, less in zip(to_rgb(fitted), reduced, strict=True)]


def at(x: float, y: float, lightness: float, wheel: Wheel) -> Point:
    """The point at a place on the disc; places beyond the rim are drawn back to it."""
    radius = min(float(np.hypot(x, y)), 1.0)
    angle = float(np.degrees(np.arctan2(y, x)))
    return Point(lightness, radius * RIM, from_wheel(angle, wheel))


def limits(lightness: float, wheel: Wheel, count: int = 360) -> list[tuple[float, float]]:
    """The edge of sRGB at a lightness, as places on the disc, once around."""
    angles = np.linspace(0.0, 360.0, count, endpoint=False)
    hues = np.array([from_wheel(float(angle), wheel) for angle in angles])
    radius = max_chroma(np.full(count, lightness), hues) / RIM
    turned = np.radians(angles)
    return [(float(x), float(y)) for x, y in zip(radius * np.cos(turned), radius * np.sin(turned), strict=True)]


def disc(lightness: float, wheel: Wheel, side: int) -> np.ndarray[tuple[int, ...], np.dtype[np.uint8]]:
    """The colors of a wheel at one lightness, shape (side, side, 4); transparent where sRGB has none."""
    axis = (np.arange(side) + 0.5) / side * 2 - 1
    x, y = np.meshgrid(axis, -axis)
    hue = np.degrees(np.arctan2(y, x)) % 360
    if wheel is Wheel.PAINTERS:
        hue = np.interp(hue, _PAINTERS, _PERCEPTUAL) % 360
    lch: Array = np.stack([np.full_like(x, lightness), np.hypot(x, y) * RIM, hue], axis=-1)
    linear = oklch_to_linear(lch)
    inside = np.all((linear >= -1e-3) & (linear <= 1 + 1e-3), axis=-1)
    levels = np.rint(encode(linear) * 255).astype(np.uint8)
    return np.concatenate([levels, np.where(inside, 255, 0).astype(np.uint8)[..., None]], axis=-1)


def _offsets(rule: Rule, spread: float) -> list[tuple[float, float]]:
    """Turn in degrees of the wheel and change of lightness, of each partner."""
    spread = min(max(spread, 0.0), rule.most) if rule.most else 0.0
    if rule.by_lightness:
        return [(0.0, share * spread / 100) for share in rule.share]
    return [(fixed + share * spread, 0.0) for fixed, share in zip(rule.fixed, rule.share, strict=True)]
