"""Rows of near-equals: what was one color before several pictures were coded is planned, and goes, as one."""

from __future__ import annotations

from random import Random

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pavese.core.color.difference import difference, differences
from pavese.core.color.gamut import to_rgb
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.assign import assign
from pavese.core.recolor.inventory import Inventory, SetPaints, summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.near import NEAR_EQUAL, leaders, near_equal_in, rows
from pavese.core.recolor.plan import Choice, Plan
from pavese.core.recolor.recipe import Recipe
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.target import KEEP, resolve_target
from pavese.demo.load import demo_kit
from tests.core.strategies import colors

KIT = demo_kit()
GREEN, SEA, SAND = Rgb(46, 125, 90), Rgb(30, 80, 150), Rgb(222, 205, 170)
nudges = st.tuples(*[st.integers(-3, 3)] * 3)


def nudged(color: Rgb, by: tuple[int, ...]) -> Rgb:
    return Rgb(*(min(max(one + more, 0), 255) for one, more in zip(color, by, strict=True)))


def set_of(*files: list[Rgb], drawings: int = 0) -> SetPaints:
    """A set of files, the first of which are drawings."""
    names = [f"{at}.{'svg' if at < drawings else 'jpg'}" for at in range(len(files))]
    counted = [Inventory.count([Site(Rgba(*color), Kind.FILL) for color in file]) for file in files]
    return summarize(counted, names=names, on_pixels=[name for name in names if name.endswith("jpg")])


@given(
    st.lists(st.tuples(st.lists(colors, min_size=1, max_size=5), st.booleans()), max_size=6),
    st.lists(nudges, min_size=1, max_size=4),
)
def test_a_row_holds_what_is_near_and_two_of_one_file_only_where_they_are_one(
    files: list[tuple[list[Rgb], bool]], by: list[tuple[int, ...]]
) -> None:
    more = [([nudged(color, step) for color in file], True) for file, _ in files for step in by]
    every = [(frozenset(file), on_pixels) for file, on_pixels in [*files, *more]]
    order = sorted({color for file, _ in every for color in file})
    found = rows(every, order)
    written = {color for file, on_pixels in every if not on_pixels for color in file}
    assert not found.keys() & set(found.values()), "what leads goes with nobody"
    assert not found.keys() & written, "what is written in a file stays by itself"
    assert all(difference(color, lead) < 3 for color, lead in found.items())
    for file, on_pixels in every:
        led = [(found.get(color, color), color) for color in file if on_pixels]
        for lead, group in ((lead, [color for other, color in led if other == lead]) for lead, _ in led):
            assert sum(difference(color, lead) > 1.25 for color in group) <= 1


@settings(max_examples=30)
@given(st.lists(nudges, min_size=2, max_size=6))
def test_a_row_goes_one_way_now_and_when_more_comes(by: list[tuple[int, ...]]) -> None:
    kit = demo_kit()
    files = [[nudged(color, step) for color in (GREEN, SEA, SAND)] for step in by]
    paints = set_of(*files[:-1])
    plan = assign(paints, kit)
    for color, lead in paints.rows.items():
        assert plan.choices[Rgba(*color).key].target == plan.choices[Rgba(*lead).key].target
    # A person has it otherwise; what comes later follows.
    first = Rgba(*files[0][0]).key
    mine = {**plan.choices, first: Choice(target="#123456", by="you")}
    for color, lead in paints.rows.items():
        if lead == files[0][0] or paints.rows.get(files[0][0]) == lead:
            mine[Rgba(*color).key] = mine[Rgba(*lead).key] = mine[first]
    more = set_of(*files)
    after = assign(more, kit, plan.with_(choices=mine))
    assert after.choices[first].target == "#123456"
    last = files[-1][0]
    if Rgba(*last).key not in mine and more.rows.get(last, last) == more.rows.get(files[0][0], files[0][0]):
        assert after.choices[Rgba(*last).key].target == "#123456"


def test_a_drawing_leads_and_stays_by_itself() -> None:
    near = nudged(GREEN, (1, 1, 1))
    assert set_of([GREEN, near], [nudged(GREEN, (2, 2, 2))], drawings=1).rows in (
        {nudged(GREEN, (2, 2, 2)): GREEN},
        {nudged(GREEN, (2, 2, 2)): near},
    )
    assert set_of([GREEN], [near], drawings=2).rows == {}


