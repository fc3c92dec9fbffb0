"""A source of colors: one picture, a board of several, or a page with its picture; and the pins set on it.

A pin belongs to a picture and stands at a share of its width and height, so that it goes along when a board is
arranged anew. All functions give a changed source; nothing is changed in place.
"""

from __future__ import annotations

from collections.abc import Sequence
from enum import StrEnum

from pydantic import BaseModel, ConfigDict, Field

from pavese.core.color.extract import FEWEST, MOST, Finding, FoundColor, Lean
from pavese.core.errors import PaveseError
from pavese.core.gather.web_page import PageReading
from pavese.core.kit.token import RgbCode
from pavese.core.pictures.board import GAP, WHOLE, WIDTH, Part, Placed, arrange
from pavese.core.pictures.sample import Reach

MOST_PICTURES = 60
#: How far down a picture that was laid on a board by hand may reach, in pixels.
LOWEST = 40_000
#: Least share of a picture's width and height that is shown.
LEAST_PART = 0.02
MOST_PINS = 60


class InvalidSourceError(PaveseError):
    """A change of a source that cannot be made."""


class SourceKind(StrEnum):
    """What a source is."""

    PICTURE = "picture"
    BOARD = "board"
    PAGE = "page"


class Looking(BaseModel):
    """How colors are found; see `extract.Finding`."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    count: int = Field(default=6, ge=FEWEST, le=MOST)
    lean: Lean = Lean.BALANCED
    leave_out_ground: bool = False

    def finding(self) -> Finding:
        """The same for the computation."""
        return Finding(self.count, self.lean, self.leave_out_ground)


class Lying(BaseModel):
    """Where a person laid a picture on a board, and how wide, in pixels of the board; its height follows."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    x: int = Field(ge=0, lt=WIDTH)
    y: int = Field(ge=0, lt=LOWEST)
    width: int = Field(ge=1, le=WIDTH)


class SourcePicture(BaseModel):
    """A picture: `digest` names the pixels, `original` the file as it came.

    On a board, `scale` is its size in a row, `part` what of it is shown, and `lies` where a person laid it. `box` is
    the color of the box round what it shows, where there is one. Origin, author and rights are what its owner
    says of it; no rights stated is worth a remark.
    """

    model_config = ConfigDict(frozen=True)

    id: str
    name: str
    digest: str
    original: str
    width: int
    height: int
    notes: tuple[str, ...] = ()
    box: RgbCode | None = None
    origin: str = ""
    author: str = ""
    rights: str = ""
    scale: float = Field(default=1, ge=0.4, le=3)
    part: Part = WHOLE
    lies: Lying | None = None

    @property
    def aspect(self) -> float:
        """Width by height of the part that is shown."""
        return (self.width * self.part.across) / (self.height * self.part.down)

    def laid(self, lies: Lying) -> Placed:
        """Its place, laid there."""
        return Placed(lies.x, lies.y, lies.width, max(round(lies.width / self.aspect), 1))


class Pin(BaseModel):
    """A numbered sample point: its place as a share (0 to 1) of its picture, its color, and, if found, its share."""

    model_config = ConfigDict(frozen=True)

    picture: str
    x: float = Field(ge=0, le=1)
    y: float = Field(ge=0, le=1)
    reach: Reach = Reach.POINT
    color: RgbCode
    alpha: float = 1
    share: float | None = None


