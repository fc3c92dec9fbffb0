"""Parts of mails put together as their program does it: a template that extends another, and the partials in it.

Read is what languages of templates have in common; names that are made up while a mail is sent are left as they are.
What comes out is text for a picture, of which each character knows whose it is.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property, partial
from typing import NamedTuple

from pavese.core import limits
from pavese.core.formats.mail.code import Code, codes_in
from pavese.core.formats.references import named_template

_QUOTED = r"""["'](?P<quoted>[^"'\n]{1,200})["']"""
#: What a template is put into, by its code, or by what stands before its text.
_EXTENDS = re.compile(rf"\W*(?:(?:extends?|layout)\b[\s(]*{_QUOTED}|!<\s*(?P<bare>[\w./-]+))")
_LAYOUT = re.compile(r"^layout\s*:\s*[\"']?(?P<bare>[\w./-]+)", re.MULTILINE)
#: What is put into it.
_PUTS = re.compile(
    rf"\W*(?:(?:include|render|partial|template)\b[^\"'{{}}<>]{{0,40}}{_QUOTED}|include\s+(?P<bare>[\w./-]+\.\w+))"
)
_PARTIAL = re.compile(rf"\{{\{{\{{?~?\s*#?>\s*(?:{_QUOTED}|(?P<bare>[\w./-]+))")
#: What is put round a part of it.
_AROUND = re.compile(r"\{\{\{?~?\s*#>\s*[\"']?(?P<name>[^\"'\s{}]{1,200})")
#: Where what is put into a template goes as a whole.
_BODY = re.compile(r"(?:\{\{\{?|<%[-=])[~>\s]*@?(?:body|content|yield|partial-block)\b[^{}<>]{0,60}\W*")
#: A part that another replaces, by its name; where it ends, and where it shows what it replaced.
_BLOCK = re.compile(
    r"\{(?:%[-+~]?\s*block|\{~?#\s*(?:block|content))\s+[\"']?(?P<name>[\w.-]+)[\"']?(?:\s+(?:scoped|required))*\s*[-+~]?[%}]"
)
_END_BLOCK = re.compile(r"\{(?:%[-+~]?\s*endblock\b|\{~?/\s*(?:block|content)\b)")
_SUPER = re.compile(r"\{\{[-~]?\s*(?:block\.super|super\(\)|parent\(\))")
#: How deep parts stand in one another, and how many are put together at most.
_DEEPEST, _MOST = 8, 400
_BOM = "\xef\xbb\xbf"


class Span(NamedTuple):
    """Text that stands from `start` on in the whole, and from `of` on in the part that `reference` names ("": the file
    itself). `frame` is what stands around the file, not in it."""

    start: int
    end: int
    of: int
    reference: str
    frame: bool


class Whole:
    """A mail put together, its text and whose that is."""

    def __init__(self, spans: Sequence[Span], text: str) -> None:
        self.text, self.spans = text, spans
        self._starts = [one.start for one in spans]

    def span(self, at: int) -> Span:
        """Whose text stands at a place; where two meet, that of the later one."""
        return self.spans[max(bisect_right(self._starts, at) - 1, 0)]

    def own(self, start: int, end: int) -> tuple[int, int] | None:
        """Where in the file itself a place stands; None for what is not its own."""
        span = self.span(start)
        if span.reference or end > span.end:
            return None
        return start - span.start + span.of, end - span.start + span.of

    def of_own(self, at: int) -> int | None:
        """Where a place of the file itself stands first; None where it is not shown."""
        found = (one for one in self.spans if not one.reference and one.of <= at < one.of + one.end - one.start)
        return next((at - one.of + one.start for one in found), None)


@dataclass
class Template:
    """A text with code in it, and what that says of others."""

    text: str
    codes: Sequence[Code] = field(default_factory=list)

    @classmethod
    def of(cls, text: str) -> Template:
        """The same, with its code found."""
        return cls(text, codes_in(text))

    @cached_property
    def extends(self) -> str:
        """What it is put into, "" for nothing."""
        for one in self.codes:
            if (found := _EXTENDS.match(self.text, one.start, one.end)) is not None:
                return named_template(found["quoted"] or found["bare"])
        front = self.text[: self.begins]
        return named_template(found["bare"]) if (found := _LAYOUT.search(front)) is not None else ""

    @cached_property
    def begins(self) -> int:
        """Where it begins, behind what stands before all text."""
        first = self.codes[0] if self.codes else None
        in_front = first is not None and first.start == 0 and self.text.lstrip(_BOM).startswith("---")
        return first.end if first is not None and in_front else len(_BOM) * self.text.startswith(_BOM)

    def put(self, code: Code) -> str:
        """What a code puts there, "" for nothing that has a name."""
        for pattern in (_PARTIAL, _PUTS):
            if (found := pattern.match(self.text, code.start, code.end)) is not None:
                return named_template(found["quoted"] or found["bare"])
        return ""

    @cached_property
    def blocks(self) -> Mapping[int, tuple[str, Code]]:
        """The parts that others replace, by the place of the code with which each begins: its name and the code with
        which it ends."""
        return self._pairs(_BLOCK, lambda _: _END_BLOCK)

    @cached_property
    def rounds(self) -> Mapping[int, tuple[str, Code]]:
        """What is put round a part of it, in the same way."""
        return self._pairs(_AROUND, lambda name: re.compile(rf"\{{\{{~?/\s*[\"']?{re.escape(name)}\b"))

    def _pairs(self, begins: re.Pattern[str], ends: Callable[[str], re.Pattern[str]]) -> Mapping[int, tuple[str, Code]]:
        found: dict[int, tuple[str, Code]] = {}
        begun: list[tuple[int, str]] = []
        for one in self.codes:
            if (opened := begins.match(self.text, one.start, one.end)) is not None:
                begun.append((one.start, opened["name"]))
            elif begun and ends(begun[-1][1]).match(self.text, one.start, one.end):
                start, name = begun.pop()
                found[start] = (name, one)
        return found

    @property
    def refers(self) -> Iterator[str]:
        """The templates that it names."""
        return filter(None, (self.extends, *map(self.put, self.codes)))


class _Inner(NamedTuple):
    """A part of a template, from `start` to `end`; `frame` as in `Span`."""

    reference: str
    start: int
    end: int
    frame: bool


class _There(NamedTuple):
    """Where something is put: what stands there for blocks, for the body and for what was replaced, and how deep."""

    blocks: Mapping[str, _Inner] = {}
    body: _Inner | None = None
    replaced: _Inner | None = None
    level: int = 0


def framed(templates: Mapping[str, Template]) -> Whole | None:
    """The template that has the reference "" put together with those that it names, and that these name; None where
    none of them is, where it is not shown in what it extends, and where the whole would be longer than a mail may
    be."""
    made = _Framing(templates)
    made.put("", _There(), frame=False)
    own = {not one.reference for one in made.spans}
    return Whole(made.spans, "".join(made.said)) if len(own) == 2 and made.size <= limits.FILE_BYTES else None


class _Framing:
    """What is put together so far."""

    def __init__(self, templates: Mapping[str, Template]) -> None:
        self._templates = templates
        self.spans: list[Span] = []
        self.said: list[str] = []
        self.size = 0
        self._parts = 0

    def put(self, reference: str, there: _There, *, frame: bool) -> None:
        """A template, in what it is put into itself."""
        template = self._templates[reference]
        whole = _Inner(reference, template.begins, len(template.text), frame)
        if not template.extends or template.extends not in self._templates or there.level >= _DEEPEST:
            self._within(whole, there)
            return
        inside = there._replace(body=whole, level=there.level + 1)
        if template.blocks:
            ends = {code.start: code.end for code in template.codes}
            own = {
                name: _Inner(reference, ends[start], end.start, frame) for start, (name, end) in template.blocks.items()
            }
            # What replaces these goes before them.
            inside = inside._replace(blocks={**own, **there.blocks}, body=there.body)
        self.put(template.extends, inside, frame=True)

    def _within(self, inner: _Inner, there: _There) -> None:
        """A part of a template, with what goes into it."""
        template = self._templates[inner.reference]
        at = inner.start
        self._parts += 1
        for code in template.codes:
            if there.level >= _DEEPEST or self._parts >= _MOST or self.size > limits.FILE_BYTES:
                break
            if code.start < at or code.end > inner.end:
                continue
            found = self._meant(template, inner, code, there._replace(level=there.level + 1))
            if found is not None:
                self._say(inner, at, code.start)
                put, at = found
                put()
        self._say(inner, at, inner.end)

    def _meant(
        self, template: Template, inner: _Inner, code: Code, there: _There
    ) -> tuple[Callable[[], None], int] | None:
        """What a code puts there, and behind which place it goes on; None for code that stays."""
        name, end = template.blocks.get(code.start, ("", code))
        if (other := there.blocks.get(name)) is not None:
            own = inner._replace(start=code.end, end=end.start)
            return partial(self._within, other, there._replace(replaced=own)), end.end
        if there.replaced is not None and _SUPER.match(template.text, code.start, code.end):
            return partial(self._within, there.replaced, there._replace(replaced=None)), code.end
        if there.body is not None and _BODY.match(template.text, code.start, code.end):
            return partial(self._within, there.body, there._replace(body=None)), code.end
        reference = template.put(code)
        if not reference or reference not in self._templates:
            return None
        _, end = template.rounds.get(code.start, ("", code))
        body = None if end is code else inner._replace(start=code.end, end=end.start)
        into = _There(body=body, level=there.level)
        return partial(self.put, reference, into, frame=inner.frame or body is not None), end.end

    def _say(self, inner: _Inner, start: int, end: int) -> None:
        """Text of a template as it stands."""
        if start < end:
            self.spans.append(Span(self.size, self.size + end - start, start, inner.reference, inner.frame))
            self.said.append(self._templates[inner.reference].text[start:end])
            self.size += end - start
