"""The animation that a file is, or the one that a motion makes of a drawing."""

from __future__ import annotations

from collections.abc import Callable

from pavese.core.formats.document import Document, Notation, Preview
from pavese.core.formats.lottie.staging import Motion, set_in_motion
from pavese.core.recolor.changes import Changes


def animation(
    name: str, document: Document, changes: Changes, motion: Motion | None, picture: Callable[[Preview, int], bytes]
) -> Preview:
    """The animation for players and engines; `picture` draws a preview with a longer side of so many pixels, see
    `set_in_motion`. Without a motion, a drawing stays as it is."""
    shown = document.preview(changes)
    if shown.notation is Notation.MOTION or motion is None:
        return shown
    return Preview(
        Notation.MOTION,
        set_in_motion(name, shown.content, motion, lambda side: picture(shown, side)),
    )
