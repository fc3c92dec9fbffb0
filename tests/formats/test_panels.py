"""Photographs with panels on them, as banners are: a strip, a badge or a button with lettering, and all else stays."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import numpy.typing as npt
import pytest
from PIL import Image, ImageDraw, ImageFont

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats import read
from pavese.core.formats.picture.document import PictureDocument
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.recoloring import Recoloring
from tests.formats.rasters import saved
from tests.formats.test_large_pictures import apart, pixels

Draw = Callable[[ImageDraw.ImageDraw, Rgb, Rgb], None]
SIZE = (560, 400)
PANEL, INK = Rgb(91, 42, 134), Rgb(255, 255, 255)
NEW_PANEL, NEW_INK = Rgb(20, 70, 60), Rgb(250, 240, 200)


def view() -> Image.Image:
    """Light that lies about, finer and finer, with grain."""
    rng = np.random.default_rng(5)
    seen = np.zeros((SIZE[1], SIZE[0], 3))
    for cells, strength in ((4, 60), (12, 30), (40, 20), (130, 12)):
        light = Image.fromarray(rng.integers(0, 256, (cells, cells, 3), dtype=np.uint8))
        seen += (np.asarray(light.resize(SIZE, Image.Resampling.BICUBIC)) / 255.0 - 0.5) * strength
    return Image.fromarray(np.clip(125 + seen + rng.normal(0, 4, seen.shape), 0, 255).astype(np.uint8))


def strip(pen: ImageDraw.ImageDraw, panel: Rgb, ink: Rgb) -> None:
    pen.rectangle((0, 330, SIZE[0], SIZE[1]), fill=panel)
    pen.text((20, 340), "Summer fares: book early", font=ImageFont.load_default(36), fill=ink)


def badge(pen: ImageDraw.ImageDraw, panel: Rgb, ink: Rgb) -> None:
    pen.ellipse((380, 40, 520, 180), fill=panel)
    pen.text((450, 110), "−30 %", font=ImageFont.load_default(40), fill=ink, anchor="mm")


def button(pen: ImageDraw.ImageDraw, panel: Rgb, ink: Rgb) -> None:
    pen.rounded_rectangle((60, 250, 220, 300), 12, fill=panel)
    pen.text((140, 275), "Book now", font=ImageFont.load_default(26), fill=ink, anchor="mm")


def banner(draw: Draw, panel: Rgb = PANEL, ink: Rgb = INK) -> Image.Image:
    made = view()
    draw(ImageDraw.Draw(made), panel, ink)
    return made


def opened(picture: Image.Image, kind: str) -> PictureDocument:
    document = read(f"a.{kind.lower()}", saved(picture, kind, **({"quality": 90} if kind == "JPEG" else {})))
    assert isinstance(document, PictureDocument)
    return document


def near(one: Rgb, other: Rgb) -> int:
    return max(abs(a - b) for a, b in zip(one, other, strict=True))


@pytest.mark.parametrize("kind", ["PNG", "JPEG"])
@pytest.mark.parametrize("draw", [strip, badge, button])
def test_a_panel_and_its_lettering_are_paints_and_the_photograph_stays(draw: Draw, kind: str) -> None:
    picture = banner(draw)
    on_it = apart(np.asarray(picture), np.asarray(view())) > 0
    document = opened(picture, kind)
    assert not document.is_photograph
    found = sorted((one.rgb for one in document.paints), key=lambda one: near(one, PANEL))
    assert near(found[0], PANEL) <= 3
    # Letters are thin, and coding takes them off.
    assert min(near(one, INK) for one in found) <= (3 if kind == "PNG" else 25)
    assert len(found) <= 3
    to = {one: NEW_PANEL if near(one, PANEL) < near(one, INK) else NEW_INK for one in found}
    made = pixels(document.write(Changes(Recoloring({Rgba(*one): new for one, new in to.items()}))))
    truth, came = np.asarray(banner(draw, NEW_PANEL, NEW_INK)), pixels(document._data)
    off = apart(made, truth)[on_it]
    assert np.median(off) <= (2 if kind == "PNG" else 4)
    # But for what lies on the panel's very edge, and noise.
    assert (off <= 40).mean() > 0.97
    beyond = apart(made, came)[~on_it]
    assert (beyond == 0).mean() > 0.99 if kind == "PNG" else (beyond <= 6).mean() > 0.98


def test_a_photograph_is_no_panel_where_the_light_was_too_bright() -> None:
    seen = np.asarray(view()).astype(np.float64)
    rows, columns = np.mgrid[: SIZE[1], : SIZE[0]]
    glare = np.exp(-(((rows - 120) / 90) ** 2 + ((columns - 200) / 130) ** 2) * 2)
    made = np.clip(seen + 700 * glare[..., None], 0, 255).astype(np.uint8)
    assert (made == 255).all(axis=2).mean() > 0.05
    document = opened(Image.fromarray(made), "PNG")
    assert document.is_photograph
    assert document.paints == ()


def test_a_picture_in_a_frame_is_not_the_frame() -> None:
    framed = view()
    pen = ImageDraw.Draw(framed)
    pen.rectangle((100, 60, 420, 300), fill=PANEL)
    inner: npt.NDArray[np.uint8] = np.asarray(view())[10:210, 50:330]
    framed.paste(Image.fromarray(inner), (120, 80))
    document = opened(framed, "PNG")
    assert [one.rgb for one in document.paints] == [PANEL]
    assert document.photograph()[90:270, 130:390].mean() > 0.99
