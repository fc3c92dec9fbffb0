"""Candidates: colors found in any source, each with a name, a first role, and whether the kit has it already."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from pavese.core.color.contrast import luminance
from pavese.core.color.difference import NEAR, SAME
from pavese.core.color.naming import describe
from pavese.core.color.srgb import Rgb
from pavese.core.gather.source import Source
from pavese.core.gather.web_page import USE_ROLES, PageReading, PageUse
from pavese.core.kit.codes import FoundCode
from pavese.core.kit.kit import Kit
from pavese.core.kit.logo import Logo
from pavese.core.kit.ours import nearest
from pavese.core.kit.role import Role
from pavese.core.kit.roles import propose_roles
from pavese.core.unique_name import UniqueNames

#: Percent of a logo that a color of it covers at least; what lies beside its edges in a JPEG is less.
_LEAST_OF_LOGO = 1.0


#: Share of a page below which a background is hidden or as good as that: it would be told as 0.0 %.
_LEAST_OF_PAGE = 0.0005


@dataclass(frozen=True)
class Spotted:
    """A color as it was found: the name that stood there (None: none), where, what stood around it, and, if the place
    says it, its role; not `certain` where it may be no color at all. `pin` is its number on a picture, `alpha` what it
    had there."""

    color: Rgb
    name: str | None
    where: str
    context: str = ""
    certain: bool = True
    role: Role | None = None
    pin: int | None = None
    alpha: float = 1.0


@dataclass(frozen=True)
class Candidate:
    """A color that can come into a kit. `known_as` is the kit color that is the same or near, `difference` how far
    (CIEDE2000) it is; both None where the kit has none near."""

    spotted: Spotted
    name: str
    role: Role
    known_as: str | None
    difference: float | None

    @property
    def same(self) -> bool:
        """Whether the kit has this very color."""
        return self.difference is not None and self.difference < SAME


def candidates(spotted: Sequence[Spotted], kit: Kit | None) -> list[Candidate]:
    """A candidate for each; names are unlike each other and unlike those of the kit."""
    near = nearest([one.color for one in spotted], kit) if kit and spotted else [None] * len(spotted)
    have = [color.role for color in kit.colors] if kit else []
    said = [one.role for one in spotted if one.role is not None]
    roles = propose_roles([(one.color, one.name) for one in spotted], [*have, *said])
    names = UniqueNames(color.name for color in kit.colors) if kit else UniqueNames()
    made = []
    for one, role, known in zip(spotted, roles, near, strict=True):
        stem = one.name or describe(one.color).capitalize()
        close = known is not None and known[2] < NEAR
        # A color that the kit has keeps the name it is found under: it is not going to be added.
        name = stem if close else names.take(stem)
        names.keep(name)
        made.append(
            Candidate(
                one,
                name,
                one.role or role,
                kit.label(known[0]) if close and known and kit else None,
                known[2] if close and known else None,
            )
        )
    return made


def from_codes(found: Iterable[FoundCode]) -> list[Spotted]:
    """Codes found in a text or a file."""
    return [
        Spotted(
            code.color,
            code.name if code.named else None,
            f"{code.line}:{code.column}" + (f", {code.places} times" if code.places > 1 else ""),
            code.context,
            code.certain,
            alpha=code.alpha,
        )
        for code in found
    ]


def from_source(source: Source) -> list[Spotted]:
    """The colors of a page by their use, and the pins of a picture or a board; each color once."""
    found = _from_page(source.page) if source.page else []
    seen = {one.color for one in found}
    numbers: dict[Rgb, list[int]] = {}
    for number, pin in enumerate(source.pins, 1):
        numbers.setdefault(pin.color, []).append(number)
    for number, pin in enumerate(source.pins, 1):
        if pin.color in seen:
            continue
        seen.add(pin.color)
        same = numbers[pin.color]
        where = f"pin {number}" if len(same) == 1 else f"pins {', '.join(map(str, same))}, of one color"
        share = f"{pin.share * 100:.1f} % of the picture" if pin.share is not None else "set by hand"
        found.append(Spotted(pin.color, None, where, share, pin=number))
    return found


def from_logo(logo: Logo) -> list[Spotted]:
    """The colors of a logo, those that cover most first; each color once."""
    shares: dict[Rgb, float] = {}
    for picture in filter(None, (logo.on_light, logo.on_dark)):
        for one in picture.colors:
            shares[one.color] = max(shares.get(one.color, 0.0), one.share)
    return [
        Spotted(color, None, "logo", f"{share:.1f} % of the logo")
        for color, share in sorted(shares.items(), key=lambda item: -item[1])
        if share >= _LEAST_OF_LOGO
    ]


def _from_page(page: PageReading) -> list[Spotted]:
    """What of a page can be seen, each color once; of what its buttons are, the one that covers most is the action."""
    uses: dict[Rgb, list[str]] = {}
    first: dict[Rgb, tuple[PageUse, str]] = {}
    seen = [used for used in page.colors if used.share is None or used.share >= _LEAST_OF_PAGE]
    buttons = [used for used in seen if used.use is PageUse.BUTTON]
    action = max(buttons, key=lambda used: (used.share or 0.0, used.places)).color if buttons else None
    for used in seen:
        words = f"{used.use}, {used.places} {'place' if used.places == 1 else 'places'}"
        if used.share is not None:
            words += f", {used.share * 100:.1f} % of the page"
        uses.setdefault(used.color, []).append(words)
        first.setdefault(used.color, (used.use, used.example))
    return [
        Spotted(
            color,
            None,
            "; ".join(words),
            f"“{first[color][1]}”" if first[color][1] else "",
            role=Role.ACTION if color == action else _role(first[color][0], color),
        )
        for color, words in uses.items()
    ]


def _role(use: PageUse, color: Rgb) -> Role | None:
    """What a use says; body text that is itself light stands on dark."""
    role = USE_ROLES.get(use) if use is not PageUse.BUTTON else Role.ACCENT
    return Role.TEXT_LIGHT if role is Role.TEXT_DARK and luminance(color) > 0.5 else role
