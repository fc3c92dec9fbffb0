"""Conditions in template code: which parts of a mail are shown when what is asked holds, and which else.

Read are the words that languages of templates have in common (`if`, `unless`, `else`, ends by name, by `end` or by a
bracket); what does not fit together is no condition.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import NamedTuple

from pavese.core.formats.document import Condition
from pavese.core.formats.mail.code import MARKS, Code

#: What is shown where nothing that was asked before holds.
OTHERWISE = "otherwise"
#: The longest that is told of what is asked.
_LONGEST = 60
#: How far up it is looked for what an end belongs to, and the branches of one condition that are told.
_DEEPEST, _MOST_BRANCHES = 64, 40

_OPENS = sorted({one.opens for one in MARKS}, key=len, reverse=True)
_CLOSES = sorted({one.closes for one in MARKS}, key=len, reverse=True)
#: What only puts a value asks for nothing.
_PUT_ONLY = ("${", "#{", "@@", "<%=", "<%-")
_IF = re.compile(r"(?:(?:#\s?)?(?P<word>if|ifnot|unless)\b|#\s?(?P<helper>if\w+))[ :(]*(?P<asked>.+)", re.IGNORECASE)
_NONE = re.compile(r"\^\s?(?P<asked>\w.*)")
_ELSE = re.compile(r"[} ]*(?:(?:else ?-?if|elsif|elif)\b[ :(]*(?P<asked>.+)|else\b.*|\^)", re.IGNORECASE)
_END = re.compile(r"(?:/ ?|end:? ?)(?P<name>\w*).*|[} ]+\)?", re.IGNORECASE)
#: Other code that stands round a part, and ends as conditions do.
_BLOCK = re.compile(r"#\s?(?P<named>\w+)|(?P<word>for|foreach|each|range|with|block|define|while|case|switch)\b", re.I)
_OPEN_END = re.compile(r"(?:\{|\bdo(?: ?\|[^|]{0,60}\|)?)$")
#: What ends a question in languages in which a block begins there.
_THEN = re.compile(r"(?: ?\) ?[{:]| ?[{:]| then| do)$", re.IGNORECASE)


class Branch(NamedTuple):
    """A part of a mail between code, from `start` to `end`, that is shown in one case."""

    words: str
    start: int
    end: int


class Case(NamedTuple):
    """One place at which something is asked, and its branches."""

    words: str
    branches: tuple[Branch, ...]


class _Opened(NamedTuple):
    """A branch that is begun at `start`, behind code that begins at `code`."""

    words: str
    code: int
    start: int


class _Begun(NamedTuple):
    """Code that stands round a part, by its word; a condition has branches."""

    name: str
    asked: str = ""
    branches: tuple[_Opened, ...] = ()

    def then(self, words: str, code: Code) -> _Begun:
        """With one more branch, behind code."""
        return self._replace(branches=(*self.branches, _Opened(words, code.start, code.end)))


def cases_in(text: str, codes: Sequence[Code]) -> tuple[Case, ...]:
    """Every place of a text at which its code asks for something, in the order of their ends."""
    return tuple(_cases(text, codes))


def conditions_of(cases: Iterable[Case]) -> tuple[Condition, ...]:
    """What is asked in any of them, each once, with all branches that it has anywhere."""
    found: dict[str, dict[str, None]] = {}
    for one in cases:
        found.setdefault(one.words, {one.words: None}).update((branch.words, None) for branch in one.branches)
    last = (OTHERWISE,)
    return tuple(
        Condition(words, (*(one for one in branches if one not in last), *last)) for words, branches in found.items()
    )


def not_shown(cases: Iterable[Case], chosen: Mapping[str, str]) -> Iterator[tuple[int, int]]:
    """What is left out when of some conditions, by their words, one branch is chosen, by its own: all others of it. A
    place that does not have that branch shows what it shows otherwise."""
    for one in cases:
        if (wanted := chosen.get(one.words)) is None:
            continue
        shown = wanted if any(branch.words == wanted for branch in one.branches) else OTHERWISE
        yield from ((branch.start, branch.end) for branch in one.branches if branch.words != shown)


def _cases(text: str, codes: Sequence[Code]) -> Iterator[Case]:
    begun: list[_Begun] = []
    for code in codes:
        said = _said(text[code.start : code.end])
        if (found := _ELSE.fullmatch(said)) is not None:
            if begun and 0 < len(begun[-1].branches) < _MOST_BRANCHES:
                last = begun[-1]
                # Behind what is shown where something does not hold comes what is shown where it does.
                rest = OTHERWISE if last.branches[0].words != OTHERWISE else last.asked
                begun[-1] = last.then(_words(found["asked"]) if found["asked"] else rest, code)
        elif (one := _condition(said)) is not None:
            asked, name, negated = one
            begun.append(_Begun(name, asked).then(OTHERWISE if negated else asked, code))
        elif (found := _END.fullmatch(said)) is not None:
            ended = _ended(begun, _named(found["name"] or ""))
            if ended is not None and ended.branches:
                yield Case(ended.asked, tuple(_branches(ended, code.start)))
        elif (found := _BLOCK.match(said)) is not None:
            begun.append(_Begun(_named(found["named"] or found["word"])))
        elif _OPEN_END.search(said[-80:]):
            begun.append(_Begun(""))


def _condition(said: str) -> tuple[str, str, bool] | None:
    """What code asks, the name by which that ends, and whether its part is shown where it does not hold."""
    if (found := _IF.fullmatch(said)) is not None:
        word = found["word"] or found["helper"]
        asked = _words(found["asked"])
        return (
            f"{word} {asked}"[:_LONGEST] if found["helper"] else asked,
            _named(word),
            word.lower() in ("unless", "ifnot"),
        )
    if (found := _NONE.fullmatch(said)) is not None:
        return _words(found["asked"]), _named(re.split(r"\W", found["asked"])[0]), True
    return None


def _named(word: str) -> str:
    return "if" if word.lower() == "ifnot" else word.lower()


def _ended(begun: list[_Begun], name: str) -> _Begun | None:
    """What an end belongs to: the last that was begun, or the last of that name."""
    near = range(len(begun) - 1, max(len(begun) - 1 - _DEEPEST, -1), -1)
    at = next((one for one in near if not name or begun[one].name == name), None)
    if at is None:
        return None
    found = begun[at]
    del begun[at:]
    return found


def _branches(begun: _Begun, end: int) -> Iterator[Branch]:
    starts = [*(one.code for one in begun.branches[1:]), end]
    for one, stop in zip(begun.branches, starts, strict=True):
        yield Branch(one.words, one.start, stop)
    for words in {begun.asked, OTHERWISE} - {one.words for one in begun.branches}:
        yield Branch(words, end, end)


def _said(code: str) -> str:
    """What code says between its marks, in one line."""
    if code.startswith(_PUT_ONLY):
        return ""
    opens = next((one for one in _OPENS if code.startswith(one)), "")
    closes = next((one for one in _CLOSES if code.endswith(one)), "")
    words = " ".join(code[len(opens) : len(code) - len(closes)].strip("-~; \t\r\n").split())
    return words.removeprefix("php ")


def _words(asked: str) -> str:
    """A question in short, without what ends it."""
    said = _THEN.sub("", asked)
    return (said[:-1] if said.count(")") > said.count("(") else said).strip()[:_LONGEST]
