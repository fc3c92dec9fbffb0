"""Mails: where color stands in them and where it does not, and what is written back."""

from __future__ import annotations

import re
from collections import Counter
from contextlib import suppress
from html import unescape

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pavese.core import limits
from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats.inside import UNKNOWN
from pavese.core.formats.mail.code import MARKS, codes_in
from pavese.core.formats.mail.document import BARE, DESKTOP, OPENED, Mail, read_mail
from pavese.core.formats.mail.places import INK, LINK
from pavese.core.formats.mail.tree import CANVAS
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.dark import DarkScheme
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import OUTER, Kind
from pavese.demo.mail import LOGO, mail_files
from tests.core.strategies import colors
from tests.formats.mails import mails

BLUE = parse_color("#102030").rgb


def mail(text: str) -> Mail:
    return read_mail("m.html", text.encode())


def found(text: str) -> list[tuple[str, str]]:
    """The paints that are written in a text, each with its kind; not those that nothing names."""
    return [(place.written, place.kind.value) for place in mail(text)._written.places if place.implied is None]


def meant(text: str) -> dict[str, str]:
    """The colors that nothing names, by kind."""
    return {place.kind.value: place.paint.key for place in mail(text)._written.places if place.implied}


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        # Both manners of one tag, in any case, with and without quotes and sign.
        ("<td bgcolor=\"#414141\" style='background:#414141'>x", [("#414141", "ground"), ("#414141", "ground")]),
        ("<TABLE BGCOLOR=FfFfFf><tr><td>x", [("FfFfFf", "ground")]),
        ("<font color='red'>x</font>", [("red", "text")]),
        ("<body text=black link=#00f vlink='navy' bgcolor=white>x", [
            ("black", "text"), ("#00f", "link"), ("navy", "link"), ("white", "ground")]),
        ("<p style='border:1px solid #ddd !important;background:url(a.png) #eee no-repeat'>x", [
            ("#ddd", "stroke"), ("#eee", "ground")]),
        ("<div style='background:linear-gradient(#111,#222 50%);box-shadow:0 0 2px rgba(0,0,0,.3)'>x", [
            ("#111", "ground"), ("#222", "ground"), ("rgba(0,0,0,.3)", "shadow")]),
        # An empty comment ends at once; what follows is read, and what is a comment is not.
        ("<!--[if !mso]><!--><a style='background:#c41e3a'>Book</a><!--<![endif]-->", [("#c41e3a", "button")]),
        ("<!--><b style='color:#123'>x</b><!-- #456 <i style='color:#789'> -->", [("#123", "text")]),
        ("<!--[if gte mso 9]><v:rect fillcolor='#abc' strokecolor=#def><![endif]--><p>x", [
            ("#abc", "ground"), ("#def", "stroke")]),
        ("<![if !mso]><p style='color:#123'>x</p><![endif]>", [("#123", "text")]),
        # Words, links, ids, notes, scripts, and code are no paint.
        ("<a id='#ff0000' href='?c=#ff0000' style='color:#123'>Red shoes vip #1 navy</a>", [("#123", "link")]),
        ("<style>/* #123456 */ #fade { color: #010203 } .x{content:'#445566'}</style><p>x", [("#010203", "text")]),
        ("<script>var a='#123456'</script><title>#654321</title><p style='color:#111'>x", [("#111", "text")]),
        ("{% set c = '#222222' %}<p style='color: {{ c }};background:#fafafa'>x", [("#fafafa", "ground")]),
        ("<p {{#if a > b}}style='color:#111'{{/if}}>x</p><% if (a > \"b\") { %><i style='color:#222'>", [
            ("#111", "text"), ("#222", "text")]),
        ("<p title='a > b' style=color:#123>don't</p><p title=don't style='color:#456'>x", [
            ("#123", "text"), ("#456", "text")]),
        # What is transparent or inherited says no color.
        ("<p style='color:inherit;background:transparent;border-color:currentColor'>x", []),
        # A button is what has a ground and holds a link alone; a band round it is none.
        ("<div style='background:#fff'><a style='background:#c00;color:#fff' href=u>Go</a></div>", [
            ("#fff", "ground"), ("#c00", "button"), ("#fff", "label")]),
        ("<table><tr><td bgcolor=#c00><a href=u style='color:#fff'>Go</a></td></tr></table>", [
            ("#c00", "button"), ("#fff", "label")]),
        ("<td bgcolor=#333 style='color:#ccc'>Write to <a href=u style='color:#9cf'>us</a>", [
            ("#333", "ground"), ("#ccc", "text"), ("#9cf", "link")]),
        ("<style>.b{background:#c00;color:#fff}.b:hover{background:#900}</style><a class=b href=u>Go</a>", [
            ("#c00", "button"), ("#fff", "label"), ("#900", "button")]),
        ("<style>:root{--alarm:#d00}.t{border-top:6px solid var(--alarm)}</style><div class=t>x", [("#d00", "stroke")]),
    ],
)  # fmt: skip
def test_where_color_stands(text: str, expected: list[tuple[str, str]]) -> None:
    assert found(text) == expected


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("<p>x</p>", {"ground": "#ffffff", "text": "#000000"}),
        ("<p>x <a href=u>y</a></p>", {"ground": "#ffffff", "text": "#000000", "link": "#0000ee"}),
        ("<body bgcolor=#eee text=#111>x <a href=u>y</a>", {"link": "#0000ee"}),
        ("<html style='background:#eee'><body style='color:#111'>x", {}),
        ("<b style='color:#111'>x</b> and {{ name }}", {"ground": "#ffffff", "text": "#000000"}),
        ("<div bgcolor=#eee style='color:#111'>x</div>{% if a %}{% endif %}", {}),
        ("---\ntitle: Sailings\n---\n<!-- - --><div bgcolor=#eee style='color:#111'>x</div>", {}),
        ("<!DOCTYPE html>\n<div bgcolor=#eee style='color:#111'>x</div>\n", {}),
        ("<style>body{color:#111;background:#eee}a{color:#07c}</style><body>x <a href=u>y</a>", {}),
        ("<style>@media (max-width:600px){body{color:#111}}</style><body bgcolor=#eee>x", {"text": "#000000"}),
        ("<body bgcolor=#eee><div style='color:#111'>x</div><a href=u><span style='color:#07c'>y</span></a>", {}),
    ],
)
def test_colors_that_nothing_names_are_known(text: str, expected: dict[str, str]) -> None:
    assert meant(text) == expected


