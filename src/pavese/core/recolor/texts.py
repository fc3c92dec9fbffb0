"""Texts that must be read, and what they stand on."""

from __future__ import annotations

from dataclasses import dataclass

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind

#: From these sizes on a text is large (WCAG 2.2, "large scale": 18 pt, or 14 pt bold), in CSS pixels.
LARGE_PX, LARGE_BOLD_PX = 24.0, 18.66
#: Where nothing is drawn below a text, it stands on whatever the file is shown on.
BARE = Rgba(0, 0, 0, 0.0)


@dataclass(frozen=True)
class Text:
    """A text as its file says it: `ink` is its paint, `opacity` what veils it beside the paint's own alpha; `size` is
    in CSS pixels at the file's own size; `selectors` and `kind` are those of its site."""

    text: str
    ink: Rgba
    opacity: float
    size: float
    bold: bool
    selectors: tuple[str, ...] = ()
    kind: Kind = Kind.TEXT

    @property
    def large(self) -> bool:
        """Whether it is large text."""
        return self.size >= LARGE_PX or (self.bold and self.size >= LARGE_BOLD_PX)


@dataclass(frozen=True)
class TextRun:
    """A text on one of the grounds it stands on (`BARE`: on nothing; None: a picture or a gradient). `kind` and
    `selectors` are those of the ground's site, where it is known which that is. `dark` is one that is so in the dark
    only; `page` is the selector of the page on which it is seen, in files that have such."""

    text: Text
    ground: Rgba | None
    kind: Kind | None = None
    selectors: tuple[str, ...] = ()
    dark: bool = False
    page: str = ""

    def becomes(self, to: Recoloring) -> tuple[Rgb, Rgb | None]:
        """What its ink and its ground become; None for a ground that is no color."""
        ink = to.at(self.text.ink, self.text.kind, self.text.selectors)
        if self.ground is None:
            return ink or self.text.ink.rgb, None
        ground = to.get(self.ground) if self.kind is None else to.at(self.ground, self.kind, self.selectors)
        return ink or self.text.ink.rgb, ground or self.ground.rgb
