"""One color text to one color.

CSS Color 4 syntax: https://www.w3.org/TR/css-color-4/ . Colors outside sRGB are mapped as in `gamut`. Beyond the
standard, `hsb()`, `hsv()` and naive `cmyk()` are read, as people write them.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from coloraide import Color

from pavese.core.color.gamut import to_rgb
from pavese.core.color.notations import read_print_letters
from pavese.core.color.srgb import ALPHA_DIGITS, Rgba, parse_hex
from pavese.core.errors import UnreadableColorError

_LONGEST = 200


def parse_color(text: str) -> Rgba:
    """The color a CSS Color 4 text names: hex, a name, or a color function, in any letter case.

    Raises UnreadableColorError for anything else; `transparent` and `currentColor` are not colors here.
    """
    color = try_color(text)
    if color is None:
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
    written = read_print_letters(text)
    if written is not None:
        return Rgba(*written)
    try:
        color = Color(" ".join(text.lower().split()))
    except ValueError:
        return None
    alpha = round(min(max(float(color.alpha(nans=False)), 0.0), 1.0), ALPHA_DIGITS)
    srgb = color.convert("srgb").coords(nans=False)
    # rgb() beyond its range is clamped (section 5.1); wider notations name real colors and are mapped.
    if color.space() == "srgb" or all(-1e-4 <= channel <= 1 + 1e-4 for channel in srgb):
        r, g, b = (round(min(max(channel, 0.0), 1.0) * 255) for channel in srgb)
        return Rgba(r, g, b, alpha)
    mapped = to_rgb(np.array([color.convert("oklch").coords(nans=False)]))[0]
    return Rgba(*mapped, alpha)
