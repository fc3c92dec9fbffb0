"""Decoded pictures are kept while they are looked at, within their bound, by however many ask at once."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor

import numpy as np

from pavese.core.color.extract import Pixels
from pavese.render.pixels import PixelCache


def picture(side: int, level: int = 0) -> Pixels:
    return np.full((side, side, 4), level, dtype=np.uint8)


def test_a_picture_is_made_once_and_the_one_used_longest_ago_goes_first() -> None:
    made: list[str] = []

    def make(name: str, side: int = 512) -> Pixels:
        made.append(name)
        return picture(side)

    # 512 x 512 x 4 bytes is one megabyte.
    cache = PixelCache(megabytes=3)
    for name in ("a", "b", "c", "a", "d"):
        cache.get(name, lambda name=name: make(name))
    assert made == ["a", "b", "c", "d"]
    cache.get("a", lambda: make("a"))
    cache.get("b", lambda: make("b"))
    assert made == ["a", "b", "c", "d", "b"]


def test_one_that_is_larger_than_the_whole_cache_is_given_and_not_kept() -> None:
    cache = PixelCache(megabytes=1)
    count = 0

    def large() -> Pixels:
        nonlocal count
        count += 1
        return picture(1024)

    assert cache.get("large", large).shape == (1024, 1024, 4)
    cache.get("large", large)
    assert count == 2
    assert cache.get("small", lambda: picture(8, 7))[0, 0, 0] == 7


def test_many_at_once_get_the_right_picture() -> None:
    cache = PixelCache(megabytes=2)

    def ask(n: int) -> bool:
        name = n % 7
        return int(cache.get(str(name), lambda: picture(256, name))[3, 3, 1]) == name

    with ThreadPoolExecutor(8) as pool:
        assert all(pool.map(ask, range(400)))
