"""Pictures made of pixels: what is told of them, and what moves when they are recolored."""

from __future__ import annotations

import io
import struct
import zlib
from collections.abc import Callable
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from PIL import Image, ImageDraw, ImageSequence

from pavese.core.color.contrast import FAINT, LARGE, contrast_ratio
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats import read
from pavese.core.formats.document import Notation, Preview
from pavese.core.formats.picture import gif, png
from pavese.core.formats.picture.touching import LETTERING
from pavese.core.pictures.mixture import Levels
from pavese.core.recolor.assign import assign
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import summarize
from pavese.core.recolor.pixels import TELLS, WithoutMetadata
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.reading import readings
from pavese.demo.banners import banner_files
from pavese.demo.load import demo_kit
from pavese.render.draw import draw, load_fonts, pixels_of
from pavese.settings import settings
from tests.formats.rasters import fields, palette, pngs, saved, wide_profile

SEA, BUOY, WHITE, INK = Rgb(47, 62, 158), Rgb(229, 57, 53), Rgb(255, 255, 255), Rgb(27, 31, 58)
NEW = {SEA: Rgb(11, 94, 107), BUOY: Rgb(239, 178, 58), WHITE: Rgb(238, 240, 236), INK: Rgb(22, 37, 43)}


@pytest.fixture(scope="module", autouse=True)
def _fonts() -> None:
    load_fonts(str(settings().fonts_dir))


def drawn(colors: dict[Rgb, Rgb], side: int = 400, letters: bool = True) -> Image.Image:
    """A sign with round shapes and letters, on a ground of white, in these colors."""
    sea, buoy, white, ink = (colors.get(one, one).hex for one in (SEA, BUOY, WHITE, INK))
    words = f'<text x="8" y="20" font-size="11" fill="{ink}">Boarding in fog</text>' if letters else ""
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 70" font-family="Commissioner">'
        f'<rect width="100" height="70" fill="{white}"/><circle cx="30" cy="46" r="18" fill="{sea}"/>'
        f'<path d="M52 30l40 8-26 22z" fill="{buoy}"/><circle cx="34" cy="42" r="7" fill="{white}"/>{words}</svg>'
    )
    return Image.fromarray(pixels_of(draw(Preview(Notation.VECTOR, svg.encode()), side))).convert("RGB")


def levels(data: bytes) -> Levels:
    with Image.open(io.BytesIO(data)) as image:
        return np.asarray(image.convert("RGB"))


def recolored(name: str, data: bytes) -> bytes:
    document = read(name, data)
    wanted = {}
    for paint in document.inventory().paints:
        near = min(NEW, key=lambda one: max(abs(a - b) for a, b in zip(one, paint.rgb, strict=True)))
        wanted[paint] = NEW[near]
    return document.write(wanted)


@pytest.mark.parametrize("side", [100, 400])
def test_edges_come_out_as_if_drawn_in_the_new_colors(side: int) -> None:
    document = read("sign.png", saved(drawn({}, side), "PNG"))
    assert {paint.rgb for paint in document.inventory().paints} == NEW.keys()
    made, truth = levels(recolored("sign.png", saved(drawn({}, side), "PNG"))), np.asarray(drawn(NEW, side))
    apart = np.abs(made.astype(int) - truth).max(axis=2)
    # Rounding, and few pixels of three paints or of what is thinner than a pixel.
    assert np.percentile(apart, 99) <= 2
    assert apart.max() <= 60
    for color in NEW.values():
        assert (made == color).all(axis=2).any()


@given(pngs())
def test_areas_are_parts_of_what_is_seen(data: bytes) -> None:
    assert 0 < sum(read("a.png", data).measured().areas.values()) <= 1.0005


def test_letters_are_told_by_what_is_thin_and_stands_out() -> None:
    document = read("sign.png", saved(drawn({}), "PNG"))
    runs = document.measured().texts  # type: ignore[attr-defined]
    pairs = {(run.text.text, run.text.ink.rgb, run.ground.rgb) for run in runs if run.ground}
    assert (LETTERING, INK, WHITE) in pairs
    assert all(contrast_ratio(ink, ground) >= 3 for _, ink, ground in pairs)


