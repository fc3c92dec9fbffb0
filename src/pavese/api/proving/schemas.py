"""What goes over the wire in Prove. Colors are codes; ratios and differences come as text, ready to show."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from pavese.api.schemas import Candidate, Code, Note, RemarkView, Sent, Text
from pavese.core.color.contrast import Level
from pavese.core.color.neutrals import Shade
from pavese.core.color.vision import Vision
from pavese.core.kit.controls import State
from pavese.core.kit.decisions import Status
from pavese.core.kit.kit import MOST_SEE_THROUGH, MOST_STEPS
from pavese.core.kit.logo import Backing
from pavese.core.kit.nudging import TakenAs
from pavese.core.kit.role import Role
from pavese.core.kit.rules import Rules, Use
from pavese.core.kit.see_through import SeeThrough

#: A token as it comes in: `deep-water.600`.
TokenSent = Annotated[Code, Field(max_length=100)]


class SubjectView(BaseModel):
    """A color that takes part in pairs; `seen` is how it looks under the vision that was asked for."""

    token: str
    color: str
    step: int | None
    name: str
    role: Role
    hex: str
    seen: str


class DecisionView(BaseModel):
    """What was decided on a pair of subjects (their indices)."""

    text: int
    ground: int
    status: Status
    use: Use
    by: str
    at: datetime | None
    note: str
    reopened: str


class PairsView(BaseModel):
    """Every ordered pair: rows are grounds, columns are texts, both in the order of the subjects.

    `levels` are indices into `level_names`; `uses` is the most demanding use a pair may be approved for, as an index
    into `use_names`; a subject on itself is level 0.
    """

    subjects: list[SubjectView]
    ratios: list[list[str]]
    levels: list[list[int]]
    level_names: list[Level]
    uses: list[list[int]]
    use_names: list[Use]
    counts: dict[Level, int]
    decisions: list[DecisionView]


class AdditionView(BaseModel):
    """A color that would make more pairs readable, and how many it would add before it is added."""

    token: str
    shade: Shade | None
    name: str
    hex: str
    ink: str
    gained: int
    helped: list[str]


class DiagnosisView(BaseModel):
    """How readable the kit is, in words, and what would help."""

    summary: str
    findings: list[RemarkView]
    reopened: list[RemarkView]
    approved: int
    declined: int
    additions: list[AdditionView]


class StepsSent(Sent):
    """The ramp steps that take part in pairs."""

    steps: Annotated[list[TokenSent], Field(max_length=MOST_STEPS)]


class PairSent(Sent):
    """A pair by its tokens."""

    text: TokenSent
    ground: TokenSent


class DecisionsSent(Sent):
    """What is decided on pairs; without a use each is approved for the most demanding one it bears."""

    pairs: Annotated[list[PairSent], Field(min_length=1, max_length=40_000)]
    status: Status
    use: Use | None = None
    note: Note = ""


class TrioSent(Sent):
    """A trio by its tokens."""

    ground: TokenSent
    title: TokenSent
    graphic: TokenSent


class TrioDecisionsSent(Sent):
    """What is decided on trios."""

    trios: Annotated[list[TrioSent], Field(min_length=1, max_length=500)]
    status: Status
    note: Note = ""


class TrioPart(BaseModel):
    """A color of a trio; `ratio` is its contrast to the ground (none for the ground itself)."""

    token: str
    name: str
    hex: str
    ratio: str


class TrioView(BaseModel):
    """A trio, and what was decided on it."""

    ground: TrioPart
    title: TrioPart
    graphic: TrioPart
    apart: str
    status: Status
    by: str


class NudgeView(BaseModel):
    """A way to reach a level: the pair as it would be, how far it moves, and the steps that could be pinned to it."""

    changes: Literal["text", "ground", "both"]
    text: str
    ground: str
    difference: str
    ratio: str
    text_step: int | None
    ground_step: int | None


class NudgeSent(Sent):
    """A nudge to be taken: the pair, the use it is to be fit for, which of both changes, and what becomes of that."""

    text: TokenSent
    ground: TokenSent
    use: Use
    changes: Literal["text", "ground", "both"]
    taken_as: TakenAs


class NudgesView(BaseModel):
    """The ways to make a pair reach a ratio; none where it does, or where there is no way at these hues."""

    wanted: str
    ratio: str
    ways: list[NudgeView]


class StateColors(BaseModel):
    """The kit's colors as they look to someone, in the kit's order."""

    vision: Vision
    colors: list[str]


class ConfusionView(BaseModel):
    """Two colors (their keys) that are hard to tell apart under a vision, and their differences."""

    vision: Vision
    first: str
    second: str
    usual: str
    left: str


class VisionView(BaseModel):
    """The kit as others see it."""

    severity: float
    looks: list[StateColors]
    confusions: list[ConfusionView]


class RulesView(BaseModel):
    """The usage rules, and each of them in a sentence."""

    rules: Rules
    words: list[str]


class EqualView(BaseModel):
    """A step, solid and see-through; chroma is OKLCH, `full` that of the exact equal."""

    step: int
    solid: str
    seen: str
    exact: bool
    alpha: int
    hex: str
    rgb: str
    hsl: str
    chroma: float
    full: float


class ElsewhereView(BaseModel):
    """The see-through steps on another ground."""

    name: str
    ground: str
    seen: list[str]


class SeeThroughView(BaseModel):
    """A setting and what it gives. `grounds` are others it is shown on: name, code, and each step as seen there."""

    setting: SeeThrough
    name: str
    base_name: str
    base: str
    steps: list[EqualView]
    grounds: list[ElsewhereView]


class SeeThroughSent(Sent):
    """All see-through settings of a kit."""

    settings: Annotated[list[SeeThrough], Field(max_length=MOST_SEE_THROUGH)]


class StateView(BaseModel):
    """A control in one state."""

    state: State
    token: str
    name: str
    fill: str
    ink: str
    ratio: str
    ring: str | None
    ring_ratio: str | None


class ControlView(BaseModel):
    """A control of a kit color in all states."""

    kind: str
    color: str
    name: str
    darker: bool
    looks: list[StateView]


class StatesView(BaseModel):
    """The controls, the steps between their states, and the ground they are shown on."""

    hover: int
    pressed: int
    disabled: int
    ground: str
    ink: str
    controls: list[ControlView]


class SamplesSent(Sent):
    """The words of previews and sheets; empty ones are made of the kit's name."""

    headline: Annotated[Text, Field(max_length=60)] = ""
    sentence: Annotated[Text, Field(max_length=160)] = ""
    action: Annotated[Text, Field(max_length=30)] = ""


