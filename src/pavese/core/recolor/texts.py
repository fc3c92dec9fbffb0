"""Texts that must be read, and what they stand on."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import chain
from typing import NamedTuple

from pavese.core.color.derived import Transform, derived
from pavese.core.color.overlay import mixed
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind

#: From these sizes on a text is large (WCAG 2.2, "large scale": 18 pt, or 14 pt bold), in CSS pixels.
LARGE_PX, LARGE_BOLD_PX = 24.0, 18.66
#: From this share on a mixture is mostly one of its parts.
_MOSTLY = 0.5
#: Of so much of what is seen below a text it must be known what it is made of.
MOSTLY_KNOWN = 0.75
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
    def shows(self) -> float:
        """How much of its ground it hides, 0 to 1."""
        return self.ink.alpha * self.opacity

    @property
    def large(self) -> bool:
        """Whether it is large text."""
        return self.size >= LARGE_PX or (self.bold and self.size >= LARGE_BOLD_PX)


class Part(NamedTuple):
    """What a site has in a color that is seen: its paint, which share of it (0 to 1), and what a style makes of it
    before (`through`). `kind` and `selectors` are those of the site, where it is known which that is."""

    paint: Rgba
    kind: Kind | None = None
    selectors: tuple[str, ...] = ()
    share: float = 1.0
    through: tuple[Transform, ...] = ()

    @property
    def color(self) -> Rgb:
        """What is seen of it, as the file came."""
        return derived(self.paint.rgb, self.through).rgb

    def becomes(self, to: Recoloring) -> Rgb:
        """What is seen of it then."""
        found = to.get(self.paint) if self.kind is None else to.at(self.paint, self.kind, self.selectors)
        return derived(found or self.paint.rgb, self.through).rgb


class Sides(NamedTuple):
    """A ground that does not reach the edges of a narrow screen (`inner`), and the one that lies beside it there."""

    outer: Part
    inner: Part


class Seen(NamedTuple):
    """A color that is seen below a text and is no paint of its own, as the file came: of a picture, a gradient, or
    something behind a veil. What no part says of it stays, as a photograph does where nothing is said of what no paint
    tells; without `parts` (None) it is not known what does."""

    color: Rgb
    parts: tuple[Part, ...] | None = ()

    def becomes(self, to: Recoloring) -> Rgb | None:
        """What it becomes; None where that is not known. Engines mix colors in sRGB, so that what a part moves, its
        share moves."""
        if self.parts is None:
            return None
        if not self.parts and to.rest is not None:
            return to.rest
        gone = ((-part.share, part.color) for part in self.parts)
        return mixed(self.color, chain(gone, ((part.share, part.becomes(to)) for part in self.parts)))


@dataclass(frozen=True)
class TextRun:
    """A text on one of the grounds it stands on (`BARE`: on nothing; None: a picture, a gradient and the like, of which
    colors may be `seen`, from the darkest to the lightest). `kind` and `selectors` are those of the ground's site,
    where it is known which that is. `dark` is one that is so in the dark only; `page` is the selector of the page on
    which it is seen, in files that have such."""

    text: Text
    ground: Rgba | None
    kind: Kind | None = None
    selectors: tuple[str, ...] = ()
    dark: bool = False
    page: str = ""
    seen: tuple[Seen, ...] = ()

    @property
    def followed(self) -> tuple[Seen, ...]:
        """What is seen below it and known to be made of what, where that is most of it."""
        known = tuple(one for one in self.seen if one.parts is not None)
        return known if len(known) >= MOSTLY_KNOWN * len(self.seen) else ()

    @property
    def told(self) -> bool:
        """Whether it is known what its ground is, and becomes."""
        return self.ground is not None or bool(self.followed)

    @property
    def planned_on(self) -> tuple[Seen, ...]:
        """What it has to be read on where a plan is made: where it is not known what becomes of that, as it is now,
        since what is dark stays so."""
        return self.followed or self.settled().seen

    def settled(self) -> TextRun:
        """The same on what is seen below it now, whatever says that."""
        return replace(self, seen=tuple(one._replace(parts=()) for one in self.seen))

    def inked(self, to: Recoloring) -> Rgb:
        """What its ink becomes."""
        return to.at(self.text.ink, self.text.kind, self.text.selectors) or self.text.ink.rgb

    def grounded(self, to: Recoloring) -> Iterator[tuple[Rgba, Rgba]]:
        """What it stands on as the file came, and what that becomes; nothing where that is not known."""
        if self.ground is not None:
            yield self.ground, Rgba(*Part(self.ground, self.kind, self.selectors).becomes(to), self.ground.alpha)
            return
        yield from ((Rgba(*one.color), Rgba(*(one.becomes(to) or one.color))) for one in self.followed)

    def below(self) -> Iterator[Part]:
        """The paints that it stands on, or that most of a mixture below it is, each once."""
        if self.ground is not None and self.ground != BARE:
            yield Part(self.ground, self.kind, self.selectors)
        found: dict[Part, None] = {}
        for one in self.followed:
            shares: dict[Part, float] = {}
            for part in one.parts or ():
                of = part._replace(share=1.0, through=())
                shares[of] = shares.get(of, 0.0) + part.share
            found.update((of, None) for of, share in shares.items() if share >= _MOSTLY)
        yield from found
