"""Drawings set into others: on a backing, in a sprite, with variables for colors."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.svg import read_svg
from pavese.core.formats.svg.backing import backed
from pavese.core.formats.svg.size import box, extent
from pavese.core.formats.svg.sprite import sprite
from pavese.core.formats.xml_source import read_xml
from pavese.core.recolor.backing import BackingShape, FileBacking
from pavese.core.recolor.changes import Changes, Links
from pavese.core.recolor.recoloring import Recoloring
from pavese.demo.icons import icon_files
from pavese.demo.illustrations import illustration_files
from tests.formats.svgs import svgs

NS = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'
FOG = Rgb(238, 240, 236)
DRAWN = sorted({**icon_files(), **illustration_files()}.items())

backings = st.builds(
    FileBacking,
    shape=st.sampled_from(BackingShape),
    color=st.just("fog.base"),
    padding=st.integers(0, 40),
    size=st.integers(40, 100),
)


@given(svgs(), backings)
def test_a_backed_drawing_is_the_drawing_on_a_shape(data: bytes, backing: FileBacking) -> None:
    before, after = read_xml("x.svg", data), read_xml("x.svg", backed(data, backing, FOG))
    [inner] = [element for element in after.children(after.root) if element.name == "svg"]
    assert extent(after.root) == (max(extent(before.root)),) * 2, "as large as the drawing's longer side"
    x, y, width, height = (float(inner.attributes[name]) for name in ("x", "y", "width", "height"))
    assert x == y == pytest.approx((100 - width) / 2, abs=0.01)
    assert width == height == pytest.approx(backing.size * (1 - 2 * backing.padding / 100), abs=0.01)
    assert box(inner.attributes["viewBox"]) == (
        box(before.root.attributes.get("viewBox")) or (0, 0, *extent(before.root))
    )
    placed = {"x", "y", "width", "height", "viewBox"}
    old, new = before.subtree(before.root), after.subtree(inner)
    assert [element.name for element in new] == [element.name for element in old]
    for one, other in zip(old[1:], new[1:], strict=True):
        assert one.attributes == other.attributes
    assert {k: v for k, v in old[0].attributes.items() if k not in placed} == {
        k: v for k, v in new[0].attributes.items() if k not in placed
    }


@given(svgs(), backings)
def test_the_backing_is_the_only_paint_that_is_new(data: bytes, backing: FileBacking) -> None:
    before = read_svg("x.svg", data).inventory().sites
    after = read_svg("x.svg", backed(data, backing, FOG)).inventory().sites
    new = {paint: kinds for paint, kinds in after.items() if kinds != before.get(paint)}
    assert {paint.rgb for paint in new} == {FOG}
    assert set(before) <= set(after)


_REFERENCE = re.compile(r"url\(\s*[\"']?#([^\"')]+)")


def _references(attributes: dict[str, str]) -> list[str]:
    found = [id_ for value in attributes.values() for id_ in _REFERENCE.findall(value)]
    return found + [value[1:] for name, value in attributes.items() if name.endswith("href") and value.startswith("#")]


@given(st.lists(st.sampled_from(DRAWN), min_size=1, max_size=6))
def test_every_drawing_of_a_sprite_refers_to_its_own_parts(drawings: list[tuple[str, bytes]]) -> None:
    named = [(f"{at} {name}", data) for at, (name, data) in enumerate(drawings)]
    whole = read_xml("sprite.svg", sprite(named))
    symbols = whole.children(whole.root)
    assert [symbol.attributes["id"] for symbol in symbols] == [name for name, _ in named]
    ids = [element.attributes["id"] for element in whole.elements if "id" in element.attributes]
    assert len(ids) == len(set(ids)), "no id is given twice"
    for symbol, (_, data) in zip(symbols, named, strict=True):
        inside = whole.subtree(symbol)[1:]
        own = {element.attributes.get("id") for element in inside}
        wanted = [reference for element in inside for reference in _references(element.attributes)]
        assert set(wanted) <= own
        alone = read_xml("x.svg", data)
        assert len(wanted) == sum(len(_references(element.attributes)) for element in alone.elements)
        assert [element.name for element in inside] == [element.name for element in alone.elements]


def test_a_sprite_keeps_the_paints_and_tells_its_parts() -> None:
    document = read_svg("sprite.svg", sprite(DRAWN))
    assert [page.title for page in document.pages] == [name for name, _ in DRAWN]
    alone = {paint for name, data in DRAWN for paint in read_svg(name, data).inventory().paints}
    assert set(document.inventory().paints) == alone


def test_a_drawing_without_a_box_gets_one_in_a_sprite() -> None:
    whole = read_xml("s.svg", sprite([("a", f'<svg {NS} width="32" height="16"><path d="M0 0"/></svg>'.encode())]))
    assert whole.children(whole.root)[0].attributes["viewBox"] == "0 0 32 16"


@given(svgs(), st.data())
def test_a_drawing_with_variables_has_the_same_paints(data: bytes, chance: st.DataObject) -> None:
    document = read_svg("x.svg", data)
    found = sorted({paint.rgb for paint in document.inventory().paints})
    chosen = chance.draw(st.lists(st.sampled_from(found), unique=True)) if found else []
    names = {color: f"--tf-{at}" for at, color in enumerate(chosen)}
    written = document.write(Changes(links=Links({}, names)))
    again = read_svg("x.svg", written).inventory()
    assert set(again.paints) == set(document.inventory().paints)
    for color in chosen:
        for name in re.findall(rb"var\((--tf-\d+), %s\)" % color.hex.encode(), written):
            assert names[color] == name.decode()
    assert document.write(Changes(links=Links({}, {}))) == data


@pytest.mark.parametrize(
    "body",
    [
        '<path fill="#e53935" d="M0 0h9v9z"/><path fill="#2f3e9e" d="M9 0h9v9z"/><path d="M0 9h9v9z"/>',
        "<style>.a{fill:#e53935}.b{fill:#2f3e9e}</style><path class='a' d='M0 0h9v9z'/><path class='b' d='M9 0h9v9z'/>"
        '<path d="M0 9h9v9z"/>',
    ],
)
def test_a_variable_is_that_of_the_token_that_was_chosen(body: str) -> None:
    """Two tokens of one color, in places that are written and where black shows by inheritance."""
    document = read_svg("x.svg", f'<svg {NS} viewBox="0 0 18 18">{body}</svg>'.encode())
    red, blue, black = Rgba(0xE5, 0x39, 0x35), Rgba(0x2F, 0x3E, 0x9E), Rgba(0, 0, 0)
    tokens = {red: "fog.base", blue: "hull.100", black: "night.base"}
    to = Recoloring(dict.fromkeys(tokens, FOG), tokens=tokens)
    links = Links({token: f"--{token.replace('.', '-')}" for token in tokens.values()}, {FOG: "--first"})
    backing = FileBacking(color="sea.base")
    written = document.write(Changes(to, (backing,), {backing.color: FOG}, links)).decode()
    assert sorted(re.findall(r"var\((--[\w-]+), #[0-9a-f]{6}\)", written)) == [
        "--first", "--fog-base", "--hull-100", "--night-base",
    ]  # fmt: skip
    assert "var(--first, var(" not in written
    split = Recoloring({red: FOG}, {(red, "fill"): FOG}, tokens={red: "fog.base", (red, "fill"): "hull.100"})
    assert b"--hull-100" in document.write(Changes(split, links=links)), "the part decides, not its paint"
