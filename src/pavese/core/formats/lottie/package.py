"""dotLottie: a zip of animations, themes and pictures. https://dotlottie.io/spec/2.0/"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from pathlib import PurePosixPath

from pavese.core.errors import RefusedFileError
from pavese.core.formats.archive import members, package
from pavese.core.formats.document import ALONE, PLAIN, WHOLE, Beside, Document, Look, Page, PageKind, Preview
from pavese.core.formats.lottie.document import LottieDocument, read_lottie, read_theme
from pavese.core.recolor.changes import Changes, Wanted
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.site import Site

#: Folders of version 2 and of version 1.
_ANIMATIONS = re.compile(r"(?:a|animations)/[^/]+\.json")
_THEMES = re.compile(r"(?:t|themes)/[^/]+\.json")


def read_dotlottie(name: str, data: bytes, beside: Beside = ALONE) -> DotLottieDocument:
    """Reads a package. Raises RefusedFileError with the file's name and the reason."""
    parts = dict(members(name, data))
    several = sum(1 for path in parts if _ANIMATIONS.fullmatch(path)) > 1
    read: dict[str, LottieDocument] = {}
    for path, content in parts.items():
        if _ANIMATIONS.fullmatch(path):
            read[path] = read_lottie(f"{name}: {path}", content, beside, (_selector(path),) if several else ())
        elif _THEMES.fullmatch(path):
            read[path] = read_theme(f"{name}: {path}", content)
    if not any(_ANIMATIONS.fullmatch(path) for path in read):
        raise RefusedFileError(name, "it holds no animation.")
    return DotLottieDocument(data, parts, read)


class DotLottieDocument:
    """See `pavese.core.formats.document.Document`; every part that holds no changed paint stays byte for byte."""

    looks: tuple[Look, ...] = (PLAIN,)
    #: Its pictures lie in the package.
    refers: tuple[str, ...] = ()

    def __init__(self, data: bytes, parts: dict[str, bytes], read: dict[str, LottieDocument]) -> None:
        self._data = data
        self._parts = parts
        self._read = read

    def sites(self) -> Iterator[Site]:
        for document in self._read.values():
            yield from document.sites()

    def inventory(self) -> Inventory:
        return Inventory.merged(document.inventory() for document in self._read.values())

    def write(self, wanted: Wanted) -> bytes:
        changes = Changes.of(wanted)
        changed = {path: document.write(changes) for path, document in self._read.items()}
        if all(changed[path] == self._parts[path] for path in changed):
            return self._data
        return package((path, changed.get(path, content)) for path, content in self._parts.items())

    @property
    def pages(self) -> tuple[Page, ...]:
        several = [
            Page(PurePosixPath(path).stem, PageKind.SCENE, _selector(path))
            for path in self._read
            if _ANIMATIONS.fullmatch(path)
        ]
        return tuple(several) if len(several) > 1 else (WHOLE,)

    def embedded(self) -> Sequence[Document]:
        return [document for path, document in self._read.items() if _ANIMATIONS.fullmatch(path)]

    def preview(self, wanted: Wanted, page: int | None = None, look: Look = PLAIN) -> Preview:
        return self.embedded()[page or 0].preview(wanted)


def _selector(path: str) -> str:
    """How an animation of a package names its sites."""
    return f"/{PurePosixPath(path).stem}"
