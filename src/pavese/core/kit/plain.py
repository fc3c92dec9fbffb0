"""Names and notes as people give them, in any script, and their bounds."""

from __future__ import annotations

import unicodedata
from typing import Annotated

from pydantic import AfterValidator, Field

LONGEST_NAME = 80
LONGEST_NOTE = 2_000


def plain_name(name: str) -> str:
    """A name with its white space folded and control characters gone. Raises ValueError when nothing is left."""
    visible = "".join(" " if unicodedata.category(c) in ("Cc", "Zl", "Zp") else c for c in name)
    folded = " ".join(unicodedata.normalize("NFC", visible).split())
    if not folded:
        raise ValueError("a name needs at least one visible character")
    return folded


def shortened(name: str, longest: int = LONGEST_NAME) -> str:
    """A name from elsewhere within the bound; one that had to be cut shows it.

    >>> shortened("Evening light over the harbor", 14)
    'Evening light…'
    """
    return name if len(name) <= longest else f"{name[: longest - 1].rstrip()}…"


#: A name of one visible character or more.
PlainName = Annotated[str, Field(min_length=1, max_length=LONGEST_NAME), AfterValidator(plain_name)]
PlainNote = Annotated[str, Field(max_length=LONGEST_NOTE)]
