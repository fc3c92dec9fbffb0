"""Decks: how color is said in them, what stays, and what is refused."""

from __future__ import annotations

import io
import zipfile
from typing import cast

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pptx import Presentation

from pavese.core.color.derived import Transform, derived
from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats import read
from pavese.core.formats.archive import package
from pavese.core.formats.document import Document, PageKind, Themed
from pavese.core.formats.repack import repacked
from pavese.core.recolor.assign import assign
from pavese.core.recolor.changes import Changes, Faces
from pavese.core.recolor.inventory import summarize
from pavese.core.recolor.linked import Typed
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind
from pavese.core.recolor.theme import place_selector
from pavese.core.recolor.typed import TypedCodes
from pavese.demo.deck import NAME, deck_file
from pavese.demo.load import demo_kit
from tests.formats.decks import TURNED_MAP, deck, decks, pointing, said, shape, solid, text, theme_of

INK, PAPER, BRICK, MOSS, SEA = (parse_color(one).rgb for one in ("#101820", "#fdfcf8", "#a33b20", "#5b7a3a", "#24629a"))
THEME = theme_of(INK, PAPER, SEA, PAPER, BRICK, MOSS)


def opened(data: bytes) -> Document:
    return read("x.pptx", data)


def parts(data: bytes) -> dict[str, bytes]:
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        return {path: archive.read(path) for path in archive.namelist()}


def slide_of(data: bytes, number: int = 1) -> str:
    return parts(data)[f"ppt/slides/slide{number}.xml"].decode()


def test_themes_that_slides_brought_along_are_listed_and_go_the_same_way() -> None:
    square = [("", shape(2, solid(pointing("accent1")), "")) for _ in range(3)]
    came = deck(THEME, square, pasted=theme_of(INK, PAPER, SEA, PAPER, MOSS))
    [said_of_themes] = [one for one in opened(came).inventory().remarks if "themes" in one]
    assert said_of_themes.endswith("unless one is chosen apart: Quay (2 slides), Sales & more (1 slide).")
    written = opened(came).write({Rgba(*BRICK): SEA, Rgba(*MOSS): SEA})
    assert {site.paint.rgb for site in opened(written).sites() if site.kind is Kind.FILL} == {SEA}
    # One of them alone, on its slide too.
    borne = {one for site in opened(came).sites() for one in site.selectors}
    [sales] = [one for one in borne if one.startswith(f"{place_selector('accent1')}~Sales-more")]
    parted = opened(opened(came).write(Recoloring({}, {(Rgba(*MOSS), sales): INK})))
    assert sorted(site.paint.rgb for site in parted.sites() if site.kind is Kind.FILL) == sorted([BRICK, BRICK, INK])
    # One that holds the same colors says nothing new, and one alone is what everybody expects.
    for same in (deck(THEME, square, pasted=THEME), deck(THEME, square)):
        assert not [one for one in opened(same).inventory().remarks if "themes" in one]


def test_a_place_of_the_theme_is_edited_once_and_all_that_points_to_it_follows() -> None:
    fills = shape(2, solid(pointing("accent1")), text("Quay", pointing("bg1"))) + shape(3, solid(said(BRICK)), "")
    came = deck(THEME, [("", fills)])
    written = opened(came).write({Rgba(*BRICK): SEA})
    changed = {path for path, content in parts(written).items() if content != parts(came)[path]}
    # The theme, and the code that was typed; what points there needs no edit.
    assert changed == {"ppt/theme/theme1.xml", "ppt/slides/slide1.xml"}
    assert pointing("accent1") in slide_of(written)
    sites = [site for site in opened(written).sites() if place_selector("accent1") in site.selectors]
    assert {site.paint.rgb for site in sites} == {SEA}
    assert {site.kind for site in sites} == {Kind.THEME, Kind.FILL}


