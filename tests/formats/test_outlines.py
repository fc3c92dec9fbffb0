"""Drawings as outlines: the same geometry whatever way it is written, and a refusal of what outlines cannot say."""

from __future__ import annotations

import math
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgba
from pavese.core.formats.svg import read_svg
from pavese.core.formats.svg.outlines import NotPlainError, Outline, outlines
from pavese.core.formats.xml_source import read_xml
from pavese.core.recolor.recoloring import Recoloring
from tests.formats.svgs import svgs

RED = Rgba(255, 0, 0)


def drawn(inner: str, root: str = 'viewBox="0 0 10 10"', side: float = 10) -> tuple[Outline, ...]:
    data = f'<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" {root}>{inner}</svg>'
    return outlines(read_xml("x.svg", data.encode()), side)[0]


def box(outline: Outline) -> tuple[float, ...]:
    """Left, top, right and bottom of an outline's corners."""
    points = [corner for contour in outline.contours for _, corner, _ in contour.corners]
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return tuple(round(value, 3) + 0.0 for value in (min(xs), min(ys), max(xs), max(ys)))


@pytest.mark.parametrize(
    "inner",
    [
        '<path d="M2 3h4v5h-4z"/>',
        '<path d="M2,3L6,3 6,8 2,8Z"/>',
        '<path d="m2 3 4 0 0 5-4 0z"/>',
        '<rect x="2" y="3" width="4" height="5"/>',
        '<rect x="2px" y="3" width="4" height="5"/>',
        '<polygon points="2,3 6,3 6,8 2,8"/>',
        '<polygon points="2 3 6 3 6 8 2 8"/>',
        '<g transform="translate(1 2)"><rect x="1" y="1" width="4" height="5"/></g>',
        '<rect transform="scale(2)" x="1" y="1.5" width="2" height="2.5"/>',
        '<g transform="translate(2,3)"><g transform="scale(2 2.5)"><path d="M0 0h2v2h-2z"/></g></g>',
        '<defs><rect id="a" width="4" height="5"/></defs><use href="#a" x="2" y="3"/>',
        '<defs><rect id="a" width="4" height="5"/></defs><use xlink:href="#a" transform="translate(2 3)"/>',
        '<symbol id="s" viewBox="0 0 4 5"><path d="M0 0h4v5H0z"/></symbol>'
        '<use href="#s" x="2" y="3" width="4" height="5"/>',
        '<svg x="2" y="3" width="4" height="5" viewBox="0 0 8 10"><path d="M0 0h8v10H0z"/></svg>',
        '<svg x="2" y="3" width="4" height="5" viewBox="1 1 8 10"><path d="M1 1h8v10H1z"/></svg>',
        '<style>.gone{display:none}</style><rect class="gone" width="9" height="9"/><path d="M2 3h4v5h-4z"/>',
        '<rect visibility="hidden" width="9" height="9"/><path d="M2 3h4v5h-4z"/>',
        '<g visibility="hidden"><path visibility="visible" d="M2 3h4v5h-4z"/></g>',
        '<symbol id="unused"><rect width="9" height="9"/></symbol><path d="M2 3h4v5h-4z"/>',
        '<title>words</title><metadata/><path d="M2 3h4v5h-4z"/><desc>more</desc>',
    ],
)
def test_one_rectangle_in_many_ways(inner: str) -> None:
    [found] = drawn(inner)
    assert box(found) == (2, 3, 6, 8)
    [contour] = found.contours
    assert (contour.closed, len(contour.corners)) == (True, 4)
    assert found.fill == Rgba(0, 0, 0), "what names no fill is black"


@pytest.mark.parametrize(
    ("inner", "fill", "stroke", "width"),
    [
        ('<path d="M0 0h9v9z" fill="red"/>', RED, None, 1),
        ('<path d="M0 0h9v9z" style="fill:red"/>', RED, None, 1),
        ('<style>path{fill:red}</style><path d="M0 0h9v9z" fill="blue"/>', RED, None, 1),
        ('<style>#a{fill:blue} .b{fill:red!important}</style><path id="a" class="b" d="M0 0h9v9z"/>', RED, None, 1),
        ('<g fill="red"><g><path d="M0 0h9v9z"/></g></g>', RED, None, 1),
        ('<g color="red"><path d="M0 0h9v9z" fill="currentColor"/></g>', RED, None, 1),
        ('<g fill="blue"><path d="M0 0h9v9z" fill="inherit" stroke="red"/></g>', Rgba(0, 0, 255), RED, 1),
        ('<path d="M0 0h9v9z" fill="none" stroke="red" stroke-width="2.5"/>', None, RED, 2.5),
        ('<g transform="scale(2)"><path d="M0 0h4" fill="none" stroke="red" stroke-width="1.5"/></g>', None, RED, 3),
        ('<path d="M0 0h9v9z" fill="red" fill-opacity="0.5"/>', Rgba(255, 0, 0, 0.5), None, 1),
        ('<path d="M0 0h9v9z" fill="red" fill-opacity="50%"/>', Rgba(255, 0, 0, 0.5), None, 1),
        ('<path d="M0 0h9v9z" fill="#ff000080"/>', parse_color("#ff000080"), None, 1),
        ('<path d="M0 0h9v9z" fill="red" opacity=".5"/>', Rgba(255, 0, 0, 0.5), None, 1),
        ('<line x2="9" y2="9" stroke="red" fill="blue"/>', None, RED, 1),
        ('<path d="M0 0h9v9z" fill="red" stroke="blue" stroke-width="0"/>', RED, None, 0),
    ],
)
def test_paints_as_the_cascade_has_them(inner: str, fill: Rgba | None, stroke: Rgba | None, width: float) -> None:
    [found] = drawn(inner)
    assert (found.fill, found.stroke, round(found.width, 3)) == (fill, stroke, width)