def test_what_nothing_names_is_said_once_where_inheritance_begins() -> None:
    to = dict.fromkeys(mail("<p>x <a href=u>y</a></p><p>z</p>").inventory().paints, BLUE)
    said = "background-color:#102030;color:#102030"
    assert mail("<p>x <a href=u>y</a></p><p>z</p>").write(to) == (
        b'<body link="#102030" vlink="#102030" style="' + said.encode() + b'"><p>x <a href=u>y</a></p><p>z</p>'
    )
    assert mail("<div>x</div>").write(to) == f'<div style="{said}">x</div>'.encode()
    assert mail("<span>x</span>").write(to) == f'<body style="{said}"><span>x</span>'.encode()
    # Words beside it would not take over what it says.
    assert mail("<div>x</div> {{ name }}").write(to) == f'<body style="{said}"><div>x</div> {{{{ name }}}}'.encode()
    assert mail("<div>x</div> {% x %}").write(to) == f'<div style="{said}">x</div> {{% x %}}'.encode()
    assert mail("<body style='margin:0'>x").write(to) == f"<body style='margin:0;{said}'>x".encode()
    assert mail("<html><body style=>x").write(to) == f'<html><body style="{said}" style=>x'.encode()


@settings(max_examples=150)
@given(mails(), st.data())
def test_nothing_moves_but_colors(data: bytes, draw: st.DataObject) -> None:
    """Code, comments, words, links: every byte but those of the colors stands where it stood."""
    document = read_mail("m.html", data)
    places = [place for place in document._written.places if place.implied is None]
    size = 2 if data[:2] in (b"\xff\xfe", b"\xfe\xff") else 1
    written = document.write({place.paint: BLUE for place in places})
    at = behind = 0
    for place in places:
        same = place.start * size - at
        assert written[behind : behind + same] == data[at : place.start * size]
        new = place.rewritten(BLUE) if place.paint.rgb != BLUE else place.written
        at, behind = place.end * size, behind + same + len(new) * size
    said = [place for place in document._written.places if place.implied]
    assert said or written[behind:] == data[at:]
    for code in codes_in(document._text.text):
        assert document._text.text[code.start : code.end].encode("latin-1", "ignore") in written.replace(b"\0", b"")


@given(st.sampled_from(MARKS), st.text("abc .", min_size=1, max_size=9))
def test_every_kind_of_code_is_cut_out(mark: object, inside: str) -> None:
    code = f"{mark.opens}{inside}{mark.closes}"  # type: ignore[attr-defined]
    text = f'<p style="color:#123456;width:{code}">{code}<b style="color:#654321">x</b></p>'
    assert [written for written, _ in found(text)] == ["#123456", "#654321"]
    document = mail(text)
    assert document.write(dict.fromkeys(document.inventory().paints, BLUE)).count(code.encode()) == 2
    assert code.encode() not in document.preview({}).content


