"""A backing: a shape in a kit color laid behind a drawing."""

from __future__ import annotations

from enum import StrEnum
from typing import ClassVar

from pydantic import Field

from pavese.core.kit.token import TokenText
from pavese.core.recolor.act import Act


class BackingShape(StrEnum):
    """The shapes there are; the last is our own, a square whose far side is cut like a flag's."""

    CIRCLE = "circle"
    ROUNDED = "rounded square"
    SQUARE = "square"
    FLAG = "flag"


class FileBacking(Act):
    """What is laid behind a file.

    `padding` is in percent of the backing's side, on each side of the drawing; `size` is the backing's side in percent
    of the picture's, the rest is left empty around it.
    """

    key: ClassVar[str] = "backing"
    title: ClassVar[str] = "Backing"
    words: ClassVar[str] = "a shape in a kit color laid behind the drawing"

    shape: BackingShape = Field(default=BackingShape.ROUNDED, title="Shape")
    color: TokenText = Field(title="Color")
    padding: int = Field(
        default=18,
        ge=0,
        le=40,
        title="Padding",
        description="Padding between the backing's edge and the drawing, in percent",
    )
    size: int = Field(
        default=100, ge=40, le=100, title="Size", description="Size of the backing within the picture, in percent"
    )

    @property
    def told(self) -> str:
        return self.shape.value

    @property
    def targets(self) -> tuple[str, ...]:
        return (self.color,)

    @property
    def ground(self) -> str | None:
        return self.color
