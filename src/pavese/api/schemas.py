"""What goes over the wire. Colors are codes (`#rrggbb`); numbers to be read by people come as text, ready to show."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from pavese.core.color.families import HueFamily
from pavese.core.color.neutrals import Shade
from pavese.core.color.variations import Direction
from pavese.core.kit.kit import MOST_COLORS
from pavese.core.kit.ours import Verdict
from pavese.core.kit.plain import LONGEST_NAME, LONGEST_NOTE, plain_name
from pavese.core.kit.role import Role
from pavese.core.kit.samples import Samples


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
Note = Annotated[str, Field(max_length=LONGEST_NOTE), AfterValidator(_storable)]
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
    pinned: bool


class TintView(BaseModel):
    """That a color is tinted from another of the kit (its key) and follows it; strength in percent."""

    of: str
    shade: Shade
    strength: int


class ColorView(BaseModel):
    """One color of a kit with all that is shown of it."""

    key: str
    name: str
    role: Role
    hex: str
    ink: str
    notations: dict[str, str]
    description: str
    family: HueFamily | None
    note: str
    tint: TintView | None
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
    #: The newest record of its changes; sent back as `If-Match` it guards against changing what others changed.
    record: int
    #: The newest edition, and whether the draft is another one by now.
    edition: int | None
    drafted: bool
    stages: StageNotes
    sets: list[SetEntry]
    #: What previews are set in.
    samples: Samples


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


class LineColor(BaseModel):
    """A color in the line of a kit that is not open."""

    name: str
    role: Role
    hex: str


class KitEntry(BaseModel):
    """A kit in a list; one at most is the active one. `edition` is the newest (None: nothing is published), `who` made
    the last change, at `changed_at`."""

    id: uuid.UUID
    name: str
    colors: list[LineColor]
    edition: int | None
    sets: list[str]
    files: int
    who: str
    changed_at: datetime
    active: bool
    archived: bool


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


class Pin(Sent):
    """A step to be pinned to a color, or to be let go (no code)."""

    step: int
    code: Code | None


class ColorChange(Sent):
    """What to change of a color; fields left out stay."""

    name: Name | None = None
    role: Role | None = None
    code: Code | None = None
    note: Note | None = None
    #: Of a tinted color, in percent.
    strength: Annotated[int, Field(ge=0, le=100)] | None = None
    pin: Pin | None = None


class Base(Sent):
    """A base to be tried."""

    code: Code


class BasePreview(BaseModel):
    """Colors before and after a change of one base, itself first, then those that follow it; and what it moves.

    `pairs_lost` and `pairs_gained` name pairs, text on ground, that stop or start to read as text.
    """

    before: list[ColorView]
    after: list[ColorView]
    difference: str
    pairs_gained: list[str]
    pairs_lost: list[str]
    files: int


class Order(Sent):
    """The keys of all colors in their new order."""

    keys: Annotated[list[str], Field(max_length=MOST_COLORS)]


class NewTints(Sent):
    """Quiet colors to be tinted from a color of the kit; strength in percent."""

    of: str
    shades: Annotated[list[Shade], Field(min_length=1, max_length=3)]
    strength: Annotated[int, Field(ge=0, le=100)] = 50


class KitChange(Sent):
    """What to change of a kit."""

    name: Name


class Archived(Sent):
    """Whether a kit is in the archive."""

    archived: bool


class Question(Sent):
    """One color or a list of them, as any text."""

    text: Annotated[Text, Field(max_length=20_000)]


class CodesText(Sent):
    """A text that may hold color codes."""

    text: Annotated[Text, Field(max_length=2_000_000)]


class Candidate(BaseModel):
    """A color found in a source, with where it stood and what it might be in the kit; `pin` numbers it on a picture,
    `opaque` says how opaque it was there, if not wholly."""

    hex: str
    ink: str
    name: str
    role: Role
    where: str
    context: str
    certain: bool
    pin: int | None
    opaque: str | None
    known_as: str | None
    difference: str | None


class Untaken(BaseModel):
    """What looks like a code and was not taken: its line, how it is written, and why."""

    line: int
    text: str
    why: str


class Candidates(BaseModel):
    """Everything found, and what looked like a code and was not taken; `note` says what else there is to know."""

    found: list[Candidate]
    untaken: list[Untaken] = []
    note: str | None


class Refusal(BaseModel):
    """A file that was not taken, and why."""

    name: str
    reason: str
