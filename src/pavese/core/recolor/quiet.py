"""One ground and one ink through whole files: every ground to one color, every text to one that reads on it, and what
is pressed in the same ink, tone on tone, or in the kit's color for actions.

It is said by rules of the plan, so that it holds for all that comes later and can be refined by hand.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import partial

from pavese.core.color.contrast import LARGE, TEXT, contrast_ratio, luminance
from pavese.core.color.ramp import STEPS
from pavese.core.errors import InvalidKitError, InvalidPlanError
from pavese.core.kit.decisions import Status
from pavese.core.kit.kit import Kit
from pavese.core.kit.pairings import pairs
from pavese.core.kit.role import Role
from pavese.core.kit.rules import Use
from pavese.core.kit.token import Token, parse_token
from pavese.core.recolor.dark import DarkScheme
from pavese.core.recolor.inventory import SetPaints
from pavese.core.recolor.site import Kind
from pavese.core.recolor.target import KEEP, is_known

#: Steps between a ground and the lines on it, and at first between a ground and a button that is tone on tone.
_LINE, _TONE = 2, 2
#: Pairs that are offered where none is approved.
_MOST = 24
#: What a ground and an ink are said of, in the order of `Quiet`.
_EVERYTHING = (Kind.GROUND, Kind.TEXT, Kind.LINK, Kind.ACTION, Kind.LABEL, Kind.STROKE)
#: The step of a ramp that is a dark ground: the last is next to black.
_DEEP = STEPS[-2]


class Pressed(StrEnum):
    """How links and buttons look."""

    INK = "same ink"
    TONE = "tone on tone"
    ACTION = "action color"


@dataclass(frozen=True)
class GroundAndInk:
    """A ground with an ink that reads on it; `approved` where the kit says so, else it only reaches 4.5."""

    ground: Token
    ink: Token
    ratio: float
    approved: bool

    @property
    def key(self) -> str:
        return f"{self.ink} on {self.ground}"


@dataclass(frozen=True)
class Quiet:
    """What everything of a file goes to."""

    ground: Token
    ink: Token
    link: Token
    button: Token
    label: Token
    line: Token

    @property
    def rules(self) -> dict[Kind, str]:
        """The rules that say it."""
        return {
            Kind.GROUND: str(self.ground),
            Kind.TEXT: str(self.ink),
            Kind.LINK: str(self.link),
            Kind.ACTION: str(self.button),
            Kind.LABEL: str(self.label),
            Kind.STROKE: str(self.line),
        }

    @property
    def in_the_dark(self) -> DarkScheme:
        """The same as what everything is in the dark."""
        return DarkScheme(
            canvas=str(self.ground),
            ink=str(self.ink),
            link=str(self.link),
            button=str(self.button),
            label=str(self.label),
            line=str(self.line),
        )


def grounds_and_inks(kit: Kit) -> list[GroundAndInk]:
    """The pairs to choose from, those of the kit's background first, then by contrast: the approved ones for text;
    where there are none, the best that read. A kit without a light or a dark ground among them, such as one of a few
    loud colors, has it from the ends of its ramps."""
    approved = {one.pair for one in kit.decisions if one.status is Status.APPROVED and one.use is Use.BODY}
    found = [
        GroundAndInk(one.ground, one.text, one.ratio, True)
        for one in pairs(kit).best_first()
        if (str(one.text), str(one.ground)) in approved
    ]
    if not found:
        reading = (one for one in pairs(kit).best_first() if one.ratio >= TEXT)
        found = [GroundAndInk(one.ground, one.text, one.ratio, False) for one in reading][:_MOST]
        for dark in (False, True):
            if not any(_is_dark(kit, one) == dark for one in found):
                found += _of_ramps(kit, dark)
    roles = {color.key: color.role for color in kit.colors}
    return sorted(found, key=lambda one: (roles[one.ground.color] is not Role.BACKGROUND, -one.ratio))


def _of_ramps(kit: Kit, dark: bool) -> list[GroundAndInk]:
    """Grounds from the ends of the ramps with what reads on them: the other end, and the colors of the kit."""
    ground_at, ink_at = (_DEEP, STEPS[0]) if dark else (STEPS[0], STEPS[-1])
    found = []
    for color in kit.colors:
        ground = color.token(ground_at)
        for ink in dict.fromkeys((color.token(ink_at), *(Token(one.key, None) for one in kit.colors))):
            pair = GroundAndInk(ground, ink, contrast_ratio(kit.resolve(ground), kit.resolve(ink)), False)
            if pair.ratio >= TEXT and _is_dark(kit, pair) == dark:
                found.append(pair)
    return sorted(found, key=lambda one: (-one.ratio, one.key))[:_MOST]


def light_and_dark(kit: Kit) -> Iterator[GroundAndInk]:
    """The best pair on a light ground, and the best on a dark one."""
    offered = grounds_and_inks(kit)
    roles = {color.key: color.role for color in kit.colors}
    # The ink is rather the kit's background, a neutral or its text color than a loud one.
    calm = (Role.BACKGROUND, Role.NEUTRAL, Role.TEXT_LIGHT, Role.TEXT_DARK)
    for dark in (False, True):
        fit = (Role.PRIMARY, Role.TEXT_DARK) if dark else (Role.BACKGROUND,)
        side = [one for one in offered if _is_dark(kit, one) == dark]
        yield from sorted(
            side, key=lambda one: (roles[one.ink.color] not in calm, roles[one.ground.color] not in fit, -one.ratio)
        )[:1]


def _is_dark(kit: Kit, pair: GroundAndInk) -> bool:
    return luminance(kit.resolve(pair.ground)) < luminance(kit.resolve(pair.ink))


def quiet(kit: Kit, ground: Token, ink: Token, pressed: Pressed | Token) -> Quiet:
    """Everything on one ground in one ink, and what is pressed in one of the ways, or in a color. Raises
    InvalidPlanError for a pair that does not read, and for a color that does not stand out or takes no label."""
    ratio = contrast_ratio(kit.resolve(ground), kit.resolve(ink))
    if ratio < TEXT:
        raise InvalidPlanError(f"{kit.title(ink)} on {kit.title(ground)} does not read as text.")
    return _quiet(kit, ground, ink, pressed)


def _quiet(kit: Kit, ground: Token, ink: Token, pressed: Pressed | Token) -> Quiet:
    line = _beside(kit, ground, ink, _LINE)
    made = _PRESSED[pressed] if isinstance(pressed, Pressed) else partial(_in_color, pressed)
    button, label = made(kit, ground, ink)
    return Quiet(ground, ink, ink, button, label, line)


def pressed_in(kit: Kit, so: Quiet) -> Pressed | None:
    """In which of the ways what is pressed looks, None for a color; also where the pair no longer reads, since the kit
    has changed."""
    return next((one for one in Pressed if _quiet(kit, so.ground, so.ink, one) == so), None)


def _beside(kit: Kit, ground: Token, ink: Token, steps: int) -> Token:
    """The step of a ground's own ramp so many from it on the side of the ink."""
    color = kit.color(ground.color)
    at = STEPS.index(ground.step if ground.step is not None else color.ramp.base_step)
    darker = luminance(kit.resolve(ink)) < luminance(kit.resolve(ground))
    return color.token(STEPS[min(max(at + (steps if darker else -steps), 0), len(STEPS) - 1)])


