"""Quiet colors tinted from a strong one: a neutral, a near-black and a near-white at its hue.

Lightness and the chroma at full strength are our own, set so that at half strength the tint is felt and not seen.
"""

from __future__ import annotations

from enum import StrEnum

import numpy as np

from pavese.core.color.gamut import to_rgb
from pavese.core.color.oklab import lch_of
from pavese.core.color.srgb import Rgb


class Shade(StrEnum):
    """Which quiet color."""

    NEUTRAL = "neutral"
    NEAR_BLACK = "near-black"
    NEAR_WHITE = "near-white"


#: OKLCH lightness, and the chroma at full strength; so far inside the family that rounding to 8 bits stays in it.
_TONES: dict[Shade, tuple[float, float]] = {
    Shade.NEUTRAL: (0.58, 0.031),
    Shade.NEAR_BLACK: (0.225, 0.036),
    Shade.NEAR_WHITE: (0.972, 0.016),
}


def tinted(source: Rgb, shade: Shade, strength: float) -> Rgb:
    """The quiet color at the hue of `source`; strength 0 is a pure grey, 1 the strongest that is still quiet.

    A weak source lends no more chroma than it has.
    """
    _, chroma, hue = lch_of(source)
    lightness, most = _TONES[shade]
    lent = min(most * min(max(strength, 0.0), 1.0), chroma)
    return to_rgb(np.array([[lightness, lent, hue]]))[0]
