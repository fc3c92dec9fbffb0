"""An old logo in a picture gives way to the kit's."""

from __future__ import annotations

import io
from dataclasses import replace
from typing import Any

import numpy as np
import numpy.typing as npt
import pytest
from PIL import Image, ImageDraw

from pavese.core.color.srgb import Rgb
from pavese.core.formats import read
from pavese.core.formats.picture.document import PictureDocument
from pavese.core.formats.picture.logos import LogoStays
from pavese.core.gather.logo import take_logo
from pavese.core.kit.logo import Backing, BackingShape, Logo
from pavese.core.kit.logo_on_grounds import KitLogo
from pavese.core.pictures.in_place import standing_in
from pavese.core.pictures.veil import Rectangle
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.pointed import PartWay, PicturePart, PictureParts, Region
from pavese.core.recolor.recoloring import Recoloring
from pavese.render.draw import draw
from tests.formats.rasters import saved

Pixels = npt.NDArray[np.uint8]
WHITE, NIGHT, OLD, RULE = Rgb(255, 255, 255), Rgb(16, 24, 32), Rgb(200, 30, 60), Rgb(40, 120, 40)
NEW, FOG = Rgb(11, 94, 107), Rgb(238, 240, 236)
SVG = "http://www.w3.org/2000/svg"
#: A frame round the old one, and what it covers of a picture of 300 by 150.
REGION = Region(left=0.05, top=0.1, width=0.6, height=0.6)
INSIDE = np.s_[15:105, 15:195]


def kit_logo(color: Rgb = NEW, backing: Rgb | None = None, *, on_dark: Rgb | None = None) -> KitLogo:
    """A logo twice as wide as high, of one color."""
    files, pictures = {}, []
    for one in (color, on_dark):
        mark = f'<svg xmlns="{SVG}" viewBox="0 0 40 30"><path fill="{one and one.hex}" d="M10 10h20v10H10z"/></svg>'
        taken = take_logo("l.svg", mark.encode(), draw) if one else None
        pictures.append(taken and taken.picture)
        files.update({taken.picture.drawn: taken.drawn} if taken else {})
    behind = Backing(color="fog.base", shape=BackingShape.RECTANGLE, padding=25) if backing else None
    return KitLogo(Logo(on_light=pictures[0], on_dark=pictures[1], backing=behind), backing, 3.0, files)  # type: ignore[arg-type]


def with_old(ground: Image.Image) -> Image.Image:
    """A ground with an old logo, and a line that runs through its frame."""
    drawn = ground.resize((1200, 600))
    pen = ImageDraw.Draw(drawn)
    pen.ellipse((120, 120, 320, 320), fill=OLD)
    pen.rectangle((360, 180, 680, 260), fill=(90, 90, 100))
    pen.rectangle((0, 360, 1200, 380), fill=RULE)
    return drawn.reduce(4)


def plain(color: Rgb) -> Image.Image:
    return Image.new("RGB", (300, 150), color)


def running() -> Image.Image:
    across = np.linspace(0, 1, 300)[None, :, None]
    down = np.linspace(0, 1, 150)[:, None, None]
    return Image.fromarray((np.array(FOG) - 60 * across * np.array((1, 0.5, 0)) - 30 * down).astype(np.uint8))


def uneven() -> Image.Image:
    rng = np.random.default_rng(1)
    return Image.fromarray(rng.integers(0, 255, (15, 30, 3), dtype=np.uint8)).resize((300, 150))


def changed(
    data: bytes, logo: KitLogo | None, *, name: str = "a.png", to: Any = None
) -> tuple[Pixels, tuple[str, ...]]:
    document = read(name, data)
    assert isinstance(document, PictureDocument)
    parts = PictureParts(parts=(PicturePart(region=REGION, way=PartWay.LOGO),))
    changes = Changes(Recoloring(to or {}), (parts,), logo=logo)
    with Image.open(io.BytesIO(document.write(changes))) as image:
        return np.asarray(image.convert("RGBA")), document.logos(changes)


def near(pixels: Pixels, color: Rgb, most: int = 40) -> npt.NDArray[np.bool_]:
    return np.asarray(np.abs(pixels[..., :3].astype(int) - color).max(axis=-1) <= most)


