"""A file made ours: recolored, and laid on its backing where it has one."""

from __future__ import annotations

from collections.abc import Callable

from pavese.core.formats.document import Document
from pavese.core.formats.lottie.staging import Motion, set_in_motion
from pavese.core.formats.svg.backing import backed
from pavese.core.formats.svg.document import with_namespace
from pavese.core.recolor.changes import Changes


def rendition(document: Document, changes: Changes) -> bytes:
    """The file as it is handed over."""
    data = document.apply(changes.recoloring)
    if changes.declared and document.still:
        data = with_namespace(data)
    return _on_backing(document, data, changes)


def drawing(document: Document, changes: Changes) -> bytes:
    """The same in the plain notation of the drawing engine."""
    return _on_backing(document, document.preview(changes.recoloring), changes)


def animation(
    name: str, document: Document, changes: Changes, motion: Motion | None, picture: Callable[[bytes, int], bytes]
) -> bytes:
    """The animation that a file is, or the one that a motion makes of a still one, see `set_in_motion`."""
    if not document.still or motion is None:
        return document.preview(changes.recoloring)
    plain = drawing(document, changes)
    return set_in_motion(name, plain, motion, lambda side: picture(plain, side))


def _on_backing(document: Document, data: bytes, changes: Changes) -> bytes:
    if changes.backing is None or changes.backing_color is None or not document.still:
        return data
    return backed(data, changes.backing, changes.backing_color)