def test_what_was_typed_is_linked_where_the_theme_holds_its_target() -> None:
    typed = shape(2, solid(said(Rgb(200, 30, 40))), text("Red", said(Rgb(9, 9, 9))))
    came = deck(THEME, [("", typed)])
    wanted = {Rgba(200, 30, 40): MOSS, Rgba(9, 9, 9): INK}
    written = opened(came).write(wanted)
    assert pointing("accent2") in slide_of(written)
    assert pointing("tx1") in slide_of(written)
    # So the next change of the theme reaches it.
    later = opened(opened(written).write(Recoloring({}, {(Rgba(*MOSS), place_selector("accent2")): SEA})))
    assert Rgba(*MOSS) not in {site.paint for site in later.sites() if site.kind is Kind.FILL}
    assert Rgba(*SEA) in {site.paint for site in later.sites() if site.kind is Kind.FILL}
    # By choice codes stay codes.
    codes = opened(came).write(Changes(Recoloring(wanted), (TypedCodes(),)))
    assert "schemeClr" not in slide_of(codes).replace(pointing("tx1"), "")
    assert said(MOSS) in slide_of(codes)


def test_what_is_made_from_a_place_stays_linked_only_where_it_lands_on_its_target() -> None:
    paler = pointing("accent1", ("lumMod", 40_000), ("lumOff", 60_000))
    came = deck(THEME, [("", shape(2, solid(paler), ""))])
    [site] = [one for one in opened(came).sites() if one.kind is Kind.FILL]
    assert site.selectors[-1] == place_selector("accent1") + "+lumMod:40000+lumOff:60000"
    # The theme alone changes: what is kept says its color itself now.
    written = opened(came).write({Rgba(*BRICK): SEA})
    assert said(site.paint.rgb) in slide_of(written)
    # It goes where the theme takes it: nothing is written.

    after = derived(SEA, [Transform("lumMod", 40_000), Transform("lumOff", 60_000)]).rgb
    written = opened(came).write({Rgba(*BRICK): SEA, site.paint: after})
    assert slide_of(written) == slide_of(came)


def test_a_color_made_by_sixty_steps_is_one_like_any_other_and_plans_can_hold_it() -> None:
    many = [("lumMod", 50_000 + at) for at in range(60)]
    shapes = "".join(shape(at + 2, solid(pointing(f"accent{at}", *many)), "") for at in (1, 2, 3))
    document = opened(deck(theme_of(INK, PAPER, SEA, PAPER, BRICK, SEA, MOSS), [("", shapes)]))
    assert max(len(one) for site in document.sites() for one in site.selectors) <= 150
    plan = assign(summarize([document.inventory()], [Measured()], ["a.pptx"]), demo_kit())
    assert Plan.model_validate(plan.model_dump(mode="json")) == plan


def test_color_maps_and_their_overrides_say_what_a_name_means() -> None:
    words = shape(2, "", text("Night", pointing("tx1")))
    plain, turned = (
        next(site for site in opened(one).sites() if site.kind is Kind.TEXT and "/slide1" in site.selectors)
        for one in (deck(THEME, [("", words)]), deck(THEME, [("", words)], override=TURNED_MAP))
    )
    assert (plain.paint.rgb, turned.paint.rgb) == (INK, PAPER)
    by_master = next(
        site
        for site in opened(deck(THEME, [("", words)], names=TURNED_MAP)).sites()
        if site.kind is Kind.TEXT and "/slide1" in site.selectors
    )
    assert by_master.paint.rgb == PAPER


def test_a_slide_is_kept_as_it_came_while_the_theme_goes() -> None:
    one = shape(2, solid(pointing("accent1")), "")
    came = deck(THEME, [("", one), ("", one)])
    kept: dict[tuple[Rgba, str], Rgb | None] = {(Rgba(*BRICK), "/slide2"): None}
    written = opened(came).write(Recoloring({Rgba(*BRICK): SEA}, kept))
    assert pointing("accent1") in slide_of(written, 1)
    assert said(BRICK) in slide_of(written, 2)


def test_see_through_colors_stay_so() -> None:
    veiled = said(BRICK).replace("/>", '><a:alpha val="40000"/></a:srgbClr>')
    written = opened(deck(THEME, [("", shape(2, solid(veiled), ""))])).write({Rgba(*BRICK, 0.4): Rgb(1, 2, 3)})
    assert '<a:srgbClr val="010203"><a:alpha val="40000"/></a:srgbClr>' in slide_of(written)


