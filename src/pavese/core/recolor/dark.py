"""A dark scheme: what a mail looks like for readers who have asked for the dark, written into it as an addition."""

from __future__ import annotations

from typing import ClassVar

from pydantic import Field

from pavese.core.kit.token import TokenText
from pavese.core.recolor.act import Act


class DarkScheme(Act):
    """The colors of everything in the dark; a mail that has a dark scheme of its own gets this one in front of it."""

    key: ClassVar[str] = "dark-scheme"
    title: ClassVar[str] = "Dark scheme"
    words: ClassVar[str] = "colors for readers in the dark, added to a mail"
    offered: ClassVar[bool] = False
    darkens: ClassVar[bool] = True

    canvas: TokenText = Field(title="Ground")
    ink: TokenText = Field(title="Ink")
    link: TokenText = Field(title="Links")
    button: TokenText = Field(title="Buttons")
    label: TokenText = Field(title="Labels")
    line: TokenText = Field(title="Borders")

    @property
    def told(self) -> str:
        return f"{self.ink} on {self.canvas}"

    @property
    def targets(self) -> tuple[str, ...]:
        return (self.canvas, self.ink, self.link, self.button, self.label, self.line)
