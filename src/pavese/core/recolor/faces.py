"""The typefaces of the kit in the files that name some."""

from __future__ import annotations

from typing import ClassVar

from pavese.core.recolor.act import Act


class KitTypefaces(Act):
    """The typefaces of the kit go to the two places that the theme of a deck has for them; what points there follows.
    Which they are is told by the kit, so that it is followed."""

    key: ClassVar[str] = "typefaces"
    title: ClassVar[str] = "Typefaces"
    words: ClassVar[str] = "the kit's headline and text face in the theme of decks; texts that name another keep it"
