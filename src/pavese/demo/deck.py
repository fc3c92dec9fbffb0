"""A crew briefing of Tarnmoor Ferries as a deck in its old browns: a theme, and all that people did beside it: codes
typed in, charts in the colors of the program, a dark section, text over a picture, a slide that is hidden.
"""

from __future__ import annotations

import io
import re
import zipfile
from collections.abc import Callable, Sequence
from typing import Any

from PIL import Image, ImageDraw
from pptx import Presentation
from pptx.chart.data import CategoryChartData
from pptx.dml.color import RGBColor
from pptx.enum.chart import XL_CHART_TYPE
from pptx.enum.dml import MSO_THEME_COLOR
from pptx.enum.shapes import MSO_SHAPE
from pptx.util import Emu, Inches, Pt

from pavese.core.formats.archive import package
from pavese.demo.pictures import board_pictures

NAME = "crew-briefing.pptx"
_THEME = "ppt/theme/theme1.xml"
#: What the places of the theme hold.
_PLACES = {
    "dk1": "3B2A14", "lt1": "FFFFFF", "dk2": "5A3206", "lt2": "F2E9DA", "accent1": "8A4B08", "accent2": "C96F12",
    "accent3": "D9A441", "accent4": "6B7A2A", "accent5": "A0522D", "accent6": "7D6B57", "hlink": "A0522D",
    "folHlink": "7D6B57",
}  # fmt: skip
_WIDE, _HIGH = Inches(13.333), Inches(7.5)
_TIMES = re.compile(rb"(<dcterms:(?:created|modified)[^>]*>)[^<]*(</dcterms:)")
_ISLANDS = ("Skerry", "Tarn Head", "Low Isle", "Brae")


def deck_file() -> dict[str, bytes]:
    """Name to content."""
    deck = Presentation()
    deck.slide_width, deck.slide_height = _WIDE, _HIGH
    for number, make in enumerate(_SLIDES, 1):
        make(deck)
        if number == len(_SLIDES):
            # The last one is for the purser alone.
            deck.slides[number - 1]._element.set("show", "0")
    _sign(deck)
    target = io.BytesIO()
    deck.save(target)
    with zipfile.ZipFile(target) as archive:
        parts = [(name, archive.read(name)) for name in archive.namelist()]
    return {NAME: package((name, _part(name, data)) for name, data in parts)}


def _part(name: str, data: bytes) -> bytes:
    if name == _THEME:
        slots = "".join(f'<a:{slot}><a:srgbClr val="{code}"/></a:{slot}>' for slot, code in _PLACES.items())
        scheme = f'<a:clrScheme name="Tarnmoor old">{slots}</a:clrScheme>'.encode()
        return re.sub(rb"<a:clrScheme .*?</a:clrScheme>", scheme, data, count=1, flags=re.DOTALL)
    return _TIMES.sub(rb"\g<1>2026-11-01T00:00:00Z\g<2>", data) if name == "docProps/core.xml" else data


def _slide(deck: Any, title: str, *, ground: str | None = None) -> Any:
    """A slide with a title of its own size, on the master's ground or one that was typed in."""
    slide = deck.slides.add_slide(deck.slide_layouts[5])
    shown = slide.shapes.title
    shown.left, shown.top, shown.width, shown.height = Inches(0.8), Inches(0.5), Inches(11.7), Inches(1.1)
    shown.text = title
    _written(shown, 34, bold=True, place=MSO_THEME_COLOR.ACCENT_1)
    if ground is not None:
        slide.background.fill.solid()
        slide.background.fill.fore_color.rgb = RGBColor.from_string(ground)
    return slide


def _written(shape: Any, size: int, *, bold: bool = False, place: Any = None, code: str | None = None) -> None:
    for paragraph in shape.text_frame.paragraphs:
        paragraph.font.size, paragraph.font.bold = Pt(size), bold
        if place is not None:
            paragraph.font.color.theme_color = place
        if code is not None:
            paragraph.font.color.rgb = RGBColor.from_string(code)


def _words(slide: Any, lines: Sequence[str], at: tuple[float, float, float, float], size: int = 20, **how: Any) -> Any:
    box = slide.shapes.add_textbox(*(Inches(one) for one in at))
    box.text_frame.word_wrap = True
    box.text_frame.text = "\n".join(lines)
    _written(box, size, **how)
    return box


