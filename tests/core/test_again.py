"""A sign found again in other pictures: in other sizes and colors, on other grounds, among other things, or not."""

from __future__ import annotations

import io
from functools import cache

import numpy as np
import numpy.typing as npt
import pytest
from PIL import Image

from pavese.core.formats.document import Notation, Preview
from pavese.core.pictures.again import found_again
from pavese.demo.banners import banner_files
from pavese.demo.pictures import logo
from pavese.render.draw import draw, load_fonts
from pavese.settings import settings

Levels = npt.NDArray[np.uint8]
#: What stands around a sign in the frame that was drawn, in pixels.
_AIR = 6


@cache
def sign() -> Image.Image:
    load_fonts(str(settings().fonts_dir))
    drawn = Image.open(io.BytesIO(draw(Preview(Notation.VECTOR, logo()), 800))).convert("RGBA")
    return drawn.crop(drawn.getbbox())


@cache
def banners() -> dict[str, Levels]:
    load_fonts(str(settings().fonts_dir))
    files = {name: data for name, data in banner_files().items() if not name.endswith(".gif")}
    return {name: np.asarray(Image.open(io.BytesIO(data)).convert("RGB")) for name, data in files.items()}


def with_sign(under: Image.Image, wide: int, left: int, top: int) -> Image.Image:
    made = under.convert("RGBA")
    small = sign().resize((wide, round(wide * sign().height / sign().width)), Image.Resampling.LANCZOS)
    made.alpha_composite(small, (left, top))
    return made.convert("RGB")


def piece() -> Levels:
    tall = round(220 * sign().height / sign().width)
    whole = np.asarray(with_sign(Image.new("RGB", (400, 300), (238, 240, 236)), 220, 60, 40))
    return whole[40 - _AIR : 40 + tall + _AIR, 60 - _AIR : 280 + _AIR]


def test_a_sign_is_found_where_it_stands() -> None:
    dice = np.random.default_rng(7)
    tried = found_there = surely = 0
    for name in ("harbor-wall.jpg", "summer-timetable.png", "departures-board.png", "foot-passengers.jpg") * 8:
        under = Image.fromarray(banners()[name])
        wide = round(under.width * dice.uniform(0.14, 0.35))
        tall = round(wide * sign().height / sign().width)
        left, top = round(dice.random() * (under.width - wide)), round(dice.random() * (under.height - tall))
        # On a plate of any color, and coded as most are.
        plate = tuple(map(int, dice.integers(0, 256, 3)))
        under.paste(Image.new("RGB", (wide + 20, tall + 20), plate), (left - 10, top - 10))
        target = io.BytesIO()
        with_sign(under, wide, left, top).save(target, "JPEG", quality=int(dice.integers(60, 90)))
        found = found_again(piece(), np.asarray(Image.open(target)))
        tried += 1
        if found is None:
            continue
        found_there += 1
        surely += found.sure
        across, down = found.left + found.width / 2, found.top + found.height / 2
        assert across == pytest.approx((left + wide / 2) / under.width, abs=0.02)
        assert down == pytest.approx((top + tall / 2) / under.height, abs=0.02)
        assert found.width * under.width == pytest.approx(wide * piece().shape[1] / 220, rel=0.08)
    assert found_there >= 0.9 * tried
    assert surely >= 0.8 * tried


def test_nothing_is_found_where_it_is_not() -> None:
    for name, pixels in banners().items():
        assert found_again(piece(), pixels) is None, name
    for empty in (np.full((200, 300, 3), 90, dtype=np.uint8), np.zeros((1, 1, 3), dtype=np.uint8)):
        assert found_again(piece(), empty) is None
        assert found_again(empty, banners()["harbor-wall.jpg"]) is None


def test_what_is_plain_is_found_for_certain_only_where_it_is() -> None:
    timetable = banners()["summer-timetable.png"]
    rows, columns = timetable.shape[:2]
    sun = timetable[int(0.06 * rows) : int(0.46 * rows), int(0.73 * columns) : int(0.95 * columns)]
    found = {name: found_again(sun, pixels) for name, pixels in banners().items()}
    assert {name for name, one in found.items() if one and one.sure} == {
        "summer-timetable.png",
        "summer-timetable-small.jpg",
    }