@pytest.mark.parametrize(
    ("code", "words", "sentence"),
    [
        ('{% trans "Thank you" %}', "", "Thank you"),
        ("{%- translate 'Hi, %(n)s!' context 'mail' -%}", "", "Hi, %(n)s!"),
        ('{% trans "for later" as title %}', "", ""),
        ("{% trans 'for later' context 'mail' as title %}", "", ""),
        ("{{ _('It\\'s <b>here</b>') }}", "", "It's here"),
        ("{{ 'Hello'|trans({}) }}", "", "Hello"),
        ("{{t 'Sign in'}}", "", "Sign in"),
        ("${_('Hello')}", "", "Hello"),
        ("<?php echo __('A < B', 'mail'); ?>", "", "A < B"),
        ("<?= $name ?>", "name", ""),
        ("<%= I18n.t('.greeting') %>", ".greeting", ""),
        ('{{ "mail.welcome.title" | t }}', "mail.welcome.title", ""),
        ("{# _('said to nobody') #}", "", ""),
        ("{% comment 'x' %}{{ a }} <b style='color: #123456'>{% trans 'to nobody' %}{%- endcomment %}", "", ""),
        ("{{ comment }}", "comment", ""),
        ("{% url 'way:there' %}", "", ""),
        ('{{ format "a b" }}', "format", ""),
    ],
)
def test_a_sentence_to_be_translated_is_shown_as_it_stands(code: str, words: str, sentence: str) -> None:
    document = mail(f"<p>{code}</p>")
    assert document.codes == ((words,) if words else ())
    shown = document.preview({}).content.decode().partition("<p>")[2].removesuffix("</p>")
    assert unescape(shown) == sentence if sentence or not words else f">{words}<" in shown
    assert document.write({}) == f"<p>{code}</p>".encode()


@pytest.mark.parametrize(
    ("name", "written"),
    [
        ("reset.html", '{% extends "base" %}{% block text %}<p>x <a href=u>y</a></p><hr>{% endblock %}'),
        ("words.html", '{% extends "base" %}{% block text %}Hello{% endblock %}'),
        ("row.html", "<tr><td>x</td></tr>"),
        ("row.html", "<%- include('head') %><div>x</div>"),
        ("button.hbs", "<p><a href=u>y</a></p>"),
    ],
)
def test_what_a_part_does_not_name_that_says_which_it_is_put_into(name: str, written: str) -> None:
    part = read_mail(name, written.encode())
    assert not part.inventory().paints
    whole = read_mail(name, f"<body>{written}</body>".encode())
    assert CANVAS in whole.inventory().paints
    # What it does name is its own.
    colored = read_mail(name, f"{written}<p style='color:#aa1122'>z</p>".encode())
    assert colored.write({Rgba(0xAA, 0x11, 0x22): BLUE}).endswith(b"<p style='color:#102030'>z</p>")


def test_a_part_is_told_what_is_pressed_in_the_dark_and_its_mail_how_that_looks() -> None:
    written = "{% block x %}<table bgcolor='#222222'><tr><td><a href=u style='color:#ffffff'>y</a></td></tr></table>"
    dark = DarkScheme(**dict.fromkeys(DarkScheme.model_fields, "sea.base"))
    changes = Changes(acts=(dark,), resolved={"sea.base": BLUE})
    part, whole = (read_mail("m.html", text.encode()).write(changes) for text in (written, f"<body>{written}"))
    assert part.decode() == written.replace("<table ", "<table data-pressed ")
    assert b"<style" in whole


def test_colors_in_code_are_told_and_stay() -> None:
    document = mail("{% set accent = '#7B3FF2' %}<p style='color:{{ accent }}'>x</p>")
    assert document.inventory().remarks == ("Its template code names #7B3FF2, which stays as it is.",)
    assert b"#7B3FF2" in document.write(dict.fromkeys(document.inventory().paints, BLUE))


def test_the_looks_of_the_demo_mails() -> None:
    looks = {name: [look.key for look in read_mail(name, data).looks] for name, data in mail_files().items()}
    assert looks["delay.html"] == ["desktop", "phone", "dark", "inverted"]
    assert looks["departures.html"] == ["desktop", "phone", "dark", "inverted", "bare", "conditional"]
    assert looks["reply.html"] == ["desktop", "phone", "dark", "inverted"]
    # Only what may read otherwise than on a desk is measured.
    assert [look.key for look in read_mail("d.html", mail_files()["delay.html"]).looks if look.reads] == [
        "desktop",
        "phone",
        "dark",
    ]
    assert [look.key for look in read_mail("d.html", mail_files()["departures.html"]).looks if look.reads] == [
        "desktop",
        "phone",
        "conditional",
    ]
    assert BARE in mail("<p style='background:#123 url(x.png);color:#fff'>x</p>").looks


