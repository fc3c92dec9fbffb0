"""Pictures inside of other files go by the plan of what shows them, as they would by themselves."""

from __future__ import annotations

import io
import json
import zipfile
from base64 import b64decode, b64encode
from collections.abc import Callable, Mapping
from email import message_from_bytes
from email.message import EmailMessage
from functools import partial
from typing import Any

import numpy as np
import numpy.typing as npt
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image
from pptx import Presentation
from pptx.dml.color import RGBColor
from pptx.util import Inches

from pavese.core.color.contrast import BLACK
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats import format_of, read
from pavese.core.formats.archive import package
from pavese.core.formats.inside import PHOTOGRAPHS, TOO_LARGE, UNKNOWN
from pavese.core.formats.intake import Becoming, Came
from pavese.core.recolor.assign import assign
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import summarize
from pavese.core.recolor.pictures import CLEAR, PictureGrounds
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import IN_PICTURE, Kind
from pavese.core.recolor.spotlight import mask_recolorings
from pavese.demo.load import demo_kit
from pavese.render.draw import draw, pixels_of
from pavese.render.pictures_inside import _inside as inside_of
from pavese.render.pictures_inside import _picture_beside
from pavese.render.reading import measured
from pavese.render.slides import slide_masks
from tests.core.strategies import colors
from tests.formats.open_decks import open_deck, page_style
from tests.formats.rasters import FIELD, fields, saved

TEAL, SAND, WHITE = Rgb(11, 94, 107), Rgb(230, 200, 120), Rgb(255, 255, 255)
NEW = Rgb(120, 20, 90)
SIGN = saved(fields([TEAL, SAND, WHITE]), "PNG")
_Levels = npt.NDArray[np.uint8]


def photograph(side: int = 240) -> bytes:
    random = np.random.default_rng(4)
    noise = random.integers(0, 255, (side, side, 3), dtype=np.uint8)
    return saved(Image.fromarray(noise), "PNG")


def mail(*pictures: str) -> bytes:
    shown = "".join(f'<img src="{one}" width="90">' for one in pictures)
    return f'<body bgcolor="#ffffff"><p style="color:#222222">Words {shown}</p></body>'.encode()


def deck(*pictures: bytes, texts: bool = False) -> bytes:
    """A slide for each picture, which fills it where a text stands on it."""
    made = Presentation()
    for picture in pictures:
        slide = made.slides.add_slide(made.slide_layouts[6])
        size = {"width": made.slide_width, "height": made.slide_height} if texts else {"width": Inches(3)}
        at = Inches(0 if texts else 1)
        slide.shapes.add_picture(io.BytesIO(picture), at, at, **size)
        if texts:
            box = slide.shapes.add_textbox(Inches(0.4), Inches(1), Inches(2.4), Inches(1)).text_frame
            box.text = "On it"
            box.paragraphs[0].runs[0].font.color.rgb = RGBColor(250, 250, 240)
    target = io.BytesIO()
    made.save(target)
    return target.getvalue()


def an_open_deck(*pictures: bytes) -> bytes:
    frame = (
        '<draw:frame svg:width="8cm" svg:height="3cm" svg:x="1cm" svg:y="1cm">'
        '<draw:image xlink:href="Pictures/{}.png" xlink:type="simple"/></draw:frame>'
    )
    pages = [("dp1", frame.format(at)) for at in range(len(pictures))]
    more = {f"Pictures/{at}.png": picture for at, picture in enumerate(pictures)}
    return open_deck([page_style("dp1", "")], pages, more=more)


def address(picture: bytes, kind: str = "png") -> str:
    return f"data:image/{kind};base64,{b64encode(picture).decode()}"


def drawing(*pictures: str) -> bytes:
    """Each as newer and as older programs name one."""
    shown = "".join(
        f'<image xlink:href="{one}" href="{one}" x="{200 * at}" width="200" height="70"/>'
        for at, one in enumerate(pictures)
    )
    head = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 400 70">'
    return f'{head}<rect width="9" height="70" fill="#222222"/>{shown}</svg>'.encode()


