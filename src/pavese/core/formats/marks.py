"""Colors that stand for places: where an engine computes one of them, it tells the place that it comes from."""

from __future__ import annotations

from pavese.core.color.srgb import Rgb

#: Above what browsers paint by themselves in dark (black, the blue of links), below white.
_FIRST = 0x100000
#: So many places can be told from each other; more of a file are not followed.
MOST_MARKS = 0xC00000


#: What a picture bears by its number, where marks are shown.
PICTURE = "data-picture"


def mark(number: int) -> Rgb:
    """The color that stands for a place, by its number."""
    code = _FIRST + number % MOST_MARKS
    return Rgb(code >> 16, code >> 8 & 255, code & 255)


def marked(color: Rgb, count: int) -> int | None:
    """The number of the place, of so many, that a color stands for; None for a color of no place."""
    number = (color.r << 16 | color.g << 8 | color.b) - _FIRST
    return number if 0 <= number < count else None


#: Odd, so that no two of 2^24 numbers give one color; far from small, so that neighbors lie far apart.
_SPREAD, _START = 0x9E3779B1, 0x3C6EF3
_ALL = 0x1000000


def scattered(number: int) -> Rgb:
    """A color that stands for a place where things are seen through others: no mixture of two is likely a third."""
    code = (number * _SPREAD + _START) % _ALL
    return Rgb(code >> 16, code >> 8 & 255, code & 255)
