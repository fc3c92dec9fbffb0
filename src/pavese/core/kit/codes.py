"""Color codes in any text: what was recognised, where it stood, and what it was called there."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from pavese.core.color.naming import describe
from pavese.core.color.notations import MANUAL, read_manual
from pavese.core.color.parse import try_color
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.css import read_declarations, read_value
from pavese.core.kit.plain import shortened
from pavese.core.unique_name import UniqueNames

#: Most characters read, and most different colors given back.
LONGEST_TEXT = 2_000_000
MOST_CODES = 10_000

_CODE = re.compile(
    r"""
    (?P<function>\b(?:rgba?|hsla?|hsb|hsv|cmyk|hwb|oklch|oklab|lch|lab|color)\([^()\n]{3,120}\))
  | (?<![\w&/\#])(?P<hash>\#(?:[0-9a-f]{8}|[0-9a-f]{6}|[0-9a-f]{3,4}))(?![\w-])
  | (?<![\w\#./=-])(?P<bare>[0-9a-f]{6})(?![\w-])
    """,
    re.VERBOSE | re.IGNORECASE,
)
#: What begins like a code and is none.
_ODD = re.compile(r"(?<![\w&/\#])\#(?:[0-9a-f]{5}|[0-9a-f]{7}|[0-9a-f]{9,12})(?![\w-])", re.IGNORECASE)
#: A number of a spot-color system: a name, digits, and the paper it is for, or three capitals and digits beside a code.
_SPOT = re.compile(r"\b[A-Z][A-Za-z]{1,11}[®™]?\s?\d{2,5}\s?(?:CP|UP|C|U)\b")
_SPOT_BESIDE = re.compile(r"\b(?!RGB|HEX|HSB|HSV|HSL)[A-Z]{3}\s\d{1,4}(?:\s[A-Z])?\b")
_SPOT_WHY = "a number of a spot-color system: its owner says which screen color it is, or measure a print of it"
#: Words before a number sign that is no color's.
_COUNTED = re.compile(
    r"\b(order|no|nr|number|ticket|issue|item|invoice|bug|case|room|page|ref)[.:]?\s*$", re.IGNORECASE
)
#: Channels by which a color written in whole degrees and percents may be off.
_ROUNDED = 4
_MOST_UNTAKEN = 200
_LOOKS_LIKE_CSS = re.compile(r"[^{}]*\{[^{}]*:[^{}]*[;}]", re.DOTALL)
_NAME_EDGES = " \t,;:=|()[]{}<>\"'`*•–—→>-_$@.#/\\"
_NO_NAMES = re.compile(r"\b(colou?rs?|hex|rgba?|cmyk|hsl|hsb|hsv|clr|web|code|screen|print)\b", re.IGNORECASE)
_PLAIN_WORD = re.compile(r"[^\W\d]")


@dataclass(frozen=True)
class FoundCode:
    """A color found in a text, once: its first place (line and column from 1), the code and name as written there.

    `certain` is False for what may be a number or a word; `places` counts how often the color stood in the text;
    `alpha` is what it had there, in its first place.
    """

    color: Rgb
    name: str
    named: bool
    code: str
    line: int
    column: int
    context: str
    certain: bool
    places: int
    alpha: float = 1.0


@dataclass(frozen=True)
class Untaken:
    """What looks like a code and was not taken: its line (from 1), as it is written, and why."""

    line: int
    text: str
    why: str


class Kind(StrEnum):
    """How a code is written: numbers in whole degrees and percents are rounded, CMYK is a print color."""

    SCREEN = "screen"
    ROUNDED = "rounded"
    PRINT = "print"


@dataclass(frozen=True)
class Hit:
    """A code at its place (start and end in the text), with the name beside it."""

    start: int
    code: str
    color: Rgba
    name: str | None
    certain: bool
    kind: Kind = Kind.SCREEN

    @property
    def end(self) -> int:
        """Where it ends."""
        return self.start + len(self.code)


def find_codes(text: str) -> tuple[FoundCode, ...]:
    """Every different color in a text, in the order of first appearance.

    A style sheet is read as one, so that `#fade` as a selector is no color; any other text is searched line by
    line, and the words beside a code become its name. A color that a brand manual gives in several notations, on one
    line or on lines of its own under its name, is one. Text beyond the bounds above is not read.
    """
    text = text[:LONGEST_TEXT]
    hits = hits_in(text)
    names = _short_names(hits)
    line_starts = [0, *(match.end() for match in re.finditer(r"\r\n|\r|\n", text))]
    found: dict[Rgb, FoundCode] = {}
    at_line = 0
    for hit, name in sorted(zip(hits, names, strict=True), key=lambda pair: pair[0].start):
        while at_line + 1 < len(line_starts) and line_starts[at_line + 1] <= hit.start:
            at_line += 1
        known = found.get(hit.color.rgb)
        if known is not None:
            found[hit.color.rgb] = replace(
                known,
                name=known.name or name or "",
                named=known.named or name is not None,
                certain=known.certain or hit.certain,
                places=known.places + 1,
            )
        elif len(found) < MOST_CODES:
            start = line_starts[at_line]
            context = (text[start : start + 400].splitlines() or [""])[0].strip()[:120]
            found[hit.color.rgb] = FoundCode(
                hit.color.rgb,
                name or "",
                name is not None,
                hit.code,
                at_line + 1,
                hit.start - start + 1,
                context,
                hit.certain,
                1,
                hit.color.alpha,
            )
    return with_names(found.values())


def hits_in(text: str) -> list[Hit]:
    """Every code in a text, each time it stands there."""
    return list(_in_css(text) if _LOOKS_LIKE_CSS.match(text) else _in_lines(text))


def untaken_in(text: str) -> tuple[Untaken, ...]:
    """What looks like a code and was not taken, the first of it; in style sheets nothing does."""
    text = text[:LONGEST_TEXT]
    if _LOOKS_LIKE_CSS.match(text):
        return ()
    found: list[Untaken] = []
    for number, line in enumerate(text.splitlines(), 1):
        taken, refused = _read_line(line)
        spots = [*_SPOT.finditer(line), *(_SPOT_BESIDE.finditer(line) if taken else ())]
        for match in spots:
            if not any(start < match.end() and match.start() < end for start, end, _ in refused):
                refused.append((match.start(), match.end(), _SPOT_WHY))
        for start, end, why in sorted(refused):
            found.append(Untaken(number, line[start:end].strip()[:60], why))
        if len(found) >= _MOST_UNTAKEN:
            break
    return tuple(found[:_MOST_UNTAKEN])


def _in_css(text: str) -> Iterator[Hit]:
    for declaration in read_declarations(text):
        value = text[declaration.start : declaration.end]
        name = declaration.name if declaration.name.startswith("--") else None
        for literal in read_value(value).literals:
            start = declaration.start + literal.start
            code = value[literal.start : literal.end]
            yield Hit(start, code, literal.color, name, True)


def _in_lines(text: str) -> Iterator[Hit]:
    """Codes line by line; lines that give one color in further notations are read with the one above."""
    at = 0
    block: list[Hit] = []
    heading: str | None = None
    above = ""
    for line in text.splitlines(keepends=True):
        hits = [replace(hit, start=at + hit.start) for hit in _named(line)]
        goes_on = len(hits) == 1 and hits[0].name is None and block and hits[0].kind not in {one.kind for one in block}
        if hits and not goes_on:
            yield from _one_color(block, heading)
            block, heading = [], _heading(above)
        block += hits
        if not hits and block:
            yield from _one_color(block, heading)
            block, heading = [], None
        above = "" if hits else line
        at += len(line)
    yield from _one_color(block, heading)


def _named(line: str) -> list[Hit]:
    """The codes of a line with the names beside them."""
    taken, _ = _read_line(line)
    if not taken:
        return []
    gaps = [
        line[start:end]
        for start, end in zip([0, *(hit.end for hit in taken)], [*(hit.start for hit in taken), len(line)], strict=True)
    ]
    # Names stand before their codes, unless the line begins with a code and words follow.
    after = not _name(gaps[0]) and bool(_name(gaps[1]))
    named = zip(taken, gaps[1:] if after else gaps[:-1], strict=True)
    return [replace(hit, name=_name(gap)) for hit, gap in named]


def _read_line(line: str) -> tuple[list[Hit], list[tuple[int, int, str]]]:
    """The codes of a line, in order, and what looks like one and is none: from where to where, and why."""
    taken: list[Hit] = []
    refused: list[tuple[int, int, str]] = []
    for match in _CODE.finditer(line):
        color = try_color(f"#{match['bare']}" if match["bare"] else match[0])
        if color is not None:
            kind = Kind.PRINT if match[0].lower().startswith("cmyk") else Kind.SCREEN
            taken.append(Hit(match.start(), match[0], color, None, _is_certain(match, line), kind))
        elif match["function"]:
            refused.append((match.start(), match.end(), "these numbers are no color"))
    for match in MANUAL.finditer(line):
        read = read_manual(match[0])
        if isinstance(read, str):
            refused.append((match.start(), match.end(), read))
        elif read is not None:
            taken.append(Hit(match.start(), match[0], Rgba(*read), None, True, _kind_of(match[0])))
    refused += [(m.start(), m.end(), "a # is followed by 3, 4, 6 or 8 digits in a color") for m in _ODD.finditer(line)]
    return _apart(sorted(taken, key=lambda hit: hit.start)), refused


def _apart(hits: Sequence[Hit]) -> list[Hit]:
    """Codes that do not overlap: of two that do, the one that begins first."""
    found: list[Hit] = []
    for hit in hits:
        if not found or found[-1].end <= hit.start:
            found.append(hit)
    return found


def _is_certain(match: re.Match[str], line: str) -> bool:
    """Six bare digits or letters may be a number or a word, and a number sign before few digits a number."""
    if match["bare"]:
        return not (match["bare"].isdigit() or match["bare"].isalpha())
    digits = (match["hash"] or "")[1:]
    if digits.isdigit() and _COUNTED.search(line[: match.start()]):
        return False
    return not (digits.isdigit() and len(digits) < 6 and len(set(digits)) > 1)


def _kind_of(code: str) -> Kind:
    first = code[0].lower()
    return Kind.PRINT if first == "c" else Kind.ROUNDED if first == "h" else Kind.SCREEN


def _one_color(block: Sequence[Hit], heading: str | None) -> list[Hit]:
    """What a block of codes holds: print colors go with the color beside them, rounded numbers with what they are
    rounded from. The line above names them if they are one color."""
    screen = [hit for hit in block if hit.kind is Kind.SCREEN]
    printed = [hit for hit in block if hit.kind is Kind.PRINT]
    left = [
        hit
        for hit in block
        if not (hit.kind is Kind.PRINT and len(printed) < len(block))
        and not (hit.kind is Kind.ROUNDED and any(_near(hit.color, other.color) for other in screen))
    ]
    name = heading if len({hit.color.rgb for hit in left}) == 1 else None
    return [replace(hit, name=hit.name or name) for hit in left]


def _near(one: Rgba, other: Rgba) -> bool:
    return max(abs(a - b) for a, b in zip(one.rgb, other.rgb, strict=True)) <= _ROUNDED


def _heading(line: str) -> str | None:
    """The line above a color, where it may be its name."""
    words = line.strip()
    return _name(words) if words and len(words) <= 40 and not words.endswith((".", "!", "?")) else None


def _name(gap: str) -> str | None:
    """The words beside a code, when there are some and they are few enough to be a name."""
    words = gap.replace(";", ",").strip(_NAME_EDGES + "\r\n").split(",")
    best = words[-1].strip(_NAME_EDGES) if words else ""
    said = _PLAIN_WORD.search(_NO_NAMES.sub("", best))
    return best if said and len(best) <= 60 else None


def _short_names(hits: list[Hit]) -> list[str | None]:
    """Names as a person would write them: `--brand-deep-water` of a list of `--brand-…` becomes Deep water."""
    split = [_words(hit.name) if hit.name else [] for hit in hits]
    named = [words for words in split if words]
    shared = 0
    if len({tuple(words) for words in named}) > 1:
        while all(len(words) > shared + 1 and words[shared] == named[0][shared] for words in named):
            shared += 1
    return [_sentence(words[shared:]) if words else None for words in split]


def _words(name: str) -> list[str]:
    return [word for word in re.split(r"[\s_]+|(?<=\w)-+(?=\w)", name.strip(_NAME_EDGES)) if word]


def _sentence(words: list[str]) -> str | None:
    text = " ".join(_NO_NAMES.sub("", " ".join(words)).split()) or " ".join(words)
    return shortened(text[:1].upper() + text[1:]) if text else None


def with_names(found: Iterable[FoundCode]) -> tuple[FoundCode, ...]:
    """Fills in a plain description where the text gave no name, and numbers names that came twice."""
    names = UniqueNames()
    return tuple(replace(code, name=names.take(code.name or describe(code.color).capitalize())) for code in found)
