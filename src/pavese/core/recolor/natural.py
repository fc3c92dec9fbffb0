"""Natural tones: skin, hair, wood and food, which turn strange when they are sent to a brand's hues.

Recognised by range in OKLCH (lightness 0 to 1, chroma, hue in degrees). The ranges were set by looking at the tones
that illustrations use for people and things; skin reaches from very light to very dark, turning from orange towards red
as it gets darker, and what is more vivid than they allow is a color of the drawing, not a natural tone.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from pavese.core.color.oklab import oklch_of
from pavese.core.color.srgb import Rgb


class _Range(NamedTuple):
    name: str
    lightness: tuple[float, float]
    chroma: tuple[float, float]
    hue: tuple[float, float]


_RANGES = (
    _Range("skin", (0.72, 0.95), (0.03, 0.115), (28, 75)),
    _Range("skin", (0.42, 0.72), (0.025, 0.125), (10, 68)),
    _Range("skin or hair", (0.20, 0.42), (0.025, 0.055), (2, 75)),
    _Range("hair", (0.20, 0.42), (0.055, 0.085), (42, 75)),
    _Range("wood", (0.42, 0.62), (0.06, 0.115), (68, 82)),
    _Range("food", (0.80, 0.92), (0.06, 0.115), (75, 88)),
)


@lru_cache(maxsize=8192)
def natural_tone(color: Rgb) -> str | None:
    """What a color may be the natural tone of; None where it is none."""
    lightness, chroma, hue = (float(value) for value in oklch_of([color])[0])
    for name, light, strong, turn in _RANGES:
        if light[0] <= lightness <= light[1] and strong[0] <= chroma <= strong[1] and turn[0] <= hue <= turn[1]:
            return name
    return None
