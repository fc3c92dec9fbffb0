"""The five promises, for SVG: identity, closure, determinism, nothing else moves, refusal (in test_refusals)."""

from __future__ import annotations

import gzip
import re
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from lxml import etree

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.svg import read_svg
from pavese.core.recolor.inventory import recolored
from tests.core.strategies import colors as targets
from tests.formats.svgs import FIXTURES, svgs

_COLOR = re.compile(
    r"#[0-9a-fA-F]{3,8}|&#(?:35|x23);[0-9a-fA-F]{3,8}|(?:rgb|hsl|oklch)a?\([^)]*\)|\b(?:red|black|white|rebeccapurple|initial)\b",
    re.I,
)
_MATRIX = re.compile(r'(<feColorMatrix values=")([^"]*)')
_PROPERTY = "(?:fill|color|stop-color|flood-color|lighting-color)"
_EMPTY_DECLARATION = re.compile(rf";?\s*{_PROPERTY}\s*:\s*(?:!important)?\s*(?=[\"';])")
_EMPTY_ATTRIBUTE = re.compile(rf"\s(?:{_PROPERTY}|style)\s*=\s*(?:''|\"\")")


def recoloring(data: bytes, colors: list[Rgb]) -> dict[Rgba, Rgb]:
    paints = read_svg("x.svg", data).inventory().paints
    return {paint: colors[n % len(colors)] for n, paint in enumerate(paints)}


@settings(max_examples=150)
@given(svgs(), st.lists(targets, min_size=1, max_size=5))
def test_closure_the_paints_read_back_are_the_targets(data: bytes, colors: list[Rgb]) -> None:
    before = read_svg("x.svg", data)
    wanted = recoloring(data, colors)
    after = read_svg("x.svg", before.write(wanted)).inventory()
    assert set(after.paints) == {recolored(paint, wanted) for paint in before.inventory().paints}
    expected = before.inventory().after(wanted)
    assert {p: sum(k.values()) for p, k in after.sites.items()}.keys() == expected.sites.keys()


@settings(max_examples=150)
@given(svgs(), st.lists(targets, min_size=1, max_size=5))
def test_nothing_else_moves(data: bytes, colors: list[Rgb]) -> None:
    """With colors blanked, before and after are the same text, but for attributes that name what was implied."""
    after = read_svg("x.svg", data).write(recoloring(data, colors))
    assert _blank(after) == _blank(data)
    assert _skeleton(after) == _skeleton(data)


def _blank(data: bytes) -> str:
    text = _MATRIX.sub(_computed, _EMPTY_DECLARATION.sub("", _COLOR.sub("", data.decode())))
    # A variable that only the page around it knows gets a fallback.
    return _EMPTY_ATTRIBUTE.sub("", re.sub(r"(var\([^),]+), \)", r"\1)", text))


def _computed(matrix: re.Match[str]) -> str:
    """A color matrix without the three numbers that are its color."""
    numbers = re.findall(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?", matrix[2])
    return matrix[1] + " ".join(number for at, number in enumerate(numbers) if at not in (4, 9, 14))


def _skeleton(data: bytes) -> list[tuple[str, str | None, str | None, str | None]]:
    tree = etree.fromstring(data)
    return [(str(e.tag), e.get("id"), e.get("d"), None if "style" in str(e.tag) else e.text) for e in tree.iter()]


@pytest.mark.parametrize("path", FIXTURES, ids=lambda path: path.name)
def test_fixture_pairs(path: Path) -> None:
    """Every paint goes to one color: what a person can read in the file beside it."""
    document = read_svg(path.name, path.read_bytes())
    wanted = {paint: Rgb(0x0B, 0x5E, 0x6B) for paint in document.inventory().paints}
    expected = path.with_name(path.name.replace(".before.", ".after.")).read_bytes()
    assert document.write(wanted) == expected


@settings(max_examples=30)
@given(svgs(), targets, st.sampled_from(["utf-16-le", "utf-16-be", "utf-8-sig"]))
def test_other_encodings_come_out_as_they_came_in(data: bytes, color: Rgb, encoding: str) -> None:
    text = data.decode().replace('encoding="utf-8"', "")
    bom = "" if encoding == "utf-8-sig" else "\ufeff"
    packed = (bom + text).encode(encoding)
    document = read_svg("x.svg", packed)
    assert document.write({}) == packed
    wanted = recoloring(packed, [color])
    plain = read_svg("x.svg", text.encode()).write(wanted).decode()
    assert document.write(wanted) == (bom + plain).encode(encoding)


def test_latin_text_survives() -> None:
    head = '<?xml version="1.0" encoding="ISO-8859-1"?><svg xmlns="http://www.w3.org/2000/svg">'
    data = f'{head}<text fill="red">Smørbrød é</text></svg>'
    after = read_svg("x.svg", data.encode("latin-1")).write({Rgba(255, 0, 0): Rgb(1, 2, 3)})
    assert after.decode("latin-1") == data.replace("red", "#010203")


@settings(max_examples=20)
@given(svgs(), targets)
def test_gzipped_files_stay_gzipped(data: bytes, color: Rgb) -> None:
    packed = gzip.compress(data)
    document = read_svg("x.svgz", packed)
    assert document.write({}) == packed
    wanted = recoloring(data, [color])
    assert gzip.decompress(document.write(wanted)) == read_svg("x.svg", data).write(wanted)


@pytest.mark.parametrize(
    ("written", "expected"),
    [
        ("#F00", "#0B5E6B"),
        ("#f00", "#0b5e6b"),
        ("#f008", "#0b5e6b88"),
        ("#FF000080", "#0B5E6B80"),
        ("red", "#0b5e6b"),
        ("rgb(255,0,0)", "#0b5e6b"),
        ("rgba(255,0,0,.5)", "rgba(11,94,107,.5)"),
        ("rgb(255 0 0 / 33.3%)", "rgba(11,94,107,33.3%)"),
        ("hsla(0,100%,50%,0.25)", "rgba(11,94,107,0.25)"),
        ("url(#a) red", "url(#a) #0b5e6b"),
        ("none", "none"),
        ("transparent", "transparent"),
        ("inherit", "inherit"),
    ],
)
def test_how_a_replaced_color_is_written(written: str, expected: str) -> None:
    template = '<svg xmlns="http://www.w3.org/2000/svg" fill="none"><path stroke="{}"/></svg>'
    document = read_svg("x.svg", template.format(written).encode())
    after = document.write({paint: Rgb(11, 94, 107) for paint in document.inventory().paints})
    assert after.decode() == template.format(expected)
