"""A color in the place of another is written as that was."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.parse import parse_color, try_color
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.marks import MOST_MARKS, mark, marked
from pavese.core.formats.notation import rewritten
from tests.core.strategies import colors

WAYS = [
    "{0.hex}",
    "rgb({0.r},{0.g},{0.b})",
    "rgb({0.r} {0.g} {0.b})",
    "rgba({0.r}, {0.g}, {0.b}, .25)",
    "rgb({0.r} {0.g} {0.b} / 40%)",
    "{0.hex}80",
]


@given(colors, colors, st.sampled_from(WAYS), st.booleans())
def test_what_is_read_back_is_the_target_with_the_alpha_that_was_there(
    came: Rgb, target: Rgb, way: str, upper: bool
) -> None:
    written = way.format(came)
    written = written.upper() if upper and written.startswith("#") else written
    paint = parse_color(written)
    new = rewritten(written, paint, target).decode()
    assert try_color(new) == Rgba(*target, paint.alpha)
    assert new.startswith("#") or paint.alpha < 1 or not written.startswith("#")
    if written.startswith("#") and any("A" <= sign <= "F" for sign in written):
        assert new == new.upper()


@pytest.mark.parametrize(
    ("written", "expected"),
    [
        ("#fff", b"#0a1b2c"),
        ("#FFF", b"#0A1B2C"),
        ("#fffc", b"#0a1b2ccc"),
        ("ffffff", b"0a1b2c"),
        ("FFF", b"0A1B2C"),
        ("FfF", b"0a1b2c"),
        ("white", b"#0a1b2c"),
        ("rgba(255,255,255,.5)", b"rgba(10,27,44,.5)"),
        ("rgb(255 255 255 / 50%)", b"rgba(10,27,44,50%)"),
    ],
)
def test_the_manner_stays(written: str, expected: bytes) -> None:
    paint = try_color(written) or parse_color(f"#{written}")
    assert rewritten(written, paint, Rgb(10, 27, 44)) == expected


@given(st.integers(0, MOST_MARKS - 1), st.integers(1, MOST_MARKS))
def test_a_mark_tells_its_place_and_no_color_of_a_browser_does(number: int, count: int) -> None:
    assert marked(mark(number), count) == (number if number < count else None)
    for color in (Rgb(0, 0, 0), Rgb(0, 0, 238), Rgb(255, 255, 255)):
        assert marked(color, count) is None
