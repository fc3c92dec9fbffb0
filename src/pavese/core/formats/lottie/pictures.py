"""The pictures that came with an animation, put into it, so that engines and players show them."""

from __future__ import annotations

from typing import Any

import orjson

from pavese.core.formats.data_url import data_url
from pavese.core.formats.document import Beside
from pavese.core.formats.lottie.places import reference_of


def with_pictures(data: bytes, beside: Beside) -> bytes:
    """The animation with every picture that is known inside of it (Lottie 1.0, "Image": `e` says so)."""
    tree: dict[str, Any] = orjson.loads(data.removeprefix(b"\xef\xbb\xbf"))
    for asset in tree.get("assets") or ():
        reference = reference_of(asset)
        inside = data_url(beside[reference]) if reference in beside else None
        if inside is not None:
            asset |= {"u": "", "p": inside, "e": 1}
    return orjson.dumps(tree)