def test_conditional_parts_are_opened_and_others_closed_in_their_look() -> None:
    document = read_mail("departures.html", mail_files()["departures.html"])
    plain, opened = (document.preview({}, look=look).content.decode() for look in (DESKTOP, OPENED))
    assert "background-color:#E67E22;color:#FFFFFF" in plain
    assert "background-color:#E67E22;color:#FFFFFF" not in opened
    assert "<!--[if mso]><v:roundrect" in plain
    assert "<!--[if mso]" not in opened
    # The fill of a shape is shown as it becomes.
    orange = parse_color("#e67e22")
    changed = document.preview({orange: BLUE}, look=OPENED).content.decode()
    assert re.search(r"<v:roundrect [^>]*background-color:#102030", changed, re.IGNORECASE)


def test_pictures_that_lie_beside_it_are_put_in() -> None:
    data = mail_files()["departures.html"]
    assert read_mail("m.html", data).refers == (LOGO,)
    document = read_mail("m.html", data, {LOGO: b"\x89PNG"})
    assert b'src="data:image/png;base64,iVBORw=="' in document.preview({}).content
    assert b"data:image" not in document.write({})
    assert document.inventory().remarks == (UNKNOWN,)


def test_style_sheets_and_typefaces_that_a_style_names_are_no_pictures() -> None:
    style = (
        "@import url(https://fonts.example/css2?family=Quay); @import 'quay.css';"
        "@font-face { font-family: Quay; src: url(quay.woff2), url('https://fonts.example/quay.woff'); }"
        ".head { background: #0b5e6b url(https://ferries.example/head.png) }"
    )
    data = f"<style>{style}</style><table background='pier.png'><tr><td class=head>Quay 2</td></tr></table>".encode()
    document = read_mail("m.html", data)
    assert document.remote == ("https://ferries.example/head.png",)
    assert document.refers == ("pier.png",)


def test_a_part_by_kind_goes_its_own_way() -> None:
    document = mail("<body bgcolor=#fff style='color:#000'>x <a href=u style='background:#000;color:#fff'>Go</a>")
    white = parse_color("#fff")
    to = Recoloring({}, {(white, Kind.GROUND): BLUE, (white, Kind.LABEL): Rgb(1, 2, 3)})
    assert document.write(to) == (
        b"<body bgcolor=#102030 style='color:#000'>x <a href=u style='background:#000;color:#010203'>Go</a>"
    )


@pytest.mark.parametrize(
    ("data", "reason"),
    [
        (b"", "empty"),
        (b"just words, and a < b", "no tag"),
        (b"a { color: #123 }", "no tag"),
        (b"<p>\0</p>", "no text"),
        (b"<style>" + b"p " * 100 + b"{color:#123}</style><p>x", "steps"),
        (b"<p>" + b" " * limits.FILE_BYTES + b"x", "larger than 12 MB"),
        (b"\xff\xfe<\0p\0>", "middle of a character"),
        (b"<div>" * (limits.ELEMENT_DEPTH + 1), "nested"),
        (b"<br>" * (limits.ELEMENTS + 1), "more elements"),
        (b"<style>" + b"a{color:#123}" * 200_000 + b"</style><p>x", "style is longer"),
        (b"<style>" + b"a>b{color:#123}.x b{color:red}" * 9 + b"x" * 9 + b"{" * 60 + b"</style><p>x", "nested"),
    ],
)
def test_what_is_no_mail_is_refused(data: bytes, reason: str) -> None:
    with pytest.raises(RefusedFileError, match=reason):
        read_mail("m.html", data)


@pytest.mark.parametrize(
    "data",
    [
        b"<!--" * 20_000,
        b"<a href='" * 20_000,
        b"{{" * 50_000 + b"<p>",
        b"<p " + b"a=b " * 50_000 + b">",
        b"<table>" + b"<tr><td bgcolor=#123456>x" * 50_000,
        b"<!--[if mso]>" * 20_000 + b"<p>",
        b"<p>" + b"<!--[if !mso]><!-->" * 20_000,
        b"<style>" + b"".join(b"--v%d:#123456;" % at for at in range(20_000)) + b"</style><p>x",
        b"<div style='background:#123'>" * 500 + b"<p style='background:#456'>x" * 20_000,
        b"<div style='background:#123'>" * 250 + b"<p>x</p>" * 20_000,
        b"<img height=" + b"9" * 5_000 + b"><p>" + b"x" * 900 + b"<p style='font-size:1.2.3px'>sent to you",
        b"<p style='font-size:...px'>x<p style='font-size:" + b"9" * 5_000 + b"px'>unsubscribe",
    ],
)  # fmt: skip
def test_hostile_mails_are_read_or_refused_in_no_time(data: bytes) -> None:
    with suppress(RefusedFileError):
        document = read_mail("m.html", data)
        assert document.write({}) == data
        assert document.preview({}).content