def animation(*pictures: str, folder: str = "") -> bytes:
    assets = [{"id": f"p{at}", "w": 9, "h": 9, "u": folder, "p": one} for at, one in enumerate(pictures)]
    layers = [{"ty": 2, "refId": one["id"], "ip": 0, "op": 9, "st": 0, "ks": {}} for one in assets]
    layers.append({"ty": 1, "sw": 9, "sh": 9, "sc": "#222222", "ip": 0, "op": 9, "st": 0, "ks": {}})
    return json.dumps(
        {"v": "5.7.4", "fr": 30, "ip": 0, "op": 9, "w": 9, "h": 9, "assets": assets, "layers": layers}, indent=1
    ).encode()


def animations(*pictures: bytes) -> bytes:
    """A package whose animation names them in the way of its older version."""
    named = {f"{at}.png": picture for at, picture in enumerate(pictures)}
    played = animation(*named, folder="/images/")
    shown = [(f"images/{name}", picture) for name, picture in named.items()]
    return package([("manifest.json", b"{}"), ("animations/a.json", played), *shown])


def pixels(data: bytes) -> _Levels:
    with Image.open(io.BytesIO(data)) as image:
        return np.asarray(image.convert("RGB"))


def in_package(data: bytes, folder: str) -> list[bytes]:
    packed = zipfile.ZipFile(io.BytesIO(data))
    return [packed.read(name) for name in packed.namelist() if folder in name and name.endswith(".png")]


def _of_mail(picture: bytes, changes: Mapping[Rgba, Rgb]) -> bytes:
    return dict(read("m.html", mail("a.png"), {"a.png": picture}).beside(changes))["a.png"]


def sent_with(picture: bytes, way: str) -> bytes:
    """A mail as it is sent, with a picture that it shows by its content id, encoded one way or the other."""
    made = EmailMessage()
    made["Subject"] = "Noon"
    made.set_content("Words")
    made.add_alternative(mail("cid:sign@quay").decode(), subtype="html")
    for part in made.iter_parts():
        if part.get_content_type() == "text/html":
            part.add_related(picture, "image", "png", cid="<sign@quay>", cte=way)
    return made.as_bytes()


def _sent(way: str, picture: bytes, changes: Mapping[Rgba, Rgb]) -> bytes:
    data = sent_with(picture, way)
    document = read("m.eml", data)
    assert not document.beside(changes), "what came with it goes with it"
    written = document.write(changes)
    # The letters around it, and how its lines end, are as they were.
    assert read("m.eml", written).write({}) == written
    heads = [[line for line in one.split(b"\n") if b": " in line and b"<" not in line] for one in (data, written)]
    assert heads[0] == heads[1]
    [shown] = [part for part in message_from_bytes(written).walk() if part.get_content_type() == "image/png"]
    payload = shown.get_payload(decode=True)
    assert isinstance(payload, bytes)
    return payload


def _written_in(picture: bytes, changes: Mapping[Rgba, Rgb]) -> bytes:
    made = read("m.html", mail(f"data:image/png;base64,{b64encode(picture).decode()}")).write(changes)
    return b64decode(made.split(b"base64,")[1].split(b'"')[0])


def _of_deck(picture: bytes, changes: Mapping[Rgba, Rgb]) -> bytes:
    return in_package(read("d.pptx", deck(picture)).write(changes), "media/")[0]


def _of_open_deck(picture: bytes, changes: Mapping[Rgba, Rgb]) -> bytes:
    return in_package(read("d.odp", an_open_deck(picture)).write(changes), "Pictures/")[0]


def _of_drawing(picture: bytes, changes: Mapping[Rgba, Rgb]) -> bytes:
    one, other = (
        part.split(b'"')[0] for part in read("a.svg", drawing(address(picture))).write(changes).split(b"base64,")[1:]
    )
    assert one == other
    return b64decode(one)


