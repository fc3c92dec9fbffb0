"""Which places of a kit a change touches, with what stood there before and what stands there now.

A place is a path such as `colors/buoy/base`, `decisions/hull.base on fog.base` or `rules/accent_share`. They tell a
record what was changed, and whether two people changed the same thing.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any, NamedTuple

from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.told import told


class Touched(NamedTuple):
    """What stood in a place and what stands there now, as in JSON; None where there is nothing."""

    before: Any
    after: Any


def touched(before: Kit, after: Kit) -> dict[str, Touched]:
    """Every place that differs, in a fixed order."""
    old, new = _places(before), _places(after)
    return {
        place: Touched(old.get(place), new.get(place))
        for place in dict.fromkeys([*old, *new])
        if old.get(place) != new.get(place)
    }


def meant(changes: Mapping[str, Touched]) -> dict[str, Touched]:
    """Those of a change that are no mere consequence of others: decisions that a changed color opened are left out."""
    return {
        place: change
        for place, change in changes.items()
        if not (isinstance(change.after, dict) and change.after.get("reopened")) and place != "order"
    }


def in_words(place: str, kit: Kit) -> str:
    """A place as a person would name it: `Base of Buoy`."""
    head, _, rest = place.partition("/")
    key, _, field = rest.partition("/")
    if head == "colors":
        name = next((color.name for color in kit.colors if color.key == key), key)
        said = told(KitColor).get(field)
        return f"{said.name if said else field.capitalize()} of {name}" if field else name
    if head == "decisions":
        return f"Decision on {_pair(rest, kit)}"
    words = rest.replace("_", " ")
    said = told(Kit).get(head)
    return (said.name if said else head.capitalize()) + (f", {words}" if words else "")


def _pair(text: str, kit: Kit) -> str:
    def title(token: str) -> str:
        key, _, step = token.partition(".")
        name = next((color.name for color in kit.colors if color.key == key), key)
        return name if step == "base" else f"{name} {step}"

    return " on ".join(title(token) for token in text.split(" on "))


def _places(kit: Kit) -> dict[str, Any]:
    body = kit.model_dump(mode="json")
    found: dict[str, Any] = {"order": [color["key"] for color in body["colors"]]}
    for color in body.pop("colors"):
        # The base of a tinted color follows from the color it is tinted from.
        left_out = {"key", "base"} if color["tint"] else {"key"}
        found |= {f"colors/{color['key']}/{field}": color[field] for field in color if field not in left_out}
    said = told(Kit)
    for field, value in body.items():
        if isinstance(value, dict):
            found |= {f"{field}/{part}": one for part, one in value.items()}
        elif (by := said[field].by) is not None:
            found |= {f"{field}/{by(entry)}": entry for entry in value}
        else:
            found[field] = value
    return found


def shared(mine: Mapping[str, Touched], theirs: Iterable[str]) -> list[str]:
    """The places of mine that others touched as well: the same one, or a color as a whole and one of its fields."""
    others = list(theirs)
    return [
        place
        for place in mine
        if any(place == other or place.startswith(f"{other}/") or other.startswith(f"{place}/") for other in others)
    ]
