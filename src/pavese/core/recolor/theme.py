"""Themes of decks: places that a file names, to which most of its colors point (ISO/IEC 29500-1, 20.1.6.2).

What goes to a place is said by a rule of the plan, so that it holds for all decks of a set and for those that come
later; what points to a place with transforms goes to the step of the same ramp that is nearest to what it would be.
"""

from __future__ import annotations

import hashlib
import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import NamedTuple

import numpy as np

from pavese.core.color.contrast import LARGE, TEXT, WHITE, contrast_ratio
from pavese.core.color.derived import Transform, derived
from pavese.core.color.difference import differences
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.kit.deck_theme import PLACES
from pavese.core.kit.kit import Kit
from pavese.core.recolor.inventory import THEME, SetPaints
from pavese.core.recolor.near import NEAR_EQUAL
from pavese.core.recolor.site import Kind
from pavese.core.recolor.target import resolve_target, token_of
from pavese.core.recolor.texts import BARE, Seen, TextRun

#: From this contrast on a text is there to be read.
_READ_AT_ALL = 1.3
_SELECTOR = re.compile(rf"{re.escape(THEME)}(\w+)((?:\+\w+:-?\d+)*)(?:~([\w-]+))?")
#: Letters of a theme's name in its key, and digits of what tells those of one name apart.
_LETTERS, _DIGITS = 40, 4


class Pointing(NamedTuple):
    """What a selector says of a site: the place of the theme that it points to, and how its color is made from it; with
    a key of `theme_key`, of which theme, in a deck that has several."""

    slot: str
    transforms: tuple[Transform, ...]
    theme: str = ""


def place_selector(slot: str, transforms: Iterable[Transform] = (), theme: str = "") -> str:
    """What the sites of a place bear, its own and those that point to it; with transforms, those that do so with
    them; with the key of a theme, those of it alone."""
    made = "".join(f"+{name}:{value}" for name, value in transforms)
    return f"{THEME}{slot}{made}" + (f"~{theme}" if theme else "")


def pointing(selector: str) -> Pointing | None:
    """What `place_selector` gave; None for other selectors."""
    found = _SELECTOR.fullmatch(selector)
    if found is None or found[1] not in PLACES:
        return None
    each = (one.partition(":") for one in found[2].split("+")[1:])
    return Pointing(found[1], tuple(Transform(name, int(value)) for name, _, value in each), found[3] or "")


def theme_key(name: str, held: Mapping[str, Rgb]) -> str:
    """What a theme is told by among others: its name, as far as selectors take it, and what stands in it, since many
    have one name. The same in every deck."""
    said = "-".join(re.findall(r"\w+", name))[:_LETTERS].strip("-") or "no-name"
    colors = ",".join(f"{slot}:{color.hex}" for slot, color in sorted(held.items()))
    return f"{said}-{hashlib.sha256(colors.encode()).hexdigest()[:_DIGITS]}"


def theme_title(key: str) -> str:
    """How a theme is called, by its key."""
    return " ".join(key.split("-")[:-1])


def place_words(selector: str) -> str:
    """What a selector of `place_selector` says, in words; "" for other selectors."""
    place = pointing(selector)
    return _called(place) if place else ""


def _called(place: Pointing) -> str:
    title = f"{PLACES[place.slot]} of the theme {theme_title(place.theme)}".rstrip()
    return f"made from {title}" if place.transforms else title


def most_seen(paints: SetPaints) -> list[Rgba]:
    """The paints that stand in places of themes, or are made from them, those first of which most is seen: notes and
    handouts have themes of their own, which few ever see."""
    uses = {use.paint: use for use in paints.uses}
    return sorted(paints.theme, key=lambda paint: (-uses[paint].area, -uses[paint].sites, paint))


#: The targets of places, by the theme (its key, "" for all) and the place.
Ruled = Mapping[str, Mapping[str, str]]


