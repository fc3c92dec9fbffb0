"""Reading strangers' files in child processes: what each holds, and what is measured on its picture.

One file that fails leaves the others be: where a group of them does not come back, each is read alone, and then without
its picture.
"""

from __future__ import annotations

import traceback
from collections.abc import Callable, Collection, Iterable, Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass, replace
from functools import lru_cache, partial
from itertools import chain
from pathlib import Path
from typing import Any, NamedTuple, TypeVar, cast

from pavese.core import limits
from pavese.core.errors import RefusedFileError
from pavese.core.formats import format_of, is_taken
from pavese.core.formats.archive import Archive, is_archive
from pavese.core.formats.document import Document, Lettered, Marked, Pictured, Pixeled, Slided
from pavese.core.formats.format import Can
from pavese.core.formats.intake import UNFORESEEN, Came, ReadFile, TakenFile, read_one
from pavese.core.formats.references import tells_colors
from pavese.core.gather.code_files import read_code_file
from pavese.core.gather.drop import Sorted, sort_drop
from pavese.core.gather.kit_file import Imported, kit_from_file
from pavese.core.kit.codes import FoundCode
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.measure import Measured, combined
from pavese.core.recolor.texts import Sides, TextRun
from pavese.logs import unforeseen
from pavese.render.draw import draw_measured
from pavese.render.marked import laid_out, seen_in
from pavese.render.pool import ChildFailedError, DrawingPool
from pavese.render.slides import slides_measured
from pavese.render.texts import texts_measured

#: Bounds on a group of files that is read at once, and on the time it may take.
GROUP_FILES = 16
GROUP_BYTES = 2 * 1024 * 1024
SECONDS = 10.0
#: What a file that is laid out counts for: four of them are a group.
_LAID_OUT = GROUP_BYTES // 4
#: References of one file that are followed, and how far: to its style sheets and templates, and to what those name.
_MOST_BESIDE, FOLLOWED = 200, 5
#: Groups of an archive's files that are on their way at a time.
_AT_ONCE = 4


@dataclass(frozen=True)
class Refused:
    """A file that cannot be taken, and why; `trace` where that was not foreseen, `channel` where sets of that one would
    take it."""

    name: str
    reason: str
    trace: str = ""
    channel: str = ""


Read = ReadFile | Refused
_One = TypeVar("_One")


def read_files(pool: DrawingPool, files: Sequence[tuple[str, bytes]]) -> list[Read]:
    """What became of each file (name, bytes), in their order."""
    return begin_reading(pool, files)()


def begin_reading(pool: DrawingPool, files: Sequence[tuple[str, bytes]]) -> Callable[[], list[Read]]:
    """Has files (name, bytes) read, and gives what waits for it: what became of each, in their order."""
    groups = list(_groups(files, size=lambda one: _weight(one[0], len(one[1]))))
    tickets = [pool.begin(read_group, group, seconds=_seconds(name for name, _ in group)) for group in groups]

    def ended() -> list[Read]:
        found: list[Read] = []
        for group, ticket in zip(groups, tickets, strict=True):
            try:
                found += pool.result(ticket)
            except ChildFailedError:
                found += [_alone(pool, one[0], _seconds([one[0]]), read_group, [one]) for one in group]
        return _logged(found)

    return ended


def read_again(pool: DrawingPool, files: Sequence[Came]) -> list[Read]:
    """What is read of files with those that belong to them, in their order."""
    groups = list(_groups(files, size=lambda one: _weight(one.name, len(one.data))))
    tickets = [pool.begin(_read_came, group, seconds=_seconds(one.name for one in group)) for group in groups]
    found: list[Read] = []
    for group, ticket in zip(groups, tickets, strict=True):
        try:
            found += pool.result(ticket)
        except ChildFailedError:
            found += [_alone(pool, one.name, _seconds([one.name]), _read_came, [one]) for one in group]
    return _logged(found)


def codes_in(pool: DrawingPool, name: str, data: bytes) -> tuple[FoundCode, ...]:
    """The colors of a list, tokens, a deck or any text (`code_files.read_code_file`). Raises RefusedFileError."""
    return _asked(pool, read_code_file, name, data)


