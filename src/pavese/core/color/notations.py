"""A color in the numbers people write it with: hex, RGB, HSL, HSB, OKLCH, and back.

HSL: CSS Color 4, section 7. HSB (also HSV): Smith (1978), "Color gamut transform pairs". OKLCH: CSS Color 4, section 9.
CMYK is read naively, as 1 minus ink times 1 minus black, with no profile: a hint of a print color, not a match.

Brand manuals write numbers without brackets: `RGB 11 110 79`, `CMYK 90/0/28/57`, `R11 G110 B79`, `0x0B6E4F`; these are
read alike, see `MANUAL`.
"""

from __future__ import annotations

import colorsys
import re

from pavese.core.color.oklab import lch_of
from pavese.core.color.srgb import ALPHA_DIGITS, Rgb, Rgba, parse_hex

_NUMBER = r"([+-]?(?:\d+\.?\d*|\.\d+))(?:%|deg|°)?"
_BETWEEN = r"(?:\s*,\s*|\s+)"
_LETTERS = re.compile(
    rf"(hsb|hsv|cmyk)\s*\(\s*{_BETWEEN.join([_NUMBER] * 3)}(?:{_BETWEEN}{_NUMBER})?\s*\)", re.IGNORECASE
)
_VALUE = r"[+-]?(?:\d+(?:\.\d+)?|\.\d+)(?:\s?[%°])?"


def _behind_letters(kind: str) -> str:
    return r"\s{0,3}[,/|;]?\s{0,3}".join(rf"{letter}\s{{0,3}}[:=]?\s{{0,3}}{_VALUE}" for letter in kind)


_NUMBERS = rf"{_VALUE}(?:(?:\s{{0,3}}[,/|]\s{{0,3}}|\s{{1,3}}){_VALUE}){{0,5}}"
#: A word for the notation and its numbers, or each number behind its letter.
MANUAL = re.compile(
    rf"""
    \b(?P<word>rgb|cmyk|hs[bvl])\b\s{{0,3}}[:=]?\s{{0,3}}(?P<numbers>{_NUMBERS})(?![\w%°(])
  | \b(?P<letters>{"|".join(_behind_letters(kind) for kind in ("rgb", "cmyk", "hsb", "hsv", "hsl"))})(?![\w%°])
  | \b0x(?P<hexadecimal>[0-9a-f]+)\b
    """,
    re.VERBOSE | re.IGNORECASE,
)
_MOST = {"rgb": (255, 255, 255), "cmyk": (100, 100, 100, 100)} | dict.fromkeys(("hsb", "hsv", "hsl"), (360, 100, 100))
_PART = r"([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)(%?)"
_DEVICE = re.compile(rf"device-cmyk\( ?{' '.join([_PART] * 4)}(?: ?/ ?{_PART})? ?\)")
_DEVICE_OLD = re.compile(rf"device-cmyk\( ?{' ?, ?'.join([_PART] * 4)} ?\)")


def notations(color: Rgb) -> dict[str, str]:
    """The notations by name; every one of them is read back to this very color."""
    r, g, b = (channel / 255 for channel in color)
    hue, light, saturation = colorsys.rgb_to_hls(r, g, b)
    hue_b, saturation_b, bright = colorsys.rgb_to_hsv(r, g, b)
    lightness, chroma, angle = lch_of(color)
    return {
        "hex": color.hex,
        "RGB": f"rgb({color.r} {color.g} {color.b})",
        "HSL": f"hsl({hue * 360:.1f} {saturation * 100:.1f}% {light * 100:.1f}%)",
        "HSB": f"hsb({hue_b * 360:.1f} {saturation_b * 100:.1f}% {bright * 100:.1f}%)",
        "OKLCH": f"oklch({lightness:.5f} {chroma:.5f} {angle:.2f})",
    }


def read_print_letters(text: str) -> Rgb | None:
    """`hsb(…)`, `hsv(…)` or `cmyk(…)` (degrees and percents) as a color; None for any other text."""
    match = _LETTERS.fullmatch(text.strip())
    if match is None:
        return None
    kind, values = match[1].lower(), [float(value) for value in match.groups()[1:] if value is not None]
    if kind == "cmyk":
        if len(values) != 4:
            return None
        *inks, black = (min(max(value / 100, 0.0), 1.0) for value in values)
        return Rgb(*(round(255 * (1 - ink) * (1 - black)) for ink in inks))
    if len(values) != 3:
        return None
    hue, saturation, bright = values
    parts = colorsys.hsv_to_rgb(hue % 360 / 360, *(min(max(v / 100, 0.0), 1.0) for v in (saturation, bright)))
    return Rgb(*(round(part * 255) for part in parts))


def read_manual(text: str) -> Rgb | str | None:
    """A color as brand manuals write it; a reason where it is written so and is none; None for any other text."""
    match = MANUAL.fullmatch(text.strip())
    if match is None:
        return None
    if (digits := match["hexadecimal"]) is not None:
        color = parse_hex(f"#{digits}") if len(digits) == 6 else None
        return color.rgb if color else f"0x is followed by 6 digits in a color, here by {len(digits)}"
    if match["word"]:
        kind, written = match["word"].lower(), re.findall(_VALUE, match["numbers"])
    else:
        pairs = re.findall(rf"([a-z])\s*[:=]?\s*({_VALUE})", match["letters"], re.IGNORECASE)
        kind, written = "".join(letter for letter, _ in pairs).lower(), [value for _, value in pairs]
    most = _MOST[kind]
    values = [float(value.rstrip("%° ")) for value in written]
    if len(values) != len(most):
        return f"{kind.upper()} has {len(most)} numbers, here are {len(values)}"
    if kind == "rgb" and all("%" in value for value in written):
        values = [value * 2.55 for value in values]
    for letter, value, bound in zip(kind.upper(), values, most, strict=True):
        if not 0 <= value <= bound:
            return f"{letter} is 0 to {bound}, here {value:g}"
    if kind == "rgb":
        return Rgb(*(round(value) for value in values))
    if kind == "hsl":
        hue, saturation, light = values
        return Rgb(*(round(255 * part) for part in colorsys.hls_to_rgb(hue % 360 / 360, light / 100, saturation / 100)))
    return read_print_letters(f"{kind}({' '.join(f'{value:g}' for value in values)})")


def read_device_cmyk(text: str) -> Rgba | None:
    """`device-cmyk(…)` (CSS Color 5, section 11, parts of 1 or percents), lower case with single spaces; else None.

    The older notation with commas has numbers only.
    """
    old = _DEVICE_OLD.fullmatch(text)
    match = old or _DEVICE.fullmatch(text)
    if match is None or (old is not None and any(old.groups()[1::2])):
        return None
    given = [
        min(max(float(number) / (100 if percent else 1), 0.0), 1.0)
        for number, percent in zip(match.groups()[::2], match.groups()[1::2], strict=True)
        if number is not None
    ]
    *inks, black = given[:4]
    alpha = round(given[4], ALPHA_DIGITS) if len(given) > 4 else 1.0
    return Rgba(*Rgb(*(round(255 * (1 - ink) * (1 - black)) for ink in inks)), alpha)
