"""What goes over the wire for gathering: sources, their pictures and pins, and what stands at a place.

Places are columns and rows, in pixels, of the source's own picture: the picture itself, or the board as arranged.
"""

from __future__ import annotations

import uuid
from typing import Annotated

from pydantic import AfterValidator, BaseModel, Field

from pavese.api.schemas import Answer, Candidate, History, Refusal, Sent, SetName, Text
from pavese.core.color.extract import Lean
from pavese.core.gather.source import SourceKind
from pavese.core.gather.web_page import PageUse
from pavese.core.kit.plain import plain_name
from pavese.core.pictures.decode import LONGEST_SIDE
from pavese.core.pictures.sample import Reach

Row = Annotated[int, Field(ge=0, le=LONGEST_SIDE * 4)]
#: What is said of a picture: where it is from, who made it, what may be done with it; may be empty.
Said = Annotated[Text, Field(max_length=300), AfterValidator(lambda text: " ".join(text.split()))]


class SourceEntry(BaseModel):
    """A source in a list; `unstated` counts pictures without stated rights."""

    id: uuid.UUID
    kind: SourceKind
    name: str
    pictures: int
    pins: int
    unstated: int
    fingerprint: str


class PictureView(BaseModel):
    """A picture of a source, with its place in the source's own picture."""

    id: str
    name: str
    notes: list[str]
    box: str | None
    origin: str
    author: str
    rights: str
    scale: float
    x: int
    y: int
    width: int
    height: int


class PinView(BaseModel):
    """A numbered pin with its color; `share` in percent of the picture, of pins that were found."""

    number: int
    x: int
    y: int
    reach: Reach
    alpha: str | None
    share: str | None
    ink: str
    answer: Answer


class UseView(BaseModel):
    """A color of a page in one use."""

    use: PageUse
    hex: str
    ink: str
    places: int
    share: str | None
    example: str


class FontView(BaseModel):
    """A font a page names, and in how many places."""

    name: str
    places: int


class PageView(BaseModel):
    """What a page uses."""

    address: str
    title: str
    uses: list[UseView]
    fonts: list[FontView]
    notes: list[str]


class LookingSent(Sent):
    """How colors are to be found."""

    count: Annotated[int, Field(ge=3, le=12)]
    lean: Lean
    leave_out_ground: bool


class SourceView(BaseModel):
    """A source with everything that is shown of it; `fingerprint` changes whenever its picture does."""

    id: uuid.UUID
    kind: SourceKind
    name: str
    width: int
    height: int
    fingerprint: str
    pictures: list[PictureView]
    pins: list[PinView]
    looking: LookingSent
    note: str
    page: PageView | None
    unstated: int
    candidates: list[Candidate]
    history: History


class Dropped(BaseModel):
    """What became of a drop: the source it made or filled, the colors of files with codes, the refused with reasons."""

    taken: int
    source: SourceView | None
    codes: list[Candidate]
    refused: list[Refusal]


class AddressSent(Sent):
    """A page's address; without `http://` in front, that is added."""

    address: Annotated[Text, Field(min_length=1, max_length=2000)]


class SourceChange(Sent):
    """A new name for a source; `was` is the one that it takes the place of."""

    name: Annotated[SetName, AfterValidator(plain_name)]
    was: SetName | None = None


class PictureChange(Sent):
    """What to change of a picture; fields left out stay. `scale` is its size beside the others of a board."""

    origin: Said | None = None
    author: Said | None = None
    rights: Said | None = None
    scale: Annotated[float, Field(ge=0.4, le=3)] | None = None


class PictureOrder(Sent):
    """The ids of all pictures in their new order."""

    ids: Annotated[list[str], Field(max_length=100)]


class NewPin(Sent):
    """A pin to be set."""

    x: Row
    y: Row
    reach: Reach = Reach.POINT


class PinChange(Sent):
    """What to change of a pin: its place, its reach, or its number."""

    x: Row | None = None
    y: Row | None = None
    reach: Reach | None = None
    number: Annotated[int, Field(ge=1, le=100)] | None = None


class Spot(BaseModel):
    """What stands at a place: the color, whether it is one of ours, and the pixels around it (None: nothing there)."""

    x: int
    y: int
    alpha: str | None
    ink: str
    answer: Answer
    notations: dict[str, str]
    around: list[list[str | None]]