SECTIONED = """<body bgcolor=#eee><table bgcolor=#fff><tr><td bgcolor=#123><h1 style="color:#fff">News</h1></td></tr>
<tr><td style="color:#222">Words enough for a band of its own</td></tr>
<tr><td bgcolor=#333 style="color:#ccc">Leave this list <a href=u style="color:#9cf">here</a></td></tr></table>"""


def test_sections_are_what_stands_on_a_ground_of_its_own() -> None:
    titles = {name: [page.title for page in read_mail(name, data).pages] for name, data in mail_files().items()}
    kinds = {name: [title.split(":")[0] for title in told] for name, told in titles.items()}
    bands = ["Content"] * 3
    assert kinds["departures.html"] == ["Preheader", "Header", *bands, "Footer", "Outer ground"]
    assert titles["departures.html"][2] == "Content: Departures for the weekend F"
    assert kinds["season.html"] == ["Header", "Content", "Column", "Column", "Footer", "Outer ground"]
    assert kinds["ticket.html"] == ["Content", "Header", "Footer", "Outer ground"]
    assert titles["reply.html"] == ["Footer: This mail was sent to ."]
    assert [page.selector for page in mail(SECTIONED).pages] == ["/content", "/header", "/footer", OUTER]


def test_sections_on_one_ground_are_told_by_what_they_say() -> None:
    words = "A long letter about the winter timetable, and what comes of it. " * 3
    cells = "".join(f"<td><h3>{side}</h3><p>{words}</td>" for side in ("Left", "Right"))
    text = f"""<body><div><span style="display:none">In short</span><table><tr><td>%s</td></tr></table>
    <p>{words}<table><tr>{cells}</tr></table>
    <table><tr><td>Lantern</td><td>brass</td></tr></table><p>{words}</p>
    <p><small>Harbor Supply, The Slipway</small></p><p>You get this since you asked. <a href=u>Leave</a></p></div>"""
    for sign in ("<img src=logo.png>", "<a href=u>Harbor Supply</a>"):
        told = {page.selector: page.title for page in mail(text % sign).pages}
        assert list(told) == ["/preheader", "/header", "/column", "/column-2", "/footer"]
        assert told["/preheader"] == "Preheader: In short"
        assert told["/column-2"].startswith("Column: Right A long")
        assert told["/footer"].startswith("Footer: Harbor Supply")
    # What is no box shows no ground: the box in it says it.
    inside = mail(f"<wrapper><center><p><img src=a.png></center></wrapper><p>{words}<p>{words}")
    dark = inside.write(Recoloring({}, rules={("/header", Kind.GROUND): BLUE})).decode()
    assert '<wrapper><center style="background-color:#102030">' in dark
    # What begins a letter is no header, and what all of it says is no footer.
    assert "/header" not in {page.selector for page in mail(text % "Dear all,").pages}
    assert mail(f"<p>{words}<p>This letter was sent to you.").pages[0].title.startswith("Footer: This letter")
    assert mail("<p>This letter was sent to you. <a href=u>Unsubscribe</a>").pages[0].title == ""


def test_what_lies_around_all_sections_goes_its_own_way_and_they_keep_theirs() -> None:
    text = "<body bgcolor=#eee><p>Hello there, all of you</p><div style='background:#fff'><p>%s</p></div><p>So long"
    document = mail(text % ("Much is said here. " * 9))
    own = document.write(Recoloring({}, rules={(OUTER, Kind.GROUND): BLUE, (OUTER, Kind.TEXT): BLUE})).decode()
    assert '<body style="color:#102030" bgcolor=#102030>' in own
    # The box keeps its ground, and says the ink that came to it from outside.
    assert "<div style='background:#fff;color:#000000'>" in own


