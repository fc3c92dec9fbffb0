"""Pictures inside of decks: told by what they show, and changed where they stand."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable
from typing import Any, cast

import pytest
from PIL import Image
from pptx import Presentation
from pptx.dml.color import RGBColor
from pptx.util import Inches

from pavese.core.formats import read
from pavese.core.formats.document import Pictured
from pavese.core.formats.intake import Came
from pavese.core.formats.slide_pictures import Use, opened
from pavese.core.pictures.motif import motif_of
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.pictures import PICTURE, PictureGrounds
from pavese.demo.deck import NAME, deck_file, old_sign
from pavese.render.pictures_inside import Inside, _inside
from tests.formats.open_decks import open_deck, page_style

CLEAR, BOXED = old_sign(240), old_sign(200, box=(255, 255, 255))


def a_deck() -> bytes:
    """The sign on two light slides and a dark one, and in a box."""
    deck = Presentation()
    for ground, picture in ((None, CLEAR), (None, CLEAR), ("141E3C", CLEAR), ("F0E6D2", BOXED)):
        slide = deck.slides.add_slide(deck.slide_layouts[6])
        if ground:
            slide.background.fill.solid()
            slide.background.fill.fore_color.rgb = RGBColor.from_string(ground)
        slide.shapes.add_picture(io.BytesIO(picture), Inches(1), Inches(1), width=Inches(3))
    target = io.BytesIO()
    deck.save(target)
    return target.getvalue()


def an_open_deck() -> bytes:
    frame = (
        '<draw:frame draw:style-name="gr1" svg:width="8cm" svg:height="3cm" svg:x="1cm" svg:y="1cm">'
        '<draw:image xlink:href="Pictures/sign.png" xlink:type="simple"/></draw:frame>'
    )
    return open_deck([page_style("dp1", "")], [("dp1", frame), ("dp1", frame)], more={"Pictures/sign.png": CLEAR})


def inside(name: str, data: bytes) -> tuple[Inside, ...]:
    return _inside(Came(name, data, ()))


def shown(data: bytes) -> list[bytes]:
    """What the pictures of each slide are, as another library reads them."""
    deck = Presentation(io.BytesIO(data))
    return [shape.image.blob for slide in deck.slides for shape in slide.shapes if hasattr(shape, "image")]


def replaced(name: str, data: bytes, others: dict[str, bytes]) -> bytes:
    """A deck with other pictures in some places."""
    beside = {f"{PICTURE}{at}": content for at, content in enumerate(others.values())}
    grounds = {reference: f"{PICTURE}{at}" for at, reference in enumerate(others)}
    return read(name, data, beside).write(Changes(acts=(PictureGrounds(grounds=grounds),)))


def test_the_same_motif_is_known_in_every_size_format_and_ground() -> None:
    sign = motif_of(CLEAR)
    assert sign is not None
    for other in (old_sign(90), old_sign(640), BOXED, old_sign(300, box=(20, 30, 60))):
        found = motif_of(other)
        assert found is not None
        assert sign.same(found)
    mirrored = io.BytesIO()
    with Image.open(io.BytesIO(CLEAR)) as image:
        image.transpose(Image.Transpose.FLIP_LEFT_RIGHT).save(mirrored, "PNG")
    unlike = motif_of(mirrored.getvalue())
    assert unlike is not None
    assert not sign.same(unlike)
    assert motif_of(b"GIF89a") is None


def test_pictures_are_told_with_what_they_stand_on_and_the_slides_that_show_them() -> None:
    found = {one.pages: one for one in inside("x.pptx", a_deck())}
    assert [pages for (pages,) in found] == ["/slide1", "/slide2", "/slide3", "/slide4"]
    grounds = [one.ground and one.ground.paint.rgb.hex for one in found.values()]
    assert grounds == ["#ffffff", "#ffffff", "#141e3c", "#f0e6d2"]
    assert [one.box is not None for one in found.values()] == [False, False, False, True]
    motifs = [one.motif for one in found.values()]
    assert all(one is not None and motifs[0] is not None and one.same(motifs[0]) for one in motifs)
    # What fills its slide is what others stand on, and not to be mended; its colors go by the plan.
    [filling] = [one for one in inside(NAME, deck_file()[NAME]) if one.pages == ("/slide8",)]
    assert (filling.box, filling.ground, bool(filling.selector)) == (None, None, True)


def test_a_picture_that_becomes_the_same_everywhere_is_written_where_it_was() -> None:
    came, other = a_deck(), old_sign(100)
    uses = [one.reference for one in inside("x.pptx", came) if one.box is None]
    written = replaced("x.pptx", came, dict.fromkeys(uses, other))
    assert shown(written) == [other, other, other, BOXED]
    with zipfile.ZipFile(io.BytesIO(written)) as after, zipfile.ZipFile(io.BytesIO(came)) as before:
        assert after.namelist() == before.namelist()
        changed = [path for path in after.namelist() if after.read(path) != before.read(path)]
    assert changed == ["ppt/media/image1.png"]


def test_a_picture_that_parts_becomes_several_and_all_else_stays() -> None:
    came, light, dark = a_deck(), old_sign(100), old_sign(110)
    first, _, third, _ = (one.reference for one in inside("x.pptx", came))
    written = replaced("x.pptx", came, {first: light, third: dark})
    assert shown(written) == [light, CLEAR, dark, BOXED]
    with zipfile.ZipFile(io.BytesIO(written)) as after, zipfile.ZipFile(io.BytesIO(came)) as before:
        new = set(after.namelist()) - set(before.namelist())
        assert len(new) == 2
        changed = {path for path in before.namelist() if after.read(path) != before.read(path)}
    assert changed == {"ppt/slides/_rels/slide1.xml.rels", "ppt/slides/_rels/slide3.xml.rels"}
    # Read again, nothing of it is lost, and what was written is the same each time.
    assert len(inside("x.pptx", written)) == 4
    assert replaced("x.pptx", came, {first: light, third: dark}) == written


def test_a_picture_that_becomes_something_else_at_each_place_is_gone() -> None:
    """What no place is told of may show it, too, such as the preview of an embedded object."""
    came, light, dark = a_deck(), old_sign(100), old_sign(110)
    first, second, third, _ = (one.reference for one in inside("x.pptx", came))
    written = replaced("x.pptx", came, {first: light, second: dark, third: dark})
    assert shown(written) == [light, dark, dark, BOXED]
    with zipfile.ZipFile(io.BytesIO(written)) as after, zipfile.ZipFile(io.BytesIO(came)) as before:
        assert after.read("ppt/media/image1.png") == light
        [new] = set(after.namelist()) - set(before.namelist())
        assert after.read(new) == dark


def test_in_an_open_document_pictures_part_as_well() -> None:
    came, other = an_open_deck(), old_sign(100)
    one, two = (found.reference for found in inside("x.odp", came))
    both = replaced("x.odp", came, {one: other, two: other})
    with zipfile.ZipFile(io.BytesIO(both)) as archive:
        assert archive.read("Pictures/sign.png") == other
        assert archive.namelist()[0] == "mimetype"
    parted = replaced("x.odp", came, {two: other})
    with zipfile.ZipFile(io.BytesIO(parted)) as archive:
        assert archive.read("Pictures/sign.png") == CLEAR
        [new] = [path for path in archive.namelist() if path.startswith("Pictures/") and path != "Pictures/sign.png"]
        assert archive.read(new) == other
        assert f'full-path="{new}"'.encode() in archive.read("META-INF/manifest.xml")
    pictures = cast(Pictured, read("x.odp", parted)).pictures(Changes())
    assert sorted(pictures.values()) == sorted([CLEAR, other])


@pytest.mark.parametrize("make", [a_deck, an_open_deck])
def test_without_a_change_a_deck_with_pictures_is_the_same_bytes(make: Callable[[], Any]) -> None:
    data = make()
    name = "x.pptx" if make is a_deck else "x.odp"
    assert read(name, data).write(Changes()) == data


def test_of_very_many_pictures_the_small_ones_are_opened() -> None:
    photos = {Use(f"ppt/media/photo{at}.jpg", "slide1"): 7_000_000 for at in range(40)}
    found = {**photos, Use("ppt/media/sign.png", "slide2"): 9_000, Use("ppt/media/film.png", "slide2"): 9_000_000}
    kept = opened({**found, Use("ppt/media/sign.emf", "slide1"): 10})
    assert Use("ppt/media/sign.png", "slide2") in kept
    assert sum(found[use] for use in kept) <= 96_000_000
    assert {use.path for use in kept}.isdisjoint({"ppt/media/film.png", "ppt/media/sign.emf"})
