"""See-through settings of a kit, and what they give: a ramp as transparent colors over a ground.

At full vividness every step is the exact equal (`overlay`). Fully vivid dark steps look wrong over other grounds, so a
curve may take chroma from them: the whole of its strength at the dark end, nothing from where it begins to the light
end. Lightness and hue (OKLCH) stay.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from enum import StrEnum

from pydantic import BaseModel, ConfigDict, Field, field_validator

from pavese.core.color.contrast import BLACK, WHITE
from pavese.core.color.srgb import Rgb
from pavese.core.kit.token import parse_token

PLAIN_BASES: Mapping[str, Rgb] = {"white": WHITE, "black": BLACK}


class Shape(StrEnum):
    """How the loss of chroma runs from where it begins (0) to the dark end (1)."""

    EVEN = "even"
    LATE = "late"
    EARLY = "early"
    SOFT = "soft"


_SHAPES: dict[Shape, Callable[[float], float]] = {
    Shape.EVEN: lambda t: t,
    Shape.LATE: lambda t: t * t,
    Shape.EARLY: lambda t: 1 - (1 - t) ** 2,
    Shape.SOFT: lambda t: t * t * (3 - 2 * t),
}


class Vividness(BaseModel):
    """Strength in percent of the chroma that goes at the dark end (0: the exact equal everywhere); `begins` in percent
    of the ramp, counted from its dark end: lighter steps than that are left alone."""

    model_config = ConfigDict(frozen=True)

    shape: Shape = Shape.SOFT
    strength: int = Field(default=0, ge=0, le=100)
    begins: int = Field(default=60, ge=1, le=100)

    def kept(self, position: float) -> float:
        """The share of chroma kept at a position of the ramp, 0 (dark end) to 1 (light end)."""
        begins = self.begins / 100
        if position >= begins:
            return 1.0
        return 1 - self.strength / 100 * _SHAPES[self.shape](1 - position / begins)


class SeeThrough(BaseModel):
    """The ramp of a kit color (its key) over white, black, or any token of the kit."""

    model_config = ConfigDict(frozen=True)

    of: str
    base: str = "white"
    vividness: Vividness = Vividness()

    @field_validator("base")
    @classmethod
    def _known(cls, base: str) -> str:
        return base if base in PLAIN_BASES else str(parse_token(base))

    @property
    def plain(self) -> bool:
        """Whether the base is none of the kit's colors."""
        return self.base in PLAIN_BASES
