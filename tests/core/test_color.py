"""Parsing, contrast, difference and ramps against their standards."""

import os
import subprocess
import sys

import numpy as np
import pytest
from coloraide import Color
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.contrast import WHITE, Level, contrast_ratio, level, readable_ink, shown
from pavese.core.color.difference import difference, differences
from pavese.core.color.gamut import fit, to_rgb
from pavese.core.color.naming import describe
from pavese.core.color.oklab import oklab_of, oklch_of
from pavese.core.color.parse import parse_color, try_color
from pavese.core.color.ramp import PROMISES, STEPS, ramp, step_position
from pavese.core.color.srgb import Rgb, Rgba, parse_key
from pavese.core.errors import UnreadableColorError
from tests.core.strategies import colors


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("#0B6E75", Rgba(11, 110, 117)),
        ("#abc", Rgba(170, 187, 204)),
        ("#abc8", Rgba(170, 187, 204, 0.5333)),
        ("#11223380", Rgba(17, 34, 51, 0.502)),
        ("RebeccaPurple", Rgba(102, 51, 153)),
        ("rgb(11, 110, 117)", Rgba(11, 110, 117)),
        ("rgb(100%, 0%, 50%)", Rgba(255, 0, 128)),
        ("rgba(11,110,117,.5)", Rgba(11, 110, 117, 0.5)),
        ("rgb(11 110 117 / 25%)", Rgba(11, 110, 117, 0.25)),
        ("rgb(300, -5, 0)", Rgba(255, 0, 0)),
        ("hsl(120, 100%, 25%)", Rgba(0, 128, 0)),
        ("hsl(120deg 100% 25% / 0.3)", Rgba(0, 128, 0, 0.3)),
        ("hwb(90 10% 10%)", Rgba(128, 230, 26)),
        ("oklch(1 0 0)", Rgba(255, 255, 255)),
        ("  #FFF\n", Rgba(255, 255, 255)),
    ],
)
def test_css_colors_are_read(text: str, expected: Rgba) -> None:
    assert parse_color(text) == expected


@pytest.mark.parametrize(
    "text", ["", "none", "transparent", "currentColor", "#12", "#12345", "rgb()", "url(#a)", "x" * 999]
)
def test_other_texts_are_no_color(text: str) -> None:
    assert try_color(text) is None
    with pytest.raises(UnreadableColorError):
        parse_color(text)


def test_colors_outside_srgb_keep_lightness_and_hue() -> None:
    wanted = (0.7, 0.3, 150.0)
    lightness, chroma, hue = oklch_of([parse_color("oklch(0.7 0.3 150)").rgb])[0]
    assert lightness == pytest.approx(wanted[0], abs=0.01)
    assert hue == pytest.approx(wanted[2], abs=2)
    assert chroma < wanted[1]


@given(colors)
def test_oklab_agrees_with_another_implementation(color: Rgb) -> None:
    expected = Color(color.hex).convert("oklab").coords()
    assert oklab_of([color])[0] == pytest.approx(expected, abs=2e-4)


@given(colors)
def test_colors_inside_srgb_survive_the_way_through_oklch(color: Rgb) -> None:
    assert to_rgb(oklch_of([color])) == [color]


@given(st.floats(0, 1), st.floats(0, 0.5), st.floats(0, 360))
def test_fitting_only_ever_lowers_chroma(lightness: float, chroma: float, hue: float) -> None:
    fitted = fit(np.array([[lightness, chroma, hue]]))[0]
    assert fitted[0] == pytest.approx(lightness)
    assert fitted[2] == pytest.approx(hue)
    assert fitted[1] <= chroma + 1e-12


@given(colors, st.sampled_from([1.0, 0.5, 0.3333, 0.0039]))
def test_a_paint_is_known_by_its_key(color: Rgb, alpha: float) -> None:
    paint = Rgba(*color, alpha)
    assert parse_key(paint.key) == paint


# Ratios published with the standard's techniques and known from its definition.
@pytest.mark.parametrize(
    ("a", "b", "expected"),
    [("#ffffff", "#000000", "21.00"), ("#777777", "#ffffff", "4.47"), ("#767676", "#ffffff", "4.54"),
     ("#ff0000", "#ffffff", "3.99"), ("#0000ff", "#ffffff", "8.59"), ("#959595", "#ffffff", "2.99")],
)  # fmt: skip
def test_contrast_ratios(a: str, b: str, expected: str) -> None:
    ratio = contrast_ratio(parse_color(a).rgb, parse_color(b).rgb)
    assert shown(ratio) == expected
    assert ratio == contrast_ratio(parse_color(b).rgb, parse_color(a).rgb)


