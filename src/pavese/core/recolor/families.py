"""Splitting paints into neutrals and families of one hue, whose shades are to stay shades of one ramp."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from pavese.core.color.oklab import Array, hue_distance

#: Below this OKLCH chroma a color reads as neutral; near white and near black more is needed to see a hue.
_NEUTRAL = 0.035
#: A tint or a deep shade of a hue has at least this chroma, and lies beyond one of these lightnesses.
_TINTED, _PALE, _DEEP = 0.015, 0.85, 0.3
_TINT_WIDTH = 20.0
#: Two groups become one family while their mean hues lie within this many degrees.
_WIDTH = 30.0


@dataclass(frozen=True)
class PaintFamily:
    """Paint colors of one hue (None: neutrals), as indices, with their weight and mean chroma."""

    hue: float | None
    members: tuple[int, ...]
    weight: float
    chroma: float


def split(lch: Array, weights: Sequence[float]) -> list[PaintFamily]:
    """The families of colors given in OKLCH, shape (n, 3): neutrals first, then hues, heaviest first.

    Hues are gathered on their circle, the two nearest groups first, each with the mean of its members weighted by
    weight and chroma, until no two lie near each other; a grey that barely has a hue so has barely a say.
    """
    neutral = [i for i in range(len(lch)) if is_neutral(lch[i])]
    quiet = set(neutral)
    groups = [[i] for i in sorted((i for i in range(len(lch)) if i not in quiet), key=lambda i: (lch[i, 2], i))]
    hues = [_mean_hue(lch, weights, group) for group in groups]
    while len(groups) > 1:
        following = [*hues[1:], hues[0]]
        gaps = [hue_distance(one, other) for one, other in zip(hues, following, strict=True)]
        first = min(range(len(gaps)), key=lambda at: (gaps[at], at))
        if gaps[first] > _WIDTH:
            break
        second = (first + 1) % len(groups)
        groups[first] += groups[second]
        hues[first] = _mean_hue(lch, weights, groups[first])
        del groups[second], hues[second]
    quiet -= _tints(lch, neutral, groups, hues)
    neutral = [i for i in neutral if i in quiet]
    families = [
        PaintFamily(hue, tuple(sorted(group)), _total(weights, group), _mean_chroma(lch, weights, group))
        for hue, group in zip(hues, groups, strict=True)
    ]
    families.sort(key=lambda family: (-family.weight * family.chroma, family.members))
    if neutral:
        families.insert(0, PaintFamily(None, tuple(neutral), _total(weights, neutral), 0.0))
    return families


def is_neutral(lch: Sequence[float] | Array) -> bool:
    """Whether a color, OKLCH of shape (3,), reads as neutral."""
    lightness, chroma = float(lch[0]), float(lch[1])
    edge = 0.02 if lightness > 0.96 else _NEUTRAL
    return chroma < edge or lightness < 0.12


def _tints(lch: Array, neutral: Sequence[int], groups: list[list[int]], hues: Sequence[float]) -> set[int]:
    """Pale tints and deep shades that are nearly neutral only because there is no more chroma at that end, given to
    the family whose hue they have."""
    found: set[int] = set()
    for i in neutral:
        lightness, chroma, hue = (float(value) for value in lch[i])
        if not groups or chroma < _TINTED or _PALE > lightness > _DEEP:
            continue
        near = min(range(len(groups)), key=lambda at: (hue_distance(hues[at], hue), at))
        if hue_distance(hues[near], hue) <= _TINT_WIDTH:
            groups[near].append(i)
            found.add(i)
    return found


def _total(weights: Sequence[float], group: Sequence[int]) -> float:
    return float(sum(weights[i] for i in group))


def _mean_hue(lch: Array, weights: Sequence[float], group: Sequence[int]) -> float:
    angle = np.radians(lch[group, 2])
    pull = np.array([weights[i] for i in group]) * lch[group, 1] + 1e-9
    return float(np.degrees(np.arctan2((pull * np.sin(angle)).sum(), (pull * np.cos(angle)).sum())) % 360)


def _mean_chroma(lch: Array, weights: Sequence[float], group: Sequence[int]) -> float:
    pull = np.array([weights[i] for i in group]) + 1e-9
    return float((lch[group, 1] * pull).sum() / pull.sum())