def sorted_in(pool: DrawingPool, name: str, data: bytes, room: int) -> Sorted:
    """What a file is that is dropped on a kit, or what is in it (`drop.sort_drop`), with so many pictures at most."""
    if not is_archive(name, data):
        return sort_drop([(name, data)])
    try:
        found: Sorted = pool.result(pool.begin(_sorted, name, data, room, seconds=SECONDS))
    except ChildFailedError as error:
        return Sorted(refused=[RefusedFileError(name, _too_much(error))])
    return found


def _sorted(name: str, data: bytes, room: int) -> Sorted:
    """Runs in a child."""
    return sort_drop([(name, data)]).with_room(room)


def kit_in(pool: DrawingPool, name: str, data: bytes) -> Imported:
    """The kit in a file (`kit_file.kit_from_file`). Raises InvalidKitError, and RefusedFileError for what takes too
    much."""
    return _asked(pool, kit_from_file, name, data)


def _asked(pool: DrawingPool, work: Callable[[str, bytes], _One], name: str, data: bytes) -> _One:
    """What a function finds in a file. Raises what it raises, and RefusedFileError for what takes too much."""
    try:
        found: _One = pool.result(pool.begin(work, name, data, seconds=SECONDS))
    except ChildFailedError as error:
        raise RefusedFileError(name, _too_much(error)) from error
    return found


class Member(NamedTuple):
    """A file in an archive, and what it counts for in a group: its unpacked bytes, as it says, or more."""

    path: str
    weight: int


def members_in(pool: DrawingPool, name: str, path: Path) -> tuple[Member, ...]:
    """The files in an archive.

    Raises RefusedFileError for an archive that cannot be opened, or that is one file of another program.
    """
    try:
        found: tuple[Member, ...] | Refused = pool.result(pool.begin(_members, name, str(path), seconds=SECONDS))
    except ChildFailedError as error:
        raise RefusedFileError(name, _too_much(error)) from error
    if isinstance(found, Refused):
        raise RefusedFileError(found.name, found.reason)
    return found


def members_meant(
    pool: DrawingPool, name: str, path: Path, named: Collection[tuple[str, str]]
) -> tuple[tuple[str, bytes], ...]:
    """The files in an archive that others mean, by (name, reference), as far as they are not too large together: path
    and bytes. Raises RefusedFileError for an archive that cannot be opened."""
    try:
        return tuple(pool.result(pool.begin(_members_meant, name, str(path), frozenset(named), seconds=SECONDS)))
    except ChildFailedError as error:
        raise RefusedFileError(name, _too_much(error)) from error


def read_archive(
    pool: DrawingPool,
    name: str,
    path: Path,
    members: Sequence[Member],
    start: int,
    not_opened: Callable[[str], Refused | None],
) -> Iterator[list[Read]]:
    """What became of the files of an archive from the `start`-th on, some at a time, in their order; `not_opened` tells
    which of them are not looked at, and why."""
    refused = {number: one for number, member in enumerate(members) if (one := not_opened(member.path)) is not None}
    groups = [
        [number for number, _ in group]
        for group in _groups(
            list(enumerate(members))[start:], size=lambda one: 0 if one[0] in refused else one[1].weight
        )
    ]
    for at in range(0, len(groups), _AT_ONCE):
        some = groups[at : at + _AT_ONCE]
        opened = [[number for number in group if number not in refused] for group in some]
        seconds = [_seconds(members[number].path for number in group) for group in opened]
        tickets = [
            pool.begin(_read_members, name, str(path), group, seconds=time)
            for group, time in zip(opened, seconds, strict=True)
        ]
        found: dict[int, Read] = {number: refused[number] for group in some for number in group if number in refused}
        for group, ticket in zip(opened, tickets, strict=True):
            try:
                found.update(zip(group, pool.result(ticket), strict=True))
            except ChildFailedError:
                for number in group:
                    member = members[number].path
                    arguments = (_read_members, name, str(path), [number])
                    found[number] = _alone(pool, member, _seconds([member]), *arguments)
        yield _logged([found[number] for group in some for number in group])


def _weight(name: str, size: int) -> int:
    """The bytes that a file counts for in a group: what an engine lays out takes as long as many others, and a deck is
    read alone."""
    can = format_of(name).can if is_taken(name) else ()
    if Can.SLIDES in can:
        return GROUP_BYTES
    return max(size, _LAID_OUT) if Can.LAID_OUT in can else size


