"""Taking a drop: what has arrived is read in child processes and added to its set; once all has come it is planned."""

from __future__ import annotations

import tempfile
import uuid
from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from itertools import groupby
from pathlib import Path

import structlog
from sqlalchemy.orm import Session, sessionmaker

from pavese.core import limits
from pavese.core.errors import RefusedFileError
from pavese.core.formats import format_of, is_taken, largest_of
from pavese.core.formats.intake import ReadFile, holds_files
from pavese.core.formats.intake import digest as digest_of
from pavese.core.formats.picture import IMAGES
from pavese.jobs.again import read_once_more
from pavese.render.pool import DrawingPool
from pavese.render.reading import FOLLOWED, Read, Refused, begin_reading, members_in, members_meant, read_archive
from pavese.store import belonging, contents, drops, sets
from pavese.store.drops import DropState, RefusedFile, Waiting
from pavese.store.models import DropRow, SetRow
from pavese.store.queue import MOST_TRIES, NoLongerOursError

log = structlog.get_logger()

#: Files that are read and added together, and their size: the first ones are seen early, the memory stays small.
_FILES, _MEGABYTES = 64, 12.0
#: So many pictures may belong to one file of another channel.
_PICTURES_OF_ONE = 40
#: First bytes by which a kind of file is told.
_HEAD = 16


def take_drop(sessions: sessionmaker[Session], pool: DrawingPool, drop_id: uuid.UUID) -> None:
    """Reads all that has arrived of a drop, and ends it where it is whole; one that has ended is left as it is."""
    with sessions.begin() as session:
        claimed = drops.claim(session, drop_id)
    if claimed is None:
        return
    mine, tries = claimed
    reader = _Reader(sessions, pool, drop_id, mine)
    try:
        if tries > MOST_TRIES and (next_ := reader.waiting()):
            reader.give_up(next_)
            tries = 0
        reader.take_all()
        reader.end(planning=tries <= MOST_TRIES)
    except NoLongerOursError:
        log.info("drop taken over", id=str(drop_id))


