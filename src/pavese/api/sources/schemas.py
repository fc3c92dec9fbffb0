"""What goes over the wire for gathering: sources, their pictures and pins, and what stands at a place.

Places are columns and rows, in pixels, of the source's own picture: the picture itself, or the board as arranged.
"""

from __future__ import annotations

import uuid
from typing import Annotated

from pydantic import AfterValidator, BaseModel, Field

from pavese.api.schemas import Answer, Candidate, History, Refusal, Sent, SetName, Text
from pavese.core.color.extract import Lean
from pavese.core.gather.source import Lying, SourceKind
from pavese.core.gather.web_page import PageUse
from pavese.core.kit.plain import plain_name
from pavese.core.pictures.board import Part
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


Share = Annotated[float, Field(ge=0, le=1)]


class ShownPart(Sent):
    """The part of a picture that is shown: its edges as shares of the picture's width and height."""

    left: Share = 0
    top: Share = 0
    right: Share = 1
    bottom: Share = 1

    def part(self) -> Part:
        """The same for the computation."""
        return Part(**self.model_dump())

    @classmethod
    def of(cls, part: Part) -> ShownPart:
        """As it goes over the wire."""
        return cls(left=part.left, top=part.top, right=part.right, bottom=part.bottom)


class PictureView(BaseModel):
    """A picture of a source, with its place in the source's own picture and the part of it that is shown there."""

    id: str
    name: str
    digest: str
    notes: list[str]
    box: str | None
    origin: str
    author: str
    rights: str
    scale: float
    part: ShownPart
    x: int
    y: int
    width: int
    height: int


class PinView(BaseModel):
    """A numbered pin with its color; `share` in percent of the picture, of pins that were found. What is under one that
    is not `seen` is cut away, or covered by another picture."""

    number: int
    x: int
    y: int
    seen: bool
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
    """A source with everything that is shown of it; `fingerprint` changes whenever its picture does. The pictures of a
    board lie in rows or, `by_hand`, where a person laid them, later ones over earlier ones."""

    id: uuid.UUID
    kind: SourceKind
    name: str
    width: int
    height: int
    by_hand: bool
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


class Laid(Sent):
    """Where a picture is to lie on its board, and what of it is to be shown."""

    lies: Lying
    part: ShownPart = ShownPart()


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
