"""Pictures of an exact format that were coded with loss, or made larger, before: as a banner that went through mails
and slides is handed on."""

from __future__ import annotations

import io

import numpy as np
import pytest
from PIL import Image, ImageDraw

from pavese.core.formats import read
from pavese.core.formats.picture.document import PictureDocument
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.recoloring import Recoloring
from tests.formats.rasters import saved
from tests.formats.test_large_pictures import COLORS, apart, harbor, pixels, wanted_of, with_view

SIZE = (480, 360)


def handed_on(picture: Image.Image, times: float, quality: int = 85) -> Image.Image:
    """A picture after it was a JPEG, and was made so many times larger."""
    coded = io.BytesIO()
    picture.save(coded, "JPEG", quality=quality)
    made = Image.open(coded)
    size = (round(picture.width * times), round(picture.height * times))
    return made if times == 1 else made.resize(size, Image.Resampling.BICUBIC)


def opened(picture: Image.Image, kind: str = "PNG") -> PictureDocument:
    document = read(f"a.{kind.lower()}", saved(picture, kind))
    assert isinstance(document, PictureDocument)
    return document


@pytest.mark.parametrize("kind", ["PNG", "TIFF"])
@pytest.mark.parametrize("times", [1, 1.5, 2, 3, 4])
def test_it_has_the_paints_that_were_drawn_and_gets_others_as_if_drawn_in_them(times: float, kind: str) -> None:
    document = opened(handed_on(harbor({}, SIZE), times), kind)
    # What coding leaves beside a line may be one more; before, it was dozens.
    assert len(COLORS) <= len(document.paints) <= len(COLORS) + 1
    made = pixels(document.write(Changes(Recoloring(wanted_of(document)))))
    off = apart(made, np.asarray(handed_on(harbor(COLORS, SIZE), times)))
    assert np.quantile(off, 0.9) <= 6
    assert np.quantile(off, 0.99) <= 40


@pytest.mark.parametrize("times", [1, 1.5, 2, 3])
def test_a_photograph_in_it_stays(times: float) -> None:
    before = handed_on(with_view(harbor({}, SIZE)), times)
    document = opened(before)
    view = round(100 * times)
    assert document.photograph()[:view, :view].mean() > 0.9
    assert 0.05 < document.photograph().mean() < 0.3
    made = pixels(document.write(Changes(Recoloring(wanted_of(document)))))
    assert (made[:view, :view] == np.asarray(before)[:view, :view]).mean() > 0.9


def test_what_was_drawn_and_never_coded_is_taken_as_exactly_as_it_is() -> None:
    whole, faint = harbor({}, SIZE), (250, 250, 247)
    whole.paste((253, 253, 250), (300, 10, 380, 60))
    whole.paste(faint, (310, 20, 340, 50))
    document = opened(whole)
    assert {(one.r, one.g, one.b) for one in document.paints} >= {(253, 253, 250), faint}


@pytest.mark.parametrize("quality", [60, 75, 90])
def test_a_small_thing_is_one_paint_however_coarse_its_color_is_kept(quality: int) -> None:
    """A disc that covers little, with letters and lines over it, on grey: coding made up to four blues of its one."""
    disc, ring, paper = (1, 132, 205), (99, 89, 148), (211, 211, 211)
    picture = Image.new("RGB", SIZE, paper)
    pen = ImageDraw.Draw(picture)
    for at in range(6):
        pen.ellipse((60 + 60 * at, 80, 92 + 60 * at, 112), fill=disc, outline=ring, width=4)
        pen.line((76 + 60 * at, 60, 76 + 60 * at, 96), fill=ring, width=5)
    coded = io.BytesIO()
    picture.save(coded, "JPEG", quality=quality)
    document = read("a.jpg", coded.getvalue())
    blues = [one for one in document.inventory().paints if one.b - one.r > 150]
    assert len(blues) == 1, blues
