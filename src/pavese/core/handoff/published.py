"""What is handed over of an edition, and the choices of whoever takes it: code kinds, parts, language of notes."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from pavese.core.color.contrast import contrast_ratio, shown
from pavese.core.color.notations import notations
from pavese.core.color.srgb import Rgb
from pavese.core.kit.decisions import Status
from pavese.core.kit.edition import Snapshot
from pavese.core.kit.kit import Kit
from pavese.core.kit.rules import Use
from pavese.core.kit.token import parse_token


class CodeKind(StrEnum):
    """A way of writing a color. CMYK is naive: computed without a profile, a hint for the printer and no more."""

    HEX = "hex"
    RGB = "RGB"
    HSL = "HSL"
    HSB = "HSB"
    OKLCH = "OKLCH"
    CMYK = "CMYK"


class Part(StrEnum):
    """A part of a sheet, in the order they stand in."""

    COLORS = "colors"
    RAMPS = "ramps"
    PAIRS = "pairs"
    TRIOS = "trios"
    RULES = "rules"
    PROPORTIONS = "proportions"
    SEE_THROUGH = "see-through"
    STATES = "states"
    LOGO = "logo"
    SOURCES = "sources"


class Language(StrEnum):
    """The language of headings and notes (BCP 47); what people wrote themselves stays as it is."""

    EN = "en"
    DE = "de"
    FR = "fr"


@dataclass(frozen=True)
class SheetWishes:
    """What somebody wants of an edition."""

    codes: tuple[CodeKind, ...] = (CodeKind.HEX, CodeKind.RGB)
    parts: frozenset[Part] = frozenset(Part)
    language: Language = Language.EN


@dataclass(frozen=True)
class Published:
    """An edition, or the draft as it stands (number 0).

    `picture` gives the bytes of one of its logo pictures by their hash.
    """

    content: Snapshot
    number: int
    day: date
    note: str
    digest: str
    picture: Callable[[str], bytes]

    @property
    def kit(self) -> Kit:
        """Its kit."""
        return self.content.kit


@dataclass(frozen=True)
class ApprovedPair:
    """A pair as it is told to others; `ratio` is cut to two decimals."""

    text: str
    ground: str
    ink: Rgb
    fill: Rgb
    ratio: str
    use: Use
    note: str


def approved_pairs(kit: Kit) -> list[ApprovedPair]:
    """The approved pairs in the order they were decided."""
    found = []
    for decision in kit.decisions:
        if decision.status is Status.APPROVED:
            text, ground = parse_token(decision.text), parse_token(decision.ground)
            ink, fill = kit.resolve(text), kit.resolve(ground)
            ratio = shown(contrast_ratio(ink, fill))
            found.append(
                ApprovedPair(kit.title(text), kit.title(ground), ink, fill, ratio, decision.use, decision.note)
            )
    return found


def code(color: Rgb, kind: CodeKind) -> str:
    """A color written in one way."""
    return _cmyk(color) if kind is CodeKind.CMYK else notations(color)[kind.value]


def _cmyk(color: Rgb) -> str:
    """`cmyk(c m y k)` in percents, naive: black is what is left of white, inks are what the rest lacks."""
    most = max(color)
    if most == 0:
        return "cmyk(0 0 0 100)"
    inks = [round(100 * (most - channel) / most) for channel in color]
    return f"cmyk({' '.join(map(str, inks))} {round(100 - 100 * most / 255)})"