def test_a_section_goes_its_own_way_and_is_shown_alone() -> None:
    document = mail(SECTIONED)
    grey = parse_color("#333")
    kept = document.write(Recoloring(dict.fromkeys(document.inventory().paints, BLUE), {}, frozenset(["/footer"])))
    assert b'<td bgcolor=#333 style="color:#ccc">' in kept
    assert b"bgcolor=#102030><tr>" in kept
    own = document.write(Recoloring({}, {(grey, "/footer"): BLUE, (parse_color("#fff"), "/header"): BLUE}))
    assert b'<h1 style="color:#102030">' in own
    assert b"<table bgcolor=#fff>" in own
    shown = document.preview({}, page=2)
    assert document.pages[2].selector == "/footer"
    assert shown.part
    assert shown.content.count(shown.part[1:-1].encode()) == 1


TAKING = """<head><style>.t{color:#222} .i{color:#abc!important} a:hover{color:#0ff}</style></head>
<body style="color:#333" bgcolor=#eee><table bgcolor=#fff><tr><td><h1 class=t>News</h1> and many words of it</td></tr>
<tr><td bgcolor=#dde>Our imprint <b class=t>b</b> <i class=i style="color:red">i</i> <a href=u>a</a></td></tr>"""


def test_a_section_says_itself_what_comes_to_it_from_outside_where_it_goes_its_own_way() -> None:
    document = mail(TAKING)
    assert [page.selector for page in document.pages] == ["/content", "/footer", OUTER]
    # All alike: nothing is said twice.
    whole = document.write(dict.fromkeys(document.inventory().paints, BLUE)).decode()
    assert whole.count("color:#102030") == TAKING.count("color:")
    rules = {("/footer", kind): BLUE for kind in (Kind.TEXT, Kind.LINK, Kind.GROUND)}
    own = document.write(Recoloring({}, rules=rules)).decode()
    head, foot = own.split("<tr><td style", 1)
    assert head == TAKING.split("<tr><td bgcolor=#dde")[0]
    assert foot.count("#102030") == 5
    assert "color:#102030 !important" in foot
    # Kept as it came, while all else changes: it says what it had.
    rest = Recoloring(dict.fromkeys(document.inventory().paints, BLUE), {}, frozenset(["/footer"]))
    kept = document.write(rest).decode()
    assert "bgcolor=#dde" in kept
    assert "color:#333333" in kept
    assert "color:#222222" in kept
    assert "color:#aabbcc !important" in kept


def test_one_element_goes_its_own_way() -> None:
    document = mail(TAKING)
    sites = list(document.marked_sites())
    ways = {alone.words: alone.selector for at in range(len(sites)) if (alone := document.alone(at))}
    assert {"h1 “News”", "b “b”", "i “i”"} <= ways.keys()
    assert not any(words.startswith("body") for words in ways)
    rule = parse_color("#222")
    # What a rule says of two is said on one of them, and nothing else moves; it goes before what its section does.
    own = document.write(Recoloring({}, {(rule, ways["b “b”"]): BLUE}))
    assert own.decode() == TAKING.replace("<b class=t>", '<b style="color:#102030" class=t>')
    both = {(rule, ways["b “b”"]): BLUE, (rule, "/footer"): parse_color("#fed").rgb}
    assert b'<b style="color:#102030" class=t>' in document.write(Recoloring({}, both))
    # An element that says it itself is changed where it does.
    grey = parse_color("#dde")
    cell = next(site.selectors[0] for site in sites if site.paint == grey)
    assert document.write(Recoloring({}, {(grey, cell): BLUE})) == TAKING.replace("#dde", "#102030").encode()
    # The parts that are listed are still those of the mail.
    assert not any("element" in one for named in document.inventory().selectors.values() for one in named)


@settings(max_examples=60)
@given(data=mails(), color=colors, draw=st.data())
def test_an_element_goes_alone_wherever_it_stands(data: bytes, color: Rgb, draw: st.DataObject) -> None:
    document = read_mail("m.html", data)
    sites = list(document.marked_sites())
    ways = [(site, alone) for at, site in enumerate(sites) if (alone := document.alone(at)) is not None]
    if not ways:
        return
    site, alone = draw.draw(st.sampled_from(ways))
    assert site.selectors[0] == alone.selector
    written = document.write(Recoloring({}, {(site.paint, alone.selector): color}))
    after = Counter(one.paint for one in read_mail("m.html", written).sites())
    stays = Counter(one.paint for one in document.sites())
    # At most what this element says of that paint has gone, and whatever is new is of the color.
    gone = stays - after
    assert gone.keys() <= {site.paint}
    assert gone.total() <= sum(alone.selector in one.selectors for one in sites if one.paint == site.paint)
    assert {paint.rgb for paint in after - stays} <= {color}


