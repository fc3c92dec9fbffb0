"""What goes over the wire for composing: schemes, families, proposals, names, proportions, the shelf."""

from __future__ import annotations

import uuid
from typing import Annotated

from pydantic import BaseModel, Field

from pavese.api.schemas import Code, Name, Sent
from pavese.core.color.families import HueFamily
from pavese.core.color.schemes import Wheel
from pavese.core.color.variations import Direction
from pavese.core.kit.kit import MOST_COLORS
from pavese.core.kit.proposals import MOST_GAPS
from pavese.core.kit.role import Role

Percent = Annotated[float, Field(ge=0, le=100)]
Keys = Annotated[list[str], Field(max_length=MOST_COLORS)]


class PointSent(Sent):
    """A color as it is wanted, in sRGB or not: OKLCH lightness (0 to 1), chroma, hue in degrees."""

    lightness: Annotated[float, Field(ge=0, le=1)]
    chroma: Annotated[float, Field(ge=0, le=0.5)]
    hue: Annotated[float, Field(ge=-720, le=720)]


class WheelPlace(Sent):
    """A place on the drawn wheel, a disc of radius 1 with y upwards; `point` is what is dragged there."""

    point: Annotated[int, Field(ge=0, le=12)]
    x: Annotated[float, Field(ge=-3, le=3)]
    y: Annotated[float, Field(ge=-3, le=3)]


class Put(Sent):
    """A point of the scheme, and the color it is to become: any code."""

    point: Annotated[int, Field(ge=0, le=12)]
    code: Code


class SchemeAsked(Sent):
    """A scheme to be shown: from a base by its code or its point, or, with the rule let go, of free points.

    `lightness` is added to the partners, `chroma` multiplies theirs. `move` drags a point first,
    and `put` sets one by its numbers. A `locked` base stays where it is, whatever is dragged.
    """

    rule: str | None = None
    wheel: Wheel = Wheel.PERCEPTUAL
    base: PointSent | None = None
    code: Code | None = None
    points: Annotated[list[PointSent], Field(max_length=12, default_factory=list)]
    spread: Annotated[float, Field(ge=0, le=90)] | None = None
    lightness: Annotated[float, Field(ge=-1, le=1)] = 0
    chroma: Annotated[float, Field(ge=0, le=2)] = 1
    move: WheelPlace | None = None
    put: Put | None = None
    locked: bool = False


class PointView(BaseModel):
    """A point on the wheel: as it is wanted, where it stands, and the color sRGB has for it."""

    lightness: float
    chroma: float
    hue: float
    x: float
    y: float
    hex: str
    ink: str
    reduced: bool
    description: str
    notations: dict[str, str]


class KitSpot(BaseModel):
    """A kit color on the wheel."""

    key: str
    name: str
    hex: str
    x: float
    y: float


class TunedScheme(BaseModel):
    """The whole scheme, changed a little: its colors, and the points that give it when they are asked for (with a rule
    the base alone)."""

    by: int
    colors: list[str]
    points: list[PointSent]


class TunedRow(BaseModel):
    """What a row changes, and the schemes on both sides of the one that is."""

    direction: Direction
    schemes: list[TunedScheme]


class SchemeView(BaseModel):
    """A scheme on its wheel; `limits` is the edge of sRGB at the base's lightness, once around, as x y pairs."""

    points: list[PointView]
    spread: float
    most_spread: float
    lightness: float
    chroma: float
    tuned: list[TunedRow]
    limits: list[list[float]]
    spots: list[KitSpot]


class RuleView(BaseModel):
    """A scheme one can choose, with its usual and its widest spread in degrees (0: it has none)."""

    name: str
    spread: float
    most: float


class FamilyMember(BaseModel):
    """A kit color with its family, whether it stands apart from the others, and where it would go in each family."""

    key: str
    name: str
    hex: str
    family: HueFamily | None
    outlier: bool
    pulled: dict[HueFamily, str | None]