class _Reader:
    """One worker at one drop. Every step is kept at once, so that whoever goes on does so behind it."""

    def __init__(self, sessions: sessionmaker[Session], pool: DrawingPool, drop_id: uuid.UUID, mine: uuid.UUID) -> None:
        self._sessions = sessions
        self._pool = pool
        self._drop_id = drop_id
        self._mine = mine
        self._room: sets.Room | None = None

    def waiting(self, behind: int = 0) -> list[Waiting]:
        """What is to be read next."""
        with self._sessions() as session:
            return drops.waiting(session, self._drop_id, _FILES, _MEGABYTES, behind)

    def take_all(self) -> None:
        """Reads arrivals in their order, plain ones together and each archive alone, until there are none.

        While some are being read, those read before are kept.
        """
        keep_last: Callable[[], None] = _nothing
        behind = 0
        while waiting := self.waiting(behind):
            behind = waiting[-1].id
            with self._sessions() as session:
                heads = contents.heads(session, [one.digest for one in waiting], _HEAD)
            for archive, run in groupby(waiting, key=lambda one: holds_files(one.name, heads.get(one.digest, b""))):
                if archive:
                    keep_last()
                    keep_last = _nothing
                    for one in run:
                        self._open(one)
                else:
                    keep = self._begin(list(run))
                    keep_last()
                    keep_last = keep
            if len(waiting) < _FILES:
                # The last ones, as far as one can see: whoever waits for the first files sees them now.
                keep_last()
                keep_last = _nothing
        keep_last()

    def give_up(self, waiting: Sequence[Waiting]) -> None:
        """Refuses what no worker got over."""
        reason = f"reading it has failed {MOST_TRIES} times. Drop it alone to see why."
        self._keep([(one, Refused(one.name, reason)) for one in waiting])

    def end(self, *, planning: bool) -> None:
        """Plans and ends the drop where all of it has come; else the next arrival will be read by a new entry.

        Without `planning` (it has failed too often) the paints are planned by whoever looks at the set next.
        """
        with self._sessions.begin() as session:
            row = self._held(session)
            if row.state != DropState.WHOLE or drops.waiting(session, self._drop_id, 1, 1):
                # Nothing has failed: what comes is for whoever is told of it.
                row.tries = 0
                return
            # What has come to a file, such as a style sheet, may name more.
            for _ in range(FOLLOWED):
                joined = belonging.join(session, row, self._unpacked(session, row))
                if not joined:
                    break
                read_once_more(session, self._pool, joined)
            if planning:
                told = sets.plan_arrived(session, sets.get(session, row.set_id))
                row.planned, row.stood = told.planned, told.stood
            drops.end(session, row)
        log.info("drop", id=str(self._drop_id), taken=row.taken)

    def _unpacked(self, session: Session, row: DropRow) -> dict[str, str]:
        """What the archives of the drop hold of that which files of the set refer to, and lack: hashes by path."""
        found: dict[str, str] = {}
        named = belonging.missing(session, row)
        came = drops.came(session, row) if named else {}
        heads = contents.heads(session, came.values(), _HEAD)
        for name, digest in came.items():
            if not holds_files(name, heads.get(digest, b"")):
                continue
            with tempfile.NamedTemporaryFile(prefix="pavese-") as file:
                contents.to_file(session, digest, Path(file.name))
                try:
                    inside = members_meant(self._pool, name, Path(file.name), named)
                except RefusedFileError:
                    # That was said when it was opened.
                    continue
            digests = {path: digest_of(data) for path, data in inside}
            contents.keep(session, {digests[path]: data for path, data in inside})
            found |= digests
        return found

    def _begin(self, waiting: Sequence[Waiting]) -> Callable[[], None]:
        """Has plain files read, and gives what waits for that and keeps them."""
        with self._sessions() as session:
            others = self._others(session, [one.name for one in waiting])
            refused = {one.id: others(one.name) or _too_large(one) for one in waiting}
            fitting = [one for one in waiting if refused[one.id] is None]
            data = contents.several(session, [one.digest for one in fitting])
        ended = begin_reading(self._pool, [(one.name, data[one.digest]) for one in fitting])

        def keep() -> None:
            read = iter(ended())
            self._keep([(one, refused[one.id] or next(read)) for one in waiting])

        return keep

    def _others(self, session: Session, names: Sequence[str]) -> Callable[[str], Refused | None]:
        """Tells of which files, among these, another channel's sets are, without opening them: pictures come with much
        that is none."""
        row = sets.get(session, self._held(session).set_id)
        room = self._room or sets.room(session, row)
        channel = _channel_of(row, names, empty=not room.files)

        def refused(name: str) -> Refused | None:
            known = is_taken(name) and format_of(name).channel == IMAGES != channel
            return _elsewhere(name) if known else None

        return refused

    def _open(self, one: Waiting) -> None:
        """An archive: its files are read some at a time, from where somebody stopped."""
        if one.size > limits.PACKED_BYTES:
            most = limits.PACKED_BYTES // limits.MEGABYTE
            self._keep([(one, Refused(one.name, f"the archive is larger than {most} MB."))])
            return
        with tempfile.NamedTemporaryFile(prefix="pavese-") as file:
            path = Path(file.name)
            with self._sessions() as session:
                contents.to_file(session, one.digest, path)
            done = one.members
            try:
                members = members_in(self._pool, one.name, path)
                if not done:
                    with self._sessions.begin() as session:
                        self._held(session).expected += len(one.only or members) - 1
                wanted = [member.path for member in members if one.only is None or member.path in one.only]
                with self._sessions() as session:
                    others = self._others(session, wanted)
                for read in read_archive(self._pool, one.name, path, members, done, _among(wanted, others)):
                    done += len(read)
                    with self._sessions.begin() as session:
                        self._add(session, [file for file in read if file is not _UNWANTED], one.rights)
                        drops.read_members(session, one.id, done)
                        if done == len(members):
                            drops.read_whole(session, [one.id])
            except RefusedFileError as error:
                self._keep([(one, Refused(error.name, error.reason))])

    def _keep(self, outcomes: Sequence[tuple[Waiting, Read]]) -> None:
        with self._sessions.begin() as session:
            for rights, read in _by_rights(outcomes):
                self._add(session, read, rights)
            drops.read_whole(session, [one.id for one, _ in outcomes])

    def _add(self, session: Session, read: Sequence[Read], rights: Mapping[str, str]) -> None:
        row = self._held(session)
        set_row = sets.get(session, row.set_id)
        if self._room is None:
            self._room = sets.room(session, set_row)
        taken, elsewhere = _for_channel(set_row, read, empty=not self._room.files)
        contents.keep(session, {one.digest: one.data for one in taken if one.data})
        full = sets.add_files(session, set_row, self._room, taken, rights)
        refused = [
            RefusedFile(one.name, one.reason, one.channel) for one in (*read, *elsewhere) if isinstance(one, Refused)
        ]
        no_room = [RefusedFile(name, reason) for name, reason in full]
        drops.told(session, row, taken=len(taken) - len(full), refused=[*refused, *no_room])

    def _held(self, session: Session) -> DropRow:
        row = drops.locked(session, self._drop_id, self._mine)
        if row is None:
            raise NoLongerOursError
        return row