class Source(BaseModel):
    """A source; a pin's number is its place in `pins`, from 1."""

    model_config = ConfigDict(frozen=True)

    kind: SourceKind
    name: str
    pictures: tuple[SourcePicture, ...]
    pins: tuple[Pin, ...] = ()
    looking: Looking = Looking()
    note: str = ""
    page: PageReading | None = None

    @property
    def unstated(self) -> int:
        """How many of its pictures have no stated rights; a page's own picture asks for none."""
        if self.kind is SourceKind.PAGE:
            return 0
        return sum(not picture.rights for picture in self.pictures)

    def picture(self, picture_id: str) -> SourcePicture:
        """One of its pictures. Raises InvalidSourceError when there is none with this id."""
        for picture in self.pictures:
            if picture.id == picture_id:
                return picture
        raise InvalidSourceError("This picture is not there any more.")

    def pin(self, number: int) -> Pin:
        """A pin by its number. Raises InvalidSourceError when there is none."""
        if not 1 <= number <= len(self.pins):
            raise InvalidSourceError(f"There is no pin {number}.")
        return self.pins[number - 1]

    def places(self) -> tuple[list[Placed], int]:
        """Where its pictures lie, in pixels of the source's own picture, and that picture's height."""
        if self.kind is not SourceKind.BOARD:
            only = self.pictures[0]
            return [Placed(0, 0, only.width, only.height)], only.height
        laid = [picture.laid(picture.lies) if picture.lies else None for picture in self.pictures]
        top = max((place.y + place.height for place in laid if place), default=0) + GAP
        # What was added since lies in rows below what was laid by hand.
        in_rows, height = arrange([(one.aspect, one.scale) for one in self.pictures if not one.lies], top)
        left = iter(in_rows)
        return [place or next(left) for place in laid], height

    @property
    def by_hand(self) -> bool:
        """Whether its pictures lie where a person laid them."""
        return any(picture.lies for picture in self.pictures)

    def spot(self, pin: Pin) -> tuple[int, int]:
        """Column and row of a pin in the source's own picture; of one on a part that is not shown, the nearest."""
        at = next(i for i, picture in enumerate(self.pictures) if picture.id == pin.picture)
        place, part = self.places()[0][at], self.pictures[at].part
        across, down = (pin.x - part.left) / part.across, (pin.y - part.top) / part.down
        x = place.x + min(max(int(across * place.width), 0), place.width - 1)
        y = place.y + min(max(int(down * place.height), 0), place.height - 1)
        return x, y

    def shows(self, pin: Pin) -> bool:
        """Whether what is under a pin can be seen: it is neither cut away nor covered by another picture."""
        part = self.picture(pin.picture).part
        if not (part.left <= pin.x <= part.right and part.top <= pin.y <= part.bottom):
            return False
        return self.at(*self.spot(pin))[0] == pin.picture

    def at(self, x: int, y: int) -> tuple[str, float, float]:
        """The uppermost picture at a column and row, and the place in it; the middle of a pixel, so that it is found
        again.

        Raises InvalidSourceError between pictures.
        """
        for picture, place in zip(self.pictures[::-1], self.places()[0][::-1], strict=True):
            if place.holds(x, y):
                part = picture.part
                across, down = (x - place.x + 0.5) / place.width, (y - place.y + 0.5) / place.height
                return picture.id, part.left + across * part.across, part.top + down * part.down
        raise InvalidSourceError("There is no picture at this place.")


def with_found(source: Source, found: Sequence[FoundColor], looking: Looking) -> Source:
    """The source with pins at the colors that were found; pins set by hand stay, behind them."""
    pins = []
    for color in found:
        picture, x, y = source.at(color.x, color.y)
        pins.append(Pin(picture=picture, x=x, y=y, color=color.color, share=color.share))
    by_hand = [pin for pin in source.pins if pin.share is None]
    missing = looking.count - len(found)
    note = ""
    if missing > 0:
        can = "1 color that can be" if len(found) == 1 else f"{len(found) or 'no'} colors that can be"
        note = f"{looking.count} were asked for; the picture holds {can} told apart."
    return source.model_copy(update={"pins": (*pins, *by_hand), "looking": looking, "note": note})


def with_pin(source: Source, pin: Pin, number: int | None = None) -> Source:
    """The source with a pin more, or with another one in the place of `number`."""
    if number is None:
        if len(source.pins) >= MOST_PINS:
            raise InvalidSourceError(f"A source holds at most {MOST_PINS} pins.")
        return source.model_copy(update={"pins": (*source.pins, pin)})
    source.pin(number)
    pins = (*source.pins[: number - 1], pin, *source.pins[number:])
    return source.model_copy(update={"pins": pins})


