"""Colors typed into a deck rather than linked to its theme."""

from __future__ import annotations

from typing import ClassVar

from pavese.core.recolor.act import Act


class TypedCodes(Act):
    """Every color that changes is written as its code, also where a place of the theme holds it. Without it such a
    color points to that place, and follows it when the theme changes."""

    key: ClassVar[str] = "typed-codes"
    title: ClassVar[str] = "Typed codes"
    words: ClassVar[str] = "write codes also where a color could follow the theme of its deck"
    shows: ClassVar[bool] = False
