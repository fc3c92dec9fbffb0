"""Pictures freed of their box or laid on another ground, in every format that mails show."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw

from pavese.core.color.srgb import Rgb
from pavese.core.handoff.beside import Beside
from pavese.core.pictures.mend import find_box, mended, put_in_place
from tests.core.strategies import colors

BOX, DRAWN = Rgb(255, 255, 255), Rgb(200, 30, 30)
#: What a format's own loss makes of a flat color, at most.
_LOSS = {"PNG": 0, "WEBP": 0, "GIF": 0, "JPEG": 3}


def picture(kind: str, box: Rgb = BOX, drawn: Rgb = DRAWN, **saved: Any) -> bytes:
    image = Image.new("RGB", (96, 64), box)
    ImageDraw.Draw(image).rectangle((24, 16, 71, 47), fill=drawn)
    return _saved(image, kind, **saved)


def _saved(image: Image.Image, kind: str, **saved: Any) -> bytes:
    target = io.BytesIO()
    image.save(target, kind, **({"lossless": True} if kind == "WEBP" else {}), **saved)
    return target.getvalue()


def pixels(data: bytes) -> np.ndarray[Any, Any]:
    with Image.open(io.BytesIO(data)) as image:
        return np.asarray(image.convert("RGBA")).astype(int)


@settings(max_examples=20)
@given(ground=colors, kind=st.sampled_from(list(_LOSS)))
def test_a_ground_is_laid_exactly_and_what_is_drawn_stays(ground: Rgb, kind: str) -> None:
    data = picture(kind)
    made = mended(data, ground)
    with Image.open(io.BytesIO(made)) as image:
        assert (image.format, image.size) == (kind, (96, 64))
    found = pixels(made)
    assert np.abs(found[2, 2, :3] - ground).max() <= _LOSS[kind]
    assert np.abs(found[32, 48, :3] - DRAWN).max() <= _LOSS[kind]
    assert made == mended(bytes(data), ground)


@pytest.mark.parametrize("kind", ["PNG", "WEBP"])
def test_a_box_is_made_clear_where_the_format_can_be(kind: str) -> None:
    found = pixels(mended(picture(kind), None))
    assert found[2, 2, 3] == 0
    assert tuple(found[32, 48]) == (*DRAWN, 255)


def test_what_a_drawing_encloses_goes_with_its_box_and_what_is_white_in_a_photograph_stays() -> None:
    ring = Image.new("RGB", (96, 64), BOX)
    ImageDraw.Draw(ring).ellipse((24, 8, 72, 56), outline=DRAWN, width=8)
    assert pixels(mended(_saved(ring, "PNG"), None))[32, 48, 3] == 0
    noise = np.random.default_rng(1).integers(0, 200, (48, 80, 3), dtype=np.uint8)
    photo = Image.new("RGB", (96, 64), BOX)
    photo.paste(Image.fromarray(noise), (8, 8))
    ImageDraw.Draw(photo).rectangle((40, 24, 55, 39), fill=BOX)
    found = pixels(mended(_saved(photo, "PNG"), None))
    assert found[2, 2, 3] == 0
    assert tuple(found[32, 48]) == (*BOX, 255)


def test_what_cannot_be_mended_stays_as_it_came() -> None:
    frames = [Image.new("RGB", (40, 40), BOX), Image.new("RGB", (40, 40), DRAWN)]
    moving = _saved(frames[0], "GIF", save_all=True, append_images=frames[1:])
    for data in (b"", b"no picture", picture("PNG")[:60], moving, _saved(Image.new("RGB", (40, 40), BOX), "PNG")):
        assert find_box(data) is None
        assert mended(data, DRAWN) == data
    for kind in ("JPEG", "GIF"):
        box = find_box(picture(kind))
        assert box is not None
        assert not box.clears
        assert mended(picture(kind), None) == picture(kind)


@given(width=st.integers(4, 200), height=st.integers(4, 200), space=st.floats(0, 3), clear=st.booleans())
def test_another_drawing_fits_with_its_room(width: int, height: int, space: float, clear: bool) -> None:
    logo = np.full((height, width, 4), (20, 90, 160, 255), dtype=np.uint8)
    ground = None if clear else Rgb(10, 20, 30)
    found = pixels(put_in_place(picture("PNG"), logo, ground, space))
    assert found.shape == (64, 96, 4)
    drawn = np.argwhere((found[..., 2] > 60) & (found[..., 3] > 0))
    assert len(drawn)
    (top, left), (bottom, right) = drawn.min(axis=0), drawn.max(axis=0)
    assert bottom - top < 32
    assert right - left < 48
    room = min(space * (bottom - top + 1), 31, 47)
    assert min(top, left, 63 - bottom, 95 - right) >= room - 2
    assert (found[0, 0, 3] == 0) == clear


def test_what_is_beside_files_is_handed_over_once_and_told_of() -> None:
    beside = Beside()
    beside.add("a.html", {"logo.png": "images/logo.png", "https://x/b.png": "pictures/x/b.png"}, {"logo.png": b"1"})
    beside.add("b.html", {"../logo.png": "images/logo.png"}, {"../logo.png": b"2", "unknown": b"3"})
    came = [("images/logo.png", b"0"), ("images/other.png", b"0"), ("kit.css", b"0")]
    found = dict(beside.files(came, {"kit.css"}))
    assert found["images/logo.png"] == b"1"
    assert found["images/other.png"] == b"0"
    assert "kit.css" not in found
    assert found["pictures.txt"] == b"images/logo.png is as a.html has it; b.html has it in another way.\n"
    assert dict(Beside().files(came, set())) == dict(came)