def _beside_drawing(picture: bytes, changes: Mapping[Rgba, Rgb]) -> bytes:
    document: Any = read("a.svg", drawing("a.png"), {"a.png": picture})
    assert document.write(changes) == drawing("a.png")
    return dict(document.beside(changes))["a.png"]


def _of_animation(picture: bytes, changes: Mapping[Rgba, Rgb]) -> bytes:
    return b64decode(
        json.loads(read("a.json", animation(address(picture))).write(changes))["assets"][0]["p"].split(",")[1]
    )


def _of_package(picture: bytes, changes: Mapping[Rgba, Rgb]) -> bytes:
    return in_package(read("a.lottie", animations(picture)).write(changes), "images/")[0]


@pytest.mark.parametrize(
    "inside",
    [
        _of_mail,
        partial(_sent, "base64"),
        partial(_sent, "quoted-printable"),
        _written_in,
        _of_deck,
        _of_open_deck,
        _of_drawing,
        _beside_drawing,
        _of_animation,
        _of_package,
    ],
)
@settings(max_examples=12, deadline=None)
@given(st.lists(colors, min_size=2, max_size=4, unique=True), st.lists(colors, min_size=4, max_size=4))
def test_a_picture_becomes_what_it_would_by_itself(
    inside: Callable[[bytes, Mapping[Rgba, Rgb]], bytes], chosen: list[Rgb], targets: list[Rgb]
) -> None:
    picture = saved(fields(chosen), "PNG")
    paints = read("a.png", picture).inventory().paints
    changes = dict(zip(paints, targets, strict=False))
    if all(paint.rgb == color for paint, color in changes.items()):
        return
    assert inside(picture, changes) == read("a.png", picture).write(changes)


@pytest.mark.parametrize(
    ("name", "data", "beside"),
    [
        ("m.html", mail("a.png", "b.png"), {"a.png": SIGN, "b.png": photograph()}),
        ("d.pptx", deck(SIGN, photograph(), SIGN), {}),
        ("d.odp", an_open_deck(SIGN, photograph(), SIGN), {}),
        ("a.svg", drawing(address(SIGN), "b.png"), {"b.png": photograph()}),
        ("a.json", animation(address(photograph()), "a.png"), {"a.png": SIGN}),
        ("a.lottie", animations(SIGN, photograph(), SIGN), {}),
    ],
)
def test_its_paints_are_listed_kept_by_name_and_photographs_said(
    name: str, data: bytes, beside: dict[str, bytes]
) -> None:
    document: Any = read(name, data, beside)
    found = document.inventory()
    listed = {paint.rgb for paint, kinds in found.sites.items() if Kind.PICTURE in kinds}
    assert listed == {TEAL, SAND, WHITE}
    assert [{paint.rgb for paint in paints} for paints in found.pictures] == [listed]
    assert PHOTOGRAPHS in found.remarks
    [selector] = {one for one in found.selectors[Rgba(*TEAL)] if one.startswith(IN_PICTURE)}
    named = {document.picture_selector(reference) for reference in document.pictures({})}
    assert named == {selector, ""}
    everything = {paint: NEW for paint in found.paints if Kind.PICTURE in found.sites[paint]}
    kept = document.pictures(Recoloring(everything, kept=frozenset([selector])))
    assert kept == document.pictures({})
    # A rule for all pictures does the same, and one for a part of a paint only that.
    ruled = document.pictures(Recoloring({}, {(Rgba(*TEAL), Kind.PICTURE): NEW}))
    assert {tuple(one) for data in ruled.values() for one in pixels(data)[8, :: 2 * FIELD][:1]} >= {NEW}
    assert document.write({}) == data


