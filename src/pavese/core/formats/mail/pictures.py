"""The pictures of a mail: where they are named, which of them came with it, and what becomes of those whose ground is
changed."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import cached_property
from typing import NamedTuple

from pavese.core.formats.data_url import called, content_of, data_url, with_other
from pavese.core.formats.document import Beside
from pavese.core.formats.inside import PicturesInside
from pavese.core.formats.mail.linked import Sheets
from pavese.core.formats.mail.tags import Tag
from pavese.core.formats.picture_formats import FORMATS
from pavese.core.formats.references import is_elsewhere, is_remote

#: Attributes that name pictures, and the elements on which they do.
_PICTURED = frozenset(("src", "background"))
_SHOWN = frozenset(("img", "v:image", "v:imagedata", "v:fill", "table", "td", "th", "body", "tr", "div"))
_URL = re.compile(r"""url\(\s*(?:"([^"]*)"|'([^']*)'|([^\s"'()]+))\s*\)""", re.IGNORECASE)
#: What of a style names style sheets and typefaces, and no pictures (CSS Cascade 4, 2; CSS Fonts 4, 4).
_NO_PICTURES = re.compile(r"@import\b[^;]*|@font-face\s*\{[^}]*", re.IGNORECASE)
#: Pictures of several sizes, or for the dark, of which a program shows the one that fits (HTML, 4.8.4.2): each is named
#: up to a space, what it is for up to a comma.
_SETS, _IN_SET = frozenset(("img", "source")), re.compile(r"([^\s,](?:\S*[^\s,])?)[^,]*")
#: Pixels of all pictures of one mail that are taken apart.
_MOST_PIXELS = 3_000_000


class Named(NamedTuple):
    """A picture that is named from `start` to `end`, to be shown itself, or as the `ground` of something: then by the
    whole of an attribute, or by a function (`url`) of a style. `tag` is the element that shows it, whatever fits."""

    start: int
    end: int
    said: str
    tag: Tag | None = None
    function: tuple[int, int] | None = None
    ground: bool = False

    @property
    def reference(self) -> str:
        """What it is called wherever it is spoken of; one that is written into the mail by its content."""
        return called(self.said)


class MailPictures:
    """The pictures of a mail and of its sheets, whose text has blanks where code stood; `meant` gives what a part of it
    means, and `within` the selectors of what stands at a place of it."""

    def __init__(
        self,
        sheets: Sheets,
        meant: Callable[[str], str],
        within: Callable[[int], Sequence[str]],
        beside: Beside,
    ) -> None:
        self._sheets, self._meant, self._within, self._beside = sheets, meant, within, beside

    @cached_property
    def named(self) -> tuple[Named, ...]:
        """Where they are named, and how."""
        found: list[Named] = []
        text = self._sheets.text
        for piece in self._sheets.pieces:
            if not isinstance(piece, Tag) or piece.closes:
                continue
            for name in _PICTURED.intersection(piece.attributes) if piece.name in _SHOWN else ():
                one = piece.attributes[name]
                shown = piece if piece.name == "img" and name == "src" and piece.condition is None else None
                below = name == "background" or piece.name == "v:fill"
                found.append(Named(one.start, one.end, self._meant(one.value).strip(), shown, ground=below))
            if piece.name in _SETS and (several := piece.attributes.get("srcset")) is not None:
                each = _IN_SET.finditer(text, several.start, several.end)
                found.extend(Named(*match.span(1), self._meant(match[1]).strip()) for match in each)
            spans = [(one.start, one.end) for one in (piece.attributes.get("style"),) if one]
            if piece.name == "style" and piece.content is not None:
                spans.append((piece.end, piece.content))
            for start, end in spans:
                others = [one.span() for one in _NO_PICTURES.finditer(text, start, end)]
                for match in _URL.finditer(text, start, end):
                    if any(since <= match.start() < until for since, until in others):
                        continue
                    group = next(at for at in (1, 2, 3) if match[at] is not None)
                    said = self._sheets.from_mail(match.start(), self._meant(match[group]).strip())
                    found.append(Named(*match.span(group), said, None, match.span(), ground=True))
        return tuple(sorted(found, key=lambda one: one.start))

    @property
    def refers(self) -> tuple[str, ...]:
        """Those that lie beside it."""
        return tuple(dict.fromkeys(one.said for one in self.named if not is_elsewhere(one.said)))

    @property
    def remote(self) -> tuple[str, ...]:
        """Those that lie on the web, but for those of a pixel, which only tell that a mail was opened."""
        return tuple(dict.fromkeys(one.said for one in self.named if is_remote(one.said) and not _tiny(one.tag)))

    @property
    def as_grounds(self) -> bool:
        """Whether anything stands on one of them."""
        return any(one.ground for one in self.named)

    def data(self, one: Named) -> bytes | None:
        """The content of a picture that came with the mail or is written into it."""
        return content_of(one.said, self._beside)

    def shown(self) -> Mapping[str, bytes]:
        """The content of those that are shown themselves, by reference."""
        found: dict[str, bytes] = {}
        for one in self.named:
            if one.tag is not None and one.reference not in found and (data := self.data(one)) is not None:
                found[one.reference] = data
        return found

    @cached_property
    def inside(self) -> PicturesInside:
        """All that came with it, shown themselves or as grounds."""
        first: dict[str, Named] = {}
        within: dict[str, dict[str, None]] = {}
        for one in self.named:
            if not is_remote(one.said) or one.said in self._beside:
                first.setdefault(one.reference, one)
                within.setdefault(one.reference, {}).update(dict.fromkeys(self._within(one.start)))
        shown = {reference: tuple(selectors) for reference, selectors in within.items()}
        return PicturesInside(shown, lambda reference: self.data(first[reference]), self._beside, FORMATS, _MOST_PIXELS)

    def written(self, made: Mapping[str, bytes]) -> Iterator[tuple[int, int, str]]:
        """Edits of those that are written into the mail, of such as become others."""
        for one in self.named if made else ():
            if one.reference.startswith("data:") and (data := made.get(one.reference)) is not None:
                yield one.start, one.end, with_other(one.said, data)

    def put_in(self, made: Mapping[str, bytes]) -> Iterator[tuple[int, int, str]]:
        """Edits that put every picture that came with it into the mail, for a picture of it; `made` are those that
        become others."""
        for one in self.named:
            data = made.get(one.reference) or self._beside.get(one.said)
            address = data_url(data) if data is not None else None
            if address is not None:
                yield one.start, one.end, address

    def taken_out(self) -> Iterator[tuple[int, int, str]]:
        """Edits that leave all of them out."""
        for one in self.named:
            yield (*one.function, "none") if one.function else (one.start, one.end, "")


def _tiny(tag: Tag | None) -> bool:
    """Whether a picture is said to be a pixel high or wide, or less."""
    sides = (tag.attributes.get(name) for name in ("width", "height")) if tag is not None else ()
    return any(side is not None and side.value.strip().removesuffix("px") in ("0", "1") for side in sides)
