"""A plain name for a color in words anyone uses: "deep blue-green", "pale grey".

The regions of OKLCH below are our own, set by looking at swatches of each; they name, they do not judge.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from pavese.core.color.oklab import lch_of
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


class _Tongue(NamedTuple):
    """How a language says a color: its words for ours, and whether the hue stands first."""

    words: Mapping[str, str]
    hue_first: bool


_TONGUES: dict[str, _Tongue] = {
    "de": _Tongue(
        {
            "very dark": "sehr dunkles", "deep": "tiefes", "strong": "kräftiges", "mid": "mittleres",
            "light": "helles", "pale": "blasses", "grey-": "graues", "muted": "gedecktes", "grey": "Grau",
            "rose": "Rosa", "red": "Rot", "orange": "Orange", "amber": "Gelborange", "yellow": "Gelb",
            "yellow-green": "Gelbgrün", "green": "Grün", "sea-green": "Seegrün", "blue-green": "Blaugrün",
            "sky-blue": "Himmelblau", "blue": "Blau", "indigo": "Indigo", "violet": "Violett", "purple": "Purpur",
            "near-white": "fast Weiß", "white": "Weiß", "near-black": "fast Schwarz", "black": "Schwarz",
        },
        hue_first=False,
    ),
    "fr": _Tongue(
        {
            "very dark": "très sombre", "deep": "profond", "strong": "soutenu", "mid": "moyen",
            "light": "clair", "pale": "pâle", "grey-": "grisé", "muted": "sourd", "grey": "gris",
            "rose": "rose", "red": "rouge", "orange": "orange", "amber": "ambre", "yellow": "jaune",
            "yellow-green": "vert-jaune", "green": "vert", "sea-green": "vert marin", "blue-green": "bleu-vert",
            "sky-blue": "bleu ciel", "blue": "bleu", "indigo": "indigo", "violet": "violet", "purple": "pourpre",
            "near-white": "presque blanc", "white": "blanc", "near-black": "presque noir", "black": "noir",
        },
        hue_first=True,
    ),
}  # fmt: skip


def describe(color: Rgb, language: str = "en") -> str:
    """Two or three plain words, lower case; the same color always gets the same words.

    Languages (BCP 47) are those that sheets speak; any other is told in English.
    """
    words = _described(color)
    tongue = _TONGUES.get(language)
    if tongue is None:
        return " ".join(word.removesuffix("-") for word in words)
    said = [tongue.words[word] for word in words]
    return " ".join([said[-1], *said[:-1]] if tongue.hue_first else said)


def _described(color: Rgb) -> tuple[str, ...]:
    """Its words in English, the hue last; `grey-` is a hue that is greyed."""
    lightness, chroma, hue = lch_of(color)
    if chroma < _GREY and lightness > 0.955:
        return ("near-white" if color != Rgb(255, 255, 255) else "white",)
    if chroma < _GREY and lightness < 0.2:
        return ("near-black" if color != Rgb(0, 0, 0) else "black",)
    depth = next(word for bound, word in _LIGHTNESS if lightness < bound)
    if chroma < _GREY:
        return depth, "grey"
    word = hue_word(hue)
    if chroma < _MUTED:
        return depth, "grey-" if depth in ("mid", "light", "strong") else "muted", word
    return depth, word
