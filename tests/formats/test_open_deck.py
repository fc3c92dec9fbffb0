"""Decks in OpenDocument: what is a color in them, what stays, and what is refused."""

from __future__ import annotations

import io
import zipfile

import pytest
from hypothesis import given, settings

from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats import read, told
from pavese.core.formats.document import Document
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind
from tests.formats.open_decks import TYPE, graphic, open_deck, open_decks, page_style, shape, style, words

MOSS, SEA = (parse_color(one).rgb for one in ("#5b7a3a", "#24629a"))


def opened(data: bytes) -> Document:
    return read("x.odp", data)


def parts(data: bytes) -> dict[str, bytes]:
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        return {path: archive.read(path) for path in archive.namelist()}


def test_each_color_is_told_by_what_it_does() -> None:
    styles = [
        page_style("dp", 'draw:fill-color="#111111"'),
        style(
            "a",
            "graphic",
            graphic('draw:fill-color="#222222" svg:stroke-color="#333333"') + words('fo:color="#444444"'),
        ),
        style(
            "b",
            "table-cell",
            '<style:table-cell-properties fo:background-color="#555555" fo:border="1pt solid #666666"/>',
        ),
        style("c", "chart", graphic('draw:fill-color="#777777"')),
        style("d", "text", words('fo:background-color="#888888"')),
    ]
    found = {site.paint.rgb.hex: site.kind for site in opened(open_deck(styles, [("dp", "")])).sites()}
    assert found == {
        "#111111": Kind.GROUND,
        "#222222": Kind.FILL,
        "#333333": Kind.STROKE,
        "#444444": Kind.TEXT,
        "#555555": Kind.CELL,
        "#666666": Kind.STROKE,
        "#777777": Kind.SERIES,
        "#888888": Kind.GROUND,
    }


def test_a_style_of_one_page_goes_with_it_and_one_of_several_does_not() -> None:
    styles = [style(name, "graphic", graphic('draw:fill-color="#5b7a3a"')) for name in ("one", "both")]
    pages = [("dp", shape("one") + shape("both")), ("dp", shape("both"))]
    document = opened(open_deck(styles, pages))
    assert [page.title for page in document.pages] == ["1", "2"]
    written = document.write(Recoloring({}, {(Rgba(*MOSS), "/page1"): SEA}))
    assert [site.paint.rgb for site in opened(written).sites()] == [SEA, MOSS]


@settings(max_examples=40)
@given(data=open_decks())
def test_the_media_type_stays_first_and_stored_and_only_parts_with_an_edit_change(data: bytes) -> None:
    document = opened(data)
    written = document.write(dict.fromkeys(document.inventory().paints, Rgb(1, 2, 3)))
    with zipfile.ZipFile(io.BytesIO(written)) as archive:
        first = archive.infolist()[0]
        assert (first.filename, first.compress_type) == ("mimetype", zipfile.ZIP_STORED)
        assert archive.testzip() is None
    before, after = parts(data), parts(written)
    assert {path for path in before if before[path] != after[path]} <= {"content.xml", "styles.xml"}
    assert after["content.xml"].count(b"#112233 &amp; more") == before["content.xml"].count(b"#112233 &amp; more")
    assert told("unnamed", data).key == "open-deck"


def test_a_deck_is_called_by_the_title_of_its_first_slide() -> None:
    data = open_deck([], [("dp", shape("a", "Two &amp; more", "b", "title")), ("dp", "")])
    assert opened(data).inventory().title == "Two & more"
    assert [page.title for page in opened(data).pages] == ["1. Two & more", "2"]


def test_codes_in_words_names_and_addresses_are_none() -> None:
    styles = [style("#5b7a3a", "text", words('style:font-name="#5b7a3a" fo:color="#5b7a3a77"'))]
    pages = [("dp", shape("a", "vip #5b7a3a", "b") + '<text:a xlink:href="x?c=#5b7a3a"/>')]
    assert list(opened(open_deck(styles, pages)).sites()) == []


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"", "cannot be opened"),
        (open_deck([], [], kind=b"application/vnd.oasis.opendocument.text"), "no presentation"),
        (open_deck([], [], more={"META-INF/manifest.xml": b"<x><manifest:encryption-data/></x>"}), "password"),
        (open_deck([], [], more={"content.xml": b"<x"}), "content.xml"),
        (open_deck([], [], more={"styles.xml": b'<!DOCTYPE x [<!ENTITY a "b">]><x>&a;</x>'}), "entities"),
        (open_deck([], [], more={"content.xml": b"<x>" * 300 + b"</x>" * 300}), "nested"),
    ],
    ids=range(6),
)
def test_what_cannot_be_read_is_refused_with_the_reason(data: bytes, said: str) -> None:
    with pytest.raises(RefusedFileError, match=said):
        opened(data)


def test_a_template_is_taken_and_keeps_its_type() -> None:
    data = open_deck([page_style("dp", 'draw:fill-color="#5b7a3a"')], [("dp", "")], kind=TYPE + b"-template")
    written = read("x.otp", data).write({Rgba(*MOSS): SEA})
    assert parts(written)["mimetype"] == TYPE + b"-template"
    assert b"#24629a" in parts(written)["content.xml"]
