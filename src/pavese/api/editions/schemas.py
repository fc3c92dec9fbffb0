"""What goes over the wire about editions, links, and what is handed over of them."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from pavese.api.schemas import Note, Sent
from pavese.core.handoff.forms import KitForm
from pavese.core.handoff.published import CodeKind, Language, Part
from pavese.core.kit.compare import DifferenceKind


class EditionEntry(BaseModel):
    """An edition in a list."""

    number: int
    note: str
    who: str
    at: datetime
    digest: str
    colors: list[str]


class UnresolvedView(BaseModel):
    """Something to know before publishing; `blocks` says that nothing can be published like this."""

    text: str
    blocks: bool


class DifferenceView(BaseModel):
    """A difference in words; for a color the codes before and after, for a pair text and ground."""

    kind: DifferenceKind
    text: str
    before: str | None
    after: str | None


class PublishView(BaseModel):
    """What the next edition would be: its number, what is unresolved, and how it differs from the one before."""

    number: int
    unresolved: list[UnresolvedView]
    differences: list[DifferenceView]
    unchanged: bool


class CompareView(BaseModel):
    """What differs between two states of a kit; `old` and `new` name them."""

    old: str
    new: str
    differences: list[DifferenceView]


class PublishSent(Sent):
    """A note to go with an edition."""

    note: Note = ""


class EditionsView(BaseModel):
    """The editions of a kit, newest first, and how the draft stands to the newest."""

    editions: list[EditionEntry]
    draft_differs: int


class LinkSent(Sent):
    """How long a link works, and the sets that it shows."""

    days: Annotated[int, Field(ge=1, le=365)] = 30
    sets: Annotated[tuple[uuid.UUID, ...], Field(max_length=40)] = ()


class LinkView(BaseModel):
    """A link to an edition, or to the draft as it was (0), with the names of the sets it shows; its address is told
    once, when it is made."""

    id: uuid.UUID
    edition: int
    sets: list[str]
    who: str
    at: datetime
    ends_at: datetime
    state: str
    path: str | None


class FormView(BaseModel):
    """A form in which an edition is handed over, and the choices it heeds."""

    form: KitForm
    ending: str
    about: str
    heeds: list[str]


class HandOverChoices(BaseModel):
    """Everything that can be chosen of an edition."""

    forms: list[FormView]
    codes: list[CodeKind]
    parts: list[Part]
    languages: list[Language]


class ImportedView(BaseModel):
    """A kit that came in from a file, and what was left out or changed."""

    id: uuid.UUID
    name: str
    notes: list[str]