def test_words_pictures_and_what_says_no_color_stay() -> None:
    unseen = '<a:extLst><a:ext uri="x"><p:penClr>' + said(BRICK) + "</p:penClr></a:ext></a:extLst>"
    words = shape(2, "", text("vip #A33B20, srgbClr", said(BRICK)) + f"<!-- {said(BRICK)} -->{unseen}")
    more = (("ppt/media/a.png", b"\x89PNG not looked at"), ("customXml/item1.xml", said(BRICK).encode()))
    came = deck(THEME, [("", words)], more=more)
    written = opened(came).write({Rgba(*BRICK): SEA})
    assert slide_of(written) == slide_of(came).replace(
        text("vip #A33B20, srgbClr", said(BRICK)), text("vip #A33B20, srgbClr", pointing("tx2")), 1
    )
    assert {path: parts(written)[path] for path, _ in more} == dict(more)


@settings(max_examples=40)
@given(data=decks(), chosen=st.lists(st.integers(0, 255), min_size=3, max_size=3))
def test_only_parts_with_an_edit_change_and_others_read_the_deck(data: bytes, chosen: list[int]) -> None:
    document = opened(data)
    written = document.write(dict.fromkeys(document.inventory().paints, Rgb(*chosen)))
    before, after = parts(data), parts(written)
    assert list(before) == list(after)
    assert all("slide" in path or "theme" in path for path in before if before[path] != after[path])
    deck_before, deck_after = (Presentation(io.BytesIO(one)) for one in (data, written))
    assert [words(one) for one in deck_after.slides] == [words(one) for one in deck_before.slides]


def words(slide: object) -> list[str]:
    return [one.text_frame.text for one in slide.shapes if one.has_text_frame]  # type: ignore[attr-defined]


def test_the_demo_s_deck_is_made_of_twelve_slides_one_of_them_hidden() -> None:
    document = opened(deck_file()[NAME])
    assert [page.kind for page in document.pages[:13]] == [PageKind.CONTENT] * 12 + [PageKind.MASTER]
    assert {page.kind for page in document.pages[13:-1]} == {PageKind.LAYOUT}
    assert document.pages[-1].title == "Notes of 12. For the purser"
    assert document.pages[11].title == "12. For the purser (hidden)"
    assert len({page.selector for page in document.pages}) == len(document.pages)
    found = document.inventory()
    assert found.title == "Crew briefing"
    assert {Kind.THEME, Kind.SERIES, Kind.CELL, Kind.GROUND, Kind.TEXT} <= {
        kind for kinds in found.sites.values() for kind in kinds
    }


GOOD = deck(THEME, [("", shape(2, solid(said(BRICK)), ""))])


def without(path: str) -> bytes:
    return package((one, content) for one, content in parts(GOOD).items() if one != path)


def instead(path: str, content: bytes) -> bytes:
    return repacked(GOOD, {path: content})


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1 and more", "password"),
        (b"", "cannot be opened"),
        (b"PK\x03\x04 cut", "cannot be opened"),
        (package([("word/document.xml", b"<x/>")]), "“[Content_Types].xml” is missing"),
        (without("[Content_Types].xml"), "missing"),
        (without("ppt/presentation.xml"), "no presentation"),
        (instead("ppt/slides/slide1.xml", b"<p:sld"), "slide1.xml"),
        (instead("ppt/slides/slide1.xml", b'<!DOCTYPE x [<!ENTITY a "b">]><x>&a;</x>'), "entities"),
        (instead("ppt/slides/slide1.xml", b"<x>" * 400 + b"</x>" * 400), "nested"),
        (package([*parts(GOOD).items(), ("../x.xml", b"")]), "leads out"),
    ],
    ids=range(10),
)
def test_what_cannot_be_read_is_refused_with_the_reason(data: bytes, said: str) -> None:
    with pytest.raises(RefusedFileError, match=said.replace("[", "\\[")):
        opened(data)


