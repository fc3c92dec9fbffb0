"""The pictures inside of files: which have a ground of their own or paints of the plan, and what becomes of one.

The functions named with an underscore run in a child.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import NamedTuple, cast

from pavese.core.color.difference import difference
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats import format_of
from pavese.core.formats.document import Notation, Pictured, Preview, Slided
from pavese.core.formats.format import Can
from pavese.core.formats.intake import Becoming, Came
from pavese.core.formats.slide_pictures import path_of_use
from pavese.core.formats.told import is_svg
from pavese.core.pictures.mend import Box, find_box, takes_another
from pavese.core.pictures.motif import Motif, motif_of
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.site import Kind, Site
from pavese.render.draw import draw, picture_png
from pavese.render.marked import laid_out, pictures_marked
from pavese.render.pool import DrawingPool
from pavese.render.remembered import SECONDS, document_of, in_groups
from pavese.render.slides import pictures_on_slides

#: How far the color of a box may be from the paint that it is (CIEDE2000).
_NOISE = 2.0
#: A picture that takes more of a slide is a ground.
_MOST_OF_SLIDE = 0.4


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
    return in_groups(pool, (Becoming(file, Changes()) for file in files), _all_inside)


def picture_beside(pool: DrawingPool, wanted: Becoming, reference: str, side: int) -> bytes | None:
    """A picture of a file as it becomes, as a PNG within a square; None for one that is not at hand. Raises
    CannotDrawError."""
    made: bytes | None = pool.done(_picture_beside, wanted, reference, side, seconds=SECONDS)
    return made


def _all_inside(files: list[Becoming]) -> list[tuple[Inside, ...]]:
    return [_inside(one.file) for one in files]


def _inside(file: Came) -> tuple[Inside, ...]:
    document = document_of(file)
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
    document = cast(Pictured, document_of(wanted.file))
    data = document.pictures(wanted.changes).get(reference)
    if data is None:
        return None
    return draw(Preview(Notation.VECTOR, data), side) if is_svg(data) else picture_png(data, side)