def _seconds(names: Iterable[str]) -> float:
    """How long a group of files may take."""
    return max([SECONDS, *(format_of(name).seconds for name in names if is_taken(name))])


def _groups(files: Sequence[_One], size: Callable[[_One], int]) -> Iterator[list[_One]]:
    group: list[_One] = []
    room = GROUP_BYTES
    for one in files:
        if group and (len(group) == GROUP_FILES or size(one) > room):
            yield group
            group, room = [], GROUP_BYTES
        group.append(one)
        room -= size(one)
    if group:
        yield group


def _alone(pool: DrawingPool, title: str, seconds: float, work: Callable[..., list[Read]], *arguments: Any) -> Read:
    """One file of a group that did not come back: with its picture, and then without; once more where a child fell,
    since another file may have had it fall."""
    error = None
    for measuring in (True, True, False):
        if measuring and error is not None and not error.fell:
            continue
        try:
            [read] = pool.result(pool.begin(work, *arguments, measuring, seconds=seconds))
        except ChildFailedError as failed:
            error = failed
        else:
            found: Read = read
            return found
    assert error is not None
    return Refused(title, _too_much(error))


def _too_much(error: ChildFailedError) -> str:
    return f"reading it {error.words}, more than any file may need here."


def _logged(found: list[Read]) -> list[Read]:
    for one in found:
        if isinstance(one, Refused) and one.trace:
            unforeseen(one.name, RuntimeError(one.trace))
    return found


def read_group(files: Sequence[tuple[str, bytes]], measuring: bool = True) -> list[Read]:
    """Runs in a child."""
    return [_read(name, data, measuring) for name, data in files]


def _read_came(files: Sequence[Came], measuring: bool = True) -> list[Read]:
    """Runs in a child."""

    def beside(one: Came, *_: object) -> _Besides:
        return ((reference, (reference, data)) for reference, data in one.beside)

    return [_read(one.name, one.data, measuring, partial(beside, one)) for one in files]


def _members(name: str, path: str) -> tuple[Member, ...] | Refused:
    """Runs in a child."""
    try:
        archive = _archive(name, path)
        archive.check_loose()
    except RefusedFileError as error:
        return Refused(error.name, error.reason)
    return tuple(Member(path, _weight(path, archive.sizes[number])) for path, number in archive.numbers.items())


def _read_members(name: str, path: str, numbers: Sequence[int], measuring: bool = True) -> list[Read]:
    """Runs in a child; what is taken comes with its bytes."""
    found: list[Read] = []
    for number in numbers:
        try:
            member, data = _archive(name, path).member(number)
        except RefusedFileError as error:
            found.append(Refused(error.name, error.reason))
            continue
        found.append(_read(member, data, measuring, partial(_beside, _archive(name, path), member)))
    return found


def _members_meant(name: str, path: str, named: frozenset[tuple[str, str]]) -> list[tuple[str, bytes]]:
    """Runs in a child."""
    archive = _archive(name, path)
    meant = (archive.lying.meant(by, reference) for by, reference in sorted(named))
    return list(_contents(archive, filter(None, meant), limits.BESIDE_BYTES))


def _beside(archive: Archive, name: str, refers: Sequence[str], room: int, taken: Collection[str]) -> _Besides:
    """The files of an archive that another file in it names, but for those `taken` by other names."""
    meant: dict[str, str] = {}
    for reference in refers:
        path = archive.lying.meant(name, reference, {*taken, *meant.values()})
        if path is not None:
            meant[reference] = path
    came = dict(_contents(archive, meant.values(), room))
    return ((reference, (path, came[path])) for reference, path in meant.items() if path in came)


def _contents(archive: Archive, paths: Iterable[str], room: int) -> Iterator[tuple[str, bytes]]:
    """Files of an archive, each once, as far as they are not too many or too large."""
    for path in dict.fromkeys(paths):
        number = archive.numbers[path]
        if archive.sizes[number] <= room:
            room -= archive.sizes[number]
            with suppress(RefusedFileError):
                yield path, archive.member(number)[1]


@lru_cache(maxsize=1)
def _archive(name: str, path: str) -> Archive:
    """The archive read last stays open: its list of files can be long."""
    return Archive(name, Path(path).open("rb"))


