"""The levels of contrast that paints which touch are to keep."""

from __future__ import annotations

from pavese.core.color.contrast import ENHANCED, LARGE, TEXT, contrast_ratio
from pavese.core.color.srgb import Rgb


def needed_ratio(first: Rgb, second: Rgb, text: bool) -> float:
    """The ratio that two colors which touch are to keep: the level they reach for graphics, or for text."""
    ratio = contrast_ratio(first, second)
    levels = (ENHANCED, TEXT, LARGE) if text else (LARGE,)
    return next((level for level in levels if ratio >= level), 1.0)
