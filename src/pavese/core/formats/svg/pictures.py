"""The pictures that a drawing shows: written into it as addresses, or lying beside it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from functools import cached_property
from typing import NamedTuple

from pavese.core.formats.data_url import at_hand, called, content_of, data_url, is_inside, is_lost, with_other
from pavese.core.formats.document import Beside
from pavese.core.formats.edits import Edit
from pavese.core.formats.format import Format
from pavese.core.formats.inside import UNKNOWN, PicturesInside
from pavese.core.formats.svg.places import selectors_of
from pavese.core.formats.svg.properties import HREF
from pavese.core.formats.xml_source import Element, XmlSource


class _Named(NamedTuple):
    """A picture as an element names it, from `start` to `end`."""

    element: Element
    start: int
    end: int
    said: str


class DrawnPictures:
    """Those of `image` and `feImage` (SVG 2, section 12.3; Filter Effects 1, section 9.14)."""

    def __init__(self, source: XmlSource, beside: Beside, formats: Sequence[Format]) -> None:
        """`formats` are those that are opened."""
        self._source, self._beside, self._formats = source, beside, formats

    @cached_property
    def _named(self) -> tuple[_Named, ...]:
        return tuple(
            _Named(element, start, end, said)
            for element in self._source.named("image", "feImage")
            for name, (start, end) in self._source.attribute_spans(element).items()
            if HREF.fullmatch(name) and (said := self._source.decoded(start, end).text.strip())
            if not said.startswith("#")
        )

    @property
    def refers(self) -> tuple[str, ...]:
        """Those that lie beside it."""
        return tuple(dict.fromkeys(one.said for one in self._named if not one.said.startswith("data:")))

    @cached_property
    def inside(self) -> PicturesInside:
        """All that are at hand."""
        said = {called(one.said): one.said for one in self._named}
        within: dict[str, dict[str, None]] = {}
        for one in self._named:
            within.setdefault(called(one.said), {}).update(dict.fromkeys(selectors_of(one.element)))
        shown = {reference: tuple(selectors) for reference, selectors in within.items()}
        return PicturesInside(
            shown, lambda reference: content_of(said[reference], self._beside), self._beside, self._formats
        )

    @property
    def remarks(self) -> Iterator[str]:
        """What has to be said of those that keep their colors."""
        yield from self.inside.remarks
        if any(is_lost(one.said) for one in self._named):
            yield UNKNOWN

    def came(self) -> dict[str, bytes]:
        """Those that are at hand, by what they are called."""
        return at_hand((one.said for one in self._named), self._beside)

    def written(self, made: Mapping[str, bytes]) -> Iterator[Edit]:
        """Edits of those that are written into it, of such as become others."""
        for one in self._named if made else ():
            if is_inside(one.said) and (data := made.get(called(one.said))) is not None:
                yield Edit(one.start, one.end, with_other(one.said, data).encode())

    def shown(self, made: Mapping[str, bytes]) -> Iterator[Edit]:
        """The same for an engine, which is given what lies beside it, too, and nothing of what is elsewhere."""
        for one in self._named:
            if is_inside(one.said):
                continue
            data = made.get(one.said) or self._beside.get(one.said)
            address = data_url(data) if data is not None else None
            yield Edit(one.start, one.end, (address or "").encode())
        yield from self.written(made)
