"""Decoded pictures are kept while they are looked at, within their bound, by however many ask at once."""

from __future__ import annotations

from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from io import BytesIO
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from pavese.core.color.extract import Finding
from pavese.core.color.srgb import Rgb
from pavese.core.errors import RefusedFileError
from pavese.core.formats.intake import Came
from pavese.core.gather.source import Source, SourceKind, SourcePicture
from pavese.core.recolor.pointed import Region
from pavese.render.pixels import PixelCache
from pavese.render.pointed import found_again
from pavese.render.pool import DrawingPool
from pavese.settings import Settings


@pytest.fixture(scope="module")
def pool(app_settings: Settings) -> Iterator[DrawingPool]:
    children = DrawingPool(2, app_settings.fonts_dir)
    yield children
    children.close()


def encoded(side: int, level: int = 0) -> bytes:
    out = BytesIO()
    Image.new("RGB", (side, side), (level, level, level)).save(out, "PNG")
    return out.getvalue()


def test_a_picture_is_made_once_and_the_one_used_longest_ago_goes_first(pool: DrawingPool) -> None:
    made: list[str] = []

    def data(name: str) -> bytes:
        made.append(name)
        return encoded(512)

    # 512 x 512 x 4 bytes is one megabyte.
    cache = PixelCache(pool, megabytes=3)
    held = {name: cache.picture(name, lambda name=name: data(name)) for name in ("a", "b", "c", "a", "d")}
    assert made == ["a", "b", "c", "d"]
    assert not Path(held["b"].path).exists(), "what is not kept leaves no file"
    cache.picture("a", lambda: data("a"))
    cache.picture("b", lambda: data("b"))
    assert made == ["a", "b", "c", "d", "b"]
    cache.close()
    assert not Path(held["a"].path).exists()


def test_many_at_once_get_the_right_picture_and_it_is_decoded_once(pool: DrawingPool) -> None:
    cache = PixelCache(pool, megabytes=200)
    decoded: list[int] = []

    def data(name: int) -> bytes:
        decoded.append(name)
        return encoded(256, name)

    def ask(n: int) -> bool:
        name = n % 7
        return int(cache.picture(str(name), lambda: data(name)).pixels[3, 3, 1]) == name

    with ThreadPoolExecutor(8) as threads:
        assert all(threads.map(ask, range(200)))
    assert sorted(decoded) == [*range(7)]
    cache.close()


def test_what_is_done_with_a_picture_is_done_where_it_lies(pool: DrawingPool) -> None:
    cache = PixelCache(pool)
    teal = cache.picture("teal", lambda: _colored((11, 94, 107)))
    red = cache.picture("red", lambda: _colored((210, 69, 45)))
    assert (teal.rows, teal.columns) == (60, 90)
    assert not teal.pixels.flags.writeable
    pictures = (
        SourcePicture(id=name, name=name, digest=name, original=name, width=90, height=60) for name in ("a", "b")
    )
    source = Source(kind=SourceKind.BOARD, name="both", pictures=tuple(pictures))
    board = cache.board("both", lambda: [teal, red], source)
    left, right = source.places()[0]
    assert tuple(board.pixels[left.y + 50, left.x + 50]) == (11, 94, 107, 255)
    assert tuple(board.pixels[right.y + 50, right.x + 50]) == (210, 69, 45, 255)
    assert [found.color for found in cache.colors(board, Finding(3))] == [Rgb(11, 94, 107), Rgb(210, 69, 45)]
    shown, kind = cache.shown(teal, 30)
    assert kind == "image/jpeg"
    assert Image.open(BytesIO(shown)).size == (30, 20)
    white = np.asarray(Image.open(BytesIO(cache.on_white(board))))
    assert tuple(white[99, -1]) == (255, 255, 255)
    with pytest.raises(RefusedFileError, match="broken"):
        cache.picture("broken", lambda: b"\x89PNG\r\n\x1a\n")
    cache.close()


def _colored(color: tuple[int, int, int]) -> bytes:
    out = BytesIO()
    Image.new("RGB", (90, 60), color).save(out, "PNG")
    return out.getvalue()


def test_a_picture_that_cannot_be_read_leaves_the_others_be_when_a_part_is_looked_for(pool: DrawingPool) -> None:
    drawn = np.full((120, 160, 3), 230, dtype=np.uint8)
    drawn[30:60, 40:80], drawn[40:50, 50:70] = (20, 90, 120), (240, 180, 40)
    out = BytesIO()
    Image.fromarray(drawn).save(out, "PNG")
    whole, cut = Came("whole.png", out.getvalue()), Came("cut.png", out.getvalue()[:90])
    region = Region(left=0.2, top=0.2, width=0.35, height=0.35)
    first, second, third = found_again(pool, whole, region, [cut, whole, Came("plain.png", encoded(100))])
    assert first.found is None
    assert "cut.png" in first.failed
    assert second.found is not None
    assert (second.found.left, second.found.top) == pytest.approx((0.2, 0.2), abs=0.02)
    assert (third.found, third.failed) == (None, "")
