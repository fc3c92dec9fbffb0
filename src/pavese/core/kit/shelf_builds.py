"""How the palettes of the shelf are built: nineteen ways of putting three to seven colors together, each with a say of
what it is fit for. All of them are our own, and were looked at one by one.

A tone is OKLCH: lightness (None: where its hue is at its most vivid), chroma, and its hue in degrees, which starts from
the hue that a palette is made at.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple


class Tone(NamedTuple):
    """One color of a build."""

    lightness: float | None
    chroma: float
    hue: float


class Build(NamedTuple):
    """A way to build palettes: its name, what it is fit for, and its tones at a hue in one of two turns. The first tone
    is the ground, `middle` and `accent` are the places of what stands on it."""

    name: str
    moods: tuple[str, ...]
    trades: tuple[str, ...]
    middle: int
    accent: int
    tones: Callable[[float, int], tuple[Tone, ...]]


def _within(hue: float, low: float, high: float) -> float:
    """The whole circle brought into a part of it."""
    return low + (hue % 360) / 360 * (high - low)


def _loud(hue: float, chroma: float = 0.19) -> Tone:
    return Tone(None, chroma, hue)


def _quiet_loud(h: float, turn: int) -> tuple[Tone, ...]:
    return (
        Tone(0.972, 0.008, h),
        Tone(0.9, 0.014, h),
        Tone(0.62, 0.025, h),
        Tone(0.25, 0.03, h),
        _loud(h + (165, 35)[turn]),
    )


def _tone_on_tone(h: float, turn: int) -> tuple[Tone, ...]:
    soft = (1.0, 0.7)[turn]
    return (
        Tone(0.957, 0.02, h + 8),
        Tone(0.84, 0.075 * soft, h + 5),
        Tone(0.65, 0.135 * soft, h),
        Tone(0.45, 0.115 * soft, h - 6),
        Tone(0.26, 0.06, h - 12),
    )


def _warm_neutrals(h: float, turn: int) -> tuple[Tone, ...]:
    return (
        Tone(0.968, 0.012, 85),
        Tone(0.88, 0.03, 78),
        Tone(0.72, 0.038, 66),
        Tone(0.48, 0.035, 55),
        Tone(0.25, 0.02, 50),
        Tone((0.52, 0.44)[turn], 0.12, h),
    )


def _pastels(h: float, turn: int) -> tuple[Tone, ...]:
    three = (Tone(0.9, 0.07, h), Tone(0.9, 0.07, h + 100), Tone(0.91, 0.065, h + 205))
    return (*three, Tone(0.28, 0.06, h + 235)) if turn else (Tone(0.985, 0.006, h), *three, Tone(0.3, 0.08, h + 250))


def _earth(h: float, turn: int) -> tuple[Tone, ...]:
    base = _within(h, 28, 128)
    return (
        Tone(0.952, 0.025, 88),
        Tone(0.79, 0.085, base + 12),
        Tone(0.58, 0.115, base - 18),
        Tone(0.47, 0.06, (125, 190)[turn]),
        Tone(0.27, 0.035, 55),
    )


def _jewels(h: float, turn: int) -> tuple[Tone, ...]:
    gold = Tone(0.8, 0.12, 86)
    deep = (Tone(0.38, 0.14, h), Tone(0.43, 0.13, h + 75), Tone(0.33, 0.11, h + 205))
    return (Tone(0.17, 0.03, h), *deep, gold) if turn else (Tone(0.965, 0.012, 85), *deep, gold, Tone(0.2, 0.03, h))


def _two_hues(h: float, turn: int) -> tuple[Tone, ...]:
    other = h + (150, 215)[turn]
    return (
        Tone(0.985, 0.005, h),
        Tone(0.92, 0.045, h),
        Tone(0.47, 0.135, h),
        Tone(0.92, 0.045, other),
        Tone(0.41, 0.12, other),
    )


def _bright_on_dark(h: float, turn: int) -> tuple[Tone, ...]:
    return (
        Tone(0.17, 0.022, h),
        Tone(0.28, 0.035, h),
        Tone(0.83, 0.16, h + 25),
        Tone(0.76, 0.17, h + (170, 250)[turn]),
        Tone(0.955, 0.01, h),
    )


def _poster(h: float, turn: int) -> tuple[Tone, ...]:
    return (
        Tone(0.985, 0.006, 95),
        _loud(h),
        _loud(h + (130, 105)[turn], 0.15),
        _loud(h + (235, 255)[turn], 0.16),
        Tone(0.2, 0.025, h + 235),
    )


def _sweep(h: float, turn: int) -> tuple[Tone, ...]:
    way = (1, -1)[turn]
    steps = ((0.94, 0.035, 0), (0.86, 0.085, 14), (0.76, 0.13, 30), (0.64, 0.15, 47), (0.51, 0.145, 64))
    last = ((0.38, 0.11, 80), (0.26, 0.065, 95))
    return tuple(Tone(level, chroma, h + way * turned) for level, chroma, turned in (*steps, *last))


def _three(h: float, turn: int) -> tuple[Tone, ...]:
    return Tone(0.945, 0.028, h + 170), Tone((0.32, 0.4)[turn], 0.11, h), _loud(h + (50, 195)[turn])


def _faded(h: float, turn: int) -> tuple[Tone, ...]:
    return (
        Tone(0.937, 0.03, 92),
        Tone(0.78, 0.065, h),
        Tone(0.68, 0.062, h + 75),
        Tone(0.6, 0.058, h + (185, 150)[turn]),
        Tone(0.47, 0.05, h + 240),
        Tone(0.31, 0.03, h + 20),
    )


def _cool_warm(h: float, turn: int) -> tuple[Tone, ...]:
    warm = _within(h, 18, 72)
    cool = (Tone(0.975, 0.005, 235), Tone(0.89, 0.014, 238), Tone(0.56, 0.03, 245), Tone(0.25, 0.035, 252))
    return (*cool, _loud(warm)) if turn else (*cool, Tone(0.42, 0.1, _within(h, 200, 275)), _loud(warm))


def _leaf_petal(h: float, turn: int) -> tuple[Tone, ...]:
    petal = _within(h, -75, 78)
    leaves = (Tone(0.965, 0.015, 120), Tone(0.76, 0.1, _within(h, 112, 150)), Tone(0.48, 0.09, _within(h, 130, 165)))
    return (*leaves, Tone(0.27, 0.05, 155), Tone((0.74, 0.6)[turn], 0.16, petal))


def _water_metal(h: float, turn: int) -> tuple[Tone, ...]:
    water, metal = _within(h, 185, 268), (84, 52)[turn]
    return (
        Tone(0.955, 0.014, water),
        Tone(0.8, 0.06, water - 10),
        Tone(0.5, 0.095, water),
        Tone(0.26, 0.05, water + 8),
        Tone(0.72, 0.105, metal),
    )


def _dusk(h: float, turn: int) -> tuple[Tone, ...]:
    start, way = _within(h, 235, 330), (1, 0.72)[turn]
    return (
        Tone(0.19, 0.045, start),
        Tone(0.36, 0.1, start + 30 * way),
        Tone(0.56, 0.14, start + 75 * way),
        Tone(0.73, 0.13, start + 110 * way),
        Tone(0.89, 0.075, start + 145 * way),
    )


def _two_papers(h: float, turn: int) -> tuple[Tone, ...]:
    return (
        Tone(0.97, 0.018, 88),
        Tone(0.87, (0.05, 0.075)[turn], h),
        Tone(0.55, 0.1, h + (0, 25)[turn]),
        Tone(0.26, 0.045, h + 180),
    )


def _muted_trio(h: float, turn: int) -> tuple[Tone, ...]:
    return (
        Tone(0.965, 0.01, 95),
        Tone(0.5, 0.075, h),
        Tone(0.63, 0.08, h + (120, 95)[turn]),
        Tone(0.77, 0.085, h + (240, 205)[turn]),
        Tone(0.23, 0.02, h),
    )


def _deep_field(h: float, turn: int) -> tuple[Tone, ...]:
    return (
        Tone((0.3, 0.37)[turn], 0.085, h),
        Tone((0.42, 0.49)[turn], 0.1, h + 8),
        Tone(0.8, 0.13, h + (160, 60)[turn]),
        Tone(0.945, 0.025, h + 30),
    )


BUILDS: tuple[Build, ...] = (
    Build(
        "quiet with one loud",
        moods=("calm", "precise"),
        trades=("law", "architecture", "technology"),
        middle=3,
        accent=4,
        tones=_quiet_loud,
    ),
    Build(
        "tone on tone",
        moods=("calm", "composed"),
        trades=("finance", "health", "technology"),
        middle=3,
        accent=2,
        tones=_tone_on_tone,
    ),
    Build(
        "warm neutrals",
        moods=("warm", "calm"),
        trades=("interiors", "craft", "hospitality"),
        middle=2,
        accent=5,
        tones=_warm_neutrals,
    ),
    Build(
        "pastel with ink",
        moods=("gentle", "playful"),
        trades=("children", "care", "sweets"),
        middle=1,
        accent=-1,
        tones=_pastels,
    ),
    Build(
        "earth",
        moods=("warm", "grounded"),
        trades=("food", "travel", "craft"),
        middle=2,
        accent=3,
        tones=_earth,
    ),
    Build(
        "jewel",
        moods=("rich", "festive"),
        trades=("hospitality", "fashion", "culture"),
        middle=1,
        accent=-2,
        tones=_jewels,
    ),
    Build(
        "two hues with tints",
        moods=("clear", "friendly"),
        trades=("health", "education", "services"),
        middle=2,
        accent=4,
        tones=_two_hues,
    ),
    Build(
        "bright on dark",
        moods=("bold", "technical"),
        trades=("technology", "music", "games"),
        middle=1,
        accent=2,
        tones=_bright_on_dark,
    ),
    Build(
        "poster",
        moods=("bold", "playful"),
        trades=("sport", "education", "events"),
        middle=1,
        accent=3,
        tones=_poster,
    ),
    Build(
        "sweep",
        moods=("lively", "modern"),
        trades=("media", "maps and charts", "technology"),
        middle=4,
        accent=2,
        tones=_sweep,
    ),
    Build(
        "three and no more",
        moods=("clear", "bold"),
        trades=("services", "transport", "events"),
        middle=1,
        accent=2,
        tones=_three,
    ),
    Build(
        "faded print",
        moods=("nostalgic", "warm"),
        trades=("books", "cafés", "craft"),
        middle=4,
        accent=1,
        tones=_faded,
    ),
    Build(
        "cool ground, warm mark",
        moods=("precise", "fresh"),
        trades=("finance", "industry", "transport"),
        middle=3,
        accent=-1,
        tones=_cool_warm,
    ),
    Build(
        "leaf and petal",
        moods=("fresh", "gentle"),
        trades=("gardens", "cosmetics", "food"),
        middle=2,
        accent=-1,
        tones=_leaf_petal,
    ),
    Build(
        "water and metal",
        moods=("composed", "rich"),
        trades=("shipping", "insurance", "engineering"),
        middle=2,
        accent=4,
        tones=_water_metal,
    ),
    Build(
        "dusk",
        moods=("dreamy", "rich"),
        trades=("music", "travel", "hospitality"),
        middle=1,
        accent=3,
        tones=_dusk,
    ),
    Build(
        "two papers, one ink",
        moods=("calm", "clear"),
        trades=("books", "education", "law"),
        middle=1,
        accent=2,
        tones=_two_papers,
    ),
    Build(
        "muted trio",
        moods=("composed", "friendly"),
        trades=("services", "care", "culture"),
        middle=1,
        accent=3,
        tones=_muted_trio,
    ),
    Build(
        "deep field",
        moods=("bold", "composed"),
        trades=("transport", "energy", "sport"),
        middle=1,
        accent=2,
        tones=_deep_field,
    ),
)

#: The hues at which each build is made, unevenly set, since neighbors are told apart unevenly around the circle.
HUES = (12, 25, 38, 52, 68, 85, 100, 118, 135, 150, 165, 180, 195, 212, 228, 245, 258, 270, 285, 302, 325, 345)
