"""Every form in which an edition is handed over; one table, for the interface, the shared page and the shell."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

from pavese.core.handoff.card import swatch_card
from pavese.core.handoff.css import kit_css
from pavese.core.handoff.deck_template import CLASSIC, WIDE, classic_template, deck_template
from pavese.core.handoff.mail import kit_mail
from pavese.core.handoff.open_template import MEDIA_TYPE
from pavese.core.handoff.published import Published, SheetWishes
from pavese.core.handoff.table import kit_table
from pavese.core.handoff.tokens import kit_tokens
from pavese.core.kit.kit import key_for


class KitForm(StrEnum):
    """A form."""

    SHEET = "sheet"
    CARD = "card"
    CARD_PNG = "card-png"
    TOKENS = "tokens"
    CSS = "css"
    TABLE = "table"
    DECK = "deck"
    DECK_CLASSIC = "deck-4-3"
    OPEN_DECK = "open-deck"
    OPEN_DECK_CLASSIC = "open-deck-4-3"
    MAIL = "mail"


@dataclass(frozen=True)
class FormOf:
    """What a form is: its ending, media type, a line about it, and which choices it heeds.

    `write` is None for forms that an engine makes, from the sheet's files, from the card or from a deck.
    """

    ending: str
    media_type: str
    about: str
    heeds: tuple[str, ...]
    write: Callable[[Published, SheetWishes], bytes] | None


_TEMPLATE = "application/vnd.openxmlformats-officedocument.presentationml.template"

FORMS: dict[KitForm, FormOf] = {
    KitForm.SHEET: FormOf(
        "pdf", "application/pdf", "a sheet like a press proof, to print or send", ("codes", "parts", "language"), None
    ),
    KitForm.CARD: FormOf(
        "svg", "image/svg+xml", "swatches with their codes on them", ("codes", "language"), swatch_card
    ),
    KitForm.CARD_PNG: FormOf("png", "image/png", "the same card as a picture", ("codes", "language"), None),
    KitForm.TOKENS: FormOf(
        "tokens.json",
        "application/design-tokens+json",
        "design tokens in the community group's format, the whole kit",
        (),
        lambda published, _: kit_tokens(published.kit).encode(),
    ),
    KitForm.CSS: FormOf(
        "css",
        "text/css",
        "custom properties, with a dark scheme from the inverted roles",
        (),
        lambda published, _: kit_css(published.kit).encode(),
    ),
    KitForm.TABLE: FormOf(
        "csv", "text/csv", "one line a color and step, for spreadsheets", ("codes", "language"), kit_table
    ),
    KitForm.DECK: FormOf(
        "potx",
        _TEMPLATE,
        "a template for slide decks in 16:9: theme, light, dark and colored masters, nine layouts each",
        (),
        deck_template,
    ),
    KitForm.DECK_CLASSIC: FormOf("4-3.potx", _TEMPLATE, "the same template in 4:3", (), classic_template),
    KitForm.OPEN_DECK: FormOf("otp", MEDIA_TYPE, "the same template as OpenDocument, each layout a master", (), None),
    KitForm.OPEN_DECK_CLASSIC: FormOf("4-3.otp", MEDIA_TYPE, "the same as OpenDocument in 4:3", (), None),
    KitForm.MAIL: FormOf(
        "txt", "text/plain; charset=utf-8", "plain text to paste into a mail", ("codes", "parts", "language"), kit_mail
    ),
}


#: Those that an office program makes of a deck, and the size of its slides.
OPEN_DECKS = {KitForm.OPEN_DECK: WIDE, KitForm.OPEN_DECK_CLASSIC: CLASSIC}


def file_name(published: Published, form: KitForm) -> str:
    """`tarnmoor-ferries-3.pdf`."""
    return f"{key_for(published.kit.name)}-{published.number or 'draft'}.{FORMS[form].ending}"
