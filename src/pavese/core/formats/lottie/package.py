"""dotLottie: a zip of animations, themes and pictures. https://dotlottie.io/spec/2.0/"""

from __future__ import annotations

import re
from pathlib import PurePosixPath

from pavese.core.errors import RefusedFileError
from pavese.core.formats.archive import members, package
from pavese.core.formats.document import Colors
from pavese.core.formats.lottie.document import LottieDocument, read_lottie, read_theme
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.recoloring import Recoloring

#: Folders of version 2 and of version 1.
_ANIMATIONS = re.compile(r"(?:a|animations)/[^/]+\.json")
_THEMES = re.compile(r"(?:t|themes)/[^/]+\.json")


def read_dotlottie(name: str, data: bytes) -> DotLottieDocument:
    """Reads a package. Raises RefusedFileError with the file's name and the reason."""
    parts = dict(members(name, data))
    read: dict[str, LottieDocument] = {}
    for path, content in parts.items():
        if _ANIMATIONS.fullmatch(path):
            read[path] = read_lottie(f"{name}: {path}", content)
        elif _THEMES.fullmatch(path):
            read[path] = read_theme(f"{name}: {path}", content)
    if not any(_ANIMATIONS.fullmatch(path) for path in read):
        raise RefusedFileError(name, "it holds no animation.")
    return DotLottieDocument(data, parts, read)


class DotLottieDocument:
    """See `pavese.core.formats.document.Document`; every part that holds no changed paint stays byte for byte."""

    still = False

    def __init__(self, data: bytes, parts: dict[str, bytes], read: dict[str, LottieDocument]) -> None:
        self._data = data
        self._parts = parts
        self._read = read

    def inventory(self) -> Inventory:
        return Inventory.merged(document.inventory() for document in self._read.values())

    def apply(self, recoloring: Colors) -> bytes:
        wanted = Recoloring.of(recoloring)
        changed = {path: document.apply(wanted) for path, document in self._read.items()}
        if all(changed[path] == self._parts[path] for path in changed):
            return self._data
        return package((path, changed.get(path, content)) for path, content in self._parts.items())

    @property
    def parts(self) -> tuple[str, ...]:
        names = tuple(PurePosixPath(path).stem for path in self._animations)
        return names if len(names) > 1 else ()

    def preview(self, recoloring: Colors, part: int | None = None) -> bytes:
        return self._read[self._animations[part or 0]].preview(recoloring)

    @property
    def _animations(self) -> list[str]:
        return [path for path in self._read if _ANIMATIONS.fullmatch(path)]
