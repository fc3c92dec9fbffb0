"""Our own file of design tokens, read back: the same kit again, since what the format has no place for stands in
`$extensions`, under our own key. `handoff.tokens` writes it."""

from __future__ import annotations

import json
from typing import Any

from pydantic import ValidationError

from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError
from pavese.core.kit.kit import Kit, KitColor, PinnedStep, Tint
from pavese.core.kit.role import Role

EXTENSION = "pavese"
#: Fields of a kit that are kept as they are: all but those that tokens have a place for.
KEPT = tuple(field for field in Kit.model_fields if field not in ("name", "colors"))


def read_kit_tokens(text: str) -> Kit:
    """The kit that `kit_tokens` wrote. Raises InvalidKitError saying what is missing."""
    try:
        tree = json.loads(text)
        head = tree["$extensions"][EXTENSION]
        colors = [_color(key, tree[key]) for key in head["order"]]
        rest = {field: head[field] for field in KEPT if field in head}
        return Kit.model_validate({"name": head["name"], "colors": colors, **rest})
    except (ValueError, ValidationError, RecursionError) as error:
        raise InvalidKitError(f"The tokens file cannot be read: {_first_line(error)}") from error
    except (KeyError, TypeError, IndexError, AttributeError) as error:
        raise InvalidKitError(f"The tokens file is not one of a kit: {error} is missing or misplaced.") from error


def _color(key: str, group: dict[str, Any]) -> KitColor:
    extension = group["$extensions"][EXTENSION]
    return KitColor(
        key=key,
        name=group["$description"],
        role=Role(extension["role"]),
        base=_rgb(group["base"]),
        note=extension.get("note", ""),
        pins=tuple(PinnedStep.model_validate(pin) for pin in extension.get("pins", ())),
        tint=Tint.model_validate(extension["tint"]) if "tint" in extension else None,
    )


def _rgb(token: dict[str, Any]) -> Rgb:
    return Rgb(*(round(part * 255) for part in token["$value"]["components"]))


def _first_line(error: Exception) -> str:
    return str(error).splitlines()[0][:200]
