"""One color text to one color.

CSS Color 4 syntax: https://www.w3.org/TR/css-color-4/ , and `device-cmyk()` of CSS Color 5, section 11, in its naive
conversion. Colors outside sRGB are mapped as in `gamut`. Beyond the standard, `hsb()`, `hsv()` and naive `cmyk()` are
read, as people write them; what brand manuals write besides is read by `try_written`.
"""

from __future__ import annotations

import re
from functools import lru_cache
from math import isfinite

import numpy as np
import tinycss2.color4
from coloraide import Color

from pavese.core.color.gamut import to_rgb
from pavese.core.color.notations import read_device_cmyk, read_manual, read_print_letters
from pavese.core.color.srgb import ALPHA_DIGITS, Rgb, Rgba, parse_hex
from pavese.core.errors import UnreadableColorError

_LONGEST = 200
_BARE = re.compile(r"[0-9a-fA-F]{6}")
#: Names that the color library has from a draft of the standard (CSS Color 4, section 6.1, is what counts).
_CORRECTED = {"mediumpurple": "#9370db", "palevioletred": "#db7093"}
#: Where hue and chroma stand among the coordinates of a space that has them.
_HUES = {"hsl": 0, "hwb": 0, "lch": 2, "oklch": 2}
_CHROMAS = {"lch": 1, "oklch": 1, "hsl": 1}
#: Larger numbers are this one (CSS Values 4, section 5.1: a number out of range is clamped); no color gets so far.
_LARGEST = 1e6


def parse_color(text: str) -> Rgba:
    """The color a CSS Color 4 text names: hex, a name, or a color function, in any letter case; or one as brand manuals
    write it.

    Raises UnreadableColorError for anything else; `transparent` and `currentColor` are not colors here.
    """
    color = try_written(text)
    if color is None:
        manual = read_manual(text)
        if isinstance(manual, str):
            raise UnreadableColorError(f"“{text.strip()[:40]}” is not a color code: {manual}.")
        raise UnreadableColorError(f"“{text.strip()[:40]}” is not a color code.")
    return color


@lru_cache(maxsize=16384)
def try_color(text: str) -> Rgba | None:
    """Like `parse_color`, with None for a text that is no color."""
    text = text.strip()
    if text.startswith("#"):
        return parse_hex(text)
    if not text or len(text) > _LONGEST or text.lower() == "transparent":
        return None
    plain = " ".join(text.lower().split())
    written = read_print_letters(text)
    if written is not None:
        return Rgba(*written)
    if plain.startswith("device-cmyk("):
        return read_device_cmyk(plain)
    if not text.isalpha() and not _is_color(plain):
        return None
    try:
        return in_srgb(bounded(Color(_CORRECTED.get(plain, plain))))
    except ValueError:
        return None


def in_srgb(color: Color) -> Rgba:
    """A color of any space in 8-bit sRGB."""
    alpha = round(min(max(float(color.alpha(nans=False)), 0.0), 1.0), ALPHA_DIGITS)
    srgb = color.convert("srgb").coords(nans=False)
    # rgb() and its other notations are clamped beyond their range (5.1); wider ones name real colors and are mapped.
    if color.space() in ("srgb", "hsl", "hwb") or all(-1e-4 <= channel <= 1 + 1e-4 for channel in srgb):
        r, g, b = (round(min(max(channel, 0.0), 1.0) * 255) for channel in srgb)
        return Rgba(r, g, b, alpha)
    mapped = to_rgb(np.array([color.convert("oklch").coords(nans=False)]))[0]
    return Rgba(*mapped, alpha)


def try_written(text: str) -> Rgba | None:
    """A color as people write it: CSS, six digits without a #, or the numbers of a brand manual; None for any other."""
    color = try_color(text)
    if color is not None:
        return color
    if _BARE.fullmatch(text.strip()):
        return parse_hex(f"#{text.strip()}")
    manual = read_manual(text)
    return Rgba(*manual) if isinstance(manual, Rgb) else None


def _is_color(text: str) -> bool:
    """Whether a text is a color by the grammar; the library below takes more, such as missing parts."""
    try:
        return isinstance(tinycss2.color4.parse_color(text), tinycss2.color4.Color)
    except ValueError:
        # A function without anything in it.
        return False


def bounded(color: Color) -> Color:
    """The color with numbers that can be computed with: hue within a turn, no negative chroma (CSS Color 4, 7, 9)."""
    space = color.space()
    hue, chroma = _HUES.get(space), _CHROMAS.get(space)
    coordinates = color.coords(nans=False)
    if hue is None and all(abs(one) <= _LARGEST for one in coordinates):
        return color
    numbers = [min(max(one, -_LARGEST), _LARGEST) for one in coordinates]
    if hue is not None:
        numbers[hue] = coordinates[hue] % 360 if isfinite(coordinates[hue]) else 0.0
    if chroma is not None:
        numbers[chroma] = max(numbers[chroma], 0.0)
    return Color(space, numbers, color.alpha(nans=False))
