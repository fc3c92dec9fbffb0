"""Schemes against their definitions, on both wheels; what a drag does; the edge of sRGB."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.gamut import max_chroma
from pavese.core.color.schemes import (
    RULES,
    Point,
    Wheel,
    at,
    base_for,
    disc,
    from_wheel,
    in_gamut,
    limits,
    points,
    to_wheel,
)
from pavese.core.color.srgb import Rgb
from pavese.core.kit.relations import relation
from tests.core.strategies import colors

angles = st.floats(0, 359.99)
wheels = st.sampled_from(list(Wheel))
rules = st.sampled_from(list(RULES.values()))
bases = st.builds(Point, st.floats(0.05, 0.95), st.floats(0.01, 0.3), angles)


def turned(a: float, b: float) -> float:
    return abs((a - b + 180) % 360 - 180)


#: Angles from the base, as color textbooks define the schemes; `s` is the spread.
DEFINITIONS = {
    "complementary": lambda s: [180],
    "split complementary": lambda s: [180 - s, 180 + s],
    "analogous": lambda s: [-s, s],
    "triad": lambda s: [120, 240],
    "square": lambda s: [90, 180, 270],
    "tetrad": lambda s: [s, 180, 180 + s],
}


@given(bases, wheels, st.floats(0, 60))
@pytest.mark.parametrize("name", DEFINITIONS)
def test_partners_stand_where_the_definition_says(name: str, base: Point, wheel: Wheel, spread: float) -> None:
    rule = RULES[name]
    spread = min(spread, rule.most)
    found = points(base, rule, wheel, spread)
    start = to_wheel(base.hue, wheel)
    assert found[0] == base
    for partner, turn in zip(found[1:], DEFINITIONS[name](spread), strict=True):
        assert turned(to_wheel(partner.hue, wheel), start + turn) < 1e-6
        assert (partner.lightness, partner.chroma) == (base.lightness, base.chroma)


@given(bases, st.floats(0, 20))
def test_monochrome_keeps_the_hue_and_orders_lightness(base: Point, spread: float) -> None:
    found = points(base, RULES["monochrome"], Wheel.PERCEPTUAL, spread)
    assert {point.hue for point in found} == {base.hue}
    levels = [point.lightness for point in (*found[1:3], found[0], *found[3:])]
    assert levels == sorted(levels)


def test_the_painters_wheel_sets_opposite_what_painters_do() -> None:
    # Ryb: red against green, yellow against violet, blue against orange.
    for one, other in ((25, 150), (105, 310), (258, 60)):
        assert turned(from_wheel(to_wheel(one, Wheel.PAINTERS) + 180, Wheel.PAINTERS), other) < 1e-9
    # On the perceptual wheel the same red stands against a blue-green.
    assert turned(from_wheel(to_wheel(25, Wheel.PERCEPTUAL) + 180, Wheel.PERCEPTUAL), 205) < 1e-9


@given(angles, wheels)
def test_the_wheels_turn_back(hue: float, wheel: Wheel) -> None:
    assert turned(from_wheel(to_wheel(hue, wheel), wheel), hue) < 1e-6


@given(bases, rules, wheels, st.floats(0, 60), st.integers(0, 4), st.floats(-0.9, 0.9), st.floats(-0.9, 0.9))
def test_a_dragged_partner_goes_where_it_is_put_and_the_rule_holds(
    base: Point, rule: object, wheel: Wheel, spread: float, index: int, x: float, y: float
) -> None:
    assert isinstance(rule, type(RULES["triad"]))
    if math.hypot(x, y) < 0.02 or index > len(rule.fixed):
        return
    place = at(x, y, base.lightness, wheel)
    moved = base_for(place, index, base, rule, wheel, min(spread, rule.most))
    found = points(moved, rule, wheel, min(spread, rule.most))
    assert turned(found[index].hue, place.hue) < 1e-6
    assert found[index].chroma == pytest.approx(place.chroma)
    assert base_for(moved, 0, base, rule, wheel, spread) == moved


@given(st.floats(0.1, 0.95), st.floats(0.001, 0.329), angles, wheels)
def test_a_point_is_found_again_at_its_place(lightness: float, chroma: float, hue: float, wheel: Wheel) -> None:
    point = Point(lightness, chroma, hue)
    again = at(*point.place(wheel), lightness, wheel)
    assert again.chroma == pytest.approx(chroma, abs=1e-9)
    assert turned(again.hue, hue) < 1e-5


@given(colors)
def test_what_the_screen_has_is_not_reduced(color: Rgb) -> None:
    point = Point.of(color)
    assert in_gamut([point]) == [(color, False)]
    [(_, reduced)] = in_gamut([Point(point.lightness, 0.4, point.hue)])
    assert reduced


def test_limits_are_the_edge_of_the_drawn_disc() -> None:
    for wheel in Wheel:
        pixels = disc(0.6, wheel, 240)
        for x, y in limits(0.6, wheel, 60):
            for share, opaque in ((0.93, True), (1.07, False)):
                column, row = int((x * share + 1) * 120), int((1 - y * share) * 120)
                assert bool(pixels[min(row, 239), min(column, 239), 3]) is opaque
    assert max(math.hypot(x, y) for x, y in limits(0.7, Wheel.PERCEPTUAL)) <= 1
    assert float(max_chroma(np.array([0.7]), np.array([328.0]))[0]) < 0.33


@pytest.mark.parametrize("name", ["complementary", "triad", "square", "analogous"])
def test_the_relation_of_a_scheme_is_that_scheme(name: str) -> None:
    made = [color for color, _ in in_gamut(points(Point(0.62, 0.1, 40), RULES[name], Wheel.PERCEPTUAL, 30))]
    found, miss = relation(made)
    assert found == name
    assert miss < 2
    assert relation([Rgb(120, 120, 120)]) == ("without hue", 0.0)
