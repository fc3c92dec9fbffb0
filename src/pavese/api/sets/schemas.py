"""What goes over the wire about sets, their files and their plans."""

from __future__ import annotations

import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from pavese.api.schemas import Code, ColorView, History, Note, Sent, SetName, Text
from pavese.core import limits
from pavese.core.formats.document import PageKind
from pavese.core.formats.format import Can
from pavese.core.kit.ours import Verdict
from pavese.core.recolor.listing import Only, Order
from pavese.core.recolor.plan import MOST_GUESTS
from pavese.core.recolor.recipe import Recipe
from pavese.core.recolor.site import Kind

Channel = Literal["icons", "illustrations", "email", "slides", "motion", "images"]

#: The settings of an act, as `GET /api/formats` tells them.
ActSettings = Annotated[dict[Annotated[str, Field(max_length=40)], Code | int], Field(max_length=12)]

#: A paint, or a part of one: `#e53935`, `#e53935@stroke`, `#e53935@.hull`.
Part = Annotated[Code, Field(max_length=200)]
FileNames = Annotated[
    list[Annotated[Text, Field(min_length=1, max_length=240)]], Field(min_length=1, max_length=limits.SET_FILES)
]


class PaintView(BaseModel):
    """A paint of a set, or of one file, with its target. `css` and `target_css` carry the paint's alpha.

    `part` says which of its sites these are, when it was split; `selectors` are names of elements by which it can be.
    `area` is the share it covers of the drawings it is in, ready to show. `exception` says that the file has a choice
    of its own. `row` is the key of the paint with which it is in one row of near-equals in pictures.
    """

    key: str
    hex: str
    css: str
    name: str
    row: str | None
    #: In how many files its row stands; None for a paint that leads none.
    row_files: int | None
    part: str | None
    #: The part in words.
    part_name: str | None
    files: int
    sites: int
    area: str | None
    kinds: list[Kind]
    selectors: list[str]
    natural: str | None
    target: str
    target_color: str | None
    target_step: int | None
    target_name: str
    target_hex: str
    target_css: str
    derived: bool
    guest: bool
    by: Literal["plan", "rule", "you"]
    reason: str
    exception: bool


class TraitsView(BaseModel):
    """How a file looks; an `odd` one is not like the rest of its set."""

    paints: int
    hues: int
    sites: int
    stroked: bool
    odd: bool


class FigureContrastView(BaseModel):
    """How a file stands out from a ground: the ratio along half of its outline, and whether that is 3:1 or more."""

    ratio: str
    stands: bool


class AssetView(BaseModel):
    """A file of a set; `fingerprint` changes whenever its recolored picture does, `came` whenever the one of the file
    as it came does. `acts` are those that it can be
    given, each with its settings, or None where it is not. What has no outline has no contrast to its ground. `title`
    and `preview` are what it calls itself and how it begins, as mails do; `slides` is how many a deck has, and `plays`
    whether it is a picture that moves: then the file itself shows how."""

    id: uuid.UUID
    name: str
    title: str
    preview: str
    slides: int
    plays: bool
    fingerprint: str
    came: str
    can: list[Can]
    paints: dict[str, int]
    remarks: list[str]
    traits: TraitsView
    contrast: FigureContrastView | None
    left_out: bool
    kept: bool
    exceptions: int
    acts: dict[str, ActSettings | None]
    rights: dict[str, str]


class FilesPage(BaseModel):
    """Some of the files of a set: those from `start` on, of `total` that were asked for."""

    total: int
    start: int
    files: list[AssetView]


class FiguresView(BaseModel):
    """The figures of a plan as whole percents, and what it could not keep; `order` is Kendall's tau in percent."""

    kit: int
    order: int
    contrast: int
    distinct: int
    remarks: list[str]


class VariantView(BaseModel):
    """One of the variants of a set; the first is the original."""

    id: uuid.UUID
    kit_id: uuid.UUID
    name: str
    kit: str
    edition: int | None


class ReadingFigures(BaseModel):
    """How the texts of a set that has grounds and texts read: how many are told apart, how many of them read as they
    become, how many of the others did before, and how many stand on what is not followed, such as pictures."""

    texts: int
    read: int
    lost: int
    unknown: int


class PictureSeen(BaseModel):
    """A file whose picture is looked at, and what that depends on, see `AssetView`."""

    id: uuid.UUID
    fingerprint: str