def test_what_is_painted_first_lies_behind() -> None:
    found = drawn('<rect width="1" height="1" fill="red"/><g><circle r="3"/></g><path d="M0 0h1" stroke="red"/>')
    assert [one.fill for one in found] == [RED, Rgba(0, 0, 0), Rgba(0, 0, 0)]


def test_rules_ends_and_dashes() -> None:
    rest = 'fill-rule="evenodd" stroke="red" stroke-linecap="round" stroke-linejoin="bevel" stroke-dasharray="1, 2 3"'
    [found] = drawn(f'<g transform="scale(2)" {rest}><path d="M0 0h4v4z" stroke-miterlimit="7"/></g>')
    assert (found.evenodd, found.cap, found.join, found.miter) == (True, "round", "bevel", 7)
    assert found.dashes == (2, 4, 6)
    [plain] = drawn('<path d="M0 0h4v4z" stroke="red" stroke-dasharray="none"/>')
    assert plain.dashes == ()


def test_curves_keep_their_shape() -> None:
    """A circle's contour stays on the circle, halfway along each curve too."""
    [found] = drawn('<circle cx="5" cy="5" r="4"/>')
    [contour] = found.contours
    around = [*contour.corners, contour.corners[0]]
    for (_, start, behind), (before, end, _) in pairwise(around):
        x, y = ((a + 3 * b + 3 * c + d) / 8 for a, b, c, d in zip(start, behind, before, end, strict=True))
        assert math.hypot(x - 5, y - 5) == pytest.approx(4, abs=0.02)
    [quadratic] = drawn('<path d="M0 0Q5 10 10 0"/>')
    (_, _, first), (second, _, _) = quadratic.contours[0].corners
    assert first == pytest.approx((10 / 3, 20 / 3))
    assert second == pytest.approx((20 / 3, 20 / 3))


@pytest.mark.parametrize(
    "inner",
    [
        '<linearGradient id="g"><stop/></linearGradient><path d="M0 0h9v9z" fill="url(#g)"/>',
        '<text x="1" y="5">Deck 4</text>',
        '<image href="data:image/png;base64,AA=="/>',
        '<path d="M0 0h9v9z" filter="url(#f)"/>',
        '<g mask="url(#m)"><path d="M0 0h9v9z"/></g>',
        '<style>path{clip-path:url(#c)}</style><path d="M0 0h9v9z"/>',
        '<g opacity="0.5"><path d="M0 0h9v9z"/></g>',
        '<path d="M0 0h9v9z" stroke="red" opacity="0.5"/>',
        '<g transform="scale(1 3)"><path d="M0 0h9v9z" stroke="red"/></g>',
        '<path d="M0 0h9v9z" style="mix-blend-mode:multiply"/>',
        '<path d="M0 0h9" stroke="red" marker-end="url(#m)"/>',
        '<circle cx="50%" r="3"/>',
        '<path d="M0 0h9v9z" stroke="red" stroke-width="1em"/>',
        '<symbol id="s" viewBox="0 0 4 4" preserveAspectRatio="xMinYMin slice"><path d="M0 0h4"/></symbol>'
        '<use href="#s" width="3" height="9"/>',
        '<symbol id="s"><path d="M0 0h4"/></symbol><use href="#s"/>',
        '<g id="a"><use href="#a"/></g>',
        "<foreignObject/>",
    ],
)
def test_what_takes_more_than_outlines_is_said(inner: str) -> None:
    with pytest.raises(NotPlainError, match=r"\w"):
        drawn(inner)


def test_the_picture_has_the_proportions_of_the_drawing() -> None:
    data = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="10 20 24 12"><path d="M10 20h24v12H10z"/></svg>'
    [found], size = outlines(read_xml("x.svg", data), 48)
    assert (box(found), size) == ((0, 0, 48, 24), (48, 24))


@settings(max_examples=80)
@given(svgs(), st.sampled_from([1.0, 100.0]))
def test_any_drawing_gives_outlines_or_a_reason(data: bytes, side: float) -> None:
    plain = read_svg("x.svg", data).preview(Recoloring()).content
    try:
        found, size = outlines(read_xml("x.svg", plain), side)
    except NotPlainError:
        return
    assert max(size) == pytest.approx(side)
    paints = {paint.rgb for paint in read_svg("x.svg", plain).inventory().paints}
    for outline in found:
        assert {paint.rgb for paint in (outline.fill, outline.stroke) if paint} <= paints
        for contour in outline.contours:
            assert all(math.isfinite(value) for corner in contour.corners for point in corner for value in point)