def without_pin(source: Source, number: int) -> Source:
    """The source without a pin; those behind it move up."""
    source.pin(number)
    return source.model_copy(update={"pins": source.pins[: number - 1] + source.pins[number:]})


def renumbered(source: Source, number: int, to: int) -> Source:
    """The source with a pin given another number; the others make room."""
    pin = source.pin(number)
    source.pin(to)
    left = [*source.pins[: number - 1], *source.pins[number:]]
    left.insert(to - 1, pin)
    return source.model_copy(update={"pins": tuple(left)})


def with_pictures(source: Source, more: Sequence[SourcePicture]) -> Source:
    """The source with pictures added; a single picture becomes a board by it."""
    if source.kind is SourceKind.PAGE:
        raise InvalidSourceError("A page has one picture, its own.")
    if len(source.pictures) + len(more) > MOST_PICTURES:
        raise InvalidSourceError(f"A board holds at most {MOST_PICTURES} pictures.")
    pictures = (*source.pictures, *more)
    kind = SourceKind.BOARD if len(pictures) > 1 else source.kind
    return source.model_copy(update={"pictures": pictures, "kind": kind})


def without_picture(source: Source, picture_id: str) -> Source:
    """The source without a picture and its pins. Raises InvalidSourceError for the last one."""
    source.picture(picture_id)
    if len(source.pictures) == 1:
        raise InvalidSourceError("This is the last picture; remove the whole source instead.")
    pictures = tuple(picture for picture in source.pictures if picture.id != picture_id)
    pins = tuple(pin for pin in source.pins if pin.picture != picture_id)
    return source.model_copy(update={"pictures": pictures, "pins": pins})


def with_order(source: Source, order: Sequence[str]) -> Source:
    """The source with its pictures in the order of these ids, each named once."""
    if sorted(order) != sorted(picture.id for picture in source.pictures):
        raise InvalidSourceError("The new order has to name every picture once; it may have changed meanwhile.")
    return source.model_copy(update={"pictures": tuple(source.picture(picture_id) for picture_id in order)})


def with_picture(source: Source, changed: SourcePicture) -> Source:
    """The source with what is said of one of its pictures changed."""
    source.picture(changed.id)
    pictures = tuple(changed if picture.id == changed.id else picture for picture in source.pictures)
    return source.model_copy(update={"pictures": pictures})


def with_laid(source: Source, picture_id: str, lies: Lying, part: Part) -> Source:
    """The board with one of its pictures laid by hand, showing a part of it; the others stay where they are.

    Raises InvalidSourceError where the source is no board, the picture does not fit on it, or next to nothing of it
    would be shown.
    """
    if source.kind is not SourceKind.BOARD:
        raise InvalidSourceError("Only the pictures of a board are laid by hand.")
    if min(part.across, part.down) < LEAST_PART or min(part.left, part.top, 1 - part.right, 1 - part.bottom) < 0:
        raise InvalidSourceError(f"At least {LEAST_PART:.0%} of a picture's width and height has to be shown.")
    moved = source.picture(picture_id).model_copy(update={"lies": lies, "part": part})
    place = moved.laid(lies)
    if place.x + place.width > WIDTH or place.y + place.height > LOWEST:
        raise InvalidSourceError(f"The picture has to lie on the board, which is {WIDTH} pixels wide.")
    stays = zip(source.pictures, source.places()[0], strict=True)
    pictures = [
        picture if picture.lies else picture.model_copy(update={"lies": Lying(x=at.x, y=at.y, width=at.width)})
        for picture, at in stays
    ]
    return with_picture(source.model_copy(update={"pictures": tuple(pictures)}), moved)


def in_rows(source: Source) -> Source:
    """The board with its pictures set in rows again; what is cut away stays so."""
    pictures = tuple(picture.model_copy(update={"lies": None}) for picture in source.pictures)
    return source.model_copy(update={"pictures": pictures})
