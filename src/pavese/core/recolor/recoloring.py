"""What becomes of the paints of one file: by paint, by a part of its sites, with some elements left alone."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from pavese.core.color.srgb import Rgb, Rgba


@dataclass(frozen=True)
class Recoloring:
    """Paint to new color; the alpha of the paint stays, and paints that are not in it are kept.

    `parts` overrule for some sites of a paint, named by kind (`stroke`) or by selector (`#id`, `.class`); None keeps
    them. Elements with one of the selectors in `kept` keep every paint.
    """

    colors: Mapping[Rgba, Rgb] = field(default_factory=dict)
    parts: Mapping[tuple[Rgba, str], Rgb | None] = field(default_factory=dict)
    kept: frozenset[str] = frozenset()

    @classmethod
    def of(cls, given: Mapping[Rgba, Rgb] | Recoloring) -> Recoloring:
        """A plain mapping as a recoloring."""
        return given if isinstance(given, Recoloring) else cls(given)

    def get(self, paint: Rgba) -> Rgb | None:
        """The new color of a paint where nothing more is known of the site; None keeps it."""
        return self.colors.get(paint)

    def at(self, paint: Rgba, kind: str, selectors: Iterable[str] = ()) -> Rgb | None:
        """The new color of a paint at one site; selectors go before the kind, the first named before others."""
        if self.kept and not self.kept.isdisjoint(selectors):
            return None
        if self.parts:
            for part in (*selectors, kind):
                if (paint, part) in self.parts:
                    return self.parts[paint, part]
        return self.colors.get(paint)

    def splits(self, paint: Rgba) -> bool:
        """Whether sites of a paint may get different colors."""
        return bool(self.kept) or any(of == paint for of, _ in self.parts)

    def results(self, paint: Rgba) -> set[Rgba]:
        """Every paint that sites of this one may become."""
        found = {self.colors.get(paint), *(color for (of, _), color in self.parts.items() if of == paint)}
        if self.kept:
            found.add(None)
        return {paint if color is None else Rgba(*color, paint.alpha) for color in found}
