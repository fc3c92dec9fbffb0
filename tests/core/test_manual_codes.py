"""Codes as brand manuals write them, what is asked about a kit in words, and what looks like a code and is none."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb
from pavese.core.errors import RefusedFileError, UnreadableColorError
from pavese.core.gather.code_files import read_code_file
from pavese.core.kit.codes import find_codes, untaken_in
from pavese.core.kit.ours import asked_for
from pavese.demo.load import demo_kit
from tests.core.strategies import colors

TEAL = Rgb(11, 110, 79)
MANUAL = """Our colors, for screen and print

Harbor Teal
RGB 11 110 79
CMYK 90/0/28/57
HEX #0B6E4F
SPOT 3425 C

Signal red: R210 G69 B45, C0 M67 Y79 K18
Lamp    0xEFB23A   HSB 40 76 94
Kelp - RGB 107/125/58
Fog CMYK 0/0/1/6
"""


@pytest.mark.parametrize(
    "code",
    [
        "RGB 11 110 79",
        "RGB 11/110/79",
        "rgb: 11, 110, 79",
        "R11 G110 B79",
        "R: 11, G: 110, B: 79",
        "CMYK 90/0/28/57",
        "C90 M0 Y28 K57",
        "C=90% M=0% Y=28% K=57%",
        "0x0B6E4F",
        "0b6e4f",
    ],
)
def test_one_color_as_manuals_write_it(code: str) -> None:
    assert parse_color(code).rgb == TEAL
    [found] = find_codes(f"Teal: {code}\n")
    assert (found.color, found.name) == (TEAL, "Teal")


def test_hues_are_read_as_manuals_write_them() -> None:
    assert parse_color("HSB 205 60 88").rgb == parse_color("H205 S60 B88").rgb == Rgb(90, 168, 224)
    assert parse_color("HSL 205° 60% 44%").rgb == parse_color("hsl(205 60% 44%)").rgb


def test_a_page_of_a_manual_gives_each_color_once_under_its_name() -> None:
    found = {code.name: code.color.hex for code in find_codes(MANUAL)}
    assert found == {
        "Harbor Teal": "#0b6e4f",
        "Signal red": "#d2452d",
        "Lamp": "#efb23a",
        "Kelp": "#6b7d3a",
        "Fog": "#f0f0ed",
    }
    [spot] = untaken_in(MANUAL)
    assert (spot.line, spot.text) == (7, "SPOT 3425 C")
    assert "spot-color" in spot.why


@given(colors, colors)
def test_lines_in_two_notations_are_one_color_only_if_they_are(one: Rgb, other: Rgb) -> None:
    written = f"RGB {one.r} {one.g} {one.b}\nHEX {other.hex}\n"
    assert [code.color for code in find_codes(written)] == list(dict.fromkeys([one, other]))


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("RGB 300 1 2", "R is 0 to 255, here 300"),
        ("RGB 1 2", "RGB has 3 numbers, here are 2"),
        ("0xFF0B6E4F", "6 digits"),
        ("#12345", "3, 4, 6 or 8 digits"),
        ("rgb(1 2)", "no color"),
        ("CMYK 90 0 28", "CMYK has 4 numbers, here are 3"),
    ],
)
def test_what_was_not_taken_says_why(text: str, why: str) -> None:
    assert find_codes(f"Teal {text}") == ()
    [left] = untaken_in(f"first\nTeal {text}")
    assert (left.line, left.text) == (2, text)
    assert why in left.why


def test_a_field_says_what_is_wrong_with_a_code() -> None:
    with pytest.raises(UnreadableColorError, match="G is 0 to 255, here 256"):
        parse_color("RGB 0 256 0")


def test_an_order_is_hardly_a_color_and_alpha_is_told() -> None:
    found = {code.code: code for code in find_codes("order #1001 of 3 items\nveil rgba(11, 110, 79, 0.5)\nblack #000")}
    assert not found["#1001"].certain
    assert found["#000"].certain
    assert found["rgba(11, 110, 79, 0.5)"].alpha == 0.5


@given(st.text(alphabet="RGBCMYKHSV0x#123 ,/|:=%°.\n()", max_size=120))
def test_nothing_that_looks_like_a_code_is_both_taken_and_not(text: str) -> None:
    taken = {(code.line, code.code) for code in find_codes(text)}
    assert taken.isdisjoint((left.line, left.text) for left in untaken_in(text))


def test_names_of_the_kit_come_before_words_of_css() -> None:
    kit = demo_kit()
    named = [color.model_copy(update={"name": "Plum"}) if color.key == "kelp" else color for color in kit.colors]
    kit = kit.model_copy(update={"colors": tuple(named)})
    plum = next(color for color in kit.colors if color.name == "Plum")
    asked = dict(asked_for("plum\nPLUM 300; navy, Deep water base", kit))
    assert asked["plum"] == plum.base
    assert asked["PLUM 300"] == plum.ramp.at(300)
    assert asked["navy"] == Rgb(0, 0, 128)
    assert asked["Deep water base"] == kit.color("deep-water").base


@pytest.mark.parametrize(
    ("text", "codes"),
    [
        ("#0b5e6b #0b5e6b #efb23a #111", ["#0b5e6b", "#0b5e6b", "#efb23a", "#111"]),
        ("rgb(11, 110, 79), kelp; #fff", ["rgb(11, 110, 79)", "kelp", "#fff"]),
        ("kelp Deep water 300 RGB 11 110 79", ["kelp", "Deep water 300", "RGB 11 110 79"]),
        ("Lamp #efb23a", ["#efb23a"]),
        ("RGB 11, 110, 79", ["RGB 11, 110, 79"]),
    ],
)
def test_each_code_that_is_asked_for_is_answered(text: str, codes: list[str]) -> None:
    assert [code for code, _ in asked_for(text, demo_kit())] == codes


def test_an_open_text_palette_is_read() -> None:
    palette = b"FREE Palette\nName: Tarn\nColumns: 2\n# by hand\n 11 110  79\tHarbor teal\n210  69  45 Untitled\n"
    first, second = read_code_file("tarn.gpl", palette)
    assert (first.color, first.name) == (TEAL, "Harbor teal")
    assert second.color == Rgb(210, 69, 45)
    assert read_code_file("tarn.txt", palette) == (first, second), "by what it holds"
    with pytest.raises(RefusedFileError, match="line 2 has a channel above 255"):
        read_code_file("tarn.gpl", b"FREE Palette\n300 0 0 X\n")
