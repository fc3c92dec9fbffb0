"""Contrast between two opaque sRGB colors, and the level it reaches.

WCAG 2.2, "relative luminance" and "contrast ratio": https://www.w3.org/TR/WCAG22/#dfn-contrast-ratio
Levels: success criteria 1.4.3 (text 4.5, large text 3), 1.4.6 (text 7), 1.4.11 (graphical objects 3).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from enum import StrEnum

import numpy as np

from pavese.core.color.oklab import Array
from pavese.core.color.srgb import LINEAR, Rgb, Rgba

TEXT = 4.5
LARGE = 3.0
ENHANCED = 7.0
#: What is below does not read at any size. No level of a standard: a level is what it is not to lose.
FAINT = 2.0

WHITE = Rgb(255, 255, 255)
BLACK = Rgb(0, 0, 0)


class Level(StrEnum):
    """The best use a ratio allows, strongest first."""

    AAA = "AAA"
    AA = "AA"
    LARGE = "large"
    NONE = "none"


def luminance(color: Rgb) -> float:
    """Relative luminance from 0 (black) to 1 (white)."""
    return 0.2126 * LINEAR[color.r] + 0.7152 * LINEAR[color.g] + 0.0722 * LINEAR[color.b]


def contrast_ratio(a: Rgb, b: Rgb) -> float:
    """Ratio from 1 to 21, unrounded; the order of the two does not matter.

    >>> contrast_ratio(Rgb(255, 255, 255), Rgb(0, 0, 0))
    21.0
    """
    darker, lighter = sorted((luminance(a), luminance(b)))
    return (lighter + 0.05) / (darker + 0.05)


def seen_contrast(ink: Rgb, shows: float, ground: Rgb) -> float:
    """The ratio of an ink to an opaque ground that is seen through it, where `shows` (0 to 1) is what hides that."""
    return contrast_ratio(ink if shows >= 1 else Rgba(*ink, shows).over(ground), ground)


def contrast_table(rows: Sequence[Rgb], columns: Sequence[Rgb]) -> Array:
    """The unrounded ratios, shape (len(rows), len(columns)); the same numbers as `contrast_ratio`."""
    a = np.array([luminance(color) for color in rows])[:, None] + 0.05
    b = np.array([luminance(color) for color in columns])[None, :] + 0.05
    return np.asarray(np.maximum(a, b) / np.minimum(a, b))


def level(ratio: float) -> Level:
    """The level an unrounded ratio reaches: AAA and AA for body text, large for large text and graphics."""
    if ratio >= ENHANCED:
        return Level.AAA
    if ratio >= TEXT:
        return Level.AA
    return Level.LARGE if ratio >= LARGE else Level.NONE


def shown(ratio: float) -> str:
    """The ratio cut to two decimals, so that 4.499 never reads 4.5.

    >>> shown(4.499)
    '4.49'
    """
    return f"{math.floor(ratio * 100) / 100:.2f}"


def readable_ink(ground: Rgb) -> Rgb:
    """White or black, whichever reads better on the ground."""
    return max((WHITE, BLACK), key=lambda ink: contrast_ratio(ink, ground))
