"""A plan as a file that makes the same result again."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from pavese.core.errors import InvalidPlanError
from pavese.core.kit.kit import Kit
from pavese.core.recolor.act import Act
from pavese.core.recolor.plan import Choice, PartRules, Plan
from pavese.core.recolor.target import KEEP, resolve_target

#: Version 1 had paints only, version 2 no acts but the backing and the namespace; both are still read. The words stay,
#: whatever the code calls them since: `closure` are the allowed colors of the recipe, `kept_marks` the kept selectors.
_VERSION = 3


#: What is read as it stands, under the names of every version.
_SAME = (
    "recipe",
    "rules",
    "part_rules",
    "file_part_rules",
    "acts",
    "file_acts",
    "backing",
    "backings",
    "declared",
    "left_out",
    "kept",
    "kept_marks",
    "guests",
)


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
        "rules": dict(sorted(plan.rules.items())),
        "part_rules": _part_rules(plan.part_rules),
        "file_part_rules": {name: _part_rules(own) for name, own in sorted(plan.file_part_rules.items())},
        "acts": _acts(plan.acts),
        "file_acts": {name: _acts(acts) for name, acts in sorted(plan.file_acts.items())},
        "left_out": sorted(plan.left_out),
        "kept": sorted(plan.kept),
        "kept_marks": sorted(plan.kept_selectors),
    }
    return json.dumps(body, indent=2, ensure_ascii=False) + "\n"


def read_plan_file(text: str) -> Plan:
    """The plan that `plan_file` wrote. Raises InvalidPlanError saying what is wrong."""
    try:
        body = json.loads(text)
        if not isinstance(body, dict) or body.get("pavese-plan") not in range(1, _VERSION + 1):
            raise InvalidPlanError(f"This is no plan file of version {_VERSION}.")
        files = {name: _choices(paints) for name, paints in body.get("files", {}).items()}
        same = {name: body[name] for name in _SAME if name in body}
        return Plan.model_validate({"choices": _choices(body["paints"]), "files": files, **same})
    except (ValueError, ValidationError, KeyError, AttributeError, RecursionError) as error:
        raise InvalidPlanError(f"The plan file cannot be read: {str(error).splitlines()[0][:200]}") from error


def _part_rules(rules: PartRules) -> dict[str, Any]:
    return {part: dict(sorted(own.items())) for part, own in sorted(rules.items())}


def _acts(acts: Mapping[str, Act | None]) -> dict[str, Any]:
    return {key: act and act.model_dump(mode="json") for key, act in sorted(acts.items())}


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
