"""Still drawings set in motion: the same drawing, vector where it can be, within its stage."""

from __future__ import annotations

import io
import json
from collections.abc import Iterator

import numpy as np
import pytest
from PIL import Image

from pavese.core.formats import read
from pavese.core.formats.document import Notation, Preview
from pavese.core.formats.lottie.staging import MOTIONS, Motion, set_in_motion
from pavese.core.recolor.recoloring import Recoloring
from pavese.demo.icons import ICONS
from pavese.demo.illustrations import illustration_files
from pavese.demo.shapes import NOTATIONS, svg
from pavese.render.motion import frame_at, frames, opened, size_within
from pavese.render.pool import DrawingPool
from pavese.settings import settings as product

SIDE = 130


@pytest.fixture(scope="module")
def pool() -> Iterator[DrawingPool]:
    started = DrawingPool(1, product().fonts_dir)
    yield started
    started.close()


def drawn(pool: DrawingPool, data: bytes, side: int) -> np.ndarray:
    return np.asarray(Image.open(io.BytesIO(png(pool, data, side))).convert("RGBA")).astype(int)


def png(pool: DrawingPool, data: bytes, side: int) -> bytes:
    return pool.png(Preview(Notation.VECTOR, data), side)


def staged(pool: DrawingPool, data: bytes, motion: Motion) -> bytes:
    return set_in_motion("drawing", data, motion, lambda side: png(pool, data, side))


def at_rest(animation: bytes) -> np.ndarray:
    """The last frame of an animation, cut to the drawing in the middle of its stage."""
    playing = opened(animation)
    size = size_within(playing, SIDE)
    frame = frame_at(playing, frames(playing) - 1, size).astype(int)
    left, top = (round(side * (1 - 1 / 1.3) / 2) for side in size)
    return frame[top : size[1] - top, left : size[0] - left]


def unlike(a: np.ndarray, b: np.ndarray) -> float:
    """Mean difference of two pictures on white, 0 to 255."""
    height, width = min(a.shape[0], b.shape[0]), min(a.shape[1], b.shape[1])
    flat = [p[:height, :width, :3] * (p[:height, :width, 3:] / 255) + 255 - p[:height, :width, 3:] for p in (a, b)]
    return float(np.abs(flat[0] - flat[1]).mean())


@pytest.mark.parametrize("name", sorted(ICONS))
def test_an_icon_stays_vector_and_looks_the_same(pool: DrawingPool, name: str) -> None:
    for at, notation in enumerate(NOTATIONS):
        plain = read("x.svg", svg(ICONS[name], notation, name)).preview(Recoloring()).content
        motion = list(Motion)[at % len(Motion)]
        animation = staged(pool, plain, motion)
        assert not json.loads(animation)["assets"], f"{notation.__name__} was put in as a picture"
        assert unlike(at_rest(animation), drawn(pool, plain, 100)) < 4
        before, after = read("x.svg", plain).inventory(), read("x.json", animation).inventory()
        assert {paint.rgb for paint in after.paints} == {paint.rgb for paint in before.paints}


@pytest.mark.parametrize("motion", Motion)
def test_nothing_of_a_motion_is_cut_off(pool: DrawingPool, motion: Motion) -> None:
    """A square that fills its drawing, the worst there is, stays within the stage (its corners when it turns aside)."""
    square = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><circle cx="4" cy="4" r="4"/></svg>'
    playing = opened(staged(pool, square, motion))
    size = size_within(playing, SIDE)
    seen = 0
    for number in range(frames(playing)):
        frame = frame_at(playing, number, size)
        edges = np.concatenate([frame[0], frame[-1], frame[:, 0], frame[:, -1]])
        assert edges[:, 3].max() == 0, f"frame {number}"
        seen = max(seen, int(frame[..., 3].max()))
    assert seen == 255
    assert frames(playing) - 1 == MOTIONS[motion].length


def test_what_is_no_plain_drawing_is_put_in_as_a_picture(pool: DrawingPool) -> None:
    pictured = 0
    for data in illustration_files().values():
        plain = read("x.svg", data).preview(Recoloring()).content
        animation = staged(pool, plain, Motion.BREATHE)
        assert unlike(at_rest(animation), drawn(pool, plain, 100)) < 12, "a pixel aside at most"
        pictured += bool(json.loads(animation)["assets"])
    assert pictured, "the illustrations have gradients"


@pytest.mark.parametrize(
    "dashes",
    [
        'stroke-dasharray="2 1"',
        'stroke-dasharray="2,1,1"',
        'stroke-dasharray=" 2 1 1 " stroke-dashoffset="1.5"',
        'stroke-dasharray="3" stroke-dashoffset="-1"',
        'stroke-dasharray="0 0"',
        'stroke-dasharray="2 -1"',
    ],
)
def test_dashes_begin_and_go_on_as_they_did(pool: DrawingPool, dashes: str) -> None:
    line = f'<path d="M0 2h8M0 6h8" fill="none" stroke="#0b5e6b" stroke-width="2" {dashes}/>'
    data = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8">{line}</svg>'.encode()
    animation = staged(pool, data, Motion.BREATHE)
    assert not json.loads(animation)["assets"]
    assert unlike(at_rest(animation), drawn(pool, data, 100)) < 4


def test_what_reaches_beyond_the_edges_of_a_drawing_is_not_seen_on_its_stage(pool: DrawingPool) -> None:
    disc = '<circle cx="8" cy="8" r="4" fill="#e53935"/>'
    data = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8">{disc}</svg>'.encode()
    animation = staged(pool, data, Motion.BREATHE)
    assert json.loads(animation)["layers"][0]["hasMask"]
    assert unlike(at_rest(animation), drawn(pool, data, 100)) < 4
    playing = opened(animation)
    frame = frame_at(playing, frames(playing) - 1, size_within(playing, SIDE)).astype(int)
    edge = round(SIDE * (1 - 1 / 1.3) / 2) - 3
    assert frame[-edge:, :, 3].max() == frame[:, -edge:, 3].max() == 0
