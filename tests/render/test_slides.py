"""Slides as the office program shows them: drawn, measured, with nothing fetched and within bounds."""

from __future__ import annotations

import io
import zipfile
from pathlib import Path
from typing import cast

import pytest
from PIL import Image

from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats import format_of, read
from pavese.core.formats.archive import package
from pavese.core.formats.document import Document, Marked, PageKind
from pavese.core.kit.kit import Kit
from pavese.core.recolor.assign import assign
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.reading import readings
from pavese.core.recolor.site import Kind
from pavese.demo.deck import NAME, deck_file
from pavese.demo.load import demo_kit
from pavese.render import office
from pavese.render.draw import draw
from pavese.render.reading import measured
from pavese.render.slides import slides_framed
from tests.formats.decks import TURNED_MAP, deck, pointing, said, shape, solid, text, theme_of

INK, PAPER, BRICK = (parse_color(one).rgb for one in ("#101820", "#fdfcf8", "#a33b20"))
THEME = theme_of(INK, PAPER, INK, PAPER, BRICK)
WHITE = Rgb(255, 255, 255)


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


def test_a_turned_map_is_followed_and_what_lies_under_a_veil_is_not_guessed() -> None:
    veil = solid(said(BRICK).replace("/>", '><a:alpha val="50000"/></a:srgbClr>'))
    words = shape(2, "", text("Night", pointing("tx1"), 2000)) + shape(
        3, veil, text("Veiled", said(PAPER), 2000), box=(1, 5, 5, 1)
    )
    found = looked_at(opened(deck(THEME, [("", words)], names=TURNED_MAP)))
    told = {run.text.text: run.ground and run.ground.rgb for run in found.texts}
    assert told == {"Night": INK, "Veiled": None}


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