def test_each_page_of_a_deck_can_go_its_own_way() -> None:
    document: Any = read("d.pptx", deck(SIGN, SIGN))
    page = document.pages[1].selector
    written = document.write(Recoloring({}, {(Rgba(*TEAL), page): NEW}))
    slides = Presentation(io.BytesIO(written)).slides
    first, second = (pixels(slide.shapes[0].image.blob) for slide in slides)
    assert (tuple(first[4, 4]), tuple(second[4, 4])) == (TEAL, NEW)
    assert (first[:, FIELD:-FIELD] == second[:, FIELD:-FIELD]).all()


_DRAWING = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 3 1"><path fill="{}" d="M0 0h3v1H0z"/></svg>'
_EXTENSION = (
    '<a:extLst><a:ext uri="{96DAC541-7B7A-43D3-8B79-37D633B846F1}"><asvg:svgBlip '
    'xmlns:asvg="http://schemas.microsoft.com/office/drawing/2016/SVG/main" r:embed="rIdSvg"/></a:ext></a:extLst>'
)


def with_drawing(data: bytes, drawing: str) -> bytes:
    """A deck whose first picture has a drawing of the same beside it, for programs that show such."""
    target = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as came, zipfile.ZipFile(target, "w") as made:
        for path in came.namelist():
            part = came.read(path)
            if path == "ppt/slides/slide1.xml":
                start = part.index(b"<a:blip ")
                end = part.index(b"/>", start)
                part = part[:end] + b">" + _EXTENSION.encode() + b"</a:blip>" + part[end + 2 :]
            if path == "ppt/slides/_rels/slide1.xml.rels":
                said = (
                    '<Relationship Id="rIdSvg" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships'
                    '/image" Target="../media/sign.svg"/></Relationships>'
                )
                part = part.replace(b"</Relationships>", said.encode())
            if path == "[Content_Types].xml":
                part = part.replace(b"<Override", b'<Default Extension="svg" ContentType="image/svg+xml"/><Override', 1)
            made.writestr(path, part)
        made.writestr("ppt/media/sign.svg", drawing)
    return target.getvalue()


@pytest.mark.parametrize(("ink", "drawn"), [(TEAL, True), (Rgb(1, 2, 3), False)])
def test_a_drawing_beside_a_picture_goes_with_it(ink: Rgb, drawn: bool) -> None:
    document = read("d.pptx", with_drawing(deck(SIGN), _DRAWING.format(ink.hex)))
    with zipfile.ZipFile(io.BytesIO(document.write({Rgba(*TEAL): NEW}))) as written:
        twin, picture = written.read("ppt/media/sign.svg"), written.read("ppt/media/image1.png")
    assert tuple(pixels(picture)[4, 4]) == NEW
    # One with colors of its own would not: then it shows the picture.
    assert twin == _DRAWING.format(NEW.hex).encode() if drawn else b64encode(picture) in twin


def test_a_drawing_that_stands_as_a_picture_goes_by_the_plan() -> None:
    drawing = _DRAWING.format(TEAL.hex).encode()
    frame = '<draw:frame svg:width="8cm" svg:height="3cm"><draw:image xlink:href="Pictures/a.svg"/></draw:frame>'
    document: Any = read(
        "d.odp", open_deck([page_style("dp1", "")], [("dp1", frame)], more={"Pictures/a.svg": drawing})
    )
    assert {site.paint for site in document.sites() if site.kind is Kind.PICTURE} == {Rgba(*TEAL)}
    with zipfile.ZipFile(io.BytesIO(document.write({Rgba(*TEAL): NEW}))) as written:
        assert written.read("Pictures/a.svg") == _DRAWING.format(NEW.hex).encode()
    mail_: Any = read("m.html", mail("a.svg"), {"a.svg": drawing})
    assert mail_.beside({Rgba(*TEAL): NEW}) == {"a.svg": _DRAWING.format(NEW.hex).encode()}
    came = Came("m.html", mail("a.svg"), (("a.svg", drawing),))
    png = _picture_beside(Becoming(came, Changes()), "a.svg", 30)
    assert png is not None
    assert tuple(pixels(png)[5, 15]) == TEAL
    # It can be shown among the pictures inside, though it has no pixels.
    [told] = inside_of(came)
    assert (told.box, bool(told.selector), told.takes_another) == (None, True, False)


