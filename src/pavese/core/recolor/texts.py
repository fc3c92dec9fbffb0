"""Texts that must be read, and what they stand on."""

from __future__ import annotations

from dataclasses import dataclass

from pavese.core.color.srgb import Rgba

#: From these sizes on a text is large (WCAG 2.2, "large scale": 18 pt, or 14 pt bold), in CSS pixels.
LARGE_PX, LARGE_BOLD_PX = 24.0, 18.66
#: Where nothing is drawn below a text, it stands on whatever the file is shown on.
BARE = Rgba(0, 0, 0, 0.0)


@dataclass(frozen=True)
class Text:
    """A text as its file says it: `ink` is its paint, `opacity` what veils it beside the paint's own alpha; `size` is
    in CSS pixels at the file's own size; `selectors` are those of its site."""

    text: str
    ink: Rgba
    opacity: float
    size: float
    bold: bool
    selectors: tuple[str, ...] = ()

    @property
    def large(self) -> bool:
        """Whether it is large text."""
        return self.size >= LARGE_PX or (self.bold and self.size >= LARGE_BOLD_PX)


@dataclass(frozen=True)
class TextRun:
    """A text on one of the grounds it stands on (`BARE`: on nothing; None: a picture or a gradient)."""

    text: Text
    ground: Rgba | None
