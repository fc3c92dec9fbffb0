"""Pictures too large to be taken apart whole are planned by small ones of themselves, and written row by row."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
import numpy.typing as npt
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw

from pavese.core import limits
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats import format_of, read
from pavese.core.formats.picture.document import PictureDocument
from pavese.core.formats.picture.large import LargePicture
from pavese.core.pictures import large
from pavese.core.recolor.act import Act
from pavese.core.recolor.acts import suited
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.pixels import LARGE, PhotographTones, PictureGround, Tones, WithoutMetadata
from pavese.core.recolor.recoloring import Recoloring
from tests.formats.rasters import saved
from tests.formats.test_moving import FOAM, LAMP, NEW, SEA, wanted

Pixels = npt.NDArray[np.uint8]
BUOY = Rgb(229, 57, 53)
COLORS = {**NEW, BUOY: Rgb(200, 120, 90)}
SIZE = (420, 300)
GREY = PhotographTones(tones=Tones.GREY, dark="night.base", light="fog.base")
RESOLVED = {"night.base": Rgb(10, 20, 30), "fog.base": Rgb(240, 240, 236)}


@pytest.fixture
def small_bounds(monkeypatch: pytest.MonkeyPatch) -> None:
    """What is large begins early, so that a test need not be."""
    monkeypatch.setattr(limits, "PICTURE_PIXELS", 40_000)
    monkeypatch.setattr(large, "SMALL", 35_000)
    monkeypatch.setattr(large, "_AT_ONCE", 30_000)


def harbor(colors: dict[Rgb, Rgb], size: tuple[int, int] = SIZE) -> Image.Image:
    """A sea with a lamp, a buoy and a line, with soft edges."""
    across, down = size[0] * 2, size[1] * 2
    drawn = Image.new("RGB", (across, down), colors.get(FOAM, FOAM))
    pen = ImageDraw.Draw(drawn)
    pen.rectangle((0, down * 2 // 3, across, down), fill=colors.get(SEA, SEA))
    pen.ellipse((across // 8, down // 8, across // 3, down // 2), fill=colors.get(LAMP, LAMP))
    pen.ellipse((across // 2, down // 2, across * 3 // 4, down * 7 // 8), fill=colors.get(BUOY, BUOY))
    pen.line((0, down // 20, across, down // 6), fill=colors.get(SEA, SEA), width=12)
    return drawn.reduce(2)


def with_view(picture: Image.Image, side: int = 160) -> Image.Image:
    """The same with a photograph in its corner: light that lies about, and grain."""
    rng = np.random.default_rng(3)
    light = Image.fromarray(rng.integers(0, 255, (side // 10, side // 10, 3), dtype=np.uint8))
    seen = np.asarray(light.resize((side, side), Image.Resampling.BICUBIC)).astype(np.int16)
    grained = np.clip(seen + rng.integers(-9, 10, seen.shape), 0, 255).astype(np.uint8)
    picture.paste(Image.fromarray(grained), (0, 0))
    return picture


def opened(data: bytes, name: str = "a.png") -> LargePicture:
    document = read(name, data)
    assert isinstance(document, LargePicture)
    assert LARGE in document.inventory().remarks
    return document


def wanted_of(document: PictureDocument) -> dict[Rgba, Rgb]:
    """The new color for each paint."""
    return {
        paint: COLORS[min(COLORS, key=lambda one: max(abs(a - b) for a, b in zip(one, paint.rgb, strict=True)))]
        for paint in document.paints
    }


def recolored(document: PictureDocument, *acts: Act) -> Changes:
    return Changes(Recoloring(wanted_of(document)), acts=acts, resolved=RESOLVED)


def pixels(data: bytes, mode: str = "RGB") -> Pixels:
    return np.asarray(Image.open(io.BytesIO(data)).convert(mode))


def apart(one: npt.NDArray[Any], other: npt.NDArray[Any]) -> npt.NDArray[np.int64]:
    return np.asarray(np.abs(one.astype(np.int64) - other).max(axis=2))


@pytest.mark.parametrize(
    ("name", "kind", "options", "most"),
    [
        ("a.png", "PNG", {}, 1),
        ("a.webp", "WEBP", {"lossless": True}, 1),
        ("a.tif", "TIFF", {}, 1),
        ("a.jpg", "JPEG", {"quality": 92, "subsampling": 0}, 18),
        ("b.webp", "WEBP", {"quality": 95}, 40),
    ],
)
@pytest.mark.usefixtures("small_bounds")
def test_it_becomes_what_is_drawn_in_the_new_colors(name: str, kind: str, options: Any, most: int) -> None:
    data = saved(harbor({}), kind, **options)
    document = opened(data, name)
    assert document.write({}) == data
    assert document.write(Changes(Recoloring({paint: paint.rgb for paint in document.paints}))) == data
    made = document.write(recolored(document))
    off = apart(pixels(made), np.asarray(harbor(COLORS)))
    assert np.quantile(off, 0.99) <= most
    if most == 1:
        assert off.max() <= 2
    assert document.write(recolored(document)) == made
    seen = pixels(document.preview(recolored(document)).content)
    assert apart(seen, np.asarray(Image.fromarray(pixels(made)).reduce(2))).mean() < 2


@pytest.mark.usefixtures("small_bounds")
def test_how_many_rows_are_taken_at_a_time_does_not_tell(monkeypatch: pytest.MonkeyPatch) -> None:
    document = opened(saved(with_view(harbor({})), "PNG"))
    changes = recolored(document, GREY)
    made = document.write(changes)
    for at_once in (1, 5_000, 10_000_000):
        monkeypatch.setattr(large, "_AT_ONCE", at_once)
        assert (pixels(document.write(changes)) == pixels(made)).all()


@pytest.mark.usefixtures("small_bounds")
def test_a_photograph_in_it_takes_its_tones_and_nothing_beside_it() -> None:
    came = with_view(harbor({}))
    document = opened(saved(came, "PNG"))
    assert document.has_photograph
    assert not document.is_photograph
    seen, before = pixels(document.write(recolored(document, GREY))), np.asarray(came)
    view = seen[2:158, 2:158].astype(np.int16)
    assert (np.ptp(view, axis=2) == 0).mean() > 0.995
    left = np.asarray(harbor(COLORS))
    beside = np.ones(seen.shape[:2], dtype=np.bool_)
    beside[:162, :162] = False
    assert apart(seen, left)[beside].max() <= 2
    only_toned = pixels(document.write(Changes(acts=(GREY,), resolved=RESOLVED)))
    assert (only_toned[beside] == before[beside]).all()


@pytest.mark.usefixtures("small_bounds")
def test_a_photograph_is_toned_whole_and_loses_what_it_says_when_asked() -> None:
    exif = Image.Exif()
    exif[0x010F] = "Lantern"
    data = saved(with_view(Image.new("RGB", (300, 300)), 300), "JPEG", quality=95, exif=exif.tobytes())
    document = opened(data, "a.jpg")
    assert document.is_photograph
    assert document.paints == ()
    toned = document.write(Changes(acts=(GREY,), resolved=RESOLVED))
    assert np.quantile(np.ptp(pixels(toned).astype(np.int16), axis=2), 0.99) <= 2
    bare = document.write(Changes(acts=(WithoutMetadata(),)))
    assert b"Lantern" in toned
    assert b"Lantern" not in bare
    assert (pixels(bare) == pixels(data)).all()


@pytest.mark.usefixtures("small_bounds")
def test_of_a_palette_only_the_entries_move() -> None:
    picture = harbor({}).quantize(32, dither=Image.Dither.NONE)
    data = saved(picture, "PNG")
    document = opened(data)
    made = document.write(recolored(document))
    assert len(made) == len(data)
    after = Image.open(io.BytesIO(made))
    assert after.mode == "P"
    assert (np.asarray(after) == np.asarray(picture)).all()
    off = apart(pixels(made), np.asarray(harbor(COLORS)))
    assert np.quantile(off, 0.99) <= 24
    # Of tones there may be more than entries.
    toned = opened(saved(with_view(harbor({})).quantize(128), "PNG")).write(Changes(acts=(GREY,), resolved=RESOLVED))
    assert (np.ptp(pixels(toned)[2:158, 2:158].astype(np.int16), axis=2) == 0).mean() > 0.9


@pytest.mark.usefixtures("small_bounds")
def test_what_is_clear_stays_as_clear_as_it_was() -> None:
    alpha = Image.new("L", SIZE, 255)
    ImageDraw.Draw(alpha).ellipse((300, 20, 400, 120), fill=0)
    ImageDraw.Draw(alpha).rectangle((10, 250, 200, 290), fill=120)
    came, drawn = harbor({}), harbor(COLORS)
    came.putalpha(alpha)
    document = opened(saved(came, "PNG"))
    made = pixels(document.write(recolored(document)), "RGBA")
    assert (made[..., 3] == np.asarray(alpha)).all()
    seen = made[..., 3] == 255
    assert apart(made[..., :3], np.asarray(drawn))[seen].max() <= 2


@pytest.mark.usefixtures("small_bounds")
def test_a_gradient_keeps_running_from_one_color_to_the_other() -> None:
    def running(colors: dict[Rgb, Rgb]) -> Image.Image:
        part = np.linspace(0, 1, SIZE[0])[None, :, None]
        start, end = (np.array(colors.get(one, one)) for one in (SEA, LAMP))
        made = np.rint((1 - part) * start + part * end).astype(np.uint8)
        return Image.fromarray(np.repeat(made, SIZE[1], axis=0))

    document = opened(saved(running({}), "PNG"))
    made = document.write(Changes(Recoloring(wanted(document.inventory()))))
    assert apart(pixels(made), np.asarray(running(NEW))).max() <= 4


def test_one_that_was_made_larger_is_known_and_taken_apart_by_a_smaller_one(monkeypatch: pytest.MonkeyPatch) -> None:
    def larger(colors: dict[Rgb, Rgb]) -> Image.Image:
        return harbor(colors, (210, 150)).resize((840, 600), Image.Resampling.BICUBIC)

    sharp, lined = np.asarray(harbor({}, (840, 600))), np.array(larger({}))
    lined[::20] = SEA
    assert large.is_made_larger(np.asarray(larger({})))
    assert not large.is_made_larger(sharp)
    assert not large.is_made_larger(lined)
    monkeypatch.setattr(large, "_AT_ONCE", 100_000)
    off = {}
    for most in (10**9, 1_000):
        monkeypatch.setattr(large, "_LEAST", most)
        document = read("a.png", saved(larger({}), "PNG"))
        assert isinstance(document, PictureDocument)
        made = document.write(Changes(Recoloring(wanted_of(document))))
        off[most] = apart(pixels(made), np.asarray(larger(COLORS)))
        assert not document.is_photograph
    assert np.quantile(off[1_000], 0.99) <= np.quantile(off[10**9], 0.99) + 2
    assert (off[1_000] <= 4).mean() > (off[10**9] <= 4).mean() - 0.01


@given(st.integers(0, 10_000))
@settings(max_examples=8)
def test_whatever_is_in_it_it_stays_as_it_is_where_nothing_is_to_change(seed: int) -> None:
    rng = np.random.default_rng(seed)
    colors = rng.integers(0, 256, (5, 3), dtype=np.uint8)
    whole = colors[rng.integers(0, 5, (30, 40))].repeat(9, axis=0).repeat(9, axis=1)
    noise = rng.random(whole.shape[:2]) < 0.02
    whole[noise] = rng.integers(0, 256, (int(noise.sum()), 3))
    small, by = large.made_small(whole, large.SMALL)
    assert by == 1
    assert (small == whole).all()
    told = PictureDocument(b"", read("a.png", saved(Image.fromarray(whole), "PNG"))._container, _never)  # type: ignore[attr-defined]
    mixture = large.LargeMixture(told._mixture, 1, told._container.fineness)
    targets = told._mixture.paints
    assert all((one.after == one.before).all() for one in mixture.strips(whole, targets))
    # One paint that changes changes nothing but what is made of it.
    if len(targets):
        others = targets.copy()
        others[0] = 255 - others[0]
        made = np.concatenate([one.after for one in mixture.strips(whole, others)])
        assert (made[(whole == targets[0]).all(axis=2) & ~noise] != targets[0]).any(axis=1).mean() > 0.9


def _never(_name: str, _data: bytes) -> Any:
    raise AssertionError


@pytest.mark.usefixtures("small_bounds")
def test_it_is_offered_what_changes_it_as_a_whole_and_given_nothing_else() -> None:
    data = saved(harbor({}), "PNG")
    document = opened(data)
    offered = suited(format_of("a.png").acts, document.inventory().remarks)
    assert {PhotographTones.key, WithoutMetadata.key} == {*offered}
    # Nor is it opened again for that.
    document._opens = _never
    assert document.write(Changes(acts=(PictureGround(color="fog.base"),), resolved=RESOLVED)) == data


def test_one_of_25_million_pixels_is_large_and_one_of_more_than_100_is_refused() -> None:
    assert limits.PICTURE_PIXELS < 5_100 * 5_000
    document = opened(saved(harbor({}, (5_100, 5_000)), "PNG"))
    made = pixels(document.write(recolored(document)))
    off = apart(made[2_000:3_000], np.asarray(harbor(COLORS, (5_100, 5_000)))[2_000:3_000])
    assert off.max() <= 2
    with pytest.raises(RefusedFileError, match="it has 101 million pixels; at most 100 million are recolored"):
        read("a.png", saved(Image.new("L", (10_100, 10_000)), "PNG"))