def test_a_deck_of_the_older_kind_is_refused_with_the_way_out() -> None:
    with pytest.raises(RefusedFileError, match=r"save it as \.pptx"):
        read("old.ppt", b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1")


def test_a_deck_whose_parts_name_what_is_not_there_is_still_read() -> None:
    for path in ("ppt/theme/theme1.xml", "ppt/slideLayouts/slideLayout1.xml", "ppt/slides/_rels/slide1.xml.rels"):
        document = opened(without(path))
        assert document.write({}) == without(path)
        document.write(dict.fromkeys(document.inventory().paints, SEA))


@given(
    contents=st.lists(st.binary(max_size=300), min_size=1, max_size=6),
    at=st.integers(0, 5),
    new=st.binary(max_size=300),
)
def test_a_package_with_one_file_changed_has_all_others_as_they_are_packed(
    contents: list[bytes], at: int, new: bytes
) -> None:
    came = package((f"folder/å{number}.xml", content) for number, content in enumerate(contents))
    path = f"folder/å{at % len(contents)}.xml"
    made = repacked(came, {path: new})
    with zipfile.ZipFile(io.BytesIO(came)) as before, zipfile.ZipFile(io.BytesIO(made)) as after:
        assert after.testzip() is None
        assert after.namelist() == before.namelist()
        for one, other in zip(before.infolist(), after.infolist(), strict=True):
            assert after.read(other) == (new if one.filename == path else before.read(one))
            assert (one.date_time, one.compress_type, one.external_attr) == (
                other.date_time,
                other.compress_type,
                other.external_attr,
            )


def test_what_is_linked_and_what_stays_a_code_is_told_with_the_reason() -> None:
    paler = pointing("accent1", ("lumMod", 40_000), ("lumOff", 60_000))
    inside = (
        shape(2, solid(said(Rgb(200, 30, 40))), text("Linked", said(Rgb(9, 9, 9))))
        + shape(3, solid(said(Rgb(90, 90, 200))), "")
        + shape(4, solid(paler), "")
    )
    came = deck(THEME, [("", inside)])
    [shade] = [one.paint for one in opened(came).sites() if one.selectors[-1].endswith("+lumOff:60000")]
    wanted = {Rgba(200, 30, 40): MOSS, Rgba(9, 9, 9): INK, Rgba(90, 90, 200): Rgb(100, 80, 60), shade: Rgb(7, 8, 9)}
    told = {one.site.paint: one for one in cast(Themed, opened(came)).links(wanted)}
    assert (told[Rgba(200, 30, 40)].slot, told[Rgba(9, 9, 9)].slot) == ("accent2", "dk1")
    assert told[Rgba(90, 90, 200)].why is Typed.NO_PLACE
    assert told[Rgba(90, 90, 200)].near in ("accent1", "accent4")
    assert (told[shade].was, told[shade].why) == ("accent1", Typed.MADE_OFF)
    typing = Changes(Recoloring(wanted), (TypedCodes(),))
    assert {one.why for one in cast(Themed, opened(came)).links(typing) if not one.was} == {Typed.CODES}
    # What is told is what is written: every site follows its place, or says its color.
    written = opened(opened(came).write(wanted))
    pointed = {one.selectors[-1] for one in written.sites() if one.kind in (Kind.FILL, Kind.TEXT)}
    assert {place_selector("accent2"), place_selector("dk1")} <= pointed


def test_the_typefaces_of_the_kit_go_to_the_two_places_of_the_theme_and_references_stay() -> None:
    runs = '<a:p><a:r><a:rPr><a:latin typeface="+mj-lt"/></a:rPr><a:t>Quay</a:t></a:r></a:p>'
    came = deck(THEME, [("", shape(2, "", runs))])
    written = opened(came).write(Changes(faces=Faces("Tarn & Sons", "Commissioner")))
    theme = parts(written)["ppt/theme/theme1.xml"].decode()
    assert '<a:majorFont><a:latin typeface="Tarn &amp; Sons"/><a:ea typeface=""/>' in theme
    assert '<a:minorFont><a:latin typeface="Commissioner"/>' in theme
    assert slide_of(written) == slide_of(came), "what refers to the theme keeps doing so"
    assert opened(came).write(Changes(faces=Faces("", ""))) == came
    assert opened(came).write(Changes(faces=Faces("Carlito", "Carlito"))) == came
