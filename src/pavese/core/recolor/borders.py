"""Borders between paints that touch: which could be told apart and no longer can."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import lru_cache
from typing import NamedTuple

from pavese.core.color.contrast import LARGE, contrast_ratio
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.recoloring import Recoloring

#: Borders shorter than this part of all in a picture tell nothing of what can be seen there: coding leaves such.
LEAST_BORDER = 0.002


class Lost(NamedTuple):
    """Two paints that touch along such a part of all borders of a file, and what they had and have: contrast ratios,
    the first of 3:1 at least and the second below (WCAG 2.2, 1.4.11)."""

    paints: tuple[Rgba, Rgba]
    became: tuple[Rgb, Rgb]
    border: float
    before: float
    after: float


def lost_borders(touching: Mapping[tuple[Rgba, Rgba], float], to: Recoloring) -> Iterator[Lost]:
    """Pairs that lose 3:1, and are seen to touch. Where parts of a paint go their own ways it is not known which of
    them touches what: these are left out."""
    parted = {of for of, _ in to.parts}
    for both, border in touching.items():
        if border < LEAST_BORDER or (before := _contrast_of(*both)) < LARGE or not parted.isdisjoint(both):
            continue
        first, second = (to.get(one) or one.rgb for one in both)
        if (after := _contrast_of(first, second)) < LARGE:
            yield Lost(both, (first, second), border, before, after)


@lru_cache(maxsize=32_768)
def _contrast_of(one: Rgba | Rgb, other: Rgba | Rgb) -> float:
    """The contrast ratio of two colors whatever their alpha, kept since few meet in thousands of files."""
    return contrast_ratio(Rgb(*one[:3]), Rgb(*other[:3]))
