"""Template code in a mail: where it stands, so that it is cut out of the reading and left byte for byte.

What opens and closes code is a table; a new kind of mark is a line in it.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import NamedTuple

#: The longest code that is looked for; what closes later does not belong to what opened.
_LONGEST = 4_000
#: How much is told of what a value is called.
_LONGEST_NAME = 24


class Mark(NamedTuple):
    """What code stands between; `put` says that it puts a value in its place, as a rule."""

    opens: str
    closes: str
    put: bool = True
    #: What the code may be made of; regular expression.
    inside: str = r"[\s\S]"


#: Longer openings stand before those that they begin with.
MARKS: tuple[Mark, ...] = (
    Mark("{{{", "}}}"),
    Mark("{{!--", "--}}", put=False),
    Mark("{{", "}}"),
    Mark("{%", "%}", put=False),
    Mark("{#", "#}", put=False, inside=r"[^\n{}]"),
    Mark("<%=", "%>"),
    Mark("<%-", "%>"),
    Mark("<%", "%>", put=False),
    Mark("<?=", "?>"),
    Mark("<?", "?>", put=False),
    Mark("[[", "]]", inside=r"[^\[\]<>]"),
    Mark("${", "}", inside=r"[^{}<>]"),
    Mark("#{", "}", inside=r"[^{}<>;:]"),
    Mark("*|", "|*", inside=r"[^|<>]"),
    Mark("%%", "%%", inside=r"[\w .:\-()=@]"),
    Mark("@@", "@@", inside=r"[\w .:\-]"),
)
#: What generators of pages and mails read before the text, between lines of three hyphens.
_FRONT = re.compile(r"\A\ufeff?---[ \t]*\r?\n(?:.*\r?\n){0,200}?---[ \t]*(?:\r?\n|\Z)")
_OPENS = re.compile("|".join(re.escape(one.opens) for one in MARKS))
_BY_OPENING = {one.opens: one for one in MARKS}
#: Code that puts nothing: conditions, repetitions, and what they end with.
_SILENT = re.compile(r"\{\{[{~]?\s*(?:[#/^!>]|else\b|end\b|if\b|range\b|with\b)")
#: What stands between two such is for those who write it.
_COMMENT, _COMMENT_END = re.compile(r"-?\s*comment\b[^{}]*"), re.compile(r"\{%-?\s*endcomment\s*-?%\}")
_WORDS = re.compile(r"[\w.\- ]*\w")
#: Code that puts a sentence in the language of its reader, by a word that asks for it or a filter behind it, and not
#: into a name for later.
_STRING = r"""(?:"((?:[^"\\]|\\.)*+)"|'((?:[^'\\]|\\.)*+)')"""
_ASKS = r"(?:_|__|_e|t|T|tr|Tr|trans|translate|n?gettext|i18n|lang)"
_TRANSLATED = re.compile(
    rf"(?:[^\w\"'#!/]|php\b|echo\b)*+"
    rf"(?:(?:[\w$]*\.)*{_ASKS}[\s(]\s*{_STRING}(?![^%]*\sas\s+\w+\s*-?\Z)|{_STRING}\s*\|\s*{_ASKS}\b)"
)
#: What stands for a sentence that is written elsewhere: `mail.greeting`.
_KEY = re.compile(r"\.?\w+(?:[.:]\w+)+|\.\w+|[^\W_]*+_\w*+")
_TAGS, _ESCAPED = re.compile(r"<[^<>]*>"), re.compile(r"\\(.)", re.DOTALL)
#: Code by which a text is put into another, or others into it, as languages name it.
_FRAMES = re.compile(
    r"\{\{\s*[#!]?\s*[<>]|\W*(?:extends?|layout|block|define|content_for|contentFor|include|partial|template|render|yield|"
    r"load|import|macro|embed|component|slot)\b"
)


class Code(NamedTuple):
    """Template code from `start` to `end`. `words` names the value that it puts there, in short; `sentence` is what it
    puts as it stands there, unless in another language. Both are "" where it puts nothing."""

    start: int
    end: int
    words: str
    sentence: str = ""

    @property
    def letters(self) -> int:
        """About how many letters it puts."""
        return len(self.sentence or self.words)


def codes_in(text: str) -> Sequence[Code]:
    """All code of a text, in its order."""
    front = _FRONT.match(text)
    found = [Code(0, front.end(), "")] if front else []
    at = front.end() if front else 0
    #: Whether there may be an end to a comment behind the place that is reached.
    comments = True
    while (opened := _OPENS.search(text, at)) is not None:
        mark = _BY_OPENING[opened[0]]
        at = opened.end()
        end = text.find(mark.closes, at + 1, at + _LONGEST)
        inside = text[at:end]
        if end < 0 or not re.fullmatch(f"{mark.inside}+", inside):
            at = opened.start() + 1
            continue
        at = end + len(mark.closes)
        if comments and mark.opens == "{%" and _COMMENT.fullmatch(inside):
            ended = _COMMENT_END.search(text, at)
            comments = ended is not None
            at = at if ended is None else ended.end()
        words, sentence = _put(text[opened.start() : end], inside, mark)
        found.append(Code(opened.start(), at, words[:_LONGEST_NAME], sentence))
    return found


def _put(code: str, inside: str, mark: Mark) -> tuple[str, str]:
    """What code puts: the name of a value, or a sentence."""
    if translated := _TRANSLATED.match(code):
        sentence = _ESCAPED.sub(r"\1", next(filter(None, translated.groups()), ""))
        return (sentence, "") if _KEY.fullmatch(sentence) else ("", _TAGS.sub("", sentence))
    if not mark.put or _SILENT.match(code):
        return "", ""
    words = _WORDS.search(inside)
    return words[0].strip() if words else "…", ""


def is_part(text: str, codes: Sequence[Code]) -> bool:
    """Whether the code of a text says that it is put together with others; what it puts in or asks says nothing."""
    return any(_FRAMES.match(text, one.start, one.end) for one in codes)


def without(text: str, codes: Sequence[Code]) -> str:
    """The text with blanks in the place of code, as long as it was."""
    parts: list[str] = []
    at = 0
    for code in codes:
        parts += (text[at : code.start], " " * (code.end - code.start))
        at = code.end
    return "".join((*parts, text[at:]))
