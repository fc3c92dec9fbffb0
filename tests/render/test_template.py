"""The template of a kit: every layout of every master, filled with real content, opened and drawn."""

from __future__ import annotations

import io
from dataclasses import replace

import pytest
from pptx import Presentation
from pptx.chart.data import CategoryChartData
from pptx.enum.chart import XL_CHART_TYPE
from pptx.oxml.ns import qn

from pavese.core.check.conformance import check_paints
from pavese.core.color.contrast import WHITE
from pavese.core.formats import archive, format_of, read
from pavese.core.formats.document import PageKind
from pavese.core.formats.repack import repacked
from pavese.core.formats.xml_source import read_xml
from pavese.core.gather.logo import take_logo
from pavese.core.handoff.deck_template import (
    CLASSIC,
    TABLE_STYLE,
    WIDE,
    of_each_layout,
    template,
    theme_colors,
)
from pavese.core.handoff.open_template import open_template
from pavese.core.handoff.published import Published
from pavese.core.handoff.slide_shapes import Format
from pavese.core.kit.logo import Backing, Logo
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.reading import readings
from pavese.core.recolor.site import Kind
from pavese.demo.load import demo_kit
from pavese.demo.pictures import board_pictures, logo
from pavese.render import office
from pavese.render.draw import draw
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


def with_logo(backing: str | None) -> Published:
    """The kit with a logo for light grounds."""
    taken = take_logo("tarnmoor.svg", logo(), draw)
    back = Backing(color=backing) if backing else None
    kit = KIT.with_(logo=Logo(on_light=taken.picture, backing=back))
    return replace(published(kit), picture={taken.picture.drawn: taken.drawn}.__getitem__)


@pytest.mark.parametrize(("backing", "on"), [("fog.base", 3), (None, 1)], ids=["on its backing", "where it stands out"])
def test_the_logo_stands_on_every_ground_as_the_kit_says(backing: str | None, on: int) -> None:
    data = template(with_logo(backing), WIDE)
    deck = Presentation(io.BytesIO(template_as_deck(data)))
    shown = [master for master in deck.slide_masters if any(shape.name == "Logo" for shape in master.shapes)]
    assert len(shown) == on
    for master in shown:
        [small] = [shape for shape in master.shapes if shape.name == "Logo"]
        assert small._element.nvPicPr.cNvPr.get("descr") == f"Logo of {KIT.name}"
        assert small.width / small.height == pytest.approx(small.image.size[0] / small.image.size[1], rel=0.01)
        numbers = [one for one in master.placeholders if "NUMBER" in str(one.placeholder_format.type)]
        assert all(one.left + one.width <= small.left for one in numbers), "the number of a slide stands beside it"
        large = [layout for layout in master.slide_layouts if any(shape.name == "Logo" for shape in layout.shapes)]
        assert [layout.name.split(",")[0] for layout in large] == ["Title", "Closing"]
        for layout in large:
            assert layout._element.get("showMasterSp") == "0", "it is there once"
    document = read("kit.potx", data)
    typed = [
        site for site in document.sites() if site.kind is not Kind.PICTURE and "/theme." not in str(site.selectors)
    ]
    assert typed == []
    if backing:
        assert len(shown[0]._element.findall(f".//{qn('p:pic')}")) == 1
        assert any(shape.name == "Backing" for shape in shown[1].shapes)


@pytest.mark.parametrize("size", [WIDE, CLASSIC], ids=["16:9", "4:3"])
def test_as_opendocument_each_layout_is_a_master_with_the_kits_colors(size: Format) -> None:
    given = with_logo("fog.base")
    deck = of_each_layout(given, size)
    data = open_template(office.open_template(deck), given.kit)
    parts = dict(archive.members("kit.otp", data))
    assert parts["mimetype"].endswith(b"presentation-template")
    styles = read_xml("styles.xml", parts["styles.xml"])
    names = [
        next(v for k, v in one.attributes.items() if k.endswith("display-name")) for one in styles.named("master-page")
    ]
    assert len(names) == 27
    assert {"Title, light", "Chart, dark", "Closing, colored"} <= set(names)
    assert parts["content.xml"].count(b"<draw:page ") == 1
    assert parts["styles.xml"].count(b'draw:name="Logo"') >= 27
    assert all(path.encode() in parts["META-INF/manifest.xml"] for path in parts if path.startswith("Pictures/"))
    document = read("kit.otp", data)
    inventory = document.inventory()
    assert inventory.paints
    assert not check_paints(inventory, KIT)
    # It opens, and is drawn on the ground of its first master.
    [drawn] = office.pixels(data, 200)
    assert tuple(drawn[-3, 100]) == theme_colors(KIT)["lt1"]
