"""What is measured on the slides of a deck: how much of them each paint is, and which text stands on what.

Every place of color is shown in a color that stands for it, so that what the office program paints tells the place:
through themes, masters, layouts, placeholders and tables, with no resolving of our own.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from contextlib import ExitStack
from dataclasses import dataclass
from functools import cache, cached_property, partial
from itertools import islice
from math import ceil
from typing import TYPE_CHECKING, NamedTuple

from pavese.core.color.contrast import WHITE
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.document import Alone, Page, PageKind, Slided
from pavese.core.formats.marks import scattered
from pavese.core.recolor.measure import SIDE, Measured, measure
from pavese.core.recolor.site import Site
from pavese.core.recolor.texts import BARE, Seen, Text, TextRun
from pavese.render import office
from pavese.render.faces import told_in
from pavese.render.mixed import Mixing, Mixture, mixtures, together, veiled

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

#: Longer side of the slides in pixels when it is looked at what their texts stand on.
_SIDE = 640
#: From which share of a text's box on something is its ground, and how much of it may be mixtures.
_GOOD_PART, _MIXED = 0.12, 0.5
#: Grounds of a slide on which veils are looked for, those that are seen most.
_MOST_GROUNDS = 12
_LONGEST = 60
#: How far the mark of a picture may be off in a channel, in how many pixels it is seen at least, and how many pixels
#: round a picture tell what it stands on.
_OFF, _LEAST, _RING = 3, 12, 3


@dataclass(frozen=True)
class _Key:
    """What makes two texts of a slide one for reading."""

    ink: int
    ground: int | None
    size: float
    bold: bool


#: How far apart, in pixels, what is framed together may lie, how many pixels are framed at least, and how many frames a
#: paint has on a page at most, the largest.
_TOGETHER, _LEAST_FRAMED, _MOST_FRAMES = 3, 6, 40

#: How many pixels away from a spot it is looked for what stands there.
_NEAR = 3
#: The numbers of what is no mark: nothing, which is white, and what is no one color.
_NOTHING, _MANY_COLORS = -1, -2


def seen_pages(document: Slided) -> Sequence[Page]:
    """The slides of a deck; without any, its masters and layouts."""
    return [page for page in document.pages if page.kind is PageKind.CONTENT] or document.pages


class _InMarks:
    """The sites of a deck, by the marks that stand for them in its picture."""

    def __init__(self, document: Slided) -> None:
        self._document = document
        self.sites = list(document.marked_sites())
        self.marks = [scattered(number) for number in range(len(self.sites))]
        self._numbers = {mark: number for number, mark in enumerate(self.marks)}
        self.paints = list(dict.fromkeys(site.paint for site in self.sites))

    @cached_property
    def mixtures(self) -> list[Mixture]:
        """What may be seen together of them."""
        return list(mixtures(self.sites, self.marks, self._document.styled()))

    def number(self, mark: Rgb) -> int | None:
        """The number of the site that a mark stands for; None for what is no mark."""
        return self._numbers.get(mark)

    def numbers(self, codes: npt.NDArray[np.int64]) -> npt.NDArray[np.int64]:
        """The numbers of the sites that pixels show, or of what they show else, in the shape of `codes`."""
        import numpy as np

        none = np.where(codes == _code(WHITE), _NOTHING, _MANY_COLORS)
        known, of = self._known
        if not len(known):
            return none
        at = np.minimum(np.searchsorted(known, codes), len(known) - 1)
        return np.where(known[at] == codes, of[at], none)

    @cached_property
    def _known(self) -> tuple[npt.NDArray[np.int64], npt.NDArray[np.int64]]:
        """The marks as codes, the lowest first, and the numbers of their sites."""
        import numpy as np

        codes = np.array([_code(mark) for mark in self.marks], dtype=np.int64)
        order = np.argsort(codes)
        return codes[order], order

    @cached_property
    def palette(self) -> npt.NDArray[np.uint8]:
        """The paints of the sites, by their numbers, on white; see-through where no site shows, whose numbers count
        from the end; shape (count, 4)."""
        import numpy as np

        seen = [(*site.paint.over(WHITE), 255) for site in self.sites]
        return np.array([*seen, (0, 0, 0, 0), (0, 0, 0, 0)], dtype=np.uint8)

    def site(self, mark: Rgb) -> Site | None:
        number = self.number(mark)
        return None if number is None else self.sites[number]


def slides_measured(document: Slided) -> Iterator[Measured]:
    """What is measured on each slide. Raises ValueError when they cannot be shown."""
    marks, named = _InMarks(document), document.faces
    pages = [page.selector for page in seen_pages(document)]
    with ExitStack() as opened:

        @cache
        def any_slide() -> Callable[[int], office.Slide]:
            return opened.enter_context(office.any_slide(document.unmarked().content, _SIDE))

        def as_it_came(number: int) -> office.Slide:
            return any_slide()(number)

        drawn = office.slides(document.marked().content, _SIDE)
        for number, (page, slide) in enumerate(zip(pages, drawn, strict=False)):
            shown = marks.numbers(_codes(slide.pixels))
            runs = tuple(_Standing(slide, shown, marks, partial(as_it_came, number)).runs(page))
            step = max(max(shown.shape) // SIDE, 1)
            found = measure(marks.palette[shown[::step, ::step]], marks.paints)
            # A slide has no outline: it is seen whole.
            faces = told_in(named, {piece.face for piece in slide.pieces})
            yield Measured(found.areas, found.touching, {}, runs, faces=tuple(faces))


class OnSlide(NamedTuple):
    """A picture of a deck, by the number of its place, on what it stands on (None: another picture, a gradient, or the
    edge of the slide), on a page (its selector), and how much of that it takes."""

    number: int
    ground: Site | None
    page: str
    share: float


def pictures_on_slides(document: Slided, count: int) -> Iterator[OnSlide]:
    """What the pictures of a deck, of so many places, stand on, on each slide that shows them. Raises ValueError when
    they cannot be shown."""
    marks = _InMarks(document)
    # Those of pictures follow those of sites.
    first = len(marks.sites)
    of_pictures = [scattered(number) for number in range(first, first + count)]
    pages = [page.selector for page in seen_pages(document)]
    for page, pixels in zip(pages, office.pixels(document.pictures_marked().content, _SIDE), strict=False):
        codes = _codes(pixels)
        for number, rows, columns in _boxes(pixels, codes, of_pictures):
            below = _around(codes, rows, columns, marks)
            share = (rows.stop - rows.start) * (columns.stop - columns.start) / codes.size
            yield OnSlide(number, below, page, share)


def _boxes(
    pixels: npt.NDArray[np.uint8], codes: npt.NDArray[np.int64], marks: Sequence[Rgb]
) -> Iterator[tuple[int, slice, slice]]:
    """The pictures that are seen on a slide, each by its number with the rows and columns that it stands in."""
    import numpy as np
    from scipy import ndimage

    if not marks:
        return
    seen, counts = np.unique(codes, return_counts=True)
    colors = np.stack([seen >> 16, seen >> 8 & 255, seen & 255], axis=1)
    for number, mark in enumerate(marks):
        # What is not packed without loss may be off by a little.
        near = (np.abs(colors - np.array(mark)).max(axis=1) <= _OFF) & (counts >= _LEAST)
        if near.any():
            mask = np.isin(codes, seen[near])
            labels, _ = ndimage.label(ndimage.binary_dilation(mask, iterations=2))
            for rows, columns in ndimage.find_objects(labels):
                yield number, rows, columns


def _around(codes: npt.NDArray[np.int64], rows: slice, columns: slice, marks: _InMarks) -> Site | None:
    """The site of what lies round a box, where most of that is of one."""
    import numpy as np

    height, width = codes.shape
    top, bottom = max(rows.start - _RING, 0), min(rows.stop + _RING, height)
    left, right = max(columns.start - _RING, 0), min(columns.stop + _RING, width)
    ring = np.ones((bottom - top, right - left), dtype=bool)
    ring[rows.start - top : rows.stop - top, columns.start - left : columns.stop - left] = False
    around = codes[top:bottom, left:right][ring]
    if not around.size:
        return None
    seen, counts = np.unique(around, return_counts=True)
    most = int(counts.argmax())
    return marks.site(_color(int(seen[most]))) if counts[most] > around.size / 2 else None


def slide_masks(document: Slided, paints: Sequence[Rgba], side: int) -> npt.NDArray[np.uint8]:
    """Where each paint stands on the first slide, 255 where it does, below each other; shape (count * height, width).

    Raises ValueError when it cannot be shown.
    """
    import numpy as np

    of_paint: dict[Rgba, list[int]] = {}
    for number, site in enumerate(document.marked_sites()):
        of_paint.setdefault(site.paint, []).append(_code(scattered(number)))
    codes = _codes(next(office.pixels(document.marked().content, side)))
    masks = [np.isin(codes, of_paint.get(paint, [])) for paint in paints]
    return np.asarray(np.concatenate(masks) * np.uint8(255))


class Frame(NamedTuple):
    """A box on a slide, in pixels."""

    left: int
    top: int
    width: int
    height: int


class Framed(NamedTuple):
    """Where paints stand on a page, by its selector, seen in so many columns and rows: of each the frames of what is
    shown in it, shapes and texts."""

    page: str
    columns: int
    rows: int
    boxes: dict[Rgba, list[Frame]]


def slides_framed(document: Slided) -> Iterator[Framed]:
    """Where each paint stands on each slide of a deck. Raises ValueError when they cannot be shown."""
    import numpy as np

    marks = _InMarks(document)
    order = {paint: at for at, paint in enumerate(marks.paints)}
    # What shows no site has the numbers that count from the end.
    of_sites = np.array([*(order[site.paint] for site in marks.sites), -1, -1])
    pages = [page.selector for page in seen_pages(document)]
    for page, slide in zip(pages, office.slides(document.marked().content, _SIDE), strict=False):
        shown = of_sites[marks.numbers(_codes(slide.pixels))]
        texts: dict[int, list[office.Piece]] = {}
        for piece in slide.pieces:
            if (site := marks.site(piece.ink)) is not None:
                texts.setdefault(order[site.paint], []).append(piece)
        boxes = {}
        for number in sorted({*np.unique(shown[shown >= 0]).tolist(), *texts}):
            written_in = np.zeros(shown.shape, dtype=bool)
            for piece in texts.get(number, ()):
                written_in[_within(piece, shown.shape)] = True
            if found := [*_framed(shown == number), *_framed(written_in)]:
                boxes[marks.paints[number]] = sorted(found, key=lambda frame: -frame.width * frame.height)[
                    :_MOST_FRAMES
                ]
        yield Framed(page, shown.shape[1], shown.shape[0], boxes)


def _framed(mask: npt.NDArray[np.bool_]) -> list[Frame]:
    """The frames of what lies together in a mask."""
    import numpy as np
    from scipy import ndimage

    labels, count = ndimage.label(ndimage.binary_dilation(mask, iterations=_TOGETHER))
    labels = np.where(mask, labels, 0)
    sizes = np.bincount(labels.ravel(), minlength=count + 1)
    return [
        Frame(columns.start, rows.start, columns.stop - columns.start, rows.stop - rows.start)
        for number, (rows, columns) in enumerate(ndimage.find_objects(labels), 1)
        if sizes[number] >= _LEAST_FRAMED
    ]


def _codes(pixels: npt.NDArray[np.uint8]) -> npt.NDArray[np.int64]:
    """Each pixel as one number, shape (height, width)."""
    import numpy as np

    wide = pixels.astype(np.int64)
    return np.asarray(wide[..., 0] << 16 | wide[..., 1] << 8 | wide[..., 2])


def _code(color: Rgb) -> int:
    return color.r << 16 | color.g << 8 | color.b


def _color(code: int) -> Rgb:
    return Rgb(code >> 16, code >> 8 & 255, code & 255)


class _Standing:
    """What the texts of a slide in marks stand on; `shown` are the numbers of the sites that its pixels show, and
    `as_it_came` gives the slide as it came."""

    def __init__(
        self,
        slide: office.Slide,
        shown: npt.NDArray[np.int64],
        marks: _InMarks,
        as_it_came: Callable[[], office.Slide],
    ) -> None:
        self._slide, self._shown, self._marks, self._as_it_came = slide, shown, marks, as_it_came

    def runs(self, page: str) -> Iterator[TextRun]:
        """The texts of the slide, whose page has this selector, on each of their grounds."""
        words: dict[_Key, str] = {}
        mixed: dict[_Key, list[office.Piece]] = {}
        for piece in self._slide.pieces:
            ink = self._marks.number(piece.ink)
            if ink is None:
                # A color that the program chose by itself, or one that is mixed from several.
                continue
            for ground in _grounds(piece, self._shown):
                key = _Key(ink, ground, round(piece.size, 1), piece.bold)
                words[key] = words.get(key, "") + piece.text
                if ground is None:
                    mixed.setdefault(key, []).append(piece)
        for key, text in words.items():
            site = self._marks.sites[key.ink]
            words_told = " ".join(text.split())[:_LONGEST]
            said = Text(words_told, site.paint, 1.0, key.size, key.bold, site.selectors, site.kind)
            if key.ground == _NOTHING:
                yield TextRun(said, BARE, page=page)
            elif key.ground is None or self._marks.sites[key.ground].paint.alpha < 1:
                yield TextRun(said, None, page=page, seen=self._seen(mixed.get(key, ())))
            else:
                below = self._marks.sites[key.ground]
                yield TextRun(said, below.paint, below.kind, below.selectors, page=page)

    def _seen(self, pieces: Sequence[office.Piece]) -> tuple[Seen, ...]:
        """What is seen below pieces of text that stand on no one color."""
        found: list[Seen] = []
        for piece in pieces:
            within = _within(piece, self._shown.shape)
            # Where it shows no mark alone; white as well, which photographs are in places.
            loose = self._shown[within] < 0
            found += self._mixing.seen(self._came[within][loose], self._smooth[within][loose]) if loose.any() else ()
        return together(found)

    @cached_property
    def _mixing(self) -> Mixing:
        import numpy as np

        seen, counts = np.unique(self._shown[self._shown >= 0], return_counts=True)
        alone = seen[np.argsort(-counts, kind="stable")][:_MOST_GROUNDS].tolist()
        tried = self._marks.mixtures
        return Mixing([*tried, *veiled(tried, [(self._marks.sites[at], self._marks.marks[at]) for at in alone])])

    @cached_property
    def _came(self) -> npt.NDArray[np.float64]:
        return _smoothed(self._as_it_came().pixels)

    @cached_property
    def _smooth(self) -> npt.NDArray[np.float64]:
        return _smoothed(self._slide.pixels)


def _smoothed(pixels: npt.NDArray[np.uint8]) -> npt.NDArray[np.float64]:
    """Pixels, shape (height, width, 3), each as what is round it, so that no grain counts as a place."""
    import numpy as np
    from scipy import ndimage

    return np.asarray(ndimage.uniform_filter(pixels.astype(float), size=(3, 3, 1), mode="nearest"))


def seen_at(document: Slided, page: int, spot: tuple[float, float]) -> tuple[Rgba, Alone | None] | None:
    """The paint at a spot of a slide, as parts of it, and the shape that alone says it; None where no place shows.

    Raises ValueError when it cannot be shown.
    """
    import numpy as np

    if page >= len(seen_pages(document)):
        return None
    marks = _InMarks(document)
    pixels = next(islice(office.pixels(document.marked().content, _SIDE), page, None), None)
    if pixels is None:
        # Of a long deck not all slides are shown in marks.
        return None
    shown = marks.numbers(_codes(pixels))
    height, width = shown.shape
    column, row = min(int(spot[0] * width), width - 1), min(int(spot[1] * height), height - 1)
    # What is mixed, at the edges of letters, is told by what is pure beside it.
    for around in range(_NEAR + 1):
        window = shown[max(row - around, 0) : row + around + 1, max(column - around, 0) : column + around + 1]
        seen, counts = np.unique(window[window >= 0], return_counts=True)
        if len(seen):
            number = int(seen[counts.argmax()])
            return marks.sites[number].paint, document.alone(number)
    return None


def _within(piece: office.Piece, shape: tuple[int, ...]) -> tuple[slice, slice]:
    """The rows and columns of a slide of that shape in which a text stands."""
    (height, width), (left, top, right, bottom) = shape, piece.box
    rows = slice(max(int(top * height), 0), max(ceil(bottom * height), 1))
    return rows, slice(max(int(left * width), 0), max(ceil(right * width), 1))


def _grounds(piece: office.Piece, shown: npt.NDArray[np.int64]) -> Iterator[int | None]:
    """The numbers of the sites that a text stands on, or of nothing; None for what is no one color."""
    import numpy as np

    below = shown[_within(piece, shown.shape)].ravel()
    if not below.size:
        return
    counts = np.bincount(below - _MANY_COLORS)
    mixed, counts[0] = counts[0], 0
    yield from (np.flatnonzero(counts >= max(_GOOD_PART * below.size, 1)) + _MANY_COLORS).tolist()
    if mixed > _MIXED * below.size:
        yield None
