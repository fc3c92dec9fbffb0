"""Where the color of an SVG's elements comes from: which declaration wins, and what is implied."""

from __future__ import annotations

import pytest

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.svg import read_svg
from pavese.core.formats.svg.cascade import Cascade
from pavese.core.formats.svg.places import written_colors
from pavese.core.formats.xml_source import read_xml
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind

NS = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'
BLACK = Rgba(0, 0, 0)
TEAL = Rgb(11, 94, 107)


def winner(sheet: str, attributes: str, name: str = "fill") -> str | None:
    source = read_xml("x.svg", f"<svg {NS}><style>{sheet}</style><g><path {attributes}/></g></svg>".encode())
    cascade = Cascade(source, written_colors(source).sheets)
    return cascade.declared(source.elements[-1]).get(name)


@pytest.mark.parametrize(
    ("sheet", "attributes", "expected"),
    [
        ("", 'fill="red"', "red"),
        ("", 'fill="red" style="fill:blue"', "blue"),
        ("path{fill:lime}", 'fill="red"', "lime"),
        ("path{fill:lime}", 'fill="red" style="fill:blue"', "blue"),
        ("path{fill:lime !important}", 'style="fill:blue"', "lime"),
        ("path{fill:lime !important}", 'style="fill:blue !important"', "blue"),
        (".a{fill:lime} path{fill:red}", 'class="a"', "lime"),
        ("path{fill:red} path{fill:lime}", "", "lime"),
        ("#i{fill:lime} .a.b{fill:red}", 'class="a b" id="i"', "lime"),
        ("g &gt; path{fill:lime} path{fill:red}", "", "lime"),
        ("svg rect{fill:lime}", "", None),
        ("@media print{path{fill:lime}}", "", None),
        ("@supports (x:y){path{fill:lime}}", "", "lime"),
        ("path::before{fill:lime}", "", None),
        ("path:hover{fill:lime}", "", None),
        ("?!{fill:red} path{fill:lime}", "", "lime"),
        ("*{fill:lime}", "", "lime"),
        ("[data-x=y]{fill:lime}", 'data-x="y"', "lime"),
    ],
)
def test_the_declaration_that_wins(sheet: str, attributes: str, expected: str | None) -> None:
    found = winner(sheet, attributes)
    assert (found.strip() if found else None) == expected


def paints(body: str) -> dict[Rgba, dict[Kind, int]]:
    document = read_svg("x.svg", f"<svg {NS}>{body}</svg>".encode())
    return {paint: dict(kinds) for paint, kinds in document.inventory().sites.items()}


PATH = '<path d="M0 0h9v9z"/>'


@pytest.mark.parametrize(
    ("body", "expected"),
    [
        (PATH, {Kind.FILL: 1}),
        (f"{PATH}{PATH}<text>a</text>", {Kind.FILL: 2, Kind.TEXT: 1}),
        (f'<g fill="none">{PATH}</g>', {}),
        (f'<g fill="inherit">{PATH}</g>', {Kind.FILL: 1}),
        (f'<g fill="nonsense">{PATH}</g>', {Kind.FILL: 1}),
        (f'<g style="fill:url(#x)">{PATH}</g>', {}),
        (f"<style>g{{fill:none}}</style><g>{PATH}</g>", {}),
        (f"<style>.x{{fill:none}}</style><g>{PATH}</g>", {Kind.FILL: 1}),
        (f'<g fill="var(--gone)">{PATH}</g>', {Kind.FILL: 1}),
        (f'<g fill="var(--none)" style="--none:none">{PATH}</g>', {}),
        (f'<g style="--a:var(--b);--b:none"><g fill="var(--a)">{PATH}</g></g>', {}),
        (f'<g style="--a:var(--b);--b:var(--a)" fill="var(--a)">{PATH}</g>', {Kind.FILL: 1}),
        (f'<g fill="currentColor">{PATH}</g>', {Kind.FILL: 1}),
        (f'<g color="none" fill="currentColor">{PATH}</g>', {}),
        (f'<g stroke="currentColor" fill="none">{PATH}<line x2="9"/></g>', {Kind.STROKE: 2}),
        ('<line x2="9"/>', {}),
        (f"<clipPath>{PATH}</clipPath>", {}),
        (f"<mask>{PATH}</mask>", {}),
        (f'<defs>{PATH}</defs>', {Kind.FILL: 1}),
        (f'<defs><g id="t">{PATH}</g></defs><use href="#t" fill="none"/>', {}),
        (f'<defs><g id="t">{PATH}</g></defs><use xlink:href="#t" fill="none"/><use href="#t"/>', {Kind.FILL: 1}),
        (f'<symbol id="s">{PATH}</symbol><use href="#s" fill="none"/>', {}),
        (f'<symbol id="s">{PATH}</symbol>', {Kind.FILL: 1}),
        ('<use id="u" href="#u"/>', {}),
        ("<linearGradient><stop/></linearGradient>", {Kind.STOP: 1}),
        ('<linearGradient><stop stop-color="currentColor"/></linearGradient>', {Kind.STOP: 1}),
        ('<linearGradient><stop style="stop-color:#000"/></linearGradient>', {Kind.STOP: 1}),
        ("<filter><feFlood/><feDropShadow/></filter>", {Kind.EFFECT: 2}),
        ('<path fill="initial"/>', {Kind.FILL: 1}),
        ('<rect fill="freeze"><set attributeName="fill" to="#000" fill="freeze"/></rect>', {Kind.FILL: 2}),
        (f"<pattern>{PATH}</pattern>", {Kind.FILL: 1}),
        ('<foreignObject><p xmlns="http://www.w3.org/1999/xhtml" style="color:#000">x</p></foreignObject>', {}),
    ],
)  # fmt: skip
def test_black_that_is_implied(body: str, expected: dict[Kind, int]) -> None:
    assert paints(body).get(BLACK, {}) == expected


