"""The reference shelf: palettes of our own making to start from, searched by colors, mood, trade, family and number.

Nothing is stored: the same code gives the same shelf. How palettes are built stands in `shelf_builds`; here they are
made, named, and kept where a text reads on a ground, no two of a palette's colors are as good as one, and no palette
is as good as another.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations
from threading import Lock

import numpy as np

from pavese.core.color.contrast import TEXT, contrast_ratio, luminance
from pavese.core.color.difference import differences
from pavese.core.color.families import HueFamily, families_of
from pavese.core.color.gamut import max_chroma, to_rgb
from pavese.core.color.oklab import oklch_of
from pavese.core.color.srgb import Rgb
from pavese.core.kit.names import suggest
from pavese.core.kit.proportions import Slot, slots
from pavese.core.kit.shelf_builds import BUILDS, HUES, Build, Tone
from pavese.core.kit.word_lists import language_of, themes
from pavese.core.unique_name import unique_name

_COLORFUL = (HueFamily.JEWEL, HueFamily.PASTEL, HueFamily.EARTH, HueFamily.FLUORESCENT)
#: Colors of a palette, and palettes, that are nearer than this (CIEDE2000, mean of the nearest) are as good as one.
_APART, _UNLIKE = 5.0, 2.6
#: Part of the largest chroma that a color has at most, and how far a vivid one is drawn from where its hue is at its
#: most vivid to the middle of the lightness range.
_MOST, _DRAWN = 0.94, 0.3
#: Colors of a palette, the most colorful ones, that its name may tell.
_NAMING = 4
#: Mean OKLCH hues that read as warm lie between these, in degrees.
_WARM = (-30.0, 110.0)


@dataclass(frozen=True)
class Palette:
    """A palette: its name, its family (None: between the families), how it is built, and its colors, ground first.

    `ground`, `middle` and `accent` are the places of what covers most, less, and least in a layout.
    """

    name: str
    family: HueFamily | None
    build: str
    moods: tuple[str, ...]
    trades: tuple[str, ...]
    colors: tuple[Rgb, ...]
    ground: int = 0
    middle: int = 0
    accent: int = 0

    @property
    def slots(self) -> tuple[Slot, ...]:
        """Its colors as a layout takes them: ground, middle and accent, each with what reads on it."""
        ground = self.colors[self.ground]
        three = [ground, self.colors[self.middle], self.colors[self.accent]]
        inks = sorted(self.colors, key=lambda color: -contrast_ratio(color, ground))
        return slots(three, inks)


def shelf() -> tuple[Palette, ...]:
    """All palettes, in a fixed order; their names differ. Made once, however many ask for them at first."""
    with _MAKING:
        return _shelf()


_MAKING = Lock()


@lru_cache(maxsize=1)
def _shelf() -> tuple[Palette, ...]:
    plans = [
        (build, build.tones(HUES[(number * 7 + turn * 5) % len(HUES)], (number + turn) % 2))
        for number in range(len(HUES))
        for turn, build in enumerate(BUILDS)
    ]
    made = iter(_colors([tone for _, tones in plans for tone in tones]))
    colored = [(build, tuple(next(made) for _ in tones)) for build, tones in plans]
    kept = {
        colors for build in BUILDS for colors in _unlike([one for of, one in colored if of is build and _is_one(one)])
    }
    taken: set[str] = set()
    shelved = [(build, colors) for build, colors in colored if colors in kept]
    words = [theme for theme in themes() if language_of(theme) == "en"]
    return tuple(
        _named(build, colors, words[number * 5 % len(words)], taken) for number, (build, colors) in enumerate(shelved)
    )


def _unlike(palettes: Sequence[tuple[Rgb, ...]]) -> list[tuple[Rgb, ...]]:
    """Those of equally many colors that are not as good as one before them."""
    every = [color for palette in palettes for color in palette]
    away = differences(every, every) if every else np.zeros((0, 0))
    starts = np.cumsum([0, *map(len, palettes)])
    kept: list[int] = []
    for i in range(len(palettes)):
        mine = slice(starts[i], starts[i + 1])
        blocks = (away[mine, starts[j] : starts[j + 1]] for j in kept)
        if all((block.min(axis=0).mean() + block.min(axis=1).mean()) / 2 >= _UNLIKE for block in blocks):
            kept.append(i)
    return [palettes[i] for i in kept]


def _named(build: Build, colors: tuple[Rgb, ...], theme: str, taken: set[str]) -> Palette:
    """A palette under the words for two of its colors, the most colorful ones where their name is not taken."""
    order = [colors[at] for at in np.argsort(-oklch_of(colors)[:, 1], kind="stable")]
    pairs = combinations(suggest(order[:_NAMING], theme), 2)
    names = [f"{first} and {second[:1].lower()}{second[1:]}" for first, second in pairs]
    name = next((one for one in names if one.casefold() not in taken), None) or unique_name(names[0], taken)
    taken.add(name.casefold())
    moods = (*build.moods, *(mood for mood in _seen(colors) if mood not in build.moods))
    accent = build.accent % len(colors)
    return Palette(name, common_family(colors), build.name, moods, build.trades, colors, 0, build.middle, accent)


def _seen(colors: Sequence[Rgb]) -> tuple[str, ...]:
    """What a palette is as one sees it: warm or cool by its vivid colors, light or dark by its ground."""
    lch = oklch_of(colors)
    weights = lch[:, 1] ** 2
    angle = np.radians(lch[:, 2])
    mean = float(np.degrees(np.arctan2((weights * np.sin(angle)).sum(), (weights * np.cos(angle)).sum())))
    return ("warm" if _WARM[0] <= mean <= _WARM[1] else "cool", "dark" if luminance(colors[0]) < 0.2 else "light")


def _is_one(colors: Sequence[Rgb]) -> bool:
    """Whether the colors of a palette are told apart, and a text reads on one of them."""
    away = differences(colors, colors) + np.eye(len(colors)) * 100
    return bool(away.min() >= _APART) and any(contrast_ratio(one, colors[0]) >= TEXT for one in colors)


def _colors(tones: Sequence[Tone]) -> list[Rgb]:
    """Tones as colors, all in one go; one without lightness takes that of its hue at its most vivid."""
    hue = np.array([tone.hue % 360 for tone in tones])
    level = np.array([np.nan if tone.lightness is None else tone.lightness for tone in tones])
    vivid = np.isnan(level)
    grid = np.linspace(0.4, 0.92, 53)
    reach = max_chroma(np.tile(grid, (int(vivid.sum()), 1)), np.tile(hue[vivid][:, None], (1, grid.size)))
    level[vivid] = grid[reach.argmax(axis=1)] * (1 - _DRAWN) + 0.62 * _DRAWN
    chroma = np.minimum([tone.chroma for tone in tones], _MOST * max_chroma(level, hue))
    return to_rgb(np.stack([level, chroma, hue], axis=-1))


@dataclass(frozen=True)
class Shelved:
    """A palette found by a search, with the difference of its colors to those asked for, the largest of them (None: no
    color was asked for), and the places of the nearest."""

    palette: Palette
    difference: float | None
    nearest: tuple[int, ...]


@dataclass(frozen=True)
class ShelfWish:
    """What is searched for; of what is not said, anything. `near` are colors, `like` is a palette."""

    near: tuple[Rgb, ...] = ()
    family: HueFamily | None = None
    count: int | None = None
    mood: str | None = None
    trade: str | None = None
    like: Palette | None = None


def search(palettes: Iterable[Palette], wish: ShelfWish) -> list[Shelved]:
    """The palettes that are what is wished: those nearest to the colors, or most like the palette, first."""
    kept = [
        palette
        for palette in palettes
        if (wish.family is None or palette.family is wish.family)
        and (wish.count is None or len(palette.colors) == wish.count)
        and (wish.mood is None or wish.mood in palette.moods)
        and (wish.trade is None or wish.trade in palette.trades)
    ]
    if wish.near:
        found = []
        for palette in kept:
            away = differences(wish.near, palette.colors)
            nearest = tuple(int(place) for place in away.argmin(axis=1))
            found.append(Shelved(palette, float(away.min(axis=1).max()), nearest))
        return sorted(found, key=lambda entry: entry.difference or 0.0)
    if wish.like is not None:
        colors = wish.like.colors
        kept.sort(key=lambda palette: _distance(colors, palette.colors))
    return [Shelved(palette, None, ()) for palette in kept]


def _distance(some: Sequence[Rgb], others: Sequence[Rgb]) -> float:
    """How unlike two palettes are: how far on average each color is from the nearest of the other one."""
    away = differences(some, others)
    return float((away.min(axis=0).mean() + away.min(axis=1).mean()) / 2)


def common_family(colors: Sequence[Rgb]) -> HueFamily | None:
    """The family most of the colors are in, quiet ones left out; None without one."""
    found = [family for family in families_of(colors) if family in _COLORFUL]
    return max(found, key=found.count, default=None)
