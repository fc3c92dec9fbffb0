"""A file made ours: recolored, and laid on its backing where it has one."""

from __future__ import annotations

from collections.abc import Callable

from pavese.core.formats.document import Document
from pavese.core.formats.lottie.staging import Motion, set_in_motion
from pavese.core.formats.svg.backing import backed
from pavese.core.formats.svg.document import with_namespace
from pavese.core.recolor.dress import Dress


def rendition(document: Document, dress: Dress) -> bytes:
    """The file as it is handed over."""
    data = document.apply(dress.recoloring)
    if dress.declared and document.still:
        data = with_namespace(data)
    return _on_backing(document, data, dress)


def drawing(document: Document, dress: Dress) -> bytes:
    """The same in the plain notation of the drawing engine."""
    return _on_backing(document, document.for_engine(dress.recoloring), dress)


def animation(
    name: str, document: Document, dress: Dress, motion: Motion | None, picture: Callable[[bytes, int], bytes]
) -> bytes:
    """The animation that a file is, or the one that a motion makes of a still one, see `set_in_motion`."""
    if not document.still or motion is None:
        return document.for_engine(dress.recoloring)
    plain = drawing(document, dress)
    return set_in_motion(name, plain, motion, lambda side: picture(plain, side))


def _on_backing(document: Document, data: bytes, dress: Dress) -> bytes:
    if dress.backing is None or dress.backing_color is None or not document.still:
        return data
    return backed(data, dress.backing, dress.backing_color)
