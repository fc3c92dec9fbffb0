"""A plan as a file that makes the same result again."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from pavese.core.errors import InvalidPlanError
from pavese.core.kit.kit import Kit
from pavese.core.recolor.plan import Choice, Plan
from pavese.core.recolor.target import KEEP, resolve_target

#: Version 1 had paints only; it is still read. The words of version 2 stay, whatever the code calls them since:
#: `closure` are the allowed colors of the recipe, `kept_marks` the kept selectors.
_VERSION = 2


def plan_file(plan: Plan, kit: Kit) -> str:
    """Every paint with its target and, to be read by people, the color that is in this kit; indented JSON."""
    kit = plan.kit_with_guests(kit)
    recipe = plan.recipe.model_dump(mode="json")
    body = {
        "pavese-plan": _VERSION,
        "kit": kit.name,
        "guests": [guest.model_dump(mode="json") for guest in plan.guests],
        "recipe": {"closure" if name == "allowed" else name: value for name, value in recipe.items()},
        "paints": _paints(plan.choices, kit),
        "files": {name: _paints(choices, kit) for name, choices in sorted(plan.files.items())},
        "backing": plan.backing.model_dump(mode="json") if plan.backing else None,
        "backings": {name: one and one.model_dump(mode="json") for name, one in sorted(plan.backings.items())},
        "left_out": sorted(plan.left_out),
        "kept": sorted(plan.kept),
        "kept_marks": sorted(plan.kept_selectors),
        "declared": sorted(plan.declared),
    }
    return json.dumps(body, indent=2, ensure_ascii=False) + "\n"


def read_plan_file(text: str) -> Plan:
    """The plan that `plan_file` wrote. Raises InvalidPlanError saying what is wrong."""
    try:
        body = json.loads(text)
        if not isinstance(body, dict) or body.get("pavese-plan") not in (1, _VERSION):
            raise InvalidPlanError(f"This is no plan file of version {_VERSION}.")
        return Plan(
            choices=_choices(body["paints"]),
            recipe=body.get("recipe", {}),
            files={name: _choices(paints) for name, paints in body.get("files", {}).items()},
            backing=body.get("backing"),
            backings=body.get("backings", {}),
            left_out=body.get("left_out", ()),
            kept=body.get("kept", ()),
            kept_selectors=body.get("kept_marks", ()),
            declared=body.get("declared", ()),
            guests=body.get("guests", ()),
        )
    except (ValueError, ValidationError, KeyError, AttributeError, RecursionError) as error:
        raise InvalidPlanError(f"The plan file cannot be read: {str(error).splitlines()[0][:200]}") from error


def _paints(choices: Mapping[str, Choice], kit: Kit) -> dict[str, Any]:
    paints = {}
    for key, choice in sorted(choices.items()):
        color = resolve_target(choice.target, kit)
        paints[key] = {
            "target": choice.target,
            "color": KEEP if color is None else color.hex,
            "by": choice.by,
            "reason": choice.reason,
        }
    return paints


def _choices(paints: Mapping[str, Any]) -> dict[str, Choice]:
    return {key: Choice.model_validate(value) for key, value in paints.items()}
