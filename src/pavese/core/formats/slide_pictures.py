"""Pictures of decks: each where a slide, a layout or a master shows it, so that it can become another there."""

from __future__ import annotations

import posixpath
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from typing import NamedTuple

from pavese.core.formats.document import Beside
from pavese.core.formats.inside import PicturesInside
from pavese.core.formats.marks import scattered
from pavese.core.formats.picture_formats import FORMATS
from pavese.core.pictures.wrapped import in_one_color, outline_of
from pavese.core.recolor.pictures import Shown
from pavese.core.recolor.texts import TextRun
from pavese.core.unique_name import unique_name

#: Pictures that are opened, by their endings.
ENDINGS = (".png", ".jpg", ".jpeg", ".gif")
#: Places of one deck that are told, and bytes of one picture and of all that are opened.
_MOST, _LARGEST, _TOGETHER = 400, 8_000_000, 96_000_000
#: Endings that are no media types themselves.
_MEDIA = {"jpg": "jpeg", "svg": "svg+xml"}
#: What stands between the picture and what shows it, in what a place is called.
_AT = "@"


class Use(NamedTuple):
    """A place at which a picture is shown: the path of the picture in the package, and what shows it, by the name of
    that part."""

    path: str
    holder: str

    @property
    def reference(self) -> str:
        """What the place is called wherever it is spoken of."""
        return f"{self.path}{_AT}{self.holder}"


class InPackage(NamedTuple):
    """Pictures as they are written: other content at their paths, and new ones, with the path for each place that shows
    one of these from then on."""

    replaced: Mapping[str, bytes]
    added: Mapping[str, bytes]
    moved: Mapping[Use, str]


NOTHING_CHANGES = InPackage({}, {}, {})
#: Gives the content of a picture by its path.
Read = Callable[[str], bytes]


def opened(found: Mapping[Use, int], endings: tuple[str, ...] = ENDINGS) -> tuple[Use, ...]:
    """Those places, given with the bytes of their pictures, whose pictures are opened: where there are too many the
    smaller ones, among which logos are."""
    kept, left = set[str](), _TOGETHER
    for path, size in sorted({use.path: size for use, size in found.items()}.items(), key=lambda one: (one[1], one[0])):
        if path.lower().endswith(endings) and size <= min(left, _LARGEST):
            kept.add(path)
            left -= size
    return tuple(use for use in found if use.path in kept)[:_MOST]


def media_type(path: str) -> str:
    """What a picture is, by its ending."""
    ending = path.rpartition(".")[2].lower()
    return f"image/{_MEDIA.get(ending, ending)}"


def path_of_use(reference: str) -> str:
    """The path of the picture that a place shows."""
    return reference.partition(_AT)[0]


def contents(uses: Sequence[Use], read: Read, changed: Mapping[Use, bytes]) -> dict[str, bytes]:
    """What each place shows, as it becomes."""
    came: dict[str, bytes] = {}
    for use in uses:
        if use not in changed and use.path not in came:
            came[use.path] = read(use.path)
    return {use.reference: changed[use] if use in changed else came[use.path] for use in uses}


def pictures_of(uses: Iterable[Use], read: Read, beside: Beside) -> PicturesInside:
    """The pictures of a deck, each place by itself: it is named by the page that shows it."""
    shown = {use.reference: (f"/{use.holder}",) for use in uses}
    return PicturesInside(
        shown, lambda reference: read(path_of_use(reference)), beside, FORMATS, sizes=Shown.IN_ANY_SIZE
    )


def stands_on_pages(inside: PicturesInside) -> Iterator[TextRun]:
    """What stands on what inside of pictures, on the pages that show them."""
    return (replace(run, page=run.selectors[-1]) for run in inside.stands())


def by_use(uses: Iterable[Use], made: Mapping[str, bytes]) -> dict[Use, bytes]:
    """What was made of pictures, given by what places are called."""
    return {use: made[use.reference] for use in uses if use.reference in made}


def in_marks(uses: Sequence[Use], read: Read, first: int) -> dict[Use, bytes]:
    """Each place in the color that stands for its number, which counts on from `first`."""
    outlines = {path: outline_of(read(path)) for path in dict.fromkeys(use.path for use in uses)}
    return {use: in_one_color(outlines[use.path], scattered(number)) for number, use in enumerate(uses, first)}


def in_package(uses: Iterable[Use], changed: Mapping[Use, bytes], taken: Collection[str]) -> InPackage:
    """A picture that changes at all its places is written where it was, as it becomes at the first of them, since what
    no place is told of may show it, too, as previews of embedded objects do. Places at which it becomes something else
    get new ones, each content once. `taken` are the paths of the package."""
    by_path: dict[str, list[Use]] = {}
    for use in uses:
        by_path.setdefault(use.path, []).append(use)
    replaced: dict[str, bytes] = {}
    added: dict[str, bytes] = {}
    moved: dict[Use, str] = {}
    for path, each in by_path.items():
        paths: dict[bytes, str] = {}
        if all(use in changed for use in each):
            replaced[path] = changed[each[0]]
            paths[replaced[path]] = path
        for use in each:
            if use in changed:
                content = changed[use]
                if content not in paths:
                    paths[content] = _unlike(path, {name.casefold() for name in (*taken, *added)})
                    added[paths[content]] = content
                if paths[content] != path:
                    moved[use] = paths[content]
    return InPackage(replaced, added, moved)


def _unlike(path: str, taken: Collection[str]) -> str:
    stem, ending = posixpath.splitext(path)
    return unique_name(path, taken, lambda number: f"{stem}-{number}{ending}")