def test_a_ground_is_made_clear_in_the_new_colors() -> None:
    image = Image.new("RGB", (60, 40), WHITE)
    image.paste(TEAL, (20, 10, 40, 30))
    document: Any = read("m.html", mail("a.png"), {"a.png": saved(image, "PNG")})
    act = PictureGrounds(grounds={"a.png": CLEAR})
    made = document.beside(Changes(Recoloring({Rgba(*TEAL): NEW}), (act,)))["a.png"]
    with Image.open(io.BytesIO(made)) as opened:
        assert opened.convert("RGBA").getpixel((30, 20)) == (*NEW, 255)
        assert opened.convert("RGBA").getpixel((2, 2))[3] == 0


def test_small_ones_are_taken_apart_first_and_what_is_too_large_is_said() -> None:
    large = saved(fields([NEW, SAND]).resize((1500, 1500), Image.Resampling.NEAREST), "PNG")
    middle = saved(fields([TEAL, SAND]).resize((1300, 1300), Image.Resampling.NEAREST), "PNG")
    other = saved(fields([WHITE, SAND]).resize((1300, 1350), Image.Resampling.NEAREST), "PNG")
    clear = saved(Image.new("RGBA", (1, 1)), "PNG")
    beside = {"large.png": large, "middle.png": middle, "other.png": other, "sign.png": SIGN}
    beside |= {"no.png": b"\x89PNG no", "clear.png": clear}
    document: Any = read("m.html", mail(*beside), beside)
    found = document.inventory()
    assert TOO_LARGE in found.remarks
    assert PHOTOGRAPHS not in found.remarks
    named = {reference for reference in beside if document.picture_selector(reference)}
    assert named == {"middle.png", "sign.png"}
    changed = document.beside({paint: NEW for paint in found.paints if Kind.PICTURE in found.sites[paint]})
    assert changed.keys() == {"middle.png", "sign.png"}


def test_a_picture_is_planned_by_itself_under_the_name_of_its_file() -> None:
    document = read("m.html", mail("a.png"), {"a.png": SIGN})
    paints = summarize([document.inventory()], [measured(document, format_of("m.html").can)], ["m.html"])
    written, picture = paints.files
    assert (written.name, picture.name, written.on_pixels, picture.on_pixels) == ("m.html", "m.html", False, True)
    assert {paint.rgb for paint in picture.paints} == {TEAL, SAND, WHITE}
    assert {paint.rgb for paint in written.paints} == {WHITE, Rgb(34, 34, 34)}
    # What stands out in the picture is to go on doing so.
    assert {run.ground.rgb for run in picture.measured.texts if run.ground} <= {TEAL, SAND, WHITE}
    assert picture.measured.texts
    assert all(run.text.kind is not Kind.PICTURE for run in written.measured.texts)
    # Where rules say where all grounds and texts go, white in pictures goes where pictures want it: to the kit's own.
    kit = demo_kit()
    plan = Plan().with_rule(Kind.GROUND, "hull.base", kit).with_rule(Kind.TEXT, "fog.base", kit)
    planned = assign(paints, kit, plan).choices
    assert planned[Rgba(*WHITE).key].target == "fog.base"
    assert planned[f"{Rgba(*WHITE).key}@{Kind.GROUND}"].target == "hull.base"


def test_texts_stand_on_paints_of_pictures_and_masks_show_these() -> None:
    document: Any = read("d.pptx", deck(SIGN, texts=True))
    found = measured(document, format_of("d.pptx").can)
    [run] = [run for run in found.texts if run.text.text == "On it"]
    assert (run.ground, run.kind) == (Rgba(*TEAL), Kind.PICTURE)
    assert found.areas[Rgba(*SAND)] > 0.2
    mask, other = np.split(slide_masks(document, [Rgba(*TEAL), Rgba(*SAND)], 300), 2)
    assert mask[20, 20] == 255
    assert other[20, 20] == 0
    assert other[20, 150] == 255