#: What belongs to a file, by how it names it: path and bytes.
_Besides = Iterator[tuple[str, tuple[str, bytes]]]
#: Finds it: by references, up to so many bytes, but for paths that are taken.
_BesideOf = Callable[[Sequence[str], int, Collection[str]], _Besides]


def _read(name: str, data: bytes, measuring: bool, beside_of: _BesideOf | None = None) -> Read:
    """`beside_of` finds what belongs to a file, up to so many bytes; then it comes with its bytes, and those."""
    try:
        file = read_one(name, data)
        beside: dict[str, tuple[str, bytes]] = {}
        for _ in range(FOLLOWED):
            new = [one for one in chain(*_named(file)) if one not in beside]
            room = limits.BESIDE_BYTES - sum(len(content) for _, content in beside.values())
            taken = [path for path, _ in beside.values()]
            found_beside = beside_of(new, room, taken) if beside_of is not None and new else ()
            came = {reference: one for reference, one in found_beside if reference not in beside}
            beside |= came
            if not any(tells_colors(reference, path) for reference, (path, _) in came.items()):
                break
            file = read_one(name, data, {reference: content for reference, (_, content) in beside.items()})
        refers, remote = _named(file)
        found = measured_if_drawn(file) if measuring else Measured()
        kept = data if beside_of is not None else b""
        return ReadFile(file.name, file.digest, file.inventory, found, kept, refers, remote, beside)
    except RefusedFileError as error:
        return Refused(error.name, error.reason)
    except MemoryError:
        # The bound of this process; whoever asked tries the file alone.
        raise
    except Exception:
        return Refused(name, UNFORESEEN, traceback.format_exc(limit=-12))


def _named(file: TakenFile) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """The other files that a file names: beside it, and on the web."""
    pictured = Can.PICTURES in format_of(file.name).can
    remote = cast(Pictured, file.document).remote[:_MOST_BESIDE] if pictured else ()
    return file.document.refers[:_MOST_BESIDE], remote


def measured(document: Document, can: Collection[Can]) -> Measured:
    """What is measured of a file, or of those inside it that are looked at by themselves. Raises ValueError when it
    cannot be drawn."""
    inside = laid_out(document) if Can.LAID_OUT in can else document.embedded() or (document,)
    found = combined(found for one in inside for found in _in_looks(one, can))
    if Can.PICTURES not in can:
        return found
    return replace(found, texts=(*found.texts, *dict.fromkeys(cast(Pictured, document).stands_in_pictures())))


def _in_looks(document: Document, can: Collection[Can]) -> Iterator[Measured]:
    paints = document.inventory().paints
    if Can.PIXELS in can:
        yield cast(Pixeled, document).measured()
        return
    if Can.SLIDES in can:
        yield from slides_measured(cast(Slided, document))
        return
    if Can.LAID_OUT in can:
        # What counts of it are its texts; how much of it each paint is, its first look tells.
        runs: dict[TextRun, None] = {}
        sides: dict[Sides, None] = {}
        faces: dict[tuple[str, str], None] = {}
        for look in filter(lambda one: one.reads, document.looks):
            narrow = (look.width or 0) < (document.looks[0].width or 0)
            seen = seen_in(cast(Marked, document), look, narrow=narrow)
            sides.update(dict.fromkeys(seen.sides))
            faces.update(dict.fromkeys(seen.faces))
            for run in seen.texts:
                if run not in runs:
                    runs[replace(run, dark=look.dark)] = None
        found = draw_measured(document.preview(Changes(), look=document.looks[0]), paints)
        yield replace(found, texts=tuple(runs), sides=tuple(sides), faces=tuple(faces))
        return
    for look in document.looks:
        found = draw_measured(document.preview(Changes(), look=look), paints)
        texts = texts_measured(cast(Lettered, document), paints, look) if Can.TEXTS in can else ()
        yield replace(found, texts=texts)


def measured_if_drawn(file: TakenFile) -> Measured:
    """What is measured of a file; nothing of one that cannot be drawn."""
    try:
        return measured(file.document, format_of(file.name).can)
    except ValueError:
        # It cannot be drawn: its picture says so where it is shown, and the plan does without.
        return Measured()
