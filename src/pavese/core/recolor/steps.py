"""The steps that paints can go to, and what two paints that share a drawing lose on each two of them.

What is lost is told by terms; each is a table over (the step of the lighter paint, the step of the darker).
"""

from __future__ import annotations

from collections.abc import Sequence
from enum import IntEnum
from functools import lru_cache
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from pavese.core.color.contrast import ENHANCED, FAINT, LARGE, TEXT, contrast_table
from pavese.core.color.difference import differences
from pavese.core.color.neighbors import shares
from pavese.core.color.oklab import Array
from pavese.core.color.ramp import step_position
from pavese.core.color.srgb import Rgb
from pavese.core.kit.token import Token

#: CIEDE2000 below which two targets look like one, wholly and in part.
_ALIKE, _SIMILAR = 1.0, 3.0
#: Steps by which two colors differ in lightness so that it is seen: a factor of 1.06 in luminance plus 0.05.
SEEN = 0.2
#: How badly lightness that ends equal, or a hair the wrong way round, counts beside lightness that plainly turns.
_LEVELLED = 0.6
#: Contrast that only letters take through which their ground is seen; 13:1 is what the lightest and the darkest of most
#: kits have.
STRONG, STRONGEST = 10.0, 13.0
#: Steps by which no lightness differs but for what is rounded off.
_EQUAL = 1e-6


class Term(IntEnum):
    """What two paints can lose."""

    MERGED = 0
    TURNED = 1
    TURNED_ON_RAMP = 2
    BELOW_LARGE = 3
    BELOW_TEXT = 4
    BELOW_ENHANCED = 5
    ONE_RAMP = 6
    TWO_RAMPS = 7
    APART = 8
    BESIDE = 9
    BELOW_FAINT = 10
    LEVEL = 11
    BELOW_STRONG = 12
    BELOW_STRONGEST = 13


class Step(NamedTuple):
    """One color of the kit that a paint can go to, or one that a paint keeps (without a token); order is kept within a
    ramp group: a ramp, or all the quiet ones. `place` is its number on its ramp."""

    token: Token | None
    color: Rgb
    position: float
    ramp_group: str
    ramp: str
    place: int


def step_of(token: Token | None, color: Rgb, ramp_group: str, place: int = 0) -> Step:
    """A step with its place in the luminance-aligned scale."""
    ramp = color.hex if token is None else token.color
    return Step(token, color, step_position(color), ramp_group, ramp, place)


def tables(lighter: Sequence[Step], darker: Sequence[Step], *, charts: bool = True) -> Array:
    """What is lost by term, shape (terms, lighter, darker), each 0 to 1; that of neighbors in `charts`, which takes
    longer than all others, is left out where there are none."""
    shown, under = [one.color for one in lighter], [one.color for one in darker]
    apart = differences(shown, under)
    ratio = contrast_table(shown, under)
    gap = _positions(darker)[None, :] - _positions(lighter)[:, None]
    same_group = _alike([one.ramp_group for one in lighter], [one.ramp_group for one in darker])
    same_ramp = _alike([one.ramp for one in lighter], [one.ramp for one in darker])
    places = np.array([one.place for one in darker])[None, :] - np.array([one.place for one in lighter])[:, None]
    same = apart == 0
    lighter_still = gap > _EQUAL
    turned = np.where(gap <= -SEEN, 1.0, np.where(lighter_still, 0.0, _LEVELLED))
    found = np.zeros((len(Term), len(lighter), len(darker)))
    found[Term.MERGED] = np.where(same, 1.0, np.clip((_SIMILAR - apart) / (_SIMILAR - _ALIKE), 0, 1) * 0.5)
    found[Term.TURNED] = np.where(same, 0.0, turned)
    found[Term.LEVEL] = lighter_still & (gap < SEEN / 2)
    found[Term.TURNED_ON_RAMP] = np.where(same_group & ~same, turned, 0.0)
    levels = {
        Term.BELOW_FAINT: FAINT,
        Term.BELOW_LARGE: LARGE,
        Term.BELOW_TEXT: TEXT,
        Term.BELOW_ENHANCED: ENHANCED,
        Term.BELOW_STRONG: STRONG,
        Term.BELOW_STRONGEST: STRONGEST,
    }
    for term, needed in levels.items():
        # A pair that hardly misses its level is nearer to it than one that melts away.
        found[term] = np.where(ratio < needed, 0.5 + 0.5 * (needed - ratio) / (needed - 1), 0.0)
    found[Term.ONE_RAMP] = same_ramp
    found[Term.TWO_RAMPS] = ~same_group
    found[Term.APART] = ~(same | (same_ramp & (np.abs(places) <= 1)) | (apart < _SIMILAR))
    if charts:
        near = shares(shown, under).min(axis=0)
        # Neighbors that hardly miss being told apart are nearer to it than two of one color.
        found[Term.BESIDE] = np.where(near < 1, 0.4 + 0.6 * (1 - near), 0.0)
    return found


@lru_cache(maxsize=8)
def tables_of(steps: tuple[Step, ...], *, charts: bool) -> Array:
    """`tables` of steps with themselves, kept since each drawing of a set is planned with the same."""
    return tables(steps, steps, charts=charts)


def _positions(steps: Sequence[Step]) -> Array:
    return np.array([one.position for one in steps])


def _alike(one: Sequence[str], other: Sequence[str]) -> npt.NDArray[np.bool_]:
    return np.asarray(np.array(one)[:, None] == np.array(other)[None, :])
