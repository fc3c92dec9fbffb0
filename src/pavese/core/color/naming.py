"""A plain name for a color in words anyone uses: "deep blue-green", "pale grey".

The regions of OKLCH below are our own, set by looking at swatches of each; they name, they do not judge.
"""

from __future__ import annotations

from pavese.core.color.oklab import oklch_of
from pavese.core.color.srgb import Rgb

#: Upper bound of each hue region in OKLCH degrees, and its word.
_HUES: tuple[tuple[float, str], ...] = (
    (15, "rose"),
    (38, "red"),
    (62, "orange"),
    (84, "amber"),
    (112, "yellow"),
    (130, "yellow-green"),
    (155, "green"),
    (178, "sea-green"),
    (220, "blue-green"),
    (250, "sky-blue"),
    (275, "blue"),
    (292, "indigo"),
    (315, "violet"),
    (340, "purple"),
    (360, "rose"),
)
_LIGHTNESS: tuple[tuple[float, str], ...] = (
    (0.30, "very dark"),
    (0.47, "deep"),
    (0.60, "strong"),
    (0.74, "mid"),
    (0.87, "light"),
    (1.01, "pale"),
)
_GREY = 0.018
_MUTED = 0.055


def hue_word(hue: float) -> str:
    """The word for a hue in OKLCH degrees, 0 to 360."""
    return next(word for bound, word in _HUES if hue <= bound)


def describe(color: Rgb) -> str:
    """Two or three plain words, lower case; the same color always gets the same words."""
    lightness, chroma, hue = (float(v) for v in oklch_of([color])[0])
    if chroma < _GREY and lightness > 0.955:
        return "near-white" if color != Rgb(255, 255, 255) else "white"
    if chroma < _GREY and lightness < 0.2:
        return "near-black" if color != Rgb(0, 0, 0) else "black"
    depth = next(word for bound, word in _LIGHTNESS if lightness < bound)
    if chroma < _GREY:
        return f"{depth} grey"
    word = hue_word(hue)
    if chroma < _MUTED:
        return f"{depth} grey {word}" if depth in ("mid", "light", "strong") else f"{depth} muted {word}"
    return f"{depth} {word}"
