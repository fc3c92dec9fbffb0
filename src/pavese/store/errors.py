"""What can go wrong with what is kept."""


class StoreError(Exception):
    """Base of the errors below; each message is one a user can act on."""


class NotFoundError(StoreError):
    """What was asked for does not exist, or no longer."""


class NothingToUndoError(StoreError):
    """Undo at the first, or redo at the last revision."""