class FamilyView(BaseModel):
    """A family with its ranges: OKLCH lightness in percent, and chroma."""

    family: HueFamily
    lightness: list[int]
    chroma: list[float]
    colorful: bool


class FamiliesView(BaseModel):
    """The families, the one most colors share, and every kit color in its place."""

    families: list[FamilyView]
    common: HueFamily | None
    members: list[FamilyMember]


class Pull(Sent):
    """Colors to be pulled into a family at their own hue."""

    keys: Keys
    family: HueFamily


class ToneView(BaseModel):
    """A color of the same tone at another hue; `held` when sRGB has it at the full chroma."""

    hex: str
    ink: str
    held: bool
    description: str


class NamesAsked(Sent):
    """Names to be given in one step, by key."""

    names: Annotated[dict[str, Name], Field(min_length=1, max_length=MOST_COLORS)]


class SuggestedName(BaseModel):
    """A name for a kit color."""

    key: str
    hex: str
    old: str
    name: str


class Wish(Sent):
    """What to propose: the keys to keep, and a role for each new color."""

    keep: Keys = Field(default_factory=list)
    roles: Annotated[list[Role], Field(min_length=1, max_length=MOST_GAPS)]
    first: Annotated[str, Field(max_length=60)] = "1"
    theme: Annotated[str, Field(max_length=40)] = "plain words"


class Taking(Wish):
    """A proposal to be taken, by its seed: whole, or only its new color number `only` (from 0)."""

    only: Annotated[int, Field(ge=0, le=MOST_GAPS)] | None = None


class SlotView(BaseModel):
    """A color with its share in percent, and the text that reads on it."""

    hex: str
    ink: str
    share: float
    contrast: str


class ProposedColor(BaseModel):
    """A new color of a proposal."""

    name: str
    role: Role
    hex: str
    ink: str


class ProposalView(BaseModel):
    """One proposal, ready to be looked at."""

    seed: str
    new: list[ProposedColor]
    line: list[ProposedColor]
    slots: list[SlotView]
    readable_gained: int
    action_distance: float | None
    lightness_spread: float
    family: HueFamily | None
    family_fit: float
    relation: str
    miss: float


class Gallery(BaseModel):
    """Proposals side by side, and the seed the next gallery begins with."""

    proposals: list[ProposalView]
    following: str


class BoxView(BaseModel):
    """A rectangle of a layout, in the unit of the layout's width."""

    slot: int
    x: float
    y: float
    width: float
    height: float


class LineView(BaseModel):
    """A line of text on a layout."""

    slot: int
    x: float
    y: float
    size: float
    text: str


class LayoutView(BaseModel):
    """A sample layout."""

    name: str
    height: float
    boxes: list[BoxView]
    lines: list[LineView]


class WayView(BaseModel):
    """One way round to use three colors."""

    name: str
    words: str
    slots: list[SlotView]


class ProportionsView(BaseModel):
    """The layouts, made to the shares, and the looks to fill them with."""

    large: str
    middle: str
    small: str
    layouts: list[LayoutView]
    looks: list[WayView]


class ReadingView(BaseModel):
    """How a hue is often read; guidance, not a rule."""

    hue: str
    general: str
    regions: list[str]
    trades: list[str]
    mind: str
    guidance: str


class ShelvedView(BaseModel):
    """A palette of the shelf, or a kit of the workspace (with its id)."""

    name: str
    kit_id: uuid.UUID | None
    family: HueFamily | None
    build: str | None
    moods: list[str]
    trades: list[str]
    colors: list[str]
    #: Ground, middle and accent as layouts take them.
    slots: list[SlotView]
    nearest: list[int]
    difference: str | None


class ShelfView(BaseModel):
    """What a search of the shelf found; `total` counts all that stands there."""

    found: list[ShelvedView]
    layouts: list[LayoutView]
    moods: list[str]
    trades: list[str]
    total: int
