"""What can be wrong with what a user hands in; every message is one they can act on."""

from __future__ import annotations


class PaveseError(Exception):
    """Base of all errors that are the input's fault, not the program's."""


class UnreadableColorError(PaveseError):
    """A text that was said to be a color is none."""


class UnreadableCssError(PaveseError):
    """A style that is beyond the bounds within which styles are read; the message says which bound."""


class UnreadableTokensError(PaveseError):
    """Design tokens that are nested too deeply, or too many."""


class InvalidKitError(PaveseError):
    """A kit, or a change of one, that contradicts itself."""


class InvalidPlanError(PaveseError):
    """A plan that names a paint, a token or a version that does not exist."""


class RefusedFileError(PaveseError):
    """A file that cannot be taken; `name` says which, `reason` says what is wrong and where.

    Raised before anything is stored, and within the bounds of `pavese.core.limits`.
    """

    def __init__(self, name: str, reason: str) -> None:
        super().__init__(f"{name}: {reason}")
        self.name = name
        self.reason = reason

    def __reduce__(self) -> tuple[type[RefusedFileError], tuple[str, str]]:
        """It is raised in child processes too."""
        return RefusedFileError, (self.name, self.reason)
