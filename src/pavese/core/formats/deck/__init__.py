"""Slide decks (Office Open XML), recolored in place: their theme first, then what is typed in."""

from __future__ import annotations

from pavese.core import limits
from pavese.core.formats.deck.document import DeckDocument, read_deck
from pavese.core.formats.format import Can, Format
from pavese.core.formats.told import is_deck
from pavese.core.recolor.faces import KitTypefaces
from pavese.core.recolor.pictures import PictureGrounds
from pavese.core.recolor.typed import TypedCodes

__all__ = ["DECK", "DeckDocument", "read_deck"]

DECK = Format(
    key="deck",
    title="Slide deck",
    words="slide decks (.pptx)",
    endings=(".pptx", ".potx", ".ppsx", ".pptm", ".potm", ".ppsm"),
    media_type="application/vnd.openxmlformats-officedocument.presentationml.presentation",
    matches=is_deck,
    read=read_deck,
    can=frozenset((Can.EXACT, Can.PAGES, Can.TEXTS, Can.SLIDES, Can.THEME, Can.PICTURES)),
    acts=(KitTypefaces.key, PictureGrounds.key, TypedCodes.key),
    channel="slides",
    seconds=90.0,
    largest=limits.DECK_PACKED_BYTES,
)
