"""How large a drawing is, however it says so, and drawings made as large as is wanted."""

from __future__ import annotations

from math import floor

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.errors import RefusedFileError
from pavese.core.formats.svg.size import box, extent, length, sized
from pavese.core.formats.xml_source import read_root, read_xml
from tests.formats.svgs import svgs

NS = 'xmlns="http://www.w3.org/2000/svg"'


@pytest.mark.parametrize(
    ("root", "expected"),
    [
        ('viewBox="0 0 24 12"', (24, 12)),
        ('width="48" height="24" viewBox="0 0 24 12"', (48, 24)),
        ('width="48px" viewBox="0 0 24 12"', (48, 24)),
        ('height="6" viewBox="0 0 24 12"', (12, 6)),
        ('width="100%" height="100%" viewBox="0 0 24 12"', (24, 12)),
        ('width="2em" height="auto" viewBox="-3,-3 24 12"', (24, 12)),
        ('width="1in" height="72pt"', (96, 96)),
        ('width="-5" height="0" viewBox="0 0 24 12"', (24, 12)),
        ('width="30"', (30, 30)),
        ('viewBox="0 0 0 12"', (100, 100)),
        ("", (100, 100)),
    ],
)
def test_the_size_of_a_drawing(root: str, expected: tuple[float, float]) -> None:
    assert extent(read_xml("x.svg", f"<svg {NS} {root}/>".encode()).root) == expected


@pytest.mark.parametrize(
    ("text", "pixels"),
    # CSS Values 4, section 6.2: 1in is 96px, 2.54cm, 25.4mm, 101.6q, 72pt and 6pc.
    [("96", 96), ("96PX", 96), ("1in", 96), ("2.54cm", 96), ("25.4mm", 96), ("101.6Q", 96), ("72pt", 96), ("6pc", 96)],
)
def test_lengths_of_every_unit(text: str, pixels: float) -> None:
    assert length(f" {text} ") == pytest.approx(pixels)


@pytest.mark.parametrize("text", [None, "", "50%", "2em", "auto", "1e", "px"])
def test_what_depends_on_something_else_is_no_length(text: str | None) -> None:
    assert length(text) is None


@given(svgs(), st.integers(1, 600))
def test_a_sized_drawing_fits_its_side_and_keeps_its_content(data: bytes, side: int) -> None:
    document = read_xml("x.svg", data)
    again = read_xml("x.svg", sized(document.utf8, side))
    width, height = extent(document.root)
    assert max(extent(again.root)) == side
    assert min(extent(again.root)) == max(1, floor(side * min(width, height) / max(width, height) + 0.5))
    assert box(again.root.attributes["viewBox"]) == (
        box(document.root.attributes.get("viewBox")) or (0, 0, width, height)
    )
    told = ("width", "height", "viewBox")
    assert [(e.name, {k: v for k, v in e.attributes.items() if e.index or k not in told}) for e in again.elements] == [
        (e.name, {k: v for k, v in e.attributes.items() if e.index or k not in told}) for e in document.elements
    ]


def test_only_the_head_is_read_and_nothing_before_it_stays() -> None:
    head = f"<?xml version='1.0' encoding='utf-16'?><!DOCTYPE svg><!-- {'x' * 9000} -->"
    data = f"{head}<svg {NS} width='3' data-x='>'>\n<g fill='a' fill='b'></svg>".encode()
    text = sized(data, 6).decode()
    assert text.startswith("<svg ")
    assert "width='6'" in text
    assert text.endswith("<g fill='a' fill='b'></svg>")


@pytest.mark.parametrize(
    ("data", "reason"),
    [
        (b"", "no element"),
        (b"<!-- a -->", "no element"),
        (b"text", "no element"),
        (b"<a", "no element"),
        (b"<a b>", "not well-formed"),
    ],
)
def test_what_has_no_head_is_refused(data: bytes, reason: str) -> None:
    with pytest.raises(RefusedFileError, match=reason):
        read_root("x.svg", data)
