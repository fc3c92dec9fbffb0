"""A name unlike those that are taken, letter case aside: the wanted one, or the first numbered one that is free."""

from __future__ import annotations

from collections.abc import Callable, Container, Iterable


def unique_name(wanted: str, taken: Container[str], numbered: Callable[[int], str] | None = None) -> str:
    """`wanted`, or `numbered(2)`, `numbered(3)` … until one is free; `taken` holds names case-folded.

    Without `numbered`, the number stands behind the name.

    >>> unique_name("Sea", {"sea", "sea 2"})
    'Sea 3'
    """
    return _numbered(wanted, taken, numbered or (lambda number: f"{wanted} {number}"), 2)[0]


class UniqueNames:
    """Names that are given one after another, each unlike all before it and those `taken` at first.

    >>> names = UniqueNames(["sea"])
    >>> [names.take("Sea"), names.take("Foam"), names.take("sea")]
    ['Sea 2', 'Foam', 'sea 3']
    """

    def __init__(self, taken: Iterable[str] = ()) -> None:
        self._taken = {name.casefold() for name in taken}
        # Names are never given back, so what was not free for a name is not tried for it again.
        self._next: dict[str, int] = {}

    def take(self, wanted: str) -> str:
        """The wanted name, or that with the first number that is free."""
        folded = wanted.casefold()
        number = self._next.get(folded, 2)
        name, self._next[folded] = _numbered(wanted, self._taken, lambda number: f"{wanted} {number}", number)
        self.keep(name)
        return name

    def keep(self, name: str) -> None:
        """Takes a name as it is, also where it is taken already."""
        self._taken.add(name.casefold())


def _numbered(wanted: str, taken: Container[str], numbered: Callable[[int], str], number: int) -> tuple[str, int]:
    """The first that is free, and the number that comes next."""
    name = wanted
    while name.casefold() in taken:
        name, number = numbered(number), number + 1
    return name, number
