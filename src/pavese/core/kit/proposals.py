"""Proposals: complete kits that keep some colors and fill what is missing, each with figures that say why it is good.

A proposal is made from its seed alone: the same kit, wish and seed give the same colors, so that a proposal can be
found again. `7` is a proposal, `7.2` the second one like it, `7.2.5` the fifth one like that.
"""

from __future__ import annotations

import random
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import permutations

import numpy as np

from pavese.core.color.contrast import LARGE, TEXT, WHITE, contrast_ratio
from pavese.core.color.difference import differences
from pavese.core.color.families import COLORFUL, RANGES, HueFamily, families_of
from pavese.core.color.gamut import max_chroma, to_rgb
from pavese.core.color.oklab import Array, lch_of, oklch_of
from pavese.core.color.schemes import RULES, Point, Wheel, points
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError
from pavese.core.kit.changes import Arrival
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.names import PLAIN, suggest
from pavese.core.kit.relations import relation
from pavese.core.kit.remarks import STANDS_OUT
from pavese.core.kit.role import Role

#: Most colors asked for at once.
MOST_GAPS = 12
#: New colors keep at least this far from the others (CIEDE2000), so that none is taken for another.
_APART = 11.0
_TRIES = 24
_SEED = re.compile(r"\d{1,9}(\.\d{1,4}){0,8}")

#: OKLCH lightness, least and most, and the most chroma of the quiet roles.
_QUIET: dict[Role, tuple[float, float, float]] = {
    Role.BACKGROUND: (0.95, 0.99, 0.016),
    Role.TEXT_LIGHT: (0.95, 0.99, 0.016),
    Role.TEXT_DARK: (0.17, 0.29, 0.04),
    Role.NEUTRAL: (0.42, 0.76, 0.034),
}
#: Quiet colors first, since the others have to be told from them; the action color last, since it has to stand out.
_ORDER = (
    Role.BACKGROUND,
    Role.TEXT_DARK,
    Role.TEXT_LIGHT,
    Role.NEUTRAL,
    Role.PRIMARY,
    Role.SECONDARY,
    Role.ACCENT,
    Role.ACTION,
)
_FAMILIES = (HueFamily.JEWEL, HueFamily.JEWEL, HueFamily.EARTH, HueFamily.PASTEL, HueFamily.FLUORESCENT)
_RULES = tuple(name for name in RULES if name != "monochrome")


@dataclass(frozen=True)
class Figures:
    """Why a proposal is good, in numbers.

    Ordered pairs that read as text and did not exist before; the least CIEDE2000 of the action color from any other
    (None: no action color); standard deviation of OKLCH lightness in percent; percent of the colorful colors in the
    family most of them share; the nearest scheme and the degrees by which the hues miss it.
    """

    readable_gained: int
    action_distance: float | None
    lightness_spread: float
    family: HueFamily | None
    family_fit: float
    relation: str
    miss: float


@dataclass(frozen=True)
class Proposal:
    """New colors beside those that were kept."""

    seed: str
    new: tuple[Arrival, ...]
    figures: Figures


def propose(kit: Kit, kept: Sequence[str], roles: Sequence[Role], seed: str, theme: str = PLAIN) -> Proposal:
    """One proposal: the colors with the keys `kept` stay, and one new color comes for each of `roles`.

    An action color reaches 3:1 against every background (white if there is none), carries text of the kit at 4.5:1,
    and stands 20 or more (CIEDE2000) from every other color. Raises InvalidKitError when no color can, when nothing
    is wished for, or for a seed that is none.
    """
    stay = [kit.color(key) for key in dict.fromkeys(kept)]
    if not roles:
        raise InvalidKitError("Say which colors are missing: by role, or just how many more.")
    if len(roles) > MOST_GAPS:
        raise InvalidKitError(f"At most {MOST_GAPS} colors are proposed at once.")
    _check(seed)
    made = _made(tuple(stay), tuple(roles), seed)
    names = suggest([color for color, _ in made], theme, [color.name for color in stay])
    new = tuple(Arrival(name, role, color) for (color, role), name in zip(made, names, strict=True))
    return Proposal(seed, new, _figures(stay, made))


