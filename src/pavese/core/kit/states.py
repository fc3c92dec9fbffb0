"""By how much controls move along their ramp from state to state."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field


class Distances(BaseModel):
    """By how many steps of its ramp a control moves when hovered, pressed, or disabled (towards its ground)."""

    model_config = ConfigDict(frozen=True)

    hover: int = Field(default=1, ge=1, le=4)
    pressed: int = Field(default=2, ge=1, le=5)
    disabled: int = Field(default=4, ge=1, le=8)
