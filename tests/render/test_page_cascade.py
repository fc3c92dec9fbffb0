"""The cascade as people see it: what a page's styles come to, each case laid out by the real engine."""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from pavese.core.gather.web_page import PageUse, read_elements
from pavese.render.page import WIDTH, PageReader, saved_page


@pytest.fixture(scope="module")
def reader() -> Iterator[PageReader]:
    made = PageReader()
    yield made
    made.close()


CASES = {
    "a variable defined on the root": (
        ":root { --sea: #0b5e6b } h1 { color: var(--sea) }",
        "<h1>Harbor</h1>",
        {PageUse.HEADING: {"#0b5e6b"}},
    ),
    "a variable that is not there falls back": (
        "h1 { color: var(--none, #d2452d) }",
        "<h1>Harbor</h1>",
        {PageUse.HEADING: {"#d2452d"}},
    ),
    "the more specific rule wins, whatever its place": (
        "main h2.x { color: #0b5e6b } h2 { color: #111111 }",
        "<main><h2 class=x>Harbor</h2></main>",
        {PageUse.HEADING: {"#0b5e6b"}},
    ),
    "important wins over the style attribute": (
        "p { color: #0b5e6b !important }",
        "<p style='color: #111111'>Words</p>",
        {PageUse.BODY: {"#0b5e6b"}},
    ),
    "color is inherited, background is not": (
        "section { color: #0b5e6b; background: #eef0ec }",
        "<section><p>Words</p></section>",
        {PageUse.BODY: {"#0b5e6b"}, PageUse.SECTION: {"#eef0ec"}},
    ),
    "currentColor on a border": (
        "p { color: #7d878c; border-bottom: 2px solid }",
        "<p>Words</p>",
        {PageUse.BORDER: {"#7d878c"}},
    ),
    "a border of no width is none": (
        "p { border: 0 solid #ff0000 }",
        "<p>Words</p>",
        {PageUse.BORDER: set()},
    ),
    "oklch, hsl and hwb are computed": (
        "h1 { color: oklch(0.44344 0.07397 211.7) } p { color: hsl(40 85% 58%) } a { color: hwb(240 0% 0%) }",
        "<h1>A</h1><p>B</p><a href=x>C</a>",
        {PageUse.HEADING: {"#0b5e6b"}, PageUse.BODY: {"#efb239"}, PageUse.LINK: {"#0000ff"}},
    ),
    "half-clear text is what it looks like on its ground": (
        "section { background: #000000 } p { color: rgb(255 255 255 / 0.5) }",
        "<section><p>Words</p></section>",
        {PageUse.BODY: {"#808080"}},
    ),
    "a clear background lets the one below through": (
        "body { background: #eef0ec } section { background: transparent }",
        "<section><p>Words</p></section>",
        {PageUse.PAGE: {"#eef0ec"}, PageUse.SECTION: set()},
    ),
    "a link with a ground of its own is a button": (
        "a { display: inline-block; padding: 9px; background: #d2452d; color: #ffffff }",
        "<a href=x>Book</a>",
        {PageUse.BUTTON: {"#d2452d"}, PageUse.BUTTON_TEXT: {"#ffffff"}, PageUse.LINK: set()},
    ),
    "buttons by element, by role and by input": (
        "button, [role=button], input { background: #d2452d; color: #ffffff; border: 0 }",
        "<button>A</button><span role=button tabindex=0>B</span><input type=submit value=Send>",
        {PageUse.BUTTON: {"#d2452d"}, PageUse.BUTTON_TEXT: {"#ffffff"}},
    ),
    "what is hidden does not count": (
        "p { color: #0b5e6b } .h { display: none; color: #ff0000 } .v { visibility: hidden; color: #00ff00 }",
        "<p>Words</p><p class=h>gone</p><p class=v>unseen</p>",
        {PageUse.BODY: {"#0b5e6b"}},
    ),
    "a media query for the screen holds, one for print does not": (
        "@media print { p { color: #ff0000 } } @media (min-width: 900px) { p { color: #0b5e6b } }",
        "<p>Words</p>",
        {PageUse.BODY: {"#0b5e6b"}},
    ),
    "layers and nesting": (
        "@layer base { h2 { color: #ff0000 } } main { & h2 { color: #0b5e6b } }",
        "<main><h2>Harbor</h2></main>",
        {PageUse.HEADING: {"#0b5e6b"}},
    ),
    "script does not run": (
        "body { background: #eef0ec }",
        "<p>x</p><script>document.body.style.background = '#ff0000'</script>",
        {PageUse.PAGE: {"#eef0ec"}},
    ),
}


