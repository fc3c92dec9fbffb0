"""A first proposal of roles for colors that arrive together; every one of them can be changed.

A name that says its role is believed; the rest follow lightness and chroma (OKLCH).
"""

from __future__ import annotations

from collections.abc import Sequence

from pavese.core.color.oklab import hue_distance, oklch_of
from pavese.core.color.srgb import Rgb
from pavese.core.kit.role import Role

#: Words in a name that state a role, looked for in this order.
_SAID: tuple[tuple[Role, tuple[str, ...]], ...] = (
    (Role.ACTION, ("action", "cta", "button", "link")),
    (Role.PRIMARY, ("primary", "brand", "main")),
    (Role.SECONDARY, ("secondary",)),
    (Role.ACCENT, ("accent", "highlight", "tertiary")),
    (Role.TEXT_LIGHT, ("on-dark", "text light", "light text", "inverse")),
    (Role.BACKGROUND, ("background", "bg", "ground", "surface", "paper", "page")),
    (Role.TEXT_DARK, ("text", "ink", "foreground", "fg", "body")),
    (Role.NEUTRAL, ("neutral", "grey", "gray", "border", "muted")),
)
_QUIET = 0.045
#: OKLCH degrees.
_SIGNAL_RED = 30.0
_DARK = 0.36
_PALE = 0.9


def propose_roles(colors: Sequence[tuple[Rgb, str | None]], taken: Sequence[Role] = ()) -> list[Role]:
    """A role for each (color, name), given the roles the kit has already; deterministic.

    Of the colors whose names say nothing: the darkest quiet one is text, the palest quiet one the background,
    other quiet ones neutrals; the vivid ones are primary, secondary and then accents in the order they came.
    The warmest of at least three vivid ones is the action color, since it stands out most.
    """
    roles: list[Role | None] = [_said(name) for _, name in colors]
    used = {*taken, *(role for role in roles if role)}
    lch = oklch_of([color for color, _ in colors])
    open_ = [i for i, role in enumerate(roles) if role is None]
    quiet = [i for i in open_ if lch[i, 1] < _QUIET or lch[i, 0] < 0.2 or lch[i, 0] > 0.97]
    vivid = [i for i in open_ if i not in quiet]

    by_light = sorted(quiet, key=lambda i: (lch[i, 0], i))
    if by_light and Role.TEXT_DARK not in used and lch[by_light[0], 0] < _DARK:
        roles[by_light.pop(0)] = Role.TEXT_DARK
    for role in (Role.BACKGROUND, Role.TEXT_LIGHT):
        if by_light and role not in used and lch[by_light[-1], 0] > _PALE:
            roles[by_light.pop()] = role
    for i in by_light:
        roles[i] = Role.NEUTRAL

    if len(vivid) >= 3 and Role.ACTION not in used:
        warmest = min(vivid[1:], key=lambda i: (hue_distance(float(lch[i, 2]), _SIGNAL_RED) - 60 * float(lch[i, 1]), i))
        roles[warmest] = Role.ACTION
        vivid.remove(warmest)
    for i in vivid:
        role = next((r for r in (Role.PRIMARY, Role.SECONDARY) if r not in used), Role.ACCENT)
        roles[i] = role
        used.add(role)
    return [role or Role.ACCENT for role in roles]


def _said(name: str | None) -> Role | None:
    words = f" {(name or '').lower().replace('_', ' ').replace('-', ' ')} "
    for role, terms in _SAID:
        if any(f" {term.replace('-', ' ')} " in words for term in terms):
            return role
    return None
