"""How controls look in each state, from ramp steps at set distances, with text that reads in every one.

WCAG 2.2: text 4.5 (1.4.3, which exempts disabled controls; ours keep 3), the control and its focus ring 3 against what
they stand on (1.4.11, 2.4.13).
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum

from pavese.core.color.contrast import BLACK, LARGE, TEXT, WHITE, contrast_ratio
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.role import Role
from pavese.core.kit.token import Token


class State(StrEnum):
    """The states of a control."""

    REST = "rest"
    HOVER = "hover"
    PRESSED = "pressed"
    DISABLED = "disabled"
    FOCUS = "focus"


@dataclass(frozen=True)
class StateColors:
    """A control in one state: its fill, the text on it, and the ring around it (focus only), with their ratios."""

    state: State
    fill: Token
    fill_color: Rgb
    ink: Rgb
    ratio: float
    ring: Rgb | None = None
    ring_ratio: float | None = None


@dataclass(frozen=True)
class Control:
    """A control of a kit color in all states; `darker` tells which way it moves."""

    color: str
    kind: str
    darker: bool
    looks: tuple[StateColors, ...]


def controls(kit: Kit) -> tuple[Control, ...]:
    """A control for the action color and one for the first neutral; fewer where the kit has none of them."""
    found = []
    for kind, role in (("action", Role.ACTION), ("neutral", Role.NEUTRAL)):
        color = next((color for color in kit.colors if color.role is role), None)
        if color is not None:
            found.append(_control(kit, color, kind))
    return tuple(found)


def _control(kit: Kit, color: KitColor, kind: str) -> Control:
    """Darker if one ink reads on every fill that way; else lighter; else with the ink that reads best on each fill."""
    ground = next((c.base for c in kit.colors if c.role is Role.BACKGROUND), WHITE)
    rest = STEPS.index(color.ramp.base_step)
    moves = (0, kit.states.hover, kit.states.pressed)
    ways = [sign for sign in (1, -1) if 0 <= rest + sign * max(moves) < len(STEPS)]
    inks = _inks(kit)

    def fill(sign: int, move: int) -> Rgb:
        return color.ramp.at(STEPS[rest + sign * move])

    sign, ink = next(
        (
            (sign, ink)
            for sign in ways
            for ink in inks
            if all(contrast_ratio(ink, fill(sign, move)) >= TEXT for move in moves)
        ),
        (ways[0], None),
    )

    def look(state: State, step: int, text: Rgb | None = None) -> StateColors:
        at = color.ramp.at(STEPS[step])
        written = text or ink or max(inks, key=lambda one: contrast_ratio(one, at))
        token = Token(color.key, None if step == rest else STEPS[step])
        return StateColors(state, token, at, written, contrast_ratio(written, at))

    towards_ground = -1 if contrast_ratio(ground, BLACK) > contrast_ratio(ground, WHITE) else 1
    faded = min(max(rest + towards_ground * kit.states.disabled, 0), len(STEPS) - 1)
    faded_fill = color.ramp.at(STEPS[faded])
    quiet = min(
        (one for one in (*color.ramp.colors, WHITE, BLACK) if contrast_ratio(one, faded_fill) >= LARGE),
        key=lambda one: contrast_ratio(one, faded_fill),
    )
    rested = look(State.REST, rest)
    ring = next(one for one in (*inks, *color.ramp.colors) if contrast_ratio(one, ground) >= LARGE)
    return Control(
        color.key,
        kind,
        sign > 0,
        (
            rested,
            look(State.HOVER, rest + sign * kit.states.hover),
            look(State.PRESSED, rest + sign * kit.states.pressed),
            look(State.DISABLED, faded, quiet),
            replace(rested, state=State.FOCUS, ring=ring, ring_ratio=contrast_ratio(ring, ground)),
        ),
    )


def _inks(kit: Kit) -> tuple[Rgb, ...]:
    """The kit's own text colors first, light ones before dark ones; then white and black, one of which always reads."""
    roles = (Role.TEXT_LIGHT, Role.BACKGROUND, Role.TEXT_DARK)
    return (*(color.base for role in roles for color in kit.colors if color.role is role), WHITE, BLACK)