def gallery(
    kit: Kit, kept: Sequence[str], roles: Sequence[Role], first: str = "1", count: int = 9, theme: str = PLAIN
) -> list[Proposal]:
    """`count` proposals unlike each other, from the seed `first` on: 7, 8, 9 …, or 7.2, 7.3 … for more like 7."""
    _check(first)
    found: list[Proposal] = []
    for seed in _following(first, count * 4):
        made = propose(kit, kept, roles, seed, theme)
        if all(_unlike(made, other) for other in found):
            found.append(made)
        if len(found) == count:
            return found
    known = {proposal.seed for proposal in found}
    rest = [propose(kit, kept, roles, seed, theme) for seed in _following(first, count * 4) if seed not in known]
    return found + rest[: count - len(found)]


def _check(seed: str) -> None:
    if not _SEED.fullmatch(seed):
        raise InvalidKitError(f"“{seed[:40]}” is no seed of a proposal; one reads 7 or 7.2.")


# Remembered, since all that are like a proposal are set out from it.
@lru_cache(maxsize=256)
def _made(stay: tuple[KitColor, ...], roles: tuple[Role, ...], seed: str) -> tuple[tuple[Rgb, Role], ...]:
    """The colors of a seed; those of `7.2` are set out from those of `7`."""
    parent = seed.rpartition(".")[0]
    draft = _Draft(stay, _Mood.of(seed, stay), _made(stay, roles, parent) if parent else ())
    for role in sorted(roles, key=_ORDER.index):
        draft.fill(role)
    return tuple(draft.new)


def next_seed(seed: str, by: int = 1) -> str:
    """The seed `by` places on: 7 gives 8, 7.2 gives 7.3; behind the last one comes 0."""
    head, dot, last = seed.rpartition(".")
    return f"{head}{dot}{(int(last) + by) % 10 ** (4 if dot else 9)}"


def _following(first: str, count: int) -> Iterator[str]:
    return (next_seed(first, n) for n in range(count))


def _unlike(a: Proposal, b: Proposal) -> bool:
    away = [differences([x.color], [y.color])[0, 0] for x, y in zip(a.new, b.new, strict=True)]
    return float(np.max(away)) >= 4.0


@dataclass(frozen=True)
class _Mood:
    """What a seed decides: the hue to start from, the scheme, the family, and where in its ranges colors lie."""

    hue: float
    rule: str
    spread: float
    wheel: Wheel
    family: HueFamily
    level: float
    strength: float
    chance: random.Random

    @classmethod
    def of(cls, seed: str, stay: Sequence[KitColor]) -> _Mood:
        draw = random.Random(f"proposal {seed.partition('.')[0]}")
        anchor, common = _anchor(stay)
        hue = draw.uniform(0, 360)
        rule = RULES[draw.choice(_RULES)]
        spread = rule.spread + draw.uniform(-8, 8) if rule.most else 0.0
        wheel = draw.choice(list(Wheel))
        family = draw.choice(_FAMILIES)
        if common is not None and draw.random() < 0.7:
            family = common
        level, strength = draw.random(), draw.random()
        hue = hue if anchor is None else anchor
        # Each further number keeps the mood; only the draws inside are its own.
        chance = random.Random(f"colors {seed}")
        return cls(hue % 360, rule.name, spread, wheel, family, level, strength, chance)

    def hues(self) -> list[float]:
        """The hues of the scheme, the base's last, since it is there already."""
        rule = RULES[self.rule]
        found = points(Point(0.6, 0.1, self.hue), rule, self.wheel, self.spread)
        return [point.hue for point in (*found[1:], found[0])]


