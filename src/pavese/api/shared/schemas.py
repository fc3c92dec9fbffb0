"""What goes over the wire to whoever has a link."""

from __future__ import annotations

import uuid
from datetime import datetime

from pydantic import BaseModel

from pavese.api.editions.schemas import FormView
from pavese.api.proving.schemas import PairsView, RulesView, SeeThroughView
from pavese.api.schemas import ColorView
from pavese.api.typefaces.schemas import TypeView


class SharedLogo(BaseModel):
    """The logo picture to show, and what it stands out from: a ground of the kit or its backing, as a code."""

    key: str
    behind: str


class SharedSet(BaseModel):
    """A set in the colors of the kit."""

    id: uuid.UUID
    name: str
    files: int


class SharedFile(BaseModel):
    """A file of such a set, with the fingerprint of its picture."""

    id: int
    name: str
    fingerprint: str


class SharedView(BaseModel):
    """A state of a kit as anyone with its link sees it: an edition, or a draft as it was then (number 0)."""

    name: str
    number: int
    note: str
    who: str
    at: datetime
    digest: str
    colors: list[ColorView]
    pairs: PairsView
    rules: RulesView
    see_through: list[SeeThroughView]
    type: TypeView
    logo: SharedLogo | None
    sets: list[SharedSet]
    forms: list[FormView]
