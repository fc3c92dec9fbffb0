"""The pictures that came with an animation, put into it, so that engines and players show them."""

from __future__ import annotations

from base64 import b64encode
from typing import Any

import orjson

from pavese.core.formats.document import Beside
from pavese.core.formats.lottie.places import reference_of

_KINDS = {b"\x89PNG": "png", b"\xff\xd8\xff": "jpeg", b"GIF8": "gif", b"RIFF": "webp", b"<svg": "svg+xml"}


def with_pictures(data: bytes, beside: Beside) -> bytes:
    """The animation with every picture that is known inside of it (Lottie 1.0, "Image": `e` says so)."""
    tree: dict[str, Any] = orjson.loads(data.removeprefix(b"\xef\xbb\xbf"))
    for asset in tree.get("assets") or ():
        reference = reference_of(asset)
        picture = beside.get(reference) if reference else None
        kind = next((kind for begins, kind in _KINDS.items() if picture and picture.startswith(begins)), None)
        if picture is not None and kind is not None:
            asset |= {"u": "", "p": f"data:image/{kind};base64,{b64encode(picture).decode()}", "e": 1}
    return orjson.dumps(tree)
