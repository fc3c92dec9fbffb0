"""The typefaces of a kit by name, and what stands in for one that is not there.

The kinds are those of CSS Fonts 4, section 2.1.3 (generic families); a name tells its kind by the words the trade puts
into names, or because offices have had that face for decades.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum

from pydantic import BaseModel, ConfigDict, Field


class TypefaceKind(StrEnum):
    """A kind of typeface."""

    SERIF = "serif"
    SANS = "sans"
    MONO = "monospace"


class Typefaces(BaseModel):
    """The headline and the text face by name; empty where none is set."""

    model_config = ConfigDict(frozen=True)

    headline: str = Field(default="", max_length=80)
    text: str = Field(default="", max_length=80)


@dataclass(frozen=True)
class StandIn:
    """The open face shipped here that is shown for a named one; `same` when it is that very face."""

    wanted: str
    face: str
    kind: TypefaceKind
    same: bool
    why: str


#: What ships with the application, by kind; the first of a kind stands in for it.
SHIPPED: dict[TypefaceKind, str] = {
    TypefaceKind.SANS: "Commissioner",
    TypefaceKind.SERIF: "Source Serif 4",
    TypefaceKind.MONO: "Spline Sans Mono",
}

_WORDS: tuple[tuple[TypefaceKind, str], ...] = (
    (TypefaceKind.MONO, r"\b(mono|monospace[d]?|code|console|typewriter|courier|consolas|menlo)\b"),
    (TypefaceKind.SANS, r"\b(sans|grotes[ck]\w*|gothic|neue?|linear|gill|futura|frutiger|univers|din)\b"),
    (
        TypefaceKind.SERIF,
        r"\b(serif|slab|roman|antiqua|times|garamond|georgia|palatino|baskerville|bodoni|caslon|didot|cambria|"
        r"century|bookman|minion|old\s?style|text\s?book|display\s?serif)\b",
    ),
)


def stand_in(wanted: str) -> StandIn | None:
    """The shipped face for a name; None for an empty name.

    >>> stand_in("Harbor Antiqua").face
    'Source Serif 4'
    """
    name = " ".join(wanted.split())
    if not name:
        return None
    for kind, face in SHIPPED.items():
        if face.casefold() == name.casefold():
            return StandIn(name, face, kind, True, "shipped with the application")
    for kind, pattern in _WORDS:
        told = re.search(pattern, name.casefold())
        if told:
            return StandIn(name, SHIPPED[kind], kind, False, f"“{told[0]}” in its name tells a {kind.value} face")
    return StandIn(
        name, SHIPPED[TypefaceKind.SANS], TypefaceKind.SANS, False, "its name tells no kind; a sans is shown"
    )