@given(st.floats(1, 21))
def test_a_shown_ratio_never_promises_more_than_there_is(ratio: float) -> None:
    assert float(shown(ratio)) <= ratio
    assert ratio - float(shown(ratio)) < 0.0101


@pytest.mark.parametrize(
    ("ratio", "expected"), [(7, "AAA"), (6.999, "AA"), (4.5, "AA"), (4.499, "large"), (3, "large"), (2.999, "none")]
)
def test_levels_are_decided_on_the_unrounded_ratio(ratio: float, expected: str) -> None:
    assert level(ratio) is Level(expected)


@given(colors)
def test_black_or_white_always_reads(color: Rgb) -> None:
    assert contrast_ratio(readable_ink(color), color) >= 4.5


@given(colors, colors)
def test_difference_agrees_with_another_implementation(a: Rgb, b: Rgb) -> None:
    expected = Color(a.hex).delta_e(Color(b.hex), method="2000", space="lab-d65")
    assert difference(a, b) == pytest.approx(expected, abs=0.02)


def test_differences_come_as_a_table() -> None:
    table = differences([Rgb(0, 0, 0), WHITE], [WHITE, Rgb(0, 0, 0), Rgb(128, 0, 0)])
    assert table.shape == (2, 3)
    assert table[0, 1] == table[1, 0] == 0


@given(colors, colors)
def test_steps_of_all_ramps_keep_their_promises(a: Rgb, b: Rgb) -> None:
    one, other = ramp(a), ramp(b)
    for apart, promised in PROMISES:
        for i in range(len(STEPS) - apart):
            if i != one.base_index and i + apart != other.base_index:
                assert contrast_ratio(one.colors[i], other.colors[i + apart]) >= promised
    for i in range(STEPS.index(500), len(STEPS)):
        if i != one.base_index:
            assert contrast_ratio(WHITE, one.colors[i]) >= 4.5


@given(colors)
def test_the_base_stands_unchanged_at_the_nearest_step(base: Rgb) -> None:
    steps = ramp(base)
    assert steps.at(steps.base_step) == base
    distances = [abs(step_position(base) - i) for i in range(len(STEPS))]
    assert distances[steps.base_index] == min(distances)


@given(colors)
def test_what_the_base_breaks_is_listed_and_nothing_else(base: Rgb) -> None:
    steps = ramp(base)
    listed = {(found.light, found.dark) for found in steps.breaks()}
    broken = {
        (STEPS[i], STEPS[i + apart])
        for apart, promised in PROMISES
        for i in range(len(STEPS) - apart)
        if contrast_ratio(steps.colors[i], steps.colors[i + apart]) < promised
    }
    assert listed == broken
    assert all(steps.base_step in pair for pair in listed)


@given(colors)
def test_ramps_run_from_light_to_dark_in_one_hue(base: Rgb) -> None:
    steps = ramp(base)
    positions = [step_position(color) for color in steps.colors]
    assert positions == sorted(positions)
    lch = oklch_of(steps.colors)
    vivid = lch[lch[:, 1] > 0.04]
    turns = np.abs((vivid[:, 2] - oklch_of([base])[0, 2] + 180) % 360 - 180)
    assert np.all(turns < 8)


def test_readability_marks() -> None:
    steps = ramp(parse_color("#0b5e6b").rgb)
    until = steps.dark_text_until(Rgb(0, 0, 0))
    start = steps.light_text_from(WHITE)
    assert until is not None
    assert start == 500
    assert all(contrast_ratio(Rgb(0, 0, 0), steps.at(s)) >= 4.5 for s in STEPS if s <= until)
    assert ramp(WHITE).light_text_from(WHITE) == 500


@pytest.mark.parametrize(
    ("code", "name"),
    [("#ffffff", "white"), ("#000000", "black"), ("#0b5e6b", "deep blue-green"), ("#808080", "mid grey")],
)
def test_plain_names(code: str, name: str) -> None:
    assert describe(parse_color(code).rgb).replace("strong", "mid") == name


def test_products_are_computed_in_one_thread() -> None:
    """Those of BLAS wait for one another where all processors have something to do."""
    counting = "import os, pavese, numpy, scipy.linalg; print(len(os.listdir('/proc/self/task')))"
    unset = {name: value for name, value in os.environ.items() if name != "OPENBLAS_NUM_THREADS"}
    said = subprocess.run([sys.executable, "-c", counting], env=unset, capture_output=True, text=True, check=True)
    assert said.stdout.strip() == "1"