def _in_ink(kit: Kit, ground: Token, ink: Token) -> tuple[Token, Token]:
    return ink, ground


def _tone_on_tone(kit: Kit, ground: Token, ink: Token) -> tuple[Token, Token]:
    """A button a little darker or lighter than its ground, on which the ink still reads."""
    for steps in range(_TONE, 0, -1):
        button = _beside(kit, ground, ink, steps)
        if contrast_ratio(kit.resolve(button), kit.resolve(ink)) >= TEXT:
            return button, ink
    return ground, ink


def _in_action(kit: Kit, ground: Token, ink: Token) -> tuple[Token, Token]:
    """The kit's action color, or the step of it nearest to that which stands out from the ground, with what reads on
    it best; approved labels go before others."""
    actions = [color for color in kit.colors if color.role is Role.ACTION]
    if not actions:
        return _in_ink(kit, ground, ink)
    color = actions[0]
    base = STEPS.index(color.ramp.base_step)
    for step in sorted(STEPS, key=lambda step: (abs(STEPS.index(step) - base), step)):
        button = color.token(step)
        if contrast_ratio(kit.resolve(button), kit.resolve(ground)) >= LARGE:
            label = _label(kit, button, (ground, ink))
            if label is not None:
                return button, label
    return _in_ink(kit, ground, ink)


