"""One zip with everything for a set: recolored files, kit and plan; the same input gives the same bytes."""

from __future__ import annotations

import io
import posixpath
import zipfile
from collections.abc import Iterable

from pavese.core.unlike import unlike

_DATE = (1980, 1, 1, 0, 0, 0)


def package(files: Iterable[tuple[str, bytes]]) -> bytes:
    """A zip of (path, content), in the given order, dated the first day zip can tell."""
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as archive:
        for path, content in files:
            info = zipfile.ZipInfo(path, _DATE)
            info.compress_type = zipfile.ZIP_DEFLATED
            info.external_attr = 0o644 << 16
            archive.writestr(info, content)
    return target.getvalue()


def free_name(path: str, taken: set[str]) -> str:
    """The path, or the path with a number before its ending when it is taken (letter case aside)."""
    stem, ending = posixpath.splitext(path)
    name = unlike(path, taken, lambda number: f"{stem}-{number}{ending}")
    taken.add(name.casefold())
    return name
