"""A kit from anyone's design tokens (Design Tokens Community Group, Format and Color modules 2025.10).

Our own file gives the same kit again. In any other, a group of steps (50 to 950) becomes a color with its ramp, its
middle the base and the rest pinned; a single color token becomes a color; an alias repeats another token and gives
its role where it is named after one. What a kit cannot hold is left out, and said.
"""

from __future__ import annotations

import json
import re
from collections import Counter
from collections.abc import Iterator, Mapping
from itertools import islice
from typing import Any, NamedTuple

from pavese.core.color.ramp import STEPS, ramp
from pavese.core.color.srgb import Rgb
from pavese.core.color.token_value import TokenColor, token_color
from pavese.core.errors import InvalidKitError
from pavese.core.handoff.tokens import EXTENSION, read_kit_tokens
from pavese.core.kit.kit import MOST_COLORS, Kit, KitColor, PinnedStep, key_for
from pavese.core.kit.plain import LONGEST_NAME, plain_name
from pavese.core.kit.role import Role
from pavese.core.kit.roles import propose_roles
from pavese.core.unique_name import unique_name

LARGEST = 4_000_000
#: Most color tokens that are read, many more than a kit holds.
MOST_TOKENS = 1_500
_DEEPEST = 64
_ALIAS = re.compile(r"\{([^{}]+)\}")
_BASES = ("base", "default", "main")


class Imported(NamedTuple):
    """The kit, and a sentence for everything that was left out or changed."""

    kit: Kit
    notes: tuple[str, ...]


class _Leaf(NamedTuple):
    kind: str | None
    value: Any


def kit_from_tokens(name: str, text: str) -> Imported:
    """The kit in a tokens file. Raises InvalidKitError saying what is wrong and where."""
    if len(text) > LARGEST:
        raise InvalidKitError(f"{name}: a tokens file is at most {LARGEST // 1_000_000} MB.")
    try:
        tree = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise InvalidKitError(f"{name} is no JSON: {str(error).splitlines()[0][:150]}.") from error
    if not isinstance(tree, dict):
        raise InvalidKitError(f"{name} holds no tokens: it is not an object of groups.")
    if isinstance(tree.get("$extensions"), dict) and EXTENSION in tree["$extensions"]:
        return Imported(read_kit_tokens(text), ())
    return _foreign(name, tree)


def _foreign(name: str, tree: Mapping[str, Any]) -> Imported:
    leaves = dict(_leaves(tree, (), None, name))
    colors: dict[str, TokenColor] = {}
    aliases: dict[str, str] = {}
    other: Counter[str] = Counter()
    unread: list[str] = []
    for path in leaves:
        target, kind, value = _followed(path, leaves, name)
        if kind not in ("color", None):
            other[kind] += 1
            continue
        read = token_color(value)
        if read is None:
            if kind == "color":
                unread.append(path)
            continue
        if len(colors) >= MOST_TOKENS:
            raise InvalidKitError(
                f"{name} has more than {MOST_TOKENS:,} colors; take the part that is the brand's own."
            )
        if target != path:
            aliases[path] = target
        else:
            colors[path] = read
    if not colors:
        raise InvalidKitError(f"{name} holds no color tokens.")
    groups = _groups(colors)
    made = _colors(groups, aliases)
    notes = _notes(colors, other, unread, len(groups))
    stem = re.sub(r"(\.tokens)?\.json$", "", name.rpartition("/")[2]) or "Imported kit"
    return Imported(Kit(name=plain_name(stem)[:LONGEST_NAME], colors=tuple(made)), notes)


def _leaves(node: Mapping[str, Any], path: tuple[str, ...], kind: str | None, name: str) -> Iterator[tuple[str, _Leaf]]:
    if len(path) > _DEEPEST:
        raise InvalidKitError(f"{name}: the tokens are nested deeper than {_DEEPEST} groups.")
    kind = node["$type"] if isinstance(node.get("$type"), str) else kind
    if "$value" in node and path:
        yield ".".join(path), _Leaf(kind, node["$value"])
        return
    for key, child in node.items():
        if not key.startswith("$") and isinstance(child, dict):
            yield from _leaves(child, (*path, key), kind, name)


