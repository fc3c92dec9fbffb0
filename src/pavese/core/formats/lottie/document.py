"""A Lottie animation as a document: its paints, and the file again with paints replaced in place."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import replace

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.document import (
    ALONE,
    NOT_FETCHED,
    PLAIN,
    WHOLE,
    Beside,
    Document,
    Look,
    Notation,
    Page,
    Preview,
)
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.json_source import JsonSource
from pavese.core.formats.lottie.pictures import with_pictures
from pavese.core.formats.lottie.places import LottiePlace, pictures_of, places_of, theme_places
from pavese.core.formats.lottie.texts import inked, texts_of
from pavese.core.recolor.changes import Changes, Wanted
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.texts import Text

_NUMBER = re.compile(rb"[-+0-9.eE]+")
#: Digits of a component: 8 bits come back, and no more is written than that takes.
_DIGITS = 6


def read_lottie(name: str, data: bytes, beside: Beside = ALONE, within: tuple[str, ...] = ()) -> LottieDocument:
    """Reads an animation; `within` are selectors of all its sites, from outside. Raises RefusedFileError with the
    file's name and the reason."""
    source = JsonSource(name, data)
    found = places_of(name, source.tree)
    places = tuple(found.places)
    if within:
        places = tuple(replace(place, selectors=(*place.selectors, *within)) for place in places)
    remarks = list(found.remarks)
    if any(reference not in beside for reference in pictures_of(source.tree)):
        remarks.append(NOT_FETCHED)
    return LottieDocument(source, places, tuple(remarks), within, beside)


def read_theme(name: str, data: bytes) -> LottieDocument:
    """Reads a theme of a dotLottie. Raises RefusedFileError as `read_lottie`."""
    source = JsonSource(name, data)
    return LottieDocument(source, tuple(theme_places(source.tree)), ())


class LottieDocument:
    """See `pavese.core.formats.document.Document`."""

    looks: tuple[Look, ...] = (PLAIN,)

    def __init__(
        self,
        source: JsonSource,
        places: tuple[LottiePlace, ...],
        remarks: tuple[str, ...],
        within: tuple[str, ...] = (),
        beside: Beside = ALONE,
    ) -> None:
        self._within = within
        self._beside = beside
        self._source = source
        self._places = places
        self._remarks = remarks
        # Told when the file is read, so that one whose places cannot be told apart is refused then.
        self._spans = source.spans([place.spot for place in places])

    def sites(self) -> Iterator[Site]:
        for place in self._places:
            for paint in place.paints:
                yield Site(paint, place.kind, place.selectors)

    def inventory(self) -> Inventory:
        return Inventory.count(self.sites(), self._remarks, self._blends())

    @property
    def pages(self) -> tuple[Page, ...]:
        width, height = (self._source.tree.get(side) for side in ("w", "h"))
        known = all(isinstance(side, int | float) for side in (width, height))
        return (Page(width=width, height=height) if known else WHOLE,)

    @property
    def refers(self) -> tuple[str, ...]:
        return pictures_of(self._source.tree)

    def embedded(self) -> Sequence[Document]:
        return ()

    def texts(self) -> Sequence[Text | None]:
        return texts_of(self._source.tree, self._within)

    def inked(self, inks: Sequence[Rgb], look: Look = PLAIN) -> Preview:
        return Preview(Notation.MOTION, inked(self._source.data, inks))

    def unlettered(self, look: Look = PLAIN) -> Preview:
        # The engine of animations draws no text.
        return self.preview({})

    def write(self, wanted: Wanted) -> bytes:
        return splice(self._source.data, self._edits(Changes.of(wanted).recoloring))

    def preview(self, wanted: Wanted, page: int | None = None, look: Look = PLAIN) -> Preview:
        data = self.write(wanted)
        return Preview(Notation.MOTION, with_pictures(data, self._beside) if self._beside else data)

    def _blends(self) -> Iterator[tuple[Rgba, Rgba]]:
        for place in self._places:
            if place.kind is Kind.STOP:
                yield from zip(place.paints, place.paints[1:], strict=False)

    def _edits(self, recoloring: Recoloring) -> Iterator[Edit]:
        # The array of a property may be two sites' when the file shares it; each place is rewritten once.
        for place, (start, end) in zip(self._places, self._spans, strict=True):
            targets = [recoloring.at(paint, place.kind, place.selectors) for paint in place.paints]
            changed = {
                offset: target
                for offset, paint, target in zip(place.offsets or (0,), place.paints, targets, strict=True)
                if target is not None and target != paint.rgb
            }
            if not changed:
                continue
            if not place.offsets:
                yield Edit(start, end, f'"{changed[0].hex}"'.encode())
                continue
            numbers = list(_NUMBER.finditer(self._source.data, start, end))
            for offset, target in changed.items():
                for number, level in zip(numbers[offset : offset + 3], target, strict=True):
                    yield Edit(number.start(), number.end(), _written(level, place.scale))


def _written(level: int, scale: int) -> bytes:
    if scale == 255:
        return str(level).encode()
    return f"{level / 255:.{_DIGITS}g}".encode()
