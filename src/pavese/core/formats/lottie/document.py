"""A Lottie animation as a document: its paints, and the file again with paints replaced in place."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from itertools import chain

import orjson

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.data_url import with_other
from pavese.core.formats.document import (
    ALONE,
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
from pavese.core.formats.lottie.pictures import PlayedPictures
from pavese.core.formats.lottie.places import LottiePlace, places_of, theme_places
from pavese.core.formats.lottie.texts import inked, texts_of
from pavese.core.recolor.changes import Changes, Wanted
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.texts import Text, TextRun

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
    pictures = PlayedPictures(source.tree, beside, within)
    return LottieDocument(source, places, (*found.remarks, *pictures.remarks), within, pictures)


def read_theme(name: str, data: bytes) -> LottieDocument:
    """Reads a theme of a dotLottie. Raises RefusedFileError as `read_lottie`."""
    source = JsonSource(name, data)
    return LottieDocument(source, tuple(theme_places(source.tree)), (), (), PlayedPictures({}, ALONE))


class LottieDocument:
    """See `pavese.core.formats.document.Document`."""

    looks: tuple[Look, ...] = (PLAIN,)
    #: Those that lie on the web are not fetched: they are said to be missing.
    remote: tuple[str, ...] = ()

    def __init__(
        self,
        source: JsonSource,
        places: tuple[LottiePlace, ...],
        remarks: tuple[str, ...],
        within: tuple[str, ...],
        pictures: PlayedPictures,
    ) -> None:
        self._within = within
        self._pictures = pictures
        self._source = source
        self._places = places
        self._remarks = remarks
        # Told when the file is read, so that one whose places cannot be told apart is refused then.
        written_in = (spot for _, spot in pictures.written_in)
        self._spans = source.spans([*(place.spot for place in places), *written_in])

    def sites(self) -> Iterator[Site]:
        for place in self._places:
            for paint in place.paints:
                yield Site(paint, place.kind, place.selectors)
        yield from self._pictures.inside.sites(self._within)

    def inventory(self) -> Inventory:
        inside = self._pictures.inside
        found = Inventory.count(self.sites(), self._remarks, chain(self._blends(), inside.blends))
        return replace(found, pictures=inside.paints)

    @property
    def pages(self) -> tuple[Page, ...]:
        width, height = (self._source.tree.get(side) for side in ("w", "h"))
        known = all(isinstance(side, int | float) for side in (width, height))
        return (Page(width=width, height=height) if known else WHOLE,)

    @property
    def refers(self) -> tuple[str, ...]:
        return self._pictures.refers

    def pictures(self, wanted: Wanted) -> Mapping[str, bytes]:
        return {**self._pictures.came(), **self._changed(Changes.of(wanted))}

    def beside(self, wanted: Wanted) -> Mapping[str, bytes]:
        changed = self._changed(Changes.of(wanted))
        return {reference: data for reference, data in changed.items() if reference in self.refers}

    def stands_in_pictures(self) -> Iterator[TextRun]:
        return self._pictures.inside.stands(self._within)

    def picture_selector(self, reference: str) -> str:
        return self._pictures.inside.selector(reference)

    def _changed(self, changes: Changes) -> Mapping[str, bytes]:
        return self._pictures.inside.changed(changes, self._within)

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
        return self._written(Changes.of(wanted), self._changed(Changes.of(wanted)))

    def preview(self, wanted: Wanted, page: int | None = None, look: Look = PLAIN) -> Preview:
        changes = Changes.of(wanted)
        changed = self._changed(changes)
        return Preview(Notation.MOTION, self._pictures.shown(self._written(changes, changed), changed))

    def _written(self, changes: Changes, changed: Mapping[str, bytes]) -> bytes:
        edits = chain(self._edits(changes.recoloring), self._picture_edits(changed))
        return splice(self._source.data, edits)

    def _picture_edits(self, changed: Mapping[str, bytes]) -> Iterator[Edit]:
        spans = self._spans[len(self._places) :]
        for (reference, spot), (start, end) in zip(self._pictures.written_in, spans, strict=True):
            if reference in changed:
                yield Edit(start, end, orjson.dumps(with_other(spot.value, changed[reference])))

    def _blends(self) -> Iterator[tuple[Rgba, Rgba]]:
        for place in self._places:
            if place.kind is Kind.STOP:
                yield from zip(place.paints, place.paints[1:], strict=False)

    def _edits(self, recoloring: Recoloring) -> Iterator[Edit]:
        # The array of a property may be two sites' when the file shares it; each place is rewritten once.
        for place, (start, end) in zip(self._places, self._spans, strict=False):
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
