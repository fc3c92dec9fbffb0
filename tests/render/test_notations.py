"""One drawing in every notation: the same paints, the same plan, the same picture before and after."""

from __future__ import annotations

import io
from collections.abc import Iterator

import numpy as np
import pytest
from PIL import Image

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.svg import read_svg
from pavese.core.recolor.assign import assign
from pavese.core.recolor.inventory import summarize
from pavese.core.recolor.spotlight import spotlight
from pavese.demo.icons import ICONS
from pavese.demo.load import demo_kit
from pavese.demo.shapes import NOTATIONS, Notation, svg
from pavese.render.pool import DrawingPool
from pavese.settings import settings

NAMES = ("crossing", "lifebuoy", "steward", "timetable", "radio")


@pytest.fixture(scope="module")
def pool() -> Iterator[DrawingPool]:
    started = DrawingPool(2, settings().fonts_dir)
    yield started
    started.close()


def picture(pool: DrawingPool, data: bytes, recoloring: dict[Rgba, Rgb] | None = None) -> np.ndarray:
    png = pool.png(read_svg("x.svg", data).preview(recoloring or {}), 64)
    return np.asarray(Image.open(io.BytesIO(png)).convert("RGBA")).astype(int)


def plan_for(data: bytes) -> dict[Rgba, Rgb]:
    kit = demo_kit()
    return assign(summarize([read_svg("x.svg", data).inventory()]), kit).resolve(kit)


@pytest.mark.parametrize("name", NAMES)
@pytest.mark.parametrize("notation", NOTATIONS[1:], ids=lambda notation: notation.__name__)
def test_every_notation_is_the_same_drawing(pool: DrawingPool, name: str, notation: Notation) -> None:
    plain = svg(ICONS[name], NOTATIONS[0], name)
    other = svg(ICONS[name], notation, name)
    assert set(read_svg("x.svg", other).inventory().paints) == set(read_svg("x.svg", plain).inventory().paints)
    assert np.array_equal(picture(pool, other), picture(pool, plain))
    recoloring = plan_for(plain)
    assert plan_for(other) == recoloring
    assert np.array_equal(picture(pool, other, recoloring), picture(pool, plain, recoloring))


@pytest.mark.parametrize("name", NAMES)
def test_what_is_shown_is_what_is_handed_over(pool: DrawingPool, name: str) -> None:
    """The picture made from the original and a recoloring is that of the recolored file."""
    for notation in NOTATIONS:
        data = svg(ICONS[name], notation, name)
        recoloring = plan_for(data)
        written = read_svg("x.svg", data).write(recoloring)
        assert np.array_equal(picture(pool, data, recoloring), picture(pool, written))


@pytest.mark.parametrize("name", NAMES)
def test_a_spotlight_shows_color_only_where_the_paint_stands(pool: DrawingPool, name: str) -> None:
    data = svg(ICONS[name], NOTATIONS[0], name)
    paints = read_svg("x.svg", data).inventory().paints
    for paint in paints:
        lit = picture(pool, data, spotlight(paints, {}, paint))
        opaque = lit[lit[..., 3] == 255]
        exactly = (opaque[:, :3] == paint.rgb).all(axis=1)
        assert exactly.any(), f"{paint.key} is not seen in {name}"
        # Elsewhere there are only greys, and mixes of a grey with the paint along its edges.
        base = max(paint.rgb) - min(paint.rgb)
        spread = opaque[:, :3].max(axis=1) - opaque[:, :3].min(axis=1)
        assert (spread <= base + 1).all()
        if base > 30 and len(paints) > 1:
            assert (spread <= 1).any()


@pytest.mark.parametrize("space", ["", ' color-interpolation-filters="sRGB"'])
@pytest.mark.parametrize(
    "values", ["0 0 0 0 0.2 0 0 0 0 0.4 0 0 0 0 0.8 0 0 0 1 0", "0,0,0,0,.5,0,0,0,0-.5,0,0,0,0,1,0,0,0,1,0"]
)
def test_a_color_matrix_that_is_a_color_is_drawn_in_its_target(pool: DrawingPool, space: str, values: str) -> None:
    data = (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8">'
        f'<filter id="m"{space}><feColorMatrix values="{values}"/></filter>'
        '<rect width="8" height="8" fill="#123456" filter="url(#m)"/></svg>'
    ).encode()
    found = [paint for paint in read_svg("x.svg", data).inventory().paints if paint.rgb != Rgb(0x12, 0x34, 0x56)]
    target = Rgb(0xD2, 0x45, 0x2D)
    # The engine keeps linearized channels in 8 bits, which is coarse where they are dark.
    near = 1 if space else 4
    for recoloring, wanted in (({}, found[0].rgb), ({found[0]: target}, target)):
        drawn = picture(pool, data, recoloring)[32, 32][:3]
        assert np.abs(drawn - np.array(wanted)).max() <= near
