"""The value of a color token as a color.

Design Tokens Community Group, color module: https://www.designtokens.org/tr/drafts/color/ . A value is CSS text, as
older files have it, or a color space with its components; colors outside sRGB are mapped as in `gamut`.
"""

from __future__ import annotations

from typing import Any, NamedTuple

from coloraide import Color

from pavese.core.color.parse import bounded, try_color
from pavese.core.color.srgb import Rgba

#: Spaces with a CSS function of their own, and those in which the second and third component are percents.
_FUNCTIONS = frozenset(("hsl", "hwb", "lab", "lch", "oklab", "oklch"))
_PERCENTS = frozenset(("hsl", "hwb"))
#: How far a channel (0 to 1) may be beyond sRGB by mere rounding.
_SLIGHT = 0.002


class TokenColor(NamedTuple):
    """A token's color in sRGB, the code that says it, and whether it lies outside sRGB."""

    color: Rgba
    code: str
    outside: bool


def token_color(value: Any) -> TokenColor | None:
    """The color of a token's value; None for an alias and for what is no color."""
    if isinstance(value, str):
        return _read(value)
    if not isinstance(value, dict):
        return None
    components, hex_ = value.get("components"), str(value.get("hex", ""))
    if isinstance(components, list) and len(components) == 3 and all(map(_is_part, components)):
        text = _css(str(value.get("colorSpace", "srgb")), components, value.get("alpha", 1))
        read = _read(text)
        if read is not None:
            return read._replace(code=hex_ or read.code)
    return _read(hex_)


def _css(space: str, components: list[Any], alpha: Any) -> str:
    parts = [part if part == "none" else f"{part:.10g}" for part in components]
    if space in _PERCENTS:
        parts[1:] = [part if part == "none" else f"{part}%" for part in parts[1:]]
    inner = " ".join(parts) + (f" / {alpha:.6g}" if _is_part(alpha) and alpha not in (1, "none") else "")
    return f"{space}({inner})" if space in _FUNCTIONS else f"color({space} {inner})"


def _read(text: str) -> TokenColor | None:
    color = try_color(text)
    return None if color is None else TokenColor(color, text, _outside(text))


def _outside(text: str) -> bool:
    if text.startswith("#"):
        return False
    try:
        return not bounded(Color(text)).convert("srgb").in_gamut(tolerance=_SLIGHT)
    except ValueError:
        return False


def _is_part(part: Any) -> bool:
    return part == "none" or (isinstance(part, int | float) and not isinstance(part, bool))