def test_letters_that_read_badly_are_not_made_worse_by_the_plan_of_their_set() -> None:
    files = {name: read(name, data) for name, data in banner_files().items()}
    found = {name: file.measured() for name, file in files.items()}  # type: ignore[attr-defined]
    paints = summarize((file.inventory() for file in files.values()), found.values(), files, set(files))
    plan = assign(paints, demo_kit(), Plan())
    seen = [
        one
        for name, measured in found.items()
        for one in readings(measured.texts, plan.changes(demo_kit(), name), WHITE)
        if FAINT <= one.before < LARGE
    ]
    assert {one.run.text.text for one in seen} == {LETTERING}
    assert all(one.after >= FAINT for one in seen)


def test_jpeg_keeps_what_it_says_of_itself_but_no_small_picture() -> None:
    exif = Image.Exif()
    exif[0x0112], exif[0x010E] = 6, "Pier 1"
    exif.get_ifd(0x8825)[1] = "N"
    data = saved(drawn({}), "JPEG", quality=90, exif=exif, dpi=(144, 144), comment=b"by the crew")
    # As cameras do: a small picture behind the data of the large one.
    small = saved(drawn({}, 40), "JPEG")
    resources = b"Photoshop 3.0\0" + _resource(small)
    data = data[:2] + b"\xff\xed" + struct.pack(">H", len(resources) + 2) + resources + data[2:]
    document = read("sign.jpg", data)
    assert TELLS in document.inventory().remarks
    assert document.write({}) == data
    made = recolored("sign.jpg", data)
    with Image.open(io.BytesIO(data)) as before, Image.open(io.BytesIO(made)) as after:
        assert after.size == before.size
        assert after.getexif()[0x0112] == 6
        assert after.getexif()[0x010E] == "Pier 1"
        assert after.info["dpi"] == before.info["dpi"]
        assert after.info["comment"] == b"by the crew"
        assert after.quantization == before.quantization  # type: ignore[attr-defined]
    assert small not in made
    shown = pixels_of(document.preview({}).content)
    assert shown.shape[:2] == (before.width, before.height), "it is seen upright"
    inside = np.abs(levels(made).astype(int) - np.asarray(drawn(NEW))).max(axis=2)
    assert np.percentile(inside, 90) <= 4


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_what_a_picture_says_of_itself_is_left_out_on_request(kind: str) -> None:
    exif = Image.Exif()
    exif[0x0112], exif[0x0110] = 8, "Tarncam"
    exif.get_ifd(0x8825)[1] = "N"
    more = {"comment": b"by the crew"} if kind == "JPEG" else {}
    more |= {"lossless": True} if kind == "WEBP" else {}
    data = saved(drawn({}), kind, exif=exif, icc_profile=wide_profile(), **more)
    name = f"sign.{kind.lower()}"
    document = read(name, data)
    assert TELLS in document.inventory().remarks
    made = document.write(Changes(acts=(WithoutMetadata(),)))
    assert b"Tarncam" in data
    assert b"Tarncam" not in made
    assert b"by the crew" not in made
    assert TELLS not in read(name, made).inventory().remarks
    with Image.open(io.BytesIO(data)) as before, Image.open(io.BytesIO(made)) as after:
        assert after.info["icc_profile"] == wide_profile()
        assert dict(after.getexif()) == {0x0112: 8}
        assert (np.asarray(before) == np.asarray(after)).all()


def test_a_tiff_stays_packed_as_it_was_and_says_what_it_said() -> None:
    told = {270: "Pier 1", 315: "Maren Quist", 274: 6}
    for packing in ("tiff_lzw", "tiff_adobe_deflate", None):
        data = saved(drawn({}), "TIFF", compression=packing, tiffinfo=told, dpi=(144, 144), icc_profile=wide_profile())
        made = recolored("sign.tif", data)
        with Image.open(io.BytesIO(data)) as before, Image.open(io.BytesIO(made)) as after:
            assert after.info["compression"] == before.info["compression"]
            assert after.info["dpi"] == before.info["dpi"]
            assert after.info["icc_profile"] == wide_profile()
            assert {tag: after.tag_v2[tag] for tag in told} == told  # type: ignore[attr-defined]
            assert after.size == before.size
        old, new = levels(data), levels(made)
        ground = (old == old[2, 2]).all(axis=2)
        assert (new[ground] == new[2, 2]).all(), "it lies as it lay"
        assert (new[2, 2] != old[2, 2]).any()
    deep = saved(Image.fromarray(np.full((40, 40), 40_000, dtype=np.uint16)), "TIFF")
    assert any("16 bits" in one for one in read("deep.tif", deep).inventory().remarks)
    inks = saved(Image.new("CMYK", (40, 40), (200, 20, 0, 0)), "TIFF")
    assert any("CMYK" in one for one in read("inks.tif", inks).inventory().remarks)


