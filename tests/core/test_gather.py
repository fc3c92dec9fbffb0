"""Sources and what comes out of them: pins, pages, files with codes, drops sorted, candidates."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Sequence
from functools import partial

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from pavese.core.color.extract import Pixels
from pavese.core.color.srgb import Rgb
from pavese.core.errors import RefusedFileError
from pavese.core.gather.candidates import candidates, from_codes, from_source
from pavese.core.gather.code_files import read_code_file
from pavese.core.gather.drop import sort_drop
from pavese.core.gather.intake import (
    PixelsOf,
    looked_at,
    page_source,
    picture_source,
    pin_at,
    pixels_of,
    take_picture,
    take_pictures,
)
from pavese.core.gather.source import (
    LEAST_PART,
    InvalidSourceError,
    Looking,
    Lying,
    Source,
    SourceKind,
    in_rows,
    renumbered,
    with_laid,
    with_order,
    with_picture,
    with_pictures,
    with_pin,
    without_picture,
    without_pin,
)
from pavese.core.gather.web_page import PageElement, PageUse, read_elements
from pavese.core.handoff.tokens import kit_tokens
from pavese.core.kit.codes import find_codes
from pavese.core.kit.role import Role
from pavese.core.pictures.board import WHOLE, WIDTH, Part
from pavese.core.pictures.decode import decode_picture
from pavese.core.pictures.sample import Reach
from pavese.demo.load import demo_kit
from pavese.demo.pictures import board_pictures, logo
from pavese.render.draw import draw

TAKE = partial(take_picture, draw=draw)


@pytest.fixture(scope="module")
def board() -> tuple[Source, Pixels]:
    """The harbor board with its colors found, and its pixels."""
    taken = take_pictures(board_pictures().items(), TAKE)
    source = picture_source(taken)
    pixels = pixels_of(source, lambda key: decode_picture("", taken.files[key]).pixels)
    return looked_at(source, pixels, Looking(count=8)), pixels


def test_a_board_keeps_what_is_found_at_its_places(board: tuple[Source, Pixels]) -> None:
    source, pixels = board
    assert source.kind is SourceKind.BOARD
    assert source.unstated == 3
    assert {Rgb(239, 178, 58), Rgb(107, 125, 58)} <= {pin.color for pin in source.pins}
    for pin in source.pins:
        x, y = source.spot(pin)
        assert tuple(pixels[y, x, :3]) == tuple(pin.color)
        assert source.at(x, y)[0] == pin.picture
        assert pin_at(source, pixels, x, y, Reach.POINT).color == pin.color


def test_pins_are_set_moved_renumbered_and_removed(board: tuple[Source, Pixels]) -> None:
    source, pixels = board
    by_hand = pin_at(source, pixels, *source.spot(source.pins[2]), Reach.FIVE)
    more = with_pin(source, by_hand)
    assert more.pins[-1] == by_hand
    # Looking again replaces what was found, never what a person set.
    again = looked_at(more, pixels, Looking(count=3))
    assert again.pins[-1] == by_hand
    assert len(again.pins) == 4
    turned = renumbered(more, len(more.pins), 1)
    assert turned.pins[0] == by_hand
    assert without_pin(turned, 1) == source
    with pytest.raises(InvalidSourceError, match="no pin 99"):
        without_pin(source, 99)
    with pytest.raises(InvalidSourceError, match="no picture at this place"):
        source.at(0, 0)


def test_pictures_are_ordered_sized_and_taken_off(board: tuple[Source, Pixels]) -> None:
    source, _ = board
    ids = [picture.id for picture in source.pictures]
    turned = with_order(source, ids[::-1])
    assert [picture.id for picture in turned.pictures] == ids[::-1]
    for before, after in zip(source.pins, turned.pins, strict=True):
        x, y = turned.spot(after)
        assert turned.at(x, y)[0] == before.picture
    with pytest.raises(InvalidSourceError):
        with_order(source, ids[1:])
    stated = with_picture(source, source.pictures[0].model_copy(update={"rights": "ours"}))
    assert stated.unstated == 2
    less = without_picture(source, ids[0])
    assert all(pin.picture != ids[0] for pin in less.pins)
    with pytest.raises(InvalidSourceError, match="last picture"):
        without_picture(without_picture(less, ids[1]), ids[2])
    one = picture_source(take_pictures([("a.svg", logo())], TAKE))
    assert (one.kind, one.looking.leave_out_ground) == (SourceKind.PICTURE, True)
    assert with_pictures(one, source.pictures).kind is SourceKind.BOARD
    with pytest.raises(InvalidSourceError, match="at most 60"):
        with_pictures(one, source.pictures * 30)


def test_fewer_colors_than_asked_for_are_said() -> None:
    out = io.BytesIO()
    Image.new("RGB", (40, 40), (11, 94, 107)).save(out, "PNG")
    taken = take_pictures([("one.png", out.getvalue()), ("bad.png", b"x"), ("empty.svg", b"")], TAKE)
    assert [error.name for error in taken.refused] == ["bad.png", "empty.svg"]
    source = picture_source(taken)
    pixels = pixels_of(source, lambda key: decode_picture("", taken.files[key]).pixels)
    assert looked_at(source, pixels, Looking(count=8)).note == (
        "8 were asked for; the picture holds 1 color that can be told apart."
    )


def element(parent: int, box: tuple[int, int, int, int], **given: object) -> PageElement:
    plain = {
        "background": "rgba(0, 0, 0, 0)",
        "picture": False,
        "color": "rgb(0, 0, 0)",
        "borders": (),
        "font": "Serif",
        "words": "",
        "link": False,
        "button": False,
        "heading": False,
    }
    return PageElement(parent=parent, box=box, **{**plain, **given})  # type: ignore[arg-type]


def test_a_page_is_read_by_use_area_and_place() -> None:
    elements = [
        element(-1, (0, 0, 800, 400)),
        element(0, (0, 0, 800, 400), background="rgb(238, 240, 236)", color="rgb(22, 37, 43)", words="Body"),
        element(1, (0, 0, 800, 100), background="rgb(11, 94, 107)"),
        element(2, (10, 10, 80, 20), color="rgba(255, 255, 255, 0.5)", words="Head", heading=True, font="'Deck', sans"),
        element(1, (0, 100, 80, 40), background="rgb(210, 69, 45)", color="#fff", words="Go", button=True),
        element(
            1, (0, 200, 80, 40), color="rgb(90, 111, 168)", words="more", link=True, borders=("rgb(125, 135, 140)",)
        ),
        element(1, (0, 300, 800, 50), background="oklch(0.7 0.1 80 / 0)", picture=True),
    ]
    colors, fonts, notes = read_elements(elements, 800, 400)
    table = {(used.use, used.color.hex): used for used in colors}
    assert table[PageUse.SECTION, "#0b5e6b"].share == pytest.approx(0.25)
    assert table[PageUse.PAGE, "#eef0ec"].share == pytest.approx(0.74)
    assert table[PageUse.BUTTON, "#d2452d"].share == pytest.approx(0.01)
    # Half-clear text is the color it looks like on its ground.
    assert table[PageUse.HEADING, "#85aeb5"].example == "Head"
    assert {PageUse.BODY, PageUse.LINK, PageUse.BORDER, PageUse.BUTTON_TEXT} <= {use for use, _ in table}
    assert fonts[0] == ("Serif", 3)
    assert ("Deck", 1) in fonts
    assert "set pins" in notes[0]
    source, kept = page_source("http://ferries.example/", "Ferries", elements, (800, 400), b"png", notes)
    assert source.unstated == 0
    assert list(kept) == [source.pictures[0].digest]
    roles = {candidate.spotted.color.hex: candidate.role for candidate in candidates(from_source(source), None)}
    assert roles["#d2452d"] is Role.ACTION
    assert roles["#eef0ec"] is Role.BACKGROUND
    assert roles["#16252b"] is Role.TEXT_DARK
    more = [
        *elements,
        element(1, (0, 350, 800, 20), background="#8a2be2", button=True, words="Go"),
        element(1, (0, 0, 0, 0), background="#123456"),
    ]
    source, _ = page_source("http://ferries.example/", "Ferries", more, (800, 400), b"png", ())
    roles = {candidate.spotted.color.hex: candidate.role for candidate in candidates(from_source(source), None)}
    assert [code for code, role in roles.items() if role is Role.ACTION] == ["#8a2be2"], "one action, the largest"
    assert "#123456" not in roles, "what covers nothing is not proposed"


def zipped(**parts: str) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for path, text in parts.items():
            archive.writestr(path.replace("__", "/").replace("_x", ".x"), text)
    return out.getvalue()


THEME = """<a:theme xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"><a:themeElements><a:clrScheme>
<a:dk1><a:sysClr val="windowText" lastClr="16252B"/></a:dk1><a:accent1><a:srgbClr val="0B5E6B"/></a:accent1>
<a:hlink><a:srgbClr val="5A6FA8"/></a:hlink></a:clrScheme></a:themeElements></a:theme>"""
ODP = """<office:document-styles xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"
 xmlns:draw="urn:oasis:names:tc:opendocument:xmlns:drawing:1.0"><office:styles>
 <draw:style draw:fill-color="#0b5e6b"/><draw:style draw:fill-color="#efb23a"/></office:styles>