def test_only_the_picture_moves_in_a_drawing_and_an_animation() -> None:
    photo = saved(Image.new("RGB", (40, 30), TEAL), "JPEG", quality=92)
    came = address(photo, "jpg")
    for name, data in (("a.svg", drawing(came)), ("a.json", animation(came))):
        document: Any = read(name, data)
        [paint] = [site.paint for site in document.sites() if site.kind is Kind.PICTURE]
        [made] = document.pictures({paint: NEW}).values()
        assert made != photo
        assert document.write({paint: NEW}) == data.replace(came.encode(), address(made, "jpg").encode())
        # Kept by a rule for pictures, it stays while the same color goes elsewhere.
        assert document.write(Recoloring({paint: NEW}, {(paint, Kind.PICTURE): None})) == data
        assert document.beside({paint: NEW}) == {}


def test_a_drawing_in_a_drawing_goes_along_and_there_is_an_end_of_them() -> None:
    inner = _DRAWING.format(TEAL.hex).encode()
    nested = inner
    for _ in range(5):
        nested = drawing(address(nested, "svg+xml"))
    document: Any = read("a.svg", drawing(address(inner, "svg+xml")))
    made = document.write({Rgba(*TEAL): NEW})
    assert b64encode(_DRAWING.format(NEW.hex).encode()) in made
    assert Rgba(*TEAL) not in read("b.svg", nested).inventory().paints
    for broken in (address(b"GIF8 no", "gif"), "data:image/png;base64,A", "data:text/plain,words"):
        assert UNKNOWN in read("c.svg", drawing(broken)).inventory().remarks
        assert UNKNOWN in read("c.json", animation(broken)).inventory().remarks


def test_a_drawing_that_is_written_into_an_address_as_it_is_goes_along() -> None:
    said = _DRAWING.format(TEAL.hex).replace("#", "%23").replace('"', "'").replace("<", "%3C")
    for head in ("data:image/svg+xml;utf8,", "data:image/svg+xml,"):
        made = read("a.svg", drawing(head + said)).write({Rgba(*TEAL): NEW})
        [[inner]] = [{part.split(b'"')[0] for part in made.split(b"base64,")[1:]}]
        assert b64decode(inner) == _DRAWING.format(NEW.hex).replace('"', "'").encode()


def test_pictures_in_drawings_are_shown_with_the_files_of_their_set() -> None:
    for name, data in (("a.svg", drawing(address(SIGN))), ("a.lottie", animations(SIGN))):
        [told] = inside_of(Came(name, data))
        assert (told.box, told.box_paint, told.ground, bool(told.selector)) == (None, None, None, True)


def test_what_no_paint_tells_is_in_no_mask() -> None:
    both = Image.new("RGB", (480, 240), TEAL)
    with Image.open(io.BytesIO(photograph())) as noise:
        both.paste(noise, (240, 0))
    document = read("a.png", saved(both, "PNG"))
    [colors] = mask_recolorings(document.inventory().paints)
    shown = pixels_of(document.preview(Changes(Recoloring(colors, rest=BLACK))).content)
    assert tuple(shown[100, 100]) == (255, 0, 0, 255)
    assert not shown[10:230, 290:470, :3].any()
    assert (pixels_of(document.preview(colors).content)[10:230, 290:470, :3]).any()
    # Nor is it where a drawing shows it.
    shown = pixels_of(
        draw(read("a.svg", drawing(address(saved(both, "PNG")))).preview(Changes(Recoloring(colors, rest=BLACK))), 400)
    )
    assert tuple(shown[30, 60]) == (255, 0, 0, 255)
    assert not shown[10:60, 130:190, :3].any()
