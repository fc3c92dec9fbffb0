"""Color matrices that are a plain color: read, and written again with every other number as it stood."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.svg import read_svg
from pavese.core.formats.svg.matrix import is_linear, matrix_color, with_matrix_color
from pavese.core.formats.xml_source import read_xml
from tests.core.strategies import colors

NUMBERS = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?")


@pytest.mark.parametrize(
    ("values", "expected"),
    [
        ("0 0 0 0 1  0 0 0 0 0  0 0 0 0 0  0 0 0 1 0", Rgba(255, 0, 0)),
        ("0 0 0 0 0  0 0 0 0 0  0 0 0 0 0  0 0 0 0.25 0", Rgba(0, 0, 0, 0.25)),
        ("0,0,0,0,.2,0,0,0,0,.4,0,0,0,0,.6,0,0,0,.5,0", Rgba(51, 102, 153, 0.5)),
        ("0 0 0 0 .2 0 0 0 0 .4 0 0 0 0 .6 0 0 0 0 1", Rgba(51, 102, 153)),
        ("0 0 0 0 2 0 0 0 0-1 0 0 0 0 .6 0 0 0 1 0", Rgba(255, 0, 153)),
        ("0 0 0 0 1e0 0 0 0 0 0 0 0 0 0 0 0 0 0 1 0", Rgba(255, 0, 0)),
        # What computes, what hardens a shape for the next step, what shows nothing, and what is no matrix.
        ("1 0 0 0 0 0 1 0 0 0 0 0 1 0 0 0 0 0 1 0", None),
        ("0 0 0 .1 0 0 0 0 0 0 0 0 0 0 0 0 0 0 1 0", None),
        ("0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 1 0 0 1 0", None),
        ("0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 127 0", None),
        ("0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0", None),
        ("0 0 0 0 0", None),
        ("", None),
    ],
)
def test_what_a_matrix_shows(values: str, expected: Rgba | None) -> None:
    assert matrix_color(values, linear=False) == expected


@pytest.mark.parametrize(
    ("values", "remarks"),
    [("1 0 0 0 0 0 1 0 0 0 0 0 1 0 0 0 0 0 1 0", 1), ("0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 127 0", 0), ("", 1)],
)
def test_a_matrix_that_computes_is_reported(values: str, remarks: int) -> None:
    """The step that hardens a shadow before it is colored is no paint, and nothing to report either."""
    drawn = f'<svg xmlns="http://www.w3.org/2000/svg"><filter id="f"><feColorMatrix values="{values}"/></filter></svg>'
    inventory = read_svg("x.svg", drawn.encode()).inventory()
    assert (len(inventory.remarks), inventory.paints) == (remarks, ())


@given(colors, colors, st.booleans(), st.sampled_from([" ", ", ", "\n\t", ","]), st.sampled_from(["1", ".25", "0.5"]))
def test_a_color_put_in_is_read_back(before: Rgb, after: Rgb, linear: bool, gap: str, alpha: str) -> None:
    zero = f"0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 {alpha} 0".replace(" ", gap)
    first = with_matrix_color(zero, before, linear=linear)
    second = with_matrix_color(first, after, linear=linear)
    assert matrix_color(first, linear=linear) == Rgba(*before, float(alpha))
    assert matrix_color(second, linear=linear) == Rgba(*after, float(alpha))
    kept = [
        [number for at, number in enumerate(NUMBERS.findall(text)) if at not in (4, 9, 14)] for text in (zero, second)
    ]
    assert kept[0] == kept[1]


@pytest.mark.parametrize(
    "glued", ["0 0 0 0-.1 0 0 0 0+.5 0 0 0 0 1 0 0 0.5.25", "0 0 0 0.1.0 0 0 0.5.0 0 0 0.7.0 0 0 1 0"]
)
def test_numbers_that_stand_close_stay_apart(glued: str) -> None:
    numbers = len(NUMBERS.findall(glued))
    assert len(NUMBERS.findall(with_matrix_color(glued, Rgb(1, 2, 3), linear=False))) == numbers


@pytest.mark.parametrize(
    ("outer", "inner", "linear"),
    [
        ("", "", True),
        ("", 'color-interpolation-filters="sRGB"', False),
        ('color-interpolation-filters="sRGB"', "", False),
        ('color-interpolation-filters="sRGB"', 'color-interpolation-filters="linearRGB"', True),
        ('style="color-interpolation-filters : sRGB"', 'color-interpolation-filters="inherit"', False),
        ('color-interpolation-filters="sRGB"', 'style="color-interpolation-filters:auto"', True),
    ],
)
def test_the_space_a_filter_computes_in(outer: str, inner: str, linear: bool) -> None:
    data = f'<svg xmlns="http://www.w3.org/2000/svg"><filter {outer}><feColorMatrix {inner}/></filter></svg>'
    assert is_linear(read_xml("x.svg", data.encode()).elements[-1]) is linear
