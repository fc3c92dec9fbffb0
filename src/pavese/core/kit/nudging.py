"""Taking a nudge into a kit: as steps of the ramps, as colors of their own, or in the place of what stood there."""

from __future__ import annotations

from enum import StrEnum
from typing import NamedTuple

from pavese.core.color.difference import differences
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError
from pavese.core.kit.changes import Arrival, changed, with_base, with_colors, with_pin
from pavese.core.kit.kit import Kit
from pavese.core.kit.nudge import Nudge, nudges
from pavese.core.kit.rules import Use
from pavese.core.kit.token import Token


class TakenAs(StrEnum):
    """What becomes of the nudged colors."""

    STEP = "step"
    NEW = "new"
    BASE = "base"


class Side(NamedTuple):
    """A side of a pair that a nudge moves: the token, its new color, and the step that could be pinned to it."""

    token: Token
    color: Rgb
    step: int


def ways(kit: Kit, text: Token, ground: Token, use: Use) -> tuple[Nudge, ...]:
    """The smallest changes that make a pair fit for a use."""
    return nudges(kit.resolve(text), kit.resolve(ground), kit.rules.least(use))


def sides(kit: Kit, text: Token, ground: Token, way: Nudge) -> list[Side]:
    """The sides that a way moves."""
    moved = ((text, way.text), (ground, way.ground))
    return [Side(token, to, _nearest_step(kit, token, to)) for token, to in moved if to != kit.resolve(token)]


def nudged(kit: Kit, text: Token, ground: Token, way: Nudge, taken_as: TakenAs) -> Kit:
    """The kit with a nudge taken in, all of it at once. Raises InvalidKitError where the kit has no room for it."""
    moved = sides(kit, text, ground, way)
    if taken_as is TakenAs.NEW:
        arrivals = [
            Arrival(f"{kit.title(side.token)} {side.color.hex[1:]}", kit.color(side.token.color).role, side.color)
            for side in moved
        ]
        return with_colors(kit, arrivals)
    made = kit
    for token, to, step in moved:
        if taken_as is TakenAs.BASE and token.step is None:
            made = changed(made, token.color, lambda color, to=to: with_base(color, to))  # type: ignore[misc]
        else:
            made = changed(made, token.color, lambda color, at=step, to=to: with_pin(color, at, to))  # type: ignore[misc]
    if taken_as is TakenAs.STEP:
        pinned = [str(Token(side.token.color, side.step)) for side in moved]
        made = made.with_(steps=tuple(dict.fromkeys([*made.steps, *pinned])))
    return made


def way_that(kit: Kit, text: Token, ground: Token, use: Use, changes: str) -> Nudge:
    """The way that changes the text, the ground, or both. Raises InvalidKitError where there is none."""
    found = next((way for way in ways(kit, text, ground, use) if way.changes == changes), None)
    if found is None:
        raise InvalidKitError(f"{kit.title(text)} on {kit.title(ground)} cannot be nudged that way any longer.")
    return found


def _nearest_step(kit: Kit, token: Token, color: Rgb) -> int:
    """The step that a nudged color would be pinned to: its own, or for a base the step of its ramp nearest to it."""
    if token.step is not None:
        return token.step
    ramp = kit.color(token.color).ramp
    free = [step for step in STEPS if step != ramp.base_step]
    return free[int(differences([color], [ramp.at(step) for step in free])[0].argmin())]
