"""What goes over the wire about typefaces."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from pavese.api.schemas import Sent, Text
from pavese.core.kit.face_traits import TypefaceKind


class FaceFile(BaseModel):
    """A part of a typeface: where it is, and the letters in it (CSS Fonts 4, 4.5)."""

    url: str
    letters: str


class ShippedView(BaseModel):
    """A typeface that ships: what it is fit for, and its weights from the least to the largest."""

    family: str
    kind: TypefaceKind
    moods: list[str]
    weights: tuple[int, int]
    files: list[FaceFile]


class LikeView(BaseModel):
    """A shipped typeface that looks like a wanted one, and how it differs."""

    family: str
    words: str


class FaceView(BaseModel):
    """A typeface of the kit, the one that it is shown in, and shipped ones that look like it, the nearest first."""

    wanted: str
    shown: str
    kind: TypefaceKind
    same: bool
    why: str
    like: list[LikeView]


class OwnView(BaseModel):
    """A typeface that was brought along."""

    family: str
    key: str
    license: str
    kind: TypefaceKind
    weights: tuple[int, int]


class FacePairView(BaseModel):
    """A typeface for headlines with one for text, how heavy the headline is set, and why they go together."""

    headline: str
    text: str
    weight: int
    why: str


class TypeView(BaseModel):
    """The typefaces of the kit; none where none is set."""

    headline: FaceView | None
    text: FaceView | None
    own: list[OwnView]
    pairs: list[FacePairView]


class TypeSent(Sent):
    """The typefaces by name."""

    headline: Annotated[Text, Field(max_length=80)] = ""
    text: Annotated[Text, Field(max_length=80)] = ""