def test_an_avif_keeps_its_profile_and_alpha() -> None:
    picture = drawn({}).convert("RGBA")
    picture.putalpha(
        Image.fromarray(np.linspace(0, 255, picture.width).astype(np.uint8)[None].repeat(picture.height, 0))
    )
    data = saved(picture, "AVIF", quality=95, subsampling="4:4:4", speed=9, icc_profile=wide_profile())
    made = recolored("sign.avif", data)
    with Image.open(io.BytesIO(data)) as before, Image.open(io.BytesIO(made)) as after:
        assert after.size == before.size
        assert after.info["icc_profile"] == wide_profile()
        alphas = [np.asarray(one)[..., 3].astype(int) for one in (before, after)]
        assert np.abs(alphas[0] - alphas[1]).max() <= 2


def _resource(small: bytes) -> bytes:
    body = small + bytes(len(small) % 2)
    return b"8BIM" + struct.pack(">H", 1036) + b"\0\0" + struct.pack(">I", len(small)) + body


def test_of_a_palette_only_the_entries_move() -> None:
    data = saved(drawn({}).quantize(40, dither=Image.Dither.NONE), "PNG", dpi=(96, 96))
    made = recolored("sign.png", data)
    before, after = (list(png.chunks("", one)) for one in (data, made))
    assert [one.kind for one in after] == [one.kind for one in before]
    assert {one.kind for one, other in zip(before, after, strict=True) if one != other} == {b"PLTE"}
    assert {tuple(one) for one in levels(made).reshape(-1, 3).tolist()} >= {tuple(one) for one in NEW.values()}


@pytest.mark.parametrize("kind", ["PNG", "GIF"])
def test_what_is_shown_of_a_palette_is_what_the_file_holds(kind: str) -> None:
    few = drawn({}, side=120).quantize(24, dither=Image.Dither.NONE)
    document = read(f"sign.{kind.lower()}", saved(few, kind))
    wanted = dict(zip(document.inventory().paints, [Rgb(200, 30, 90), Rgb(20, 90, 60), *NEW.values()], strict=False))
    shown = document.preview(wanted).content
    assert isinstance(shown, bytes)
    assert levels(shown).tolist() == levels(document.write(wanted)).tolist()


def test_of_a_gif_that_moves_only_the_tables_move() -> None:
    data = banner_files()["boarding-now.gif"]
    document = read("x.gif", data)
    made = document.write({Rgba(*SEA): NEW[SEA], Rgba(*BUOY): NEW[BUOY]})
    tables = list(gif.tables("", data))
    assert len(made) == len(data)
    assert tables == list(gif.tables("", made))
    ends = [0, *(at for table in tables for at in table), len(data)]
    outside = [pair for at, pair in enumerate(pairwise(ends)) if at % 2 == 0]
    assert all(data[start:end] == made[start:end] for start, end in outside)
    assert made != data
    with Image.open(io.BytesIO(data)) as before, Image.open(io.BytesIO(made)) as after:
        assert after.n_frames == before.n_frames == 4  # type: ignore[attr-defined]
        for one, other in zip(ImageSequence.Iterator(before), ImageSequence.Iterator(after), strict=True):
            assert one.info["duration"] == other.info["duration"]
            colors = {tuple(color) for color in np.asarray(other.convert("RGB")).reshape(-1, 3).tolist()}
            assert tuple(NEW[SEA]) in colors
            assert tuple(SEA) not in colors


