"""Charts of decks: which colors stand beside each other, and that they are told apart when they are planned."""

from __future__ import annotations

import io
import zipfile
from typing import Any

import pytest
from pptx import Presentation
from pptx.chart.data import CategoryChartData
from pptx.dml.color import RGBColor
from pptx.enum.chart import XL_CHART_TYPE
from pptx.opc.package import Part
from pptx.opc.packuri import PackURI
from pptx.util import Inches

from pavese.core.color.neighbors import LEAST, apart, shares
from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb
from pavese.core.color.vision import Vision
from pavese.core.formats import read
from pavese.core.formats.document import Document
from pavese.core.kit.deck_theme import ACCENTS
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.role import Role
from pavese.core.kit.token import parse_token
from pavese.core.recolor.assign import assign
from pavese.core.recolor.doubts import DoubtKind, doubts
from pavese.core.recolor.inventory import summarize
from pavese.core.recolor.proposed_theme import proposed_theme
from pavese.core.recolor.site import Kind

#: Those that built-in palettes of charts begin with are of one lightness each.
TYPED = ("#4472c4", "#ed7d31", "#a5a5a5", "#ffc000")
WIDE = Kit(
    name="Wide",
    colors=tuple(
        KitColor(key=name, name=name.title(), role=role, base=parse_color(code).rgb)
        for name, role, code in (
            ("dusk", Role.PRIMARY, "#5b2a86"),
            ("weed", Role.SECONDARY, "#00857d"),
            ("coral", Role.ACCENT, "#ff6f61"),
            ("gorse", Role.ACCENT, "#ffd400"),
            ("sky", Role.ACCENT, "#3ba7ff"),
            ("moss", Role.ACCENT, "#5a7d2a"),
            ("night", Role.TEXT_DARK, "#101020"),
            ("foam", Role.BACKGROUND, "#fafafa"),
        )
    ),
)


def chart(kind: Any, series: int, points: int = 4) -> Any:
    """A new deck with a chart on its slide, and the chart."""
    deck = Presentation()
    slide = deck.slides.add_slide(deck.slide_layouts[5])
    data = CategoryChartData()
    data.categories = [f"Quay {at}" for at in range(1, points + 1)]
    for at in range(1, series + 1):
        data.add_series(f"Boat {at}", list(range(at, at + points)))
    frame = slide.shapes.add_chart(kind, Inches(1), Inches(1), Inches(6), Inches(4), data)
    return deck, frame.chart


def document(deck: Any) -> Document:
    target = io.BytesIO()
    deck.save(target)
    return read("x.pptx", target.getvalue())


def typed(points: Any) -> None:
    for point, code in zip(points, TYPED, strict=False):
        point.format.fill.solid()
        point.format.fill.fore_color.rgb = RGBColor.from_string(code[1:].upper())


_STYLE = "http://schemas.microsoft.com/office/drawing/2012/chartStyle"


def test_a_series_that_is_added_later_comes_in_the_colors_of_the_kit_too() -> None:
    deck, bars = chart(XL_CHART_TYPE.COLUMN_CLUSTERED, 2)
    inside = (
        f'<cs:{{0}} xmlns:cs="{_STYLE}" xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main">'
        '<a:srgbClr val="{1}"/><a:schemeClr val="accent2"/><a:schemeClr val="phClr"/></cs:{0}>'
    )
    for name, sort, code in (("colors1", "chartColorStyle", "AA1155"), ("style1", "chartStyle", "1155AA")):
        kind = f"application/vnd.ms-office.{sort.lower()}+xml"
        part = Part(PackURI(f"/ppt/charts/{name}.xml"), kind, deck.part.package, inside.format(sort, code).encode())
        bars.part.relate_to(part, f"http://schemas.microsoft.com/office/2011/relationships/{sort}")
    plain = document(chart(XL_CHART_TYPE.COLUMN_CLUSTERED, 2)[0]).inventory()
    came = document(deck)
    old = [parse_color(code) for code in ("#aa1155", "#1155aa")]
    # What points to the theme there follows it, and is no place of its own.
    assert came.inventory().sites == {**plain.sites, **{one: {Kind.FILL: 1} for one in old}}
    new = [color.base for color in WIDE.colors[:2]]
    written = zipfile.ZipFile(io.BytesIO(came.write(dict(zip(old, new, strict=True)))))
    for path, color in (("colors1", new[0]), ("style1", new[1])):
        assert f'val="{color.hex[1:].upper()}"/><a:schemeClr val="accent2"/>'.encode() in written.read(
            f"ppt/charts/{path}.xml"
        )


def test_series_stand_in_their_order_and_those_without_a_color_follow_the_accents() -> None:
    deck, bars = chart(XL_CHART_TYPE.COLUMN_CLUSTERED, 3)
    bars.plots[0].series[1].format.fill.solid()
    bars.plots[0].series[1].format.fill.fore_color.rgb = RGBColor(0x12, 0x34, 0x56)
    [found] = document(deck).inventory().charts
    assert (found.page, found.ring) == ("/slide1", False)
    assert [one.name for one in found.series] == ["Boat 1", "Boat 2", "Boat 3"]
    assert [one.site.kind for one in found.series] == [Kind.THEME, Kind.SERIES, Kind.THEME]
    assert found.series[1].site.paint.rgb == Rgb(0x12, 0x34, 0x56)
    assert found.series[2].site.selectors == ("/theme.accent3",)
    assert [(one.name, other.name) for one, other in found.neighbors()] == [("Boat 1", "Boat 2"), ("Boat 2", "Boat 3")]


