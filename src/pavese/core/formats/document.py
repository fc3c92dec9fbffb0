"""What every format gives: a document of pages, seen in looks, that lists where color stands in it and writes itself
again with changes."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import NamedTuple, Protocol

from pavese.core.color.derived import Transform
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.changes import Wanted
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.linked import Linked
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.texts import Text, TextRun


class Notation(StrEnum):
    """What pictures of documents are made from; each has an engine in `render`."""

    #: Plain SVG: colors in hex, nothing outside the file.
    VECTOR = "vector"
    #: A Lottie animation.
    MOTION = "motion"
    #: HTML in UTF-8, as wide as its look.
    PAGE = "page"
    #: A deck of slides as a package; of the second, the pages with the notes of its slides are looked at.
    OFFICE = "office"
    NOTES = "notes"
    #: A picture of pixels, in sRGB and upright.
    PICTURE = "picture"


class PageKind(StrEnum):
    """What a page is in its file."""

    CONTENT = "content"
    LAYOUT = "layout"
    MASTER = "master"
    NOTES = "notes"
    SYMBOL = "symbol"
    SECTION = "section"
    PART = "part"
    SCENE = "scene"


@dataclass(frozen=True)
class Page:
    """A part of a file that is looked at by itself. `selector` names the sites in it, as `Site.selectors` do; "" is
    the whole file, where that is its only page. Width and height are in CSS pixels, 0 where nothing is known of them.
    """

    title: str = ""
    kind: PageKind = PageKind.CONTENT
    selector: str = ""
    width: float = 0.0
    height: float = 0.0

    def holds(self, site: Site) -> bool:
        """Whether a site stands in it."""
        return not self.selector or self.selector in site.selectors


@dataclass(frozen=True)
class Look:
    """One way in which a file is seen: on paper or a desk, on a phone, in the dark. `key` names it among those of the
    file, `width` is in CSS pixels (None: the file's own). `reads` is whether a text may stand on another ground in it,
    or in another ink, than in the first."""

    key: str
    words: str
    width: int | None = None
    dark: bool = False
    reads: bool = True


#: The page and the look of a file that is one drawing.
WHOLE = Page()
PLAIN = Look("plain", "as it is")


class Alone(NamedTuple):
    """An element or a shape that can go its own way: the selector that its sites bear, and what it is, in words."""

    selector: str
    words: str


class Preview(NamedTuple):
    """A document for a drawing engine, in a look; `content` is for pictures only, and is not handed over. Of a page
    laid out in HTML, `part` is the selector of all that is to be seen; of a deck, `page` is the number of the slide, or
    of the one whose notes are to be seen."""

    notation: Notation
    content: bytes
    look: Look = PLAIN
    part: str = ""
    page: int = 0


#: Files that belong to another, by the reference with which it names them.
Beside = Mapping[str, bytes]
ALONE: Beside = {}
#: What is said of a file that names others which did not come with it, or lie on the web.
NOT_FETCHED = "It refers to another file, which is not fetched."
ON_THE_WEB = "Its pictures lie on the web; until they are brought in, they show as empty places here."


class Document(Protocol):
    """One file, read, with those that belong to it."""

    @property
    def refers(self) -> tuple[str, ...]:
        """The other files that it shows, as it names them: paths from where it lies."""

    @property
    def pages(self) -> tuple[Page, ...]:
        """What is in it; at least one, and exactly one where the file is one drawing."""

    @property
    def looks(self) -> tuple[Look, ...]:
        """How it is seen, most often first; at least one."""

    def embedded(self) -> Sequence[Document]:
        """The files inside it that are looked at by themselves: pictures of a mail, the animations of a package."""

    def sites(self) -> Iterator[Site]:
        """Every place that uses a paint, in the order of the file."""

    def inventory(self) -> Inventory:
        """Its paints, counted, with what there is to say of it."""

    def write(self, wanted: Wanted) -> bytes:
        """The file with its paints replaced and the acts done that it can be given, every other byte as it was; without
        any change, the very same bytes."""

    def preview(self, wanted: Wanted, page: int | None = None, look: Look = PLAIN) -> Preview:
        """The changed file in a look, or one of its pages (by its number, without the acts)."""


class Lettered(Document, Protocol):
    """A file whose texts are told (`Can.TEXTS`), and can be drawn apart from all else, so that it can be measured what
    they stand on."""

    def texts(self) -> Sequence[Text | None]:
        """Its texts in the order of the file; None for one whose ink is no single color."""

    def inked(self, inks: Sequence[Rgb], look: Look = PLAIN) -> Preview:
        """Nothing but its texts, each in the ink with its number."""

    def unlettered(self, look: Look = PLAIN) -> Preview:
        """Everything but its texts."""


class Pictured(Document, Protocol):
    """A file that shows pictures, which are changed with it (`Can.PICTURES`)."""

    @property
    def remote(self) -> tuple[str, ...]:
        """The addresses of those that lie on the web, but for such as are not meant to be seen."""

    def pictures(self, wanted: Wanted) -> Mapping[str, bytes]:
        """The content of each picture that it shows and that is at hand, as it becomes, by what it is called in it."""

    def beside(self, wanted: Wanted) -> Mapping[str, bytes]:
        """The pictures that become others, by what they are called in it; those that lie beside it are not written by
        `write`."""

    def stands_in_pictures(self) -> Iterator[TextRun]:
        """What stands on what inside of its pictures."""

    def picture_selector(self, reference: str) -> str:
        """By what a picture is named, wherever it is shown, whose paints are among those of the file; "" for others."""


class Marked(Document, Protocol):
    """A file whose texts, and what they stand on, an engine computes (`Can.TEXTS`): it is shown with each of its sites
    in a color that stands for it."""

    def marked_sites(self) -> Iterator[Site]:
        """Its sites, in their order, and behind them those at which a part of it can say itself what comes to it from
        outside: they count for what that part becomes."""

    def marked(self, look: Look = PLAIN) -> Preview:
        """The file with each site, by its number in `marked_sites`, in its mark (`marks.mark`)."""

    def alone(self, number: int) -> Alone | None:
        """The one element or shape that says what a marked site, by its number, is painted with; None where more than
        that one do."""


class Mixed(Marked, Pictured, Protocol):
    """A file with texts on pictures, gradients and veils, which are told by drawings of it (`Can.LAID_OUT`)."""

    def mixed_sites(self) -> Iterator[Site]:
        """Its `marked_sites`, and behind them those in its pictures."""

    def mixed(self, look: Look = PLAIN) -> Preview:
        """The file with each of these in a mark that is told in mixtures (`marks.scattered`)."""


class Pixeled(Document, Protocol):
    """A file made of pixels (`Can.PIXELS`)."""

    def measured(self) -> Measured:
        """What is measured of others on their pictures."""


class Slided(Marked, Protocol):
    """A deck of slides (`Can.SLIDES`)."""

    @property
    def thumbnail(self) -> tuple[str, bytes] | None:
        """The small picture of itself that it came with, and its path in the package."""

    @property
    def faces(self) -> tuple[str, ...]:
        """The typefaces that it names, each once."""

    def styled(self) -> Mapping[int, Sequence[tuple[Transform, ...]]]:
        """What styles make of the colors of some sites, by their numbers in `marked_sites`: the transforms of the one
        color, or of the stops of a gradient in their order."""

    def unmarked(self) -> Preview:
        """The slides that `marked` shows, as they came."""

    def pictures_marked(self, look: Look = PLAIN) -> Preview:
        """As `marked`, but each place that shows a picture in one mark, by its number behind those of the sites."""

    def slides(self, wanted: Wanted) -> Preview:
        """All slides that are shown, changed, to be made into pictures or a PDF."""


class Themed(Document, Protocol):
    """A file with a theme to which its colors can be linked (`Can.THEME`)."""

    def links(self, wanted: Wanted) -> Iterator[Linked]:
        """What becomes of the colors that were typed in, and of those that leave their place of the theme."""


class Condition(NamedTuple):
    """What code asks, in its own words, and the branches that there are to choose from, in theirs."""

    words: str
    branches: tuple[str, ...]


class Templated(Document, Protocol):
    """A file into which a program puts something when it is used (`Can.CODE`)."""

    @property
    def codes(self) -> tuple[str, ...]:
        """What is put there, as the code says it, each once; the act `Samples` shows something in its place."""

    @property
    def conditions(self) -> tuple[Condition, ...]:
        """What is asked there, each once; all branches are shown unless the act `Samples` chooses one."""


class Where(NamedTuple):
    """A site with where it stands in the source: the line (from 1), and what says it, in words."""

    site: Site
    line: int
    said: str


class Sourced(Document, Protocol):
    """A file that tells where in its source colors stand (`Can.SOURCE`)."""

    def where(self, paint: Rgba) -> Iterator[Where]:
        """Every site of a paint, in the order of the file."""


#: A page with its paints, each with what it does there first.
PagePaints = tuple[Page, Mapping[Rgba, Kind]]


def paints_by_page(pages: Sequence[Page], sites: Iterable[Site]) -> list[PagePaints]:
    """The pages of a file that has such, each with its paints in the order of the sites."""
    if len(pages) < 2 and not pages[0].selector:
        return []
    found: dict[str, dict[Rgba, Kind]] = {page.selector: {} for page in pages}
    for site in sites:
        for selector in site.selectors:
            if selector in found:
                found[selector].setdefault(site.paint, site.kind)
    return [(page, found[page.selector]) for page in pages]