class _Draft:
    """A proposal in the making."""

    def __init__(self, stay: Sequence[KitColor], mood: _Mood, like: Sequence[tuple[Rgb, Role]]) -> None:
        self._stay = stay
        self._like = like
        self._mood = mood
        self._hues = mood.hues()
        self.new: list[tuple[Rgb, Role]] = []

    def fill(self, role: Role) -> None:
        """Adds a color for a role."""
        near = self._alike(self._like[len(self.new)][0], role) if self._like else []
        if role is Role.ACTION:
            color = (self._presses(near) if near else None) or self._action()
        elif near:
            color = self._farthest(near, enough=6.0 if role in _QUIET else _APART)
        else:
            color = self._quiet(role) if role in _QUIET else self._colorful()
        self.new.append((color, role))

    def _alike(self, color: Rgb, role: Role) -> list[Rgb]:
        """Colors a little away from one, farther and farther."""
        chance = self._mood.chance
        lightness, chroma, hue = lch_of(color)
        low, high, most = _QUIET.get(role, (0.2, 0.96, 0.4))
        tried = []
        for n in range(_TRIES):
            reach = 1 + n / 12
            level = min(max(lightness + chance.gauss(0, 0.03 * reach), low), high)
            strength = min(chroma * (1 + chance.gauss(0, 0.12 * reach)), most)
            tried.append((level, max(strength, 0.0), (hue + chance.gauss(0, 7 * reach)) % 360))
        return to_rgb(np.array(tried))

    def _all(self, *roles: Role) -> list[Rgb]:
        have = [(color.base, color.role) for color in self._stay] + self.new
        return [color for color, role in have if not roles or role in roles]

    def _quiet(self, role: Role) -> Rgb:
        low, high, most = _QUIET[role]
        chance, mood = self._mood.chance, self._mood
        lch = np.array(
            [
                (chance.uniform(low, high), most * min(max(mood.strength + chance.gauss(0, 0.2), 0.05), 1), mood.hue)
                for _ in range(_TRIES)
            ]
        )
        return self._farthest(to_rgb(lch), enough=6.0)

    def _colorful(self) -> Rgb:
        chance, mood = self._mood.chance, self._mood
        used = [float(hue) for hue in oklch_of(self._all())[:, 2]] if self._all() else []
        # A hue of the scheme that no color has yet; when all are taken, any.
        free = [hue for hue in self._hues if all(abs((hue - u + 180) % 360 - 180) > 12 for u in used)]
        hues = [(free[0] if free else chance.uniform(0, 360)) + chance.gauss(0, 4) for _ in range(_TRIES // 2)]
        hues += [chance.choice(self._hues) + chance.gauss(0, 10) for _ in range(_TRIES // 4)]
        hues += [chance.uniform(0, 360) for _ in range(_TRIES // 4)]
        wanted = RANGES[mood.family]
        (dark, light), (weak, strong) = wanted.lightness, wanted.chroma
        level = np.array([dark + (light - dark) * min(max(mood.level + chance.gauss(0, 0.2), 0), 1) for _ in hues])
        angle = np.array(hues) % 360
        limit = max_chroma(level, angle)
        least = wanted.least(limit)
        chroma = least + (np.minimum(strong, limit) - least) * (0.35 + 0.6 * mood.strength)
        lch = np.stack([level, np.maximum(chroma, weak * 0.5), angle], axis=-1)
        return self._farthest(to_rgb(lch), enough=_APART)

    def _farthest(self, candidates: list[Rgb], enough: float) -> Rgb:
        """The first that is far enough from every color there is, and 20 from the action color; else the farthest."""
        others = self._all()
        if not others:
            return candidates[0]
        table = differences(candidates, others)
        needed = np.full(len(others), enough)
        actions = set(self._all(Role.ACTION))
        needed[[i for i, color in enumerate(others) if color in actions]] = STANDS_OUT
        margin = (table - needed[None, :]).min(axis=1)
        return candidates[int(np.argmax(margin >= 0)) if bool(np.any(margin >= 0)) else int(np.argmax(margin))]

    def _action(self) -> Rgb:
        chance = self._mood.chance
        # Strong colors first, at the scheme's hues and then around the whole circle; at the end every one there is.
        near = [hue + chance.gauss(0, 12) for hue in self._hues for _ in range(12)]
        around = [chance.uniform(0, 360) for _ in range(60)]
        for hues in (near, around):
            lightness = np.array([chance.uniform(0.45, 0.76) for _ in hues])
            share = np.array([chance.uniform(0.75, 1.0) for _ in hues])
            found = self._presses(_strong(lightness, np.array(hues) % 360, share))
            if found is not None:
                return found
        level, angle, share = (grid.ravel() for grid in np.meshgrid(*_EVERYWHERE, indexing="ij"))
        found = self._presses(_strong(level, angle, share), best=True)
        if found is None:
            raise InvalidKitError(
                "No action color is left that stands out from every color of the kit and can be read as a button; "
                "keep fewer colors, or change the background."
            )
        return found

    def _presses(self, candidates: list[Rgb], best: bool = False) -> Rgb | None:
        """A candidate that can be the action color: the first, or the one farthest from every other color."""
        others = self._all()
        grounds = self._all(Role.BACKGROUND) or [WHITE]
        inks = [*self._all(Role.TEXT_DARK, Role.TEXT_LIGHT, Role.BACKGROUND), WHITE]
        away = differences(candidates, others).min(axis=1) if others else np.full(len(candidates), 100.0)
        fit = [
            (float(distance), i)
            for i, (color, distance) in enumerate(zip(candidates, away.tolist(), strict=True))
            if distance >= STANDS_OUT
            and all(contrast_ratio(color, ground) >= LARGE for ground in grounds)
            and any(contrast_ratio(color, ink) >= TEXT for ink in inks)
        ]
        if not fit:
            return None
        return candidates[max(fit, key=lambda entry: (entry[0], -entry[1]))[1] if best else fit[0][1]]


_EVERYWHERE = (np.arange(0.2, 0.98, 0.04), np.arange(0.0, 360.0, 8.0), np.array([0.35, 0.6, 0.8, 1.0]))


def _strong(lightness: Array, hue: Array, share: Array) -> list[Rgb]:
    return to_rgb(np.stack([lightness, share * max_chroma(lightness, hue), hue], axis=-1))


def _anchor(stay: Sequence[KitColor]) -> tuple[float | None, HueFamily | None]:
    """The hue of the primary color (or of the strongest) and the family most kept colors are in."""
    if not stay:
        return None, None
    lch = oklch_of([color.base for color in stay])
    colorful = [i for i in range(len(stay)) if lch[i, 1] >= 0.03]
    if not colorful:
        return None, None
    first = min(colorful, key=lambda i: (stay[i].role is not Role.PRIMARY, -lch[i, 1]))
    families = [family for family in families_of([color.base for color in stay]) if family in COLORFUL]
    common = max(families, key=families.count, default=None)
    return float(lch[first, 2]), common


def _figures(stay: Sequence[KitColor], new: Sequence[tuple[Rgb, Role]]) -> Figures:
    before = [color.base for color in stay]
    after = before + [color for color, _ in new]
    roles = [color.role for color in stay] + [role for _, role in new]
    table = differences(after, after) + np.diag(np.full(len(after), np.inf))
    actions = [i for i, role in enumerate(roles) if role is Role.ACTION]
    families = [family for family in families_of(after) if family is None or family in COLORFUL]
    named = [family for family in families if family is not None]
    common = max(named, key=named.count, default=None)
    name, miss = relation(after)
    return Figures(
        readable_gained=_readable(after) - _readable(before),
        action_distance=float(table[actions].min()) if actions and len(after) > 1 else None,
        lightness_spread=float(np.std(oklch_of(after)[:, 0]) * 100),
        family=common,
        family_fit=100 * named.count(common) / len(families) if common else 0.0,
        relation=name,
        miss=miss,
    )


def _readable(colors: Sequence[Rgb]) -> int:
    return sum(contrast_ratio(a, b) >= TEXT for a, b in permutations(colors, 2))