class SetView(BaseModel):
    """A set with its paints and plan; its files are counted here (all of them, and those that are `handed` over) and
    asked for by the page. `edition` is the one it is bound to (None: the draft). `files_key` changes whenever files
    come or go. `samples` are shown in the place of code, and of what it asks the `branches`. After a change `seen`
    tells what the pictures are now that are looked at, so that they can be asked for before the files are.
    """

    id: uuid.UUID
    kit_id: uuid.UUID
    name: str
    channel: Channel
    purpose: str
    original: uuid.UUID | None
    edition: int | None
    variants: list[VariantView]
    recipe: Recipe
    rules: dict[Kind, str]
    reading: ReadingFigures | None
    themed: bool
    acts: dict[str, ActSettings]
    guests: list[ColorView]
    kept_selectors: list[str]
    figures: FiguresView
    paints: list[PaintView]
    files: int
    handed: int
    files_key: str
    samples: dict[str, str]
    branches: dict[str, str]
    history: History
    seen: list[PictureSeen] = []


class Which(Sent):
    """Files of a set: those of a kind, whose names hold a text; `ground` is what they are seen on."""

    only: Only = Only.ALL
    text: Annotated[str, Field(max_length=240)] = ""
    ground: Annotated[Code, Field(max_length=40)] = "#ffffff"


class FilesWanted(Which):
    """Files of a set in an order, as they would be in another kit or an edition where one is given."""

    order: Order = Order.SET
    kit: uuid.UUID | None = None
    edition: Annotated[int | None, Field(ge=1)] = None


class PageWanted(FilesWanted):
    """Some of the files that are listed; of those from one place up to another, pictures of this size are about to be
    asked for."""

    start: Annotated[int, Field(ge=0, le=limits.SET_FILES)] = 0
    count: Annotated[int, Field(ge=1, le=500)] = 100
    size: Annotated[int | None, Field(ge=8, le=1024)] = None
    seen_from: Annotated[int, Field(ge=0, le=limits.SET_FILES)] = 0
    seen_to: Annotated[int, Field(ge=0, le=limits.SET_FILES)] = 0


class TextReadingView(BaseModel):
    """How a text reads on what it stands on (`bare`: on nothing, so on whatever the file is shown on; `mixed`: on a
    picture, a gradient and the like, at the worst place of it): its ink and its ground as they become, the ratios
    `before` and `after` and the one that is `needed`, ready to show; its size in CSS pixels. A `worse` one could be
    read before, or reads worse than it did."""

    text: str
    ink: str
    ground: str
    bare: bool
    mixed: bool
    size: str
    bold: bool
    before: str
    after: str
    needed: str
    reads: bool
    worse: bool
    #: The selector of the page on which it is seen, in files that have such.
    page: str


class FilePageView(BaseModel):
    """A page of a file; `selector` names its sites, so that its paints (by their keys) can go their own way in it."""

    title: str
    kind: PageKind
    selector: str
    paints: list[str]


class LookView(BaseModel):
    """A way in which a file is seen."""

    key: str
    words: str
    width: int | None
    dark: bool


class ConditionView(BaseModel):
    """What the code of a file asks, and the branches that there are, each in the words of the code."""

    words: str
    branches: list[str]


class FaceView(BaseModel):
    """A typeface that a file names, and the one that stands in for it in its pictures here."""

    named: str
    set_in: str


class FileView(BaseModel):
    """One file of a set, and those beside it in what is listed: its own paints with where they go in it, its pages
    where it holds several, its looks (at least one), what code puts into it and asks, the faces that others stand in
    for in its pictures, the paths of files that belong to it, and its texts on what they stand on."""

    file: AssetView
    before: AssetView
    behind: AssetView
    pages: list[FilePageView]
    looks: list[LookView]
    codes: list[str]
    conditions: list[ConditionView]
    faces: list[FaceView]
    beside: list[str]
    together: list[str]
    #: Those that it would be looked at with and that are not there, as its code names them.
    lacking: list[str]
    texts: list[TextReadingView]
    paints: list[PaintView]


class NewSet(Sent):
    """A set to be started."""

    name: SetName
    channel: Channel = "icons"
    purpose: Note = ""


class SetChange(Sent):
    """What is to be said of a set; None leaves it. `was` is the name that a new one takes the place of."""

    name: SetName | None = None
    was: SetName | None = None
    channel: Channel | None = None
    purpose: Note | None = None


class NewVariant(Sent):
    """A variant to be made; without a kit it is for the set's own, without an edition for the draft."""

    name: SetName
    kit_id: uuid.UUID | None = None
    edition: int | None = None


class Aim(Sent):
    """Where paints go: a target (`keep`, a token such as `deep-water.600`, a code), or the key of a kit color, in
    which case the step nearest in lightness is taken; or `targets`, of each its own. With `file`, only there."""

    paints: Annotated[list[Part], Field(min_length=1, max_length=5000)] | None = None
    target: Annotated[Code, Field(max_length=260)] | None = None
    targets: (
        Annotated[dict[Part, Annotated[Code, Field(max_length=260)]], Field(min_length=1, max_length=5000)] | None
    ) = None
    color: Code | None = None
    file: Annotated[Text, Field(max_length=240)] | None = None


