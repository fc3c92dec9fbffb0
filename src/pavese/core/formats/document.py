"""What every format gives: a document that lists its paints and writes itself again with paints replaced."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Protocol

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.recoloring import Recoloring

#: What becomes of the paints: by paint alone, or by parts of them too.
Colors = Mapping[Rgba, Rgb] | Recoloring


class Document(Protocol):
    """One file, read. `still` ones are drawings that can be laid on a backing; the others move."""

    still: bool

    def inventory(self) -> Inventory:
        """Its paints with their sites."""

    def apply(self, recoloring: Colors) -> bytes:
        """The file with paints replaced and every other byte as it was; without any change, the very same bytes."""

    @property
    def parts(self) -> tuple[str, ...]:
        """The names of the drawings or animations in it, where it holds several; else none."""

    def preview(self, recoloring: Colors, part: int | None = None) -> bytes:
        """The recolored file, or one of its parts, in the plain notation of the drawing engine; for pictures only."""
