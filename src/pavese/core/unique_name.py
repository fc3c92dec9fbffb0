"""A name unlike those that are taken, letter case aside: the wanted one, or the first numbered one that is free."""

from __future__ import annotations

from collections.abc import Callable, Container


def unique_name(wanted: str, taken: Container[str], numbered: Callable[[int], str] | None = None) -> str:
    """`wanted`, or `numbered(2)`, `numbered(3)` … until one is free; `taken` holds names case-folded.

    Without `numbered`, the number stands behind the name.

    >>> unique_name("Sea", {"sea", "sea 2"})
    'Sea 3'
    """
    name, number = wanted, 2
    while name.casefold() in taken:
        name, number = numbered(number) if numbered else f"{wanted} {number}", number + 1
    return name