@pytest.mark.parametrize("case", CASES)
def test_a_page_is_read_as_it_is_seen(reader: PageReader, case: str) -> None:
    style, body, expected = CASES[case]
    html = f"<!doctype html><html><head><title>{case}</title><style>{style}</style></head><body>{body}</body></html>"
    page = reader.read(saved_page("page.html", html.encode()))
    colors, _, _ = read_elements(page.elements, WIDTH, page.height)
    for use, codes in expected.items():
        assert {used.color.hex for used in colors if used.use is use} == codes, use
    assert page.title == case


def test_areas_are_what_is_seen_of_a_background(reader: PageReader) -> None:
    html = b"""<!doctype html><style>* { margin: 0 } body { background: #eef0ec; height: 800px }
    .a { background: #0b5e6b; height: 400px } .b { background: #d2452d; height: 100px; width: 640px }</style>
    <div class=a><div class=b></div></div>"""
    page = reader.read(saved_page("page.html", html))
    colors, _, _ = read_elements(page.elements, WIDTH, page.height)
    shares = {used.color.hex: used.share for used in colors}
    assert page.height == 800
    # The upper half is teal, an eighth of that under the red bar.
    assert shares["#0b5e6b"] == pytest.approx(0.5 - 0.0625, abs=0.01)
    assert shares["#d2452d"] == pytest.approx(0.0625, abs=0.01)
    assert shares["#eef0ec"] == pytest.approx(0.5, abs=0.01)


def test_a_very_tall_page_is_cut_and_says_so(reader: PageReader) -> None:
    html = b"<!doctype html><style>body { margin: 0 } div { height: 90000px; background: #0b5e6b }</style><div>x</div>"
    page = reader.read(saved_page("page.html", html))
    assert page.height == 6000
    assert any("the first 6,000 are in its picture" in note for note in page.notes)


def test_a_page_of_very_many_elements_is_read_within_its_bound(reader: PageReader) -> None:
    html = b"<!doctype html><body>" + b"<i style='color:#0b5e6b'>x</i>" * 22_000
    page = reader.read(saved_page("page.html", html))
    assert len(page.elements) == 20_000
    colors, fonts, _ = read_elements(page.elements, WIDTH, page.height)
    assert next(used.places for used in colors if used.use is PageUse.BODY) == 19_998
    assert fonts


@pytest.mark.parametrize(
    "data",
    [
        b"<html><body><p style='color:",
        b"<!doctype html>" + b"<div>" * 3000,
        b"<!doctype html><meta charset=utf-16><p>odd",
        "<!doctype html><meta charset=latin-1><title>F\xe4hre</title><p>\xfcber".encode("latin-1"),
        b"<!doctype html><meta http-equiv=refresh content='0;url=http://127.0.0.1:1/'><p>x",
        b"<!doctype html><iframe src='http://127.0.0.1:1/'></iframe><object data='file:///etc/passwd'></object>",
    ],
)
def test_odd_pages_are_read_and_lead_nowhere(reader: PageReader, data: bytes) -> None:
    page = reader.read(saved_page("page.html", data))
    assert page.height >= 1
    assert page.png.startswith(b"\x89PNG")