@pytest.mark.parametrize(
    ("kind", "ground", "least"),
    [("PNG", plain(WHITE), 0), ("PNG", plain(FOG), 0), ("PNG", running(), 1), ("JPEG", plain(WHITE), 9)],
)
def test_it_is_taken_out_and_the_kits_stands_there(kind: str, ground: Image.Image, least: int) -> None:
    old = saved(with_old(ground), kind, **({"quality": 85} if kind == "JPEG" else {}))
    made, stays = changed(old, kit_logo(), name=f"a.{kind.lower()}")
    assert stays == ("",)
    assert not near(made[INSIDE], OLD).any()
    with Image.open(io.BytesIO(old)) as image:
        came = np.asarray(image.convert("RGBA"))
    new = near(made, NEW, 10)
    rows, columns = np.nonzero(new)
    # It covers as much as the old one did, from where that began, as that stood at the left, and is no wider or higher.
    assert columns.min() == pytest.approx(30, abs=2)
    assert (np.ptp(columns) + 1) / (np.ptp(rows) + 1) == pytest.approx(2, abs=0.1)
    assert new.sum() == pytest.approx(140 * 50, rel=0.08)
    # What was under it runs on, the line that runs through the frame stays, and nothing beyond the frame moves.
    bare = np.asarray(ground.resize((1200, 600)).reduce(4))
    empty = made[INSIDE][..., :3].astype(int) - bare[INSIDE]
    free = ~new[INSIDE]
    free[70:] = False
    soft = np.abs(empty).max(axis=2)[free] > max(least, 1) + 2
    assert soft.mean() < 0.06
    assert (np.abs(made[90:95].astype(int) - came[90:95]).max() <= least).all()
    beyond = np.abs(made.astype(int) - came).max(axis=2)
    beyond[INSIDE] = 0
    assert beyond.max() <= least


def test_it_stands_on_what_the_ground_becomes_and_is_the_one_for_that() -> None:
    old = saved(with_old(plain(WHITE)), "PNG")
    paints = read("a.png", old).inventory().paints
    white = next(one for one in paints if one.rgb == WHITE)
    both = kit_logo(on_dark=FOG)
    on_light, _ = changed(old, both)
    on_dark, stays = changed(old, both, to={white: NIGHT})
    assert stays == ("",)
    assert near(on_light, NEW, 4).sum() > 1000
    assert near(on_dark, FOG, 4).sum() > 1000
    assert not near(on_dark, NEW, 4).any()
    assert (on_dark[20, 20, :3] == NIGHT).all()


def test_where_it_does_not_stand_out_it_has_its_backing_or_the_old_one_stays() -> None:
    old = saved(with_old(plain(NIGHT)), "PNG")
    came = np.asarray(with_old(plain(NIGHT)))
    made, stays = changed(old, kit_logo())
    assert stays == (LogoStays.DOES_NOT_STAND_OUT,)
    assert (made[..., :3] == came).all()
    made, stays = changed(old, kit_logo(backing=FOG))
    assert stays == ("",)
    assert not near(made[INSIDE], OLD).any()
    rows, columns = np.nonzero(near(made, FOG, 2) | near(made, NEW, 2))
    inner_rows, inner_columns = np.nonzero(near(made, NEW, 2))
    high = np.ptp(inner_rows) + 1
    assert inner_rows.min() - rows.min() == pytest.approx(high / 4, abs=2)
    assert columns.max() - inner_columns.max() == pytest.approx(high / 4, abs=2)


def test_on_nothing_even_a_backing_covers_the_frame_or_the_old_one_stays() -> None:
    old = saved(with_old(uneven()), "PNG")
    came = np.asarray(with_old(uneven()))
    made, stays = changed(old, kit_logo())
    assert stays == (LogoStays.NOT_EVEN,)
    assert (made[..., :3] == came).all()
    made, stays = changed(old, kit_logo(backing=FOG))
    assert stays == ("",)
    assert (near(made[INSIDE], FOG, 2) | near(made[INSIDE], NEW, 2)).mean() > 0.9
    beyond = (made[..., :3] != came).any(axis=2)
    beyond[INSIDE] = False
    assert not beyond.any()
    # A kit that came as a file names its logo, and has no picture of it.
    for nothing in (None, KitLogo(Logo(), None, 3.0), replace(kit_logo(backing=FOG), files={})):
        assert changed(old, nothing)[1] == (LogoStays.NO_LOGO,)


def test_on_what_is_clear_it_stands_as_clear() -> None:
    drawn = Image.new("RGBA", (300, 150))
    ImageDraw.Draw(drawn).ellipse((30, 30, 80, 80), fill=(*OLD, 255))
    made, stays = changed(saved(drawn, "PNG"), kit_logo())
    assert stays == ("",)
    assert not near(made[made[..., 3] > 0], OLD).any()
    assert made[30:80, 30:130, 3].max() == 255
    assert made[100:, :, 3].max() == 0


def test_what_reaches_far_beyond_a_frame_does_not_stand_in_it() -> None:
    pixels = np.full((100, 200, 4), 255, dtype=np.uint8)
    pixels[48:52, :, :3] = 0
    pixels[20:30, 60:70, :3] = 90
    standing = standing_in(pixels, Rectangle(10, 80, 40, 100), 0)
    assert standing is not None
    assert standing.at == Rectangle(20, 30, 60, 70)
    nothing = standing_in(np.full((100, 200, 4), 255, dtype=np.uint8), frame := Rectangle(10, 80, 40, 100), 0)
    assert nothing is not None
    assert (nothing.at, nothing.things.any()) == (frame, False)
