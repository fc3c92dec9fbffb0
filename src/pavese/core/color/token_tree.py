"""The colors of a file of design tokens (Design Tokens Community Group, Format and Color modules 2025.10): tokens in
groups that may be nested, with types that are handed down, and aliases that lead to other tokens."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any, NamedTuple

from pavese.core.color.token_value import TokenColor, token_color
from pavese.core.errors import UnreadableTokensError

#: Most color tokens that are read, many more than a kit holds.
MOST_TOKENS = 1_500
_DEEPEST = 64
_ALIAS = re.compile(r"\{([^{}]+)\}")


@dataclass
class TokenColors:
    """The colors by their paths, `a.b.c`; the aliases with the path each leads to; how many tokens of other types
    there are; color tokens that cannot be read; and what is wrong with aliases that lead nowhere, in words."""

    colors: dict[str, TokenColor] = field(default_factory=dict)
    aliases: dict[str, str] = field(default_factory=dict)
    other: Counter[str] = field(default_factory=Counter)
    unread: list[str] = field(default_factory=list)
    broken: list[str] = field(default_factory=list)


class _Leaf(NamedTuple):
    kind: str | None
    value: Any


def colors_of_tokens(tree: Any) -> TokenColors:
    """All color tokens of a tree, in its order. Raises UnreadableTokensError for what is beyond the bounds."""
    leaves = dict(_leaves(tree, (), None)) if isinstance(tree, dict) else {}
    found = TokenColors()
    for path in leaves:
        end = _followed(path, leaves)
        if isinstance(end, str):
            found.broken.append(end)
            continue
        target, kind, value = end
        if kind not in ("color", None):
            found.other[kind] += 1
            continue
        read = token_color(value)
        if read is None:
            found.unread += [path] if kind == "color" else []
        elif target != path:
            found.aliases[path] = target
        elif len(found.colors) >= MOST_TOKENS:
            raise UnreadableTokensError(
                f"it has more than {MOST_TOKENS:,} colors; take the part that is the brand's own."
            )
        else:
            found.colors[path] = read
    return found


def _leaves(node: Mapping[str, Any], path: tuple[str, ...], kind: str | None) -> Iterator[tuple[str, _Leaf]]:
    if len(path) > _DEEPEST:
        raise UnreadableTokensError(f"the tokens are nested deeper than {_DEEPEST} groups.")
    kind = node["$type"] if isinstance(node.get("$type"), str) else kind
    if "$value" in node and path:
        yield ".".join(path), _Leaf(kind, node["$value"])
        return
    for key, child in node.items():
        if not key.startswith("$") and isinstance(child, dict):
            yield from _leaves(child, (*path, key), kind)


def _followed(path: str, leaves: Mapping[str, _Leaf]) -> tuple[str, str | None, Any] | str:
    """Where a chain of aliases ends: the path, type and value there (the nearest type along the chain counts), or what
    is wrong with it, in words."""
    seen = [path]
    kind = leaves[path].kind
    while True:
        value = leaves[seen[-1]].value
        alias = _ALIAS.fullmatch(value.strip()) if isinstance(value, str) else None
        if alias is None:
            return seen[-1], kind, value
        if alias[1] in seen:
            circle = " → ".join([*seen[seen.index(alias[1]) :], alias[1]])
            return f"these tokens point to each other in a circle: {circle}."
        if alias[1] not in leaves:
            return f"{seen[-1]} points to {alias[1]}, which is not there."
        seen.append(alias[1])
        kind = kind or leaves[alias[1]].kind
