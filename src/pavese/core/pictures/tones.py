"""Photographs in few tones: each pixel by its lightness alone, on the way from a dark color to a light one."""

from __future__ import annotations

import numpy as np

from pavese.core.color.oklab import decode, encode, linear_to_oklab, oklab_of, oklab_to_linear
from pavese.core.color.srgb import Rgb
from pavese.core.pictures.mixture import Levels

#: Weights of red, green and blue in luma (ITU-R BT.709, section 3).
_LUMA = np.array([0.2126, 0.7152, 0.0722])
#: Pixels that are mixed at a time.
_AT_ONCE = 400_000


def tones(colors: tuple[Rgb, ...]) -> Levels:
    """A table of 256 colors, shape (256, 3), from the first of some to the last, evenly and through all of them in
    OKLab."""
    stops = oklab_of(colors)
    at = np.linspace(0, 1, len(colors))
    way = np.stack([np.interp(np.linspace(0, 1, 256), at, stops[:, axis]) for axis in range(3)], axis=-1)
    made: Levels = np.rint(np.clip(encode(oklab_to_linear(way)), 0, 1) * 255).astype(np.uint8)
    # The ends are exactly what they are said to be.
    made[0], made[-1] = colors[0], colors[-1]
    return made


def toned(pixels: Levels, table: Levels, strength: float) -> Levels:
    """Pixels in sRGB, shape (n, 3), each as the entry of a table (256, 3) for its luma; with a strength below 1 mixed,
    in OKLab, with what it was."""
    luma = np.rint(pixels @ _LUMA).astype(np.uint8)
    made: Levels = table[luma]
    if strength >= 1:
        return made
    for start in range(0, len(pixels), _AT_ONCE):
        part = slice(start, start + _AT_ONCE)
        before, after = (linear_to_oklab(_LINEAR[one[part]]) for one in (pixels, made))
        mixed = encode(oklab_to_linear(before + strength * (after - before)))
        made[part] = np.rint(np.clip(mixed, 0, 1) * 255).astype(np.uint8)
    return made


_LINEAR = decode(np.arange(256) / 255)
