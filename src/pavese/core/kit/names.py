"""Names for the colors of a kit: a word of a theme whose region a color lies in, or a plain description.

The same color gets the same word as long as no other color of the kit has it.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from functools import lru_cache

import numpy as np

from pavese.core.color.naming import describe
from pavese.core.color.oklab import Array, from_oklch, oklab_of
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError
from pavese.core.kit.word_lists import language_of, themes
from pavese.core.unique_name import unique_name

#: The themes that name in plain words, with their languages (BCP 47).
PLAIN = "plain words"
_PLAIN = {PLAIN: "en", "schlichte Worte": "de", "mots simples": "fr"}

#: A word reaches this far; farther off it is qualified, since it would mislead.
_REACH = 0.13
#: Distance in OKLab with hue and chroma counting more than lightness: a dark teal is sooner a teal than a dark grey.
_WEIGHTS = np.array([0.8, 1.6, 1.6])


def theme_names() -> tuple[str, ...]:
    """The themes one can choose from, plain words first."""
    return (*_PLAIN, *themes())


def suggest(colors: Sequence[Rgb], theme: str, taken: Iterable[str] = ()) -> list[str]:
    """A name for each color, unlike each other and unlike those taken. Raises InvalidKitError for an unknown theme.

    Each color gets the nearest word that is free; the color that fits a word best is served first.
    """
    used = {name.casefold() for name in taken}
    if theme in _PLAIN:
        return [_free(_capital(describe(color, _PLAIN[theme])), used) for color in colors]
    if theme not in themes():
        raise InvalidKitError(f"There are no names on “{theme[:40]}”; themes are {', '.join(theme_names())}.")
    if not colors:
        return []
    words = themes()[theme]
    distance = np.linalg.norm((oklab_of(colors)[:, None, :] - _centers(theme)[None, :, :]) * _WEIGHTS, axis=-1)
    names: list[str | None] = [None] * len(colors)
    pairs = sorted((float(distance[i, j]), i, j) for i in range(len(colors)) for j in range(len(words)))
    for away, i, j in pairs:
        if away > _REACH:
            break
        if names[i] is None and words[j].text.casefold() not in used:
            names[i] = words[j].text
            used.add(words[j].text.casefold())
    return [
        name if name is not None else _free(_qualified(colors[i], words[int(np.argmin(distance[i]))].text, theme), used)
        for i, name in enumerate(names)
    ]


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]


def _qualified(color: Rgb, word: str, theme: str) -> str:
    """The nearest word with the depth the color has: `Deep kelp`. Languages whose adjectives bend take it in plain
    words behind: `Seetang, tiefes Grün`."""
    if language_of(theme) != "en":
        return f"{word}, {describe(color, language_of(theme))}"
    depth = describe(color).split()[0].removeprefix("near-")
    if depth in ("black", "white") or depth in word.lower():
        return word
    return f"{depth.capitalize()} {word[:1].lower()}{word[1:]}"


def _free(wanted: str, used: set[str]) -> str:
    name = unique_name(wanted, used)
    used.add(name.casefold())
    return name


@lru_cache(maxsize=16)
def _centers(theme: str) -> Array:
    return from_oklch(np.array([[word.lightness, word.chroma, word.hue] for word in themes()[theme]]))