class LogoFile(BaseModel):
    """A picture of the logo."""

    key: str
    name: str
    width: int
    height: int
    colors: list[str]
    box: str | None


class Freeing(Sent):
    """How a picture is freed of the box round it: also inside of what is drawn, as in an O."""

    inside: bool = False


class LogoGround(BaseModel):
    """The logo on a color of the kit, whether it stands out from what is behind it, and whether that color is a ground
    by its role."""

    name: str
    ground: str
    behind: str
    picture: str
    ratio: str
    enough: bool
    usual: bool


class LogoView(BaseModel):
    """The logo of the kit; `candidates` are its colors."""

    on_light: LogoFile | None
    on_dark: LogoFile | None
    clear_space: int
    backing: Backing | None
    backing_hex: str | None
    grounds: list[LogoGround]
    candidates: list[Candidate]


class LogoSent(Sent):
    """Space and backing of the logo; fields left out stay, an empty backing goes."""

    clear_space: Annotated[int, Field(ge=0, le=300)] | None = None
    backing: Backing | None = None
    no_backing: bool = False


class CommentSent(Sent):
    """A comment; `about` is a place in the kit, in words."""

    text: Annotated[Note, Field(min_length=1)]
    about: Annotated[Text, Field(max_length=400)] = ""


class CommentView(BaseModel):
    """A comment."""

    who: str
    about: str
    text: str
    at: datetime


class ChangeView(BaseModel):
    """A place that a change touched: its name in words, and what stood there before and after, in short."""

    place: str
    before: str
    after: str


class RecordView(BaseModel):
    """A line of the record."""

    id: int
    who: str
    what: str
    at: datetime
    changes: list[ChangeView]