def _in_color(button: Token, kit: Kit, ground: Token, ink: Token) -> tuple[Token, Token]:
    if contrast_ratio(kit.resolve(button), kit.resolve(ground)) < LARGE:
        raise InvalidPlanError(f"{kit.title(button)} does not stand out from {kit.title(ground)}: it needs 3:1.")
    label = _label(kit, button, (ground, ink))
    if label is None:
        raise InvalidPlanError(f"Nothing of the kit reads on {kit.title(button)} as a label.")
    return button, label


def _label(kit: Kit, button: Token, near: Iterable[Token]) -> Token | None:
    """What reads on a button: approved for it, else one of those near, else white or dark of the kit."""
    approved = {
        parse_token(one.text)
        for one in kit.decisions
        if one.status is Status.APPROVED and one.use is not Use.DECORATION and one.ground == str(button)
    }
    calm = [
        Token(one.key, None) for one in kit.colors if one.role in (Role.BACKGROUND, Role.TEXT_LIGHT, Role.TEXT_DARK)
    ]
    for offered in (sorted(approved, key=str), near, calm):
        ratios = {one: contrast_ratio(kit.resolve(one), kit.resolve(button)) for one in offered}
        best = max(ratios, key=lambda one: (ratios[one], str(one)), default=None)
        if best is not None and ratios[best] >= TEXT:
            return best
    return None


_PRESSED = {Pressed.INK: _in_ink, Pressed.TONE: _tone_on_tone, Pressed.ACTION: _in_action}


def fitting(paints: SetPaints) -> Pressed:
    """How what is pressed looks at first: in the action color, but for files in which a label is not told from other
    texts; there only a button on which the common ink reads is safe."""
    for file in paints.files:
        for run in file.measured.texts:
            if (run.kind is Kind.ACTION) != (run.text.kind is Kind.LABEL) and run.kind is not None:
                return Pressed.TONE
    return Pressed.ACTION


def is_for(paints: SetPaints) -> bool:
    """Whether one ground and one ink is a way for files: all their texts stand on grounds, or on what is pressed, and
    not on shapes that have colors of their own."""
    stands_on = (run.kind for file in paints.files for run in file.measured.texts)
    return paints.lettered and all(kind in (None, Kind.GROUND, Kind.ACTION, Kind.PICTURE) for kind in stands_on)


def kept() -> dict[Kind, str]:
    """The rules by which everything stays as it came."""
    return dict.fromkeys(Kind, KEEP)


def rules_left(rules: Mapping[Kind, str], kit: Kit) -> dict[Kind, str]:
    """What is left of rules in a kit that may have lost colors: of a ground with its ink neither where one of them is
    gone, since the other alone would be as bad as none; where only others are, these are as with all in the ink."""
    left = {kind: target for kind, target in rules.items() if is_known(target, kit)}
    so = ruled_by(rules)
    if so is None or len(left) == len(rules):
        return left
    if Kind.GROUND not in left or Kind.TEXT not in left:
        return {kind: target for kind, target in left.items() if kind not in _EVERYTHING}
    if Kind.ACTION not in left or Kind.LABEL not in left:
        # A label is for its button.
        left = {kind: target for kind, target in left.items() if kind not in (Kind.ACTION, Kind.LABEL)}
    return {**_quiet(kit, so.ground, so.ink, Pressed.INK).rules, **left}


def ruled_by(rules: Mapping[Kind, str]) -> Quiet | None:
    """What rules say, where they say it of everything."""
    if any(kind not in rules for kind in _EVERYTHING):
        return None
    try:
        return Quiet(*(parse_token(rules[kind]) for kind in _EVERYTHING))
    except InvalidKitError:
        # One of them stays as it is, or goes to a color that is no token.
        return None
