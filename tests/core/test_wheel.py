"""A scheme around a base that is locked, and the whole of it changed a little."""

from __future__ import annotations

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from pavese.core.color.oklab import hue_distance
from pavese.core.color.schemes import RULES, Point, Wheel, beside, points, to_wheel, tuned
from pavese.core.color.variations import Direction
from tests.core.strategies import colors


@given(
    colors,
    st.sampled_from([rule for rule in RULES.values() if not rule.by_lightness]),
    st.sampled_from(Wheel),
    st.floats(5, 70),
    st.floats(0.2, 1.8),
    st.data(),
)
def test_a_partner_is_dragged_to_where_the_rule_can_bring_it(color, rule, wheel, spread, chroma, data) -> None:  # type: ignore[no-untyped-def]
    base = Point.of(color)
    assume(base.chroma > 0.02)
    spread = min(spread, rule.most)
    index = data.draw(st.integers(1, len(rule.fixed)))
    wanted = points(base, rule, wheel, spread, 0, chroma)[index]
    found, times = beside(wanted, index, base, rule, wheel, 0.0)
    reached = points(base, rule, wheel, found, 0, times)
    assert reached[0] == base, "the base stays"
    assert hue_distance(reached[index].hue, wanted.hue) < 0.5
    assert reached[index].chroma == pytest.approx(wanted.chroma)


@given(colors, st.sampled_from(Direction))
def test_a_scheme_goes_both_ways_in_each_direction(color, direction) -> None:  # type: ignore[no-untyped-def]
    base = Point.of(color)
    scheme = points(base, RULES["triad"], Wheel.PERCEPTUAL, 0)
    sides = tuned(scheme, 2)[direction]
    assert sides.keys() <= {-2, -1, 1, 2}
    for moved in sides.values():
        assert len(moved) == len(scheme)
    lower, upper = sides.get(-1), sides.get(1)
    if direction is Direction.LIGHTNESS:
        assert lower is None or sum(p.lightness for p in lower) < sum(p.lightness for p in scheme)
        assert upper is None or sum(p.lightness for p in upper) > sum(p.lightness for p in scheme)


def test_angles_beyond_what_a_rule_allows_are_its_widest() -> None:
    base = Point(0.6, 0.1, 200.0)
    rule = RULES["analogous"]
    far = Point(0.6, 0.1, 200.0 + 150.0)
    spread, _ = beside(far, 2, base, rule, Wheel.PERCEPTUAL, 30)
    assert spread == rule.most
    assert to_wheel(base.hue, Wheel.PERCEPTUAL) == 200.0
