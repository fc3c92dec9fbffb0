"""dotLottie: a zip of animations, themes and pictures. https://dotlottie.io/spec/2.0/"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from pathlib import PurePosixPath

from pavese.core.errors import RefusedFileError
from pavese.core.formats.archive import members, package
from pavese.core.formats.document import (
    ALONE,
    PLAIN,
    WHOLE,
    Beside,
    Document,
    Look,
    Page,
    PageKind,
    Preview,
)
from pavese.core.formats.lottie.document import LottieDocument, read_lottie, read_theme
from pavese.core.formats.references import name_beside
from pavese.core.recolor.changes import Changes, Wanted
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.site import Site
from pavese.core.recolor.texts import TextRun

#: Folders of version 2 and of version 1.
_ANIMATIONS = re.compile(r"(?:a|animations)/[^/]+\.json")
_THEMES = re.compile(r"(?:t|themes)/[^/]+\.json")
_PICTURES = re.compile(r"(?:i|images)/[^/]+")


def read_dotlottie(name: str, data: bytes, beside: Beside = ALONE) -> DotLottieDocument:
    """Reads a package. Raises RefusedFileError with the file's name and the reason."""
    parts = dict(members(name, data))
    # By their names: animations give their folder in many ways.
    pictures = {PurePosixPath(path).name: path for path in parts if _PICTURES.fullmatch(path)}
    several = sum(1 for path in parts if _ANIMATIONS.fullmatch(path)) > 1
    read: dict[str, LottieDocument] = {}
    for path, content in parts.items():
        if _ANIMATIONS.fullmatch(path):
            within = (_selector(path),) if several else ()
            read[path] = read_lottie(f"{name}: {path}", content, _Pictures(pictures, parts, beside), within)
        elif _THEMES.fullmatch(path):
            read[path] = read_theme(f"{name}: {path}", content)
    if not any(_ANIMATIONS.fullmatch(path) for path in read):
        raise RefusedFileError(name, "it holds no animation.")
    return DotLottieDocument(data, parts, read, pictures)


class _Pictures(Mapping[str, bytes]):
    """The pictures of a package, by how an animation of it names them, and those that came beside it."""

    def __init__(self, paths: Mapping[str, str], parts: Mapping[str, bytes], beside: Beside) -> None:
        self._paths, self._parts, self._beside = paths, parts, beside

    def __getitem__(self, reference: str) -> bytes:
        path = self._paths.get(name_beside(reference))
        return self._parts[path] if path is not None else self._beside[reference]

    def __iter__(self) -> Iterator[str]:
        return iter((*self._paths, *self._beside))

    def __len__(self) -> int:
        return len(self._paths) + len(self._beside)


class DotLottieDocument:
    """See `pavese.core.formats.document.Document`; every part that holds no changed paint stays byte for byte."""

    looks: tuple[Look, ...] = (PLAIN,)
    #: Its pictures lie in the package.
    refers: tuple[str, ...] = ()

    remote: tuple[str, ...] = ()

    def __init__(
        self, data: bytes, parts: dict[str, bytes], read: dict[str, LottieDocument], pictures: Mapping[str, str]
    ) -> None:
        """`pictures` are the paths of its pictures by their names."""
        self._pictures = pictures
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
        for document in self._read.values():
            for reference, picture in document.beside(changes).items():
                # What several animations show is as the first of them wants it.
                if (path := self._pictures.get(name_beside(reference))) is not None:
                    changed.setdefault(path, picture)
        if all(content == self._parts[path] for path, content in changed.items()):
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

    def pictures(self, wanted: Wanted) -> Mapping[str, bytes]:
        changes = Changes.of(wanted)
        return {
            reference: picture
            for document in reversed(self._read.values())
            for reference, picture in document.pictures(changes).items()
        }

    def beside(self, wanted: Wanted) -> Mapping[str, bytes]:
        """All of them lie in it."""
        return {}

    def stands_in_pictures(self) -> Iterator[TextRun]:
        for document in self._read.values():
            yield from document.stands_in_pictures()

    def picture_selector(self, reference: str) -> str:
        return next(filter(None, (one.picture_selector(reference) for one in self._read.values())), "")

    def preview(self, wanted: Wanted, page: int | None = None, look: Look = PLAIN) -> Preview:
        return self.embedded()[page or 0].preview(wanted)


def _selector(path: str) -> str:
    """How an animation of a package names its sites."""
    return f"/{PurePosixPath(path).stem}"
