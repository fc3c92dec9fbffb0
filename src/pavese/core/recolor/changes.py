"""Everything that becomes of one file: its paints, and what is laid behind it."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property, lru_cache

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.backing import FileBacking
from pavese.core.recolor.recoloring import Recoloring


@dataclass(frozen=True)
class Changes:
    """`backing_color` is what the backing's token stands for; both are there or neither. `declared` files are given the
    namespace they lack."""

    recoloring: Recoloring = field(default_factory=Recoloring)
    backing: FileBacking | None = None
    backing_color: Rgb | None = None
    declared: bool = False

    @cached_property
    def parts(self) -> tuple[str, ...]:
        """Everything in it as texts, for telling some from others."""
        colors = [_change(paint, color) for paint, color in self.recoloring.colors.items()]
        split = [
            f"{paint.key}@{part}>{color.hex if color else ''}" for (paint, part), color in self.recoloring.parts.items()
        ]
        behind = [f"{self.backing.model_dump_json()}{self.backing_color}"] if self.backing else []
        return (*sorted(colors), *sorted(split), *sorted(self.recoloring.kept), *behind)


@lru_cache(maxsize=8192)
def _change(paint: Rgba, color: Rgb) -> str:
    return f"{paint.key}>{color.hex}"
