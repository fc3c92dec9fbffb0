"""The search behind a plan: what it gives is never worse than what can be told at once, and always the same."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.contrast import contrast_ratio
from pavese.core.color.ramp import STEPS, ramp
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit
from pavese.core.kit.role import Role
from pavese.core.kit.token import Token
from pavese.core.recolor.families import PaintFamily
from pavese.core.recolor.family_ramps import QUIET, family_ramps, main_color, main_neutral
from pavese.core.recolor.recipe import Policy, Recipe
from pavese.core.recolor.search import THOROUGH, Pairs, Problem, Search
from pavese.core.recolor.steps import Step, Term, step_of, tables
from tests.core.strategies import colors, kits

_cost = st.floats(0, 60, allow_nan=False)


def _steps(base: Rgb, ramp_group: str = "a") -> list[Step]:
    return [
        step_of(Token(ramp_group, name), color, ramp_group, place)
        for place, (name, color) in enumerate(zip(STEPS, ramp(base).colors, strict=True))
    ]


def _pairs(listed: list[tuple[int, int, dict[Term, float]]]) -> Pairs:
    weights = np.zeros((len(listed), len(Term)))
    for at, (_, _, terms) in enumerate(listed):
        for term, weight in terms.items():
            weights[at, term] = weight
    ends = np.array([(first, second) for first, second, _ in listed], dtype=np.int64).reshape(-1, 2)
    return Pairs(ends[:, 0], ends[:, 1], weights)


@st.composite
def problems(draw: st.DrawFn, most: int = 5) -> Problem:
    """A few paints on a few steps of one or two ramps, some of them in one drawing."""
    offered = _steps(draw(colors)) + (_steps(draw(colors), "b") if draw(st.booleans()) else [])
    steps = draw(st.lists(st.sampled_from(offered), min_size=2, max_size=6, unique_by=lambda one: one.color))
    paints = draw(st.integers(1, most))
    cost = np.array([[draw(_cost) for _ in steps] for _ in range(paints)])
    pairs = [
        (first, second, {draw(st.sampled_from(Term)): draw(st.floats(0.1, 100))})
        for first in range(paints)
        for second in range(first + 1, paints)
        if draw(st.integers(0, 2)) == 0
    ]
    return Problem(tuple(steps), cost, _pairs(pairs), tuple(draw(st.permutations(range(paints)))))


def _found(problem: Problem) -> Search:
    search = Search(problem, THOROUGH)
    search.place()
    search.settle()
    return search


def _value(problem: Problem, at: Sequence[int]) -> float:
    lost = tables(problem.steps, problem.steps)
    pairs = problem.pairs
    own = sum(problem.cost[paint, step] for paint, step in enumerate(at))
    between = sum(
        weights @ lost[:, at[first], at[second]]
        for first, second, weights in zip(pairs.first, pairs.second, pairs.weights, strict=True)
    )
    return float(own + between)


@given(problems())
def test_no_single_move_is_better_than_what_is_found(problem: Problem) -> None:
    found = _found(problem)
    at = found.at.tolist()
    value = _value(problem, at)
    for paint in range(len(at)):
        for step in range(len(problem.steps)):
            moved = [*at[:paint], step, *at[paint + 1 :]]
            assert _value(problem, moved) >= value - 1e-5
    assert at == _found(problem).at.tolist(), "the same question has the same answer"


@given(problems(most=3))
def test_what_is_found_is_near_the_best_there_is(problem: Problem) -> None:
    """Never worse than each paint at its cheapest with all that is lost between them, and mostly the best of all."""
    at = _found(problem).at.tolist()
    alone = problem.cost.argmin(axis=1).tolist()
    best = min(_value(problem, one) for one in product(range(len(problem.steps)), repeat=len(at)))
    assert best - 1e-6 <= _value(problem, at) <= _value(problem, alone) + 1e-6


@given(problems())
def test_the_sums_are_what_each_step_would_cost(problem: Problem) -> None:
    found = _found(problem)
    at = found.at.tolist()
    value = _value(problem, at)
    for paint, step in enumerate(at):
        for to in range(len(problem.steps)):
            moved = _value(problem, [*at[:paint], to, *at[paint + 1 :]])
            assert found.sums[paint, to] - found.sums[paint, step] == pytest.approx(moved - value, abs=1e-6)


@given(colors, st.integers(2, 5), st.data())
def test_a_ratio_that_can_be_kept_at_no_other_cost_is_kept(base: Rgb, paints: int, data: st.DataObject) -> None:
    """Where every step costs the same, only the pairs decide."""
    steps = tuple(_steps(base))
    first, second = data.draw(st.permutations(range(paints)))[:2]
    pair = (first, second, {Term.BELOW_LARGE: 90.0, Term.TURNED: 40.0})
    found = _found(Problem(steps, np.zeros((paints, len(steps))), _pairs([pair]), tuple(range(paints)))).at
    lighter, darker = steps[int(found[first])], steps[int(found[second])]
    assert contrast_ratio(lighter.color, darker.color) >= 3.0
    assert lighter.position <= darker.position, "the lighter one stays the lighter one"


families = st.lists(
    st.builds(
        PaintFamily,
        hue=st.floats(0, 359.9),
        chroma=st.floats(0.05, 0.3),
        weight=st.floats(0.01, 5),
        members=st.just(()),
    ),
    max_size=6,
)


@given(families, kits(), st.sampled_from(Policy))
def test_every_family_has_a_ramp_that_its_policy_allows(found: list[PaintFamily], kit: Kit, policy: Policy) -> None:
    given_ = family_ramps(found, kit, Recipe(policy=policy))
    assert len(given_) == len(found)
    loud = [color for color in kit.colors if color.role not in QUIET]
    allowed = [color for color in loud if policy is Policy.FAITHFUL or color.role is not Role.ACTION]
    for ramp_ in given_:
        assert ramp_ in (allowed or loud or kit.colors)
    if len(found) <= len(allowed) and policy is Policy.BRANDED:
        assert len({ramp_.key for ramp_ in given_}) == len(found), "the largest areas share no ramp while ramps last"


@given(kits())
def test_a_kit_always_has_a_main_color_and_a_main_neutral(kit: Kit) -> None:
    assert main_neutral(kit) in kit.colors
    assert main_color(kit) in kit.colors
    if any(color.role is Role.NEUTRAL for color in kit.colors):
        assert main_neutral(kit).role is Role.NEUTRAL
    if any(color.role is Role.PRIMARY for color in kit.colors):
        assert main_color(kit).role is Role.PRIMARY