def themes_ruled(part_rules: Mapping[str, Mapping[Kind, str]]) -> dict[str, dict[str, str]]:
    """The targets of the places of themes that the rules of a plan name: of all themes, and of single ones."""
    ruled: dict[str, dict[str, str]] = {}
    for part, rules in part_rules.items():
        place, target = pointing(part), rules.get(Kind.THEME)
        if place and target:
            ruled.setdefault(place.theme, {})[place.slot] = target
    return ruled


def places_ruled(part_rules: Mapping[str, Mapping[Kind, str]], theme: str = "") -> dict[str, str]:
    """Those of all themes, or of the one with that key alone."""
    return themes_ruled(part_rules).get(theme, {})


def theme_targets(paints: SetPaints, ruled: Ruled, kit: Kit) -> dict[str, tuple[str, str]]:
    """Where the paints go that stand in places of themes, or are made from them: for each (by its key; with `@` and a
    selector behind it, for those of its sites) the target, and why. What a place holds goes where the place does; what
    is made from it to the nearest step on which what must be read still reads."""
    places = {
        paint: [place for one in selectors if (place := pointing(one)) and place.slot in ruled.get(place.theme, ())]
        for paint, selectors in paints.theme.items()
    }
    reads = reading_of(paints)
    became = {BARE: WHITE}
    found: dict[str, tuple[str, str]] = {}
    for plain in (True, False):
        for paint, pointed in places.items():
            if not pointed or (not pointed[0].transforms) is not plain:
                continue
            own = {place: _target(place, ruled, kit, reads.get(paint, ()), became) for place in pointed}
            first = own[pointed[0]]
            became[paint] = resolve_target(first, kit) or paint.rgb
            found[paint.key] = first, _why(pointed[0])
            if len(set(own.values())) > 1:
                # One color in two places that go apart: each of its sites goes with its own.
                found.update(
                    {f"{paint.key}@{place_selector(*place)}": (target, _why(place)) for place, target in own.items()}
                )
    for near, place in near_places(paints, places).items():
        found[near.key] = ruled[""][place.slot], f"hardly differs from {PLACES[place.slot]} of the theme"
    return found


def near_places(paints: SetPaints, places: Mapping[Rgba, Sequence[Pointing]]) -> dict[Rgba, Pointing]:
    """Paints that were typed in and hardly differ from what stands in a place, which they go along with."""
    plain = [(paint, of[0]) for paint, of in places.items() if of and not (of[0].transforms or of[0].theme)]
    typed = [use.paint for use in paints.uses if use.paint not in places]
    if not plain or not typed:
        return {}
    apart = differences([paint.rgb for paint in typed], [paint.rgb for paint, _ in plain])
    nearest = zip(typed, apart.argmin(axis=1).tolist(), apart.min(axis=1).tolist(), strict=True)
    return {paint: plain[at][1] for paint, at, away in nearest if away < NEAR_EQUAL}


class Needed(NamedTuple):
    """The ratio that a text takes at least (WCAG 2.2, 1.4.3), and the one it is better read at: what is large and had
    what small texts take does not fall to what just passes, where anything else can be had."""

    least: float
    good: float

    def gives(self, share: float) -> Needed:
        """With so much of what is above 1 left."""
        return Needed(*(1 + (level - 1) * share for level in self))

    def or_more(self, other: Needed) -> Needed:
        """What is enough for both."""
        return Needed(max(self.least, other.least), max(self.good, other.good))


#: The paints that a paint must be read on, or that must be read on it, and what it takes.
Partners = Mapping[Rgba, Sequence[tuple[Rgba, Needed]]]


