"""Everything that becomes of one file: its paints, and what more it is given."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import NamedTuple

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.kit.logo_on_grounds import KitLogo
from pavese.core.recolor.act import Act
from pavese.core.recolor.recoloring import Recoloring


@dataclass(frozen=True)
class Links:
    """What colors are called where a file is to follow them: by the token that was chosen, and by the color where none
    was."""

    by_token: Mapping[str, str]
    by_color: Mapping[Rgb, str]

    def name(self, color: Rgb, token: str | None) -> str | None:
        """The name for a color; None for one that has none."""
        return self.by_token.get(token) or self.by_color.get(color) if token else self.by_color.get(color)


class Faces(NamedTuple):
    """Typefaces by name, of headlines and of texts; "" for one that stays."""

    headline: str
    text: str


@dataclass(frozen=True)
class Changes:
    """`resolved` says what the targets of the acts stand for; with `links`, a format that can names colors instead of
    stating them alone; `faces` are the typefaces that files name from then on, where they are to, and `logo` is what
    acts put into them."""

    recoloring: Recoloring = field(default_factory=Recoloring)
    acts: tuple[Act, ...] = ()
    resolved: Mapping[str, Rgb] = field(default_factory=dict)
    links: Links | None = None
    faces: Faces | None = None
    logo: KitLogo | None = None

    @classmethod
    def of(cls, given: Wanted) -> Changes:
        """Colors alone as changes."""
        return given if isinstance(given, Changes) else cls(Recoloring.of(given))

    @property
    def ground(self) -> Rgb | None:
        """What the drawing stands on after its acts, where they lay something behind it."""
        return next((self.resolved[act.ground] for act in reversed(self.acts) if act.ground is not None), None)

    @property
    def darkens(self) -> bool:
        """Whether what everything looks like in the dark is said anew."""
        return any(act.darkens for act in self.acts)

    @cached_property
    def parts(self) -> tuple[str, ...]:
        """Everything in it that shows, as texts, for telling some from others."""
        colors = [_change(paint, color) for paint, color in self.recoloring.colors.items()]
        split = [
            f"{paint.key}@{part}>{color.hex if color else ''}" for (paint, part), color in self.recoloring.parts.items()
        ]
        ruled = [f"{part}:{kind}>{color.hex if color else ''}" for (part, kind), color in self.recoloring.rules.items()]
        acts = [
            f"{act.key}{act.model_dump_json()}{[self.resolved[one] for one in act.targets]}"
            for act in self.acts
            if act.shows
        ]
        faces = [repr(self.faces)] if self.faces is not None else []
        logo = [repr(self.logo)] if self.logo is not None else []
        return (*sorted(colors), *sorted(split), *sorted(ruled), *sorted(self.recoloring.kept), *acts, *faces, *logo)


#: What is to become of a file: colors by paint, by parts of paints too, or everything.
Wanted = Mapping[Rgba, Rgb] | Recoloring | Changes


@lru_cache(maxsize=8192)
def _change(paint: Rgba, color: Rgb) -> str:
    return f"{paint.key}>{color.hex}"
