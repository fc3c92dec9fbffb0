"""A picture as an address that holds it (RFC 2397), so that a file shows it without another file beside it."""

from __future__ import annotations

import binascii
import hashlib
import re
from base64 import b64decode, b64encode
from collections.abc import Iterable

from pavese.core.formats.document import Beside
from pavese.core.formats.references import percent_decoded

#: A picture in base64; and a drawing as it is written, with what an address may not hold percent-encoded.
_INSIDE = re.compile(r"\s*data:image/([\w.+-]+);base64,", re.IGNORECASE)
_DRAWN = re.compile(r"\s*data:image/svg\+xml(?:;[\w=-]+)*,", re.IGNORECASE)
#: A kind that many name otherwise than its standard does.
_ALSO = {"jpg": "jpeg"}

#: Pictures that engines and players draw, by how they begin.
_KINDS = {
    b"\x89PNG": "png",
    b"\xff\xd8\xff": "jpeg",
    b"GIF8": "gif",
    b"RIFF": "webp",
    b"<svg": "svg+xml",
    b"<?xml": "svg+xml",
}


def data_url(picture: bytes) -> str | None:
    """The address; None for a picture of a kind that is not drawn."""
    kind = next((kind for begins, kind in _KINDS.items() if picture.startswith(begins)), None)
    return None if kind is None else f"data:image/{kind};base64,{b64encode(picture).decode()}"


def with_other(reference: str, picture: bytes) -> str:
    """An address that holds a picture with another in its place; what it says of its kind stays where that is so."""
    inside, anew = _INSIDE.match(reference), data_url(picture)
    if inside is None:
        return anew or f"data:image/svg+xml;base64,{b64encode(picture).decode()}"
    said = inside[1].lower()
    if anew is None or anew.startswith(f"data:image/{_ALSO.get(said, said)};"):
        return f"{inside[0]}{b64encode(picture).decode()}"
    return anew


def is_inside(reference: str) -> bool:
    """Whether what names a picture holds it."""
    return _INSIDE.match(reference) is not None or _DRAWN.match(reference) is not None


def called(reference: str) -> str:
    """What a picture is called wherever it is spoken of: as it is named, or by its content where that holds it."""
    if is_inside(reference):
        return f"data:{hashlib.sha256(reference.encode()).hexdigest()[:24]}"
    return reference


def picture_in(reference: str) -> bytes | None:
    """The picture that what names it holds; None where it holds none, or one that is broken."""
    if (inside := _INSIDE.match(reference)) is not None:
        try:
            return b64decode(re.sub(r"\s", "", reference[inside.end() :]))
        except (binascii.Error, ValueError):
            return None
    if (drawn := _DRAWN.match(reference)) is None:
        return None
    return percent_decoded(reference[drawn.end() :])


def content_of(reference: str, beside: Beside) -> bytes | None:
    """The picture that a file names, which holds it or has it beside it; None where it is not at hand, or broken."""
    return picture_in(reference) if is_inside(reference) else beside.get(reference)


def at_hand(references: Iterable[str], beside: Beside) -> dict[str, bytes]:
    """Those of the pictures that a file names that are at hand, by what they are called."""
    found = ((called(one), content_of(one, beside)) for one in references)
    return {reference: data for reference, data in found if data is not None}


def is_lost(reference: str) -> bool:
    """Whether what names a picture is an address that holds none that can be read."""
    return reference.startswith("data:") and picture_in(reference) is None