</office:document-styles>"""

ODP_THEME = """<office:document-styles xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"
 xmlns:loext="urn:org:documentfoundation:names:experimental:office:xmlns:loext:1.0"><loext:theme-colors>
 <loext:color loext:name="dark1" loext:color="#16252b"/><loext:color loext:name="accent1" loext:color="#0b5e6b"/>
 <loext:color loext:name="followedHyperlink" loext:color="#5a6fa8"/></loext:theme-colors></office:document-styles>"""


@pytest.mark.parametrize(
    ("name", "data", "found"),
    [
        ("list.csv", b"Name,Hex\nDeep water,#0b5e6b\nLamp,efb23a\n", {"Deep water": "#0b5e6b", "Lamp": "#efb23a"}),
        ("list.tsv", b"name\tr\tg\tb\nBuoy\t210\t69\t45\n", {"Buoy": "#d2452d"}),
        ("semi.csv", "Kelp;#6b7d3a;grün\n".encode("latin-1"), {"Kelp": "#6b7d3a"}),
        (
            "kit.tokens.json",
            json.dumps(
                {
                    "brand": {
                        "$type": "color",
                        "deep-water": {"$value": {"colorSpace": "srgb", "components": [0.0431, 0.3686, 0.4196]}},
                        "lamp": {"$value": "#efb23a"},
                        "alias": {"$value": "{brand.lamp}"},
                    },
                    "space": {"$type": "dimension", "gap": {"$value": "4px"}},
                }
            ).encode(),
            {"Deep water": "#0b5e6b", "Lamp": "#efb23a"},
        ),
        (
            "deck.pptx",
            zipped(ppt__theme__theme1_xml=THEME, ppt__presentation_xml="<p/>"),
            {"Theme dark 1": "#16252b", "Theme accent 1": "#0b5e6b", "Theme link": "#5a6fa8"},
        ),
        ("deck.odp", zipped(styles_xml=ODP, content_xml="<c/>"), {"": "#0b5e6b"}),
        (
            "themed.odp",
            zipped(styles_xml=ODP_THEME, content_xml="<c/>"),
            {"Theme dark 1": "#16252b", "Theme accent 1": "#0b5e6b", "Theme followed hyperlink": "#5a6fa8"},
        ),
        ("brand.css", b":root { --tf-sea: #0b5e6b; --tf-sand: #e8d9b5 }", {"Sea": "#0b5e6b"}),
        ("wide.txt", "Sea #0b5e6b".encode("utf-16"), {"Sea": "#0b5e6b"}),
    ],
)
def test_codes_are_read_from_files_of_every_kind(name: str, data: bytes, found: dict[str, str]) -> None:
    read = {code.name: code.color.hex for code in read_code_file(name, data)}
    for wanted, code in found.items():
        assert (read[wanted] == code) if wanted else (code in read.values())


def test_our_own_tokens_are_read_back_as_candidates() -> None:
    kit = demo_kit()
    read = {code.color for code in read_code_file("kit.tokens.json", kit_tokens(kit).encode())}
    assert {color.base for color in kit.colors} <= read


@pytest.mark.parametrize(
    ("name", "data", "hint"),
    [
        ("a.css", b"", "empty"),
        ("a.bin", b"\0\1\2", "no text"),
        ("a.json", b'{"a": {"$value": ', "no JSON"),
        ("a.pptx", b"PK\x03\x04 broken", "cannot be opened"),
        ("a.zip", zipped(readme="hello"), "no deck"),
        ("a.txt", b"x" * 2_000_001, "2 MB"),
        ("deep.json", b'{"a":' * 80 + b'{"$value": "#fff"}' + b"}" * 80, "nested"),
    ],
)
def test_files_without_codes_are_refused_with_the_reason(name: str, data: bytes, hint: str) -> None:
    with pytest.raises(RefusedFileError, match=hint):
        read_code_file(name, data)


def test_ten_thousand_codes_give_what_is_possible() -> None:
    text = "\n".join(f"Color {n}: #{n * 37 % 0xFFFFFF:06x}" for n in range(10_000))
    found = read_code_file("many.txt", text.encode())
    listed = candidates(from_codes(found), demo_kit())
    assert len(listed) == len(found) > 400
    assert len({entry.name.casefold() for entry in listed if entry.known_as is None}) == sum(
        entry.known_as is None for entry in listed
    )


def test_a_drop_is_sorted_by_what_its_files_are() -> None:
    page = b"<!doctype html><p>hi"
    files = [
        ("a.svg", logo()),
        ("odd.txt", logo()),
        ("photo", board_pictures()["harbor-morning.jpg"]),
        ("page.html", page),
        ("saved.zip", zipped(index="<html><body>", style="a{}")),
        ("pictures.zip", zipped(mark=logo().decode(), note="#0b5e6b")),
        ("deck.pptx", zipped(ppt__presentation_xml="<p/>")),
        ("codes.txt", b"#0b5e6b"),
        ("broken.zip", b"PK\x03\x04 not really"),
        ("inline.htm", b"<html><svg></svg></html>"),
    ]
    found = sort_drop(files)
    assert [name for name, _ in found.pictures] == ["a.svg", "odd.txt", "photo", "mark"]
    assert [name for name, _ in found.pages] == ["page.html", "saved.zip", "inline.htm"]
    assert [name for name, _ in found.codes] == ["note", "deck.pptx", "codes.txt"]
    assert [error.name for error in found.refused] == ["broken.zip"]


def test_candidates_say_what_the_kit_has_and_get_names_of_their_own() -> None:
    kit = demo_kit()
    same, near, new = candidates(from_codes(find_codes("#0b5e6b, #0c6270\nHull: #7b1e3a")), kit)
    assert (same.same, same.known_as) == (True, "Deep water base")
    assert not near.same
    assert near.known_as is not None
    assert new.known_as is None
    assert new.name == "Hull 2"
    assert candidates([], kit) == []


@given(st.integers(0, 59), st.integers(0, 59), st.sampled_from(list(Reach)))
def test_a_pin_stands_on_the_pixel_it_samples(x: int, y: int, reach: Reach) -> None:
    grid = np.indices((60, 60)).astype(np.uint8)
    pixels = np.stack([grid[0], grid[1], grid[0] + grid[1], np.full((60, 60), 255, np.uint8)], axis=-1)
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "PNG")
    source = picture_source(take_pictures([("grid.png", out.getvalue())], TAKE))
    pin = pin_at(source, pixels, x, y, reach)
    assert source.spot(pin) == (x, y)
    if reach is Reach.POINT:
        assert pin.color == Rgb(y, x, x + y)


def painted_board(
    colors: Sequence[tuple[int, int, int]], size: tuple[int, int] = (300, 200)
) -> tuple[Source, PixelsOf]:
    """A board of pictures, each of one color above and black below, and what gives their pixels."""
    files = {}
    for at, color in enumerate(colors):
        image = Image.new("RGB", size)
        image.paste(color, (0, 0, size[0], size[1] // 2))
        out = io.BytesIO()
        image.save(out, "PNG")
        files[f"{at}.png"] = out.getvalue()
    taken = take_pictures(files.items(), TAKE)
    return picture_source(taken), lambda key: decode_picture("", taken.files[key]).pixels


SEA, BUOY, LAMP = (11, 94, 107), (210, 69, 45), (239, 178, 58)
edges = st.tuples(st.floats(0, 0.9), st.floats(0.05, 1)).map(lambda one: (one[0], one[0] + (1 - one[0]) * one[1]))


@given(st.integers(0, 1500), st.integers(0, 3000), st.integers(1, 1600), edges, edges)
def test_a_picture_lies_where_it_was_laid_and_the_others_stay(
    x: int, y: int, width: int, across: tuple[float, float], down: tuple[float, float]
) -> None:
    source, _ = painted_board([SEA, BUOY, LAMP])
    part = Part(across[0], down[0], across[1], down[1])
    lies, before = Lying(x=x, y=y, width=width), source.places()[0]
    if x + width > WIDTH or part.across < LEAST_PART or part.down < LEAST_PART:
        with pytest.raises(InvalidSourceError):
            with_laid(source, source.pictures[1].id, lies, part)
        return
    after = with_laid(source, source.pictures[1].id, lies, part)
    places, height = after.places()
    assert (places[1].x, places[1].y, places[1].width) == (x, y, width)
    assert places[1].width / places[1].height == pytest.approx(
        1.5 * part.across / part.down, rel=0.6 / places[1].height
    )
    for at in (0, 2):
        assert (places[at].x, places[at].y, places[at].width) == (before[at].x, before[at].y, before[at].width)
        assert abs(places[at].height - before[at].height) <= 1
    assert all(place.y + place.height <= height for place in places)
    again = in_rows(after)
    assert not again.by_hand
    assert [picture.part for picture in again.pictures] == [WHOLE, part, WHOLE]


def test_pictures_overlap_and_are_cut_and_pins_stay_with_what_they_are_on() -> None:
    source, pixels_by = painted_board([SEA, BUOY])
    sea, buoy = (picture.id for picture in source.pictures)
    left = source.places()[0][0]
    first = pin_at(source, pixels_of(source, pixels_by), left.x + left.width // 4, left.y + 20, Reach.POINT)
    low = pin_at(source, pixels_of(source, pixels_by), left.x + left.width // 4, left.y + left.height - 20, Reach.POINT)
    source = with_pin(with_pin(source, first), low)
    assert [pin.color for pin in source.pins] == [SEA, (0, 0, 0)]
    # The upper half of the red one is laid over the right half of the other.
    over = with_laid(source, buoy, Lying(x=left.x + left.width // 2, y=left.y, width=left.width), Part(0, 0, 1, 0.5))
    pixels = pixels_of(over, pixels_by)
    assert tuple(pixels[left.y + 20, left.x + left.width // 2 + 20, :3]) == BUOY
    assert tuple(pixels[left.y + 20, left.x + 20, :3]) == SEA
    assert over.at(left.x + left.width // 2 + 20, left.y + 20)[0] == buoy
    assert [over.shows(pin) for pin in over.pins] == [True, True]
    for pin in over.pins:
        column, row = over.spot(pin)
        assert tuple(pixels[row, column, :3]) == tuple(pin.color)
    # Its lower half is cut away: what is pinned there is not seen, and keeps its color.
    less = with_laid(over, sea, Lying(x=left.x, y=left.y, width=left.width), Part(0, 0, 1, 0.4))
    assert [(pin.color, less.shows(pin)) for pin in less.pins] == [(SEA, True), ((0, 0, 0), False)]
    # And both lie under what is laid over all of them.
    covered = with_laid(less, buoy, Lying(x=0, y=0, width=WIDTH), WHOLE)
    assert not any(covered.shows(pin) for pin in covered.pins)
    turned = with_order(covered, [buoy, sea])
    assert [turned.shows(pin) for pin in turned.pins] == [True, False]
    # What is added later lies below what was laid.
    more = with_pictures(turned, painted_board([LAMP])[0].pictures)
    places, height = more.places()
    assert places[2].y >= max(place.y + place.height for place in places[:2])
    assert places[2].y + places[2].height <= height


def test_only_boards_are_laid() -> None:
    one, _ = painted_board([SEA])
    with pytest.raises(InvalidSourceError, match="Only the pictures of a board"):
        with_laid(one, one.pictures[0].id, Lying(x=0, y=0, width=100), WHOLE)
