"""Conditions of templates: of each the branches are found, in whatever language it is written, and one is shown."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import NamedTuple

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.parse import parse_color
from pavese.core.formats.mail.code import codes_in
from pavese.core.formats.mail.conditions import OTHERWISE, cases_in, conditions_of
from pavese.core.formats.mail.document import read_mail
from pavese.core.formats.mail.sent import read_sent
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.samples import Samples
from tests.formats.mails import sent, sent_part

RED, BLUE = parse_color("#c41e3a"), parse_color("#102030").rgb


def branches(text: str) -> list[tuple[str, dict[str, str]]]:
    """What is asked in a text, and what stands in each branch."""
    cases = cases_in(text, codes_in(text))
    return [(one.words, {branch.words: text[branch.start : branch.end] for branch in one.branches}) for one in cases]


@pytest.mark.parametrize(
    ("text", "asked", "found"),
    [
        ("{% if a.b == 'x' %}A{% elif c %}B{% else %}C{% endif %}", "a.b == 'x'", ("A", "B", "C")),
        ("{%- if a -%}A{%- elsif b -%}B{%- endif -%}", "a", ("A", "B", "")),
        ("{% for x in y %}a{% else %}b{% endfor %}{% if q %}A{% endif %}", "q", ("A", "")),
        ("{{#if vip}}A{{else if gold}}B{{else}}C{{/if}}", "vip", ("A", "B", "C")),
        ("{{~#if vip~}}A{{~/if~}}", "vip", ("A", "")),
        ("{{#ifSame a b}}A{{else}}B{{/ifSame}}", "ifSame a b", ("A", "B")),
        ("{{#each rows}}{{#if this}}A{{/if}}{{else}}none{{/each}}", "this", ("A", "")),
        ("{{#rows}}x{{/rows}}{{^rows}}A{{/rows}}", "rows", ("", "A")),
        ("{{if .A}}{{range .L}}x{{else}}y{{end}}{{else}}B{{end}}", ".A", ("{{range .L}}x{{else}}y{{end}}", "B")),
        ("<% if (a && b()) { %>A<% } else if (c) { %>B<% } else { %>C<% } %>", "a && b()", ("A", "B", "C")),
        ("<% rows.each do |row| %><% if row %>A<% else %>B<% end %><% end %>", "row", ("A", "B")),
        ("<% rows.forEach(function (row) { %><% if (row) { %>A<% } %><% }); %>", "row", ("A", "")),
        ("<?php if ($a): ?>A<?php else: ?>B<?php endif; ?>", "$a", ("A", "B")),
        ("<?php if ($a) { ?>A<?php } ?>", "$a", ("A", "")),
        ("*|IF:NAME|*A*|ELSEIF:FIRST|*B*|ELSE:|*C*|END:IF|*", "NAME", ("A", "B", "C")),
        ("*|IFNOT:NAME|*B*|END:IF|*", "NAME", ("", "B")),
        ("{% unless a %}B{% else %}A{% endunless %}", "a", ("A", "B")),
        ("{{#unless a}}B{{/unless}}", "a", ("", "B")),
    ],
)
def test_conditions_are_found_in_many_languages(text: str, asked: str, found: tuple[str, ...]) -> None:
    [(words, told)] = branches(text)
    assert words == asked
    assert told[asked] == found[0]
    assert told[OTHERWISE] == found[-1]
    assert sorted(told.values()) == sorted(found)


@pytest.mark.parametrize(
    "text",
    [
        "{% if a %}A",
        "A{% endif %}",
        "{{ end_date }}{{ else_text }}{{ iffy }}",
        "{% set a = 1 if b %}",
        "<%= a if b %>A<% end %>",
        "${if(a, 'b', 'c')}A{{/if}}",
        "{% else %}A{% endif %}",
        "{% if a %}{% endfor %}",
    ],
)
def test_what_does_not_fit_together_is_no_condition(text: str) -> None:
    assert branches(text) == []


class Language(NamedTuple):
    """How a condition is written: what it begins with, what stands between its branches, and what ends it."""

    begins: Callable[[str], str]
    other: str
    ends: str


LANGUAGES = (
    Language("{{% if {} %}}".format, "{% else %}", "{% endif %}"),
    Language("{{{{#if {}}}}}".format, "{{else}}", "{{/if}}"),
    Language("<% if ({}) {{ %>".format, "<% } else { %>", "<% } %>"),
    Language("*|IF:{}|*".format, "*|ELSE:|*", "*|END:IF|*"),
)
#: A tree: a word that is seen, or what is asked with what stands in both branches.
Tree = str | tuple[str, list["Tree"], list["Tree"]]
LEAVES = st.text("KLMNOPQ", min_size=3, max_size=6)


def forests(inner: st.SearchStrategy[Tree]) -> st.SearchStrategy[Tree]:
    some = st.lists(inner, max_size=3)
    return st.tuples(st.sampled_from(["a", "b.c", "d"]), some, some)


TREES = st.lists(st.recursive(LEAVES, forests, max_leaves=12), min_size=1, max_size=4)


def written(trees: list[Tree], language: Language) -> str:
    return "".join(
        f"<p>{one}</p>"
        if isinstance(one, str)
        else language.begins(one[0])
        + written(one[1], language)
        + language.other
        + written(one[2], language)
        + language.ends
        for one in trees
    )


def shown(trees: list[Tree], chosen: Mapping[str, str]) -> list[str]:
    """The words that are seen when of some of what is asked one branch is chosen."""
    found: list[str] = []
    for one in trees:
        if isinstance(one, str):
            found.append(one)
        else:
            asked, yes, no = one
            found += shown(yes, chosen) if chosen.get(asked) != OTHERWISE else []
            found += shown(no, chosen) if chosen.get(asked) != asked else []
    return found


@given(TREES, st.sampled_from(LANGUAGES), st.dictionaries(st.sampled_from(["a", "b.c", "d"]), st.booleans()))
def test_what_is_chosen_is_seen_and_all_is_handed_over(
    trees: list[Tree], language: Language, chosen: dict[str, bool]
) -> None:
    text = f'<body style="color:#c41e3a">{written(trees, language)}</body>'
    document = read_mail("m.html", text.encode())
    wanted = {asked: asked if holds else OTHERWISE for asked, holds in chosen.items()}
    changes = Changes(Recoloring({RED: BLUE}), (Samples(branches=wanted),))
    seen = document.preview(changes).content.decode()
    words = [one.split("<")[0] for one in seen.split("<p>")[1:]]
    assert words == shown(trees, wanted)
    assert document.write(changes) == text.replace("#c41e3a", "#102030").encode()
    asked = {one.words: one.branches for one in document.conditions}
    assert all(found == (words, OTHERWISE) for words, found in asked.items())
    assert set(asked) == {one[0] for one in _conditions(trees)}


def _conditions(trees: list[Tree]) -> list[tuple[str, list[Tree], list[Tree]]]:
    own = [one for one in trees if not isinstance(one, str)]
    return [*own, *(found for one in own for part in one[1:] for found in _conditions(part))]  # type: ignore[arg-type]


def test_the_same_question_goes_one_way_wherever_it_is_asked() -> None:
    text = "{% if a %}A{% elif b %}B{% else %}C{% endif %}{% if a %}D{% endif %}{% unless a %}E{% endunless %}"
    [one] = conditions_of(cases_in(text, codes_in(text)))
    assert one == ("a", ("a", "b", OTHERWISE))
    document = read_mail("m.html", f"<p>{text}</p>".encode())
    for branch, expected in (("a", "AD"), ("b", "BE"), (OTHERWISE, "CE"), ("gone", "CE")):
        content = document.preview(Changes(Recoloring(), (Samples(branches={"a": branch}),))).content
        assert f"<p>{expected}</p>".encode() in content
    # Of a mail that was sent in parts, all of them are asked.
    parts = [sent_part(one.encode(), "8bit") for one in ("<p>{% if a %}A{% endif %}", "<p>{% if b %}B{% endif %}")]
    assert [one.words for one in read_sent("m.eml", sent(b"\r\n", *parts)).conditions] == ["a", "b"]


def test_a_section_is_looked_at_whatever_its_mail_is_asked() -> None:
    text = (
        "<body><table><tr><td style='background:#c41e3a'>First band of words in it</td></tr>"
        "{% if a %}<tr><td style='background:#eee'>Second band of words in it</td></tr>{% endif %}</table>"
    )
    document = read_mail("m.html", text.encode())
    changes = Changes(Recoloring(), (Samples(branches={"a": OTHERWISE}),))
    assert b"Second band" not in document.preview(changes).content
    number = next(at for at, page in enumerate(document.pages) if "Second" in page.title)
    assert b"Second band" in document.preview(changes, number).content


def test_ten_thousand_conditions_are_found_in_no_time() -> None:
    deep = "{% if a %}" * 5_000 + "A" + "{% endif %}" * 5_000
    assert len(cases_in(deep, codes_in(deep))) == 5_000
    wide = "{% if " + " " * 3_900 + "%}" + "<% " + "do " * 1_200 + "%>" + "{{#" + "if" * 1_900 + "}}"
    assert cases_in(wide * 200, codes_in(wide * 200)) == ()
    # Ends of what nothing began, below very much that never ends; one condition of very many branches.
    loose = "{% if a %}" * 40_000 + "{% endfor %}" * 40_000
    assert cases_in(loose, codes_in(loose)) == ()
    [many] = cases_in(text := "{% if a %}" + "{% elif b %}B" * 40_000 + "{% endif %}", codes_in(text))
    assert len(many.branches) <= 41
    [named] = cases_in(text := "{{#if" + "x" * 300 + " a}}A{{/if" + "x" * 300 + "}}", codes_in(text))
    assert len(named.words) <= 80