class Splitting(Sent):
    """A paint to be split: `part` is a kind of site, or a selector (`#id`, `.class`); with `file`, only there."""

    paint: Code
    part: Annotated[Code, Field(max_length=120)]
    file: Annotated[Text, Field(max_length=240)] | None = None


class Joining(Sent):
    """A part that is to go with its paint again, or, with `file`, a choice that file is to give up."""

    key: Part
    file: Annotated[Text, Field(max_length=240)] | None = None


class FileStates(Sent):
    """What is to be with files, told by their names or by what they are: handed over or left out, kept as they came;
    None leaves it.

    `reset` makes them follow the set again.
    """

    names: FileNames | None = None
    which: Which | None = None
    left_out: bool | None = None
    kept: bool | None = None
    reset: bool = False


class SelectorKept(Sent):
    """Whether elements with a selector (`#id`, `.class`) keep their paints."""

    selector: Annotated[Code, Field(max_length=120)]
    kept: bool


class NewGuest(Sent):
    """A color for one set only; without a name it is described."""

    hex: Code
    name: Annotated[Text, Field(max_length=60)] = ""


class NewGuests(Sent):
    """Colors that a set is to have beside the kit."""

    colors: Annotated[list[NewGuest], Field(min_length=1, max_length=MOST_GUESTS)]


class RuleChange(Sent):
    """Where all that does one thing goes; None lets it go where it is planned."""

    target: Annotated[Code, Field(max_length=260)] | None


class ActChange(Sent):
    """An act that the files are given, or some of them, told by their names or by what they are; None takes it away.
    Files that cannot be given it stay as they are."""

    settings: ActSettings | None
    names: FileNames | None = None
    which: Which | None = None


class AlternativeView(BaseModel):
    """One plan to choose from; `fingerprints` are those of the files it is shown on, in their order."""

    index: int
    title: str
    lost: int
    figures: FiguresView
    fingerprints: list[str]


class TrialView(BaseModel):
    """A set as it would be in another kit: the figures of its plan there."""

    kit: str
    figures: FiguresView


class ShownFile(BaseModel):
    """A file that plans are shown on."""

    id: uuid.UUID
    name: str


class Alternatives(BaseModel):
    """Plans for a set, shown on the first files that are handed over; the first is the one in force, made anew."""

    revision: int
    files: list[ShownFile]
    alternatives: list[AlternativeView]


class FrameView(BaseModel):
    """A box on a page, in its columns and rows."""

    left: int
    top: int
    width: int
    height: int


class PageFrames(BaseModel):
    """Where paints (by their keys) stand on a page, by its selector, seen in so many columns and rows: of each the
    boxes of what is shown in it."""

    page: str
    columns: int
    rows: int
    paints: dict[str, list[FrameView]]


class AloneView(BaseModel):
    """An element or a shape that can go its own way, by the selector of its sites, and what it is, in words."""

    selector: str
    words: str


class SpotView(BaseModel):
    """What stands at a spot of a file: its paint and target, or nothing; and the one element or shape that says so."""

    paint: PaintView | None
    alone: AloneView | None


class WeakView(BaseModel):
    """How many files of a set do not stand out from a ground."""

    weak: int


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
    natural: str | None


class FindingView(BaseModel):
    """What a check found that is neither a paint nor a text: what it `has` that is wrong, in the words of the check,
    and in words of its own, with the colors that it is about."""

    has: str
    text: str
    colors: list[str]


class FileFindings(BaseModel):
    """What was found in one file."""

    asset: uuid.UUID
    name: str
    fingerprint: str
    paints: list[StrangePaint]
    texts: list[TextReadingView]
    others: list[FindingView]
    remarks: list[str]


class CheckView(BaseModel):
    """A check of every file of a set as it would be handed over. Each file counts once, by the worst it holds: `clean`
    only paint of the kit, `natural` natural tones beside it, `wanted` paint that a person chose, `off` any other;
    `unread` ones have a text that read before and no longer does, or reads worse than it did; `others`, by what
    they have that a check found beside these."""

    files: int
    clean: int
    natural: int
    wanted: int
    off: int
    unread: int
    others: dict[str, int]
    findings: list[FileFindings]


class PackageEntry(BaseModel):
    """A file in the package."""

    path: str
    what: str


class PackageView(BaseModel):
    """What the package of a set holds: so many recolored `files` under their names in the set, and `entries` beside
    them."""

    name: str
    files: int
    entries: list[PackageEntry]