def _followed(path: str, leaves: Mapping[str, _Leaf], name: str) -> tuple[str, str | None, Any]:
    """Where a chain of aliases ends: the path, type and value there; the nearest type along the chain counts."""
    seen = [path]
    kind = leaves[path].kind
    while True:
        value = leaves[seen[-1]].value
        alias = _ALIAS.fullmatch(value.strip()) if isinstance(value, str) else None
        if alias is None:
            return seen[-1], kind, value
        if alias[1] in seen:
            circle = " → ".join([*seen[seen.index(alias[1]) :], alias[1]])
            raise InvalidKitError(f"{name}: these tokens point to each other in a circle: {circle}.")
        if alias[1] not in leaves:
            raise InvalidKitError(f"{name}: {seen[-1]} points to {alias[1]}, which is not there.")
        seen.append(alias[1])
        kind = kind or leaves[alias[1]].kind


def _groups(found: Mapping[str, TokenColor]) -> dict[str, dict[str, Rgb]]:
    """A group of steps is one color, every other token one of its own."""
    groups: dict[str, dict[str, Rgb]] = {}
    for path, read in found.items():
        group, _, last = path.rpartition(".")
        is_step = group and (last in map(str, STEPS) or last.lower() in _BASES)
        groups.setdefault(group if is_step else path, {})[last.lower() if is_step else "base"] = read.color.rgb
    return groups


def _colors(everything: Mapping[str, dict[str, Rgb]], aliases: Mapping[str, str]) -> Iterator[KitColor]:
    """The colors of the first groups, as many as a kit holds."""
    groups = dict(islice(everything.items(), MOST_COLORS))
    given = {
        target.rpartition(".")[0] if target.rpartition(".")[0] in groups else target: role
        for path, target in aliases.items()
        if (role := _role(path.rpartition(".")[2])) is not None
    }
    bases = {group: _base(steps) for group, steps in groups.items()}
    proposed = dict(
        zip(bases, propose_roles([(base, group.rpartition(".")[2]) for group, base in bases.items()]), strict=True)
    )
    names: set[str] = set()
    keys: set[str] = set()
    for group, steps in groups.items():
        words = " ".join(re.split(r"[\s._/-]+", group.rpartition(".")[2])) or group
        name = unique_name(plain_name(words[:1].upper() + words[1:])[: LONGEST_NAME - 4], names)
        key = key_for(name, keys)
        names.add(name.casefold())
        keys.add(key)
        base = bases[group]
        own = ramp(base)
        pins = tuple(
            PinnedStep(step=step, color=steps[str(step)])
            for step in STEPS
            if str(step) in steps and step != own.base_step and steps[str(step)] != own.at(step)
        )
        role = given.get(group) or _role(group.rpartition(".")[2]) or proposed[group]
        yield KitColor(key=key, name=name, role=role, base=base, pins=pins)


def _base(steps: Mapping[str, Rgb]) -> Rgb:
    """The color named as the base, else the one in the middle of the steps."""
    named = next((steps[word] for word in _BASES if word in steps), None)
    if named is not None:
        return named
    in_order = sorted(steps, key=int)
    return steps["500"] if "500" in steps else steps[in_order[len(in_order) // 2]]


def _role(word: str) -> Role | None:
    plain = re.sub(r"[\s_-]+", " ", word.strip().lower())
    return next((role for role in Role if role.value == plain), None)


def _notes(colors: Mapping[str, TokenColor], other: Counter[str], unread: list[str], made: int) -> tuple[str, ...]:
    found = []
    if other:
        kinds = ", ".join(f"{count} {kind}" for kind, count in other.most_common(6))
        found.append(f"Tokens that are no colors were left out: {kinds}.")
    if unread:
        found.append(f"{len(unread)} color tokens cannot be read, such as {unread[0]}, and were left out.")
    clear = [path for path, read in colors.items() if read.color.alpha < 0.999]
    if clear:
        found.append(f"{len(clear)} colors are see-through, such as {clear[0]}; they came in without their alpha.")
    wide = [path for path, read in colors.items() if read.outside]
    if wide:
        found.append(f"{len(wide)} colors are outside of sRGB, such as {wide[0]}; the nearest ones inside came in.")
    if made > MOST_COLORS:
        found.append(f"A kit holds at most {MOST_COLORS} colors; {made - MOST_COLORS} more were left out.")
    return tuple(found)
