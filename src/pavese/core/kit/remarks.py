"""What is worth a second look in a kit: colors hard to tell apart, roles that are missing or crowded."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from itertools import combinations

from pavese.core.color.difference import SAME, differences
from pavese.core.color.oklab import Array
from pavese.core.kit.kit import Kit
from pavese.core.kit.role import Role

#: Below this two colors of a kit are taken for one another when they are not side by side (CIEDE2000).
CONFUSABLE = 6.0
#: How far the action color stands from every other color to be found at once.
STANDS_OUT = 20.0
MOST_COLORFUL = 7
_QUIET = frozenset((Role.NEUTRAL, Role.BACKGROUND, Role.TEXT_DARK, Role.TEXT_LIGHT))
#: Roles that one color fills; accents and neutrals may be several.
_SINGLE = (Role.PRIMARY, Role.SECONDARY, Role.ACTION, Role.BACKGROUND, Role.TEXT_DARK, Role.TEXT_LIGHT)


@dataclass(frozen=True)
class Remark:
    """A sentence, and the keys of the colors it is about (none: about the kit as a whole)."""

    text: str
    colors: tuple[str, ...] = ()


def remarks(kit: Kit) -> tuple[Remark, ...]:
    """All remarks on a kit that has colors, most pressing first."""
    if not kit.colors:
        return ()
    table = differences([color.base for color in kit.colors], [color.base for color in kit.colors])
    found = [*_confusable(kit, table), *_action(kit, table), *_roles(kit)]
    quiet = sum(color.role in _QUIET for color in kit.colors)
    if quiet < 2:
        have = "no neutral color" if not quiet else "one neutral color only"
        found.append(Remark(f"There is {have}; text needs a dark and a light one to be readable."))
    if len(kit.colors) - quiet > MOST_COLORFUL:
        found.append(
            Remark(f"There are {len(kit.colors) - quiet} colors besides neutrals; more than seven blur a brand.")
        )
    return tuple(found)


def _confusable(kit: Kit, table: Array) -> list[Remark]:
    found = []
    for (i, a), (j, b) in combinations(enumerate(kit.colors), 2):
        difference = float(table[i, j])
        if difference < CONFUSABLE:
            words = (
                "are the same color" if difference < SAME else f"are hard to tell apart (difference {difference:.1f})"
            )
            found.append((difference, Remark(f"{a.name} and {b.name} {words}.", (a.key, b.key))))
    return [remark for _, remark in sorted(found, key=lambda pair: pair[0])]


def _action(kit: Kit, table: Array) -> list[Remark]:
    actions = [(i, color) for i, color in enumerate(kit.colors) if color.role is Role.ACTION]
    if not actions:
        return [Remark("There is no action color: nothing says “press here”.")]
    found = []
    for i, action in actions:
        others = [(float(table[i, j]), color) for j, color in enumerate(kit.colors) if j != i]
        if others:
            nearest, other = min(others, key=lambda pair: pair[0])
            if nearest < STANDS_OUT:
                text = f"{action.name}, the action color, is only {nearest:.1f} from {other.name}; 20 is found at once."
                found.append(Remark(text, (action.key, other.key)))
    return found


def _roles(kit: Kit) -> list[Remark]:
    counts = Counter(color.role for color in kit.colors)
    return [
        Remark(f"{_list(kit, role)} are all {role.value}.", tuple(c.key for c in kit.colors if c.role is role))
        for role in _SINGLE
        if counts[role] > 1
    ]


def _list(kit: Kit, role: Role) -> str:
    names: list[str] = [color.name for color in kit.colors if color.role is role]
    return f"{', '.join(names[:-1])} and {names[-1]}"
