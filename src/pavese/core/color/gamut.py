"""Bringing OKLCH colors into sRGB: chroma is reduced at constant lightness and hue.

This is the one mapping used everywhere; CSS Color 4, section 13.2, describes the family of methods:
https://www.w3.org/TR/css-color-4/#gamut-mapping
"""

from __future__ import annotations

import numpy as np

from pavese.core.color.oklab import Array, encode, oklch_to_linear
from pavese.core.color.srgb import Rgb

#: How far outside 0 to 1 a linear channel may lie and still count as inside (a tenth of an 8-bit level).
_SLACK = 3e-5
_HALVINGS = 24


def max_chroma(lightness: Array, hue: Array) -> Array:
    """The largest chroma inside sRGB at each lightness (0 to 1) and hue (degrees); shapes must match."""
    low = np.zeros_like(lightness)
    high = np.full_like(lightness, 0.4)
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        inside = _inside(np.stack([lightness, middle, hue], axis=-1))
        low = np.where(inside, middle, low)
        high = np.where(inside, high, middle)
    return low


def fit(lch: Array) -> Array:
    """The same colors with chroma reduced to what sRGB holds; shape (..., 3) in and out."""
    lightness, chroma, hue = np.moveaxis(np.array(lch, dtype=np.float64), -1, 0)
    lightness = np.clip(lightness, 0.0, 1.0)
    outside = ~_inside(np.stack([lightness, chroma, hue], axis=-1))
    if np.any(outside):
        chroma = np.where(outside, np.minimum(chroma, max_chroma(lightness, hue)), chroma)
    return np.stack([lightness, chroma, hue], axis=-1)


def to_rgb(lch: Array) -> list[Rgb]:
    """OKLCH of shape (n, 3) as 8-bit colors, fitted and rounded."""
    levels = np.rint(encode(oklch_to_linear(fit(lch))) * 255).astype(int)
    return [Rgb(int(r), int(g), int(b)) for r, g, b in levels.reshape(-1, 3)]


def _inside(lch: Array) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
    linear = oklch_to_linear(lch)
    return np.asarray(np.all((linear >= -_SLACK) & (linear <= 1 + _SLACK), axis=-1))
