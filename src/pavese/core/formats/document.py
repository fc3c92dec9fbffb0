"""What every format gives: a document that lists its paints and writes itself again with paints replaced."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Protocol

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.inventory import Inventory

#: Paint to new color; the alpha of the paint stays. Paints that are not in it are kept.
Recoloring = Mapping[Rgba, Rgb]


class Document(Protocol):
    """One file, read."""

    def inventory(self) -> Inventory:
        """Its paints with their sites."""

    def apply(self, recoloring: Recoloring) -> bytes:
        """The file with paints replaced and every other byte as it was; without any change, the very same bytes."""

    def for_engine(self, recoloring: Recoloring) -> bytes:
        """The recolored file in the plain notation that the drawing engine knows; only for making pictures."""
