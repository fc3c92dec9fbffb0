"""The reference shelf: palettes of our own making to start from, made from families, schemes and hues.

Nothing is stored: the same code gives the same shelf. A palette is a quiet light and a quiet dark color, and between
them the colors of a scheme, pulled into one tone family and set apart in lightness.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import product
from threading import Lock

import numpy as np

from pavese.core.color.contrast import luminance
from pavese.core.color.difference import differences
from pavese.core.color.families import RANGES, HueFamily, Range, families_of, family_of, pull
from pavese.core.color.gamut import max_chroma, to_rgb
from pavese.core.color.naming import describe
from pavese.core.color.neutrals import Shade, tinted
from pavese.core.color.schemes import RULES, Point, Rule, Wheel, points
from pavese.core.color.srgb import Rgb
from pavese.core.kit.names import suggest
from pavese.core.kit.word_lists import language_of, themes

_FAMILIES = (HueFamily.JEWEL, HueFamily.PASTEL, HueFamily.EARTH, HueFamily.FLUORESCENT)
#: Base hues (OKLCH degrees), unevenly set so that neighbors are told apart by name.
_HUES = (28.0, 62.0, 95.0, 142.0, 195.0, 242.0, 272.0, 310.0)
#: Colors of a palette that are nearer than this are one; a palette with fewer than three left is not shelved.
_APART = 7.0
_TINT = 0.6


@dataclass(frozen=True)
class Palette:
    """A palette: its name, its family (None: between the families), the scheme it was made by, and its colors."""

    name: str
    family: HueFamily | None
    scheme: str
    colors: tuple[Rgb, ...]


def shelf() -> tuple[Palette, ...]:
    """All palettes, in a fixed order; their names differ. Made once, however many ask for them at first."""
    with _MAKING:
        return _shelf()


_MAKING = Lock()


@lru_cache(maxsize=1)
def _shelf() -> tuple[Palette, ...]:
    found: list[Palette] = []
    taken: set[str] = set()
    theme_list = [theme for theme in themes() if language_of(theme) == "en"]
    every = product(_FAMILIES, RULES.items(), _HUES)
    plans = [(family, scheme, _tones(rule, hue)) for family, (scheme, rule), hue in every]
    made = iter(_toned([(family, *tone) for family, _, tones in plans for tone in tones]))
    for number, (family, scheme, tones) in enumerate(plans):
        strong = [next(made) for _ in tones]
        colors = _with_quiet(strong)
        if len(colors) < 4:
            continue
        # The name tells the color the palette was started from, and what kind of palette it is.
        word = suggest(strong[:1], theme_list[number % len(theme_list)], ())[0]
        stem = f"{word}, {_KINDS[scheme]}"
        name = stem if stem.casefold() not in taken else f"{stem} {describe(colors[1])}"
        while name.casefold() in taken:
            name += " again"
        taken.add(name.casefold())
        found.append(Palette(name, family, scheme, colors))
    return tuple(found)


#: What a scheme is called in the name of a palette.
_KINDS = {
    "complementary": "across",
    "split complementary": "forked",
    "analogous": "side by side",
    "triad": "in three",
    "square": "in four",
    "tetrad": "in two pairs",
    "monochrome": "in one",
}


@dataclass(frozen=True)
class Shelved:
    """A palette found by a search, with the difference of its nearest color (None: no color was asked for)."""

    palette: Palette
    difference: float | None
    nearest: int | None


def search(
    palettes: Iterable[Palette],
    near: Rgb | None = None,
    family: HueFamily | None = None,
    count: int | None = None,
) -> list[Shelved]:
    """The palettes of a family and with a count of colors, those holding the color nearest to `near` first."""
    kept = [
        palette
        for palette in palettes
        if (family is None or palette.family is family) and (count is None or len(palette.colors) == count)
    ]
    if near is None:
        return [Shelved(palette, None, None) for palette in kept]
    found = []
    for palette in kept:
        away = differences([near], palette.colors)[0]
        found.append(Shelved(palette, float(away.min()), int(away.argmin())))
    return sorted(found, key=lambda entry: entry.difference or 0.0)


def _tones(rule: Rule, hue: float) -> list[tuple[float, float]]:
    """The hue of each strong color of a palette, and where in the family's range of lightness it lies."""
    scheme = points(Point(0.6, 0.12, hue), rule, Wheel.PERCEPTUAL, rule.spread)
    return [(point.hue, share) for point, share in zip(scheme, _SHARES, strict=False)]


#: The base lies in the middle of its family, the others around it.
_SHARES = (0.45, 0.85, 0.1, 0.65, 0.28)


def _with_quiet(strong: Sequence[Rgb]) -> tuple[Rgb, ...]:
    """The colors of one palette from light to dark, those too near another left out."""
    kept = [tinted(strong[0], Shade.NEAR_WHITE, _TINT), tinted(strong[0], Shade.NEAR_BLACK, _TINT)]
    for color in strong:
        if differences([color], kept).min() >= _APART:
            kept.append(color)
    return tuple(sorted(kept, key=luminance, reverse=True))


def _toned(wanted: Sequence[tuple[HueFamily, float, float]]) -> list[Rgb]:
    """A color of each family at a hue, a share of the way up its range of lightness; all of them in one go."""
    hue = np.array([entry[1] for entry in wanted])
    level = np.array([_level(RANGES[family], share) for family, _, share in wanted])
    limit = max_chroma(level, hue)
    least = np.array([float(RANGES[wanted[i][0]].least(limit[i])) for i in range(len(wanted))])
    most = np.minimum(np.array([RANGES[family].chroma[1] for family, _, _ in wanted]), limit)
    colors = to_rgb(np.stack([level, np.minimum(least + 0.7 * (most - least), limit), hue], axis=-1))
    return [
        color if found is family else pull(color, family) or color
        for color, found, (family, _, _) in zip(colors, families_of(colors), wanted, strict=True)
    ]


def _level(wanted: Range, share: float) -> float:
    low, high = wanted.lightness
    return low + 0.02 + (high - low - 0.04) * share


def common_family(colors: Sequence[Rgb]) -> HueFamily | None:
    """The family most of the colors are in, quiet ones left out; None without one."""
    found = [family for color in colors if (family := family_of(color)) in _FAMILIES]
    return max(found, key=found.count, default=None)
