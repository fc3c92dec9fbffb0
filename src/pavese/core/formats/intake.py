"""A drop of files: archives opened, every file read once, what cannot be taken named with its reason."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field

from pavese.core.errors import RefusedFileError
from pavese.core.formats import is_taken, read
from pavese.core.formats.archive import is_archive, members
from pavese.core.formats.document import Document
from pavese.core.recolor.inventory import Inventory

_LONGEST_NAME = 200
_UNSAFE = re.compile(r'[\x00-\x1f\x7f<>:"|?*]')


@dataclass(frozen=True)
class TakenFile:
    """A file that was read: its name (a relative path with `/`), its bytes and their hash, its paints, and itself."""

    name: str
    data: bytes
    digest: str
    inventory: Inventory
    document: Document = field(compare=False, repr=False)


@dataclass(frozen=True)
class Intake:
    """What became of a drop."""

    taken: tuple[TakenFile, ...]
    refused: tuple[RefusedFileError, ...]


def take(files: Iterable[tuple[str, bytes]]) -> Intake:
    """Reads a drop of (name, bytes); one bad file does not stop the others."""
    taken: list[TakenFile] = []
    refused: list[RefusedFileError] = []
    for name, data in _opened(files, refused):
        try:
            document = read(name, data)
            inventory = document.inventory()
        except RefusedFileError as error:
            refused.append(error)
        else:
            taken.append(TakenFile(safe_path(name), data, digest(data), inventory, document))
    return Intake(tuple(taken), tuple(refused))


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
        if is_taken(name) or not is_archive(name, data):
            yield name, data
            continue
        try:
            yield from list(members(name, data))
        except RefusedFileError as error:
            refused.append(error)
