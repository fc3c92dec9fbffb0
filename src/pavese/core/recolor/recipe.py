"""How a plan is to be made: mode, policy, allowed colors, and what is left alone."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import AliasChoices, BaseModel, ConfigDict, Field, model_validator

from pavese.core.kit.token import TokenText


class Mode(StrEnum):
    """What colors a set ends up with."""

    KIT = "kit"
    SINGLE = "single color"
    GREY = "greyscale"
    TWO_TONE = "two-tone"


class Policy(StrEnum):
    """Which ramp a family of hues goes to."""

    FAITHFUL = "faithful"
    BRANDED = "branded"


class AllowedColors(StrEnum):
    """Which colors a plan may use."""

    STEPS = "kit steps only"
    DERIVED = "derived shades allowed"


_EndToken = Annotated[TokenText, Field(max_length=90, pattern=r"^[a-z0-9-]+\.[a-z0-9]+$")]


class Recipe(BaseModel):
    """The settings of a plan.

    `color` is the ramp of the single-color and greyscale modes; `dark` and `light` are the ends of two-tone (each
    None: the kit's own choice). `tint` is the share of that ramp's chroma a grey has, 0 to 1. `low` and `high`
    bound the lightness of the result, 0 black to 1 white. `strength` is how far paints go to their target.
    `action` lets the branded policy use the action color.
    """

    model_config = ConfigDict(frozen=True)

    mode: Mode = Mode.KIT
    policy: Policy = Policy.FAITHFUL
    allowed: AllowedColors = Field(default=AllowedColors.STEPS, validation_alias=AliasChoices("allowed", "closure"))
    natural: bool = True
    action: bool = False
    ends: Literal["follow", "stay"] = "follow"
    color: str | None = Field(default=None, max_length=80, pattern=r"^[a-z0-9-]+$")
    dark: _EndToken | None = None
    light: _EndToken | None = None
    tint: float = Field(default=0.25, ge=0, le=1)
    strength: float = Field(default=1.0, ge=0, le=1)
    low: float = Field(default=0.0, ge=0, le=1)
    high: float = Field(default=1.0, ge=0, le=1)

    @model_validator(mode="after")
    def _in_order(self) -> Recipe:
        if self.low >= self.high:
            raise ValueError("the range of lightness must begin below its end")
        return self
