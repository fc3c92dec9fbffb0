"""See-through equals: the least opaque color that looks like a given one over a known ground.

Compositing of a single layer over an opaque ground (W3C Compositing and Blending 1, section 5.1, "source over"), each
channel rounded half up to 8 bits. Alpha is in whole percents, as people write it.
"""

from __future__ import annotations

import colorsys
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache

from pavese.core.color.srgb import Rgb


@dataclass(frozen=True)
class SeeThroughColor:
    """An 8-bit color and its alpha in whole percents, 0 to 100."""

    color: Rgb
    alpha: int

    @property
    def hex(self) -> str:
        """`#rrggbbaa`; its alpha is one of 256 levels, see `hex_over`."""
        return f"{self.color.hex}{_level(self.alpha):02x}"

    @property
    def rgb(self) -> str:
        """`rgb(r g b / a%)`."""
        return f"rgb({self.color.r} {self.color.g} {self.color.b} / {self.alpha}%)"

    @property
    def hsl(self) -> str:
        """`hsl(h s% l% / a%)`, in as many digits as give the same 8-bit color again."""
        hue, light, saturation = colorsys.rgb_to_hls(*(channel / 255 for channel in self.color))
        return f"hsl({hue * 360:.1f} {saturation * 100:.1f}% {light * 100:.1f}% / {self.alpha}%)"

    def over(self, ground: Rgb) -> Rgb:
        """What is seen over an opaque ground."""
        return Rgb(*(_seen(f, b, self.alpha, 100) for f, b in zip(self.color, ground, strict=True)))

    def hex_over(self, ground: Rgb) -> Rgb:
        """What is seen over a ground when the color is written as `#rrggbbaa`, whose alpha is in 255ths."""
        level = _level(self.alpha)
        return Rgb(*(_seen(f, b, level, 255) for f, b in zip(self.color, ground, strict=True)))


def mixed(rest: Sequence[float], shares: Iterable[tuple[float, Rgb]]) -> Rgb:
    """What colors give by their shares, added channel by channel to what is there without them (in 255ths)."""
    channels = list(rest)
    for share, color in shares:
        channels = [channel + share * own for channel, own in zip(channels, color, strict=True)]
    return Rgb(*(round(min(max(channel, 0.0), 255.0)) for channel in channels))


@lru_cache(maxsize=65536)
def see_through_equal(color: Rgb, ground: Rgb) -> SeeThroughColor:
    """The least alpha for which an 8-bit color exists that over the ground gives exactly `color`, and that color.

    Of several such colors the one is taken that is also exact when written as `#rrggbbaa`, where there is one, and
    of those the one in the middle. A color equal to its ground needs no layer at all: alpha 0.

    >>> see_through_equal(Rgb(230, 230, 230), Rgb(255, 255, 255)).rgb
    'rgb(5 5 5 / 10%)'
    """
    if color == ground:
        return SeeThroughColor(color, 0)
    for alpha in range(1, 101):
        channels = [_sources(c, b, alpha) for c, b in zip(color, ground, strict=True)]
        if all(channels):
            picked = [_picked(found, c, b, _level(alpha)) for found, c, b in zip(channels, color, ground, strict=True)]
            return SeeThroughColor(Rgb(*picked), alpha)
    raise AssertionError("at 100 % the color itself is the answer")


def _sources(seen: int, ground: int, alpha: int) -> range:
    """The channel values that at this alpha (percent) over the ground channel round to the one that is to be seen.

    `_seen(f) == seen` is `2 * seen - 1 <= 2 * (f * alpha + ground * (100 - alpha)) / 100 < 2 * seen + 1`.
    """
    behind = ground * (100 - alpha)
    least = -((-(100 * seen - 50 - behind)) // alpha)
    most = -((-(100 * seen + 50 - behind)) // alpha) - 1
    return range(max(least, 0), min(most, 255) + 1)


def _picked(found: range, seen: int, ground: int, level: int) -> int:
    middle = (found[0] + found[-1]) / 2
    return min(found, key=lambda f: (abs(_seen(f, ground, level, 255) - seen), abs(f - middle), f))


def _seen(channel: int, ground: int, part: int, whole: int) -> int:
    """The channel composited at part/whole, rounded half up."""
    return (2 * (channel * part + ground * (whole - part)) + whole) // (2 * whole)


def _level(alpha: int) -> int:
    return (2 * alpha * 255 + 100) // 200
