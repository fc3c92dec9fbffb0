"""Pictures inside of files: each goes by the plan of the file that shows it, as it would by itself."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import replace
from functools import cached_property, partial

from pavese.core.color.contrast import BLACK
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.document import Beside
from pavese.core.formats.format import Format
from pavese.core.formats.painted import Met, Painted, as_png, in_colors, met, painted
from pavese.core.pictures.wrapped import in_one_color, outline_of
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.pictures import Shown, changed_picture, wanted_pictures
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import IN_PICTURE, Kind, Site
from pavese.core.recolor.texts import TextRun

#: Pixels of one picture, and of all of a file, that are taken apart: the small ones first, among which logos are.
_LARGEST, _TOGETHER = 2_200_000, 6_000_000
#: What is said of pictures that are not recolored.
TOO_LARGE = "Pictures in it that are too large to be recolored with it keep their colors; drop them by themselves."
PHOTOGRAPHS = "It holds photographs, which keep their colors."
#: What is said of those of which it is not known how they are read.
UNKNOWN = "It holds a picture that cannot be read here, which keeps its colors."


class PicturesInside:
    """The pictures of one file, by what it calls them."""

    def __init__(
        self,
        shown: Mapping[str, Sequence[str]],
        content: Callable[[str], bytes | None],
        beside: Beside,
        formats: Sequence[Format],
        most: int = _TOGETHER,
        sizes: Shown = Shown.AS_LARGE_AS_IT_IS,
    ) -> None:
        """`shown` gives the selectors of what shows each; `content` its bytes, where they are at hand; `beside` holds
        what is put in the place of others; `formats` are those that are opened, and `sizes` those in which they are
        shown. At most so many pixels are taken apart."""
        self._shown, self._content, self._beside, self._most = shown, content, beside, most
        self._formats, self._sizes = formats, sizes

    def sites(self, within: tuple[str, ...] = ()) -> Iterator[Site]:
        """Where their paints stand; `within` are selectors of what the file itself stands in."""
        for reference in self._opened:
            named = self._named(reference, within)
            yield from (Site(paint, Kind.PICTURE, named) for paint in self._painted(reference).paints)

    @property
    def paints(self) -> tuple[tuple[Rgba, ...], ...]:
        """The paints of those that have some, each picture once."""
        return tuple(one.paints for one in self._each if one.paints)

    @property
    def blends(self) -> frozenset[tuple[Rgba, Rgba]]:
        """Their paints that follow each other in a gradient."""
        return frozenset(pair for one in self._each for pair in one.blends)

    def stands(self, within: tuple[str, ...] = ()) -> Iterator[TextRun]:
        """What stands on what inside of them."""
        for reference in self._opened:
            named = self._named(reference, within)
            for run in self._painted(reference).stands:
                text = replace(run.text, kind=Kind.PICTURE, selectors=named)
                yield TextRun(text, run.ground, Kind.PICTURE, named)

    @property
    def remarks(self) -> Iterator[str]:
        """What has to be said of those that keep their colors."""
        if any(one.format is not None and reference not in self._opened for reference, one in self._met.items()):
            yield TOO_LARGE
        if any(one.photograph for one in self._each):
            yield PHOTOGRAPHS
        if any(one.format is None for one in self._met.values()):
            yield UNKNOWN

    def selector(self, reference: str) -> str:
        """By what a picture is named that has paints; "" for any other."""
        return self._own_name(reference) if reference in self._opened and self._painted(reference).paints else ""

    def changed(
        self, changes: Changes, within: tuple[str, ...] = (), only: Collection[str] | None = None
    ) -> dict[str, bytes]:
        """Those, of `only` some, that become others: in other colors, on another ground, or another picture."""
        mended = wanted_pictures(changes)
        found: dict[str, bytes] = {}
        for reference in self._shown:
            target = mended.get(reference)
            if (only is not None and reference not in only) or (changes.recoloring.is_empty and target is None):
                continue
            if (came := self._content(reference)) is None:
                continue
            recolored = partial(self._in_colors, reference, came, changes.recoloring, within)
            if target is None:
                data = recolored()
            else:
                data = changed_picture(came, recolored, target, self._beside, changes, self._sizes)
            if data != came:
                found[reference] = data
        return found

    def as_shown_by(self, reference: str, drawing: bytes, to: Recoloring) -> bytes | None:
        """A drawing of what a picture shows, as the picture becomes; None where it has other paints than that."""
        one = met(drawing, self._formats)
        own = painted(one, lambda: drawing).paints
        if reference not in self._opened or not own or not set(own) <= set(self._painted(reference).paints):
            return None
        return in_colors(one, lambda: drawing, self._colors(reference, to, ()), None)

    def marked(self, colors: Iterator[Rgb]) -> dict[str, bytes]:
        """Those that have paints as PNGs in the next colors, one for each of `sites`."""
        found: dict[str, bytes] = {}
        for reference, one in self._opened.items():
            marks = {paint: next(colors) for paint in self._painted(reference).paints}
            if marks and (png := as_png(one, partial(self._data, reference), marks, BLACK)) is not None:
                found[reference] = png
        return found

    def _named(self, reference: str, within: tuple[str, ...]) -> tuple[str, ...]:
        return (self._own_name(reference), *self._shown[reference], *within)

    def _own_name(self, reference: str) -> str:
        return f"{IN_PICTURE}{self._opened[reference].digest[:16]}"

    @cached_property
    def _met(self) -> dict[str, Met]:
        found = ((reference, self._content(reference)) for reference in self._shown)
        return {reference: met(data, self._formats) for reference, data in found if data}

    @cached_property
    def _opened(self) -> dict[str, Met]:
        """Those that are taken apart."""
        pixels = {one.digest: one.pixels for one in self._met.values() if one.format is not None}
        left, taken = self._most, set[str]()
        for digest, many in sorted(pixels.items(), key=lambda one: (one[1], one[0])):
            if many <= min(left, _LARGEST):
                taken.add(digest)
                left -= many
        return {reference: one for reference, one in self._met.items() if one.digest in taken}

    @property
    def _each(self) -> list[Painted]:
        """What those are painted with that are taken apart, each picture once."""
        first = {one.digest: reference for reference, one in reversed(self._opened.items())}
        return [self._painted(reference) for reference in reversed(first.values())]

    def _painted(self, reference: str) -> Painted:
        return painted(self._opened[reference], partial(self._data, reference))

    def _data(self, reference: str) -> bytes:
        return self._content(reference) or b""

    def _colors(self, reference: str, to: Recoloring, within: tuple[str, ...]) -> dict[Rgba, Rgb]:
        """What of a picture's paints become others."""
        named = self._named(reference, within)
        wanted = ((paint, to.at(paint, Kind.PICTURE, named)) for paint in self._painted(reference).paints)
        return {paint: color for paint, color in wanted if color is not None and color != paint.rgb}

    def _in_colors(self, reference: str, came: bytes, to: Recoloring, within: tuple[str, ...]) -> bytes:
        if to.is_empty:
            return came
        if reference not in self._opened:
            return came if to.rest is None else in_one_color(outline_of(came), to.rest)
        colors = self._colors(reference, to, within)
        if not colors and to.rest is None:
            return came
        return in_colors(self._opened[reference], lambda: came, colors, to.rest) or came
