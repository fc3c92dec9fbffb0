"""What is done where a person points in a picture made of pixels: things in other colors, parts that go their own way,
and room for a headline."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated, ClassVar, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator

from pavese.core.kit.token import TokenText
from pavese.core.recolor.act import Act

#: Things of one picture, presses on one, strokes, and places of a stroke.
_THINGS, _PRESSES, _STROKES, _POINTS = 8, 20, 60, 400
#: Parts of one picture that go their own way.
MOST_PARTS = 12
#: A part of a picture's width or height.
_Part = Annotated[float, Field(ge=0, le=1)]


class _Said(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class PicturePlace(_Said):
    """A place, as parts of width and height."""

    x: _Part
    y: _Part


class BrushStroke(_Said):
    """What a brush covers along some places belongs, or does not; `width` is a part of the picture's longer side."""

    adds: bool
    width: Annotated[float, Field(gt=0, le=0.5)]
    points: Annotated[tuple[PicturePlace, ...], Field(min_length=1, max_length=_POINTS)]


class PointedAt(_Said):
    """A thing that was pointed at. What belongs to it is up to `hue` degrees away, has up to `faint` percent less
    chroma, and is up to `light` percent lighter or darker; if `together`, it hangs together."""

    spots: Annotated[tuple[PicturePlace, ...], Field(min_length=1, max_length=_PRESSES)]
    hue: Annotated[int, Field(ge=3, le=70)] = 22
    faint: Annotated[int, Field(ge=0, le=95)] = 60
    light: Annotated[int, Field(ge=3, le=100)] = 40
    together: bool = True
    strokes: Annotated[tuple[BrushStroke, ...], Field(max_length=_STROKES)] = ()


class PointedObject(PointedAt):
    """A thing and the color that it gets."""

    color: TokenText


class ObjectColors(Act):
    """Things of a picture in kit colors: what is middling of each becomes the color, lights and shades stay."""

    key: ClassVar[str] = "objects"
    title: ClassVar[str] = "Things"
    words: ClassVar[str] = "things of a picture, pointed at, in kit colors"
    offered: ClassVar[bool] = False
    by_place: ClassVar[bool] = True
    still: ClassVar[bool] = True

    objects: tuple[PointedObject, ...] = Field(default_factory=tuple, max_length=_THINGS, title="Things")

    @property
    def told(self) -> str:
        return f"{len(self.objects)} in kit colors"

    @property
    def targets(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(one.color for one in self.objects))


class Spread(StrEnum):
    """How far a veil reaches."""

    FADING = "fading out"
    PLACE = "the place alone"
    WHOLE = "the whole picture"


class Headlines(StrEnum):
    """How large a headline is: what it needs to read (WCAG 2.2, 1.4.3)."""

    LARGE = "large, 3:1"
    SMALL = "small, 4.5:1"

    @property
    def level(self) -> float:
        return 3.0 if self is Headlines.LARGE else 4.5


class Region(_Said):
    """A part of a picture, as it is seen, in parts of its width and height."""

    left: _Part
    top: _Part
    width: Annotated[float, Field(gt=0, le=1)]
    height: Annotated[float, Field(gt=0, le=1)]

    @model_validator(mode="after")
    def _inside(self) -> Self:
        if self.left + self.width > 1.0001 or self.top + self.height > 1.0001:
            raise ValueError("it reaches beyond the picture")
        return self

    def shared(self, other: Region) -> float:
        """How much of what two cover is covered by both, 0 to 1."""
        wide = min(self.left + self.width, other.left + other.width) - max(self.left, other.left)
        tall = min(self.top + self.height, other.top + other.height) - max(self.top, other.top)
        both = max(wide, 0) * max(tall, 0)
        return both / (self.width * self.height + other.width * other.height - both)


class PartWay(StrEnum):
    """What becomes of a part of a picture."""

    COLORS = "what stands in it keeps its colors"
    WHOLE = "it stays as it came"
    PHOTOGRAPH = "it is a photograph"
    DRAWN = "it is drawn"
    LOGO = "the kit's logo is in its place"


class PicturePart(_Said):
    """A part of a picture, and what becomes of it."""

    region: Region
    way: PartWay = PartWay.COLORS


class PictureParts(Act):
    """Parts of a picture that go their own way: a sign of a partner that keeps its colors on a ground that changes, a
    panel that is no photograph, a sky that is part of one, an old logo that gives way to the kit's."""

    key: ClassVar[str] = "parts"
    title: ClassVar[str] = "Parts"
    words: ClassVar[str] = "parts of a picture, framed, that keep their colors or are told as what they are"
    offered: ClassVar[bool] = False
    by_place: ClassVar[bool] = True
    still: ClassVar[bool] = True

    parts: tuple[PicturePart, ...] = Field(default_factory=tuple, max_length=MOST_PARTS, title="Parts")

    @property
    def told(self) -> str:
        return f"{len(self.parts)} their own way"

    @property
    def keeps(self) -> bool:
        return any(part.way is not PartWay.DRAWN for part in self.parts)

    @property
    def with_logo(self) -> bool:
        return any(part.way is PartWay.LOGO for part in self.parts)


class HeadlineRoom(Act):
    """Room for a headline: a veil in a kit color, as thin as it can be for an ink to read everywhere in a region."""

    key: ClassVar[str] = "headline"
    title: ClassVar[str] = "Headline"
    words: ClassVar[str] = "a veil in a kit color, as thin as a headline needs to read on it"
    offered: ClassVar[bool] = False
    by_place: ClassVar[bool] = True
    still: ClassVar[bool] = True

    region: Region = Field(default_factory=lambda: Region(left=0, top=0, width=1, height=1))
    ink: TokenText = Field(title="Ink")
    veil: TokenText = Field(title="Veil")
    size: Headlines = Field(default=Headlines.SMALL, title="Letters")
    spread: Spread = Field(default=Spread.FADING, title="Reach")

    @property
    def told(self) -> str:
        return f"room for one, {self.size}"

    @property
    def targets(self) -> tuple[str, ...]:
        return (self.ink, self.veil)
