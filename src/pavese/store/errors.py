"""What can go wrong with what is kept."""

from __future__ import annotations

from typing import Any, NamedTuple


class StoreError(Exception):
    """Base of the errors below; each message is one a user can act on."""


class NotFoundError(StoreError):
    """What was asked for does not exist, or no longer."""


class GoneError(StoreError):
    """A link that has ended or was revoked."""


class NothingToUndoError(StoreError):
    """Undo at the first, or redo at the last revision."""


class Clash(NamedTuple):
    """A place that two people changed: its name in words, and what each of them put there (None: nothing)."""

    place: str
    theirs: Any
    mine: Any


class ConflictError(StoreError):
    """Someone else changed the same places since the state a change was made on."""

    def __init__(self, message: str, clashes: tuple[Clash, ...]) -> None:
        super().__init__(message)
        self.clashes = clashes


def still_named(now: str, was: str | None, wanted: str) -> None:
    """Raises StoreError where something is named otherwise by now than whoever renames it saw (None: they do not
    say)."""
    if was is not None and now not in (was, wanted):
        raise StoreError(
            f"It was renamed to “{now}” meanwhile, so “{wanted}” is not saved. Say it again if you mean it."
        )
