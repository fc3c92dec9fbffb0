"""Colors as files hold them: sRGB with 8 bits a channel, and an alpha where a paint has one.

IEC 61966-2-1 transfer function as given in CSS Color 4, section 10.2: https://www.w3.org/TR/css-color-4/#predefined-sRGB
"""

from __future__ import annotations

import re
from functools import lru_cache
from typing import NamedTuple

from pavese.core.errors import UnreadableColorError

#: Alpha is held to this many digits: finer than 8 bits, and short enough to be the same in every notation.
ALPHA_DIGITS = 4


class Rgb(NamedTuple):
    """An opaque sRGB color; each channel is 0 to 255."""

    r: int
    g: int
    b: int

    @property
    def hex(self) -> str:
        """`#rrggbb`, lower case."""
        return f"#{self.r:02x}{self.g:02x}{self.b:02x}"


class Rgba(NamedTuple):
    """An sRGB color with alpha; channels 0 to 255, alpha 0 to 1."""

    r: int
    g: int
    b: int
    alpha: float = 1.0

    @property
    def rgb(self) -> Rgb:
        """The color without its alpha."""
        return Rgb(self.r, self.g, self.b)

    def over(self, ground: Rgb) -> Rgb:
        """What is seen over an opaque ground."""
        return Rgb(*(round(a * self.alpha + b * (1 - self.alpha)) for a, b in zip(self.rgb, ground, strict=True)))

    @property
    def css(self) -> str:
        """`#rrggbb`, or `#rrggbbaa` where not opaque."""
        return self.rgb.hex if self.alpha >= 1 else f"{self.rgb.hex}{round(self.alpha * 255):02x}"

    @property
    def key(self) -> str:
        """A name for this paint in plans and addresses: `#rrggbb`, with `/alpha` behind it where not opaque."""
        return self.rgb.hex if self.alpha >= 1 else f"{self.rgb.hex}/{self.alpha:g}"


_HEX = re.compile(r"#([0-9a-fA-F]{3}|[0-9a-fA-F]{4}|[0-9a-fA-F]{6}|[0-9a-fA-F]{8})")
_KEY = re.compile(r"#([0-9a-f]{6})(?:/(0|0?\.\d+|\d(?:\.\d+)?e-\d+|1))?")


def parse_hex(text: str) -> Rgba | None:
    """`#rgb`, `#rgba`, `#rrggbb` or `#rrggbbaa` as a color; None for any other text."""
    if not _HEX.fullmatch(text):
        return None
    digits = text[1:]
    if len(digits) <= 4:
        digits = "".join(d + d for d in digits)
    r, g, b = (int(digits[i : i + 2], 16) for i in (0, 2, 4))
    return Rgba(r, g, b, round(int(digits[6:], 16) / 255, ALPHA_DIGITS) if len(digits) == 8 else 1.0)


@lru_cache(maxsize=8192)
def parse_key(key: str) -> Rgba:
    """The paint that `Rgba.key` named. Raises UnreadableColorError for any other text."""
    match = _KEY.fullmatch(key)
    color = parse_hex(f"#{match[1]}") if match else None
    if match is None or color is None:
        raise UnreadableColorError(f"“{key[:40]}” is no paint key; one reads #rrggbb or #rrggbb/0.5.")
    return color if match[2] is None else color._replace(alpha=float(match[2]))


def _decode(channel: int) -> float:
    value = channel / 255
    return value / 12.92 if value <= 0.04045 else ((value + 0.055) / 1.055) ** 2.4


#: Linear light (0 to 1) of each of the 256 channel values.
LINEAR: tuple[float, ...] = tuple(_decode(channel) for channel in range(256))
