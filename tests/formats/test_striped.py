"""Screenshots whose lettering was drawn for the stripes of the screen."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw, ImageFont

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats import read
from pavese.core.formats.picture.document import PictureDocument
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.recoloring import Recoloring
from tests.formats.rasters import saved
from tests.formats.test_large_pictures import apart, pixels

LINES = ("Departures from Pier 1", "08:15 calm, on time", "Bicycles travel free")
INK, PAPER, BAR = Rgb(33, 37, 41), Rgb(255, 248, 225), Rgb(24, 100, 171)
NEW = {INK: Rgb(120, 20, 60), PAPER: Rgb(225, 240, 238), BAR: Rgb(20, 110, 90)}


def cover(width: int = 300, height: int = 120) -> npt.NDArray[np.float64]:
    """How much of each stripe the letters cover, shape (rows, columns, 3), filtered as renderers do: five stripes."""
    large = Image.new("L", (width * 3, height * 3))
    pen = ImageDraw.Draw(large)
    for at, line in enumerate(LINES):
        pen.text((30, 12 + at * 110), line, font=ImageFont.load_default(48), fill=255)
    stripes = np.asarray(large, dtype=np.float64).reshape(height, 3, width * 3).mean(axis=1) / 255
    spread = [np.convolve(row, np.array([1, 2, 3, 2, 1]) / 9, "same") for row in stripes]
    return np.stack(spread).reshape(height, width, 3)


COVER = cover()


def screen(ink: Rgb, paper: Rgb, bar: Rgb, *, striped: bool = True) -> Image.Image:
    """Lines on a paper and on a bar below."""
    covered = COVER if striped else np.repeat(COVER.mean(axis=2, keepdims=True), 3, axis=2)
    ground = np.full(covered.shape, paper, dtype=np.float64)
    ground[80:] = bar
    inks = np.full(covered.shape, ink, dtype=np.float64)
    inks[80:] = paper
    return Image.fromarray(np.rint(ground + covered * (inks - ground)).astype(np.uint8))


def opened(picture: Image.Image) -> PictureDocument:
    document = read("screen.png", saved(picture, "PNG"))
    assert isinstance(document, PictureDocument)
    return document


def changed(document: PictureDocument, colors: dict[Rgb, Rgb]) -> npt.NDArray[np.uint8]:
    return pixels(document.write(Changes(Recoloring({Rgba(*one): to for one, to in colors.items()}))))


def test_it_has_the_paints_of_the_same_without_stripes() -> None:
    plain = {one.rgb for one in opened(screen(INK, PAPER, BAR, striped=False)).paints}
    assert {one.rgb for one in opened(screen(INK, PAPER, BAR)).paints} == plain >= {INK, PAPER, BAR}


def test_it_comes_out_as_if_drawn_in_the_new_colors_stripes_and_all() -> None:
    made = changed(opened(screen(INK, PAPER, BAR)), NEW)
    assert apart(made, np.asarray(screen(NEW[INK], NEW[PAPER], NEW[BAR]))).max() <= 2


@pytest.mark.parametrize("one", [INK, PAPER, BAR])
def test_what_does_not_change_stays_to_the_bit(one: Rgb) -> None:
    before = np.asarray(screen(INK, PAPER, BAR))
    made = changed(opened(screen(INK, PAPER, BAR)), {one: NEW[one]})
    touched = before[80:] if one == INK else before[:80] if one == BAR else before[:0]
    assert (made[80:] if one == INK else made[:80] if one == BAR else made[:0]).tolist() == touched.tolist()


@given(st.tuples(*[st.integers(0, 255)] * 3), st.tuples(*[st.integers(0, 255)] * 3))
@settings(max_examples=25, deadline=None)
def test_whatever_the_ink_and_the_ground_no_color_of_the_fringes_is_a_paint(ink: Any, paper: Any) -> None:
    ways = [abs(one - other) for one, other in zip(ink, paper, strict=True)]
    # Where red or blue hardly differ, nothing tells stripes; what hardly stands out shows no fringes.
    assume(max(ways) >= 120)
    assume(min(ways[0], ways[2]) >= 0.3 * max(ways))
    striped, plain = (opened(screen(Rgb(*ink), Rgb(*paper), Rgb(*paper), striped=one)).paints for one in (True, False))
    assert len(striped) <= len(plain) + 1