def test_everything_beside_the_pixels_of_a_png_stays() -> None:
    target = io.BytesIO()
    whole = drawn({}).convert("RGBA")
    whole.putalpha(Image.linear_gradient("L").resize(whole.size))
    whole.save(target, "PNG", dpi=(144, 144), icc_profile=wide_profile())
    data = target.getvalue()
    text = png.Chunk(b"tEXt", b"Author\0crew").written
    data = data[:33] + text + data[33:]
    made = recolored("sign.png", data)
    kept = {one.kind: one.data for one in png.chunks("", made)}
    for one in png.chunks("", data):
        assert one.kind == b"IDAT" or kept[one.kind] == one.data
    with Image.open(io.BytesIO(data)) as before, Image.open(io.BytesIO(made)) as after:
        assert (np.asarray(before)[..., 3] == np.asarray(after)[..., 3]).all()


def test_a_wide_profile_is_kept_and_its_colors_are_the_targets() -> None:
    data = saved(fields([SEA, BUOY, WHITE]), "PNG", icc_profile=wide_profile())
    document = read("wide.png", data)
    paints = document.inventory().paints
    assert {paint.rgb for paint in paints} != {SEA, BUOY, WHITE}, "the numbers mean other colors"
    wanted = dict(zip(paints, NEW.values(), strict=False))
    made = document.write(wanted)
    with Image.open(io.BytesIO(made)) as image:
        assert image.info["icc_profile"] == wide_profile()
    after = {paint.rgb for paint in read("wide.png", made).inventory().paints}
    for color in wanted.values():
        assert min(max(abs(a - b) for a, b in zip(color, one, strict=True)) for one in after) <= 2


def test_a_photograph_beside_a_panel_stays_to_the_bit() -> None:
    dice = np.random.default_rng(3)
    scene = np.clip(dice.normal(128, 60, (300, 300, 3)), 0, 255).astype(np.uint8)
    whole = np.asarray(drawn({}, 430)).copy()[:300]
    picture = np.concatenate([whole, scene], axis=1)
    document = read("banner.png", saved(Image.fromarray(picture), "PNG"))
    assert {paint.rgb for paint in document.inventory().paints} == NEW.keys()
    assert any(one.startswith("A photograph fills") for one in document.inventory().remarks)
    made = levels(recolored("banner.png", saved(Image.fromarray(picture), "PNG")))
    assert (made[:, 440:] == picture[:, 440:]).all()
    assert (made[:, :420] != picture[:, :420]).any()
    alone = read("scene.jpg", saved(Image.fromarray(scene), "JPEG"))
    assert alone.inventory().paints == ()
    assert alone.inventory().remarks == ("It is a photograph: nothing in it is flat.",)


def test_a_gradient_is_told_by_its_ends() -> None:
    across = np.linspace(0, 1, 300)[None, :, None]
    sky = np.rint(np.array(SEA) * (1 - across) + np.array(WHITE) * across).astype(np.uint8).repeat(120, axis=0)
    document = read("sky.png", saved(Image.fromarray(sky), "PNG"))
    found = document.inventory()
    assert {paint.rgb for paint in found.paints} == {SEA, WHITE}
    assert len(found.blends) == 1
    made = levels(recolored("sky.png", saved(Image.fromarray(sky), "PNG")))
    truth = np.array(NEW[SEA]) * (1 - across) + np.array(NEW[WHITE]) * across
    assert np.abs(made - truth).max() <= 3


@pytest.mark.parametrize(
    ("name", "data", "said"),
    [
        ("deep.png", lambda: _deep(), "It has 16 bits a channel, and keeps them; with tones"),
        ("print.jpg", lambda: saved(drawn({}).convert("CMYK"), "JPEG"), "It is in CMYK; recolored it is handed over"),
    ],
)
def test_what_changes_beside_color_is_said_before(name: str, data: Callable[[], bytes], said: str) -> None:
    document = read(name, data())
    assert any(one.startswith(said) for one in document.inventory().remarks)
    assert document.write({}) == data()


def _deep() -> bytes:
    rows = b"".join(b"\0" + struct.pack(">H", 0x6677) * 3 * 40 for _ in range(40))
    head = struct.pack(">IIBBBBB", 40, 40, 16, 2, 0, 0, 0)
    parts = ((b"IHDR", head), (b"IDAT", zlib.compress(rows)), (b"IEND", b""))
    return png.SIGNATURE + b"".join(png.Chunk(*one).written for one in parts)


