"""What goes over the wire. Colors are codes (`#rrggbb`); numbers to be read by people come as text, ready to show."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from pavese.core.check.conformance import Verdict
from pavese.core.color.contrast import Level
from pavese.core.color.variations import Direction
from pavese.core.kit.kit import LONGEST_NAME, MOST_COLORS, Role, plain_name
from pavese.core.recolor.inventory import Kind


def _storable(text: str) -> str:
    if "\0" in text:
        raise ValueError("a NUL character is not text")
    if any("\ud800" <= character <= "\udfff" for character in text):
        raise ValueError("half of a character (a lone surrogate) is not text")
    return text


#: A name as a person types it: white space folded, at least one visible character.
Name = Annotated[str, Field(min_length=1, max_length=LONGEST_NAME), AfterValidator(plain_name)]
SetName = Annotated[str, Field(min_length=1, max_length=120), AfterValidator(plain_name)]
Code = Annotated[str, Field(min_length=1, max_length=200), AfterValidator(_storable)]
Text = Annotated[str, AfterValidator(_storable)]


class Sent(BaseModel):
    """Base of what clients send; unknown fields are refused."""

    model_config = ConfigDict(extra="forbid")


class History(BaseModel):
    """What undo and redo would do (None: nothing), and when the draft was last saved."""

    undo: str | None
    redo: str | None
    saved_at: datetime
    revision: int


class Step(BaseModel):
    """One step of a ramp; `ink` is white or black, whichever reads better on it."""

    step: int
    hex: str
    ink: str
    contrast: str
    base: bool


class ColorView(BaseModel):
    """One color of a kit with all that is shown of it."""

    key: str
    name: str
    role: Role
    hex: str
    ink: str
    rgb: str
    oklch: str
    description: str
    base_step: int
    steps: list[Step]
    dark_text_until: int | None
    white_text_from: int | None
    notes: list[str]


class Column(BaseModel):
    """A column of the table of ramps: its step and the contrast against white it aims at."""

    step: int
    contrast: str


class Marks(BaseModel):
    """Across all ramps: the darkest step on which dark text reads, and the lightest on which white text does."""

    dark_ink: str
    dark_name: str
    dark_text_until: int | None
    white_text_from: int | None


class StageNotes(BaseModel):
    """One line for each stage: where it stands."""

    gather: str
    compose: str
    prove: str
    apply: str
    check: str
    hand_over: str


class RemarkView(BaseModel):
    """Something worth a second look in a kit, and the keys of the colors it is about."""

    text: str
    colors: list[str]


class SetEntry(BaseModel):
    """A set in a list."""

    id: uuid.UUID
    name: str
    files: int


class KitView(BaseModel):
    """A kit with everything its stages need."""

    id: uuid.UUID
    name: str
    colors: list[ColorView]
    columns: list[Column]
    marks: Marks
    remarks: list[RemarkView]
    history: History
    stages: StageNotes
    sets: list[SetEntry]


class Answer(BaseModel):
    """Whether a color is one of ours, and the code to use; `name` is empty in a kit without colors."""

    code: str
    hex: str
    verdict: Verdict
    difference: str
    name: str
    nearest: str


class Answers(BaseModel):
    """One answer for each different color asked for."""

    answers: list[Answer]


class Variation(BaseModel):
    """A row of neighbors of a color; `base` is the index of the color itself."""

    direction: Direction
    colors: list[str]
    base: int


class KitEntry(BaseModel):
    """A kit in a list."""

    id: uuid.UUID
    name: str
    colors: list[str]


class NewColor(Sent):
    """A color to be added: any CSS code."""

    name: Name
    role: Role
    code: Code


class NewKit(Sent):
    """A kit to be started."""

    name: Name
    colors: Annotated[list[NewColor], Field(max_length=MOST_COLORS)] = []


class NewColors(Sent):
    """Colors to be added in one step."""

    colors: Annotated[list[NewColor], Field(min_length=1, max_length=MOST_COLORS)]


class ColorChange(Sent):
    """What to change of a color; fields left out stay."""

    name: Name | None = None
    role: Role | None = None
    code: Code | None = None


class KitChange(Sent):
    """What to change of a kit."""

    name: Name


class Question(Sent):
    """One color or a list of them, as any text."""

    text: Annotated[Text, Field(max_length=20_000)]


class CodesText(Sent):
    """A text that may hold color codes."""

    text: Annotated[Text, Field(max_length=2_000_000)]


class Candidate(BaseModel):
    """A color found in a source, with where it stood and what it might be in the kit."""

    hex: str
    ink: str
    name: str
    named: bool
    role: Role
    code: str
    line: int
    column: int
    context: str
    certain: bool
    places: int
    known_as: str | None
    difference: str | None


class Candidates(BaseModel):
    """Everything found; `note` says what else there is to know."""

    found: list[Candidate]
    note: str | None


class PairView(BaseModel):
    """A pair of kit colors by their keys; `ratio` is cut to two decimals."""

    text: str
    ground: str
    ratio: str
    level: Level


class Pairs(BaseModel):
    """All ordered pairs, best first, and how many reach each level."""

    pairs: list[PairView]
    counts: dict[Level, int]


class PaintView(BaseModel):
    """A paint of a set with its target. `css` and `target_css` carry the paint's alpha."""

    key: str
    hex: str
    css: str
    name: str
    files: int
    sites: int
    kinds: list[Kind]
    target: str
    target_color: str | None
    target_step: int | None
    target_name: str
    target_hex: str
    target_css: str
    by: Literal["plan", "you"]
    reason: str


class AssetView(BaseModel):
    """A file of a set; `look` changes whenever its recolored picture does."""

    id: uuid.UUID
    name: str
    look: str
    paints: dict[str, int]
    remarks: list[str]


class SetView(BaseModel):
    """A set with its paints, files and plan."""

    id: uuid.UUID
    kit_id: uuid.UUID
    name: str
    paints: list[PaintView]
    assets: list[AssetView]
    history: History


class NewSet(Sent):
    """A set to be started, or a new name for one."""

    name: SetName


class Refusal(BaseModel):
    """A file that was not taken, and why."""

    name: str
    reason: str


class DropResult(BaseModel):
    """What became of a drop."""

    taken: int
    refused: list[Refusal]
    set: SetView


class Aim(Sent):
    """Where paints go: a target (`keep`, a token such as `deep-water.600`, a code), or the key of a kit color, in
    which case the step nearest in lightness is taken."""

    paints: Annotated[list[Annotated[Code, Field(max_length=32)]], Field(min_length=1, max_length=5000)]
    target: Code | None = None
    color: Code | None = None


class StrangePaint(BaseModel):
    """A paint that is not of the kit; `sources` are the paints of the
    set that became it, `chosen` says that a person wanted it so."""

    key: str
    hex: str
    sites: int
    severity: Verdict
    nearest: str | None
    nearest_name: str | None
    nearest_hex: str | None
    difference: str | None
    sources: list[str]
    chosen: bool


class FileFindings(BaseModel):
    """What a check found in one file."""

    asset: uuid.UUID
    name: str
    look: str
    paints: list[StrangePaint]
    remarks: list[str]


class CheckView(BaseModel):
    """A check of every file of a set as it would be handed over."""

    files: int
    clean: int
    findings: list[FileFindings]


class PackageEntry(BaseModel):
    """A file in the package."""

    path: str
    what: str


class PackageView(BaseModel):
    """What the package of a set holds."""

    name: str
    files: int
    entries: list[PackageEntry]
