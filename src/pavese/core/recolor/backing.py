"""A backing: a shape in a kit color laid behind a drawing."""

from __future__ import annotations

from enum import StrEnum

from pydantic import BaseModel, ConfigDict, Field

from pavese.core.kit.token import TokenText


class BackingShape(StrEnum):
    """The shapes there are; the last is our own, a square whose far side is cut like a flag's."""

    CIRCLE = "circle"
    ROUNDED = "rounded square"
    SQUARE = "square"
    FLAG = "flag"


class FileBacking(BaseModel):
    """What is laid behind a file.

    `padding` is in percent of the backing's side, on each side of the drawing; `size` is the backing's side in percent
    of the picture's, the rest is left empty around it.
    """

    model_config = ConfigDict(frozen=True)

    shape: BackingShape = BackingShape.ROUNDED
    color: TokenText
    padding: int = Field(default=18, ge=0, le=40)
    size: int = Field(default=100, ge=40, le=100)
