"""Files in child processes: read, remembered by them, and as they are handed over; and how files are asked of them in
groups.

A child remembers the files it read last, since a changed target asks for the same ones again at once.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterable, Iterator, Mapping
from functools import lru_cache
from itertools import islice
from typing import TypeVar, cast

from cachetools import LRUCache, cached

from pavese.core.formats import format_of, read
from pavese.core.formats.document import Document, Pictured
from pavese.core.formats.format import Can
from pavese.core.formats.intake import Becoming, Came
from pavese.core.formats.picture.document import PictureDocument
from pavese.core.recolor.changes import Changes
from pavese.render.pool import DrawingPool, Ticket

#: Bounds on one picture, and on a group of files, in seconds.
SECONDS, _GROUP_SECONDS = 8.0, 20.0
#: Files of a group, and groups that are on their way at a time.
_GROUP, _AT_ONCE = 16, 4
#: Up to this size many files are remembered, and up to that the last two; larger ones are not.
SMALL, _LARGE = 100_000, 24_000_000
#: Bytes of pictures, opened, that are remembered.
_PIXELS = 240_000_000
_Made = TypeVar("_Made")


def seconds_for(file: Came) -> float:
    """How long a picture of a file may take."""
    return max(SECONDS, format_of(file.name).seconds)


def in_groups(
    pool: DrawingPool, files: Iterable[Becoming], work: Callable[[list[Becoming]], list[_Made]]
) -> Iterator[_Made]:
    """What a function that runs in children makes of each file, in their order. Raises CannotDrawError."""
    coming = iter(files)
    under_way: deque[Ticket] = deque()
    while True:
        while len(under_way) < _AT_ONCE and (group := list(islice(coming, _GROUP))):
            seconds = sum(format_of(one.file.name).seconds for one in group)
            under_way.append(pool.begin(work, group, seconds=max(_GROUP_SECONDS, seconds)))
        if not under_way:
            return
        yield from pool.ended(under_way.popleft())


def pictures_after(document: Document, name: str, changes: Changes) -> Mapping[str, bytes]:
    """The pictures beside a file that become others with it, by what it calls them."""
    return cast(Pictured, document).beside(changes) if Can.PICTURES in format_of(name).can else {}


def handed(file: Came, changes: Changes) -> Came:
    """A file as it is handed over, with what is handed over beside it."""
    document = read_file(file)
    changed = pictures_after(document, file.name, changes)
    beside = tuple((reference, changed.get(reference, data)) for reference, data in file.beside)
    return Came(file.name, document.write(changes), beside)


@lru_cache(maxsize=2)
def _remembered_large(file: Came) -> Document:
    return read_file(file)


def read_file(file: Came) -> Document:
    """A file with those that belong to it."""
    return read(file.name, file.data, dict(file.beside))


def document_of(file: Came) -> Document:
    """The same, which may be remembered: nobody changes it."""
    if Can.PIXELS in format_of(file.name).can:
        return _picture_document(file)
    size = len(file.data) + sum(len(data) for _, data in file.beside)
    return _remembered(file) if size <= SMALL else _remembered_large(file) if size <= _LARGE else read_file(file)


@cached(LRUCache(_PIXELS, getsizeof=lambda document: document.weight))
def _picture_document(file: Came) -> PictureDocument:
    return cast(PictureDocument, read_file(file))


@lru_cache(maxsize=160)
def _remembered(file: Came) -> Document:
    return read_file(file)
