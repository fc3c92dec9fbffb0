"""The search behind a plan: what it gives is never worse than what can be told at once, and always the same."""

from __future__ import annotations

from itertools import permutations

import numpy as np
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
from pavese.core.recolor.search import SHARED, Pair, Problem, Step, solve, step_of
from tests.core.strategies import colors, kits

_cost = st.floats(0, 60, allow_nan=False)


def _steps(base: Rgb, ramp_group: str = "a") -> list[Step]:
    return [
        step_of(Token(ramp_group, name), color, ramp_group)
        for name, color in zip(STEPS, ramp(base).colors, strict=True)
    ]


@st.composite
def problems(draw: st.DrawFn, most: int = 5) -> Problem:
    """A few paints on a few steps of one or two ramps, some of them touching."""
    offered = _steps(draw(colors)) + (_steps(draw(colors), "b") if draw(st.booleans()) else [])
    steps = draw(st.lists(st.sampled_from(offered), min_size=2, max_size=6, unique=True))
    paints = draw(st.integers(1, most))
    cost = np.array([[draw(_cost) for _ in steps] for _ in range(paints)])
    pairs = [
        Pair(first, second, draw(st.sampled_from([0.0, 3.0, 4.5])), draw(st.floats(0.1, 1)), draw(st.booleans()))
        for first in range(paints)
        for second in range(paints)
        if first != second and draw(st.integers(0, 3)) == 0
    ]
    return Problem(tuple(steps), cost, tuple(pairs))


@given(problems())
def test_without_pairs_the_answer_is_the_cheapest_there_is(problem: Problem) -> None:
    alone = Problem(problem.steps, problem.cost, ())
    count, steps = problem.cost.shape
    found = solve(alone)
    if count <= steps:
        best = min(
            sum(problem.cost[row, column] for row, column in enumerate(one))
            for one in permutations(range(steps), count)
        )
        assert sum(problem.cost[row, column] for row, column in enumerate(found)) <= best + 1e-6
    assert found.tolist() == solve(alone).tolist()


@given(problems())
def test_paints_share_no_step_while_there_are_steps(problem: Problem) -> None:
    found = solve(problem).tolist()
    assert all(0 <= at < len(problem.steps) for at in found)
    assert found == solve(problem).tolist(), "the same question has the same answer"
    if len(found) <= len(problem.steps):
        assert len(set(found)) == len(found)
    assert problem.cost.max() < SHARED


@given(colors, st.integers(2, 5), st.data())
def test_a_ratio_that_can_be_kept_at_no_other_cost_is_kept(base: Rgb, paints: int, data: st.DataObject) -> None:
    """Where every step costs the same, only the pairs decide."""
    steps = tuple(_steps(base))
    first, second = data.draw(st.permutations(range(paints)))[:2]
    problem = Problem(steps, np.zeros((paints, len(steps))), (Pair(first, second, 3.0, 1.0),))
    found = solve(problem)
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
