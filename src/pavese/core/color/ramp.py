"""A ramp: eleven steps of one color whose contrast against white is the same in every ramp of a kit.

Step *i* (0 to 10) aims at a ratio of `1.125 * 16.4 ** (i / 10)` against white (design, section 5). Then, across
ramps, steps 4 apart reach 3:1, 6 apart 4.5:1, 7 apart 7:1, and white on 500 or darker 4.5:1. The base color
stands unchanged at the step nearest in luminance, and single steps can be pinned to given colors; what that breaks
is listed.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from itertools import product

import numpy as np

from pavese.core.color.contrast import WHITE, contrast_ratio, luminance
from pavese.core.color.gamut import max_chroma, to_rgb
from pavese.core.color.oklab import LUMINANCE, Array, lch_of, oklch_to_linear
from pavese.core.color.srgb import LINEAR, Rgb

STEPS: tuple[int, ...] = (50, 100, 200, 300, 400, 500, 600, 700, 800, 900, 950)

#: Ratio between the last step of a ramp and the first, and how many steps apart two colors are by the logarithm of
#: the ratio between them.
_SPAN = 16.4
STEPS_OF_LOG: float = 10 / float(np.log(_SPAN))

#: Contrast against white that each step aims at.
AIMS: tuple[float, ...] = tuple(1.125 * _SPAN ** (i / 10) for i in range(len(STEPS)))

#: Steps this far apart promise this ratio, within a ramp and across ramps.
PROMISES: tuple[tuple[int, float], ...] = ((4, 3.0), (6, 4.5), (7, 7.0))

_HALVINGS = 22
_WITHIN_GAMUT = 0.98
_GRID = np.linspace(0.0, 1.0, 129)

#: Relative error of (luminance + 0.05) that the promises bear: 7 apart gives 7.08, so each end may be 0.5 % off.
_CLOSE = 0.004


@dataclass(frozen=True)
class Break:
    """Two steps of one ramp that miss their promise because the base, or a pinned color, stands at one of them."""

    light: int
    dark: int
    ratio: float
    promised: float


@dataclass(frozen=True)
class Ramp:
    """`colors[i]` is the color of `STEPS[i]`; the base stands at `STEPS[base_index]`; `pinned` steps were given."""

    colors: tuple[Rgb, ...]
    base_index: int
    pinned: frozenset[int] = frozenset()

    @property
    def base_step(self) -> int:
        """The step at which the base stands, 50 to 950."""
        return STEPS[self.base_index]

    def at(self, step: int) -> Rgb:
        """The color of a step from `STEPS`. Raises ValueError for any other number."""
        return self.colors[STEPS.index(step)]

    def with_pins(self, pins: Mapping[int, Rgb]) -> Ramp:
        """The ramp with steps pinned to colors; the base's own step cannot be pinned and stays."""
        given = {step: color for step, color in pins.items() if step != self.base_step}
        colors = tuple(given.get(step, color) for step, color in zip(STEPS, self.colors, strict=True))
        return Ramp(colors, self.base_index, frozenset(given))

    def dark_text_until(self, ink: Rgb, ratio: float = 4.5) -> int | None:
        """The darkest step on which the ink still reaches the ratio, with every lighter step reaching it too."""
        return self._reach(ink, ratio, range(len(STEPS)))

    def light_text_from(self, ink: Rgb, ratio: float = 4.5) -> int | None:
        """The lightest step on which the ink reaches the ratio, with every darker step reaching it too."""
        return self._reach(ink, ratio, range(len(STEPS) - 1, -1, -1))

    def breaks(self) -> tuple[Break, ...]:
        """The promises between two of its own steps that the luminance of the base or of a pinned step breaks."""
        found = []
        for apart, promised in PROMISES:
            for i in range(len(STEPS) - apart):
                ratio = contrast_ratio(self.colors[i], self.colors[i + apart])
                if ratio < promised:
                    found.append(Break(STEPS[i], STEPS[i + apart], ratio, promised))
        return tuple(found)

    def _reach(self, ink: Rgb, ratio: float, order: range) -> int | None:
        last = None
        for i in order:
            if contrast_ratio(ink, self.colors[i]) < ratio:
                break
            last = STEPS[i]
        return last


def step_position(color: Rgb) -> float:
    """Where a color stands on the scale of steps by its luminance: 0.0 is step 50, 10.0 is step 950.

    Lighter than step 50 is negative (white is about -0.4), darker than 950 above 10 (black is about 10.5).
    """
    return STEPS_OF_LOG * float(np.log(contrast_ratio(WHITE, color) / AIMS[0]))


@lru_cache(maxsize=4096)
def ramp(base: Rgb) -> Ramp:
    """The ramp of a base color; the same base always gives the same ramp."""
    course = _Course.of(base)
    targets = 1.05 / np.array(AIMS) - 0.05
    rough = to_rgb(course.at(_solve_lightness(targets, course)))
    colors = [_settle(color, target) for color, target in zip(rough, targets.tolist(), strict=True)]
    index = min(max(round(step_position(base)), 0), len(STEPS) - 1)
    colors[index] = base
    return Ramp(tuple(colors), index)


@dataclass(frozen=True)
class _Course:
    """How the chroma of a ramp runs over lightness, at the hue of its base."""

    lightness: float
    chroma: float
    hue: float
    limits: Array

    @classmethod
    def of(cls, base: Rgb) -> _Course:
        lightness, chroma, hue = lch_of(base)
        return cls(lightness, chroma, hue, max_chroma(_GRID, np.full_like(_GRID, hue)))

    def at(self, lightness: Array) -> Array:
        """OKLCH at lightnesses of shape (n,): the base's chroma, tapered towards the ends, inside the gamut.

        Towards white three quarters of the base's chroma are given up, towards black a third: light tints
        with full chroma look neon beside each other, while dark shades are bounded by the gamut anyway.
        """
        up = np.clip((lightness - self.lightness) / max(1 - self.lightness, 1e-6), 0, 1)
        down = np.clip((self.lightness - lightness) / max(self.lightness, 1e-6), 0, 1)
        tapered = self.chroma * (1 - 0.75 * up**1.6) * (1 - 0.35 * down**2)
        chroma = np.minimum(tapered, _WITHIN_GAMUT * np.interp(lightness, _GRID, self.limits))
        return np.stack([lightness, chroma, np.full_like(lightness, self.hue)], axis=-1)


def _solve_lightness(targets: Array, course: _Course) -> Array:
    """OKLCH lightness of each step, so that its relative luminance is the target."""
    low, high = np.zeros_like(targets), np.ones_like(targets)
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        too_light = oklch_to_linear(course.at(middle)) @ LUMINANCE > targets
        high = np.where(too_light, middle, high)
        low = np.where(too_light, low, middle)
    return (low + high) / 2


def _settle(color: Rgb, target: float) -> Rgb:
    """An 8-bit neighbor of a color whose luminance is the target's within `_CLOSE`, moved as little as possible.

    Rounding alone would break promises in the dark steps, where one level is a tenth of the contrast's margin.
    """

    def badness(candidate: Rgb) -> tuple[float, int]:
        error = abs(luminance(candidate) - target) / (target + 0.05)
        moved = sum(abs(a - b) for a, b in zip(candidate, color, strict=True))
        return max(error, _CLOSE), moved

    around = [range(max(channel - 1, 0), min(channel + 1, len(LINEAR) - 1) + 1) for channel in color]
    return min((Rgb(*channels) for channels in product(*around)), key=badness)
