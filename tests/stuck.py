"""A reader that gets stuck over one file, for children: a module that they load at once."""

from __future__ import annotations

import time

from pavese.render.reading import Read, read_group


def reading_but_stuck(files: list[tuple[str, bytes]], measuring: bool = True) -> list[Read]:
    """Reads as ever, and gets stuck over one file; runs in a child."""
    if any(name == "stuck.svg" for name, _ in files):
        time.sleep(300)
    return read_group(files, measuring)
