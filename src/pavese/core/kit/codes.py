"""Color codes in any text: what was recognised, where it stood, and what it was called there."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from pavese.core.color.naming import describe
from pavese.core.color.parse import try_color
from pavese.core.color.srgb import Rgb
from pavese.core.css import read_declarations, read_value
from pavese.core.unique_name import unique_name

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
_LOOKS_LIKE_CSS = re.compile(r"[^{}]*\{[^{}]*:[^{}]*[;}]", re.DOTALL)
_NAME_EDGES = " \t,;:=|()[]{}<>\"'`*•–—→>-_$@.#/\\"
_NO_NAMES = re.compile(r"\b(colou?rs?|hex|rgba?|clr|web|code)\b", re.IGNORECASE)
_PLAIN_WORD = re.compile(r"[^\W\d]")


@dataclass(frozen=True)
class FoundCode:
    """A color found in a text, once: its first place (line and column from 1), the code and name as written there.

    `certain` is False for six bare digits or letters, which may be a number or a word; `places` counts how often the
    color stood in the text.
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


@dataclass(frozen=True)
class _Hit:
    start: int
    code: str
    color: Rgb
    name: str | None
    certain: bool


def find_codes(text: str) -> tuple[FoundCode, ...]:
    """Every different color in a text, in the order of first appearance. Alpha is dropped.

    A style sheet is read as one, so that `#fade` as a selector is no color; any other text is searched line by
    line, and the words beside a code become its name. Text beyond the bounds above is not read.
    """
    text = text[:LONGEST_TEXT]
    hits = list(_in_css(text) if _LOOKS_LIKE_CSS.match(text) else _in_lines(text))
    names = _short_names(hits)
    line_starts = [0, *(match.end() for match in re.finditer(r"\r\n|\r|\n", text))]
    found: dict[Rgb, FoundCode] = {}
    at_line = 0
    for hit, name in sorted(zip(hits, names, strict=True), key=lambda pair: pair[0].start):
        while at_line + 1 < len(line_starts) and line_starts[at_line + 1] <= hit.start:
            at_line += 1
        known = found.get(hit.color)
        if known is not None:
            found[hit.color] = replace(
                known,
                name=known.name or name or "",
                named=known.named or name is not None,
                certain=known.certain or hit.certain,
                places=known.places + 1,
            )
        elif len(found) < MOST_CODES:
            start = line_starts[at_line]
            context = (text[start : start + 400].splitlines() or [""])[0].strip()[:120]
            found[hit.color] = FoundCode(
                hit.color,
                name or "",
                name is not None,
                hit.code,
                at_line + 1,
                hit.start - start + 1,
                context,
                hit.certain,
                1,
            )
    return tuple(_with_names(found.values()))


def _in_css(text: str) -> Iterator[_Hit]:
    for declaration in read_declarations(text):
        value = text[declaration.start : declaration.end]
        name = declaration.name if declaration.name.startswith("--") else None
        for literal in read_value(value).literals:
            start = declaration.start + literal.start
            code = value[literal.start : literal.end]
            yield _Hit(start, code, literal.color.rgb, name, True)


def _in_lines(text: str) -> Iterator[_Hit]:
    at = 0
    for line in text.splitlines(keepends=True):
        matches = [(match, color) for match in _CODE.finditer(line) if (color := try_color(_code(match)))]
        if matches:
            gaps = [
                line[start:end]
                for start, end in zip(
                    [0, *(match.end() for match, _ in matches)],
                    [*(match.start() for match, _ in matches), len(line)],
                    strict=True,
                )
            ]
            # Names stand before their codes, unless the line begins with a code and words follow.
            after = not _name(gaps[0]) and bool(_name(gaps[1]))
            for (match, color), gap in zip(matches, gaps[1:] if after else gaps[:-1], strict=True):
                certain = not match["bare"] or not (match["bare"].isdigit() or match["bare"].isalpha())
                yield _Hit(at + match.start(), match[0], color.rgb, _name(gap), certain)
        at += len(line)


def _code(match: re.Match[str]) -> str:
    return f"#{match['bare']}" if match["bare"] else match[0]


def _name(gap: str) -> str | None:
    """The words beside a code, when there are some and they are few enough to be a name."""
    words = gap.replace(";", ",").strip(_NAME_EDGES + "\r\n").split(",")
    best = words[-1].strip(_NAME_EDGES) if words else ""
    return best if _PLAIN_WORD.search(best) and len(best) <= 60 else None


def _short_names(hits: list[_Hit]) -> list[str | None]:
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
    return (text[:1].upper() + text[1:])[:60] if text else None


def _with_names(found: Iterable[FoundCode]) -> Iterator[FoundCode]:
    """Fills in a plain description where the text gave no name, and numbers names that came twice."""
    taken: set[str] = set()
    for code in found:
        stem = code.name or describe(code.color).capitalize()
        name = unique_name(stem, taken)
        taken.add(name.casefold())
        yield replace(code, name=name)