@settings(max_examples=60)
@given(data=mails(), color=colors, draw=st.data())
def test_rules_for_a_part_reach_all_of_it_and_nothing_else(data: bytes, color: Rgb, draw: st.DataObject) -> None:
    document = read_mail("m.html", data)
    parts = sorted({one for site in document.told_sites() for one in site.selectors if one.startswith("/")})
    if not parts:
        return
    part = draw.draw(st.sampled_from(parts))
    rules = Recoloring({}, rules=dict.fromkeys(((part, kind) for kind in Kind), color))
    written = document.write(rules)
    after = Counter(site.paint for site in read_mail("m.html", written).sites())
    outside = Counter(site.paint for site in document.sites() if part not in site.selectors)
    inside = Counter(Rgba(*color, site.paint.alpha) for site in document.sites() if part in site.selectors)
    # What nothing names is not meant any more where all say it themselves.
    gone = outside + inside - after
    assert gone.keys() <= {INK, LINK}
    assert gone.total() <= len(gone)
    # Where all around goes its own way, sections say what they had from there.
    assert {paint.rgb for paint in after - outside - inside} <= {color, *(one.rgb for one in outside if part == OUTER)}
    # A part that is kept by its rules is as it came, and so is all else.
    assert document.write(Recoloring({}, rules=dict.fromkeys((part, kind) for kind in Kind))) == data
    every = dict.fromkeys(document.inventory().paints, color)
    kept = document.write(Recoloring(every, rules=dict.fromkeys((part, kind) for kind in Kind)))
    left = Counter(site.paint for site in document.sites() if part in site.selectors)
    assert left <= Counter(site.paint for site in read_mail("m.html", kept).sites())


@given(data=mails(), sheet=st.lists(st.tuples(st.sampled_from(["p", ".pressed", "a", "td"]), colors), max_size=5))
def test_what_is_linked_is_changed_in_its_place(data: bytes, sheet: list[tuple[str, Rgb]]) -> None:
    css = "\n".join(f"{of} {{ color: {color.hex}; border: 1px solid {color.hex} }}" for of, color in sheet).encode()
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return
    linked = b"<link rel=stylesheet href=a.css>" + data
    document = read_mail("m.html", linked, {"a.css": css})
    assert document.write({}) == linked
    assert document.beside({}) == {}
    to = dict.fromkeys(document.inventory().paints, BLUE)
    expected = re.sub(rb"#[0-9a-f]{6}", b"#102030", css)
    assert document.beside(to).get("a.css", css) == expected
    assert read_mail("m.html", linked).beside(to) == {}


def test_a_footer_on_the_ground_of_all_else_is_what_the_mail_ends_with() -> None:
    text = "<body><div><p>A long letter about the winter timetable</p><div>%s</div></div>"
    footer = mail(text % "Unsubscribe <a href=u>here</a>")
    assert [page.title for page in footer.pages] == ["Footer: Unsubscribe here"]
    own = footer.write(Recoloring({}, rules={("/footer", Kind.GROUND): BLUE})).decode()
    assert own == (text % "Unsubscribe <a href=u>here</a>").replace(
        "</p><div>", '</p><div style="background-color:#102030">'
    )
    assert mail(text % "So long").pages[0].title == ""
    assert mail((text % "Unsubscribe") + "<p>So long").pages[0].title == "Footer: Unsubscribe So long"
    assert mail((text % "Unsubscribe") + f"<p>{'And one more word behind it. ' * 5}").pages[0].title == ""


def test_colors_for_the_dark_are_a_part_of_their_own() -> None:
    text = """<style>@media (prefers-color-scheme: dark){p{color:#111}} [data-ogsc] p{color:#222} p{color:#333}
    @media (max-width: 500px){p{color:#444}}</style><p>x"""
    dark = [site.paint.key for site in mail(text).sites() if "/dark" in site.selectors]
    assert dark == ["#111111", "#222222"]
    ruled = mail(text).write(Recoloring({}, rules={("/dark", Kind.TEXT): BLUE})).decode()
    assert ruled.count("#102030") == 2


def test_a_part_says_itself_what_the_dark_says_of_it_as_see_through_as_there() -> None:
    rule = "@media (prefers-color-scheme: dark){p{color:%s !important}}"
    text = (
        "<head><style>%s</style></head><body><div><p>A long letter about winter</p><div><p>Unsubscribe</p></div></div>"
    )
    for said, becomes in (("#111", "#102030"), ("rgba(17,17,17,0.6)", "rgba(16, 32, 48, 0.6)")):
        page = mail(text % (rule % said))
        dark = next(site.paint for site in page.sites() if "/dark" in site.selectors)
        own = page.write(Recoloring({dark: parse_color("#0a0").rgb}, rules={("/footer", Kind.TEXT): BLUE})).decode()
        assert own.count("data-own-colors") == 2
        assert f":not(#_){{color:{becomes} !important}}}}</style></head>" in own
        # Where all goes the same way, nothing more is said.
        assert "data-own-colors" not in page.write({dark: BLUE}).decode()


