"""Colors made from others by the transforms that office documents know.

ISO/IEC 29500-1, 20.1.2.3 (`tint`, `shade`, `lumMod` and their like): shares of lightness, saturation and hue are taken
in HSL, `tint`, `shade`, `red`, `green`, `blue`, `gray`, `inv` and `comp` as the standard says; tints and shades mix in
linear light, which is how programs show them. Alpha is apart.
"""

from __future__ import annotations

import colorsys
from collections.abc import Callable, Iterable
from functools import lru_cache
from typing import NamedTuple

from pavese.core.color.srgb import ALPHA_DIGITS, LINEAR, Rgb, Rgba

#: Red, green and blue, each 0 to 1, with the transfer curve of sRGB.
Channels = tuple[float, float, float]
#: Shares are in thousandths of a percent, angles in 60,000ths of a degree.
_WHOLE, _DEGREE = 100_000, 60_000
_TURN = 360 * _DEGREE
_ALPHA = frozenset(("alpha", "alphaMod", "alphaOff"))
#: A theme has few colors, and what styles make of them is asked for by every text and every plan.
_REMEMBERED = 1 << 14
#: The values of transforms that change nothing, by how their names end.
_NEUTRAL = {"Off": 0, "Mod": _WHOLE}


class Transform(NamedTuple):
    """One transform by its name in the standard, and its value as it is written there."""

    name: str
    value: int = 0


def derived(base: Rgb, transforms: Iterable[Transform]) -> Rgba:
    """What becomes of a color by transforms in their order; those that are not known leave it as it is."""
    return _derived(base, tuple(transforms))


@lru_cache(maxsize=_REMEMBERED)
def _derived(base: Rgb, transforms: tuple[Transform, ...]) -> Rgba:
    channels: Channels = (base.r / 255, base.g / 255, base.b / 255)
    alpha = 1.0
    for name, value in transforms:
        share = value / _WHOLE
        if name == "alpha":
            alpha = share
        elif name == "alphaMod":
            alpha *= share
        elif name == "alphaOff":
            alpha += share
        elif name in _TRANSFORMS:
            channels = _within(_TRANSFORMS[name](channels, value))
    r, g, b = (round(channel * 255) for channel in channels)
    return Rgba(r, g, b, round(min(max(alpha, 0.0), 1.0), ALPHA_DIGITS))


def is_alpha(transform: Transform) -> bool:
    """Whether a transform says only how see-through a color is."""
    return transform.name in _ALPHA


def turning(transforms: Iterable[Transform]) -> tuple[Transform, ...]:
    """Those of some transforms that change the color itself."""
    return tuple(one for one in transforms if not is_alpha(one) and _NEUTRAL.get(one.name[-3:]) != one.value)


def encoded(linear: float) -> float:
    """A channel of linear light (0 to 1) with the transfer curve of sRGB (IEC 61966-2-1)."""
    linear = min(max(linear, 0.0), 1.0)
    return 12.92 * linear if linear <= 0.0031308 else 1.055 * linear ** (1 / 2.4) - 0.055


def from_hsl(hue: float, saturation: float, lightness: float) -> Rgb:
    """A color from hue (degrees), saturation and lightness (0 to 1)."""
    r, g, b = colorsys.hls_to_rgb(hue / 360 % 1, min(max(lightness, 0), 1), min(max(saturation, 0), 1))
    return Rgb(round(r * 255), round(g * 255), round(b * 255))


def _within(channels: Channels) -> Channels:
    r, g, b = (min(max(channel, 0.0), 1.0) for channel in channels)
    return r, g, b


def _linear(channel: float) -> float:
    return LINEAR[round(channel * 255)]


def _in_light(change: Callable[[float, float], float]) -> Callable[[Channels, int], Channels]:
    """A change of each channel by a share, in linear light."""

    def made(channels: Channels, value: int) -> Channels:
        r, g, b = (encoded(change(_linear(channel), value / _WHOLE)) for channel in channels)
        return r, g, b

    return made


def _in_hsl(at: int, change: Callable[[float, int], float]) -> Callable[[Channels, int], Channels]:
    """A change of hue (0, in turns), lightness (1) or saturation (2)."""

    def made(channels: Channels, value: int) -> Channels:
        hls = list(colorsys.rgb_to_hls(*channels))
        hls[at] = change(hls[at], value)
        hue, lightness, saturation = hls
        return colorsys.hls_to_rgb(hue % 1, min(max(lightness, 0.0), 1.0), min(max(saturation, 0.0), 1.0))

    return made


def _in_channel(at: int, change: Callable[[float, float], float]) -> Callable[[Channels, int], Channels]:
    """A change of red (0), green (1) or blue (2) by a share, in linear light."""

    def made(channels: Channels, value: int) -> Channels:
        changed = list(channels)
        changed[at] = encoded(change(_linear(changed[at]), value / _WHOLE))
        return changed[0], changed[1], changed[2]

    return made


def _gray(channels: Channels, _: int) -> Channels:
    # Luminance by the weights of ITU-R BT.709.
    r, g, b = map(_linear, channels)
    shade = encoded(0.2126 * r + 0.7152 * g + 0.0722 * b)
    return shade, shade, shade


def _gamma(channels: Channels, _: int) -> Channels:
    r, g, b = map(encoded, channels)
    return r, g, b


def _inverse_gamma(channels: Channels, _: int) -> Channels:
    r, g, b = map(_linear, channels)
    return r, g, b


_TRANSFORMS: dict[str, Callable[[Channels, int], Channels]] = {
    "tint": _in_light(lambda channel, share: channel * share + 1 - share),
    "shade": _in_light(lambda channel, share: channel * share),
    "inv": _in_light(lambda channel, _: 1 - channel),
    "gray": _gray,
    "gamma": _gamma,
    "invGamma": _inverse_gamma,
    "comp": _in_hsl(0, lambda hue, _: hue + 0.5),
    "hue": _in_hsl(0, lambda _, value: value / _TURN),
    "hueMod": _in_hsl(0, lambda hue, value: hue * value / _WHOLE),
    "hueOff": _in_hsl(0, lambda hue, value: hue + value / _TURN),
    "lum": _in_hsl(1, lambda _, value: value / _WHOLE),
    "lumMod": _in_hsl(1, lambda lightness, value: lightness * value / _WHOLE),
    "lumOff": _in_hsl(1, lambda lightness, value: lightness + value / _WHOLE),
    "sat": _in_hsl(2, lambda _, value: value / _WHOLE),
    "satMod": _in_hsl(2, lambda saturation, value: saturation * value / _WHOLE),
    "satOff": _in_hsl(2, lambda saturation, value: saturation + value / _WHOLE),
    **{
        f"{channel}{how}": _in_channel(at, change)
        for at, channel in enumerate(("red", "green", "blue"))
        for how, change in (
            ("", lambda _, share: share),
            ("Mod", lambda light, share: light * share),
            ("Off", lambda light, share: light + share),
        )
    },
}
