"""What would make more pairs readable: a dark or a light neutral tinted to the kit, or a step of an existing ramp."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from pavese.core.color.contrast import BLACK, TEXT, WHITE, contrast_table, readable_ink
from pavese.core.color.neutrals import Shade, tinted
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit
from pavese.core.kit.pairings import pairs
from pavese.core.kit.role import Role
from pavese.core.kit.token import Token

#: Strength of the tint of a proposed neutral.
TINT = 0.5
#: Steps proposed on each side of the middle.
_MOST_STEPS = 3


@dataclass(frozen=True)
class Addition:
    """A proposed color: a tint of a color (`shade`, of `token.color`), or a step (`token`) that is switched on.

    `gained` is how many ordered pairs would read as body text that are not there now; `helped` the keys of colors
    that had no readable partner and would have one.
    """

    token: Token
    shade: Shade | None
    color: Rgb
    gained: int
    helped: tuple[str, ...]


def additions(kit: Kit) -> tuple[Addition, ...]:
    """Proposals, the two neutrals first, then single steps, each group by what it gains; nothing for an empty kit."""
    if not kit.colors:
        return ()
    now = pairs(kit)
    lonely = now.without_partner
    own = [subject.color for subject in now.subjects]

    def measured(token: Token, shade: Shade | None, color: Rgb) -> Addition:
        reads = contrast_table([color], own)[0] >= TEXT
        helped = tuple(s.token.color for s, r in zip(now.subjects, reads, strict=True) if r and s.token.color in lonely)
        return Addition(token, shade, color, 2 * int(np.count_nonzero(reads)), tuple(dict.fromkeys(helped)))

    source = _tint_source(kit)
    tints = [
        measured(Token(source, None), shade, tinted(kit.color(source).base, shade, TINT))
        for shade in (Shade.NEAR_BLACK, Shade.NEAR_WHITE)
    ]
    taken = {subject.token for subject in now.subjects}
    steps = [
        measured(token, None, color.ramp.at(step))
        for color in kit.colors
        for step in STEPS
        for token in (Token(color.key, step),)
        if step != color.ramp.base_step and token not in taken
    ]
    worth = _worth(steps, own)
    dark = [one for one in worth if readable_ink(one.color) == WHITE]
    light = [one for one in worth if readable_ink(one.color) == BLACK]
    return (*_worth(tints, own), *dark[:_MOST_STEPS], *light[:_MOST_STEPS])


def _tint_source(kit: Kit) -> str:
    plain = [color for color in kit.colors if color.tint is None] or list(kit.colors)
    return next((color.key for color in plain if color.role is Role.PRIMARY), plain[0].key)


def _worth(found: Sequence[Addition], own: Sequence[Rgb]) -> list[Addition]:
    """Those that gain something and are not there already, most first; of a ramp its best dark and best light step."""
    best = sorted(found, key=lambda one: (-len(one.helped), -one.gained))
    kept: list[Addition] = []
    for one in best:
        same_ramp = [readable_ink(k.color) for k in kept if k.token.color == one.token.color and k.shade is None]
        if one.gained and one.color not in own and (one.shade or readable_ink(one.color) not in same_ramp):
            kept.append(one)
    return kept