def test_what_hooks_on_the_dark_of_a_program_is_said_by_a_part_on_the_same_hook() -> None:
    text = (
        b"<style>[data-ogsc] .foot,[DATA-OGSC] .x{color:#eee !important}[data-ogsb]{background:#111 !important}"
        b"@media screen{[data-ogsb].foot{background-color:#222 !important}}.foot{color:#333}</style>"
        b"<body bgcolor=#ffffff><p>A letter about the winter timetable</p><div class=foot>Unsubscribe here</div>"
    )
    document = read_mail("m.html", text)
    rules = {("/footer", kind): BLUE for kind in (Kind.TEXT, Kind.GROUND)}
    written = document.write(Recoloring({}, rules=rules)).decode()
    own = '[data-own-colors="1"]:not(#_)'
    assert f"[data-ogsc] {own},[data-ogsc]{own}{{color:#102030 !important}}" in written
    assert f"@media screen{{[data-ogsb] {own},[data-ogsb]{own}{{background-color:#102030 !important}}}}" in written
    # What they say stays as it is, and nothing is said twice on what is light.
    assert written.count("#102030") == 4
    assert document.write({}) == text


def test_lines_that_a_rule_draws_go_with_the_part_they_are_in() -> None:
    text = (
        "<head><style>td{border-top:1px solid #ddd} .own{border-color:#ddd}</style></head><body><table>"
        "<tr><td>A long letter about winter<tr><td%s>Unsubscribe</table>"
    )
    page = mail(text % "")
    to = Recoloring({}, rules={("/footer", Kind.STROKE): BLUE})
    assert page.write(to).decode() == text % ' style="border-top-color:#102030"'
    assert page.write(Recoloring({parse_color("#ddd"): BLUE})).count(b"#102030") == 2
    own = text % " style='border-top:2px solid #ccc'"
    assert mail(own).write(to).decode() == own.replace("#ccc", "#102030")


def test_a_mail_is_called_by_its_title_and_how_it_begins() -> None:
    found = read_mail("departures.html", mail_files()["departures.html"]).inventory()
    assert found.title == "Departures for the weekend"
    assert found.preview.startswith("Two more crossings on Saturday, one fewer on Sunday.")
    assert len(found.preview) <= 90
    accents = "<title>\u00c5 &amp; \u00f6</title><p>\u201eJa\u201c {{ name }}</p>"
    for coding in ("utf-8", "utf-16"):
        called = read_mail("m.html", accents.encode(coding)).inventory()
        assert (called.title, called.preview) == ("\u00c5 & \u00f6", "\u201eJa\u201c")
    sentences = mail("<title>{% trans 'Sails' %} {{ at }}</title><p> <p>{{ _('Come &amp; see') }}: <b>{{ name }}</b>")
    assert (sentences.inventory().title, sentences.inventory().preview) == ("Sails", "Come & see:")


def test_rules_and_controls_have_colors_of_the_browser() -> None:
    text = "<body bgcolor=#fff text=#000><hr><button>Go</button><input type=submit value=Go><input type=text>"
    assert [(place.paint.key, place.kind) for place in mail(text)._written.places if place.implied] == [
        ("#808080", "stroke"),
        ("#efefef", "button"),
        ("#000000", "label"),
        ("#efefef", "button"),
        ("#000000", "label"),
    ]
    grey = parse_color("#808080")
    assert b'<hr style="border-color:#102030">' in mail(text).write({grey: BLUE})
    assert (
        meant("<body bgcolor=#fff text=#000><hr color=red><hr style='border:1px solid red'><hr style='background:red'>")
        == {}
    )


def test_of_several_rules_the_one_that_counts_most_is_taken_over() -> None:
    css = ".a { color: #c81020 } #b { color: #10c820 } p { color: #1020c8 }"
    css += "p { background: #eeeeee } .a { background: #dddddd }"
    text = f"<style>{css}</style><p class='a'>one</p><p id='b'>two</p><p>three</p>"
    over = {
        (place.element(()), place.kind): place.paint.key
        for place in read_mail("m.html", text.encode())._written.taken_over
    }
    numbers = sorted({element for element, _ in over})
    assert [[over[element, kind] for kind in (Kind.TEXT, Kind.GROUND)] for element in numbers] == [
        ["#c81020", "#dddddd"],
        ["#10c820", "#eeeeee"],
        ["#1020c8", "#eeeeee"],
    ]
