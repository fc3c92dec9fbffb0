"""A drop of files: archives opened, every file read once, what cannot be taken named with its reason."""

from __future__ import annotations

import hashlib
import io
import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from typing import NamedTuple

from pavese.core import limits
from pavese.core.errors import RefusedFileError
from pavese.core.formats import fitting_name, is_taken, read
from pavese.core.formats.archive import Archive, is_archive
from pavese.core.formats.document import ALONE, Beside, Document
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.measure import Measured

#: What is said of a file in which something happened that nobody foresaw.
UNFORESEEN = "it cannot be read, for a reason that was not foreseen. It is in the log; please tell us."
_LONGEST_NAME = 200
_UNSAFE = re.compile(r'[\x00-\x1f\x7f<>:"|?*]')


class Came(NamedTuple):
    """A file as it came: its name and bytes, and (reference, bytes) of those that belong to it."""

    name: str
    data: bytes
    beside: tuple[tuple[str, bytes], ...] = ()


class Becoming(NamedTuple):
    """A file, and what is to become of it."""

    file: Came
    changes: Changes


@dataclass(frozen=True)
class TakenFile:
    """A file that was read: its name (a relative path with `/`), its bytes and their hash, its paints, and itself."""

    name: str
    data: bytes
    digest: str
    inventory: Inventory
    document: Document = field(compare=False, repr=False)


@dataclass(frozen=True)
class ReadFile:
    """What is kept of a file that was read: its name and hash, its paints, and what was measured of it; its bytes where
    they are not kept yet."""

    name: str
    digest: str
    inventory: Inventory
    measured: Measured
    data: bytes = field(default=b"", repr=False)
    #: The other files that it shows, as it names them, those that lie on the web, and those of all of them that are
    #: known already: path and bytes.
    refers: tuple[str, ...] = ()
    remote: tuple[str, ...] = ()
    beside: Mapping[str, tuple[str, bytes]] = field(default_factory=dict, repr=False)


@dataclass(frozen=True)
class Intake:
    """What became of a drop."""

    taken: tuple[TakenFile, ...]
    refused: tuple[RefusedFileError, ...]


#: Told of an error that nobody foresaw, and of the file it happened in; as a rule it is raised.
Unforeseen = Callable[[str, Exception], None]


def raised(_name: str, error: Exception) -> None:
    """Lets an error that nobody foresaw go on."""
    raise error


def take(files: Iterable[tuple[str, bytes]], unforeseen: Unforeseen = raised) -> Intake:
    """Reads a drop of (name, bytes); one bad file does not stop the others, nor does an error that nobody foresaw."""
    taken: list[TakenFile] = []
    refused: list[RefusedFileError] = []
    for name, data in _opened(files, refused):
        try:
            taken.append(read_one(name, data))
        except RefusedFileError as error:
            refused.append(error)
        except Exception as error:
            unforeseen(name, error)
            refused.append(RefusedFileError(name, UNFORESEEN))
    return Intake(tuple(taken), tuple(refused))


def read_one(name: str, data: bytes, beside: Beside = ALONE) -> TakenFile:
    """Reads one file that is no archive, with those that belong to it; one that is not what its name says gets an
    ending that fits.

    Raises RefusedFileError.
    """
    fitting = fitting_name(name, data)
    try:
        document = read(fitting, data, beside)
    except RefusedFileError as error:
        raise RefusedFileError(name, error.reason) from error
    inventory = document.inventory()
    count = len(inventory.sites)
    if count > limits.PAINTS:
        raise RefusedFileError(name, f"it has {count:,} colors; at most {limits.PAINTS:,} are planned.")
    return TakenFile(safe_path(fitting), data, digest(data), inventory, document)


def holds_files(name: str, head: bytes) -> bool:
    """Whether a file (its first bytes) is an archive that stands for the files in it."""
    return not is_taken(name) and is_archive(name, head)


def digest(data: bytes) -> str:
    """The content hash by which a file is kept: SHA-256, hexadecimal."""
    return hashlib.sha256(data).hexdigest()


def safe_path(name: str) -> str:
    """A relative path that is safe to write on any system, as near to the given name as possible."""
    parts = [_UNSAFE.sub("_", part).strip() for part in re.split(r"[/\\]", name)]
    path = "/".join(part for part in parts if part.strip("."))
    return path[-_LONGEST_NAME:].lstrip("/") or "unnamed.svg"


def _opened(files: Iterable[tuple[str, bytes]], refused: list[RefusedFileError]) -> Iterator[tuple[str, bytes]]:
    for name, data in files:
        if not holds_files(name, data):
            yield name, data
            continue
        try:
            with Archive(name, io.BytesIO(data)) as archive:
                archive.check_loose()
                yield from (archive.member(number) for number in range(len(archive.sizes)))
        except RefusedFileError as error:
            refused.append(error)
