"""Between linear sRGB, OKLab and OKLCH, over whole arrays.

CSS Color 4, sections 9 and 18 (sample code): https://www.w3.org/TR/css-color-4/#color-conversion-code
The matrices are Björn Ottosson's, as recomputed there for the standard's white point.
"""

from __future__ import annotations

from collections.abc import Iterable
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from pavese.core.color.srgb import Rgb

Array = npt.NDArray[np.float64]

_RGB_TO_LMS = np.array(
    [
        [0.4122214694707629, 0.5363325372617349, 0.0514459932675022],
        [0.2119034958178251, 0.6806995506452345, 0.1073969535369405],
        [0.0883024591900564, 0.2817188391361215, 0.6299787016738222],
    ]
)
_LMS_TO_LAB = np.array(
    [
        [0.2104542683093140, 0.7936177747023054, -0.0040720430116193],
        [1.9779985324311684, -2.4285922420485799, 0.4505937096174110],
        [0.0259040424655478, 0.7827717124575296, -0.8086757549230774],
    ]
)
_LAB_TO_LMS = np.linalg.inv(_LMS_TO_LAB)
_LMS_TO_RGB = np.linalg.inv(_RGB_TO_LMS)

_POWERLESS = 4e-5

#: Weights of linear red, green and blue in relative luminance (WCAG 2.2).
LUMINANCE = np.array([0.2126, 0.7152, 0.0722])


def decode(srgb: Array) -> Array:
    """Encoded sRGB (0 to 1) to linear light."""
    return np.where(srgb <= 0.04045, srgb / 12.92, ((np.maximum(srgb, 0.0) + 0.055) / 1.055) ** 2.4)


def encode(linear: Array) -> Array:
    """Linear light to encoded sRGB (0 to 1); values outside are clipped."""
    clipped = np.clip(linear, 0.0, 1.0)
    return np.where(clipped <= 0.0031308, clipped * 12.92, 1.055 * clipped ** (1 / 2.4) - 0.055)


def linear_to_oklab(linear: Array) -> Array:
    """Linear sRGB of shape (..., 3) to OKLab (L 0 to 1, a and b about -0.4 to 0.4)."""
    return np.asarray(np.cbrt(linear @ _RGB_TO_LMS.T) @ _LMS_TO_LAB.T)


def oklab_to_linear(lab: Array) -> Array:
    """OKLab of shape (..., 3) to linear sRGB, which may lie outside 0 to 1."""
    return np.asarray((lab @ _LAB_TO_LMS.T) ** 3 @ _LMS_TO_RGB.T)


def to_oklch(lab: Array) -> Array:
    """OKLab to OKLCH: lightness 0 to 1, chroma from 0, hue in degrees 0 to 360.

    The hue of greys is only noise and is given as 0 (CSS Color 4, section 4.4, "powerless" components).
    """
    lightness, a, b = np.moveaxis(lab, -1, 0)
    chroma = np.hypot(a, b)
    hue = np.where(chroma < _POWERLESS, 0.0, np.degrees(np.arctan2(b, a)) % 360)
    return np.stack([lightness, chroma, hue], axis=-1)


def from_oklch(lch: Array) -> Array:
    """OKLCH to OKLab."""
    lightness, chroma, hue = np.moveaxis(lch, -1, 0)
    angle = np.radians(hue)
    return np.stack([lightness, chroma * np.cos(angle), chroma * np.sin(angle)], axis=-1)


def oklch_to_linear(lch: Array) -> Array:
    """OKLCH to linear sRGB, which may lie outside 0 to 1."""
    return oklab_to_linear(from_oklch(lch))


def hue_distance(a: float, b: float) -> float:
    """Degrees between two hues, 0 to 180."""
    return abs((a - b + 180) % 360 - 180)


def oklab_of(colors: Iterable[Rgb]) -> Array:
    """OKLab of 8-bit colors, shape (n, 3)."""
    return linear_to_oklab(decode(np.array([tuple(c) for c in colors], dtype=np.float64).reshape(-1, 3) / 255))


def oklch_of(colors: Iterable[Rgb]) -> Array:
    """OKLCH of 8-bit colors, shape (n, 3)."""
    return to_oklch(oklab_of(colors))


@lru_cache(maxsize=65_536)
def lch_of(color: Rgb) -> tuple[float, float, float]:
    """OKLCH of one 8-bit color; kept, since the same ones are asked for again and again."""
    lightness, chroma, hue = oklch_of([color])[0].tolist()
    return lightness, chroma, hue
