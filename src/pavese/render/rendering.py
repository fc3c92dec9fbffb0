"""What becomes of files, made in child processes: pictures, masks, animations, and the files themselves.

The functions named with an underscore run in a child. A child remembers the files it read last, since a changed target
asks for the same ones again at once.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from functools import lru_cache
from itertools import chain, islice, repeat
from typing import NamedTuple, TypeVar, cast

import numpy as np
import numpy.typing as npt
from cachetools import LRUCache, cached
from PIL import Image

from pavese.core.color.contrast import BLACK, WHITE
from pavese.core.color.difference import difference
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import PaveseError
from pavese.core.formats import format_of, is_taken, read
from pavese.core.formats.animation import animation
from pavese.core.formats.document import (
    Alone,
    Condition,
    Document,
    Look,
    Marked,
    Notation,
    PagePaints,
    Pictured,
    Preview,
    Slided,
    Sourced,
    Templated,
    Themed,
    Where,
    paints_by_page,
)
from pavese.core.formats.format import Can
from pavese.core.formats.intake import Becoming, Came
from pavese.core.formats.lottie.staging import Motion
from pavese.core.formats.picture.document import PictureDocument
from pavese.core.formats.picture.pointing import Headroom, rectangle, sought_of
from pavese.core.formats.slide_pictures import path_of_use
from pavese.core.formats.told import is_svg
from pavese.core.formats.written import written
from pavese.core.handoff.file_proof import FileProof, SeenFile
from pavese.core.handoff.open_template import open_template
from pavese.core.kit.kit import Kit
from pavese.core.pictures.again import Again
from pavese.core.pictures.again import found_again as again
from pavese.core.pictures.decode import decode_picture
from pavese.core.pictures.mend import Box, find_box, takes_another
from pavese.core.pictures.motif import Motif, motif_of
from pavese.core.pictures.objects import covering, object_in
from pavese.core.recolor.act import Act
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.linked import LinkedPaint, gathered
from pavese.core.recolor.pointed import PictureParts, PointedAt, Region
from pavese.core.recolor.reading import readings
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.samples import MOST
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.spotlight import mask_recolorings
from pavese.core.recolor.texts import TextRun
from pavese.render import browser, office
from pavese.render.draw import draw, draw_masks, picture_png, pixels_of, png_of, strip_png
from pavese.render.marked import alone_under, laid_out, pictures_marked, texts_marked
from pavese.render.pool import CannotDrawError, DrawingPool, Ticket
from pavese.render.slides import (
    Framed,
    pictures_on_slides,
    seen_at,
    seen_pages,
    slide_masks,
    slides_framed,
    slides_measured,
)

#: Bounds on one picture, and on a group of files, in seconds.
_SECONDS, _GROUP_SECONDS = 8.0, 20.0
_PROOF_SECONDS = 30.0
#: The longer side of a picture from which a piece is taken that is looked for in others.
_PIECE_SIDE = 1600
#: What a proof says of where it looked, how high its pictures stand (in millimeters), and slides that it shows.
_EVERY_LOOK, _EVERY_SLIDE = "in every way in which the mail is seen here", "on the slides"
_MAIL_HIGH, _SLIDE_HIGH, _MOST_SLIDES = 86, 50, 100
#: How wide a mail stands in its proof.
_PROOF_WIDE = 700
#: Files of a group, and groups that are on their way at a time.
_GROUP, _AT_ONCE = 16, 4
#: Small pictures that are drawn at once.
_QUICK_GROUP = 4
#: What takes its time whatever its size.
_SLOW = (Can.LAID_OUT, Can.SLIDES, Can.PIXELS)
#: Up to this size many files are remembered, and up to that the last two; larger ones are not.
_SMALL, _LARGE = 100_000, 24_000_000
#: Bytes of pictures, opened, that are remembered.
_PIXELS = 240_000_000
#: Seconds that whoever reads files that have come has the machine for itself, before they are drawn.
_READ_FIRST = 1.2
#: How far the color of a box may be from the paint that it is (CIEDE2000).
_NOISE = 2.0
#: A picture that takes more of a slide is a ground.
_MOST_OF_SLIDE = 0.4
#: Places of a paint that are told.
_MOST_PLACES = 200
#: Longer side of the picture in which a spot is looked up.
_SPOT_SIDE = 640

_Made = TypeVar("_Made")


class Views(NamedTuple):
    """How a file can be looked at: its pages where it has several, each with its paints, its looks, and what code puts
    into it and asks."""

    pages: list[PagePaints]
    looks: tuple[Look, ...]
    codes: tuple[str, ...]
    conditions: tuple[Condition, ...]


def expect(pool: DrawingPool, names: Iterable[str]) -> None:
    """Gets ready for files of these names, which are about to be looked at."""
    coming = {one for name in names if is_taken(name) for one in format_of(name).can}
    for can, get_ready in ((Can.LAID_OUT, browser.warm), (Can.SLIDES, office.warm)):
        if can in coming:
            pool.for_each(get_ready, after=_READ_FIRST)


def picture(pool: DrawingPool, wanted: Becoming, side: int, page: int | None = None, look: str = "") -> bytes:
    """A PNG of a file as it becomes, in a look (by its key; the first where there is none of that name), or of one of
    its pages without the acts. Raises CannotDrawError."""
    made: bytes = pool.done(_picture, wanted, side, page, look, seconds=_seconds(wanted.file))
    return made


def small_pictures(pool: DrawingPool, files: Sequence[Becoming], side: int) -> Iterator[bytes | None]:
    """A PNG of each file as it becomes, in their order, many drawn at a time; None for a large one, or one that cannot
    be drawn in no time: `picture` tells more of it."""
    quick = [one for one in files if _is_quick(one.file)]
    groups = [quick[at : at + _QUICK_GROUP] for at in range(0, len(quick), _QUICK_GROUP)]
    begun = [(len(group), pool.begin(_quick_pictures, group, side, seconds=_SECONDS)) for group in groups]

    def ended() -> Iterator[bytes | None]:
        for count, ticket in begun:
            try:
                yield from pool.ended(ticket)
            except PaveseError:
                yield from repeat(None, count)

    drawn = ended()
    return (next(drawn) if _is_quick(one.file) else None for one in files)


def masks(pool: DrawingPool, file: Came, paints: Sequence[Rgba], acts: tuple[Act, ...], side: int) -> bytes:
    """The masks of paints (`draw.draw_masks`), with what the file is given. Raises CannotDrawError."""
    made: bytes = pool.done(_masks, file, tuple(paints), acts, side, seconds=_seconds(file))
    return made


def moved(pool: DrawingPool, wanted: Becoming, motion: Motion | None) -> bytes:
    """The animation that a file is, or the one that a motion makes of it. Raises CannotDrawError."""
    made: bytes = pool.done(_animation, wanted, motion, seconds=_SECONDS)
    return made


def frames(pool: DrawingPool, file: Came) -> list[Framed]:
    """Where the paints of a deck stand on each of its slides. Raises CannotDrawError."""
    found: list[Framed] = pool.done(_frames, file, seconds=_seconds(file))
    return found


class AtSpot(NamedTuple):
    """What stands at a spot of a file: its paint, and the element or shape that alone says so."""

    paint: Rgba | None
    alone: Alone | None = None


def paint_at_spot(
    pool: DrawingPool,
    file: Came,
    paints: Sequence[Rgba],
    spot: tuple[float, float],
    look: str = "",
    page: int | None = None,
) -> AtSpot:
    """What stands at a spot of a file, as parts (x, y) of its picture in a look, or of that of one of its pages. Raises
    CannotDrawError."""
    found: AtSpot = pool.done(_spot, file, tuple(paints), spot, look, page, seconds=_seconds(file))
    return found


def headroom(pool: DrawingPool, wanted: Becoming) -> Headroom | None:
    """What the headline of a picture has under it; None where it has none. Raises CannotDrawError."""
    found: Headroom | None = pool.done(_headroom, wanted, seconds=_seconds(wanted.file))
    return found


def logos_that_stay(pool: DrawingPool, wanted: Becoming) -> tuple[str, ...]:
    """Of each framed part of a picture why the kit's logo does not stand there (`PictureDocument.logos`). Raises
    CannotDrawError."""
    found: tuple[str, ...] = pool.done(_logos_that_stay, wanted, seconds=_seconds(wanted.file))
    return found


def thing(pool: DrawingPool, file: Came, wanted: PointedAt, side: int) -> bytes:
    """A PNG that covers all of a picture but a thing in it. Raises CannotDrawError."""
    made: bytes = pool.done(_thing, file, wanted, side, seconds=_seconds(file))
    return made


def photograph(pool: DrawingPool, file: Came, parts: PictureParts, side: int) -> bytes:
    """A PNG that covers all of a picture but what is taken for a photograph. Raises CannotDrawError."""
    made: bytes = pool.done(_photograph, file, parts, side, seconds=_seconds(file))
    return made


class LookedThrough(NamedTuple):
    """Where a part of another picture stands in one, None where it does not; `failed` says why it is not known."""

    found: Again | None
    failed: str = ""


def found_again(pool: DrawingPool, file: Came, region: Region, others: Sequence[Came]) -> list[LookedThrough]:
    """Where a part of a picture stands in others, in their order; one that cannot be read leaves the others be."""
    started = [pool.begin(_again, file, region, other, seconds=_seconds(other)) for other in others]
    looked = []
    for ticket in started:
        try:
            looked.append(LookedThrough(pool.ended(ticket)))
        except PaveseError as error:
            looked.append(LookedThrough(None, str(error)))
    return looked


def views(pool: DrawingPool, file: Came) -> Views:
    """How a file can be looked at. Raises CannotDrawError."""
    found: Views = pool.done(_views, file, seconds=_SECONDS)
    return found


class Rendition(NamedTuple):
    """A file as it is handed over, and the pictures beside it that become others, by what it calls them."""

    data: bytes
    beside: Mapping[str, bytes]


def places(pool: DrawingPool, file: Came, paint: Rgba) -> tuple[Where, ...]:
    """Where a paint stands in the source of a file; nothing where its format does not tell. Raises CannotDrawError."""
    found: tuple[Where, ...] = pool.done(_places, file, paint, seconds=_SECONDS)
    return found


def renditions(pool: DrawingPool, files: Iterable[Becoming]) -> Iterator[Rendition]:
    """Every file as it is handed over, in their order. Raises CannotDrawError."""
    return _in_groups(pool, files, _renditions)


def inventories_after(pool: DrawingPool, files: Iterable[Becoming]) -> Iterator[Inventory]:
    """What is read back of every file as it is handed over, in their order. Raises CannotDrawError."""
    return _in_groups(pool, files, _inventories)


def proof(pool: DrawingPool, file: Came, changes: Changes) -> FileProof:
    """What is shown of a mail for its proof. Raises CannotDrawError."""
    made: FileProof = pool.done(_proof, file, changes, seconds=max(_PROOF_SECONDS, 3 * _seconds(file)))
    return made


class Link(NamedTuple):
    """What follows the theme of a file after its changes, or does not, with what the pages are called on which it is
    seen."""

    of: LinkedPaint
    pages: tuple[str, ...]


def links(pool: DrawingPool, files: Iterable[Becoming]) -> Iterator[tuple[Link, ...]]:
    """What becomes of the colors of each file that could follow its theme. Raises CannotDrawError."""
    return _in_groups(pool, files, _all_links)


class Inside(NamedTuple):
    """A picture of a file, by what the file calls it, at one place or at all (`name`): the box of one color round what
    it shows (None: it has none), the site of the ground it stands on, and what it shows, where that is told; the pages
    that show it. `selector` names it where its paints are among those of the file ("" where it has none), and
    `box_paint` is that of its box; `takes_another` is whether a logo can be put in its place."""

    reference: str
    name: str
    box: Box | None
    ground: Site | None
    motif: Motif | None = None
    pages: tuple[str, ...] = ()
    selector: str = ""
    box_paint: Rgba | None = None
    takes_another: bool = True


def pictures_inside(pool: DrawingPool, files: Iterable[Came]) -> Iterator[tuple[Inside, ...]]:
    """The pictures of each file that have a ground of their own, or paints that go by its plan; of decks also those
    that are drawn, such as logos. Raises CannotDrawError."""
    return _in_groups(pool, (Becoming(file, Changes()) for file in files), _all_inside)


def picture_beside(pool: DrawingPool, wanted: Becoming, reference: str, side: int) -> bytes | None:
    """A picture of a file as it becomes, as a PNG within a square; None for one that is not at hand. Raises
    CannotDrawError."""
    made: bytes | None = pool.done(_picture_beside, wanted, reference, side, seconds=_SECONDS)
    return made


def _seconds(file: Came) -> float:
    """How long a picture of a file may take."""
    return max(_SECONDS, format_of(file.name).seconds)


def open_deck(pool: DrawingPool, deck: bytes, kit: Kit) -> bytes:
    """A deck with a slide of each layout as an OpenDocument template of a kit (`open_template`), made by an office
    program. Raises CannotDrawError."""
    made: bytes = pool.done(_open_deck, deck, kit, seconds=office.SECONDS)
    return made


def slides_pdf(pool: DrawingPool, file: Came, changes: Changes) -> bytes:
    """A deck as it becomes, as a PDF. Raises CannotDrawError."""
    made: bytes = pool.done(_slides_pdf, Becoming(file, changes), seconds=_seconds(file))
    return made


def slide_pictures(pool: DrawingPool, file: Came, changes: Changes, side: int) -> list[bytes]:
    """The slides of a deck as they become, as PNGs whose longer side is `side` pixels. Raises CannotDrawError."""
    made: list[bytes] = pool.done(_slide_pictures, Becoming(file, changes), side, seconds=_seconds(file))
    return made


def _in_groups(
    pool: DrawingPool, files: Iterable[Becoming], work: Callable[[list[Becoming]], list[_Made]]
) -> Iterator[_Made]:
    coming = iter(files)
    under_way: deque[Ticket] = deque()
    while True:
        while len(under_way) < _AT_ONCE and (group := list(islice(coming, _GROUP))):
            seconds = sum(format_of(one.file.name).seconds for one in group)
            under_way.append(pool.begin(work, group, seconds=max(_GROUP_SECONDS, seconds)))
        if not under_way:
            return
        yield from pool.ended(under_way.popleft())


def _picture(wanted: Becoming, side: int, page: int | None, look: str) -> bytes:
    document = _document(wanted.file)
    return draw(document.preview(wanted.changes, page, _look(document, look)), side)


def _quick_pictures(files: Sequence[Becoming], side: int) -> list[bytes | None]:
    """One that fails leaves the others be."""
    drawn: list[bytes | None] = []
    for one in files:
        try:
            drawn.append(_picture(one, side, None, ""))
        except (PaveseError, ValueError):
            drawn.append(None)
    return drawn


def _is_quick(file: Came) -> bool:
    return len(file.data) <= _SMALL and format_of(file.name).can.isdisjoint(_SLOW)


def _proof(file: Came, changes: Changes) -> FileProof:
    came, handed = _read(file), _read(_handed(file, changes))
    if Can.SLIDES in format_of(file.name).can:
        return _slide_proof(file.name, cast(Slided, came), cast(Slided, handed))
    looks, runs = [], dict[TextRun, None]()
    had: dict[tuple[str, float], float] = {}
    parts = list(zip(laid_out(came), laid_out(handed), strict=True))
    for number, (document, after) in enumerate(parts, 1):
        for look in after.looks:
            before, became = (one.preview(Changes(), look=look) for one in (document, after))
            words = f"{look.words}, part {number}" if len(parts) > 1 else look.words
            looks.append(SeenFile(words, draw(before, _PROOF_WIDE), draw(became, _PROOF_WIDE)))
            if look.reads:
                for one in readings(_settled(texts_marked(document, look)), Changes(), WHITE):
                    had.setdefault((one.run.text.text, one.run.text.size), one.before)
                runs.update(dict.fromkeys(_settled(texts_marked(after, look))))
    told = readings(runs, Changes(), WHITE)
    title = came.inventory().title
    return FileProof(file.name, title, looks, told, had, len(runs) - len(told), _EVERY_LOOK, _MAIL_HIGH)


def _slide_proof(name: str, document: Slided, written: Slided) -> FileProof:
    seen = []
    for at, page in enumerate(seen_pages(document)[:_MOST_SLIDES]):
        before, after = (draw(one.preview(Changes(), at), _PROOF_WIDE) for one in (document, written))
        seen.append(SeenFile(page.title or "Slide", before, after))
    had: dict[tuple[str, float], float] = {}
    for one in readings(_texts_of_slides(document), Changes(), WHITE):
        had.setdefault((one.run.text.text, one.run.text.size), one.before)
    runs = _texts_of_slides(written)
    told = readings(runs, Changes(), WHITE)
    title = document.inventory().title
    return FileProof(name, title, seen, told, had, len(runs) - len(told), _EVERY_SLIDE, _SLIDE_HIGH)


def _texts_of_slides(document: Slided) -> list[TextRun]:
    """Each once, on whichever slide it is seen."""
    runs = (replace(run, page="") for found in slides_measured(document) for run in found.texts)
    return list(dict.fromkeys(_settled(runs)))


def _settled(runs: Iterable[TextRun]) -> Iterator[TextRun]:
    """Texts on what is seen below them, whatever says that."""
    return (run.settled() for run in runs)


def _slides_pdf(wanted: Becoming) -> bytes:
    return office.pdf(cast(Slided, _read(wanted.file)).slides(wanted.changes).content)


def _slide_pictures(wanted: Becoming, side: int) -> list[bytes]:
    content = cast(Slided, _read(wanted.file)).slides(wanted.changes).content
    return list(office.pictures(content, side))


def _all_links(files: list[Becoming]) -> list[tuple[Link, ...]]:
    return [_links(cast(Themed, _document(one.file)), one.changes) for one in files]


def _open_deck(deck: bytes, kit: Kit) -> bytes:
    return open_template(office.open_template(deck), kit)


def _links(document: Themed, changes: Changes) -> tuple[Link, ...]:
    titles = {page.selector: page.title for page in document.pages}
    found = gathered(document.links(changes), titles)
    return tuple(Link(one, tuple(titles[page] for page in one.pages)) for one in found)


def _all_inside(files: list[Becoming]) -> list[tuple[Inside, ...]]:
    return [_inside(one.file) for one in files]


def _inside(file: Came) -> tuple[Inside, ...]:
    document = _document(file)
    can = format_of(file.name).can
    if Can.PICTURES not in can:
        return ()
    pictured = cast(Pictured, document)
    pictures = pictured.pictures(Changes())
    named = {reference: pictured.picture_selector(reference) for reference in pictures}
    paints: dict[str, list[Rgba]] = {}
    for site in document.sites():
        if site.kind is Kind.PICTURE:
            paints.setdefault(site.selectors[0], []).append(site.paint)
    boxes, motifs, takes = dict[bytes, Box | None](), dict[bytes, Motif | None](), dict[bytes, bool]()
    for data in pictures.values():
        if data not in boxes:
            boxes[data] = find_box(data)
            takes[data] = takes_another(data)
            motifs[data] = motif_of(data) if Can.SLIDES in can else None
    told: dict[str, Inside] = {}
    for reference, data in pictures.items():
        box, motif, selector = boxes[data], motifs[data], named[reference]
        if box is not None or selector or (motif is not None and motif.drawn):
            name = path_of_use(reference) if Can.SLIDES in can else reference
            below = _nearest(box.color, paints.get(selector, ())) if box is not None else None
            told[reference] = Inside(reference, name, box, None, motif, (), selector, below, takes[data])
    if not told:
        return ()
    if Can.LAID_OUT not in can and Can.SLIDES not in can:
        # In a drawing all goes by its plan together, whatever stands on what.
        return tuple(one._replace(box=None, box_paint=None) for one in told.values() if one.selector)
    try:
        if Can.SLIDES in can:
            return tuple(_inside_slides(cast(Slided, document), list(pictures), told))
        on = [found for one in laid_out(document) for found in pictures_marked(one, one.looks[0])]
    except ValueError:
        # It cannot be shown; its picture says so.
        return ()
    found = (told[one.reference]._replace(ground=one.ground) for one in on if one.reference in told)
    return tuple(dict.fromkeys(found))


def _nearest(color: Rgb, paints: Sequence[Rgba]) -> Rgba | None:
    """The paint that a color is but for noise."""
    near = [(apart, paint) for paint in paints if (apart := difference(color, paint.rgb)) < _NOISE]
    return min(near)[1] if near else None


def _inside_slides(document: Slided, references: Sequence[str], told: Mapping[str, Inside]) -> Iterator[Inside]:
    """Each place once, on what it stands on first, with all slides that show it."""
    grounds: dict[str, list[Site | None]] = {}
    pages: dict[str, dict[str, None]] = {}
    for number, ground, page, share in pictures_on_slides(document, len(references)):
        one = told.get(references[number])
        if share > _MOST_OF_SLIDE and (one is None or (one.box is None and not one.selector)):
            # What others stand on.
            continue
        grounds.setdefault(references[number], []).append(ground)
        pages.setdefault(references[number], {})[page] = None
    for reference, one in told.items():
        if reference in grounds:
            ground = next((one for one in grounds[reference] if one is not None), None)
            yield one._replace(ground=ground, pages=tuple(pages[reference]))


def _picture_beside(wanted: Becoming, reference: str, side: int) -> bytes | None:
    document = cast(Pictured, _document(wanted.file))
    data = document.pictures(wanted.changes).get(reference)
    if data is None:
        return None
    return draw(Preview(Notation.VECTOR, data), side) if is_svg(data) else picture_png(data, side)


def _masks(file: Came, paints: Sequence[Rgba], acts: tuple[Act, ...], side: int) -> bytes:
    document = _document(file)
    if Can.SLIDES in format_of(file.name).can:
        return strip_png(slide_masks(cast(Slided, document), paints, side))
    # What lies behind is no paint: it is black in every mask.
    behind = {target: BLACK for act in acts for target in act.targets}
    shown = tuple(act for act in acts if not act.by_place)
    all_changes = [Changes(Recoloring(colors, rest=BLACK), shown, behind) for colors in mask_recolorings(paints)]
    return draw_masks([document.preview(one) for one in all_changes], len(paints), side)


def _animation(wanted: Becoming, motion: Motion | None) -> bytes:
    return animation(wanted.file.name, _document(wanted.file), wanted.changes, motion, draw).content


def _frames(file: Came) -> list[Framed]:
    return list(slides_framed(cast(Slided, _document(file))))


def _spot(file: Came, paints: Sequence[Rgba], spot: tuple[float, float], look: str, page: int | None) -> AtSpot:
    from pavese.core.recolor.measure import paint_at

    document, can = _document(file), format_of(file.name).can
    if Can.SLIDES in can and (seen := seen_at(cast(Slided, document), page or 0, spot)) is not None:
        return AtSpot(*seen)
    preview = document.preview(Changes(), page, _look(document, look))
    found = paint_at(pixels_of(draw(preview, _SPOT_SIDE)), paints, *spot)
    if found is None or Can.LAID_OUT not in can:
        return AtSpot(found)
    # Of a file that is laid out in parts, its pages are those.
    parts = document.embedded()
    part = parts[page or 0] if parts else document
    return AtSpot(found, alone_under(cast(Marked, part), preview.look, spot, found))


def _logos_that_stay(wanted: Becoming) -> tuple[str, ...]:
    return cast(PictureDocument, _document(wanted.file)).logos(wanted.changes)


def _headroom(wanted: Becoming) -> Headroom | None:
    return cast(PictureDocument, _document(wanted.file)).headroom(wanted.changes)


def _thing(file: Came, wanted: PointedAt, side: int) -> bytes:
    pixels = _small(file, side)
    found = object_in(pixels, sought_of(wanted))
    parts = np.zeros(pixels.shape[:2], dtype=np.float32) if found is None else found.whole(pixels.shape)
    return png_of(covering(parts))


def _photograph(file: Came, parts: PictureParts, side: int) -> bytes:
    taken = cast(PictureDocument, _document(file)).photograph(parts)
    shown = Image.fromarray(taken.astype(np.uint8) * 255)
    shown.thumbnail((side, side))
    return png_of(covering(np.asarray(shown, dtype=np.float32) / np.float32(255)))


def _again(file: Came, region: Region, other: Came) -> Again | None:
    pixels = _small(file, _PIECE_SIDE)
    return again(rectangle(region, pixels.shape).of(pixels), _small(other, _PIECE_SIDE))


@lru_cache(maxsize=8)
def _small(file: Came, side: int) -> npt.NDArray[np.uint8]:
    """The pixels of a picture as it is seen, with a longer side of so many at most."""
    pixels = decode_picture(file.name, file.data).pixels[..., :3]
    by = max(-(-max(pixels.shape[:2]) // side), 1)
    return np.asarray(Image.fromarray(np.ascontiguousarray(pixels)).reduce(by))


def _look(document: Document, key: str) -> Look:
    return next((one for one in document.looks if one.key == key), document.looks[0])


def _views(file: Came) -> Views:
    document = _document(file)
    marked = cast(Marked, document).marked_sites() if Can.LAID_OUT in format_of(file.name).can else ()
    sites = chain(marked, document.sites())
    coded = cast(Templated, document) if Can.CODE in format_of(file.name).can else None
    codes, conditions = (coded.codes, coded.conditions) if coded is not None else ((), ())
    return Views(paints_by_page(document.pages, sites), document.looks, codes[:MOST], conditions[:MOST])


def _places(file: Came, paint: Rgba) -> tuple[Where, ...]:
    if Can.SOURCE not in format_of(file.name).can:
        return ()
    return tuple(islice(cast(Sourced, _document(file)).where(paint), _MOST_PLACES))


def _renditions(files: list[Becoming]) -> list[Rendition]:
    found = ((_read(one.file), one) for one in files)
    return [
        Rendition(written(one.file.name, file, one.changes, drawn), pictures_after(file, one.file.name, one.changes))
        for file, one in found
    ]


def drawn(preview: Preview, side: int) -> bytes:
    """A picture as `draw` makes it. Raises CannotDrawError."""
    try:
        return draw(preview, side)
    except ValueError as error:
        raise CannotDrawError(str(error)) from error


def pictures_after(document: Document, name: str, changes: Changes) -> Mapping[str, bytes]:
    """The pictures beside a file that become others with it, by what it calls them."""
    return cast(Pictured, document).beside(changes) if Can.PICTURES in format_of(name).can else {}


def _inventories(files: list[Becoming]) -> list[Inventory]:
    return [_read(_handed(one.file, one.changes)).inventory() for one in files]


def _handed(file: Came, changes: Changes) -> Came:
    """A file as it is handed over, with what is handed over beside it."""
    document = _read(file)
    changed = pictures_after(document, file.name, changes)
    beside = tuple((reference, changed.get(reference, data)) for reference, data in file.beside)
    return Came(file.name, document.write(changes), beside)


@lru_cache(maxsize=2)
def _remembered_large(file: Came) -> Document:
    return _read(file)


def _read(file: Came) -> Document:
    return read(file.name, file.data, dict(file.beside))


def _document(file: Came) -> Document:
    if Can.PIXELS in format_of(file.name).can:
        return _picture_document(file)
    size = len(file.data) + sum(len(data) for _, data in file.beside)
    return _remembered(file) if size <= _SMALL else _remembered_large(file) if size <= _LARGE else _read(file)


@cached(LRUCache(_PIXELS, getsizeof=lambda document: document.weight))
def _picture_document(file: Came) -> PictureDocument:
    return cast(PictureDocument, _read(file))


@lru_cache(maxsize=160)
def _remembered(file: Came) -> Document:
    return _read(file)
