"""Slides as the office program shows them: drawn, measured, with nothing fetched and within bounds."""

from __future__ import annotations

import io
import zipfile
from copy import deepcopy
from pathlib import Path
from typing import Any, cast

import pytest
from lxml import etree
from PIL import Image
from pptx import Presentation
from pptx.dml.color import RGBColor
from pptx.opc.constants import RELATIONSHIP_TYPE
from pptx.oxml import parse_xml
from pptx.oxml.ns import nsdecls, qn

from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats import format_of, read
from pavese.core.formats.archive import package
from pavese.core.formats.document import Alone, Document, Marked, PageKind
from pavese.core.kit.kit import Kit
from pavese.core.recolor.assign import assign
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.reading import readings
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind
from pavese.demo.deck import NAME, deck_file
from pavese.demo.load import demo_kit
from pavese.render import office
from pavese.render.draw import draw
from pavese.render.reading import measured
from pavese.render.slides import seen_at, slides_framed
from tests.formats.decks import TURNED_MAP, deck, pointing, said, shape, solid, text, theme_of
from tests.formats.open_decks import graphic, open_deck, page_style, style, words
from tests.formats.open_decks import shape as open_shape
from tests.formats.rasters import saved

INK, PAPER, BRICK = (parse_color(one).rgb for one in ("#101820", "#fdfcf8", "#a33b20"))
THEME = theme_of(INK, PAPER, INK, PAPER, BRICK)
WHITE = Rgb(255, 255, 255)
SEA = Rgb(11, 94, 107)
#: The second accent of the theme that a new deck has.
ACCENT_2 = Rgb(192, 80, 77)


def opened(data: bytes) -> Document:
    return read("x.pptx", data)


def looked_at(document: Document) -> Measured:
    return measured(document, format_of("x.pptx").can)


def pixel(document: Document, changes: Changes, page: int, x: float, y: float) -> Rgb:
    with Image.open(io.BytesIO(draw(document.preview(changes, page), 640))) as image:
        r, g, b = image.getpixel((int(x * image.width), int(y * image.height)))  # type: ignore[misc]
        return Rgb(r, g, b)


def test_a_text_stands_on_its_own_fill_the_shape_below_or_what_the_master_lays() -> None:
    own = shape(2, solid(pointing("accent1")), text("On brick", pointing("bg1"), 2000), box=(1, 1, 5, 2))
    panel = shape(3, solid(pointing("tx1")), "", box=(7, 1, 5, 3))
    above = shape(4, "", text("On the panel", pointing("bg1"), 2000), box=(7, 1, 5, 2))
    bare = shape(5, "", text("On the master", "", 2000), "title", (1, 5, 5, 1))
    found = looked_at(opened(deck(THEME, [("", own + panel + above + bare)])))
    pairs = {run.text.text: (run.text.ink.rgb, run.ground and run.ground.rgb) for run in found.texts}
    assert pairs == {
        "On brick": (PAPER, BRICK),
        "On the panel": (PAPER, INK),
        "On the master": (INK, PAPER),
    }
    assert {run.page for run in found.texts} == {"/slide1"}
    assert {round(run.text.size, 1) for run in found.texts} == {26.7}
    assert found.areas[Rgba(*PAPER)] > found.areas[Rgba(*INK)] > 0.1


def test_what_is_shown_in_a_paint_is_framed_on_each_slide() -> None:
    own = shape(2, solid(pointing("accent1")), text("On brick", pointing("bg1"), 2000), box=(1, 1, 5, 2))
    far = shape(3, solid(said(BRICK)), "", box=(8, 5, 2, 1))
    over = shape(4, solid(pointing("tx1")), "", box=(8, 5, 1, 1))
    pages = list(slides_framed(cast(Marked, opened(deck(THEME, [("", own), ("", own + far + over)])))))
    assert [(page.columns, page.rows) for page in pages] == [(640, 360)] * 2
    inch = 640 / (40 / 3)
    framed = [[[round(edge / inch, 1) for edge in frame] for frame in page.boxes[Rgba(*BRICK)]] for page in pages]
    # Of what lies under another shape, what is seen of it.
    assert framed == [[[1, 1, 5, 2]], [[1, 1, 5, 2], [9, 5, 1, 1]]]
    [words] = pages[0].boxes[Rgba(*PAPER)][1:]
    assert 1 < words.left / inch < (words.left + words.width) / inch < 6
    assert 0.2 < words.height / inch < 0.5