def _filled(
    slide: Any, words: str, at: tuple[float, float, float, float], *, place: Any = None, code: str | None = None,
    kind: Any = MSO_SHAPE.RECTANGLE, brighter: float = 0.0, ink: str | None = None,
) -> Any:  # fmt: skip
    shape = slide.shapes.add_shape(kind, *(Inches(one) for one in at))
    shape.fill.solid()
    if place is not None:
        shape.fill.fore_color.theme_color = place
        if brighter:
            shape.fill.fore_color.brightness = brighter
    else:
        shape.fill.fore_color.rgb = RGBColor.from_string(code or "8A4B08")
    shape.line.fill.background()
    shape.shadow.inherit = False
    shape.text_frame.text = words
    if ink is None:
        _written(shape, 18, place=MSO_THEME_COLOR.BACKGROUND_1)
    else:
        _written(shape, 18, code=ink)
    return shape


def _sign(deck: Any) -> None:
    """The old sign, pasted in as it was at hand: clear, smaller, on the white of a page that was scanned."""
    clear, small, boxed = old_sign(240), old_sign(120), old_sign(200, box=(255, 255, 255))
    for number, data in ((2, clear), (4, clear), (5, clear), (9, small), (10, small), (11, clear), (3, boxed)):
        deck.slides[number - 1].shapes.add_picture(io.BytesIO(data), Inches(11.4), Inches(6.72), height=Inches(0.58))


