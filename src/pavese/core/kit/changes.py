"""Changes of a kit: each takes a kit and gives the changed one; what contradicts itself raises InvalidKitError."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from functools import partial

from pydantic import ValidationError

from pavese.core.color.neutrals import Shade, tinted
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError
from pavese.core.kit.kit import MOST_COLORS, Kit, KitColor, PinnedStep, Tint, key_for
from pavese.core.kit.role import Role
from pavese.core.unique_name import UniqueNames, unique_name

_SHADE_ROLES = {
    Shade.NEUTRAL: Role.NEUTRAL,
    Shade.NEAR_BLACK: Role.TEXT_DARK,
    Shade.NEAR_WHITE: Role.BACKGROUND,
}


@dataclass(frozen=True)
class Arrival:
    """A color that is to come into a kit."""

    name: str
    role: Role
    color: Rgb
    tint: Tint | None = None
    note: str = ""


def with_colors(kit: Kit, arrivals: Sequence[Arrival]) -> Kit:
    """The kit with colors added, each behind the last color whose role comes no later than its own."""
    if len(kit.colors) + len(arrivals) > MOST_COLORS:
        raise InvalidKitError(f"A kit holds at most {MOST_COLORS} colors.")
    order = list(Role)
    colors = list(kit.colors)
    for new in arrivals:
        key = key_for(new.name, (known.key for known in colors))
        color = KitColor(key=key, name=new.name, role=new.role, base=new.color, note=new.note, tint=new.tint)
        place = max(
            (i + 1 for i, known in enumerate(colors) if order.index(known.role) <= order.index(new.role)), default=0
        )
        colors.insert(place, color)
    return _made(kit, colors)


def with_tinted(kit: Kit, source: str, shades: Iterable[Shade], strength: float) -> Kit:
    """The kit with quiet colors tinted from one of its own, which follow it from then on."""
    of = kit.color(source)
    if of.tint is not None:
        raise InvalidKitError(f"{of.name} is itself tinted from another color; choose that one.")
    names = UniqueNames(color.name for color in kit.colors)
    arrivals = []
    for shade in shades:
        name = names.take(f"{of.name} {shade.value}")
        tint = Tint(of=of.key, shade=shade, strength=strength)
        arrivals.append(Arrival(name, _SHADE_ROLES[shade], tinted(of.base, shade, strength), tint))
    return with_colors(kit, arrivals)


def changed(kit: Kit, key: str, change: Callable[[KitColor], KitColor]) -> Kit:
    """The kit with one color changed; colors tinted from it follow."""
    kit.color(key)
    return _made(kit, [change(color) if color.key == key else color for color in kit.colors])


def with_base(color: KitColor, base: Rgb) -> KitColor:
    """The color on another base. A tinted one is let go from its source; pins at the new base's step are dropped."""
    moved = color.model_copy(update={"base": base, "tint": None})
    return moved.model_copy(update={"pins": tuple(pin for pin in color.pins if pin.step != moved.ramp.base_step)})


def with_pin(color: KitColor, step: int, given: Rgb | None) -> KitColor:
    """The color with a step pinned to a given color, or let go again (None)."""
    if step == color.ramp.base_step and given is not None:
        raise InvalidKitError(f"{step} is the base's own step of {color.name}; replace the base instead.")
    pins = [pin for pin in color.pins if pin.step != step]
    if given is not None:
        try:
            pins.append(PinnedStep(step=step, color=given))
        except ValidationError as error:
            raise InvalidKitError(f"A ramp has no step {step}.") from error
    return color.model_copy(update={"pins": tuple(sorted(pins, key=lambda pin: pin.step))})


def without(kit: Kit, key: str) -> Kit:
    """The kit without a color; those tinted from it keep the base they have and are linked no longer."""
    kit.color(key)
    left = [color for color in kit.colors if color.key != key]
    return _made(
        kit,
        [
            color.model_copy(update={"tint": None}) if color.tint is not None and color.tint.of == key else color
            for color in left
        ],
    )


def duplicated(kit: Kit, key: str) -> Kit:
    """The kit with a copy of a color right behind it, under a name and a key of its own."""
    if len(kit.colors) == MOST_COLORS:
        raise InvalidKitError(f"A kit holds at most {MOST_COLORS} colors.")
    color = kit.color(key)
    taken = {known.name.casefold() for known in kit.colors}
    name = unique_name(color.name, taken)
    copy = color.model_copy(update={"name": name, "key": key_for(name, (known.key for known in kit.colors))})
    at = kit.colors.index(color) + 1
    return _made(kit, [*kit.colors[:at], copy, *kit.colors[at:]])


def with_proposal(kit: Kit, kept: Sequence[str], arrivals: Sequence[Arrival]) -> Kit:
    """The kit made of the kept colors and a proposal.

    A color that is not kept lives on in the first new one of its role, so that what points to it follows; those
    without such an heir go.
    """
    for key in kept:
        kit.color(key)
    heirs: dict[str, Arrival] = {}
    open_ = list(arrivals)
    for color in kit.colors:
        heir = None if color.key in kept else next((new for new in open_ if new.role is color.role), None)
        if heir is not None:
            heirs[color.key] = heir
            open_.remove(heir)
    for color in kit.colors:
        if color.key in heirs:
            kit = changed(kit, color.key, partial(_inherited, heir=heirs[color.key]))
        elif color.key not in kept:
            kit = without(kit, color.key)
    return with_colors(kit, open_)


def _inherited(color: KitColor, heir: Arrival) -> KitColor:
    return with_base(color, heir.color).model_copy(update={"name": heir.name})


def reordered(kit: Kit, order: Sequence[str]) -> Kit:
    """The kit with its colors in the order of these keys, each named once."""
    if sorted(order) != sorted(color.key for color in kit.colors):
        raise InvalidKitError("The new order has to name every color of the kit once; it may have changed meanwhile.")
    return _made(kit, [kit.color(key) for key in order])


def _made(kit: Kit, colors: Iterable[KitColor]) -> Kit:
    """Built anew, so that what depends on other colors is computed."""
    return kit.with_(colors=tuple(colors))
