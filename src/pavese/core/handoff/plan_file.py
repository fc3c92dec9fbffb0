"""A plan as a file that makes the same result again."""

from __future__ import annotations

import json

from pydantic import ValidationError

from pavese.core.errors import InvalidPlanError
from pavese.core.kit.kit import Kit
from pavese.core.recolor.plan import KEEP, Choice, Plan, resolve_target

_VERSION = 1


def plan_file(plan: Plan, kit: Kit) -> str:
    """Every paint with its target and, to be read by people, the color that is in this kit; indented JSON."""
    paints = {}
    for key, choice in sorted(plan.choices.items()):
        color = resolve_target(choice.target, kit)
        paints[key] = {
            "target": choice.target,
            "color": KEEP if color is None else color.hex,
            "by": choice.by,
            "reason": choice.reason,
        }
    body = {"pavese-plan": _VERSION, "kit": kit.name, "paints": paints}
    return json.dumps(body, indent=2, ensure_ascii=False) + "\n"


def read_plan_file(text: str) -> Plan:
    """The plan that `plan_file` wrote. Raises InvalidPlanError saying what is wrong."""
    try:
        body = json.loads(text)
        if not isinstance(body, dict) or body.get("pavese-plan") != _VERSION:
            raise InvalidPlanError(f"This is no plan file of version {_VERSION}.")
        return Plan(choices={key: Choice.model_validate(value) for key, value in body["paints"].items()})
    except (ValueError, ValidationError, KeyError, AttributeError, RecursionError) as error:
        raise InvalidPlanError(f"The plan file cannot be read: {str(error).splitlines()[0][:200]}") from error
