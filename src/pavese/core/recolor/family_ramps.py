"""The ramp of the kit for each family: an assignment of least cost, by one of two policies.

A policy is a table of costs, shape (families, ramps), in degrees of hue; `scipy.optimize.linear_sum_assignment` finds
the assignment. Where there are more families than ramps, ramps are shared, each further family at a price.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence

import numpy as np
from scipy.optimize import linear_sum_assignment

from pavese.core.color.oklab import Array, oklch_of
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.role import Role
from pavese.core.recolor.families import PaintFamily
from pavese.core.recolor.recipe import Policy, Recipe

#: Roles of quiet ramps, which neutrals go to.
QUIET = frozenset((Role.NEUTRAL, Role.BACKGROUND, Role.TEXT_DARK, Role.TEXT_LIGHT))

#: What a family pays, in degrees of hue, for each family already on a ramp: less than it takes to turn skin green.
_SHARED_RAMP = 30.0
#: Degrees that a difference of 0.1 in chroma counts for: a muted family rather goes to a muted ramp.
_CHARACTER = 12.0
#: Branded: degrees for each place that a family's share and a role's share lie apart.
_PLACE = 40.0
#: Branded: hue still decides between ramps of like share, at this part of its degrees.
_HUE_PART = 0.25
_FORBIDDEN = 1000.0

#: Roles from the largest share of a brand's colored area to the smallest, for the branded policy.
_SHARES = (Role.PRIMARY, Role.SECONDARY, Role.ACCENT, Role.ACTION)


def family_ramps(
    families: Sequence[PaintFamily], kit: Kit, recipe: Recipe, forbidden: Collection[tuple[int, str]] = ()
) -> list[KitColor]:
    """The color of the kit for each family; `forbidden` are pairs of a family's place and a color's key."""
    vivid = _vivid(kit, recipe)
    colored = [at for at, family in enumerate(families) if family.hue is not None]
    found = [main_neutral(kit)] * len(families)
    if colored:
        hues = [families[at] for at in colored]
        table = POLICIES[recipe.policy](hues, vivid)
        for at, key in forbidden:
            for column, color in enumerate(vivid):
                if color.key == key and at in colored:
                    table[colored.index(at), column] += _FORBIDDEN
        table = np.hstack([table + _SHARED_RAMP * n for n in range(len(colored))])
        # What is seen most has the first choice.
        table *= np.array([max(family.weight, 1e-6) for family in hues])[:, None]
        for row, column in zip(*linear_sum_assignment(table), strict=True):
            found[colored[int(row)]] = vivid[int(column) % len(vivid)]
    return found


def main_neutral(kit: Kit) -> KitColor:
    """The ramp that carries neutrals: a neutral if there is one, else the least colorful quiet ramp, else any."""
    quiet = [color for color in kit.colors if color.role in QUIET] or list(kit.colors)
    chroma = oklch_of([color.base for color in quiet])[:, 1]
    best = min(range(len(quiet)), key=lambda at: (quiet[at].role is not Role.NEUTRAL, float(chroma[at]), at))
    return quiet[best]


def main_color(kit: Kit) -> KitColor:
    """The ramp that stands for the kit where one has to: its primary, else its first that is not quiet."""
    by_role = [color for color in kit.colors if color.role is Role.PRIMARY]
    loud = [color for color in kit.colors if color.role not in QUIET]
    return (by_role or loud or list(kit.colors))[0]


def _vivid(kit: Kit, recipe: Recipe) -> list[KitColor]:
    vivid = [color for color in kit.colors if color.role not in QUIET] or list(kit.colors)
    if recipe.policy is Policy.BRANDED and not recipe.action:
        return [color for color in vivid if color.role is not Role.ACTION] or vivid
    return vivid


def _faithful(families: Sequence[PaintFamily], ramps: Sequence[KitColor]) -> Array:
    bases = oklch_of([color.base for color in ramps])
    hues = np.array([family.hue or 0.0 for family in families])
    turn = np.abs((hues[:, None] - bases[:, 2] + 180) % 360 - 180)
    character = np.abs(np.array([family.chroma for family in families])[:, None] - bases[:, 1])
    return np.asarray(turn + _CHARACTER * 10 * character)


def _branded(families: Sequence[PaintFamily], ramps: Sequence[KitColor]) -> Array:
    order = sorted(range(len(families)), key=lambda at: (-families[at].weight, at))
    place = {at: rank for rank, at in enumerate(order)}
    wanted = sorted(range(len(ramps)), key=lambda at: (_share(ramps[at]), at))
    standing = {at: rank for rank, at in enumerate(wanted)}
    apart = np.array([[abs(place[row] - standing[column]) for column in range(len(ramps))] for row in place])
    rows = list(place)
    table = np.zeros((len(families), len(ramps)))
    table[rows] = _PLACE * apart
    return np.asarray(table + _HUE_PART * _faithful(families, ramps))


def _share(color: KitColor) -> int:
    return _SHARES.index(color.role) if color.role in _SHARES else len(_SHARES)


#: The cost of each family on each ramp, by policy.
POLICIES: dict[Policy, Callable[[Sequence[PaintFamily], Sequence[KitColor]], Array]] = {
    Policy.FAITHFUL: _faithful,
    Policy.BRANDED: _branded,
}