def test_the_last_point_of_a_pie_stands_beside_its_first() -> None:
    deck, pie = chart(XL_CHART_TYPE.PIE, 1)
    typed([pie.plots[0].series[0].points[at] for at in range(3)])
    [found] = document(deck).inventory().charts
    assert [one.name for one in found.series] == ["Quay 1", "Quay 2", "Quay 3", "Quay 4"]
    assert [one.site.paint.rgb.hex for one in found.series[:3]] == list(TYPED[:3])
    assert found.series[3].site.kind is Kind.THEME
    assert [(one.name, other.name) for one, other in found.neighbors()][-1] == ("Quay 4", "Quay 1")
    assert document(chart(XL_CHART_TYPE.LINE, 1)[0]).inventory().charts == (), "one line has no neighbor"


@pytest.mark.parametrize("kind", [XL_CHART_TYPE.PIE, XL_CHART_TYPE.DOUGHNUT, XL_CHART_TYPE.COLUMN_STACKED])
def test_typed_colors_are_planned_so_that_neighbors_are_told_apart(kind: Any) -> None:
    one_series = kind is not XL_CHART_TYPE.COLUMN_STACKED
    deck, made = chart(kind, 1 if one_series else 4)
    plot = made.plots[0]
    typed([plot.series[0].points[at] for at in range(4)] if one_series else plot.series)
    came = document(deck).inventory()
    [found] = came.charts
    paints = summarize([came], names=["x.pptx"])
    plan = assign(paints, WIDE)
    to = plan.recoloring(WIDE, "x.pptx")
    assert list(found.alike(to)) == []
    assert [one for one in doubts(paints, plan, WIDE, Rgb(255, 255, 255)) if one.kind is DoubtKind.SERIES] == []
    # What is chosen by hand can make them alike again: it is said, and a remedy mends it.
    first, second = (one.site.paint for one in found.series[:2])
    same = plan.with_targets({first.key: "gorse.300", second.key: "coral.300"}, WIDE)
    said = [one for one in doubts(paints, same, WIDE, Rgb(255, 255, 255)) if one.kind is DoubtKind.SERIES]
    one = next(doubt for doubt in said if set(doubt.paints) == {first.key, second.key})
    assert "labels on them" in one.reason
    mended = same.with_targets(one.remedies[0].targets, WIDE)
    alike = [{one.first.site.paint, one.second.site.paint} for one in found.alike(mended.recoloring(WIDE, "x.pptx"))]
    assert {first, second} not in alike


def test_neighbors_are_told_apart_by_the_same_colors_in_another_order() -> None:
    deck, made = chart(XL_CHART_TYPE.COLUMN_STACKED, 4)
    typed(made.plots[0].series)
    opened = document(deck)
    [found] = opened.inventory().charts
    paints = summarize([opened.inventory()], names=["x.pptx"])
    keys = [one.site.paint.key for one in found.series]
    targets = ("gorse.300", "coral.300", "gorse.900", "coral.900")
    plan = assign(paints, WIDE).with_targets(dict(zip(keys, targets, strict=True)), WIDE)
    assert len(list(found.alike(plan.recoloring(WIDE, "x.pptx")))) == 2
    one = next(doubt for doubt in doubts(paints, plan, WIDE, Rgb(255, 255, 255)) if doubt.kind is DoubtKind.SERIES)
    remedy = next(one for one in one.remedies if one.title == "the same colors in another order")
    # As few as can be go elsewhere, in this chart alone, and each color is there as it was.
    assert len(remedy.targets) == 2
    assert all(key.endswith("@/slide1") for key in remedy.targets)
    ordered = plan.with_targets(remedy.targets, WIDE, remedy.file)
    to = ordered.recoloring(WIDE, "x.pptx")
    assert list(found.alike(to)) == []
    assert {to.at(*one.site) for one in found.series} == {WIDE.resolve(parse_token(one)) for one in targets}
    after = read("x.pptx", opened.write(ordered.changes(WIDE, "x.pptx")))
    [written] = after.inventory().charts
    assert [one.site.paint.rgb for one in written.series] == [to.at(*one.site) for one in found.series]


def test_accents_are_proposed_so_that_neighbors_are_told_apart_and_the_first_is_the_main_color() -> None:
    colors = [WIDE.resolve(proposed_theme(WIDE)[slot]) for slot in ACCENTS]
    assert colors[0] == WIDE.colors[0].base
    assert [shares([one], [other]).min() >= 1 for one, other in zip(colors, colors[1:] + colors[:1], strict=True)] == (
        [True] * 6
    )


def test_colors_are_told_apart_only_where_every_way_of_seeing_tells_them() -> None:
    grey, lighter = Rgb(110, 110, 110), Rgb(200, 200, 200)
    assert apart(grey, grey).share == 0
    assert apart(grey, lighter).share > 1
    # Red and green of one lightness are far apart, but not for everyone and not in print.
    red, green = Rgb(200, 80, 60), Rgb(40, 140, 60)
    found = apart(red, green)
    assert found.share < 1
    assert found.vision in (Vision.PROTAN, Vision.DEUTAN, Vision.GREY)
    assert found.distance == pytest.approx(found.share * LEAST[found.vision])
    assert apart(green, red) == found
