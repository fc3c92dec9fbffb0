"""The template of a kit: every layout of every master, filled with real content, opened and drawn."""

from __future__ import annotations

import io

import pytest
from pptx import Presentation
from pptx.chart.data import CategoryChartData
from pptx.enum.chart import XL_CHART_TYPE
from pptx.oxml.ns import qn

from pavese.core.color.contrast import WHITE
from pavese.core.formats import format_of, read
from pavese.core.formats.document import PageKind
from pavese.core.formats.repack import repacked
from pavese.core.handoff.deck_template import CLASSIC, TABLE_STYLE, WIDE, Format, template, theme_colors
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.reading import readings
from pavese.core.recolor.site import Kind
from pavese.demo.load import demo_kit
from pavese.demo.pictures import board_pictures
from pavese.render.reading import measured
from tests.core.test_handoff import published

KIT = demo_kit()


def filled(data: bytes) -> bytes:
    """A deck of one slide of each layout, made by another library from the template."""
    with_types = template_as_deck(data)
    deck = Presentation(io.BytesIO(with_types))
    for master in deck.slide_masters:
        for layout in master.slide_layouts:
            slide = deck.slides.add_slide(layout)
            for holder in slide.placeholders:
                kind = str(holder.placeholder_format.type)
                if "TABLE" in kind:
                    table = holder.insert_table(rows=2, cols=2).table
                    table.cell(0, 0).text, table.cell(1, 1).text = f"Island, {layout.name}", f"06:40, {layout.name}"
                    # The library names a style of its own; the programs people use take the template's.
                    table._tbl.tblPr.find(qn("a:tableStyleId")).text = TABLE_STYLE
                elif "CHART" in kind:
                    chart = CategoryChartData()
                    chart.categories = ["September", "October"]
                    chart.add_series("Skerry", (3, 4))
                    holder.insert_chart(XL_CHART_TYPE.COLUMN_CLUSTERED, chart)
                elif "PICTURE" in kind:
                    holder.insert_picture(io.BytesIO(board_pictures()["kelp-shore.png"]))
                elif holder.has_text_frame:
                    holder.text = f"{layout.name} reads here"
    target = io.BytesIO()
    deck.save(target)
    return target.getvalue()


def template_as_deck(data: bytes) -> bytes:
    types = next(content for path, content in _members(data) if path == "[Content_Types].xml")
    return repacked(data, {"[Content_Types].xml": types.replace(b"template.main", b"presentation.main")})


def _members(data: bytes) -> list[tuple[str, bytes]]:
    from pavese.core.formats.archive import members

    return list(members("template.potx", data))


@pytest.mark.parametrize("size", [WIDE, CLASSIC], ids=["16:9", "4:3"])
def test_each_layout_filled_reads_inherits_and_has_nothing_typed(size: Format) -> None:
    data = template(published(KIT), size)
    assert data == template(published(KIT), size)
    empty = read("kit.potx", data)
    typed = [site for site in empty.sites() if not any(one.startswith("/theme.") for one in site.selectors)]
    assert typed == []
    deck = filled(data)
    document = read("kit.pptx", deck)
    assert sum(page.kind is PageKind.CONTENT for page in document.pages) == 27
    told = readings(measured(document, format_of("kit.pptx").can).texts, Changes(), WHITE)
    said = {one.run.text.text for one in told}
    for layout in ("Title", "Section", "Text", "Two columns", "Picture", "Quote", "Closing"):
        for ground in ("light", "dark", "colored"):
            assert any(words.startswith(f"{layout}, {ground} reads here") for words in said), (layout, ground)
    assert {
        f"{cell}, Table, {ground}" for cell in ("Island", "06:40") for ground in ("light", "dark", "colored")
    } <= said
    assert [(one.run.text.text, one.after) for one in told if not one.reads] == []
    slides = [site for site in document.sites() if any(one.startswith("/slide1") for one in site.selectors)]
    assert not [site for site in slides if site.kind is Kind.TEXT and len(site.selectors) < 2]


def test_the_theme_holds_the_kit_and_what_has_no_place_goes_by_name() -> None:
    theme = dict(_members(template(published(KIT), WIDE)))["ppt/theme/theme1.xml"].decode()
    places = theme_colors(KIT)
    assert all(f'val="{color.hex[1:].upper()}"' in theme for color in places.values())
    others = [color for color in KIT.colors if color.base not in places.values()]
    assert all(f'custClr name="{color.name}"' in theme for color in others)