@given(st.lists(st.tuples(*[st.integers(200, 210)] * 3), min_size=2, max_size=30, unique=True), st.data())
def test_who_leads_follows_nobody(levels: list[tuple[int, int, int]], data: st.DataObject) -> None:
    near = [Rgb(*one) for one in levels]
    order = data.draw(st.permutations(range(len(near))))
    in_rows = data.draw(st.dictionaries(st.sampled_from(near), st.sampled_from(near)))
    found = leaders(near, order, in_rows=in_rows)
    assert all(found[one] == one for one in found)
    last = list(in_rows)[-1:]
    assert all(found[near.index(color)] == found[near.index(in_rows[color])] for color in last)


FACE, WALL, HAIR, COAT = Rgb(236, 208, 168), Rgb(235, 206, 161), Rgb(71, 48, 26), Rgb(90, 107, 185)


def _pictures(*files: tuple[list[Rgb], dict[Rgb, float], list[tuple[Rgb, Rgb]]]) -> SetPaints:
    names = [f"{at}.png" for at in range(len(files))]
    counted = [Inventory.count([Site(Rgba(*color), Kind.FILL) for color in file]) for file, _, _ in files]
    measured = [
        Measured(
            {Rgba(*color): area for color, area in areas.items()},
            {tuple(sorted((Rgba(*one), Rgba(*other)))): 0.2 for one, other in touching},
        )
        for _, areas, touching in files
    ]
    return summarize(counted, measured, names, names)


def _portrait(face: Rgb) -> tuple[list[Rgb], dict[Rgb, float], list[tuple[Rgb, Rgb]]]:
    return [face, HAIR, COAT], {face: 0.1, HAIR: 0.2, COAT: 0.6}, [(face, HAIR), (face, COAT), (HAIR, COAT)]


def _room(wall: Rgb) -> tuple[list[Rgb], dict[Rgb, float], list[tuple[Rgb, Rgb]]]:
    return [wall, COAT, SEA], {wall: 0.7, COAT: 0.2, SEA: 0.1}, [(wall, COAT), (wall, SEA)]


def test_a_face_does_not_go_with_a_wall() -> None:
    kit = demo_kit()
    alone = assign(_pictures(_portrait(FACE)), kit).choices[Rgba(*FACE).key]
    assert alone.target == KEEP
    for files in ([_portrait(FACE), _room(WALL)], [_portrait(FACE), _room(WALL), _room(nudged(WALL, (-1, 0, -1)))]):
        paints = _pictures(*files)
        plan = assign(paints, kit)
        assert paints.rows.get(FACE, FACE) != paints.rows.get(WALL, WALL)
        assert plan.choices[Rgba(*FACE).key].target == KEEP
        assert plan.choices[Rgba(*WALL).key].target != KEEP


def test_one_face_in_several_pictures_is_kept_in_all_where_it_is_told_in_most() -> None:
    nudges_of = [(0, 0, 0), (1, 0, 0), (0, 1, 1)]
    faces = [nudged(FACE, by) for by in nudges_of]
    # So small that nothing else of the portrait is left.
    small = nudged(FACE, (1, 1, 0))
    paints = _pictures(*map(_portrait, faces), ([small, COAT], {small: 0.5, COAT: 0.5}, [(small, COAT)]))
    plan = assign(paints, demo_kit())
    assert {plan.choices[Rgba(*face).key].target for face in (*faces, small)} == {KEEP}


@pytest.mark.parametrize("hues", [(45, 75), (95, 140), (240, 275)])
@pytest.mark.parametrize("seed", range(3))
def test_shades_that_no_kit_can_tell_apart_stay_beside_each_other(seed: int, hues: tuple[int, int]) -> None:
    dice = Random(seed)
    lch = [[dice.uniform(0.25, 0.75), dice.uniform(0.03, 0.08), dice.uniform(*hues)] for _ in range(60)]
    shades = sorted(set(to_rgb(np.array(lch))))
    paints = set_of(shades, drawings=1)
    plan = assign(paints, KIT, Plan(recipe=Recipe(natural=False)))
    after = [resolve_target(plan.choices[shade.hex].target, KIT) or shade for shade in shades]
    close = np.triu(differences(shades, shades) < 5, 1)
    apart = np.sort(differences(after, after)[close])
    # One step of a ramp, or none; kept apart whatever it takes, that was a turn to grey, olive or orange, of 25.
    assert apart[int(len(apart) * 0.8)] < 10


@given(st.lists(colors, max_size=4, unique=True))
def test_few_colors_of_a_drawing_are_near_equal_where_the_eye_says_so(listed: list[Rgb]) -> None:
    assert near_equal_in(listed).tolist() == [NEAR_EQUAL] * len(listed)