def reading_of(paints: SetPaints) -> Partners:
    """What must be read on what in a set: texts that reach their level keep it, those that do not keep what they have.
    What stands on nothing is read on `BARE`: slides without a ground are shown white."""
    found: dict[Rgba, dict[Rgba, Needed]] = {}
    for run in _texts(paints):
        if run.ground is None:
            continue
        ink, ground = run.text.ink, run.ground
        if (needed := needed_on(run, ground.over(WHITE))) is not None:
            for one, other in ((ink, ground), (ground, ink)):
                partners = found.setdefault(one, {})
                partners[other] = needed.or_more(partners.get(other, needed))
    return {one: list(partners.items()) for one, partners in found.items()}


def _texts(paints: SetPaints) -> Iterator[TextRun]:
    return (run for file in paints.files for run in file.measured.texts if run.text.ink.alpha >= 1)


def needed_on(run: TextRun, ground: Rgb) -> Needed | None:
    """The ratio that a text takes on a ground on which it stands; None where it is hardly there to be read."""
    ratio = contrast_ratio(run.text.ink.rgb, ground)
    least = min(ratio, LARGE if run.text.large else TEXT)
    return Needed(least, TEXT if ratio >= TEXT else least) if least >= _READ_AT_ALL else None


class MixedPlaces(NamedTuple):
    """A color that places of a theme have shares in; `rest` is what none of them says of each channel."""

    of: tuple[tuple[Pointing, float], ...]
    rest: tuple[float, ...]


def mixed_reading(paints: SetPaints, places: Mapping[Rgba, Pointing]) -> Iterator[tuple[Rgba, MixedPlaces, Needed]]:
    """What must be read on what places (by their paints) are mixed to, or on what stays: the ink, the darkest and the
    lightest of what is seen below it, and the ratio that it takes there; of the same places once, where it is read
    worst."""
    found: dict[tuple[Rgba, int, tuple[Pointing, ...]], tuple[float, MixedPlaces, Needed]] = {}
    for run in _texts(paints):
        stands_on = run.planned_on
        for end in (0, -1) if stands_on else ():
            seen = stands_on[end]
            mixed = _mixed_places(seen, places)
            needed = needed_on(run, seen.color)
            if needed is not None:
                key = run.text.ink, end, tuple(place for place, _ in mixed.of)
                one = contrast_ratio(run.text.ink.rgb, seen.color), mixed, needed
                found[key] = min(found.get(key, one), one, key=lambda told: told[0])
    for (ink, _, _), (_, mixed, needed) in found.items():
        yield ink, mixed, needed


def _mixed_places(seen: Seen, places: Mapping[Rgba, Pointing]) -> MixedPlaces:
    of, rest = [], [float(channel) for channel in seen.color]
    for part in seen.parts or ():
        place = next(filter(None, map(pointing, part.selectors)), places.get(part.paint))
        if place is not None:
            of.append((place._replace(transforms=(*place.transforms, *part.through), theme=""), part.share))
            rest = [left - part.share * own for left, own in zip(rest, part.color, strict=True)]
    return MixedPlaces(tuple(of), tuple(rest))


def _target(
    place: Pointing,
    ruled: Ruled,
    kit: Kit,
    reads: Sequence[tuple[Rgba, Needed]],
    became: Mapping[Rgba, Rgb],
) -> str:
    target = ruled[place.theme][place.slot]
    base, token = resolve_target(target, kit), token_of(target)
    if not place.transforms or base is None or token is None:
        return target
    wanted = derived(base, place.transforms).rgb
    color = kit.color(token.color)
    apart = differences([wanted], color.ramp.colors)[0]
    steps = [STEPS[at] for at in np.argsort(apart, kind="stable").tolist()]
    partners = [(became[other], needed) for other, needed in reads if other in became]
    # The nearest at which all is read well; where there is none, at which all is read.
    fitting = (
        step
        for well in (True, False)
        for step in steps
        if all(
            contrast_ratio(color.ramp.at(step), other) >= (needed.good if well else needed.least)
            for other, needed in partners
        )
    )
    return str(color.token(next(fitting, steps[0])))


def _why(place: Pointing) -> str:
    return _called(place) if place.transforms else f"{_called(place)} goes there"
