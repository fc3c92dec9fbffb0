"""Colors in CSS text: found with their exact places, and nothing else taken for one."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.mix import color_mix, method_of
from pavese.core.color.parse import parse_color, try_color
from pavese.core.css import read_declarations, read_value


def literals(text: str) -> list[str]:
    return [text[found.start : found.end] for found in read_value(text).literals]


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("#f00", ["#f00"]),
        (" #F00 ", ["#F00"]),
        ("red", ["red"]),
        ("RED", ["RED"]),
        ("none", []),
        ("transparent", []),
        ("currentColor", []),
        ("inherit", []),
        ("#12345", []),
        ("rgb(1, 2, 3)", ["rgb(1, 2, 3)"]),
        ("RGBA( 1,2,3 , .5 )", ["RGBA( 1,2,3 , .5 )"]),
        ("hsl(10 20% 30% / 40%)", ["hsl(10 20% 30% / 40%)"]),
        ("oklch(60% 0.1 200)", ["oklch(60% 0.1 200)"]),
        ("url(#a) red", ["red"]),
        ("url('#red') #abc", ["#abc"]),
        ("url(data:image/png;base64,#fff)", []),
        ("var(--x, #f00)", ["#f00"]),
        ("var(--x, var(--y, rgb(1 2 3)))", ["rgb(1 2 3)"]),
        ("color-mix(in srgb, red 20%, #00f)", ["red", "#00f"]),
        ("light-dark(#fff, black)", ["#fff", "black"]),
        ("drop-shadow(0 1px 2px rgba(0,0,0,.3)) blur(2px)", ["rgba(0,0,0,.3)"]),
        ("no-repeat url(x.png) white", ["white"]),
        ("#f00;\n#0f0 ; blue", ["#f00", "#0f0", "blue"]),
        ("#f00;\r\nrgb(1,\r\n2,3);#00f", ["#f00", "rgb(1,\r\n2,3)", "#00f"]),
        ("/* red */ #abc /* blue */", ["#abc"]),
        ("\"red\" '#fff'", []),
        ("rgb(var(--r), 2, 3)", []),
        ("é #abc", ["#abc"]),
        ("🛟 red", ["red"]),
        ("", []),
    ],
)
def test_literals_of_a_value(text: str, expected: list[str]) -> None:
    assert literals(text) == expected


def test_what_else_a_value_says() -> None:
    value = read_value("var(--a, url(#g)) currentcolor rgb(var(--b) 0 0)")
    assert value.variables == ("--a",)
    assert value.references == ("#g",)
    assert value.current
    assert value.unread == ("rgb(var(--b) 0 0)",)
    assert read_value(" None ").keyword == "none"
    assert read_value("none red").keyword is None
    assert not read_value("inherit").paints
    assert read_value("url(#x)").paints


SHEET = """\
<!-- /* fill: red */
.a, #b > c[d="}"]:not(.e) { fill:#f00 ; STROKE : red!important;;--own: { x: 1 } }
@import url("x.css"); @media print { .p { fill: blue } }
@supports (fill: red) { @layer base { .l { color: #123 } } }
.n { fill: #111; &:hover { fill: #222 } stroke: #333 }
@keyframes k { from { fill: #444 } 50% { fill: #555 } }
broken { fill } .last { fill: #666
"""


def test_declarations_of_a_sheet() -> None:
    found = [
        (d.selector, d.name, SHEET[d.start : d.end].strip(), d.important, d.at_rules) for d in read_declarations(SHEET)
    ]
    compound = '.a, #b > c[d="}"]:not(.e)'
    assert found == [
        (compound, "fill", "#f00", False, ()),
        (compound, "stroke", "red", True, ()),
        (compound, "--own", "{ x: 1 }", False, ()),
        (".p", "fill", "blue", False, ("media print",)),
        (".l", "color", "#123", False, ("supports (fill: red)", "layer base")),
        (".n", "fill", "#111", False, ()),
        ("&:hover", "fill", "#222", False, ()),
        (".n", "stroke", "#333", False, ()),
        ("from", "fill", "#444", False, ("keyframes k",)),
        ("50%", "fill", "#555", False, ("keyframes k",)),
        (".last", "fill", "#666", False, ()),
    ]


def test_declarations_of_a_style_attribute() -> None:
    text = " fill:red;;stroke : #fff ; --x:1; "
    assert [(d.name, text[d.start : d.end].strip(), d.selector) for d in read_declarations(text)] == [
        ("fill", "red", None),
        ("stroke", "#fff", None),
        ("--x", "1", None),
    ]


@given(st.text(max_size=120))
def test_any_text_is_read_and_places_hold_what_they_say(text: str) -> None:
    for found in read_value(text).literals:
        assert try_color(text[found.start : found.end]) == found.color
    for declaration in read_declarations(text):
        assert 0 <= declaration.start <= declaration.end <= len(text)


@given(st.text("#abcdef019 rgb(,);:{}/*'\"!-\\\r\n", max_size=60))
def test_any_text_made_of_css_is_read(text: str) -> None:
    for found in read_value(text).literals:
        assert try_color(text[found.start : found.end]) == found.color
    for declaration in read_declarations(text):
        assert read_value(text[declaration.start : declaration.end]) is not None


def test_what_color_mix_gives() -> None:
    """Examples of CSS Color 5, section 3, and what it says of shares, hues and alpha."""
    red, blue, peru, straw = (parse_color(name) for name in ("red", "blue", "peru", "palegoldenrod"))
    for text, first, second, wanted in (
        ("color-mix(in lch, peru 40%, palegoldenrod)", (peru, 0.4), (straw, None), "lch(79.7256 40.448 84.771)"),
        ("color-mix(in srgb, red 20%, blue)", (red, 0.2), (blue, None), "rgb(51 0 204)"),
        ("color-mix(in srgb, red, blue 20%)", (red, None), (blue, 0.2), "rgb(204 0 51)"),
        ("color-mix(in srgb, red, blue)", (red, None), (blue, None), "rgb(128 0 128)"),
        ("color-mix(in srgb, red 80%, blue 80%)", (red, 0.8), (blue, 0.8), "rgb(128 0 128)"),
        ("color-mix(in srgb, red 20%, blue 20%)", (red, 0.2), (blue, 0.2), "rgb(128 0 128 / 0.4)"),
        ("color-mix(in hsl, red, blue)", (red, None), (blue, None), "hsl(300 100% 50%)"),
        ("color-mix(in hsl longer hue, red, blue)", (red, None), (blue, None), "hsl(120 100% 50%)"),
        ("color-mix(in xyz, red, blue)", (red, None), (blue, None), "rgb(188 0 188)"),
    ):
        made = color_mix(first, second, method_of(text))
        assert made is not None
        expected = parse_color(wanted)
        assert max(abs(a - b) for a, b in zip(made.rgb, expected.rgb, strict=True)) <= 1, text
        assert made.alpha == expected.alpha
    # What is clear has no say in the color.
    bare = blue._replace(alpha=0.0)
    assert color_mix((red, None), (bare, None), method_of("color-mix(in srgb, x")) == (255, 0, 0, 0.5)
    assert color_mix((red, None), (blue, None), method_of("color-mix(in some-space, red, blue)")) is None
    assert color_mix((red, 0.0), (blue, 0.0)) is None
