"""Where a paint can go: tokens of the kit wherever possible, so that a plan follows the kit when it changes.

Written as text: `keep`; a token (`deep-water.600`); a literal color (`#0b5e6b`); a shade between the steps of a ramp
(`deep-water~5.25`, in steps from 0 to 10, with `*0.3` behind it for a part of its chroma); or a blend of two tokens
(`hull.base+fog.base~0.35`, the share of the second).
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import lru_cache
from typing import Annotated

import numpy as np
from pydantic import Field

from pavese.core.color.gamut import to_rgb
from pavese.core.color.oklab import lch_of, oklab_of, to_oklch
from pavese.core.color.ramp import STEPS, Ramp
from pavese.core.color.srgb import Rgb, parse_hex
from pavese.core.errors import InvalidKitError, InvalidPlanError
from pavese.core.kit.kit import Kit
from pavese.core.kit.token import Token, parse_token

KEEP = "keep"

#: A target as it is written.
TargetText = Annotated[str, Field(max_length=260)]

_SHADE = re.compile(r"([a-z0-9-]+)~(\d{1,2}(?:\.\d{1,3})?)(?:\*(\d(?:\.\d{1,3})?))?")
_BLEND = re.compile(r"([a-z0-9-]+\.\w+)\+([a-z0-9-]+\.\w+)~(\d(?:\.\d{1,3})?)")


def shade(color: str, position: float, chroma: float = 1.0) -> str:
    """The target for a shade of a ramp; a whole position with all its chroma is that step itself."""
    place = min(max(round(position, 2), 0.0), float(len(STEPS) - 1))
    if chroma == 1 and place == int(place):
        return f"{color}.{STEPS[int(place)]}"
    return f"{color}~{place:g}" + (f"*{chroma:.3g}" if chroma != 1 else "")


def blend(dark: Token, light: Token, share: float) -> str:
    """The target for a blend, `share` (0 to 1) of it the light one."""
    return f"{dark}+{light}~{round(share, 3):g}"


def resolve_target(target: str, kit: Kit) -> Rgb | None:
    """The color a target stands for, None for `keep`. Raises InvalidPlanError for what the kit does not have."""
    if target == KEEP:
        return None
    literal = parse_hex(target)
    if literal is not None:
        return literal.rgb
    try:
        if match := _SHADE.fullmatch(target):
            position, chroma = float(match[2]), float(match[3] or 1)
            if position > len(STEPS) - 1 or chroma > 1:
                raise InvalidPlanError(f"“{target[:60]}” lies beyond the ramp.")
            return _between(kit.color(match[1]).ramp, position, chroma)
        if match := _BLEND.fullmatch(target):
            dark, light = (kit.resolve(parse_token(text)) for text in match.group(1, 2))
            return mixed([dark], [light], min(float(match[3]), 1.0))[0]
        return kit.resolve(parse_token(target))
    except InvalidKitError as error:
        raise InvalidPlanError(str(error)) from error


def is_known(target: str, kit: Kit) -> bool:
    """Whether a kit has what a target stands for."""
    try:
        resolve_target(target, kit)
    except InvalidPlanError:
        return False
    return True


def label(target: str, kit: Kit) -> str:
    """The target in words: a kit color's name and step, `kept as it is`, or the code itself.

    Raises InvalidPlanError for what the kit does not have.
    """
    resolve_target(target, kit)
    if match := _SHADE.fullmatch(target):
        muted = f", {float(match[3]):.0%} of its chroma" if match[3] else ""
        return f"{kit.color(match[1]).name}, {_place(float(match[2]))}{muted}"
    if match := _BLEND.fullmatch(target):
        dark, light = (kit.title(parse_token(text)) for text in match.group(1, 2))
        return f"{dark} and {float(match[3]):.0%} {light}"
    token = token_of(target)
    if token is None:
        return "kept as it is" if target == KEEP else target
    return kit.label(token)


def token_of(target: str) -> Token | None:
    """The token, when the target is one."""
    if target == KEEP or target.startswith("#") or "~" in target:
        return None
    return parse_token(target)


def ramp_of(target: str) -> str | None:
    """The key of the kit color whose ramp a target is of; None for `keep`, literals and blends."""
    if match := _SHADE.fullmatch(target):
        return match[1]
    token = token_of(target)
    return token.color if token else None


def is_derived(target: str) -> bool:
    """Whether a target is a color made from the kit's, rather than one of them."""
    return "~" in target


def mixed(first: Sequence[Rgb], second: Sequence[Rgb], share: float) -> list[Rgb]:
    """Colors between two lists of one length, `share` (0 to 1) of the second, mixed in OKLab."""
    if not first:
        return []
    lab = (1 - share) * oklab_of(first) + share * oklab_of(second)
    return to_rgb(to_oklch(lab))


@lru_cache(maxsize=8192)
def _between(ramp: Ramp, position: float, chroma: float) -> Rgb:
    low = int(position)
    part = position - low
    if chroma == 1 and not part:
        return ramp.colors[low]
    high = min(low + 1, len(STEPS) - 1)
    lab = oklab_of([ramp.colors[low], ramp.colors[high]])
    lch = to_oklch(((1 - part) * lab[0] + part * lab[1])[None])
    # A step that is nearly grey has a hue of its own only by rounding: the ramp's is that of its middle.
    if lch[0, 1] < 0.01:
        lch[0, 2] = lch_of(ramp.colors[len(STEPS) // 2])[2]
    lch[0, 1] *= chroma
    return to_rgb(np.asarray(lch))[0]


def _place(position: float) -> str:
    low = int(position)
    if position == low:
        return f"step {STEPS[low]}"
    return f"between {STEPS[low]} and {STEPS[low + 1]}"
