"""Zip archives: opening those that strangers made, with what is declared checked before anything is unpacked, and
writing our own, of which the same content gives the same bytes."""

from __future__ import annotations

import io
import re
import struct
import zipfile
import zlib
from collections.abc import Iterable, Iterator, Mapping
from datetime import datetime
from functools import cached_property
from typing import BinaryIO, Self

from stream_zip import ZIP_AUTO, Method, stream_zip

from pavese.core import limits
from pavese.core.errors import RefusedFileError
from pavese.core.formats.references import Lying

#: The time of all that is written here: the same content gives the same bytes.
DATE = (1980, 1, 1, 0, 0, 0)
_LEVEL = 6
#: What the standard library says of broken archives.
_BROKEN = (
    zipfile.BadZipFile,
    zlib.error,
    EOFError,
    NotImplementedError,
    RuntimeError,
    OSError,
    ValueError,
    struct.error,
)
_DOCUMENTS = (".pptx", ".potx", ".ppsx", ".docx", ".xlsx", ".odp", ".otp", ".odt", ".ods", ".odg", ".epub")
_METHODS = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED)
_LITTER = re.compile(r"(^|/)(__MACOSX/|\._|\.DS_Store$|Thumbs\.db$|desktop\.ini$)")


def is_archive(name: str, data: bytes) -> bool:
    """Whether a file is a zip, by its ending or its first bytes."""
    return name.lower().endswith(".zip") or data.startswith(b"PK\x03\x04")


def members(name: str, data: bytes, most_bytes: int = limits.PACKAGE_BYTES) -> Iterator[tuple[str, bytes]]:
    """The files of an archive with their paths, folders and system litter left out, in the archive's order.

    Raises RefusedFileError when the archive is broken or beyond the bounds of `limits`, a path leads out of it, or its
    files are larger than that together.
    """
    with Archive(name, io.BytesIO(data), most_bytes) as archive:
        for number in range(len(archive.sizes)):
            yield archive.member(number)


class Archive:
    """An archive, opened: its files are unpacked one by one, folders and system litter left out."""

    def __init__(self, name: str, file: BinaryIO, most_bytes: int = limits.ARCHIVE_BYTES) -> None:
        """Reads the list of what is in it. Raises RefusedFileError for a broken one, and beyond the bounds."""
        self._name = name
        try:
            self._zip = zipfile.ZipFile(file)
        except UnicodeDecodeError as error:
            raise RefusedFileError(name, "a name in the archive is no text in UTF-8, though it says so.") from error
        except _BROKEN as error:
            raise RefusedFileError(name, f"the archive cannot be opened: {error}.") from error
        everything = self._zip.infolist()
        self._members = [info for info in everything if not info.is_dir() and not _LITTER.search(info.filename)]
        _check(name, self._members, most_bytes)
        #: Unpacked bytes of each file, as it says.
        self.sizes = tuple(info.file_size for info in self._members)
        #: The number of each file, by its path.
        self.numbers = {info.filename: number for number, info in enumerate(self._members)}

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *_: object) -> None:
        self._zip.close()

    @cached_property
    def lying(self) -> Lying:
        """Its files, as others of them name them."""
        return Lying(self.numbers)

    def check_loose(self) -> None:
        """Raises RefusedFileError when it is no folder of files, but one file of another program.

        Office packages: ISO/IEC 29500-2, section 10.1.2 (content types), and OpenDocument 1.3, part 2, section 3.3.
        """
        named = self._name.lower().endswith(_DOCUMENTS)
        if named or any(info.filename in ("[Content_Types].xml", "mimetype") for info in self._members):
            reason = "it is a deck or a document, not a folder of drawings. Save its drawings as files."
            raise RefusedFileError(self._name, reason)

    def member(self, number: int) -> tuple[str, bytes]:
        """Path and bytes of one file, read no further than its declared size, whatever it would unpack to.

        Raises RefusedFileError, with the file's own name where only that one is broken.
        """
        info = self._members[number]
        try:
            with self._zip.open(info) as packed:
                data = packed.read(info.file_size + 1)
        except _BROKEN as error:
            raise RefusedFileError(self._name, f"“{info.filename[:80]}” cannot be unpacked: {error}.") from error
        if len(data) > info.file_size:
            raise RefusedFileError(self._name, f"“{info.filename[:80]}” is larger than it says.")
        return info.filename, data


def _check(name: str, wanted: list[zipfile.ZipInfo], most_bytes: int) -> None:
    if not wanted:
        raise RefusedFileError(name, "the archive is empty.")
    if len(wanted) > limits.ARCHIVE_FILES:
        raise RefusedFileError(name, f"it holds {len(wanted):,} files; at most {limits.ARCHIVE_FILES:,} are taken.")
    if sum(info.file_size for info in wanted) > most_bytes:
        size = most_bytes // limits.MEGABYTE
        raise RefusedFileError(name, f"unpacked it would be larger than {size} MB.")
    seen: set[str] = set()
    for info in wanted:
        path = info.filename
        if path.startswith(("/", "\\")) or ".." in re.split(r"[/\\]", path) or ":" in path or "\0" in path:
            raise RefusedFileError(name, f"the path “{path[:80]}” leads out of the archive.")
        if path in seen:
            raise RefusedFileError(name, f"it holds “{path[:80]}” twice.")
        seen.add(path)
        if info.compress_type not in _METHODS:
            # The others are unpacked without a bound on memory (and hardly any program writes them).
            raise RefusedFileError(name, f"“{path[:80]}” is packed in a way that is not taken; pack it as a plain zip.")
        if info.flag_bits & 1:
            raise RefusedFileError(name, "it is locked with a password.")
        if info.file_size > limits.ARCHIVE_RATIO * max(info.compress_size, 1) and info.file_size > limits.MEGABYTE:
            raise RefusedFileError(name, f"“{path[:80]}” unpacks to more than {limits.ARCHIVE_RATIO} times its size.")


def zipped(files: Iterable[tuple[str, bytes]]) -> Iterator[bytes]:
    """A zip of (path, content) in chunks, made while the files come, dated as `package`'s."""

    def members() -> Iterator[tuple[str, datetime, int, Method, Iterable[bytes]]]:
        for path, content in files:
            yield path, datetime(*DATE), 0o644, ZIP_AUTO(len(content), level=_LEVEL), (content,)

    yield from stream_zip(members(), get_compressobj=lambda: zlib.compressobj(wbits=-zlib.MAX_WBITS, level=_LEVEL))


def package_of(media_type: str, files: Mapping[str, bytes]) -> bytes:
    """An OpenDocument package: its media type stands first, as it is (OpenDocument 1.3, part 2, 3.3)."""
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as archive:
        archive.writestr(zipfile.ZipInfo("mimetype", DATE), media_type)
        for path, content in files.items():
            info = zipfile.ZipInfo(path, DATE)
            info.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(info, content)
    return target.getvalue()


def package(files: Iterable[tuple[str, bytes]]) -> bytes:
    """A zip of (path, content), in the given order, dated the first day zip can tell."""
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED, compresslevel=_LEVEL) as archive:
        for path, content in files:
            info = zipfile.ZipInfo(path, DATE)
            info.compress_type = zipfile.ZIP_DEFLATED
            info.external_attr = 0o644 << 16
            archive.writestr(info, content)
    return target.getvalue()