def test_a_press_on_a_slide_tells_the_shape_that_says_it_which_goes_its_own_way() -> None:
    one = shape(2, solid(said(BRICK)), "", box=(1, 1, 3, 2))
    other = shape(3, solid(said(BRICK)), text("Below", pointing("bg1"), 4000), box=(1, 4, 3, 2))
    document = opened(deck(THEME, [("", one), ("", one + other)]))
    marked = cast(Marked, document)

    def at(page: int, x: float, y: float) -> tuple[Rgba, Alone | None] | None:
        return seen_at(marked, page, (x / (40 / 3), y / 7.5))

    upper, lower, ground = at(1, 2, 2), at(1, 3.5, 5.8), at(1, 9, 2)
    assert upper is not None
    assert lower is not None
    assert ground is not None
    assert (upper[0].rgb, lower[0].rgb, ground[0].rgb) == (BRICK, BRICK, PAPER)
    assert upper[1] == Alone("#slide2.2", "the shape “Shape 2” on slide 2")
    assert lower[1] == Alone("#slide2.3", "the shape “Shape 3” on slide 2")
    assert at(0, 9, 2) == ground
    assert at(5, 2, 2) is None, "beyond the slides nothing is told"
    # It goes before what its slide does, and nothing else moves.
    own = Recoloring({}, {(Rgba(*BRICK), "#slide2.3"): SEA, (Rgba(*BRICK), "/slide2"): INK})
    again = read("x.pptx", document.write(own))
    assert [
        seen[0].rgb
        for seen in (
            seen_at(cast(Marked, again), *spot)
            for spot in (
                (0, (2 / 13.3, 2 / 7.5)),
                (1, (2 / 13.3, 2 / 7.5)),
                (1, (3.5 / 13.3, 5.8 / 7.5)),
            )
        )
        if seen
    ] == [BRICK, INK, SEA]


