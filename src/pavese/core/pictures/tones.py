"""Photographs in few tones: each pixel by its lightness alone, on the way from a dark color to a light one."""

from __future__ import annotations

import numpy as np

from pavese.core.color.oklab import Array, decode, encode, linear_to_oklab, oklab_of, oklab_to_linear, to_oklch
from pavese.core.color.srgb import Rgb
from pavese.core.pictures.mixture import Levels

#: Weights of red, green and blue in luma (ITU-R BT.709, section 3), in parts of 2 to the 20th.
_PART = 20
_LUMA = np.rint(np.array([0.2126, 0.7152, 0.0722]) * (1 << _PART)).astype(np.uint32)
#: What skin has in OKLCH, from pale to dark, with shades and lights on it: hue in degrees, chroma, lightness; each from
#: where it begins, is wholly so, no longer is, and ends. Swatches in the tests hold it.
_SKIN_HUES = (22.0, 32.0, 72.0, 82.0)
_SKIN_CHROMAS = (0.015, 0.035, 0.13, 0.16)
_SKIN_LIGHTS = (0.2, 0.3, 0.93, 0.98)
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


def between(table: Levels, low: float, high: float) -> Levels:
    """A table whose first color holds up to one lightness, of 1, and its last from another on."""
    if (low, high) == (0, 1):
        return table
    at = np.clip((np.linspace(0, 1, 256) - low) / (high - low), 0, 1)
    made: Levels = table[np.rint(at * 255).astype(np.intp)]
    return made


def with_skin(pixels: Levels, made: Levels) -> Levels:
    """Toned pixels, shape (n, 3), with colors such as skin has as they were, and others near them in part."""
    kept = made.copy()
    for start in range(0, len(pixels), _AT_ONCE):
        part = slice(start, start + _AT_ONCE)
        before, after = (linear_to_oklab(_LINEAR[one[part]]) for one in (pixels, made))
        lightness, chroma, hue = np.moveaxis(to_oklch(before), -1, 0)
        much = _within(hue, _SKIN_HUES) * _within(chroma, _SKIN_CHROMAS) * _within(lightness, _SKIN_LIGHTS)
        mixed = encode(oklab_to_linear(after + much[:, None] * (before - after)))
        kept[part] = np.where((much > 0)[:, None], np.rint(np.clip(mixed, 0, 1) * 255).astype(np.uint8), made[part])
        whole = much == 1
        kept[part][whole] = pixels[part][whole]
    return kept


def _within(values: Array, span: tuple[float, float, float, float]) -> Array:
    """1 between the two inner bounds, 0 beyond the outer ones, and evenly between."""
    return np.interp(values, span, (0.0, 1.0, 1.0, 0.0))


def toned(pixels: Levels, table: Levels, strength: float) -> Levels:
    """Pixels in sRGB, shape (n, 3), each as the entry of a table (256, 3) for its luma; with a strength below 1 mixed,
    in OKLab, with what it was."""
    made = table.take(_luma(pixels), axis=0)
    if strength >= 1:
        return made
    for start in range(0, len(pixels), _AT_ONCE):
        part = slice(start, start + _AT_ONCE)
        before, after = (linear_to_oklab(_LINEAR[one[part]]) for one in (pixels, made))
        mixed = encode(oklab_to_linear(before + strength * (after - before)))
        made[part] = np.rint(np.clip(mixed, 0, 1) * 255).astype(np.uint8)
    return made


def _luma(pixels: Levels) -> Levels:
    """The luma of pixels, shape (n, 3), as levels, rounded."""
    sums = np.full(len(pixels), 1 << (_PART - 1), dtype=np.uint32)
    for channel, weight in enumerate(_LUMA):
        sums += pixels[:, channel] * weight
    return np.asarray(sums >> _PART, dtype=np.uint8)


_LINEAR = decode(np.arange(256) / 255)
