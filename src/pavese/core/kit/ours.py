"""Is this one of ours? How far any color is from the kit, and which kit color is the nearest."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from enum import StrEnum

from pavese.core.color.difference import differences
from pavese.core.color.parse import try_written
from pavese.core.color.srgb import Rgb
from pavese.core.kit.codes import hits_in
from pavese.core.kit.kit import Kit, members
from pavese.core.kit.rules import Rules
from pavese.core.kit.token import Token


class Verdict(StrEnum):
    """How far a color is from the kit: of it, a drift of one of its colors, or off altogether."""

    OURS = "ours"
    NEAR = "near"
    OFF = "off"


def verdict(difference: float, rules: Rules) -> Verdict:
    """What a difference (CIEDE2000) from the nearest kit color means by the kit's rules."""
    if difference < rules.same:
        return Verdict.OURS
    return Verdict.NEAR if difference < rules.near else Verdict.OFF


def nearest(colors: Sequence[Rgb], kit: Kit) -> list[tuple[Token, Rgb, float] | None]:
    """For each color the nearest token, its color and the difference (CIEDE2000); None in a kit without colors."""
    own = members(kit)
    if not own:
        return [None] * len(colors)
    palette = list(own)
    table = differences(colors, palette)
    best = table.argmin(axis=1).tolist()
    return [(own[palette[at]], palette[at], float(table[row, at])) for row, at in enumerate(best)]


def asked_for(text: str, kit: Kit) -> list[tuple[str, Rgb]]:
    """The colors that a text asks for, as they are written there, each time they are.

    The kit's own names come first: `Plum` is the kit's Plum where it has one, `Teal 300` its step. A piece of a list
    that holds no code and is no such name is a color where it is a name of CSS.
    """
    names = _names(kit)
    found: list[tuple[str, Rgb]] = []
    for piece in _pieces(text):
        words = piece.strip()
        if (own := names.get(_plain(words))) is not None:
            found.append((words, own))
        elif (whole := try_written(words)) is not None:
            found.append((words, whole.rgb))
        else:
            found += _beside_each_other(words, names)
    return found


def _beside_each_other(text: str, names: Mapping[str, Rgb]) -> Iterator[tuple[str, Rgb]]:
    """Codes and names of the kit that stand in one text; a name alone before a code is what that code is called."""
    longest_first = sorted(names, key=len, reverse=True)
    any_name = re.compile(rf"(?<!\w)(?:{'|'.join(map(re.escape, longest_first)) or '(?!)'})(?!\w)", re.IGNORECASE)

    def named(part: str) -> Iterator[tuple[str, Rgb]]:
        return ((match[0], names[_plain(match[0])]) for match in any_name.finditer(part))

    start = 0
    for hit in sorted(hits_in(text), key=lambda hit: hit.start):
        gap = text[start : hit.start]
        if _plain(gap.strip(" ,:=-")) not in names:
            yield from named(gap)
        yield hit.code, hit.color.rgb
        start = hit.end
    yield from named(text[start:])


def _pieces(text: str) -> Iterator[str]:
    """The parts of a list; commas within brackets do not part."""
    start = depth = 0
    for match in re.finditer(r"[()]|[\n\r;]+|,(?=\s*[^\d\s.%-])", text):
        if match[0] in "()":
            depth += 1 if match[0] == "(" else -1
        elif depth <= 0 or match[0][0] in "\n\r":
            yield text[start : match.start()]
            start, depth = match.end(), 0
    yield text[start:]


def _names(kit: Kit) -> dict[str, Rgb]:
    found: dict[str, Rgb] = {}
    for token, color in kit.tokens():
        for words in (kit.title(token), kit.label(token), str(token)):
            found.setdefault(_plain(words), color)
    for one in kit.colors:
        # The base answers by its step, too.
        found.setdefault(_plain(f"{one.name} {one.ramp.base_step}"), one.base)
    return found


def _plain(words: str) -> str:
    return " ".join(words.casefold().split())
