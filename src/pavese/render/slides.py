"""What is measured on the slides of a deck: how much of them each paint is, and which text stands on what.

Every place of color is shown in a color that stands for it, so that what the office program paints tells the place:
through themes, masters, layouts, placeholders and tables, with no resolving of our own.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from pavese.core.color.contrast import WHITE
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.document import Marked, Page, PageKind
from pavese.core.formats.marks import scattered
from pavese.core.recolor.measure import SIDE, Measured, measure
from pavese.core.recolor.site import Site
from pavese.core.recolor.texts import BARE, Text, TextRun
from pavese.render import office

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

#: Longer side of the slides in pixels when it is looked at what their texts stand on.
_SIDE = 640
#: From which share of a text's box on something is its ground, and how much of it may be mixtures.
_GOOD_PART, _MIXED = 0.12, 0.5
_LONGEST = 60


@dataclass(frozen=True)
class _Key:
    """What makes two texts of a slide one for reading."""

    ink: int
    ground: int | None
    size: float
    bold: bool


#: The number of the ground of what stands on nothing; what stands on no one color has none.
_NOTHING = -1


def seen_pages(document: Marked) -> Sequence[Page]:
    """The slides of a deck; without any, its masters and layouts."""
    return [page for page in document.pages if page.kind is PageKind.CONTENT] or document.pages


def slides_measured(document: Marked) -> Iterator[Measured]:
    """What is measured on each slide. Raises ValueError when they cannot be shown."""
    sites = list(document.marked_sites())
    numbers = {scattered(number): number for number in range(len(sites))}
    paints = list(dict.fromkeys(site.paint for site in sites))
    pages = [page.selector for page in seen_pages(document)]
    for page, slide in zip(pages, office.slides(document.marked().content, _SIDE), strict=False):
        codes = _codes(slide.pixels)
        runs = tuple(_runs(slide.pieces, codes, sites, numbers, page))
        step = max(max(codes.shape) // SIDE, 1)
        found = measure(_in_paints(codes[::step, ::step], sites, numbers), paints)
        # A slide has no outline: it is seen whole.
        yield Measured(found.areas, found.touching, {}, runs)


def slide_masks(document: Marked, paints: Sequence[Rgba], side: int) -> npt.NDArray[np.uint8]:
    """Where each paint stands on the first slide, 255 where it does, below each other; shape (count * height, width).

    Raises ValueError when it cannot be shown.
    """
    import numpy as np

    of_paint: dict[Rgba, list[int]] = {}
    for number, site in enumerate(document.marked_sites()):
        r, g, b = scattered(number)
        of_paint.setdefault(site.paint, []).append(r << 16 | g << 8 | b)
    codes = _codes(next(office.pixels(document.marked().content, side)))
    masks = [np.isin(codes, of_paint.get(paint, [])) for paint in paints]
    return np.asarray(np.concatenate(masks) * np.uint8(255))


def _codes(pixels: npt.NDArray[np.uint8]) -> npt.NDArray[np.int64]:
    """Each pixel as one number, shape (height, width)."""
    import numpy as np

    wide = pixels.astype(np.int64)
    return np.asarray(wide[..., 0] << 16 | wide[..., 1] << 8 | wide[..., 2])


def _color(code: int) -> Rgb:
    return Rgb(code >> 16, code >> 8 & 255, code & 255)


def _in_paints(
    codes: npt.NDArray[np.int64], sites: Sequence[Site], numbers: Mapping[Rgb, int]
) -> npt.NDArray[np.uint8]:
    """The slide in the paints of its sites, see-through where no site shows; shape (height, width, 4)."""
    import numpy as np

    seen, at = np.unique(codes, return_inverse=True)
    palette = np.zeros((len(seen), 4), dtype=np.uint8)
    for row, code in enumerate(seen.tolist()):
        number = numbers.get(_color(code))
        if number is not None:
            palette[row] = (*sites[number].paint.over(WHITE), 255)
    return palette[at].reshape(*codes.shape, 4)


def _runs(
    pieces: Sequence[office.Piece],
    codes: npt.NDArray[np.int64],
    sites: Sequence[Site],
    numbers: Mapping[Rgb, int],
    page: str,
) -> Iterator[TextRun]:
    words: dict[_Key, str] = {}
    for piece in pieces:
        ink = numbers.get(piece.ink)
        if ink is None:
            # A color that the program chose by itself, or one that is mixed from several.
            continue
        for ground in _grounds(piece, codes, numbers):
            key = _Key(ink, ground, round(piece.size, 1), piece.bold)
            words[key] = words.get(key, "") + piece.text
    for key, text in words.items():
        site = sites[key.ink]
        said = Text(" ".join(text.split())[:_LONGEST], site.paint, 1.0, key.size, key.bold, site.selectors, site.kind)
        if key.ground == _NOTHING:
            yield TextRun(said, BARE, page=page)
        elif key.ground is None or sites[key.ground].paint.alpha < 1:
            yield TextRun(said, None, page=page)
        else:
            below = sites[key.ground]
            yield TextRun(said, below.paint, below.kind, below.selectors, page=page)


def _grounds(piece: office.Piece, codes: npt.NDArray[np.int64], numbers: Mapping[Rgb, int]) -> Iterator[int | None]:
    """The numbers of the sites that a text stands on."""
    import numpy as np

    height, width = codes.shape
    left, top, right, bottom = piece.box
    rows = slice(max(int(top * height), 0), max(int(np.ceil(bottom * height)), 1))
    columns = slice(max(int(left * width), 0), max(int(np.ceil(right * width)), 1))
    below = codes[rows, columns]
    if not below.size:
        return
    seen, counts = np.unique(below, return_counts=True)
    least, mixed = _GOOD_PART * below.size, 0
    for code, count in zip(seen.tolist(), counts.tolist(), strict=True):
        number = numbers.get(_color(code))
        if number is None and _color(code) == WHITE:
            number = _NOTHING
        if number is None:
            mixed += count
        elif count >= least:
            yield number
    if mixed > _MIXED * below.size:
        yield None
