"""What is handed over beside files: the pictures that they show, as they came or as they were changed with them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping

from pavese.core.formats.references import is_remote

#: What tells of pictures that lie elsewhere, or are wanted in two ways.
TOLD = "pictures.txt"


class Beside:
    """Gathers, file by file, what becomes of the pictures and sheets beside them."""

    def __init__(self) -> None:
        self._made: dict[str, tuple[str, bytes]] = {}
        self._upload: dict[str, str] = {}
        self._twice: list[str] = []

    def add(self, file: str, paths: Mapping[str, str], changed: Mapping[str, bytes]) -> None:
        """The pictures of a file that become others (by reference), and the paths of all that came with it."""
        for reference, data in changed.items():
            path = paths.get(reference)
            if path is None:
                continue
            first, made = self._made.setdefault(path, (file, data))
            if made != data:
                self._twice.append(f"{path} is as {first} has it; {file} has it in another way.")
            if is_remote(reference):
                self._upload[reference] = path

    def files(self, came: Iterable[tuple[str, bytes]], taken: set[str]) -> Iterator[tuple[str, bytes]]:
        """Path and content of each, but for paths that are `taken`: those that came with the files, changed where they
        are, those from elsewhere that were changed, and what there is to say of them."""
        given = set(taken)
        for path, data in came:
            if path not in given:
                given.add(path)
                yield path, self._made[path][1] if path in self._made else data
        for path, (_, data) in self._made.items():
            if path not in given:
                yield path, data
        if told := self.told:
            yield TOLD, told.encode()

    @property
    def told(self) -> str:
        """What to do with pictures that lie on the web, and which were wanted in two ways; "" for nothing."""
        parts = ["\n".join(self._twice)] if self._twice else []
        if self._upload:
            listed = [f"{path}\n  {address}" for address, path in self._upload.items()]
            parts.append("\n".join(["To be uploaded in the place of what lies at these addresses:", *listed]))
        return "\n\n".join(parts) + "\n" if parts else ""
