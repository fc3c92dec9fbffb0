"""CSS colors beside another reader of the standard (tinycss2, which passes the suite of css-parsing-tests)."""

from __future__ import annotations

import pytest
from coloraide import Color
from hypothesis import given, settings
from hypothesis import strategies as st
from tinycss2.color4 import _COLOR_KEYWORDS, parse_color

from pavese.core.color.parse import try_color
from pavese.core.color.srgb import Rgb, Rgba
from tests.hostile import NUMBERS

_NUMBER = st.sampled_from(["0", "-0", "1", ".5", "-1.5", "50", "120.5", "1e2", "-30", "255", "300", "0.2", "none"])
_PART = st.one_of(_NUMBER, _NUMBER.filter(lambda n: n != "none").map(lambda n: f"{n}%"))
_HUE = st.one_of(_NUMBER, st.sampled_from(["30deg", "-90deg", "0.5turn", "100grad", "2rad", "30%", "1foo"]))
_ALPHA = st.sampled_from(["", " / 1", " / 50%", " / -1", " / 2", " / none", " / .25", " /.5", ", .5", " .5"])
_SPACES = st.sampled_from(["srgb", "srgb-linear", "display-p3", "a98-rgb", "prophoto-rgb", "rec2020", "xyz", "xyz-d50"])


@st.composite
def written(draw: st.DrawFn) -> str:
    """A color function, mostly as it should be written."""
    name = draw(st.sampled_from(["rgb", "rgba", "hsl", "hsla", "hwb", "lab", "lch", "oklab", "oklch", "color"]))
    hue_at = {"hsl": 0, "hsla": 0, "hwb": 0, "lch": 2, "oklch": 2}.get(name)
    parts = [draw(_HUE if at == hue_at else _PART) for at in range(draw(st.sampled_from([3, 3, 3, 3, 2, 4])))]
    between = draw(st.sampled_from([" ", " ", "  ", ", ", ","]))
    space = f"{draw(_SPACES)} " if name == "color" else ""
    return f"{draw(st.sampled_from([name, name.upper()]))}({space}{between.join(parts)}{draw(_ALPHA)})"


@settings(max_examples=400)
@given(written())
def test_what_is_a_color_and_which_one(text: str) -> None:
    ours, theirs = try_color(text), parse_color(text)
    # Where that reader is laxer than the standard: `none` and, in hsl(), plain numbers in the old notation.
    old = "," in text
    if (old and ("none" in text or text.lower().startswith("hsl"))) or "/ none" in text:
        return
    assert (ours is not None) == (theirs is not None), text
    if ours is None:
        return
    space = {"xyz": "xyz-d65"}.get(theirs.space, theirs.space)
    numbers = [number or 0.0 for number in theirs.coordinates]
    if space in ("hsl", "hwb"):
        numbers = [numbers[0], max(numbers[1], 0.0) / 100, numbers[2] / 100]
    if space in ("lch", "oklch"):
        numbers[1] = max(numbers[1], 0.0)
    expected = [255 * channel for channel in Color(space, numbers).convert("srgb").coords(nans=False)]
    if all(-0.02 <= channel <= 255.02 for channel in expected):
        assert all(abs(a - b) <= 0.51 for a, b in zip(ours.rgb, expected, strict=True)), (text, ours, expected)
    assert abs(ours.alpha - theirs.alpha) < 1e-3


@pytest.mark.parametrize("name", sorted(_COLOR_KEYWORDS))
def test_every_name_of_the_standard(name: str) -> None:
    assert try_color(name.upper()) == Rgba(*Rgb(*_COLOR_KEYWORDS[name]))


@pytest.mark.parametrize("text", NUMBERS)
def test_numbers_beyond_all_colors_are_clamped(text: str) -> None:
    assert try_color(text) is not None


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("lch(50 -20 30)", "#777777"),
        ("oklch(0.5 -0.1 30)", "#636363"),
        ("hsl(30 200% 50%)", "#ff8000"),
        ("hsl(30 -50% 50%)", "#808080"),
        ("device-cmyk(0 81% 81% 30%)", "#b22222"),
        ("device-cmyk(0, 0.81, 0.81, 0.3)", "#b22222"),
        ("device-cmyk(0, 81%, 81%, 30%)", None),
        ("device-cmyk(0 81% 81%)", None),
        ("color(--ours 0 0 0)", None),
    ],
)
def test_notations_at_their_edges(text: str, expected: str | None) -> None:
    found = try_color(text)
    assert (found.rgb.hex if found else None) == expected