def _too_large(one: Waiting) -> Refused | None:
    most = largest_of(one.name)
    return Refused(one.name, f"the file is larger than {most // limits.MEGABYTE} MB.") if one.size > most else None


#: Stands for the files of an archive that are not asked for.
_UNWANTED = Refused("", "")


def _among(wanted: Sequence[str], others: Callable[[str], Refused | None]) -> Callable[[str], Refused | None]:
    """Tells of the files of an archive which are not opened: besides `others`, those that are not wanted."""
    paths = frozenset(wanted)
    return lambda path: others(path) if path in paths else _UNWANTED


def _nothing() -> None:
    """There is nothing to keep."""


def _by_rights(outcomes: Iterable[tuple[Waiting, Read]]) -> Iterator[tuple[Mapping[str, str], list[Read]]]:
    """Runs of outcomes that share their rights, in order."""
    run: list[Read] = []
    rights: Mapping[str, str] = {}
    for one, read in outcomes:
        if run and one.rights != rights:
            yield rights, run
            run = []
        rights = one.rights
        run.append(read)
    if run:
        yield rights, run


def _channel_of(row: SetRow, names: Iterable[str], *, empty: bool) -> str:
    """The channel of a set that these files come to: an empty one becomes one for what most of them are. Pictures
    count only where they are too many to belong to others, such as mails and drawings."""
    channels = Counter(format_of(name).channel for name in names if is_taken(name))
    others = sum(count for channel, count in channels.items() if channel not in ("", IMAGES))
    if channels[IMAGES] <= max(_PICTURES_OF_ONE * others, channels[""]):
        del channels[IMAGES]
    most = channels.most_common(1)
    return most[0][0] or row.channel if empty and most else row.channel


def _for_channel(row: SetRow, read: Sequence[Read], *, empty: bool) -> tuple[list[ReadFile], list[Refused]]:
    """The files that a set takes by its channel, and those that another would."""
    came = [one for one in read if isinstance(one, ReadFile)]
    row.channel = _channel_of(row, (one.name for one in came), empty=empty)
    fits = {one.name: format_of(one.name).channel in ("", row.channel) for one in came}
    return [one for one in came if fits[one.name]], [_elsewhere(one.name) for one in came if not fits[one.name]]


def _elsewhere(name: str) -> Refused:
    form = format_of(name)
    reason = f"it is one of the {form.words}, which are taken in sets of the channel {form.channel} (Settings)."
    return Refused(name, reason, channel=form.channel)
