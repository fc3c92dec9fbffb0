"""What becomes of files, made in child processes: pictures, masks, animations, and the files themselves.

The functions named with an underscore run in a child.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from itertools import chain, islice, repeat
from typing import NamedTuple, cast

from pavese.core.color.contrast import BLACK
from pavese.core.color.srgb import Rgba
from pavese.core.errors import PaveseError
from pavese.core.formats import format_of, is_taken
from pavese.core.formats.animation import animation
from pavese.core.formats.document import (
    Alone,
    Condition,
    Document,
    Look,
    Marked,
    PagePaints,
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
from pavese.core.formats.written import written
from pavese.core.handoff.open_template import open_template
from pavese.core.kit.kit import Kit
from pavese.core.recolor.act import Act
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.linked import LinkedPaint, gathered
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.samples import MOST
from pavese.core.recolor.spotlight import mask_recolorings
from pavese.render import browser, office
from pavese.render.draw import draw, draw_masks, pixels_of, strip_png
from pavese.render.marked import alone_under
from pavese.render.pool import CannotDrawError, DrawingPool
from pavese.render.remembered import (
    SECONDS,
    SMALL,
    document_of,
    handed,
    in_groups,
    pictures_after,
    read_file,
    seconds_for,
)
from pavese.render.slides import Framed, seen_at, slide_masks, slides_framed

#: Small pictures that are drawn at once.
_QUICK_GROUP = 4
#: What takes its time whatever its size.
_SLOW = (Can.LAID_OUT, Can.SLIDES, Can.PIXELS)
#: Seconds that whoever reads files that have come has the machine for itself, before they are drawn.
_READ_FIRST = 1.2
#: Places of a paint that are told.
_MOST_PLACES = 200
#: Longer side of the picture in which a spot is looked up.
_SPOT_SIDE = 640


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
    made: bytes = pool.done(_picture, wanted, side, page, look, seconds=seconds_for(wanted.file))
    return made


def small_pictures(pool: DrawingPool, files: Sequence[Becoming], side: int) -> Iterator[bytes | None]:
    """A PNG of each file as it becomes, in their order, many drawn at a time; None for a large one, or one that cannot
    be drawn in no time: `picture` tells more of it."""
    quick = [one for one in files if _is_quick(one.file)]
    groups = [quick[at : at + _QUICK_GROUP] for at in range(0, len(quick), _QUICK_GROUP)]
    begun = [(len(group), pool.begin(_quick_pictures, group, side, seconds=SECONDS)) for group in groups]

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
    made: bytes = pool.done(_masks, file, tuple(paints), acts, side, seconds=seconds_for(file))
    return made


def moved(pool: DrawingPool, wanted: Becoming, motion: Motion | None) -> bytes:
    """The animation that a file is, or the one that a motion makes of it. Raises CannotDrawError."""
    made: bytes = pool.done(_animation, wanted, motion, seconds=SECONDS)
    return made


def frames(pool: DrawingPool, file: Came) -> list[Framed]:
    """Where the paints of a deck stand on each of its slides. Raises CannotDrawError."""
    found: list[Framed] = pool.done(_frames, file, seconds=seconds_for(file))
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
    found: AtSpot = pool.done(_spot, file, tuple(paints), spot, look, page, seconds=seconds_for(file))
    return found


def views(pool: DrawingPool, file: Came) -> Views:
    """How a file can be looked at. Raises CannotDrawError."""
    found: Views = pool.done(_views, file, seconds=SECONDS)
    return found


class Rendition(NamedTuple):
    """A file as it is handed over, and the pictures beside it that become others, by what it calls them."""

    data: bytes
    beside: Mapping[str, bytes]


def places(pool: DrawingPool, file: Came, paint: Rgba) -> tuple[Where, ...]:
    """Where a paint stands in the source of a file; nothing where its format does not tell. Raises CannotDrawError."""
    found: tuple[Where, ...] = pool.done(_places, file, paint, seconds=SECONDS)
    return found


def renditions(pool: DrawingPool, files: Iterable[Becoming]) -> Iterator[Rendition]:
    """Every file as it is handed over, in their order. Raises CannotDrawError."""
    return in_groups(pool, files, _renditions)


def inventories_after(pool: DrawingPool, files: Iterable[Becoming]) -> Iterator[Inventory]:
    """What is read back of every file as it is handed over, in their order. Raises CannotDrawError."""
    return in_groups(pool, files, _inventories)


class Link(NamedTuple):
    """What follows the theme of a file after its changes, or does not, with what the pages are called on which it is
    seen."""

    of: LinkedPaint
    pages: tuple[str, ...]


def links(pool: DrawingPool, files: Iterable[Becoming]) -> Iterator[tuple[Link, ...]]:
    """What becomes of the colors of each file that could follow its theme. Raises CannotDrawError."""
    return in_groups(pool, files, _all_links)


def open_deck(pool: DrawingPool, deck: bytes, kit: Kit) -> bytes:
    """A deck with a slide of each layout as an OpenDocument template of a kit (`open_template`), made by an office
    program. Raises CannotDrawError."""
    made: bytes = pool.done(_open_deck, deck, kit, seconds=office.SECONDS)
    return made


def slides_pdf(pool: DrawingPool, file: Came, changes: Changes) -> bytes:
    """A deck as it becomes, as a PDF. Raises CannotDrawError."""
    made: bytes = pool.done(_slides_pdf, Becoming(file, changes), seconds=seconds_for(file))
    return made


def slide_pictures(pool: DrawingPool, file: Came, changes: Changes, side: int) -> list[bytes]:
    """The slides of a deck as they become, as PNGs whose longer side is `side` pixels. Raises CannotDrawError."""
    made: list[bytes] = pool.done(_slide_pictures, Becoming(file, changes), side, seconds=seconds_for(file))
    return made


def _picture(wanted: Becoming, side: int, page: int | None, look: str) -> bytes:
    document = document_of(wanted.file)
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
    return len(file.data) <= SMALL and format_of(file.name).can.isdisjoint(_SLOW)


def _slides_pdf(wanted: Becoming) -> bytes:
    return office.pdf(cast(Slided, read_file(wanted.file)).slides(wanted.changes).content)


def _slide_pictures(wanted: Becoming, side: int) -> list[bytes]:
    content = cast(Slided, read_file(wanted.file)).slides(wanted.changes).content
    return list(office.pictures(content, side))


def _all_links(files: list[Becoming]) -> list[tuple[Link, ...]]:
    return [_links(cast(Themed, document_of(one.file)), one.changes) for one in files]


def _open_deck(deck: bytes, kit: Kit) -> bytes:
    return open_template(office.open_template(deck), kit)


def _links(document: Themed, changes: Changes) -> tuple[Link, ...]:
    titles = {page.selector: page.title for page in document.pages}
    found = gathered(document.links(changes), titles)
    return tuple(Link(one, tuple(titles[page] for page in one.pages)) for one in found)


def _masks(file: Came, paints: Sequence[Rgba], acts: tuple[Act, ...], side: int) -> bytes:
    document = document_of(file)
    if Can.SLIDES in format_of(file.name).can:
        return strip_png(slide_masks(cast(Slided, document), paints, side))
    # What lies behind is no paint: it is black in every mask.
    behind = {target: BLACK for act in acts for target in act.targets}
    shown = tuple(act for act in acts if not act.by_place)
    all_changes = [Changes(Recoloring(colors, rest=BLACK), shown, behind) for colors in mask_recolorings(paints)]
    return draw_masks([document.preview(one) for one in all_changes], len(paints), side)


def _animation(wanted: Becoming, motion: Motion | None) -> bytes:
    return animation(wanted.file.name, document_of(wanted.file), wanted.changes, motion, draw).content


def _frames(file: Came) -> list[Framed]:
    return list(slides_framed(cast(Slided, document_of(file))))


def _spot(file: Came, paints: Sequence[Rgba], spot: tuple[float, float], look: str, page: int | None) -> AtSpot:
    from pavese.core.recolor.measure import paint_at

    document, can = document_of(file), format_of(file.name).can
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


def _look(document: Document, key: str) -> Look:
    return next((one for one in document.looks if one.key == key), document.looks[0])


def _views(file: Came) -> Views:
    document = document_of(file)
    marked = cast(Marked, document).marked_sites() if Can.LAID_OUT in format_of(file.name).can else ()
    sites = chain(marked, document.sites())
    coded = cast(Templated, document) if Can.CODE in format_of(file.name).can else None
    codes, conditions = (coded.codes, coded.conditions) if coded is not None else ((), ())
    return Views(paints_by_page(document.pages, sites), document.looks, codes[:MOST], conditions[:MOST])


def _places(file: Came, paint: Rgba) -> tuple[Where, ...]:
    if Can.SOURCE not in format_of(file.name).can:
        return ()
    return tuple(islice(cast(Sourced, document_of(file)).where(paint), _MOST_PLACES))


def _renditions(files: list[Becoming]) -> list[Rendition]:
    found = ((read_file(one.file), one) for one in files)
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


def _inventories(files: list[Becoming]) -> list[Inventory]:
    return [read_file(handed(one.file, one.changes)).inventory() for one in files]
