"""What is drawn is told from what a lens saw: in small pictures, which are edges mostly, and where either is like the
other."""

from __future__ import annotations

import io

import numpy as np
import numpy.typing as npt
import pytest
from PIL import Image, ImageDraw
from scipy import ndimage

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats import read
from pavese.core.pictures.mixture import Levels
from tests.formats.rasters import saved

_TALL, _WIDE, _FINE = 128, 96, 6
_HAIR, _SKIN, _SHIRT, _BAND = Rgb(191, 121, 88), Rgb(255, 215, 177), Rgb(60, 188, 121), Rgb(90, 94, 190)
_WHITE, _INK = Rgb(255, 255, 255), Rgb(56, 56, 56)


def _figure() -> Image.Image:
    """A figure of narrow parts, each shaded towards its lower end, as small as it comes with a page."""
    whole = np.zeros((_TALL * _FINE, _WIDE * _FINE, 4), dtype=np.float64)
    down = np.linspace(0, 1, _TALL * _FINE)[:, None, None]
    for number in range(20):
        part = Image.new("L", (_WIDE * _FINE, _TALL * _FINE))
        left, top = 8 + number % 5 * 17, 6 + number // 5 * 30
        ImageDraw.Draw(part).ellipse(
            [side * _FINE for side in (left, top, left + 8 + number % 3 * 6, top + 28)], fill=255
        )
        inside = np.asarray(part) > 0
        color = np.array((_HAIR, _SKIN, _SHIRT, _BAND)[number % 4])
        shade = color * (1 - 0.8 * np.clip(down * 4.27 - number // 5 - 0.5, 0, 0.5))
        whole[inside] = np.dstack([np.broadcast_to(shade, (*inside.shape, 3)), np.full(inside.shape, 255)])[inside]
    return Image.fromarray(np.rint(whole).astype(np.uint8)).resize((_WIDE, _TALL), Image.Resampling.BOX)


def _scene(side: int, grey: bool) -> Image.Image:
    """What a lens may see: things of all sizes, in soft light, nothing of it even."""
    dice = np.random.default_rng(side)
    seen: npt.NDArray[np.float64] = np.zeros((side, side, 3))
    for size in (1, 2, 4, 8):
        part = ndimage.gaussian_filter(dice.normal(0, 1, (side, side, 3)), (size, size, 0))
        seen += part / part.std() * 24
    made = Image.fromarray(np.clip(seen + 128, 0, 255).astype(np.uint8))
    return made.convert("L") if grey else made


@pytest.mark.parametrize("kind", ["its own", "palette"])
def test_a_small_figure_of_many_parts_is_a_drawing(kind: str) -> None:
    picture = _figure() if kind == "its own" else _figure().quantize(256)
    found = read("figure.png", saved(picture, "PNG")).inventory()
    paints = np.array([paint.rgb for paint in found.paints])
    for color in (_HAIR, _SKIN, _SHIRT, _BAND):
        assert np.abs(paints - np.array(color)).max(axis=1).min() <= 8, color
    assert not any("photograph" in one.lower() for one in found.remarks)


@pytest.mark.parametrize("grey", [False, True])
@pytest.mark.parametrize("side", [72, 96, 128])
def test_a_small_photograph_is_one(side: int, grey: bool) -> None:
    found = read("scene.png", saved(_scene(side, grey), "PNG")).inventory()
    assert found.paints == ()


def _button() -> Image.Image:
    """A white disc in a ring that gets darker downwards and begins as white as the disc, but for a few levels."""
    down, across = (np.mgrid[:80, :80] - 39.5).astype(np.float64)
    away = np.hypot(down, across)
    made = np.full((80, 80, 4), 255, dtype=np.uint8)
    ring = (away > 33) & (away < 39)
    made[ring, :3] = np.rint(252 - 25 * (down[ring] + 39) / 78)[:, None]
    made[(np.abs(down) < 5) & (np.abs(across) < 18), :3] = _INK
    made[away >= 39] = 0
    return Image.fromarray(made)


def _with(picture: Image.Image, colors: dict[Rgb, Rgb]) -> Levels:
    document = read("x.png", saved(picture, "PNG"))
    held = {paint: colors[paint.rgb] for paint in document.inventory().paints if paint.rgb in colors}
    assert held.keys() == {Rgba(*color) for color in colors}
    return np.asarray(Image.open(io.BytesIO(document.write(held))).convert("RGB"))


def test_a_disc_is_a_paint_beside_the_ring_that_runs_away_from_it() -> None:
    document = read("button.png", saved(_button(), "PNG"))
    assert document.inventory().blends
    assert document.inventory().remarks == ()
    made = _with(_button(), {_WHITE: Rgb(10, 90, 200), _INK: Rgb(255, 240, 200)})
    assert tuple(made[52, 40]) == (10, 90, 200)
    assert tuple(made[40, 40]) == (255, 240, 200)
    assert int(made[76, 40].min()) > 200, "the ring is of other paints"


@pytest.mark.parametrize("every", [2, 3, 4])
def test_a_pattern_in_which_nothing_is_even_has_the_paints_that_it_is_made_of(every: int) -> None:
    down, across = np.mgrid[:40, :40]
    striped = np.where(((down + across) % every == 0)[..., None], np.array(_SHIRT), np.array(_INK)).astype(np.uint8)
    made = _with(Image.fromarray(striped), {_SHIRT: Rgb(200, 30, 40), _INK: Rgb(240, 240, 230)})
    first = (down + across) % every == 0
    assert (made[first] == (200, 30, 40)).all()
    assert (made[~first] == (240, 240, 230)).all()


@pytest.mark.parametrize("kind", ["PNG", "GIF"])
def test_a_photograph_with_a_palette_is_one(kind: str) -> None:
    soft = np.asarray(_scene(480, grey=False).resize((640, 640), Image.Resampling.BICUBIC))
    light = np.linspace(0.3, 1.1, 640)[:, None, None]
    photograph = Image.fromarray(np.clip(ndimage.gaussian_filter(soft, (2, 2, 0)) * light, 0, 255).astype(np.uint8))
    found = read(f"scene.{kind.lower()}", saved(photograph.quantize(256), kind)).inventory()
    assert found.paints == ()


def _glow(grain: float, soft: float) -> Image.Image:
    """A light in the dark, as a lens sees it: from black by red and orange to yellow, unevenly."""
    down, across = np.mgrid[:400, :400] / 400 - 0.5
    uneven = ndimage.gaussian_filter(np.asarray(_scene(400, grey=False))[..., 0] / 128 - 1, soft)
    lit = np.clip(0.75 - 1.9 * np.hypot(down, across) + grain * uneven, 0, 1)
    knots = ((0, 110, 235, 255), (0, 10, 110, 240), (0, 5, 20, 150))
    return Image.fromarray(np.rint(np.stack([np.interp(lit, (0, 0.3, 0.6, 1), one) for one in knots], -1)).astype("u1"))


@pytest.mark.parametrize(("kind", "grain", "soft"), [("JPEG", 0.25, 3), ("JPEG", 0.2, 2), ("PNG", 0.2, 2)])
def test_what_is_smooth_in_a_photograph_is_a_piece_of_it(kind: str, grain: float, soft: float) -> None:
    """Glare, what is out of focus, and the night around are no paints of a drawing."""
    data = saved(_glow(grain, soft), kind, quality=88)
    assert read(f"glow.{'jpg' if kind == 'JPEG' else 'png'}", data).inventory().paints == ()


def _against_the_light(soft: float) -> Image.Image:
    """Trees before an evening sky: half of it is as dark as a lens sees, with a long outline."""
    dice, width, height = np.random.default_rng(3), 480, 320
    trees = Image.new("L", (2 * width, 2 * height))
    pen = ImageDraw.Draw(trees)
    pen.rectangle([0, height * 1.5, 2 * width, 2 * height], fill=255)
    for x in (80, 300, 620, 860):
        pen.line([x, 2 * height, x + 20, 60], fill=255, width=60)
        for _ in range(90):
            y, long, turned = dice.integers(0, 290), dice.integers(60, 230), dice.uniform(0, 2 * np.pi)
            end = (x + long * np.cos(turned), y + long * np.sin(turned) * 0.6)
            pen.line([x, y, *end], fill=255, width=int(dice.integers(5, 12)))
    cover = np.asarray(trees.resize((width, height), Image.Resampling.BOX), dtype=float)[..., None] / 255
    light = (1 - ndimage.gaussian_filter(cover, (soft, soft, 0))) ** 1.5
    down = np.linspace(0, 1, height)[:, None, None]
    sky = np.array([200, 120, 60]) * (1 - down) + np.array([250, 200, 90]) * down
    clouds = np.asarray(_scene(width, grey=False))[:height] * 0.5 - 64
    return Image.fromarray(np.clip((sky + clouds) * light + 2, 0, 255).astype(np.uint8))


@pytest.mark.parametrize("soft", [0.6, 1.6])
def test_what_stands_against_the_light_is_a_piece_of_the_photograph(soft: float) -> None:
    assert read("evening.jpg", saved(_against_the_light(soft), "JPEG", quality=85)).inventory().paints == ()


def test_black_that_ends_at_once_is_a_panel_beside_a_photograph() -> None:
    canvas = np.zeros((500, 700, 3), dtype=np.uint8)
    canvas[100:400, 150:500] = np.asarray(_scene(350, grey=False))[:300]
    picture = Image.fromarray(canvas)
    assert {paint.rgb for paint in read("panel.png", saved(picture, "PNG")).inventory().paints} == {Rgb(0, 0, 0)}
    made = _with(picture, {Rgb(0, 0, 0): Rgb(20, 30, 60)})
    assert (made[:95] == (20, 30, 60)).all()
    assert (made[104:396, 154:496] == canvas[104:396, 154:496]).all()


def _noisy(picture: Image.Image) -> Image.Image:
    """What a scanner, or a program that dithers, adds."""
    levels = np.asarray(picture).astype(np.int16)
    return Image.fromarray(
        np.clip(levels + np.random.default_rng(5).integers(-2, 3, levels.shape), 0, 255).astype("u1")
    )


def test_noise_makes_no_photograph_of_a_drawing_and_no_drawing_of_a_photograph() -> None:
    across = np.linspace(0, 1, 300)[None, :, None]
    sky = (np.array(_SHIRT) * (1 - across) + np.array(_BAND) * across).repeat(200, axis=0)
    sky[60:140, 60:200] = _WHITE
    drawn = read("sky.png", saved(_noisy(Image.fromarray(np.rint(sky).astype(np.uint8))), "PNG"))
    assert drawn.inventory().paints
    assert drawn.inventory().remarks == ()
    light = ndimage.gaussian_filter(np.asarray(_scene(480, grey=False)).astype(np.float64), (9, 9, 0))
    soft = Image.fromarray(np.clip((light - 128) * 3 + 128, 0, 255).astype(np.uint8))
    assert read("soft.png", saved(_noisy(soft), "PNG")).inventory().paints == ()


def _lit_tiles(side: int, tile: int, groove: int) -> Image.Image:
    """Tiles in soft light: each is even, and hardly any is as light as the next."""
    down, along = np.mgrid[0:side, 0:side]
    light = 40 + 180 * np.exp(-(((along - side / 2) / side) ** 2) * 8 - ((down - side * 0.3) / side) ** 2 * 12)
    even = (down % tile >= groove) & (along % tile >= groove)
    return Image.fromarray(np.rint(light * np.where(even, 1, 0.45)).astype(np.uint8)).convert("RGB")


@pytest.mark.parametrize("quality", [75, 92])
@pytest.mark.parametrize(("side", "tile", "groove"), [(480, 12, 3), (480, 16, 4), (960, 20, 4), (960, 30, 6)])
def test_tiles_in_soft_light_are_not_as_many_paints_as_they_have_shades(
    side: int, tile: int, groove: int, quality: int
) -> None:
    came = np.asarray(_lit_tiles(side, tile, groove)).astype(float)
    document = read("tiles.jpg", saved(Image.fromarray(came.astype(np.uint8)), "JPEG", quality=quality))
    # It stays, or is the ground with lines that it might as well be: what is as light stays as light.
    assert len(document.inventory().paints) <= 16
    darker = {paint: Rgb(paint.r // 2, paint.g // 2, paint.b // 2) for paint in document.inventory().paints}
    with Image.open(io.BytesIO(document.write(darker))) as image:
        made = np.asarray(image.convert("RGB")).astype(float)
    off = np.abs(made - (came / 2 if darker else came)).max(axis=2)
    assert np.percentile(off, 90) <= 12


def test_tiles_of_a_few_shades_are_so_many_paints() -> None:
    shades = np.random.default_rng(5).choice([60, 110, 160, 210], (30, 30)).repeat(16, axis=0).repeat(16, axis=1)
    even = np.add.outer(np.arange(480) % 16 < 4, np.arange(480) % 16 < 4)
    tiles = np.where(even, 20, shades).astype(np.uint8)
    found = read("tiles.jpg", saved(Image.fromarray(tiles).convert("RGB"), "JPEG", quality=80)).inventory()
    for shade in (20, 60, 110, 160, 210):
        assert min(abs(paint.r - shade) for paint in found.paints) <= 4


def _wall(side: int, brick: int, noise: float) -> Image.Image:
    """Bricks in soft light as a lens sees them: each is hardly of one shade, its joints are soft."""
    dice = np.random.default_rng(1)
    down, along = np.mgrid[0:side, 0:side]
    shades = dice.normal(0, 4, (side // brick + 1, side // brick + 1))[down // brick, along // brick]
    light = 90 + 30 * along / side
    brick_here = (down % brick >= 4) & (along % brick >= 4)
    seen = ndimage.gaussian_filter(np.where(brick_here, light + shades, light * 1.7), 1.2)
    seen += ndimage.gaussian_filter(dice.normal(0, noise, seen.shape), 1)
    return Image.fromarray(np.clip(np.rint(seen), 0, 255).astype(np.uint8))


@pytest.mark.parametrize(("side", "brick", "noise"), [(160, 24, 4), (160, 24, 6), (200, 32, 4)])
def test_a_photograph_in_greys_is_one_though_each_grey_is_a_mix_of_others(side: int, brick: int, noise: float) -> None:
    assert read("wall.png", saved(_wall(side, brick, noise), "PNG")).inventory().paints == ()


@pytest.mark.parametrize("kind", ["L", "LA"])
def test_a_shaded_drawing_in_greys_stays_one(kind: str) -> None:
    found = read("figure.png", saved(_figure().convert(kind), "PNG")).inventory()
    assert len(found.paints) >= 4
    assert not any("photograph" in one.lower() for one in found.remarks)
