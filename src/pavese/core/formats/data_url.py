"""A picture as an address that holds it (RFC 2397), so that a file shows it without another file beside it."""

from __future__ import annotations

from base64 import b64encode

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
