"""WebP (https://developers.google.com/speed/webp/docs/riff_container, RFC 9649), still, with and without loss."""

from __future__ import annotations

import struct
from typing import Any

from pavese.core.formats.picture.coded import CodedPicture
from pavese.core.formats.picture.container import only_turned
from pavese.core.pictures.regions import LOSSLESS, LOSSY

#: How fine one with loss is written; the file does not say how fine it was.
_QUALITY = 92
#: Flags of what an extended file holds.
_HAS_EXIF, _HAS_XMP = 0x08, 0x04


class WebpPicture(CodedPicture):
    """See `container.Container`."""

    kind, called = "WEBP", "a WebP"

    def __init__(self, name: str, data: bytes) -> None:
        super().__init__(name, data)
        self._lossless = _is_lossless(data)
        self.fineness = LOSSLESS if self._lossless else LOSSY

    @property
    def _options(self) -> dict[str, Any]:
        return {"lossless": self._lossless, "quality": _QUALITY, "exact": True}

    def bare(self, data: bytes) -> bytes:
        return _without(data, only_turned(self.turn))


def _without(data: bytes, exif: bytes) -> bytes:
    """A file without Exif and XMP data (RFC 9649, section 2.7.1.5), with other Exif data where there is some."""
    body, at = b"", 12
    while at + 8 <= len(data):
        kind, size = struct.unpack_from("<4sI", data, at)
        end = at + 8 + size + size % 2
        part = data[at:end]
        if kind == b"VP8X":
            part = part[:8] + bytes([part[8] & ~(_HAS_EXIF | _HAS_XMP) | (_HAS_EXIF if exif else 0)]) + part[9:]
        if kind not in (b"EXIF", b"XMP "):
            body += part
        at = end
    if exif:
        body += struct.pack("<4sI", b"EXIF", len(exif)) + exif + bytes(len(exif) % 2)
    return data[:4] + struct.pack("<I", len(body) + 4) + data[8:12] + body


def is_webp(data: bytes) -> bool:
    """Whether a file begins as a WebP does."""
    return data[:4] == b"RIFF" and data[8:12] == b"WEBP"


def _is_lossless(data: bytes) -> bool:
    """By the first chunk with pixels (RFC 9649, section 2)."""
    at = 12
    while at + 8 <= len(data):
        kind, size = struct.unpack_from("<4sI", data, at)
        if kind in (b"VP8L", b"VP8 "):
            return bool(kind == b"VP8L")
        at += 8 + size + size % 2
    return False
