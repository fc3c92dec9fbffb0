"""Pictures with a box of one color round what they show: told, and freed of it."""

from __future__ import annotations

import io

import numpy as np
import pytest
from hypothesis import given, settings
from PIL import Image

from pavese.core.color.extract import Pixels
from pavese.core.color.srgb import Rgb
from pavese.core.errors import RefusedFileError
from pavese.core.formats.document import Notation, Preview
from pavese.core.gather.candidates import from_logo
from pavese.core.gather.logo import freed_picture, take_logo
from pavese.core.kit.logo import Logo
from pavese.core.pictures.box import box_of, freed
from pavese.core.pictures.decode import decode_picture
from pavese.demo.pictures import logo
from pavese.render.draw import draw
from tests.core.strategies import colors

LETTER = (
    b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 60">%s'
    b'<circle cx="30" cy="30" r="20" fill="none" stroke="#0b5e6b" stroke-width="9"/></svg>'
)
BOXED = LETTER % b'<title>O</title><g><path d="M0 0h60v60H0z" fill="#fff"/></g>'


def pixels_of(svg: bytes, side: int = 120) -> Pixels:
    return decode_picture("o.png", draw(Preview(Notation.VECTOR, svg), side)).pixels


def over(pixels: Pixels, ground: Rgb) -> Pixels:
    alpha = pixels[..., 3:] / 255
    flat = np.rint(pixels[..., :3] * alpha + np.array(ground) * (1 - alpha)).astype(np.uint8)
    return np.dstack([flat, np.full(flat.shape[:2], 255, np.uint8)])


@settings(max_examples=30)
@given(colors, colors, colors)
def test_a_freed_picture_stands_on_any_ground_as_if_it_had_never_had_a_box(ink: Rgb, box: Rgb, ground: Rgb) -> None:
    if max(abs(a - b) for a, b in zip(ink, box, strict=True)) < 40:
        return
    drawn = pixels_of(LETTER.replace(b"#0b5e6b", ink.hex.encode()) % b"", 64)
    boxed = over(drawn, box)
    assert box_of(boxed) == box
    assert box_of(drawn) is None, "what is clear has no box"
    clear = freed(boxed, inside=True)
    assert np.abs(over(clear, box).astype(int) - boxed).max() <= 10, "on its box's color it is what it was"
    assert np.abs(over(clear, ground).astype(int) - over(drawn, ground)).mean() < 3
    middle, hole = clear[32, 32], freed(boxed)[32, 32]
    assert (middle[3], hole[3]) == (0, 255), "what is enclosed is freed where that is asked for"


def test_pictures_without_a_box_stay_as_they_are() -> None:
    rng = np.random.default_rng(3)
    photo = np.dstack([rng.integers(0, 255, (40, 60, 3)), np.full((40, 60), 255)]).astype(np.uint8)
    plain = np.full((30, 30, 4), 255, np.uint8)
    for pixels in (photo, plain, np.zeros((8, 8, 4), np.uint8)):
        assert box_of(pixels) is None
        assert freed(pixels) is pixels


def test_a_drawing_loses_the_shape_that_is_its_box_and_a_photo_becomes_clear() -> None:
    assert take_logo("o.svg", BOXED, draw).picture.box == Rgb(255, 255, 255)
    made = freed_picture("o.svg", BOXED, draw)
    assert b"<circle" in made, "it stays a drawing"
    assert b"<title>O</title>" in made
    assert take_logo("o.svg", made, draw).picture.box is None
    jpeg = io.BytesIO()
    Image.fromarray(pixels_of(BOXED)[..., :3]).save(jpeg, "JPEG", quality=85)
    came = take_logo("o.jpg", jpeg.getvalue(), draw)
    assert came.data.startswith(b"\x89PNG"), "a logo is kept in a format that can be clear"
    assert came.picture.box is not None
    clear = take_logo("o.jpg", freed_picture("o.jpg", jpeg.getvalue(), draw, inside=True), draw)
    assert clear.picture.box is None
    [found] = from_logo(Logo(on_light=clear.picture))
    assert max(abs(a - b) for a, b in zip(found.color, (11, 94, 107), strict=True)) <= 2, "what JPEG adds is no color"
    with pytest.raises(RefusedFileError, match="no box"):
        freed_picture("tarnmoor.svg", logo(), draw)
