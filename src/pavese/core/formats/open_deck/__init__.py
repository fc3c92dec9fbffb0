"""Slide decks (OpenDocument), recolored in place."""

from __future__ import annotations

from pavese.core import limits
from pavese.core.formats.format import Can, Format
from pavese.core.formats.open_deck.document import OpenDeckDocument, read_open_deck
from pavese.core.formats.told import is_open_deck
from pavese.core.recolor.pictures import PictureGrounds

__all__ = ["OPEN_DECK", "OpenDeckDocument", "read_open_deck"]

OPEN_DECK = Format(
    key="open-deck",
    title="Slide deck, OpenDocument",
    words="slide decks in OpenDocument (.odp)",
    endings=(".odp", ".otp"),
    media_type="application/vnd.oasis.opendocument.presentation",
    matches=is_open_deck,
    read=read_open_deck,
    can=frozenset((Can.EXACT, Can.PAGES, Can.TEXTS, Can.SLIDES, Can.PICTURES)),
    acts=(PictureGrounds.key,),
    channel="slides",
    seconds=90.0,
    largest=limits.DECK_PACKED_BYTES,
)
