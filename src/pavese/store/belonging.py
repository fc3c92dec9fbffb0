"""The files that belong to others: what they refer to, whether that came along, and what is handed over with them."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Iterator, Mapping, Sequence

from sqlalchemy import select, text
from sqlalchemy.orm import Session

from pavese.core.formats import format_of
from pavese.core.formats.document import NOT_FETCHED, ON_THE_WEB
from pavese.core.formats.format import Can
from pavese.core.formats.intake import ReadFile
from pavese.core.formats.intake import digest as digest_of
from pavese.core.formats.references import TEMPLATE, Lying, as_sheet, is_remote, is_template, tells_colors
from pavese.core.recolor.pictures import PICTURE
from pavese.store import contents, drops
from pavese.store.models import AssetRow, DropRow, LinkFile

#: A file of a set, or of a set as a link shows it.
KeptFile = AssetRow | LinkFile


def come_with(session: Session, file: ReadFile) -> dict[str, list[str]]:
    """Keeps what a file came with: path and hash of each file that it refers to, nothing of those that are missing."""
    found = {reference: (path, digest_of(data)) for reference, (path, data) in file.beside.items()}
    contents.keep(session, {found[reference][1]: data for reference, (_, data) in file.beside.items()})
    return {reference: list(found.get(reference, ())) for reference in (*file.refers, *file.remote)}


def come_as(file: ReadFile) -> dict[str, bool]:
    """Whether each file that another names has come."""
    return {reference: reference in file.beside for reference in (*file.refers, *file.remote)}


def still_so(remarks: Iterable[str], come: Mapping[str, object]) -> list[str]:
    """Remarks without those on missing files that are there; told by what each reference has."""
    here = {NOT_FETCHED: False, ON_THE_WEB: True}
    missing = {is_remote(reference) for reference, found in come.items() if not found and not is_template(reference)}
    return [remark for remark in remarks if remark not in here or here[remark] in missing]


def missing(session: Session, drop: DropRow) -> set[tuple[str, str]]:
    """What the files of a set refer to, and is not there: the name of the file, and the reference."""
    return {(row.name, reference) for row, reference in _lacked(_referring(session, drop))}


def _referring(session: Session, drop: DropRow) -> Sequence[AssetRow]:
    found = select(AssetRow).where(AssetRow.set_id == drop.set_id, AssetRow.beside != text("'{}'::jsonb"))
    return session.scalars(found).all()


def _lacked(rows: Iterable[AssetRow]) -> list[tuple[AssetRow, str]]:
    return [(row, reference) for row in rows for reference, came in row.beside.items() if not came]


def join(session: Session, drop: DropRow, unpacked: Mapping[str, str]) -> list[AssetRow]:
    """Gives the files of a set what they refer to, from what came in the same drop, in its archives too (`unpacked`,
    hashes by path); that is refused as no file of its own, and no longer needs to be said. Gives those that have more
    colors with it, and that are to be read anew."""
    rows = _referring(session, drop)
    lacked = _lacked(rows)
    come = {**unpacked, **drops.came(session, drop)} if lacked else {}
    if any(is_template(reference) for _, reference in lacked):
        # A template may have come before.
        there = select(AssetRow.name, AssetRow.digest).where(AssetRow.set_id == drop.set_id)
        come = {**dict(session.execute(there).all()), **come}
    lying = Lying(come)
    told: dict[uuid.UUID, AssetRow] = {}
    for row, reference in lacked:
        path = lying.meant(row.name, reference, [came[0] for came in row.beside.values() if came])
        if path is not None:
            row.beside = {**row.beside, reference: [path, come[path]]}
            if tells_colors(reference, path) and Can.PICTURES in format_of(row.name).can:
                told[row.id] = row
    for row in rows:
        row.remarks = still_so(row.remarks, row.beside)
    shown = ((reference, came) for row in rows for reference, came in row.beside.items() if came)
    drops.not_refused(session, drop, {came[0] for reference, came in shown if not is_template(reference)})
    session.flush()
    return list(told.values())


def lay(session: Session, row: AssetRow, reference: str, path: str, data: bytes) -> None:
    """Gives a file something that belongs to it, under the name by which it is meant."""
    digest = digest_of(data)
    contents.keep(session, {digest: data})
    # Others may be giving it something just now.
    session.refresh(row, with_for_update=True)
    row.beside = {**row.beside, reference: [path, digest]}
    row.remarks = still_so(row.remarks, row.beside)
    session.flush()


def paths(row: KeptFile) -> dict[str, str]:
    """The paths of the files that came with another, by what it calls them."""
    return {reference: path for reference, path in _came(row) if not _is_shown_here(reference)}


def templates(row: KeptFile) -> dict[str, str]:
    """The paths of the templates that a file is looked at with, by what it calls them."""
    return {reference: path for reference, path in _came(row) if is_template(reference)}


def lacking(row: AssetRow) -> list[str]:
    """The templates that a file would be looked at with and that are not there, as its code names them."""
    return [
        reference.removeprefix(TEMPLATE)
        for reference, came in row.beside.items()
        if is_template(reference) and not came and not row.beside.get(as_sheet(reference))
    ]


def _came(row: KeptFile) -> Iterator[tuple[str, str]]:
    return ((reference, found[0]) for reference, found in row.beside.items() if found)


def _is_shown_here(reference: str) -> bool:
    """Whether what came with a file is only looked at with it: a picture on which it is shown, or a template, which is
    a file of its own."""
    return reference.startswith(PICTURE) or is_template(reference)


def neighbors(session: Session, rows: Iterable[KeptFile]) -> Iterator[tuple[str, bytes]]:
    """Path and bytes of the files that belong to others, each once; those that are files of their own, or lie on the
    web, aside."""
    listed = list(rows)
    known = {row.name for row in listed}
    for row in listed:
        for reference, (path, digest) in ((one, came) for one, came in row.beside.items() if came):
            if path not in known and not is_remote(reference) and not _is_shown_here(reference):
                known.add(path)
                yield path, contents.data(session, digest)
