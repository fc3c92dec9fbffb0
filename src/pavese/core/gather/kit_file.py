"""A kit from anyone's file: design tokens, a style sheet, a table, a deck's theme, or any text with codes.

Our own tokens give the same kit again. In any others, a group of steps (50 to 950) becomes a color with its ramp, its
middle the base and the rest pinned; a single color token becomes a color; an alias repeats another token and gives
its role where it is named after one. What a kit cannot hold is left out, and said.
"""

from __future__ import annotations

import csv
import io
import json
import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from itertools import islice
from typing import NamedTuple

from pavese.core.color.ramp import STEPS, ramp
from pavese.core.color.srgb import Rgb
from pavese.core.color.token_tree import TokenColors, colors_of_tokens
from pavese.core.color.token_value import TokenColor
from pavese.core.errors import InvalidKitError, RefusedFileError, UnreadableTokensError
from pavese.core.gather.code_files import read_code_file
from pavese.core.kit.codes import FoundCode
from pavese.core.kit.kit import MOST_COLORS, Kit, KitColor, PinnedStep, key_for
from pavese.core.kit.plain import LONGEST_NAME, plain_name, shortened
from pavese.core.kit.role import Role
from pavese.core.kit.roles import propose_roles
from pavese.core.kit.token_file import EXTENSION, read_kit_tokens
from pavese.core.unique_name import UniqueNames

LARGEST = 4_000_000
_BASES = ("base", "default", "main")


class Imported(NamedTuple):
    """The kit, and a sentence for everything that was left out or changed."""

    kit: Kit
    notes: tuple[str, ...]


def kit_from_file(name: str, data: bytes) -> Imported:
    """The kit in a file: in our own tokens as it was; in tokens of others, a style, a table, a deck or any text its
    colors, in roles that are named there or proposed. Raises InvalidKitError saying what is wrong and where."""
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = ""
    begins = text.lstrip()[:1]
    if begins in ("{", "[") or name.lower().endswith(".json"):
        if not text and data:
            raise InvalidKitError(f"{name} is no text; a tokens file is JSON in UTF-8.")
        return kit_from_tokens(name, text)
    try:
        found = read_code_file(name, data)
    except RefusedFileError as error:
        raise InvalidKitError(str(error)) from error
    if not found:
        raise InvalidKitError(f"{name} holds no colors.")
    return _from_codes(name, found, _roles_said(text))


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
    try:
        found = colors_of_tokens(tree)
    except UnreadableTokensError as error:
        raise InvalidKitError(f"{name}: {error}") from error
    if found.broken:
        raise InvalidKitError(f"{name}: {found.broken[0]}")
    if not found.colors:
        raise InvalidKitError(f"{name} holds no color tokens.")
    groups = _groups(found.colors)
    return Imported(_kit(name, _colors(groups, found.aliases)), _notes(found, len(groups)))


def _from_codes(name: str, codes: Sequence[FoundCode], said: Mapping[str, Role]) -> Imported:
    """Each code a color, `Deep water 600` and the like a step of one; `said` are roles by the key of a color."""
    groups: dict[str, dict[str, Rgb]] = {}
    for code in codes:
        stem, _, last = code.name.rpartition(" ")
        is_step = bool(stem) and (last in map(str, STEPS) or last.lower() in _BASES)
        group = (stem if is_step else code.name).replace(".", " ")
        groups.setdefault(group, {})[last.lower() if is_step else "base"] = code.color
    roles = {group: said[key] for group in groups if (key := key_for(group)) in said}
    open_ = [] if len(roles) == len(groups) else [_PROPOSED]
    return Imported(_kit(name, _colors(groups, {}, roles)), (*open_, *_too_many(len(groups))))


def _roles_said(text: str) -> dict[str, Role]:
    """The roles that a style or a table gives, by the key of a color: `--role-primary: var(--deep-water)`, or a column
    named `role`."""
    # What comes first is the scheme by day; a dark one turns roles round.
    words = dict(reversed(_ROLE_VARIABLE.findall(text)))
    found = {key: role for word, key in words.items() if (role := _role(word)) is not None}
    first = next(iter(text.splitlines()), "").lstrip("\ufeff")
    delimiter = max((",", ";", "\t", "|"), key=first.count)
    heads = [cell.strip().lower() for cell in first.split(delimiter)]
    if {"name", "role"} <= {*heads}:
        for row in csv.DictReader(io.StringIO(text.lstrip("\ufeff"), newline=None), heads, delimiter=delimiter):
            role = _role(row["role"] or "")
            if role is not None:
                found[key_for(row["name"] or "")] = role
    return found


_ROLE_VARIABLE = re.compile(r"--role-([a-z-]+)\s*:\s*var\(\s*--([\w-]+)")


_PROPOSED = "Roles that no name tells were proposed from lightness and vividness."


def _kit(name: str, colors: Iterable[KitColor]) -> Kit:
    stem = re.sub(r"(\.tokens)?\.\w{1,5}$", "", name.rpartition("/")[2]) or "Imported kit"
    return Kit(name=shortened(plain_name(stem)), colors=tuple(colors))


def _groups(found: Mapping[str, TokenColor]) -> dict[str, dict[str, Rgb]]:
    """A group of steps is one color, every other token one of its own."""
    groups: dict[str, dict[str, Rgb]] = {}
    for path, read in found.items():
        group, _, last = path.rpartition(".")
        is_step = group and (last in map(str, STEPS) or last.lower() in _BASES)
        groups.setdefault(group if is_step else path, {})[last.lower() if is_step else "base"] = read.color.rgb
    return groups


def _colors(
    everything: Mapping[str, dict[str, Rgb]], aliases: Mapping[str, str], said: Mapping[str, Role] | None = None
) -> Iterator[KitColor]:
    """The colors of the first groups, as many as a kit holds; `said` are roles that are known."""
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
    names = UniqueNames()
    keys: set[str] = set()
    for group, steps in groups.items():
        words = " ".join(re.split(r"[\s._/-]+", group.rpartition(".")[2])) or group
        name = names.take(shortened(plain_name(words[:1].upper() + words[1:]), LONGEST_NAME - 4))
        key = key_for(name, keys)
        keys.add(key)
        base = bases[group]
        own = ramp(base)
        pins = tuple(
            PinnedStep(step=step, color=steps[str(step)])
            for step in STEPS
            if str(step) in steps and step != own.base_step and steps[str(step)] != own.at(step)
        )
        role = (said or {}).get(group) or given.get(group) or _role(group.rpartition(".")[2]) or proposed[group]
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


def _notes(found: TokenColors, made: int) -> tuple[str, ...]:
    notes = []
    if found.other:
        kinds = ", ".join(f"{count} {kind}" for kind, count in found.other.most_common(6))
        notes.append(f"Tokens that are no colors were left out: {kinds}.")
    if found.unread:
        notes.append(f"{len(found.unread)} color tokens cannot be read, such as {found.unread[0]}, and were left out.")
    clear = [path for path, read in found.colors.items() if read.color.alpha < 0.999]
    if clear:
        notes.append(f"{len(clear)} colors are see-through, such as {clear[0]}; they came in without their alpha.")
    wide = [path for path, read in found.colors.items() if read.outside]
    if wide:
        notes.append(f"{len(wide)} colors are outside of sRGB, such as {wide[0]}; the nearest ones inside came in.")
    return (*notes, *_too_many(made))


def _too_many(made: int) -> list[str]:
    left = made - MOST_COLORS
    return [f"A kit holds at most {MOST_COLORS} colors; {left} more were left out."] if left > 0 else []
