"""Zip packages with some of their files changed: all others stay as they are packed, in their order and under their
names, so that nothing is packed anew that did not change.

PKWARE's application note (APPNOTE.TXT, 6.3.10), sections 4.3.7 (local file header) and 4.3.12 (central directory).
"""

from __future__ import annotations

import io
import struct
import zipfile
import zlib
from collections.abc import Iterator, Mapping
from typing import NamedTuple

from pavese.core.formats.archive import DATE, package

_LOCAL, _ENTRY, _END = b"PK\x03\x04", b"PK\x01\x02", b"PK\x05\x06"
_LOCAL_HEADER = struct.Struct("<4s5H3L2H")
_ENTRY_HEADER = struct.Struct("<4s6H3L5H2L")
_END_RECORD = struct.Struct("<4s4H2LH")
#: The sizes stand behind the file (4.4.4, bit 3), which is not so for what is written here.
_SIZES_BEHIND = 1 << 3
_ELSEWHERE = 0xFFFFFFFF
_LEVEL = 6


class _Entry(NamedTuple):
    """A file in the central directory: the fields of its header, and what stands behind them."""

    fields: tuple[int, ...]
    name: bytes
    rest: bytes

    @property
    def zip64(self) -> bool:
        """Whether a size or its place stands in an extra field (4.5.3)."""
        return _ELSEWHERE in (*self.fields[6:9], self.fields[15])

    @property
    def path(self) -> str:
        return zipfile.ZipInfo(self.name.decode("utf-8" if self.fields[2] & 0x800 else "cp437")).filename


def repacked(data: bytes, changed: Mapping[str, bytes]) -> bytes:
    """The archive with other content in some of its files, by their paths. Raises KeyError for a path that is not in
    it; the archive is one that was opened without fault."""
    if not changed:
        return data
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        start, offsets = archive.start_dir, {info.filename: info.header_offset for info in archive.infolist()}
        comment = archive.comment
        entries = list(_entries(data, start, len(offsets)))
        if any(entry.zip64 for entry in entries):
            # Where sizes stand elsewhere, which only writers of streams do, all is packed anew.
            return package((path, changed[path] if path in changed else archive.read(path)) for path in offsets)
    for path in changed:
        offsets[path]
    ends = dict(zip(sorted(offsets.values()), [*sorted(offsets.values())[1:], start], strict=True))
    parts: list[bytes] = []
    at = 0
    written: dict[str, tuple[int, ...]] = {}
    for entry in sorted(entries, key=lambda entry: offsets[entry.path]):
        came = offsets[entry.path]
        if entry.path in changed:
            fields, packed = _packed(entry, changed[entry.path], at)
        else:
            fields, packed = (*entry.fields[:-1], at), data[came : ends[came]]
        written[entry.path] = fields
        parts.append(packed)
        at += len(packed)
    directory = b"".join(
        _ENTRY_HEADER.pack(_ENTRY, *written[entry.path]) + entry.name + entry.rest for entry in entries
    )
    count = len(entries)
    end = _END_RECORD.pack(_END, 0, 0, count, count, len(directory), at, len(comment))
    return b"".join((*parts, directory, end, comment))


def appended(data: bytes, added: Mapping[str, bytes]) -> bytes:
    """The archive with more files behind those that are in it."""
    if not added:
        return data
    target = io.BytesIO(data)
    with zipfile.ZipFile(target, "a", zipfile.ZIP_DEFLATED) as archive:
        for path, content in added.items():
            archive.writestr(zipfile.ZipInfo(path, DATE), content, zipfile.ZIP_DEFLATED)
    return target.getvalue()


def _entries(data: bytes, at: int, count: int) -> Iterator[_Entry]:
    for _ in range(count):
        _, *fields = _ENTRY_HEADER.unpack_from(data, at)
        at += _ENTRY_HEADER.size
        name, extra, comment = fields[9:12]
        yield _Entry(tuple(fields), data[at : at + name], data[at + name : at + name + extra + comment])
        at += name + extra + comment


def _packed(entry: _Entry, content: bytes, at: int) -> tuple[tuple[int, ...], bytes]:
    """The fields of a changed file in the directory, and the file as it is packed, for which no time is told anew."""
    made_by, needed, flags, method, time, day, *_, inner, outer, _ = entry.fields
    extra, comment, disk = entry.fields[10:13]
    flags &= ~_SIZES_BEHIND
    body = content
    if method == zipfile.ZIP_DEFLATED:
        compressor = zlib.compressobj(_LEVEL, zlib.DEFLATED, -zlib.MAX_WBITS)
        body = compressor.compress(content) + compressor.flush()
    sizes = zlib.crc32(content), len(body), len(content)
    local = _LOCAL_HEADER.pack(_LOCAL, needed, flags, method, time, day, *sizes, len(entry.name), 0)
    fields = (
        made_by, needed, flags, method, time, day, *sizes, len(entry.name), extra, comment, disk, inner, outer, at,
    )  # fmt: skip
    return fields, local + entry.name + body
