"""Tone families, tinted neutrals, same tone at other hues, and numbers in every notation."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import assume, example, given
from hypothesis import strategies as st

from pavese.core.color.families import COLORFUL, RANGES, HueFamily, families_of, family_of, outliers, pull, same_tone
from pavese.core.color.neutrals import Shade, tinted
from pavese.core.color.notations import notations
from pavese.core.color.oklab import oklch_of
from pavese.core.color.parse import parse_color, try_color
from pavese.core.color.srgb import Rgb
from tests.core.strategies import colors

families = st.sampled_from(list(HueFamily))


def hue_apart(a: Rgb, b: Rgb) -> float:
    (first, second) = oklch_of([a, b])[:, 2]
    return float(abs((first - second + 180) % 360 - 180))


def rounding(color: Rgb) -> float:
    """Degrees of hue by which rounding to 8 bits may turn a color of this chroma."""
    return 0.5 + np.degrees(0.006 / max(float(oklch_of([color])[0, 1]), 0.001))


@given(colors, families)
def test_a_pulled_color_is_in_the_family_at_its_own_hue(color: Rgb, family: HueFamily) -> None:
    target = pull(color, family)
    chroma = float(oklch_of([color])[0, 1])
    if target is None:
        # Only what has no hue cannot be pulled where one is needed.
        assert family in COLORFUL
        assert chroma < 0.004
        return
    assert family_of(target) is family
    assert pull(target, family) == target
    if chroma > 0.02 and float(oklch_of([target])[0, 1]) > 0.02:
        assert hue_apart(color, target) <= rounding(color) + rounding(target)


@given(st.lists(colors, min_size=1, max_size=12))
def test_families_do_not_depend_on_company_and_follow_their_ranges(many: list[Rgb]) -> None:
    found = families_of(many)
    assert found == [family_of(color) for color in many]
    for (lightness, chroma, _), family in zip(oklch_of(many), found, strict=True):
        if family is not None:
            low, high = RANGES[family].lightness
            assert low <= lightness <= high
            assert chroma <= RANGES[family].chroma[1]


@pytest.mark.parametrize(
    ("code", "family"),
    [
        ("#0b5e6b", HueFamily.JEWEL),
        ("#7b1e3a", HueFamily.JEWEL),
        ("#f4c9d6", HueFamily.PASTEL),
        ("#c8e6d0", HueFamily.PASTEL),
        ("#8a5a3c", HueFamily.EARTH),
        ("#6b6f3a", HueFamily.EARTH),
        ("#39ff14", HueFamily.FLUORESCENT),
        ("#ff2fd0", None),
        ("#7d878c", HueFamily.NEUTRAL),
        ("#16252b", HueFamily.NEAR_BLACK),
        ("#eef0ec", HueFamily.NEAR_WHITE),
    ],
)
def test_families_of_colors_people_call_so(code: str, family: HueFamily | None) -> None:
    assert family_of(parse_color(code).rgb) is family


def test_outliers_are_the_colorful_ones_apart() -> None:
    codes = ["#0b5e6b", "#7b1e3a", "#1f3f8f", "#f4c9d6", "#777777"]
    common, apart = outliers([parse_color(code).rgb for code in codes])
    assert (common, apart) == (HueFamily.JEWEL, [3])
    assert outliers([]) == (None, [])


@given(colors, st.integers(3, 24))
@example(Rgb(0, 0, 118), 3)
def test_same_tone_shares_lightness_and_chroma(color: Rgb, count: int) -> None:
    found = same_tone(color, count)
    assert len(found) == count
    assert found[0] == (color, True)
    lightness, chroma, _ = oklch_of([color])[0]
    # Near black one level of 255 is a large step in lightness; rounding says more there than the computation.
    assume(lightness >= 0.2)
    for other, held in found:
        level, strength, _ = oklch_of([other])[0]
        assert level == pytest.approx(lightness, abs=0.006)
        assert strength <= chroma + 0.006
        if held:
            assert strength == pytest.approx(chroma, abs=0.006)


@given(colors, st.sampled_from(list(Shade)), st.floats(0, 1))
def test_tinted_colors_are_quiet_at_the_hue_of_their_source(source: Rgb, shade: Shade, strength: float) -> None:
    made = tinted(source, shade, strength)
    expected = {
        Shade.NEUTRAL: HueFamily.NEUTRAL,
        Shade.NEAR_BLACK: HueFamily.NEAR_BLACK,
        Shade.NEAR_WHITE: HueFamily.NEAR_WHITE,
    }
    assert family_of(made) is expected[shade]
    grey = tinted(source, shade, 0)
    assert max(grey) - min(grey) <= 1
    if float(oklch_of([made])[0, 1]) > 0.012:
        assert hue_apart(source, made) <= rounding(made) + rounding(source)


@given(colors)
def test_every_notation_is_read_back_to_the_same_color(color: Rgb) -> None:
    for text in notations(color).values():
        assert parse_color(text).rgb == color


@pytest.mark.parametrize(
    ("text", "color"),
    [
        ("hsb(210 50% 80%)", "#6699cc"),
        ("hsv(210, 50, 80)", "#6699cc"),
        ("HSB(0°, 100%, 100%)", "#ff0000"),
        ("cmyk(0 100 100 0)", "#ff0000"),
        ("cmyk(50%, 0%, 0%, 20%)", "#66cccc"),
    ],
)
def test_the_letters_of_print_and_screen(text: str, color: str) -> None:
    assert parse_color(text).rgb.hex == color


@pytest.mark.parametrize("text", ["hsb(210 50%)", "cmyk(1 2 3)", "hsb()", "cmyk(a b c d)", "hsb(210 50% 80% 10%)"])
def test_what_only_looks_like_them(text: str) -> None:
    assert try_color(text) is None
