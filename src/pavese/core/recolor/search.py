"""Paints to steps: the search behind the kit's mode.

What is minimised is a sum over paints (how well a step suits a paint by itself) plus a sum over pairs of paints that
share a drawing (what is lost between them, see `steps.Term`). Paints are placed one after the other, heaviest first,
each where it costs least beside those that are placed; then single moves, and moves that make others give way, are
made while any helps. All of it is deterministic.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from pavese.core.color.oklab import Array
from pavese.core.recolor.steps import Step, Term, tables_of

Ints = npt.NDArray[np.int64]

#: Others that give way to a paint, at most.
_OTHERS = 4
#: A paint that pays this much more than it would alone is not content.
_CONTENT = 3.0
#: What a pair costs that stands in the way.
_IN_THE_WAY = 4.0
_LEAST = 1e-6


class Effort(NamedTuple):
    """How often each paint is looked at again, how often it asks others to give way then, and out of how many steps, at
    most."""

    looks: int
    asks: int
    tried: int


#: For whole sets, and for single drawings.
BRIEF, THOROUGH = Effort(8, 2, 5), Effort(24, 3, 8)


@dataclass(frozen=True)
class Pairs:
    """Pairs of paints by index, `first` the lighter; `weights` are what each term costs, shape (pairs, terms)."""

    first: Ints
    second: Ints
    weights: Array

    @property
    def charts(self) -> bool:
        """Whether some are neighbors in a chart."""
        return bool(self.weights[:, Term.BESIDE].any())


@dataclass(frozen=True)
class Problem:
    """`cost` has the shape (paints, steps), in squared steps; `order` is that in which paints are placed."""

    steps: tuple[Step, ...]
    cost: Array
    pairs: Pairs
    order: tuple[int, ...]


class Search:
    """Where paints stand, and what each step would cost each of them there; at first they stand nowhere.

    `at` gives the step of each paint, shape (paints,), `sums` the costs, shape (paints, steps).
    """

    def __init__(self, problem: Problem, effort: Effort = BRIEF) -> None:
        self._effort = effort
        self._cost = problem.cost
        self._order = problem.order
        self.at = np.full(len(problem.cost), -1, dtype=np.int64)
        self.sums = problem.cost.copy()
        told = np.flatnonzero(problem.pairs.weights.any(axis=0))
        both_ways = _both_ways(problem.steps, charts=problem.pairs.charts)
        self._lost = both_ways[np.concatenate([told, told + len(Term)])]
        self._others = _by_paint(problem.pairs, told, len(problem.cost))

    def place(self) -> None:
        """Places paints one after the other, each where it costs least beside those before it."""
        for paint in self._order:
            self.put(paint, _least(self.sums[paint]))

    def stand(self, at: Ints) -> None:
        """Puts all paints where they stand already."""
        for paint, step in enumerate(at.tolist()):
            self.put(paint, step)

    def settle(self) -> None:
        """Moves paints while any move helps."""
        waiting = deque(self._order)
        queued = [True] * len(self.at)
        looks, asked = [0] * len(self.at), [0] * len(self.at)
        alone = self._cost.min(axis=1)
        while waiting:
            paint = waiting.popleft()
            queued[paint] = False
            if looks[paint] >= self._effort.looks:
                continue
            looks[paint] += 1
            row, here = self.sums[paint], int(self.at[paint])
            best = _least(row)
            moved: Sequence[int] = ()
            if row[best] < row[here] - _LEAST:
                self.put(paint, best)
                here, moved = best, (paint,)
            if row[here] - alone[paint] > _CONTENT and asked[paint] < self._effort.asks:
                asked[paint] += 1
                moved = self._with_room(paint) or moved
            for one in moved:
                for other in (one, *self._others[one].numbers.tolist()):
                    if not queued[other] and looks[other] < self._effort.looks:
                        queued[other] = True
                        waiting.append(other)

    def put(self, paint: int, step: int) -> None:
        """Moves a paint to a step (-1: off all of them)."""
        was = int(self.at[paint])
        others, weights = self._others[paint]
        if len(others):
            change = 0.0 if step < 0 else self._lost[:, step]
            self.sums[others] += weights @ (change if was < 0 else change - self._lost[:, was])
        self.at[paint] = step

    def _with_room(self, paint: int) -> tuple[int, ...]:
        """Moves a paint to a step it likes better while those that stand there give way; those that moved."""
        here = int(self.at[paint])
        row = self.sums[paint].copy()
        tried = np.argsort(self._cost[paint], kind="stable")[: self._effort.tried]
        tried = tried[(tried != here) & (self._cost[paint, tried] < row[here] - _LEAST)]
        for step, blocked in zip(tried.tolist(), self._in_the_way(paint, tried), strict=True):
            if not 0 < len(blocked) <= _OTHERS or not self._may_pay(paint, step, row, blocked):
                continue
            undo: list[tuple[int, int]] = []
            rise = self._moved(paint, step, undo)
            for other in blocked:
                rise += self._moved(other, _least(self.sums[other]), undo)
            if rise < -_LEAST:
                return tuple(one for one, _ in undo)
            for one, was in reversed(undo):
                self.put(one, was)
        return ()

    def _may_pay(self, paint: int, step: int, row: Array, blocked: Mapping[int, float]) -> bool:
        """Whether a paint could win by a step if those in the way left for the best they can have now, or for its own
        place; a guess that spares most trials that would fail."""
        here = int(self.at[paint])
        rise = float(row[step] - row[here])
        for other, lost in blocked.items():
            own, at = self.sums[other], int(self.at[other])
            away = float(min(own[:at].min(initial=np.inf), own[at + 1 :].min(initial=np.inf)) - own[at])
            freed = float(own[here] - own[at]) - self._lost_between(paint, other, here)
            rise -= lost - min(lost, away, freed)
        return rise < -_LEAST

    def _lost_between(self, paint: int, other: int, step: int) -> float:
        """What two paints that share a drawing would lose on one step."""
        others, weights = self._others[paint]
        return float(weights[others.searchsorted(other)] @ self._lost[:, step, step])

    def _in_the_way(self, paint: int, steps: Ints) -> list[dict[int, float]]:
        """For each of some steps, the paints that are lost beside a paint there, with what is lost."""
        others, weights = self._others[paint]
        each = np.einsum("pt,tsp->sp", weights, self._lost[:, steps[:, None], self.at[others][None, :]])
        blocks = each > _IN_THE_WAY
        return [
            dict(zip(others[row].tolist(), lost[row].tolist(), strict=True))
            for row, lost in zip(blocks, each, strict=True)
        ]

    def _moved(self, paint: int, step: int, undo: list[tuple[int, int]]) -> float:
        was = int(self.at[paint])
        rise = float(self.sums[paint, step] - self.sums[paint, was])
        undo.append((paint, was))
        self.put(paint, step)
        return rise


def _least(row: Array) -> int:
    """Rounded, so that the last bits of a sum do not decide between two that are equal."""
    return int(row.round(6).argmin())


class _Others(NamedTuple):
    """The paints that one is paired with, in order, and what their pairs cost by term: first those it is the lighter
    of, then those it is the darker of; shape (others, 2 x terms that are told)."""

    numbers: Ints
    weights: Array


def _by_paint(pairs: Pairs, told: Ints, count: int) -> list[_Others]:
    """The others of each paint; terms that cost nothing anywhere are left out."""
    costs = pairs.weights[:, told]
    none = np.zeros_like(costs)
    ends = np.concatenate([pairs.first, pairs.second])
    others = np.concatenate([pairs.second, pairs.first])
    weights = np.block([[costs, none], [none, costs]])
    rows = np.lexsort((others, ends))
    starts = np.searchsorted(ends[rows], np.arange(count + 1)).tolist()
    return [_Others(others[rows[low:high]], weights[rows[low:high]]) for low, high in pairwise(starts)]


@lru_cache(maxsize=8)
def _both_ways(steps: tuple[Step, ...], *, charts: bool) -> Array:
    """What a pair loses by [term, step of a paint, step of the other], terms as in `_Others`."""
    lost = tables_of(steps, charts=charts)
    return np.concatenate([lost, lost.transpose(0, 2, 1)])
