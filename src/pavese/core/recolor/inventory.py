"""What a file, or a whole set of files, is painted with."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from enum import StrEnum

from pavese.core.color.srgb import Rgb, Rgba


class Kind(StrEnum):
    """What a paint does at a site."""

    FILL = "fill"
    STROKE = "stroke"
    STOP = "stop"
    TEXT = "text"
    GROUND = "ground"
    SHADOW = "shadow"
    EFFECT = "effect"


@dataclass(frozen=True)
class Inventory:
    """The paints of one file with their number of sites by kind, and remarks on what cannot be recolored."""

    sites: Mapping[Rgba, Mapping[Kind, int]]
    remarks: tuple[str, ...] = ()

    @property
    def paints(self) -> tuple[Rgba, ...]:
        """The paints in the order in which the file first names them."""
        return tuple(self.sites)

    def after(self, recoloring: Mapping[Rgba, Rgb]) -> Inventory:
        """The inventory that the recolored file will have."""
        counted: dict[Rgba, Counter[Kind]] = {}
        for paint, sites in self.sites.items():
            counted.setdefault(recolored(paint, recoloring), Counter()).update(sites)
        return Inventory(counted, self.remarks)

    @classmethod
    def count(cls, sites: Iterable[tuple[Rgba, Kind]], remarks: Iterable[str] = ()) -> Inventory:
        """Counts single sites."""
        counted: dict[Rgba, Counter[Kind]] = {}
        for paint, kind in sites:
            counted.setdefault(paint, Counter())[kind] += 1
        return cls(counted, tuple(dict.fromkeys(remarks)))


def recolored(paint: Rgba, recoloring: Mapping[Rgba, Rgb]) -> Rgba:
    """What a paint becomes: the new color with the alpha it had."""
    color = recoloring.get(paint)
    return paint if color is None else Rgba(*color, paint.alpha)


@dataclass(frozen=True)
class PaintUse:
    """How much of a set one paint is: in how many files, at how many sites, of which kinds."""

    paint: Rgba
    files: int
    sites: int
    kinds: tuple[Kind, ...]


def summarize(inventories: Iterable[Inventory]) -> tuple[PaintUse, ...]:
    """The paints of a set, each once: in most files first, then at most sites, then by code."""
    files: Counter[Rgba] = Counter()
    kinds: dict[Rgba, Counter[Kind]] = {}
    for inventory in inventories:
        files.update(inventory.sites.keys())
        for paint, counts in inventory.sites.items():
            kinds.setdefault(paint, Counter()).update(counts)
    uses = (
        PaintUse(paint, files[paint], counts.total(), tuple(kind for kind in Kind if counts[kind]))
        for paint, counts in kinds.items()
    )
    return tuple(sorted(uses, key=lambda use: (-use.files, -use.sites, use.paint)))