def test_a_press_beyond_the_slides_that_are_measured_tells_the_paint_alone(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("pavese.core.formats.deck.document.MEASURED", 1)
    document = cast(Marked, opened(deck(THEME, [("", shape(2, solid(said(BRICK)), ""))] * 2)))
    assert seen_at(document, 0, (0.2, 0.2)) == (Rgba(*BRICK), Alone("#slide1.2", "the shape “Shape 2” on slide 1"))
    assert seen_at(document, 1, (0.2, 0.2)) is None


def test_a_turned_map_is_followed_and_what_lies_under_a_veil_is_not_guessed() -> None:
    veil = solid(said(BRICK).replace("/>", '><a:alpha val="50000"/></a:srgbClr>'))
    words = shape(2, "", text("Night", pointing("tx1"), 2000)) + shape(
        3, veil, text("Veiled", said(PAPER), 2000), box=(1, 5, 5, 1)
    )
    found = looked_at(opened(deck(THEME, [("", words)], names=TURNED_MAP)))
    told = {run.text.text: run.ground and run.ground.rgb for run in found.texts}
    assert told == {"Night": INK, "Veiled": None}


@pytest.mark.parametrize("how", ["on the picture", "by the style of the ground"])
def test_a_picture_in_two_tones_of_the_theme_is_followed(how: str) -> None:
    scene = Image.effect_noise((160, 90), 70).resize((960, 540), Image.Resampling.BICUBIC).convert("RGB")
    made = Presentation()
    slide = made.slides.add_slide(made.slide_layouts[6])
    picture = slide.shapes.add_picture(io.BytesIO(saved(scene, "PNG")), 0, 0, made.slide_width, made.slide_height)
    box = slide.shapes.add_textbox(0, 0, made.slide_width, made.slide_height // 2)
    box.text_frame.text = "Two tones"
    box.text_frame.paragraphs[0].runs[0].font.color.rgb = RGBColor(255, 255, 255)
    blip = picture._element.find(f".//{qn('a:blip')}")
    said = '<a:shade val="30000"/>', '<a:tint val="80000"/><a:shade val="60000"/>'
    name = "accent2" if how == "on the picture" else "phClr"
    both = "".join(f'<a:schemeClr val="{name}">{transforms}</a:schemeClr>' for transforms in said)
    blip.append(parse_xml(f"<a:duotone {nsdecls('a')}>{both}</a:duotone>"))
    if how != "on the picture":
        _put_into_the_style_of_the_ground(made, slide, picture)
    target = io.BytesIO()
    made.save(target)
    document = opened(target.getvalue())
    tones = [site.paint for site in document.sites() if site.kind is Kind.STOP] if how == "on the picture" else []
    changes = Changes(Recoloring({Rgba(*ACCENT_2): SEA, **dict(zip(tones, (Rgb(4, 40, 46), SEA), strict=False))}))
    (foretold,) = readings(looked_at(document).texts, changes, WHITE)
    assert foretold.run.ground is None
    assert foretold.after != pytest.approx(foretold.before, abs=0.3)
    (measured_anew,) = readings(looked_at(opened(document.write(changes))).texts, Changes(), WHITE)
    assert foretold.after == pytest.approx(measured_anew.after, abs=0.3)


def _put_into_the_style_of_the_ground(made: Any, slide: Any, picture: Any) -> None:
    """Makes of the picture on a slide the third ground of its theme, on which the slide stands in its second accent."""
    master = made.slide_masters[0].part
    theme = next(one.target_part for one in master.rels.values() if one.reltype.endswith("/theme"))
    root = parse_xml(theme.blob)
    blip = deepcopy(picture._element.find(f".//{qn('a:blip')}"))
    blip.set(qn("r:embed"), theme.relate_to(slide.part.related_part(blip.get(qn("r:embed"))), RELATIONSHIP_TYPE.IMAGE))
    fill = parse_xml(f"<a:blipFill {nsdecls('a', 'r')}><a:stretch/></a:blipFill>")
    fill.insert(0, blip)
    grounds = root.find(f".//{qn('a:bgFillStyleLst')}")
    grounds.replace(grounds[2], fill)
    theme._blob = etree.tostring(root)
    ground = f'<p:bg {nsdecls("p", "a")}><p:bgRef idx="1003"><a:schemeClr val="accent2"/></p:bgRef></p:bg>'
    slide._element.cSld.insert(0, parse_xml(ground))
    picture._element.getparent().remove(picture._element)


def test_hidden_slides_are_seen_and_a_changed_place_is_seen_on_all_that_points_there() -> None:
    filled = shape(2, solid(pointing("accent1")), "", box=(1, 1, 8, 4))
    document = opened(deck(theme_of(INK, PAPER, INK, PAPER, BRICK, INK), [("", filled)] * 8, hidden=frozenset({7})))
    sea = parse_color("#24629a").rgb
    changes = Changes.of({Rgba(*BRICK): sea})
    for page in (0, 6, 7):
        assert pixel(document, Changes(), page, 0.3, 0.4) == BRICK
        assert pixel(document, changes, page, 0.3, 0.4) == sea


def test_masters_and_layouts_are_seen_also_of_a_deck_without_slides() -> None:
    for slides in ([("", "")], []):
        document = opened(deck(THEME, slides))
        kinds = [page.kind for page in document.pages]
        assert kinds == [*([PageKind.CONTENT] * len(slides)), PageKind.MASTER, PageKind.LAYOUT]
        for page in range(len(kinds)):
            assert pixel(document, Changes(), page, 0.5, 0.5) == PAPER
            assert pixel(document, Changes.of({Rgba(*PAPER): BRICK}), page, 0.5, 0.5) == BRICK
        assert looked_at(document).areas[Rgba(*PAPER)] > 0.9


def test_nothing_outside_of_a_deck_is_looked_for(tmp_path: Path) -> None:
    """A picture by address on this very machine stays an empty place."""
    secret = tmp_path / "secret.png"
    Image.new("RGB", (40, 40), (1, 200, 3)).save(secret)
    blip = (
        '<p:pic><p:nvPicPr><p:cNvPr id="9" name="p"/><p:cNvPicPr/><p:nvPr/></p:nvPicPr><p:blipFill>'
        '<a:blip r:link="rId9"/>'
        '<a:stretch><a:fillRect/></a:stretch></p:blipFill><p:spPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="9144000" '
        'cy="6858000"/></a:xfrm><a:prstGeom prst="rect"><a:avLst/></a:prstGeom></p:spPr></p:pic>'
    )
    came = deck(THEME, [("", blip)])
    path = "ppt/slides/_rels/slide1.xml.rels"
    target = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(came)) as archive, zipfile.ZipFile(target, "w") as linked:
        for one in archive.namelist():
            content = archive.read(one)
            if one == path:
                link = (
                    '<Relationship Id="rId9" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships'
                    f'/image" Target="file://{secret}" TargetMode="External"/></Relationships>'
                )
                content = content.replace(b"</Relationships>", link.encode())
            linked.writestr(one, content)
    document = opened(target.getvalue())
    assert document.write({}) == target.getvalue()
    assert pixel(document, Changes(), 0, 0.3, 0.3) != (1, 200, 3)


def test_what_the_program_cannot_show_is_said(monkeypatch: pytest.MonkeyPatch) -> None:
    with pytest.raises(ValueError, match=r"cannot show it|made nothing"):
        office.picture(b"no package at all", 0, 64)
    monkeypatch.setattr(office, "SECONDS", 0.01)
    with pytest.raises(ValueError, match="took longer"):
        office.picture(b"another that is no package", 0, 64)
    monkeypatch.setattr(office, "_program", lambda: None)
    with pytest.raises(ValueError, match="this machine lacks"):
        office.picture(b"and one more", 0, 64)


@pytest.fixture(scope="module")
def briefing() -> tuple[Document, Measured]:
    document = read(NAME, deck_file()[NAME])
    return document, measured(document, format_of(NAME).can)


def planned(found: tuple[Document, Measured], kit: Kit) -> Changes:
    document, seen = found
    return assign(summarize([document.inventory()], [seen], [NAME]), kit).changes(kit, NAME)


def test_the_demo_s_deck_reads_as_well_in_the_kit_also_when_it_is_opened_and_drawn_anew(
    briefing: tuple[Document, Measured],
) -> None:
    kit = demo_kit()
    changes = planned(briefing, kit)
    told = readings(briefing[1].texts, changes, WHITE)
    assert len(told) > 30
    assert not [one for one in told if one.worse]
    written = read(NAME, briefing[0].write(changes))
    anew = readings(looked_at(written).texts, Changes(), WHITE)
    before, after = (sum(one.before >= one.needed for one in listed) for listed in (told, anew))
    assert after >= before
    # All that is painted is of the kit, but for what only shadows are made of.
    own = {color for _, color in kit.tokens()}
    found = written.inventory().sites
    assert {paint.rgb for paint, sites in found.items() if set(sites) != {Kind.PICTURE}} <= own


def test_what_was_linked_follows_the_next_change_of_the_theme_by_itself() -> None:
    """The theme of the result alone is changed, and it is drawn: every linked place has moved, all else stands."""
    typed = [Rgb(200, 30, 40), Rgb(30, 120, 200), Rgb(90, 90, 90)]
    boxes = ((1, 1, 3, 3), (5, 1, 3, 3), (9, 1, 3, 3))
    inside = "".join(shape(2 + at, solid(said(one)), "", box=boxes[at]) for at, one in enumerate(typed))
    document = opened(deck(THEME, [("", inside)]))
    moss, unlike = Rgb(91, 122, 58), Rgb(140, 20, 140)
    wanted = {Rgba(*typed[0]): BRICK, Rgba(*typed[1]): INK, Rgba(*typed[2]): unlike}
    written = document.write(wanted)
    with zipfile.ZipFile(io.BytesIO(written)) as archive:
        files = [(name, archive.read(name)) for name in archive.namelist()]
    old, new = said(BRICK).encode(), said(moss).encode()
    moved = opened(package([(name, data.replace(old, new) if "theme1" in name else data) for name, data in files]))
    centers = [((x + width / 2) / (12_192_000 / 914_400), 2.5 / 7.5) for x, _, width, _ in boxes]
    assert [pixel(moved, Changes(), 0, *at) for at in centers] == [moss, INK, unlike]


def test_notes_are_seen_with_their_slides_and_as_they_become() -> None:
    deck_of = Presentation()
    for at in range(8):
        slide = deck_of.slides.add_slide(deck_of.slide_layouts[5])
        slide.shapes.title.text = f"Quay {at}"
        if at in (1, 7):
            words = slide.notes_slide.notes_text_frame
            words.text = "Tell them about the boats. " * 12
            words.paragraphs[0].runs[0].font.color.rgb = RGBColor(*BRICK)
    out = io.BytesIO()
    deck_of.save(out)
    document = opened(out.getvalue())
    notes = [(at, page) for at, page in enumerate(document.pages) if page.kind is PageKind.NOTES]
    assert [page.title for _, page in notes] == ["Notes of 2. Quay 1", "Notes of 8. Quay 7"]
    assert [page.selector for _, page in notes] == ["/notesSlide1", "/notesSlide2"]
    paint = Rgba(*BRICK)
    only_second = Recoloring({}, {(paint, "/notesSlide2"): SEA})
    for wanted, colors in ((Recoloring({paint: SEA}), (SEA, SEA)), (only_second, (BRICK, SEA))):
        for (at, _), color in zip(notes, colors, strict=True):
            with Image.open(io.BytesIO(draw(document.preview(wanted, at), 900))) as image:
                # A page stands upright, its words below the picture of the slide.
                assert image.height > image.width
                lower = image.convert("RGB").crop((0, image.height // 2, image.width, image.height))
                seen = {one[1] for one in lower.getcolors(1 << 20) or ()}
            assert color in seen
            assert not seen & ({BRICK, SEA} - {color})
    # Slides, masters and layouts are seen as they were.
    with Image.open(io.BytesIO(draw(document.preview(Changes(), 7), 320))) as image:
        assert image.width > image.height


def test_notes_of_open_decks_are_pages_of_their_own() -> None:
    notes = (
        '<presentation:notes draw:style-name="np"><draw:frame draw:style-name="plain" svg:x="2cm" svg:y="14cm" '
        'svg:width="16cm" svg:height="10cm" presentation:class="notes"><draw:text-box><text:p>'
        f'<text:span text:style-name="said">{"Tell them about the boats. " * 12}</text:span></text:p></draw:text-box>'
        "</draw:frame></presentation:notes>"
    )
    styles = [
        page_style("dp", ""),
        page_style("np", ""),
        style("plain", "graphic", graphic('draw:fill="none"')),
        style("said", "text", words(f'fo:color="{BRICK.hex}"')),
        style("ink", "text", words(f'fo:color="{INK.hex}"')),
    ]
    pages = [("dp", open_shape("plain", "One", "ink")), ("dp", open_shape("plain", "Two", "ink") + notes)]
    document = read("x.odp", open_deck(styles, pages))
    assert [(page.kind, page.selector) for page in document.pages] == [
        (PageKind.CONTENT, "/page1"),
        (PageKind.CONTENT, "/page2"),
        (PageKind.NOTES, "/notes2"),
    ]
    with Image.open(
        io.BytesIO(draw(document.preview(Recoloring({}, {(Rgba(*BRICK), "/notes2"): SEA}), 2), 900))
    ) as image:
        assert image.height > image.width
        seen = {one[1] for one in image.convert("RGB").getcolors(1 << 20) or ()}
    assert SEA in seen
    assert BRICK not in seen