def _claiming(width: int, height: int) -> bytes:
    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    parts = ((b"IHDR", head), (b"IDAT", zlib.compress(b"\0" * 100)), (b"IEND", b""))
    return png.SIGNATURE + b"".join(png.Chunk(*one).written for one in parts)


@pytest.mark.parametrize(
    ("name", "data", "reason"),
    [
        ("huge.png", _claiming(60_000, 60_000), "million"),
        ("none.png", b"", "empty"),
        ("text.png", b"not a picture at all", "no PNG"),
        ("cut.png", saved(fields([SEA, BUOY]), "PNG")[:-30], "cut short"),
        ("cut.jpg", saved(fields([SEA, BUOY]), "JPEG")[:300], "broken"),
        ("few.png", _claiming(400, 400), "broken"),
    ],
)
def test_what_cannot_be_taken_says_why(name: str, data: bytes, reason: str) -> None:
    with pytest.raises(RefusedFileError, match=reason) as refused:
        read(name, data)
    assert refused.value.name == name


def test_shades_of_grey_become_color_only_where_they_must() -> None:
    grey = fields([Rgb(40, 40, 40), Rgb(200, 200, 200)]).convert("L")
    document = read("grey.png", saved(grey, "PNG"))
    dark = Rgba(40, 40, 40, 1.0)
    for target, mode in ((Rgb(10, 10, 10), "L"), (SEA, "RGB")):
        with Image.open(io.BytesIO(document.write({dark: target}))) as image:
            assert image.mode == mode


def test_a_palette_of_two_is_one_still() -> None:
    data = saved(palette(fields([SEA, WHITE])), "PNG", bits=1)
    made = recolored("two.png", data)
    assert len(made) == len(data)
    assert {tuple(one) for one in levels(made).reshape(-1, 3).tolist()} == {tuple(NEW[SEA]), tuple(NEW[WHITE])}


@pytest.mark.parametrize("way", [Image.Resampling.LANCZOS, Image.Resampling.BICUBIC, Image.Resampling.BOX])
@pytest.mark.parametrize("clear", [False, True])
def test_what_a_filter_leaves_beside_edges_is_no_paint(way: Image.Resampling, clear: bool) -> None:
    """A sign made smaller, as most are that are sent: its paints are those it was drawn in, and it is recolored as
    if it had been drawn in others and made smaller then."""

    def sign(*inks: tuple[int, int, int]) -> Image.Image:
        large = Image.new("RGBA", (1200, 480), (0, 0, 0, 0) if clear else (255, 255, 255, 255))
        draw = ImageDraw.Draw(large)
        draw.polygon([(40, 400), (300, 60), (300, 400)], fill=inks[0])
        draw.ellipse((400, 80, 720, 400), fill=inks[1])
        draw.rectangle((800, 60, 1160, 160), fill=inks[2])
        draw.rectangle((800, 230, 1160, 420), fill=inks[0])
        return large.resize((300, 120), way)

    inks, others = ((138, 75, 8), (11, 94, 107), (34, 34, 34)), ((20, 90, 160), (150, 30, 60), (60, 70, 20))
    document = read("a.png", saved(sign(*inks) if clear else sign(*inks).convert("RGB"), "PNG"))
    paints = document.inventory().paints
    assert len(paints) == 3 + (not clear)
    targets = {}
    for paint in paints:
        near = min(inks, key=lambda ink: max(abs(a - b) for a, b in zip(ink, paint.rgb, strict=True)))
        off = max(abs(a - b) for a, b in zip(near, paint.rgb, strict=True))
        assert off <= 2 or paint.rgb == Rgb(255, 255, 255)
        if off <= 2:
            targets[paint] = Rgb(*others[inks.index(near)])
    with Image.open(io.BytesIO(document.write(targets))) as written:
        made, wanted = (np.asarray(one.convert("RGBA")).astype(int) for one in (written, sign(*others)))
    solid = wanted[..., 3] > 250
    assert np.percentile(np.abs(made - wanted)[solid].max(axis=1), 99) <= 12
    assert (made[..., 3] == wanted[..., 3]).all()
