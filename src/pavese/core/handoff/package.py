"""Names of files that go into one package."""

from __future__ import annotations

import posixpath

from pavese.core.unique_name import unique_name


def free_name(path: str, taken: set[str]) -> str:
    """The path, or the path with a number before its ending when it is taken (letter case aside)."""
    stem, ending = posixpath.splitext(path)
    name = unique_name(path, taken, lambda number: f"{stem}-{number}{ending}")
    taken.add(name.casefold())
    return name