def test_white_that_is_implied() -> None:
    assert paints("<filter><feDiffuseLighting/></filter>") == {Rgba(255, 255, 255): {Kind.EFFECT: 1}}


@pytest.mark.parametrize(
    ("before", "after"),
    [
        (f"<svg {NS}>{PATH}</svg>", f'<svg fill="#0b5e6b" {NS}>{PATH}</svg>'),
        (f'<svg fill="inherit" {NS}>{PATH}</svg>',
         f'<svg style="fill:#0b5e6b !important" fill="inherit" {NS}>{PATH}</svg>'),
        (f'<svg style="fill:inherit" {NS}>{PATH}</svg>',
         f'<svg style="fill:inherit;fill:#0b5e6b !important" {NS}>{PATH}</svg>'),
        (f"<svg {NS}><filter><feFlood/></filter></svg>",
         f'<svg {NS}><filter><feFlood flood-color="#0b5e6b"/></filter></svg>'),
        (f"<svg {NS}><mask>{PATH}</mask>{PATH}</svg>",
         f'<svg fill="#0b5e6b" {NS}><mask fill="#000000">{PATH}</mask>{PATH}</svg>'),
        (f"<svg {NS}><mask>{PATH}</mask></svg>", f"<svg {NS}><mask>{PATH}</mask></svg>"),
    ],
)  # fmt: skip
def test_how_implied_black_is_declared(before: str, after: str) -> None:
    assert read_svg("x.svg", before.encode()).write({BLACK: TEAL}).decode() == after


def test_a_chain_of_use_does_not_explode() -> None:
    doubled = "".join(
        f'<g id="g{n}"><use href="#g{n - 1}"/><use href="#g{n - 1}" fill="red"/></g>' for n in range(1, 60)
    )
    found = paints(f'<defs><g id="g0">{PATH}</g>{doubled}</defs><use href="#g59"/>')
    assert found[BLACK] == {Kind.FILL: 1}


def test_gradients_that_only_masks_use_are_no_paint() -> None:
    gradient = '<linearGradient id="{0}"{1}><stop stop-color="#fff"/></linearGradient>'
    shared = gradient.format("a", "") + '<mask><rect fill="url(#a)"/></mask>'
    assert paints(shared) == {}
    assert Rgba(255, 255, 255) in paints(shared + '<rect fill="url(#a)"/>')
    chained = gradient.format("a", "") + '<linearGradient id="b" href="#a"/><mask><rect fill="url(#b)"/></mask>'
    assert paints(chained) == {}


