"""The usage rules of a kit: data that is stored with it, shown in words, and checked against files.

The defaults are the usual teaching of the trade: few text colors, one color for what is to be pressed, quiet large
areas, accents in small shares; the least ratios are WCAG 2.2's (1.4.3, 1.4.11) and cannot be set lower.
"""

from __future__ import annotations

from enum import StrEnum

from pydantic import BaseModel, ConfigDict, Field, model_validator

from pavese.core.color.contrast import LARGE, TEXT
from pavese.core.color.difference import NEAR, SAME
from pavese.core.kit.role import Role


class Use(StrEnum):
    """What a pair is used for, most demanding first; approved for one, it may be used for those behind it."""

    BODY = "body text"
    LARGE = "large text"
    GRAPHICS = "graphics"
    DECORATION = "decoration"


class Rules(BaseModel):
    """How the kit's colors are to be used.

    `accent_share` is a percentage of an area; `same` and `near` are CIEDE2000: below `same` a color counts as ours,
    below `near` as a drift of one of ours.
    """

    model_config = ConfigDict(frozen=True)

    body_text: tuple[Role, ...] = (Role.TEXT_DARK, Role.TEXT_LIGHT)
    action_only: bool = True
    large_areas: tuple[Role, ...] = (Role.BACKGROUND, Role.NEUTRAL)
    accent_share: int = Field(default=15, ge=0, le=100)
    least_body: float = Field(default=TEXT, ge=TEXT, le=21)
    least_large: float = Field(default=LARGE, ge=LARGE, le=21)
    least_graphics: float = Field(default=LARGE, ge=LARGE, le=21)
    same: float = Field(default=SAME, gt=0, le=20)
    near: float = Field(default=NEAR, gt=0, le=50)

    @model_validator(mode="after")
    def _in_order(self) -> Rules:
        if self.near < self.same:
            raise ValueError("what counts as near begins where ours ends; it cannot be less")
        return self

    def least(self, use: Use) -> float:
        """The least ratio a use asks for."""
        return {
            Use.BODY: self.least_body,
            Use.LARGE: self.least_large,
            Use.GRAPHICS: self.least_graphics,
            Use.DECORATION: 1.0,
        }[use]

    def best_use(self, ratio: float) -> Use:
        """The most demanding use an unrounded ratio serves."""
        return next(use for use in Use if ratio >= self.least(use))

    def in_words(self) -> tuple[str, ...]:
        """One sentence a rule."""
        return (
            f"Body text is set only in {_roles(self.body_text)}."
            if self.body_text
            else "Body text may be set in any color.",
            "The action color is for the main action only."
            if self.action_only
            else "The action color may be used anywhere.",
            f"Large areas are filled from {_roles(self.large_areas)}."
            if self.large_areas
            else "Large areas may take any color.",
            f"Accents cover at most {self.accent_share} % of an area.",
            f"Contrast: body text {self.least_body:g}, large text {self.least_large:g}, graphics "
            f"{self.least_graphics:g} to 1 at least.",
            f"A color closer than {self.same:g} (CIEDE2000) counts as ours, one closer than {self.near:g} as a drift.",
        )


def _roles(roles: tuple[Role, ...]) -> str:
    words = [f"{role.value} colors" for role in roles]
    return " and ".join([", ".join(words[:-1]), words[-1]]) if len(words) > 1 else words[0]
