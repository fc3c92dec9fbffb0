"""What becomes of the paints of one file: by paint, by a part of its sites, with some elements left alone."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from pavese.core.color.srgb import Rgb, Rgba


@dataclass(frozen=True)
class Recoloring:
    """Paint to new color; the alpha of the paint stays, and paints that are not in it are kept.

    `parts` overrule for some sites of a paint, named by kind (`stroke`) or by selector (`#id`, `.class`); `rules` for
    all that does one thing where a selector holds, such as every text of a footer; None keeps them. Elements with one
    of the selectors in `kept` keep every paint. `tokens` are the tokens by which colors were chosen, for files that can
    say so, by what they were chosen for: a paint, a part of one, or a rule. What no paint tells, such as a photograph,
    becomes `rest`; None leaves it as it is.
    """

    colors: Mapping[Rgba, Rgb] = field(default_factory=dict)
    parts: Mapping[tuple[Rgba, str], Rgb | None] = field(default_factory=dict)
    kept: frozenset[str] = frozenset()
    tokens: Mapping[Rgba | tuple[Rgba | str, str], str] = field(default_factory=dict)
    rules: Mapping[tuple[str, str], Rgb | None] = field(default_factory=dict)
    rest: Rgb | None = None

    @classmethod
    def of(cls, given: Mapping[Rgba, Rgb] | Recoloring) -> Recoloring:
        """A plain mapping as a recoloring."""
        return given if isinstance(given, Recoloring) else cls(given)

    @property
    def is_empty(self) -> bool:
        """Whether nothing gets another color."""
        return not (self.colors or self.parts or self.rules) and self.rest is None

    def get(self, paint: Rgba) -> Rgb | None:
        """The new color of a paint where nothing more is known of the site; None keeps it."""
        return self.colors.get(paint)

    def at(self, paint: Rgba, kind: str, selectors: Iterable[str] = ()) -> Rgb | None:
        """The new color of a paint at one site. Selectors go before the kind, the first named before others; what is
        said of one paint goes before what is said of all."""
        decided = self._decided(paint, kind, selectors)
        if decided is None:
            return None
        if isinstance(decided, Rgba):
            return self.colors.get(decided)
        of, part = decided
        return self.parts[of, part] if isinstance(of, Rgba) else self.rules[of, part]

    def token_at(self, paint: Rgba, kind: str, selectors: Iterable[str] = ()) -> str | None:
        """The token by which that color was chosen; None for colors that are none."""
        decided = self._decided(paint, kind, selectors)
        return None if decided is None else self.tokens.get(decided)

    def _decided(self, paint: Rgba, kind: str, selectors: Iterable[str]) -> Rgba | tuple[Rgba | str, str] | None:
        """What decides at a site: a part of its paint, a rule, or the paint; None where the element is kept."""
        if self.kept and not self.kept.isdisjoint(selectors):
            return None
        if self.parts or self.rules:
            named = tuple(selectors)
            for part in named:
                if (paint, part) in self.parts:
                    return paint, part
            for part in named:
                if (part, kind) in self.rules:
                    return part, kind
            if (paint, kind) in self.parts:
                return paint, kind
        return paint

    def parted(self, paint: Rgba, kind: str, selectors: Iterable[str]) -> bool:
        """Whether one of its selectors decides at a site, and not its paint or what it does there."""
        decided = self._decided(paint, kind, selectors)
        return decided is None or (not isinstance(decided, Rgba) and decided != (paint, kind))

    def splits(self, paint: Rgba) -> bool:
        """Whether sites of a paint may get different colors."""
        return bool(self.kept or self.rules) or any(of == paint for of, _ in self.parts)

    def results(self, paint: Rgba) -> set[Rgba]:
        """Every paint that sites of this one may become."""
        parts = (color for (of, _), color in self.parts.items() if of == paint)
        found = {self.colors.get(paint), *parts, *self.rules.values()}
        if self.kept:
            found.add(None)
        return {paint if color is None else Rgba(*color, paint.alpha) for color in found}
