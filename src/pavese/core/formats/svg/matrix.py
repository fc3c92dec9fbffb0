"""Color matrices that are a plain color: whatever comes in, its shape goes out in one color, as drop shadows do.

Filter Effects 1, section 9.6 (`feColorMatrix`): of the 20 numbers, 5, 10 and 15 are what is added to red, green and
blue; where the other numbers of these rows are 0, they are the color. Section 10: it is in linearized sRGB unless
`color-interpolation-filters` says sRGB.
"""

from __future__ import annotations

import re
from bisect import bisect_left
from functools import lru_cache

from pavese.core.color.srgb import LINEAR, Rgb, Rgba
from pavese.core.formats.xml_source import Element

_NUMBER = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?")
_COLOR_AT = (4, 9, 14)
_MULTIPLIED = (0, 1, 2, 3, 5, 6, 7, 8, 10, 11, 12, 13)
_STYLED = re.compile(r"color-interpolation-filters\s*:\s*(\w+)", re.IGNORECASE)


def is_linear(element: Element) -> bool:
    """Whether a filter computes in linearized sRGB there; what a sheet says of it is not looked for."""
    at: Element | None = element
    while at is not None:
        styled = _STYLED.search(at.attributes.get("style", ""))
        said = styled[1] if styled else at.attributes.get("color-interpolation-filters", "inherit")
        if said.lower() in ("srgb", "linearrgb", "auto"):
            return said.lower() != "srgb"
        at = at.parent
    return True


def computes(values: str) -> bool:
    """Whether a matrix makes colors from colors, so that nobody can say beforehand what will be seen."""
    numbers = _numbers(values)
    return len(numbers) != 20 or any(numbers[at] for at in (*_MULTIPLIED, 15, 16, 17))


def matrix_color(values: str, *, linear: bool) -> Rgba | None:
    """The color that a matrix gives to everything, its alpha that of an opaque input; None when it computes.

    A matrix that multiplies alpha by more than 1 hardens a shape for the next step of its filter: it shows no color.
    """
    if computes(values):
        return None
    numbers = _numbers(values)
    alpha = numbers[18] + numbers[19]
    if numbers[18] > 1 or not 0 < alpha <= 1:
        return None
    red, green, blue = (_level(numbers[at], linear) for at in _COLOR_AT)
    return Rgba(red, green, blue, alpha)


def with_matrix_color(values: str, color: Rgb, *, linear: bool) -> str:
    """The matrix giving another color; every other number keeps its text."""
    parts, end = [], 0
    for at, found in enumerate(_NUMBER.finditer(values)):
        parts.append(values[end : found.start()])
        end = found.end()
        if at not in _COLOR_AT:
            parts.append(found[0])
            continue
        channel = color[_COLOR_AT.index(at)]
        # A number may end where the next begins with its sign or dot: what is put here is set apart from what was.
        gap = "" if parts[-1] else " "
        parts.append(f"{gap}{LINEAR[channel] if linear else channel / 255:.7g}")
        if end < len(values) and values[end] not in " \t\r\n,":
            parts.append(" ")
    return "".join(parts) + values[end:]


@lru_cache(maxsize=1024)
def _numbers(values: str) -> tuple[float, ...]:
    return tuple(float(found[0]) for found in _NUMBER.finditer(values))


def _level(value: float, linear: bool) -> int:
    """The nearest of the 256 levels of a channel."""
    value = min(max(value, 0.0), 1.0)
    if not linear:
        return round(value * 255)
    above = min(bisect_left(LINEAR, value), 255)
    return min((max(above - 1, 0), above), key=lambda level: abs(LINEAR[level] - value))
