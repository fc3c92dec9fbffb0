"""Editions as they are shown and handed over."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from fastapi import Query
from fastapi.responses import Response
from sqlalchemy.orm import Session

from pavese.api.editions.schemas import (
    DifferenceView,
    EditionEntry,
    FormView,
    HandOverChoices,
    LinkView,
    UnresolvedView,
)
from pavese.api.files.zips import attached
from pavese.core.formats.document import Notation, Preview
from pavese.core.handoff.card import swatch_card
from pavese.core.handoff.deck_template import of_each_layout
from pavese.core.handoff.forms import FORMS, OPEN_DECKS, KitForm, file_name
from pavese.core.handoff.published import CodeKind, Language, Part, Published, SheetWishes
from pavese.core.handoff.sheet import sheet_files
from pavese.core.kit.compare import Difference
from pavese.core.kit.edition import Snapshot, Unresolved
from pavese.render.fonts import letters
from pavese.render.pool import DrawingPool
from pavese.render.rendering import open_deck
from pavese.settings import settings
from pavese.store import contents, editions
from pavese.store.database import now
from pavese.store.models import EditionRow, Link

#: Longer side of a swatch card as PNG, in pixels.
_CARD_SIDE = 2048


class Chosen:
    """The choices of whoever takes an edition, as they stand in the address."""

    def __init__(
        self,
        codes: list[CodeKind] = Query(default=[CodeKind.HEX, CodeKind.RGB]),  # noqa: B008
        parts: list[Part] = Query(default=list(Part)),  # noqa: B008
        language: Language = Language.EN,
    ) -> None:
        self.choice = SheetWishes(tuple(dict.fromkeys(codes)), frozenset(parts), language)


def entry_view(row: EditionRow) -> EditionEntry:
    """An edition in a list."""
    colors = [color.base.hex for color in editions.content_of(row).kit.colors]
    return EditionEntry(number=row.number, note=row.note, who=row.who, at=row.made_at, digest=row.digest, colors=colors)


def difference_views(found: Sequence[Difference]) -> list[DifferenceView]:
    """Differences in words and codes."""
    return [
        DifferenceView(
            kind=one.kind,
            text=one.text,
            before=one.before.hex if one.before else None,
            after=one.after.hex if one.after else None,
        )
        for one in found
    ]


def unresolved_views(found: Sequence[Unresolved]) -> list[UnresolvedView]:
    """What is unresolved."""
    return [UnresolvedView(text=one.text, blocks=one.blocks) for one in found]


def link_view(session: Session, link: Link, token: str | None = None) -> LinkView:
    """A link; its path only when the token is known, which is when it is made."""
    ended = link.ends_at <= now(session)
    return LinkView(
        id=link.id,
        edition=link.edition.number if link.edition else 0,
        sets=[one.name for one in link.sets],
        who=link.who,
        at=link.made_at,
        ends_at=link.ends_at,
        state="revoked" if link.revoked_at else "expired" if ended else "works",
        path=f"/shared/{token}" if token else None,
    )


def form_views() -> list[FormView]:
    """Every form."""
    return [FormView(form=form, ending=of.ending, about=of.about, heeds=list(of.heeds)) for form, of in FORMS.items()]


def choices_view() -> HandOverChoices:
    """Everything that can be chosen."""
    return HandOverChoices(forms=form_views(), codes=list(CodeKind), parts=list(Part), languages=list(Language))


def published(session: Session, row: EditionRow) -> Published:
    """An edition for the writers."""
    return Published(
        content=editions.content_of(row),
        number=row.number,
        day=row.made_at.date(),
        note=row.note,
        digest=row.digest,
        picture=lambda key: contents.data(session, key),
    )


def draft_published(session: Session, content: Snapshot, day: date) -> Published:
    """A draft as it stood on a day, for the writers."""
    return Published(
        content=content,
        number=0,
        day=day,
        note="",
        digest=content.digest,
        picture=lambda key: contents.data(session, key),
    )


def written(given: Published, form: KitForm, choice: SheetWishes, drawing: DrawingPool) -> bytes:
    """An edition in a form."""
    of = FORMS[form]
    if of.write is not None:
        return of.write(given, choice)
    if form is KitForm.CARD_PNG:
        return drawing.png(Preview(Notation.VECTOR, swatch_card(given, choice)), _CARD_SIDE)
    if form in OPEN_DECKS:
        return open_deck(drawing, of_each_layout(given, OPEN_DECKS[form]), given.kit)
    faces = [given.picture(face.key) for face in given.kit.type.own]
    return drawing.pdf(sheet_files(given, choice, letters(settings().fonts_dir)), given.day, faces)


def handed_over(given: Published, form: KitForm, choice: SheetWishes, drawing: DrawingPool) -> Response:
    """An edition in a form, as a download."""
    body = written(given, form, choice, drawing)
    return Response(body, media_type=FORMS[form].media_type, headers=attached(file_name(given, form)))
