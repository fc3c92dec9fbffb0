"""Templates put together as their program does it: what is looked at, and what stays the file's own."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.mail.document import DESKTOP, Mail, read_mail
from pavese.core.formats.mail.framed import read_framed
from pavese.core.formats.mail.framing import Template, Whole, framed
from pavese.core.formats.mail.places import INK
from pavese.core.formats.references import SHEET, Lying, named_template
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.recoloring import Recoloring

RED, BLUE, PALE = (Rgba(200, 16, 32), Rgba(16, 32, 200), Rgba(240, 230, 250))


def together(texts: Mapping[str, str]) -> Whole | None:
    """Templates put together, by reference."""
    return framed({reference: Template.of(text) for reference, text in texts.items()})


def whole(text: str, parts: Mapping[str, str]) -> str | None:
    """A template put together with others, by the names that code has for them."""
    found = together({"": text} | {named_template(name): one for name, one in parts.items()})
    return " ".join(found.text.split()) if found is not None else None


@pytest.mark.parametrize(
    ("text", "parts", "expected"),
    [
        # Blocks: replaced, left as they are, shown with what they replaced, over several generations.
        (
            '{% extends "base.html" %} lost {% block body %}mine{% endblock %}',
            {"base.html": "<b>{% block head %}head{% endblock %}{% block body %}theirs{% endblock body %}</b>"},
            "<b>{% block head %}head{% endblock %}mine</b>",
        ),
        (
            "{% layout 'base' %}{% block body %}{{ block.super }}, mine{% endblock %}",
            {"base": "<p>{%- block body -%}theirs{%- endblock -%}</p>"},
            "<p>theirs, mine</p>",
        ),
        (
            "{% extends 'middle.twig' %}{% block inner %}i{% endblock %}",
            {
                "middle.twig": "{% extends './base.twig' %}{% block body %}m {% block inner %}n{% endblock %}"
                "{% endblock %}",
                "base.twig": "<p>{% block body %}{% endblock %}</p>",
            },
            "<p>m i</p>",
        ),
        (
            '{{#extend "layout"}}{{#content "body"}}x{{/content}}{{/extend}}',
            {"layout": '<p>{{#block "body"}}y{{/block}}</p>'},
            "<p>x</p>",
        ),
        # As a whole.
        ("{{!< default}}<i>x</i>", {"default": "<p>{{{body}}}</p>"}, "<p>{{!< default}}<i>x</i></p>"),
        ("---\nlayout: letter\n---\n<i>x</i>", {"letter": "---\na: b\n---\n<p>{{> body}}</p>"}, "<p><i>x</i></p>"),
        ("<% layout('letter') -%><i>x</i>", {"letter": "<p><%- body %></p>"}, "<p><% layout('letter') -%><i>x</i></p>"),
        # Partials, also round a part of it, and in one another.
        ("a {{> greet name='b'}} c", {"greet": "hello {{> sign}}", "sign": "yours"}, "a hello yours c"),
        ("{{#> box}}<i>x</i>{{/box}}", {"box": "<p>{{> @partial-block}}</p>"}, "<p><i>x</i></p>"),
        ("a {% include 'parts/foot.html' with b=c %}", {"parts/foot.html": "foot"}, "a foot"),
        ("a <%- include('foot', {b: 1}) %>", {"foot": "foot"}, "a foot"),
        ('a <%= render "mails/foot" %>', {"mails/foot": "foot"}, "a foot"),
        ('a {{ template "foot" . }}', {"foot": "foot"}, "a foot"),
        ("a {% include foot.html %}", {"foot.html": "foot"}, "a foot"),
        # What names none of them, is made up while it is sent, or is not shown in what it extends.
        ("a {% include foot %} {{ foot }} {{> other}}", {"foot": "foot"}, None),
        ("{% extends 'base' %}{% block other %}x{% endblock %}", {"base": "{% block body %}{% endblock %}"}, None),
    ],
)
def test_templates_are_put_together_as_their_languages_say(
    text: str, parts: Mapping[str, str], expected: str | None
) -> None:
    assert whole(text, parts) == expected


@pytest.mark.parametrize(
    "parts", [{"a": "{{> a}}{{> a}}"}, {"a": "{{> b}}", "b": "{{> a}}{{> a}}"}, {"a": "{% extends 'a' %}{{> a}}"}]
)
def test_what_names_itself_ends(parts: Mapping[str, str]) -> None:
    made = whole("x {{> a}} y", parts)
    assert made is None or (made.startswith("x") and made.endswith("y"))


def test_what_puts_nothing_endlessly_often_ends() -> None:
    parts = {name: f"{{{{> {after}}}}}" * 60 for name, after in pairwise("abcdefg")} | {"g": ""}
    assert (whole("x {{> a}} y", parts) or "").startswith("x")


_PIECES = st.lists(
    st.sampled_from(["<p>one</p>", "<i>two</i>", "{{> a}}", "{{> b}}", "{% include 'c' %}", "{{ name }}"]), max_size=6
).map("".join)
_BLOCKS = st.tuples(_PIECES, _PIECES).map(lambda both: f"{both[0]}{{% block x %}}{both[1]}{{% endblock %}}")


@settings(max_examples=150)
@given(st.one_of(_PIECES, _BLOCKS, _BLOCKS.map(lambda one: "{% extends 'c' %}" + one)), _PIECES, _PIECES, _BLOCKS)
def test_every_character_knows_whose_it_is(text: str, a: str, b: str, c: str) -> None:
    parts = {"": text} | {named_template(name): one for name, one in (("a", a), ("b", b), ("c", c))}
    made = together(parts)
    if made is None:
        return
    assert "".join(made.text[one.start : one.end] for one in made.spans) == made.text
    for span in made.spans:
        there = parts[span.reference][span.of : span.of + span.end - span.start]
        assert there == made.text[span.start : span.end]
        assert (made.own(span.start, span.end) is None) == bool(span.reference)
        if not span.reference:
            start, end = made.own(span.start, span.end) or (0, 0)
            assert text[start:end] == there
            first = made.of_own(start)
            assert first is not None
            assert made.text[first : first + 1] == there[:1]


BASE = (
    "<html><head><style>.go { color: #c81020 } p { color: #1020c8 }</style></head>"
    "<body bgcolor='#f0e6fa'>Dear readers <table><tr><td>{% block body %}{% endblock %}</td></tr></table></body></html>"
)
CHILD = (
    "{% extends 'base.html' %}{% block body %}<p class='go'>Sails at nine</p>"
    "<b style='color:#c81020'>Now</b>{% endblock %}"
)


def child(beside: Mapping[str, bytes] | None = None) -> Mail:
    return read_framed("child.html", CHILD.encode(), beside or {})


WHOLE = {"template:base.html": BASE.encode()}


def test_a_template_says_of_color_and_is_written_what_it_is_alone() -> None:
    alone, seen = read_mail("child.html", CHILD.encode()), child(WHOLE)
    assert alone.refers == ()
    assert child().refers == seen.refers == ("template:base.html",)
    assert list(seen.sites()) == list(alone.sites())
    assert seen.inventory().sites == alone.inventory().sites == {RED: {"text": 1}}
    assert set(seen.inventory().around) == {BLUE, PALE, INK}
    to = Changes(Recoloring({RED: Rgb(1, 2, 3), BLUE: Rgb(4, 5, 6)}))
    assert seen.write(to) == alone.write(to) == CHILD.replace("#c81020", "#010203").encode()
    assert [one.line for one in seen.where(RED)] == [one.line for one in alone.where(RED)]
    assert seen.beside(to) == {}


def test_a_template_is_looked_at_in_what_it_extends() -> None:
    seen = child(WHOLE).preview(Changes(Recoloring({RED: Rgb(1, 2, 3), PALE: Rgb(4, 5, 6)})), look=DESKTOP).content
    for one in (b"Dear readers", b"bgcolor='#040506'", b".go { color: #010203 }", b"<b style='color:#010203'>Now"):
        assert one in seen
    # What is chosen for an element of the mail counts there, and not in what is around it.
    [element] = [one for site in child().marked_sites() for one in site.selectors[:1]]
    own = Changes(Recoloring({RED: Rgb(1, 2, 3)}, {(RED, element): Rgb(7, 8, 9)}))
    seen = child(WHOLE).preview(own, look=DESKTOP).content
    assert b".go { color: #010203 }" in seen
    assert b"<b style='color:#070809'>Now" in seen
    assert b"#070809" in child(WHOLE).write(own)


def test_marks_tell_what_the_mail_says_itself_from_what_is_around_it() -> None:
    seen = child(WHOLE)
    sites = list(seen.marked_sites())
    assert {site.paint for site in sites} == {RED, BLUE, PALE, INK}
    own = [number for number in range(len(sites)) if seen.alone(number) is not None]
    assert [sites[number] for number in own] == list(child().marked_sites())
    # The words around it are none of its texts.
    assert b"Sails at nine" in seen.marked(DESKTOP).content
    assert b"Dear readers" not in seen.marked(DESKTOP).content


def test_colors_of_a_part_that_is_no_file_of_its_own_stay_as_they_are() -> None:
    mail = b"<style>{{> colors}}</style><p class='go' style='background:#f0e6fa'>Sails</p>"
    seen = read_framed("m.hbs", mail, {"template:colors": b".go { color: #c81020 }"})
    to = Changes(Recoloring({RED: Rgb(1, 2, 3), PALE: Rgb(4, 5, 6)}))
    assert b".go { color: #c81020 }" in seen.preview(to).content
    assert b"background:#040506" in seen.preview(to).content
    assert RED not in seen.inventory().around


def test_what_is_too_much_together_is_seen_alone() -> None:
    many = b"<b>" * 3000 + b"x" + b"</b>" * 3000
    seen = read_framed("m.hbs", b"<p style='color:#c81020'>{{> many}}</p>", {"template:many": many})
    assert b"<b><b>" not in seen.preview({}).content
    assert read_framed("m.hbs", b"\xff\xfe" + "<p>{{> a}}</p>".encode("utf-16-le"), {"template:a": b"x"}).refers


@pytest.mark.parametrize(
    ("name", "reference", "expected"),
    [
        ("mails/welcome.html", "base.html", "mails/base.html"),
        ("other/welcome.html", "base.html", "other/base.html"),
        ("other/welcome.html", "mails/base.html", "mails/base.html"),
        ("mails/welcome.html", "../mails/base", "mails/base.html"),
        ("mails/welcome.hbs", "footNote", "mails/parts/_foot-note.html.hbs"),
        ("mails/base.html", "base.html", "other/base.html"),
        ("mails/welcome.html", "logo", None),
        ("mails/welcome.html", "nothing", None),
    ],
)
def test_the_template_that_is_meant_is_found_by_its_name(name: str, reference: str, expected: str | None) -> None:
    lying = Lying(
        ["other/base.html", "mails/base.html", "mails/base.txt", "mails/parts/_foot-note.html.hbs", "mails/logo.png"]
    )
    assert lying.meant(name, named_template(reference)) == expected


def test_a_name_is_meant_from_where_those_lie_that_are_there_already() -> None:
    lying = Lying(["c/mails/base.html", "a/mails/one.html", "b/mails/base.html", "b/mails/frame.html", "b/style.css"])
    meant = [
        lying.meant("a/mails/one.html", named_template("mails/base"), taken) for taken in ([], ["b/mails/frame.html"])
    ]
    assert meant == ["c/mails/base.html", "b/mails/base.html"]
    # One that is taken is meant where there is no other.
    assert lying.meant("x.html", named_template("frame"), ["b/mails/frame.html"]) == "b/mails/frame.html"
    assert lying.meant("x.html", named_template("style.css")) is None
    assert lying.meant("x.html", named_template("mails/style.css", SHEET)) == "b/style.css"


@pytest.mark.parametrize("name", ["", " ", "./", "..", "../.."])
def test_no_template_is_named_by_nothing(name: str) -> None:
    assert named_template(name) == ""
