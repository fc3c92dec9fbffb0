"""A plan: for each paint its target, as a token of the kit wherever possible, so that the plan follows the kit."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from pavese.core.color.srgb import Rgb, Rgba, parse_hex, parse_key
from pavese.core.errors import InvalidKitError, InvalidPlanError, UnreadableColorError
from pavese.core.kit.kit import Kit, Token, parse_token

KEEP = "keep"

#: A paint key, see `Rgba.key`.
PaintKey = Annotated[str, Field(max_length=32)]
#: `keep`, a token such as `deep-water.600`, or a literal color such as `#0b5e6b`.
TargetText = Annotated[str, Field(max_length=120)]


class Choice(BaseModel):
    """Where one paint goes, by whom, and why."""

    model_config = ConfigDict(frozen=True)

    target: TargetText
    by: Literal["plan", "you"] = "plan"
    reason: str = ""


class Plan(BaseModel):
    """Paint key to choice. Paints without a choice are kept."""

    model_config = ConfigDict(frozen=True)

    choices: dict[PaintKey, Choice] = Field(default_factory=dict)

    def target(self, paint: Rgba) -> str:
        """The target text for a paint."""
        choice = self.choices.get(paint.key)
        return KEEP if choice is None else choice.target

    def held(self) -> dict[str, Choice]:
        """The choices a person made."""
        return {paint: choice for paint, choice in self.choices.items() if choice.by == "you"}

    def with_targets(self, targets: Mapping[str, str], kit: Kit) -> Plan:
        """The plan with some targets chosen by a person. Raises InvalidPlanError for a paint or target unknown."""
        chosen = {}
        for paint, target in targets.items():
            if paint not in self.choices:
                raise InvalidPlanError(f"The set has no paint “{paint[:40]}”.")
            resolve_target(target, kit)
            chosen[paint] = Choice(target=target, by="you", reason="chosen by hand")
        return Plan(choices={**self.choices, **chosen})

    def resolve(self, kit: Kit) -> dict[Rgba, Rgb]:
        """Paint to color for every paint that changes. Raises InvalidPlanError when a token is gone."""
        resolved: dict[Rgba, Rgb] = {}
        for key, choice in self.choices.items():
            color = resolve_target(choice.target, kit)
            if color is not None:
                resolved[_paint(key)] = color
        return resolved


def resolve_target(target: str, kit: Kit) -> Rgb | None:
    """The color a target stands for, None for `keep`. Raises InvalidPlanError for what the kit does not have."""
    if target == KEEP:
        return None
    literal = parse_hex(target)
    if literal is not None:
        return literal.rgb
    try:
        return kit.resolve(parse_token(target))
    except InvalidKitError as error:
        raise InvalidPlanError(str(error)) from error


def label(target: str, kit: Kit) -> str:
    """The target in words: a kit color's name and step, `kept as it is`, or the code itself.

    Raises InvalidPlanError for what the kit does not have.
    """
    resolve_target(target, kit)
    token = token_of(target)
    if token is None:
        return "kept as it is" if target == KEEP else target
    return kit.label(token)


def token_of(target: str) -> Token | None:
    """The token, when the target is one."""
    return None if target == KEEP or target.startswith("#") else parse_token(target)


def _paint(key: str) -> Rgba:
    try:
        return parse_key(key)
    except UnreadableColorError as error:
        raise InvalidPlanError(str(error)) from error