def old_sign(width: int, box: tuple[int, int, int] | None = None) -> bytes:
    """A sail over waves in the old brown, as a PNG, or in a box as a JPEG."""
    wide, high = 480, 160
    image = Image.new("RGBA", (wide, high), (0, 0, 0, 0) if box is None else (*box, 255))
    drawing = ImageDraw.Draw(image)
    brown = (138, 75, 8, 255)
    drawing.polygon([(40, 112), (112, 14), (112, 112)], fill=brown)
    drawing.polygon([(126, 112), (126, 40), (176, 112)], fill=brown)
    for at in range(5):
        drawing.arc((20 + 44 * at, 104, 72 + 44 * at, 148), 10, 170, fill=brown, width=9)
    for at, height in enumerate((64, 64, 40, 64, 64)):
        drawing.rectangle((270 + 40 * at, 112 - height, 294 + 40 * at, 112), fill=brown)
    drawing.rectangle((264, 30, 460, 38), fill=brown)
    target = io.BytesIO()
    made = image.resize((width, width * high // wide), Image.Resampling.LANCZOS)
    if box is None:
        made.save(target, "PNG")
    else:
        made.convert("RGB").save(target, "JPEG", quality=90)
    return target.getvalue()


def _title(deck: Any) -> None:
    slide = _slide(deck, "Crew briefing", ground="5A3206")
    _written(slide.shapes.title, 54, bold=True, code="FFFFFF")
    _words(slide, ["Winter timetable, all crews"], (0.8, 1.8, 9, 1), 26, code="F0D9A8")
    _filled(slide, "", (0.8, 3.2, 3, 0.12), code="C96F12")


def _agenda(deck: Any) -> None:
    slide = _slide(deck, "What we go through")
    lines = ["What changes on the ninth", "Who sails when", "How full the boats were", "When fog comes"]
    _words(slide, lines, (0.8, 1.8, 8, 4), 26)
    _words(slide, ["Questions at the end, soup after that."], (0.8, 5.9, 9, 0.8), 18, code="A68A5B")


def _section(deck: Any) -> None:
    slide = _slide(deck, "The winter timetable", ground="3B2A14")
    _written(slide.shapes.title, 44, bold=True, code="F2E9DA")
    _words(slide, ["from the ninth on"], (0.8, 1.8, 9, 1), 24, code="C96F12")


def _timetable(deck: Any) -> None:
    slide = _slide(deck, "First and last boats")
    rows = [("Island", "First", "Last", "Crew"), *((one, "06:40", "19:10", "3") for one in _ISLANDS)]
    table = slide.shapes.add_table(len(rows), 4, Inches(0.8), Inches(1.9), Inches(11.7), Inches(3.5)).table
    for row, texts in enumerate(rows):
        for column, words in enumerate(texts):
            table.cell(row, column).text = words
    late = table.cell(2, 2)
    late.fill.solid()
    late.fill.fore_color.rgb = RGBColor.from_string("F6D7A8")


def _passengers(deck: Any) -> None:
    slide = _slide(deck, "Passengers by island")
    data = CategoryChartData()
    data.categories = ["September", "October", "November"]
    for at, island in enumerate(_ISLANDS):
        data.add_series(island, [900 - 150 * at, 780 - 90 * at, 610 - 70 * at])
    _chart(slide, XL_CHART_TYPE.COLUMN_CLUSTERED, data)


def _full(deck: Any) -> None:
    slide = _slide(deck, "How full the boats were")
    data = CategoryChartData()
    data.categories = ["full", "half full", "nearly empty", "did not sail"]
    data.add_series("Share", [0.31, 0.42, 0.19, 0.08])
    chart = _chart(slide, XL_CHART_TYPE.PIE, data)
    # Colors of the program that drew it first.
    for at, code in enumerate(("4472C4", "ED7D31", "A5A5A5", "FFC000")):
        fill = chart.plots[0].series[0].points[at].format.fill
        fill.solid()
        fill.fore_color.rgb = RGBColor.from_string(code)


def _chart(slide: Any, kind: Any, data: Any) -> Any:
    chart = slide.shapes.add_chart(kind, Inches(0.8), Inches(1.8), Inches(11.7), Inches(5.2), data).chart
    chart.has_legend = True
    chart.legend.include_in_layout = False
    chart.font.size = Pt(16)
    return chart


def _fog(deck: Any) -> None:
    slide = _slide(deck, "When fog comes")
    steps = ("The bridge calls", "Half speed", "Lookout at the bow", "Horn every two minutes")
    for at, words in enumerate(steps):
        box = (0.8 + 3.0 * at, 2.4, 2.8, 1.7)
        _filled(slide, words, box, code="8B4C09", kind=MSO_SHAPE.CHEVRON if at else MSO_SHAPE.PENTAGON, ink="FFFFFF")
    _filled(slide, "Nobody is on the car deck", (0.8, 4.8, 11.7, 1.1), place=MSO_THEME_COLOR.ACCENT_3, ink="3B2A14")


def _harbor(deck: Any) -> None:
    slide = _slide(deck, "")
    slide.shapes.add_picture(io.BytesIO(board_pictures()["harbor-morning.jpg"]), 0, 0, _WIDE, _HIGH)
    _filled(slide, "", (0.8, 4.9, 7.4, 1.9), code="3B2A14")
    _words(slide, ["The new quay at Tarn Head"], (1.0, 5.0, 7, 0.8), 30, bold=True, code="FFFFFF")
    _words(slide, ["opens on the ninth"], (1.0, 5.9, 7, 0.7), 20, code="F0D9A8")


def _cards(deck: Any) -> None:
    slide = _slide(deck, "Three things to take along", ground="F2E9DA")
    accents = (MSO_THEME_COLOR.ACCENT_1, MSO_THEME_COLOR.ACCENT_4, MSO_THEME_COLOR.ACCENT_5)
    for at, (accent, words) in enumerate(zip(accents, ("Vest", "Radio", "Torch"), strict=True)):
        _filled(slide, words, (0.8 + 4.0 * at, 2.0, 3.7, 2.2), place=accent)
        _filled(
            slide, "checked at the gangway", (0.8 + 4.0 * at, 4.3, 3.7, 1.2), place=accent, brighter=0.8, ink="3B2A14"
        )


def _typed(deck: Any) -> None:
    slide = _slide(deck, "Pasted from the spring deck")
    _filled(slide, "Tickets are sold on the quay", (0.8, 2.0, 5.6, 1.6), code="C96F12", ink="FFFFFF")
    _filled(slide, "and no longer aboard", (6.9, 2.0, 5.6, 1.6), code="C7700F", ink="FFFFFF")
    _words(slide, ["Dogs travel free."], (0.8, 4.2, 9, 0.8), 22, code="7A3F05")
    _words(slide, ["So do bicycles, as before."], (0.8, 5.0, 9, 0.8), 22, code="6E6E6E")


def _signals(deck: Any) -> None:
    slide = _slide(deck, "Signals")
    for at, (code, words) in enumerate((("B3261E", "Stop"), ("D9A441", "Wait"), ("2E7D32", "Clear"))):
        _filled(
            slide,
            words,
            (0.8 + 4.0 * at, 2.2, 3.7, 2.0),
            code=code,
            kind=MSO_SHAPE.OVAL,
            ink="FFFFFF" if at != 1 else "3B2A14",
        )
    frame = slide.shapes.add_shape(MSO_SHAPE.RECTANGLE, Inches(0.8), Inches(4.8), Inches(11.7), Inches(1.4))
    frame.fill.background()
    frame.line.color.theme_color, frame.line.width = MSO_THEME_COLOR.ACCENT_2, Emu(38_100)
    frame.shadow.inherit = False
    frame.text_frame.text = "Whoever sees another signal calls the bridge."
    _written(frame, 20, place=MSO_THEME_COLOR.TEXT_1)


def _purser(deck: Any) -> None:
    slide = _slide(deck, "For the purser")
    _words(slide, ["Cash boxes are counted at Brae.", "Keys stay aboard."], (0.8, 1.8, 9, 2), 22)
    slide.notes_slide.notes_text_frame.text = "Not shown to crews."


_SLIDES: tuple[Callable[[Any], None], ...] = (
    _title, _agenda, _section, _timetable, _passengers, _full, _fog, _harbor, _cards, _typed, _signals, _purser,
)  # fmt: skip
