"""Near-equal paints gathered, so that they are planned as one and never land apart."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from functools import lru_cache
from itertools import combinations
from types import MappingProxyType

import numpy as np
from scipy.spatial import KDTree

from pavese.core.color.difference import ciede2000, cielab, difference
from pavese.core.color.oklab import Array, oklab_of
from pavese.core.color.srgb import Rgb

#: CIEDE2000 below which two paints look like one in a drawing and may share a target.
NEAR_EQUAL = 2.5
#: Paints go with one that differs by at most half of that, so that no two that go with it differ by much more.
_REACH = NEAR_EQUAL / 2
#: How near colors of one drawing crowd each other in OKLab (about 10 of CIEDE2000 where they are muted), and how many a
#: kit can tell apart there, which is about three steps of a ramp; how fast what passes for one grows beyond that, and
#: how far. Set by looking at traced and shaded drawings of 30 to 850 colors in two kits.
_CROWDING, _ROOM, _GROWS, _MOST = 0.08, 4, 0.85, 15.0
#: CIEDE2000 below which colors of different pictures were one before they were coded.
_ROW = 3.0
#: No two colors so near in CIEDE2000 lie farther apart in OKLab; 0.011 is the most seen over the cube of sRGB.
_WITHIN = 0.03


def became_one(
    after: Mapping[Rgb, Rgb], together: Collection[tuple[Rgb, Rgb]] | None = None
) -> Iterator[tuple[Rgb, Rgb]]:
    """Pairs of colors of one drawing, in order, that are two and became one; near-equals may. Of a whole set,
    `together` are those that meet in a drawing."""
    groups: dict[Rgb, list[Rgb]] = {}
    for color in sorted(after):
        groups.setdefault(after[color], []).append(color)
    for group in groups.values():
        for pair in combinations(group, 2):
            if (together is None or pair in together) and _apart(*pair) >= NEAR_EQUAL:
                yield pair


@lru_cache(maxsize=65_536)
def _apart(one: Rgb, other: Rgb) -> float:
    """CIEDE2000, kept since a set has few pairs that become one, in thousands of files."""
    return difference(one, other)


def near_equal_in(colors: Sequence[Rgb]) -> Array:
    """CIEDE2000 below which each color of one drawing passes for another, shape (colors,): `NEAR_EQUAL`, and more where
    so many shades lie close together that no kit can tell them apart.

    Kept apart there, shades of one brown went to grey, olive and orange, and a face fell to pieces.
    """
    if len(colors) <= _ROOM:
        return np.full(len(colors), NEAR_EQUAL)
    oklab = oklab_of(colors)
    around = KDTree(oklab).query_ball_point(oklab, _CROWDING, return_length=True)
    return np.asarray(np.minimum(NEAR_EQUAL * np.maximum(around / _ROOM, 1.0) ** _GROWS, _MOST))


def rows(
    files: Sequence[tuple[Collection[Rgb], bool]], order: Iterable[Rgb], natural: Collection[Rgb] = ()
) -> dict[Rgb, Rgb]:
    """The colors that go with another, and with which: near-equals of different pictures, which were one color before
    they were coded. Of each file its colors are given, and whether they were measured on its pixels; colors that stand
    in other files lead at most. `order` tells who leads first; two colors of one file are in one row only where they go
    one way anyway, as those do that a filter made of one; and what is `natural` only with its like: a face does not go
    with a wall."""
    listed = list(dict.fromkeys(order))
    measured, written = set[Rgb](), set[Rgb]()
    held: dict[Rgb, set[int]] = {}
    for number, (colors, on_pixels) in enumerate(files):
        (measured if on_pixels else written).update(colors)
        for color in colors if on_pixels else ():
            held.setdefault(color, set()).add(number)
    joining = measured - written
    if not joining:
        return {}
    lab, oklab = cielab(listed), oklab_of(listed)
    around = KDTree(oklab).query_ball_point(oklab, _WITHIN * _ROW / NEAR_EQUAL)
    found: dict[Rgb, Rgb] = {}
    for at, lead in enumerate(listed):
        if lead in found:
            continue
        taken = set(held.get(lead, ()))
        near = np.array([one for one in around[at] if one > at and listed[one] in joining and listed[one] not in found])
        if not len(near):
            continue
        apart = ciede2000(lab[near], lab[at])
        for at_near in np.argsort(apart, kind="stable")[: int((apart < _ROW).sum())].tolist():
            one = listed[near[at_near]]
            if (one in natural) != (lead in natural):
                continue
            if apart[at_near] <= _REACH or taken.isdisjoint(held[one]):
                found[one] = lead
                taken |= held[one]
    return found


def leaders(
    colors: Sequence[Rgb],
    order: Sequence[int],
    alone: frozenset[Rgb] = frozenset(),
    in_rows: Mapping[Rgb, Rgb] = MappingProxyType({}),
) -> list[int]:
    """For each color the index of the one it goes with; `order` tells who leads first, `alone` go with nobody; what
    is in a row (`rows`) goes with what leads it.

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

    def first(at: int) -> int:
        """Who leads, through all that follow another themselves by now."""
        while found[at] != at:
            at = found[at]
        return at

    place = {color: at for at, color in enumerate(colors)}
    for color, lead in in_rows.items():
        if color in place and lead in place and color not in alone:
            found[place[color]] = first(place[lead])
    return [first(at) for at in range(len(found))]
