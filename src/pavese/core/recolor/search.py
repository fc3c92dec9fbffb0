"""Paints to steps: the search behind the kit's mode.

What is minimised is a sum over paints (how far the step is from the paint in lightness, whether it is on the family's
ramp) plus a sum over pairs of paints that touch, or stand next to each other in their family (contrast lost, order of
lightness turned round). The first part alone is an assignment problem and is solved exactly; the second makes it
quadratic, which is searched: the pairs' costs around the best answer so far are added to the first part and it is
solved again, then single moves and swaps are made while any of them helps. All of it is deterministic.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from scipy.optimize import linear_sum_assignment

from pavese.core.color.contrast import contrast_table
from pavese.core.color.oklab import Array
from pavese.core.color.ramp import step_position
from pavese.core.color.srgb import Rgb
from pavese.core.kit.token import Token

Ints = npt.NDArray[np.int64]

#: In squared steps: a pair below its ratio, or turned round, costs more than leaving the ramp.
_SHORT = 100.0
_TURNED = 40.0
#: Within a family on one ramp, lightness turned round costs more than anything but a shared step.
_SHADING = 90.0
#: A second paint on a step that another has: never while the kit has steps left.
SHARED = 5000.0
#: How much of the pairs' costs is added, round by round; not all of it at first, lest everything moves at once.
_PULLS = (0.3, 0.6, 1.0, 0.6, 1.0, 1.0)
_SWEEPS = 12
#: Beyond so many paints fewer rounds are made: steps are shared then, and time is short.
_MANY = 120
#: Slots that a paint tries to give way to.
_TRIED = 8


class Step(NamedTuple):
    """One color of the kit that a paint can go to; order is kept within a ramp_group: a ramp, or all the quiet ones."""

    token: Token
    color: Rgb
    position: float
    ramp_group: str


class Pair(NamedTuple):
    """Two paints, by index, `first` the lighter, that are to keep their order and at least the ratio `needed`.

    `weight` is 0 to 1; `apart` pairs do not touch and only need their order where they share a ramp.
    """

    first: int
    second: int
    needed: float
    weight: float
    apart: bool = False


@dataclass(frozen=True)
class Problem:
    """`cost` has the shape (paints, steps), in squared steps."""

    steps: tuple[Step, ...]
    cost: Array
    pairs: tuple[Pair, ...]


def step_of(token: Token, color: Rgb, ramp_group: str) -> Step:
    """A step with its place in the luminance-aligned scale."""
    return Step(token, color, step_position(color), ramp_group)


def solve(problem: Problem) -> Ints:
    """The step of each paint, shape (paints,)."""
    state = _State(problem)
    best = state.assigned(problem.cost)
    if not problem.pairs:
        return best
    at = best = state.improved(best)
    value = state.value(best)
    for part in _PULLS[:: 1 if len(at) <= _MANY else 3]:
        at = state.improved(state.assigned(problem.cost + part * state.around(at)))
        found = state.value(at)
        if found < value - 1e-9:
            best, value = at, found
    return best


class _State:
    def __init__(self, problem: Problem) -> None:
        self._problem = problem
        colors = [one.color for one in problem.steps]
        self._ratio = contrast_table(colors, colors)
        position = np.array([one.position for one in problem.steps])
        # [s, t]: a paint on s is darker than, or as light as, one on t although it should be lighter.
        gap = position[:, None] - position
        self._turned = np.where(gap > 1e-6, 1.0, np.where(np.abs(gap) <= 1e-6, 0.5, 0.0))
        groups = {one.ramp_group: n for n, one in enumerate(problem.steps)}
        ramp_group = np.array([groups[one.ramp_group] for one in problem.steps])
        self._same_group = ramp_group[:, None] == ramp_group
        self._of: list[list[tuple[Pair, bool]]] = [[] for _ in range(len(problem.cost))]
        for pair in problem.pairs:
            self._of[pair.first].append((pair, True))
            self._of[pair.second].append((pair, False))

    def assigned(self, cost: Array) -> Ints:
        """The exact answer for costs without pairs; steps are shared only when there are more paints than steps."""
        paints, steps = cost.shape
        rounds = -(-paints // steps)
        table = np.hstack([cost + SHARED * n for n in range(rounds)]) if rounds > 1 else cost
        _, columns = linear_sum_assignment(table)
        return np.asarray(columns % steps)

    def around(self, at: Ints) -> Array:
        """What each step would cost each paint by its pairs, the others staying; shape (paints, steps)."""
        return np.stack([self._pull(paint, at) for paint in range(len(at))])

    def value(self, at: Ints) -> float:
        """The whole sum."""
        own = float(self._problem.cost[np.arange(len(at)), at].sum())
        used = np.bincount(at, minlength=len(self._problem.steps))
        shared = SHARED * float(np.maximum(used - 1, 0).sum())
        pairs = sum(self._pair(pair, int(at[pair.first]), int(at[pair.second])) for pair in self._problem.pairs)
        return own + shared + pairs

    def improved(self, at: Ints) -> Ints:
        """Moves to other steps and swaps of two paints, the best for each paint in turn, while the sum falls."""
        at = at.copy()
        cost = self._problem.cost
        holders: dict[int, list[int]] = {}
        for paint, place in enumerate(at.tolist()):
            holders.setdefault(place, []).append(paint)
        for _ in range(_SWEEPS):
            moved = False
            for paint in range(len(at)):
                now = int(at[paint])
                if not self._of[paint]:
                    continue
                pull = cost[paint] + self._pull(paint, at)
                if pull[now] - pull.min() < 1e-9:
                    continue
                for place in np.argsort(pull, kind="stable")[: 3 * _TRIED].tolist():
                    gain = float(pull[now] - pull[place])
                    if gain < 1e-9:
                        break
                    other = holders.get(place, [])
                    if not other:
                        self._move(at, holders, paint, place)
                        moved = True
                        break
                    if len(other) == 1 and (away := self._makes_room(at, holders, paint, other[0])) is not None:
                        self._move(at, holders, other[0], away)
                        self._move(at, holders, paint, place)
                        moved = True
                        break
            moved = self._together(at, holders) or moved
            if not moved:
                break
        return at

    def _together(self, at: Ints, holders: dict[int, list[int]]) -> bool:
        """Moves both paints of a pair that is not kept, where neither can be moved alone."""
        moved = False
        for pair in self._problem.pairs:
            one, other = pair.first, pair.second
            if self._pair(pair, int(at[one]), int(at[other])) < 1e-9:
                continue
            before, now = self._local(at, one, other), (int(at[one]), int(at[other]))
            best, gain = now, 1e-9
            for first in self._free_for(one, at, holders, now):
                for second in self._free_for(other, at, holders, now):
                    if first == second:
                        continue
                    at[one], at[other] = first, second
                    better = before - self._local(at, one, other)
                    if better > gain:
                        best, gain = (first, second), better
            at[one], at[other] = now
            if best != now:
                self._move(at, holders, one, best[0])
                self._move(at, holders, other, best[1])
                moved = True
        return moved

    def _free_for(self, paint: int, at: Ints, holders: dict[int, list[int]], own: tuple[int, int]) -> list[int]:
        """The steps a paint would like best, of those that are free or the pair's own."""
        order = np.argsort(self._problem.cost[paint], kind="stable")[: 3 * _TRIED].tolist()
        return [place for place in order if not holders.get(place) or place in own][:_TRIED]

    def _makes_room(self, at: Ints, holders: dict[int, list[int]], one: int, other: int) -> int | None:
        """Where `other` can go so that `one` takes its step and the sum falls; None where it cannot."""
        before, (left, wanted) = self._local(at, one, other), (int(at[one]), int(at[other]))
        at[one] = wanted
        pull = self._problem.cost[other] + self._pull(other, at)
        found = None
        for away in np.argsort(pull, kind="stable")[:_TRIED].tolist():
            if away == wanted or (away != left and holders.get(away)):
                continue
            at[other] = away
            if before - self._local(at, one, other) > 1e-9:
                found = away
                break
        at[one], at[other] = left, wanted
        return found

    def _local(self, at: Ints, one: int, other: int) -> float:
        total = float(self._problem.cost[one, at[one]] + self._problem.cost[other, at[other]])
        total += sum(self._pair(pair, int(at[pair.first]), int(at[pair.second])) for pair, _ in self._of[one])
        return total + sum(
            self._pair(pair, int(at[pair.first]), int(at[pair.second]))
            for pair, _ in self._of[other]
            if one not in (pair.first, pair.second)
        )

    @staticmethod
    def _move(at: Ints, holders: dict[int, list[int]], paint: int, place: int) -> None:
        holders[int(at[paint])].remove(paint)
        holders.setdefault(place, []).append(paint)
        at[paint] = place

    def _pull(self, paint: int, at: Ints) -> Array:
        """What the pairs of a paint cost it on each step, shape (steps,)."""
        total = np.zeros(len(self._problem.steps))
        for pair, is_first in self._of[paint]:
            other = int(at[pair.second if is_first else pair.first])
            turned = self._turned[:, other] if is_first else self._turned[other]
            if pair.apart:
                total += _SHADING * pair.weight * turned * self._same_group[:, other]
                continue
            total += _TURNED * pair.weight * turned
            if pair.needed > 1:
                total += _SHORT * pair.weight * (self._ratio[:, other] < pair.needed)
        return total

    def _pair(self, pair: Pair, first: int, second: int) -> float:
        turned = pair.weight * float(self._turned[first, second])
        if pair.apart:
            return _SHADING * turned if self._same_group[first, second] else 0.0
        turned *= _TURNED
        short = pair.needed > 1 and self._ratio[first, second] < pair.needed
        return turned + (_SHORT * pair.weight if short else 0.0)
