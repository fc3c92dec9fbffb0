"""Zip archives: opening those that strangers made, with what is declared checked before anything is unpacked, and
writing our own, of which the same content gives the same bytes."""

from __future__ import annotations

import io
import re
import zipfile
import zlib
from collections.abc import Iterable, Iterator

from pavese.core.errors import RefusedFileError
from pavese.core.formats import limits

_DATE = (1980, 1, 1, 0, 0, 0)
_LITTER = re.compile(r"(^|/)(__MACOSX/|\._|\.DS_Store$|Thumbs\.db$|desktop\.ini$)")


def is_archive(name: str, data: bytes) -> bool:
    """Whether a file is a zip, by its ending or its first bytes."""
    return name.lower().endswith(".zip") or data.startswith(b"PK\x03\x04")


def members(name: str, data: bytes) -> Iterator[tuple[str, bytes]]:
    """The files of an archive with their paths, folders and system litter left out, in the archive's order.

    Raises RefusedFileError when the archive is broken or beyond the bounds of `limits`, or a path leads out of it.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            wanted = [info for info in archive.infolist() if not info.is_dir() and not _LITTER.search(info.filename)]
            _check(name, wanted)
            for info in wanted:
                yield info.filename, _unpack(name, archive, info)
    except (zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError) as error:
        raise RefusedFileError(name, f"the archive cannot be opened: {error}.") from error


def _check(name: str, wanted: list[zipfile.ZipInfo]) -> None:
    if not wanted:
        raise RefusedFileError(name, "the archive is empty.")
    if len(wanted) > limits.ARCHIVE_FILES:
        raise RefusedFileError(name, f"it holds {len(wanted):,} files; at most {limits.ARCHIVE_FILES:,} are taken.")
    if sum(info.file_size for info in wanted) > limits.ARCHIVE_BYTES:
        size = limits.ARCHIVE_BYTES // limits.MEGABYTE
        raise RefusedFileError(name, f"unpacked it would be larger than {size} MB.")
    seen: set[str] = set()
    for info in wanted:
        path = info.filename
        if path.startswith(("/", "\\")) or ".." in re.split(r"[/\\]", path) or ":" in path or "\0" in path:
            raise RefusedFileError(name, f"the path “{path[:80]}” leads out of the archive.")
        if path in seen:
            raise RefusedFileError(name, f"it holds “{path[:80]}” twice.")
        seen.add(path)
        if info.flag_bits & 1:
            raise RefusedFileError(name, "it is locked with a password.")
        if info.file_size > limits.ARCHIVE_RATIO * max(info.compress_size, 1) and info.file_size > limits.MEGABYTE:
            raise RefusedFileError(name, f"“{path[:80]}” unpacks to more than {limits.ARCHIVE_RATIO} times its size.")


def _unpack(name: str, archive: zipfile.ZipFile, info: zipfile.ZipInfo) -> bytes:
    """One member, read no further than its declared size, whatever its data would unpack to."""
    with archive.open(info) as packed:
        data = packed.read(info.file_size + 1)
    if len(data) > info.file_size:
        raise RefusedFileError(name, f"“{info.filename[:80]}” is larger than it says.")
    return data


def package(files: Iterable[tuple[str, bytes]]) -> bytes:
    """A zip of (path, content), in the given order, dated the first day zip can tell."""
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as archive:
        for path, content in files:
            info = zipfile.ZipInfo(path, _DATE)
            info.compress_type = zipfile.ZIP_DEFLATED
            info.external_attr = 0o644 << 16
            archive.writestr(info, content)
    return target.getvalue()
