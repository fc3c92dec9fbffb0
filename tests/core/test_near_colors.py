"""Variations around a color, remarks on a kit, and whether a color is one of ours."""

from __future__ import annotations

from itertools import pairwise

import pytest
from hypothesis import given

from pavese.core.color.difference import difference
from pavese.core.color.oklab import oklch_of
from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb
from pavese.core.color.variations import Direction, variations
from pavese.core.kit.kit import Kit, KitColor, key_for
from pavese.core.kit.ours import Verdict, nearest, verdict
from pavese.core.kit.remarks import CONFUSABLE, STANDS_OUT, remarks
from pavese.core.kit.role import Role
from pavese.core.kit.rules import Rules
from pavese.demo.load import demo_kit
from tests.core.strategies import colors, kits


@given(colors)
def test_rows_hold_different_colors_with_the_base_in_its_place(base: Rgb) -> None:
    rows = variations(base)
    assert set(rows) == set(Direction)
    for row, at in rows.values():
        assert row[at] == base
        assert len(set(row)) == len(row) <= 7
        assert at <= 3
        assert len(row) - at <= 4


@given(colors)
def test_each_row_runs_one_way(base: Rgb) -> None:
    rows = variations(base)
    lightness = oklch_of(rows[Direction.LIGHTNESS][0])[:, 0]
    chroma = oklch_of(rows[Direction.CHROMA][0])[:, 1]
    assert list(lightness) == sorted(lightness)
    assert all(later >= earlier - 0.004 for earlier, later in pairwise(chroma))


def test_steps_are_even_and_hold_what_the_row_does_not_change() -> None:
    base = parse_color("#5a6fa8").rgb
    rows = variations(base)
    lightness = oklch_of(rows[Direction.LIGHTNESS][0])
    gaps = lightness[1:, 0] - lightness[:-1, 0]
    assert gaps == pytest.approx([0.035] * 6, abs=0.004)
    assert lightness[:, 2] == pytest.approx([lightness[3, 2]] * 7, abs=2)
    warmth = oklch_of(rows[Direction.WARMTH][0])
    assert warmth[:, 0] == pytest.approx([warmth[0, 0]] * len(warmth), abs=0.004)


@pytest.mark.parametrize("code", ["#5a6fa8", "#0b5e6b", "#6b7d3a", "#d2452d", "#8a4fa0"])
def test_warmer_is_nearer_to_orange(code: str) -> None:
    row, at = variations(parse_color(code).rgb)[Direction.WARMTH]
    away = [abs((float(hue) - 55 + 180) % 360 - 180) for hue in oklch_of(row)[:, 2]]
    assert all(later < earlier + 2 for earlier, later in pairwise(away))
    assert at + 1 < len(row)


def test_greys_have_no_warmth_to_vary() -> None:
    assert variations(Rgb(128, 128, 128))[Direction.WARMTH] == ([Rgb(128, 128, 128)], 0)
    assert len(variations(Rgb(0, 0, 0))[Direction.LIGHTNESS][0]) > 1


def kit_of(*colors: tuple[str, Role, str]) -> Kit:
    return Kit(
        name="K",
        colors=tuple(
            KitColor(key=key_for(name), name=name, role=role, base=parse_color(code).rgb) for name, role, code in colors
        ),
    )


NEUTRALS = (("Fog", Role.BACKGROUND, "#eef0ec"), ("Hull", Role.TEXT_DARK, "#16252b"))
BUOY = ("Buoy", Role.ACTION, "#d2452d")


@pytest.mark.parametrize(
    ("kit", "expected"),
    [
        (kit_of(BUOY, *NEUTRALS), []),
        (Kit(name="K"), []),
        (kit_of(*NEUTRALS), ["no action color"]),
        (kit_of(BUOY, ("Brick", Role.ACCENT, "#d3462e"), *NEUTRALS), ["are the same color", "is only 0."]),
        (kit_of(BUOY, ("Brick", Role.ACCENT, "#c83f2a"), *NEUTRALS),
         ["hard to tell apart", "the action color, is only"]),
        (kit_of(BUOY, ("Coral", Role.ACCENT, "#c2602d"), *NEUTRALS), ["the action color, is only"]),
        (kit_of(BUOY), ["no neutral color"]),
        (kit_of(BUOY, NEUTRALS[0]), ["one neutral color only"]),
        (kit_of(BUOY, ("Sea", Role.PRIMARY, "#0b5e6b"), ("Kelp", Role.PRIMARY, "#6b7d3a"), *NEUTRALS),
         ["Sea and Kelp are all primary"]),
    ],
)  # fmt: skip
def test_what_is_worth_a_second_look(kit: Kit, expected: list[str]) -> None:
    found = [remark.text for remark in remarks(kit)]
    assert len(found) == len(expected)
    assert all(part in text for part, text in zip(expected, found, strict=True))


def test_many_colors_blur() -> None:
    hues = [(f"Hue {n}", Role.ACCENT, f"oklch(0.65 0.13 {n * 45 + 60})") for n in range(8)]
    assert any("more than seven" in remark.text for remark in remarks(kit_of(BUOY, *hues, *NEUTRALS)))
    assert remarks(demo_kit()) == ()


@given(kits(smallest=2))
def test_remarks_point_to_colors_of_the_kit_and_mean_what_they_say(kit: Kit) -> None:
    for remark in remarks(kit):
        assert set(remark.colors) <= {color.key for color in kit.colors}
        if "tell apart" in remark.text or "same color" in remark.text:
            assert difference(*(kit.color(key).base for key in remark.colors)) < CONFUSABLE
        if "20 is found" in remark.text:
            assert difference(*(kit.color(key).base for key in remark.colors)) < STANDS_OUT


@pytest.mark.parametrize(
    ("difference_", "expected"), [(0, "ours"), (0.99, "ours"), (1, "near"), (4.99, "near"), (5, "off"), (40, "off")]
)
def test_verdicts(difference_: float, expected: str) -> None:
    assert verdict(difference_, Rules()) is Verdict(expected)


@given(kits(), colors)
def test_the_nearest_is_nearest(kit: Kit, color: Rgb) -> None:
    found = nearest([color], kit)[0]
    assert found is not None
    token, own, distance = found
    assert kit.resolve(token) == own
    assert distance == pytest.approx(min(difference(color, other) for _, other in kit.tokens()))