@pytest.mark.parametrize(
    ("body", "remark"),
    [
        ('<image href="data:image/png;base64,AA=="/>', "holds a picture"),
        ('<image href="photo.png"/>', "not fetched"),
        ("<foreignObject/>", "another format"),
        ('<path fill="rgb(var(--r) 0 0)"/>', "put together from variables"),
    ],
)
def test_what_cannot_be_recolored_is_remarked(body: str, remark: str) -> None:
    document = read_svg("x.svg", f"<svg {NS}>{body}</svg>".encode())
    assert any(remark in text for text in document.inventory().remarks)


def test_a_variable_of_the_page_paints_nothing_and_does_not_begin_to() -> None:
    before = f'<svg {NS} fill="none"><path fill="var(--brand)" style="stroke: var( --edge )" d="M0 0h9v9z"/></svg>'
    document = read_svg("x.svg", before.encode())
    assert document.inventory().sites == {}
    assert "--brand, --edge from the page" in document.inventory().remarks[0]
    assert document.write(Recoloring({BLACK: TEAL})).decode() == before
    # Where nothing else is set, what is shown without the page is the black of every shape.
    shown = f'<svg {NS}><path fill="var(--brand)" d="M0 0h9v9z"/></svg>'
    assert read_svg("x.svg", shown.encode()).inventory().sites == {BLACK: {Kind.FILL: 1}}
    with_fallback = shown.replace("--brand", "--brand, red")
    assert read_svg("x.svg", with_fallback.encode()).inventory().sites == {Rgba(255, 0, 0): {Kind.FILL: 1}}


def test_parts_of_a_paint_go_their_own_way() -> None:
    sheet = "<style>.sail{fill:#f00}</style>"
    before = (
        f'<svg {NS}>{sheet}<path class="sail" d="M0 0h9v9z"/><g id="hull"><path fill="red" d="M0 0"/></g>'
        f'<path stroke="red" fill="red" d="M0 0"/></svg>'
    )
    document = read_svg("x.svg", before.encode())
    red = Rgba(255, 0, 0)
    assert document.inventory().selectors[red] == (".sail", "#hull")
    parts = {(red, ".sail"): Rgb(1, 1, 1), (red, "#hull"): Rgb(2, 2, 2), (red, "stroke"): Rgb(3, 3, 3)}
    after = document.write(Recoloring({red: TEAL}, parts)).decode()
    assert ".sail{fill:#010101}" in after
    assert '<g id="hull"><path fill="#020202"' in after
    assert f'stroke="#030303" fill="{TEAL.hex}"' in after
    kept = document.write(Recoloring({red: TEAL}, {}, frozenset(["#hull"]))).decode()
    assert '<g id="hull"><path fill="red"' in kept
    assert kept.count(TEAL.hex) == 3


def test_implied_black_is_split_where_it_shows() -> None:
    before = f'<svg {NS}><g id="a"><path d="M0 0h9v9z"/></g><path d="M0 0h2v2z"/></svg>'
    after = read_svg("x.svg", before.encode()).write(Recoloring({BLACK: TEAL}, {(BLACK, "#a"): None})).decode()
    assert after.count(TEAL.hex) == 1
    assert '<g id="a"><path d=' in after


@pytest.mark.parametrize(
    ("body", "kind"),
    [
        ('<text fill="#f00">a</text>', Kind.TEXT),
        ("<style>text{fill:#f00}</style><text>a</text>", Kind.TEXT),
        ("<style>g > .a, text#b{fill:#f00}</style><g><text class='a'>a</text><text id='b'>b</text></g>", Kind.TEXT),
        ('<g fill="#f00"><text>a</text><text>b</text></g>', Kind.TEXT),
        ('<g style="fill:#f00"><text>a</text></g>', Kind.TEXT),
        ('<g fill="#f00"><text>a</text><path d="M0 0h9v9z"/></g>', Kind.FILL),
        ("<style>.a{fill:#f00}</style><text class='a'>a</text><path class='a' d='M0 0h9v9z'/>", Kind.FILL),
        ("<style>.a, path{fill:#f00}</style><text class='a'>a</text><path d='M0 0h9v9z'/>", Kind.FILL),
        ('<text stroke="#f00">a</text>', Kind.STROKE),
    ],
)
def test_the_ink_of_nothing_but_texts_is_theirs(body: str, kind: Kind) -> None:
    found = read_svg("x.svg", f'<svg xmlns="http://www.w3.org/2000/svg">{body}</svg>'.encode()).inventory()
    assert found.sites[Rgba(255, 0, 0)] == {kind: 1}
