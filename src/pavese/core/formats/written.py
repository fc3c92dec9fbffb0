"""A file as it is handed over: changed, and with the small picture of itself that some files carry drawn anew."""

from __future__ import annotations

import io
from collections.abc import Callable
from typing import cast

from PIL import Image

from pavese.core.errors import PaveseError
from pavese.core.formats import format_of
from pavese.core.formats.document import Document, Preview, Slided
from pavese.core.formats.format import Can
from pavese.core.formats.repack import repacked
from pavese.core.recolor.changes import Changes

#: Draws a preview as a PNG whose longer side is so many pixels.
Draw = Callable[[Preview, int], bytes]
#: Sides that such a picture may have.
_LEAST, _MOST = 64, 1024


def written(name: str, document: Document, changes: Changes, draw: Draw) -> bytes:
    """The file with its changes. One that cannot be drawn keeps the picture of itself that it came with."""
    data = document.write(changes)
    if Can.SLIDES not in format_of(name).can:
        return data
    deck = cast(Slided, document)
    came = deck.thumbnail
    if came is None or data == document.write(Changes()):
        return data
    path, old = came
    try:
        with Image.open(io.BytesIO(old), formats=("PNG", "JPEG")) as image:
            size, kind = image.size, str(image.format)
        side = min(max(*size, _LEAST), _MOST)
        png = draw(document.preview(changes), side)
    except (PaveseError, OSError, ValueError):
        return data
    target = io.BytesIO()
    with Image.open(io.BytesIO(png)) as drawn:
        drawn.convert("RGB").save(target, kind)
    return repacked(data, {path: target.getvalue()})
