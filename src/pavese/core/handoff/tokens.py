"""A kit as design tokens (Design Tokens Community Group, Format and Color modules 2025.10).

A color is a group named by its key with a token for its base and one for each step; roles are aliases, and every
approved pair is a group of two aliases. What the format has no place for (decisions, rules, names as written) stands
in `$extensions`, under our own key.
"""

from __future__ import annotations

import json
from typing import Any

from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.kit.decisions import Status
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.role import Role
from pavese.core.kit.token_file import EXTENSION, KEPT


def kit_tokens(kit: Kit) -> str:
    """The tokens file, indented JSON with a final newline."""
    body = kit.model_dump(mode="json")
    own = {"name": kit.name, "order": [c.key for c in kit.colors]}
    tree: dict[str, Any] = {"$extensions": {EXTENSION: own | {field: body[field] for field in KEPT}}}
    for color in kit.colors:
        group: dict[str, Any] = {
            "$type": "color",
            "$description": color.name,
            "$extensions": {EXTENSION: _own(color)},
            "base": {"$value": _value(color.base)},
        }
        for step in STEPS:
            at_base = step == color.ramp.base_step
            group[str(step)] = {"$value": f"{{{color.key}.base}}" if at_base else _value(color.ramp.at(step))}
        tree[color.key] = group
    roles = {color.role: color.key for color in reversed(kit.colors)}
    tree["role"] = {"$type": "color"} | {
        role.value.replace(" ", "-"): {"$value": f"{{{roles[role]}.base}}"} for role in Role if role in roles
    }
    approved = [decision for decision in kit.decisions if decision.status is Status.APPROVED]
    if approved:
        tree["pairings"] = {"$type": "color"} | {
            f"{decision.text} on {decision.ground}".replace(".", "-").replace(" ", "-"): {
                "$description": decision.use.value,
                "text": {"$value": f"{{{decision.text}}}"},
                "ground": {"$value": f"{{{decision.ground}}}"},
            }
            for decision in approved
        }
    return json.dumps(tree, indent=2, ensure_ascii=False) + "\n"


def _own(color: KitColor) -> dict[str, Any]:
    own: dict[str, Any] = {"role": color.role.value, "base-step": color.ramp.base_step}
    if color.note:
        own["note"] = color.note
    if color.pins:
        own["pins"] = [pin.model_dump(mode="json") for pin in color.pins]
    if color.tint:
        own["tint"] = color.tint.model_dump(mode="json")
    return own


def _value(color: Rgb) -> dict[str, Any]:
    """A color value as the Color module writes it, with the 8-bit code as the fallback it provides for."""
    return {"colorSpace": "srgb", "components": [round(part / 255, 5) for part in color], "hex": color.hex}
