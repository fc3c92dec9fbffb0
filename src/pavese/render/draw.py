"""Draws one SVG with resvg. Runs in a child process only: a hostile file may take the process down with it."""

from __future__ import annotations

import re
import resource
import signal
from pathlib import Path

_MEMORY = 1536 * 1024 * 1024
_fonts: list[str] = []


def prepare(fonts_dir: str) -> None:
    """Bounds this process before it sees any file: memory, no core dumps, no written files.

    Ctrl-C goes to the whole group of processes; the application ends its children itself.
    """
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    resource.setrlimit(resource.RLIMIT_AS, (_MEMORY, _MEMORY))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    _fonts.extend(str(path) for path in sorted(Path(fonts_dir).glob("*.ttf")))


def draw(svg: bytes, side: int) -> bytes:
    """A PNG whose longer side is `side` pixels, the drawing's proportions kept, on a transparent ground.

    Raises ValueError with the engine's words when the file cannot be drawn.
    """
    import resvg_py

    text = re.sub(r"^\s*<\?xml[^>]*\?>", "", svg.decode())
    return bytes(
        resvg_py.svg_to_bytes(
            svg_string=text,
            width=side,
            height=side,
            skip_system_fonts=True,
            font_files=_fonts or None,
            font_family="Commissioner",
            sans_serif_family="Commissioner",
            serif_family="Commissioner",
            monospace_family="Spline Sans Mono",
        )
    )
