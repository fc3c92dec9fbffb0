"""Routes for editions: publishing, comparing, restoring, handing over, and links for those outside."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Depends, Path, Query
from fastapi.responses import Response

from pavese.api.context import Drawing
from pavese.api.editions.schemas import (
    CompareView,
    EditionEntry,
    EditionsView,
    HandOverChoices,
    LinkSent,
    LinkView,
    PublishSent,
    PublishView,
)
from pavese.api.editions.views import (
    Chosen,
    choices_view,
    difference_views,
    draft_published,
    entry_view,
    handed_over,
    link_view,
    published,
    unresolved_views,
)
from pavese.api.proving.routes import At, Here
from pavese.api.schemas import KitView
from pavese.api.sets.choices import tried
from pavese.api.sets.views import open_set
from pavese.core.handoff.forms import KitForm
from pavese.core.kit.compare import compare
from pavese.core.kit.edition import unresolved
from pavese.core.kit.kit import Kit
from pavese.store import editions, links, sets
from pavese.store.database import now
from pavese.store.errors import NotFoundError

router = APIRouter(prefix="/api/kits/{kit_id}", tags=["editions"])
Number = Annotated[int, Path(ge=1, lt=2**31)]
NumberOrDraft = Annotated[int, Path(ge=0, lt=2**31)]
#: An edition by its number; 0 is the draft.
State = Annotated[int, Query(ge=0, lt=2**31)]


@router.get("/editions")
def list_editions(at: Here) -> EditionsView:
    """The editions, newest first, and in how many points the draft differs from the newest."""
    found = editions.listed(at.db, at.row.id)
    differs = compare(editions.content_of(found[0]).kit, at.kit) if found else ()
    return EditionsView(editions=[entry_view(row) for row in found], draft_differs=len(differs))


@router.get("/publish")
def look_before_publishing(at: Here) -> PublishView:
    """What is unresolved, and what the next edition would change."""
    content = editions.snapshot(at.db, at.row)
    latest = editions.newest(at.db, at.row.id)
    before = editions.content_of(latest).kit if latest else Kit(name=content.kit.name)
    return PublishView(
        number=latest.number + 1 if latest else 1,
        unresolved=unresolved_views(unresolved(content)),
        differences=difference_views(compare(before, content.kit)),
        unchanged=latest is not None and latest.digest == content.digest,
    )


@router.post("/editions", status_code=201)
def publish(at: Here, sent: PublishSent) -> EditionEntry:
    """Publishes the draft as the next edition."""
    return entry_view(editions.publish(at.db, at.row, sent.note))


@router.get("/compare")
def compare_states(at: Here, old: State, new: State = 0) -> CompareView:
    """What differs between two editions, or an edition and the draft."""
    return CompareView(
        old=_name(old), new=_name(new), differences=difference_views(compare(_state(at, old), _state(at, new)))
    )


@router.post("/editions/{number}/restore")
def restore(at: Here, number: Number) -> KitView:
    """Brings the kit of an edition back into the draft; the editions stay as they are, and it can be undone."""
    old = _state(at, number)
    return at.change(f"Restore edition {number}", lambda _: old)


@router.get("/hand-over")
def hand_over_choices(at: Here) -> HandOverChoices:
    """The forms in which an edition is handed over, and what can be chosen."""
    return choices_view()


@router.get("/editions/{number}/hand-over/{form}", response_class=Response)
def hand_over(
    at: Here, number: NumberOrDraft, form: KitForm, chosen: Annotated[Chosen, Depends()], drawing: Drawing
) -> Response:
    """An edition, or the draft as it stands (0), in a form."""
    if number:
        given = published(at.db, editions.get(at.db, at.row.id, number))
    else:
        given = draft_published(at.db, editions.snapshot(at.db, at.row), now(at.db).date())
    return handed_over(given, form, chosen.choice, drawing)


@router.get("/links")
def list_links(at: Here) -> list[LinkView]:
    """The links to editions of this kit, newest first."""
    return [link_view(at.db, link) for link in links.listed(at.db, at.row.id)]


@router.post("/editions/{number}/links", status_code=201)
def make_link(at: Here, number: NumberOrDraft, sent: LinkSent) -> LinkView:
    """A link to an edition, or to the draft as it is now (0), that works without signing in, with sets in its colors;
    its address is told this once."""
    edition = editions.get(at.db, at.row.id, number) if number else None
    link, token = links.make(at.db, at.row, edition, sent.days)
    kit = links.content_of(link).kit
    for set_id in dict.fromkeys(sent.sets):
        opened = open_set(at.db, sets.get(at.db, set_id))
        if opened.row.kit_id != at.row.id:
            raise NotFoundError("This set is not of this kit.")
        shown = tried(opened, kit)
        links.show_set(at.db, link, opened.row.name, shown.plan, shown.handed)
    return link_view(at.db, link, token)


@router.delete("/links/{link_id}")
def revoke_link(at: Here, link_id: uuid.UUID) -> LinkView:
    """Ends a link at once."""
    return link_view(at.db, links.revoke(at.db, at.row.id, link_id))


def _state(at: At, number: int) -> Kit:
    return editions.content_of(editions.get(at.db, at.row.id, number)).kit if number else at.kit


def _name(number: int) -> str:
    return f"edition {number}" if number else "the draft"
