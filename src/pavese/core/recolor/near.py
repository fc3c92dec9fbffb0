"""Near-equal paints gathered, so that they are planned as one and never land apart."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from functools import lru_cache
from itertools import combinations

import numpy as np
from scipy.spatial import KDTree

from pavese.core.color.difference import ciede2000, cielab, difference
from pavese.core.color.oklab import oklab_of
from pavese.core.color.srgb import Rgb

#: CIEDE2000 below which two paints look like one in a drawing and may share a target.
NEAR_EQUAL = 2.5
#: Paints go with one that differs by at most half of that, so that no two that go with it differ by much more.
_REACH = NEAR_EQUAL / 2
#: No two colors so near in CIEDE2000 lie farther apart in OKLab; 0.011 is the most seen over the cube of sRGB.
_WITHIN = 0.03


def became_one(after: Mapping[Rgb, Rgb]) -> Iterator[tuple[Rgb, Rgb]]:
    """Pairs of colors of one drawing, in order, that are two and became one; near-equals may."""
    groups: dict[Rgb, list[Rgb]] = {}
    for color in sorted(after):
        groups.setdefault(after[color], []).append(color)
    for group in groups.values():
        yield from (pair for pair in combinations(group, 2) if _apart(*pair) >= NEAR_EQUAL)


@lru_cache(maxsize=65_536)
def _apart(one: Rgb, other: Rgb) -> float:
    """CIEDE2000, kept since a set has few pairs that become one, in thousands of files."""
    return difference(one, other)


def leaders(colors: Sequence[Rgb], order: Sequence[int], alone: frozenset[Rgb] = frozenset()) -> list[int]:
    """For each color the index of the one it goes with; `order` tells who leads first, `alone` go with nobody.

    A color that leads goes with itself.
    """
    if not colors:
        return []
    around = KDTree(oklab_of(colors)).query_ball_point(oklab_of(colors), _WITHIN)
    lab = cielab(colors)
    found = [-1] * len(colors)
    for at in order:
        if found[at] >= 0:
            continue
        found[at] = at
        if colors[at] in alone:
            continue
        near = np.array([one for one in around[at] if found[one] < 0 and colors[one] not in alone], dtype=np.int64)
        if len(near):
            for one in near[ciede2000(lab[near], lab[at]) <= _REACH].tolist():
                found[one] = at
    return found
