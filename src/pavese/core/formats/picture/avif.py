"""AVIF (AV1 Image File Format 1.1), coded anew in whole color."""

from __future__ import annotations

from typing import Any

from pavese.core.formats.picture.coded import CodedPicture
from pavese.core.pictures.regions import LOSSY

#: How well it is coded, of 100: the file does not say how it was.
_QUALITY = 90
#: How many bytes at the beginning name what a file is (ISO/IEC 14496-12, section 4.3).
_BRANDS = 64


class AvifPicture(CodedPicture):
    """See `container.Container`."""

    fineness = LOSSY
    kind, called = "AVIF", "an AVIF"

    @property
    def _options(self) -> dict[str, Any]:
        return {"quality": _QUALITY, "subsampling": "4:4:4"}

    def bare(self, data: bytes) -> bytes:
        """As it is: what it says cannot be taken from it without coding it anew."""
        return data


def is_avif(data: bytes) -> bool:
    """Whether a file begins as an AVIF does."""
    return data[4:8] == b"ftyp" and b"avi" in data[8:_BRANDS]
