"""The same drawing written in other ways has the same paints, and becomes the same picture."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.svg import read_svg
from pavese.core.formats.svg.cascade import Cascade, _all_together, _each_alone
from pavese.core.formats.svg.document import SvgDocument
from pavese.core.formats.xml_source import read_xml
from pavese.core.recolor.site import Kind
from tests.formats.svgs import colors

NS = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'
TEAL = Rgb(11, 94, 107)
Shapes = list[tuple[str, dict[str, str]]]
ATTRIBUTE, SINGLE = ' {}="{}"', "\n{} = '{}'"

_names = st.sampled_from(["path", "g", "rect", "svg", "*", "linearGradient"])
_one = st.builds(
    lambda name, marks: name + "".join(marks) or "*",
    st.just("") | _names,
    st.lists(st.sampled_from([".a", ".b", "#i", "#j"]), max_size=2),
)
_alone = st.lists(_one, min_size=1, max_size=3).map(", ".join)


@st.composite
def _trees(draw: st.DrawFn, depth: int = 3) -> str:
    """Elements with ids and classes, nested."""
    made = []
    for _ in range(draw(st.integers(0, 3))):
        name = draw(st.sampled_from(["path", "g", "rect"]))
        id_ = draw(st.sampled_from(["", ' id="i"', ' id="j"']))
        class_ = draw(st.sampled_from(["", ' class="a"', ' class=" b  a "', ' class="ab"']))
        inner = draw(_trees(depth - 1)) if depth and name == "g" else ""
        made.append(f"<{name}{id_}{class_}>{inner}</{name}>")
    return "".join(made)


@given(st.lists(_alone, min_size=1, max_size=4, unique=True), _trees())
def test_selectors_of_one_element_match_without_the_tree_as_they_do_with_it(selectors: list[str], tree: str) -> None:
    source = read_xml("x.svg", f"<svg {NS}>{tree}<x:g xmlns:x='u' class='a'/></svg>".encode())
    wanted = tuple(selectors)
    assert dict(_each_alone(source, wanted)) == dict(_all_together(source, wanted))


@st.composite
def _painted(draw: st.DrawFn) -> Shapes:
    """Shapes with a fill, a stroke, both or neither."""
    made = []
    for _ in range(draw(st.integers(1, 5))):
        properties = draw(
            st.dictionaries(
                st.sampled_from(["fill", "stroke", "color"]),
                colors | st.sampled_from(["none", "currentColor", "inherit"]),
                max_size=3,
            )
        )
        made.append((draw(st.sampled_from(["path", "rect", "line", "text"])), properties))
    return made


def _told(said: dict[str, str], pattern: str) -> str:
    return "".join(pattern.format(name, value) for name, value in said.items())


def _as_attributes(shapes: Shapes) -> str:
    return "".join(f"<{shape}{_told(said, ATTRIBUTE)}/>" for shape, said in shapes)


def _in_single_quotes(shapes: Shapes) -> str:
    trap = "title='> fill=\"red\"'"
    return "".join(f"<{shape} {trap}{_told(said, SINGLE)}></{shape}>" for shape, said in shapes)


def _as_references(shapes: Shapes) -> str:
    """Every character of every value written by its number."""
    return _as_attributes(
        [
            (shape, {name: "".join(f"&#{ord(one)};" for one in value) for name, value in said.items()})
            for shape, said in shapes
        ]
    )


def _as_style(shapes: Shapes) -> str:
    return "".join(f'<{shape} style="{_told(said, " {} : {} ;")}"/>' for shape, said in shapes)


def _as_rules(shapes: Shapes) -> str:
    rules = "".join(f".s{at}{{{_told(said, '{}:{};')}}}" for at, (_, said) in enumerate(shapes))
    drawn = "".join(f'<{shape} class="s{at} other"/>' for at, (shape, _) in enumerate(shapes))
    return f"<style>/* all */{rules}</style>{drawn}"


def _as_variables(shapes: Shapes) -> str:
    made = []
    for at, (shape, said) in enumerate(shapes):
        defined = _told({f"--v{at}-{name}": value for name, value in said.items()}, "{}:{};")
        used = _told({name: f"var(--v{at}-{name})" for name in said}, ATTRIBUTE)
        made.append(f'<{shape} style="{defined}"{used}/>')
    return "".join(made)


_NOTATIONS = (_in_single_quotes, _as_references, _as_style, _as_rules)


def _document(body: str) -> SvgDocument:
    return read_svg("x.svg", f"<svg {NS}>{body}</svg>".encode())


@pytest.mark.parametrize("notation", _NOTATIONS)
@given(shapes=_painted())
def test_every_notation_has_the_same_paints(notation: Callable[[Shapes], str], shapes: Shapes) -> None:
    plain, other = _document(_as_attributes(shapes)), _document(notation(shapes))
    kinds = (Kind.FILL, Kind.TEXT) if notation is _as_rules else ()
    assert _counted(plain, kinds) == _counted(other, kinds)


@given(_painted())
def test_a_paint_behind_a_variable_is_the_same_paint(shapes: Shapes) -> None:
    plain, other = _document(_as_attributes(shapes)), _document(_as_variables(shapes))
    assert set(plain.inventory().paints) == set(other.inventory().paints)


@pytest.mark.parametrize("notation", [*_NOTATIONS, _as_attributes, _as_variables])
@given(shapes=_painted())
def test_every_notation_becomes_the_one_color(notation: Callable[[Shapes], str], shapes: Shapes) -> None:
    document = _document(notation(shapes))
    found = document.inventory().paints
    again = read_svg("x.svg", document.write(dict.fromkeys(found, TEAL))).inventory().paints
    assert {paint.rgb for paint in again} <= {TEAL}
    assert {paint.alpha for paint in again} == {paint.alpha for paint in found}


def _counted(document: SvgDocument, as_one: tuple[Kind, ...]) -> dict[Rgba, dict[Kind, int]]:
    """Sites by paint and kind; a rule does not know whether what it fills is lettering."""
    counted: dict[Rgba, dict[Kind, int]] = {}
    for paint, sites in document.inventory().sites.items():
        merged: Counter[Kind] = Counter()
        for kind, count in sites.items():
            merged[as_one[0] if kind in as_one else kind] += count
        counted[paint] = dict(merged)
    return counted


@given(st.lists(st.sampled_from(["--a:red", "--b:var(--a)", "--a:blue", "fill:var(--b)", "--c:var(--c)"]), max_size=4))
def test_variables_come_from_the_nearest_element_that_defines_them(styles: list[str]) -> None:
    nested = "".join(f'<g style="{style}">' for style in styles)
    source = read_xml("x.svg", f"<svg {NS}>{nested}<path/>{'</g>' * len(styles)}</svg>".encode())
    expected: dict[str, str] = {}
    for style in styles:
        name, _, value = style.partition(":")
        if name.startswith("--"):
            expected[name] = value
    found = Cascade(source, ()).variables(source.elements[-1])
    assert dict(found) == expected


def test_what_stands_between_two_values_is_not_taken_for_one() -> None:
    """A value that ends like the beginning of an attribute: the red one has to be found all the same."""
    for before in ('a=" fill="', 'a="x" b=" fill="', "a=' fill=\"red\"'", 'a="&gt;" b=">"', 'a="é"'):
        data = f'<svg {NS}><path {before} fill="red"/></svg>'.encode()
        again = read_svg("x.svg", data).write({Rgba(255, 0, 0): TEAL})
        assert again == re.sub(rb'fill="red"(?=/)', b'fill="#0b5e6b"', data)
