"""Mails as an engine shows them: which text stands on which ground, and that all read in what is handed over."""

from __future__ import annotations

import io
from dataclasses import replace
from functools import cache

import pytest
from PIL import Image

from pavese.core.color.contrast import TEXT, WHITE, contrast_ratio
from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import InvalidPlanError
from pavese.core.formats.document import Alone, Look
from pavese.core.formats.mail.document import BARE, DARK, DESKTOP, OPENED, Mail, read_mail
from pavese.core.kit.kit import Kit
from pavese.core.kit.token import parse_token
from pavese.core.recolor.assign import assign
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.dark import DarkScheme
from pavese.core.recolor.inventory import SetPaints, summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.quiet import Pressed, light_and_dark, quiet
from pavese.core.recolor.reading import readings
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import OUTER
from pavese.core.recolor.texts import TextRun
from pavese.demo.load import demo_kit
from pavese.demo.mail import mail_files
from pavese.render import browser
from pavese.render.draw import draw, pixels_of
from pavese.render.marked import alone_under, texts_marked

FILES = {
    **mail_files(),
    "grounds.html": b"<body bgcolor=#eee><div style='background:#123;color:#fff'>a <a href=u>b</a></div>"
    b"<div style='background-image:url(x.png);color:#000'>c</div><p style='opacity:.5;color:#123'>d</p>"
    b"<div style='max-height:0;overflow:hidden'>unseen</div>"
    b"<style>@media (max-width:500px){p{color:#a00!important}}</style>",
}


def mail(name: str) -> Mail:
    return read_mail(name, FILES[name])


@cache
def texts(name: str, look: Look = DESKTOP) -> tuple[TextRun, ...]:
    return texts_marked(mail(name), look)


def told(name: str, look: Look = DESKTOP) -> dict[str, tuple[str, str | None]]:
    return {run.text.text: (run.text.ink.key, run.ground.key if run.ground else None) for run in texts(name, look)}


def test_a_picture_for_the_dark_is_shown_there_and_goes_by_the_plan() -> None:
    text = (
        b"<body style='margin:0'><picture>"
        b"<source media='(prefers-color-scheme: dark)' srcset='night.png 1x, night2.png 2x'>"
        b"<img src=day.png srcset='day2.png 2x' width=90 height=90></picture>"
    )
    day, night = Rgb(240, 220, 180), Rgb(20, 40, 90)
    beside = {name: flat(day) for name in ("day.png", "day2.png")} | {
        "night.png": flat(night),
        "night2.png": flat(night),
    }
    document = read_mail("m.html", text, beside)
    assert document.refers == ("night.png", "night2.png", "day.png", "day2.png")

    def shown(look: Look, to: Recoloring | None = None) -> Rgb:
        preview = document.preview(to or Recoloring(), look=look)
        return Rgb(*pixels_of(draw(preview, 900))[40, 40, :3].tolist())

    assert (shown(DESKTOP), shown(DARK)) == (day, night)
    to = Recoloring({Rgba(*day): Rgb(1, 2, 3), Rgba(*night): Rgb(200, 100, 0)})
    assert (shown(DESKTOP, to), shown(DARK, to)) == (Rgb(1, 2, 3), Rgb(200, 100, 0))
    assert set(document.beside(to)) == set(beside)
    assert document.write(to).count(b".png") == 4


def flat(color: Rgb) -> bytes:
    target = io.BytesIO()
    picture = Image.new("RGB", (90, 90), tuple(color))
    picture.paste((255, 0, 0), (70, 70, 90, 90))
    picture.save(target, "PNG")
    return target.getvalue()


def test_a_spot_tells_the_element_that_alone_says_it() -> None:
    page = (
        b"<body style='margin:0' bgcolor=#eeeeee><style>p{color:#224466}</style><table width=600 cellpadding=0>"
        b"<tr><td height=100 bgcolor=#ffffff><p>The first</p></td></tr>"
        b"<tr><td height=100 bgcolor=#ddddee><p style='margin:0;font:60px/100px serif'>Second</p></td></tr></table>"
    )
    document = read_mail("m.html", page)
    shown = pixels_of(draw(document.preview({}, look=DESKTOP), 900))
    height = shown.shape[0]

    def at(x: int, y: int, paint: str) -> Alone | None:
        return alone_under(document, DESKTOP, (x / 900, y / height), parse_color(paint))

    white, blue = at(500, 10, "#ffffff"), at(500, 150, "#ddddee")
    assert white is not None
    assert blue is not None
    assert (white.words, blue.words) == ("td “The first”", "td “Second”")
    assert at(800, 50, "#eeeeee") is None
    # A text is told by its ink; the ground of the same spot, by its paint.
    words = at(40, 150, "#224466")
    assert words is not None
    assert words.words == "p “Second”"
    written = document.write(Recoloring({}, {(parse_color("#224466"), words.selector): parse_color("#aa0000").rgb}))
    assert written == page.replace(b"<p style='", b"<p style='").replace(b"serif'", b"serif;color:#aa0000'")


def test_inks_and_grounds_come_through_rules_inheritance_and_what_nothing_names() -> None:
    assert told("grounds.html") == {
        "a": ("#ffffff", "#112233"),
        "b": ("#0000ee", "#112233"),
        "c": ("#000000", None),
        "d": ("#112233", "#eeeeee"),
    }
    [veiled] = [run.text for run in texts("grounds.html") if run.text.text == "d"]
    assert veiled.opacity == 0.5
    assert told("grounds.html", Look("phone", "", 375))["d"] == ("#aa0000", "#eeeeee")
    assert told("reply.html")["the new timetable here"] == ("#0000ee", "#ffffff")


def test_the_dark_and_the_conditional_look_have_texts_of_their_own() -> None:
    assert told("delay.html")["15:10"] == ("#d7263d", "#ffffff")
    assert told("delay.html", DARK)["15:10"] == ("#ff7a85", "#18222b")
    opened = [run for run in texts("departures.html", OPENED) if run.text.text == "Book a crossing"]
    assert [(run.text.ink.key, run.ground and run.ground.key) for run in opened] == [("#ffffff", "#e67e22")]


@cache
def _set() -> tuple[SetPaints, Kit]:
    found = []
    for name in mail_files():
        document = mail(name)
        runs = tuple(dict.fromkeys(run for look in document.looks for run in texts(name, look)))
        found.append((document.inventory(), runs))
    paints = summarize([one for one, _ in found], [Measured(texts=runs) for _, runs in found], list(mail_files()))
    return paints, demo_kit()


def _read_again(name: str, changes: Changes) -> list[tuple[TextRun, float, float]]:
    """Every text of what is handed over, opened anew, with its ratio and that which it needs."""
    written = read_mail(name, mail(name).write(changes))
    runs = (run for look in written.looks for run in texts_marked(written, look))
    return [(one.run, one.after, one.needed) for one in readings(runs, Changes(), WHITE)]


@pytest.mark.parametrize("pressed", Pressed)
@pytest.mark.parametrize("dark", [False, True])
def test_one_ground_and_one_ink_reads_in_every_look_of_what_is_handed_over(pressed: Pressed, dark: bool) -> None:
    paints, kit = _set()
    pair = list(light_and_dark(kit))[dark]
    all_in = quiet(kit, pair.ground, pair.ink, pressed)
    plan = assign(paints, kit, Plan().with_rules(all_in.rules, kit))
    wanted = {kit.resolve(parse_token(token)) for token in all_in.rules.values()}
    for name in mail_files():
        changes = plan.changes(kit, name)
        again = _read_again(name, changes)
        assert all(ratio >= needed for _, ratio, needed in again), name
        assert {run.text.ink.rgb for run, _, _ in again} <= wanted
        # Nothing of the old colors is left, but for the veil of a shadow, which goes with the rest of the plan.
        left = {site.paint.rgb for site in read_mail(name, mail(name).write(changes)).sites()}
        assert left <= wanted | {color for _, color in kit.tokens()}


def test_faithful_keeps_the_level_of_every_text_that_read() -> None:
    paints, kit = _set()
    plan = assign(paints, kit)
    for name in mail_files():
        runs = [run for look in mail(name).looks for run in texts(name, look)]
        for one in readings(runs, plan.changes(kit, name), WHITE):
            assert one.after >= one.needed or one.before < one.needed, (name, one.run)


@pytest.mark.parametrize("faithful", [False, True])
@pytest.mark.parametrize(("part", "least"), [("/footer", 4), ("/header", 4), ("/preheader", 1), (OUTER, 0)])
def test_a_part_of_all_mails_goes_its_own_way_and_reads_as_it_is_told(part: str, least: int, faithful: bool) -> None:
    paints, kit = _set()
    light, dark = light_and_dark(kit)
    rest = Plan() if faithful else Plan().with_rules(quiet(kit, light.ground, light.ink, Pressed.INK).rules, kit)
    own = quiet(kit, dark.ground, dark.ink, Pressed.TONE)
    plan = assign(paints, kit, rest).with_part_rules(part, own.rules, kit)
    met = around = 0
    for name in mail_files():
        changes = plan.changes(kit, name)
        runs = [run for look in mail(name).looks for run in texts(name, look)]
        told = {(one.run.text.text, one.run.text.size): one for one in readings(runs, changes, WHITE)}
        after = read_mail(name, mail(name).write(changes)).sites()
        around += any(site.paint.rgb == kit.resolve(own.ground) and part in site.selectors for site in after)
        for run, ratio, needed in _read_again(name, changes):
            before = told[run.text.text, run.text.size]
            assert ratio >= needed or before.before < before.needed, (name, run)
            if part in before.run.text.selectors:
                met += 1
                grounds = {run.ground.rgb} if run.ground is not None else {seen.color for seen in run.seen}
                assert grounds
                assert grounds <= {kit.resolve(own.ground), kit.resolve(own.button)}
                assert run.text.ink.rgb in {kit.resolve(own.ink), kit.resolve(own.label)}
    assert met >= least
    assert around >= 1


def test_every_mail_reads_in_the_dark_once_it_is_given_a_scheme() -> None:
    _, kit = _set()
    _, dark = light_and_dark(kit)
    own = quiet(kit, dark.ground, dark.ink, Pressed.ACTION)
    plan = Plan().with_part_rules("/dark", own.rules, kit).with_act(DarkScheme.key, own.in_the_dark)
    inks, grounds = {own.ink, own.link, own.label}, {own.ground, own.button}
    for name in FILES:
        written = read_mail(name, mail(name).write(plan.changes(kit, name)))
        for run in texts_marked(written, DARK):
            assert run.ground is not None, (name, run)
            assert run.text.ink.rgb in map(kit.resolve, inks), (name, run)
            assert run.ground.rgb in map(kit.resolve, grounds), (name, run)
            assert contrast_ratio(run.text.ink.rgb, run.ground.rgb) >= TEXT, (name, run)
        # In the light nothing is another than it was.
        assert list(map(_seen, texts_marked(written, DESKTOP))) == list(map(_seen, texts(name)))
        assert [look.reads for look in written.looks if look.key == DARK.key] == [True]


def _seen(run: TextRun) -> TextRun:
    """A text on its ground, wherever that is said: what is added to a mail gives its elements other numbers."""
    return replace(run.settled(), text=replace(run.text, selectors=()), selectors=())


def test_without_its_pictures_a_mail_is_read_on_the_grounds_below_them() -> None:
    bare = mail("grounds.html")
    assert [look.key for look in bare.looks if look.reads] == ["desktop", "phone", "bare"]
    assert told("grounds.html", BARE)["c"] == ("#000000", "#eeeeee")


def test_a_pair_that_does_not_read_is_refused() -> None:
    kit = demo_kit()
    with pytest.raises(InvalidPlanError, match="does not read"):
        quiet(kit, parse_token("fog.base"), parse_token("lamp.base"), Pressed.INK)
    for ground, ink in (("fog.base", "hull.base"), ("hull.base", "fog.base"), ("deep-water.base", "fog.base")):
        for pressed in Pressed:
            made = quiet(kit, parse_token(ground), parse_token(ink), pressed)
            assert contrast_ratio(kit.resolve(made.label), kit.resolve(made.button)) >= TEXT


def test_pictures_of_a_mail_are_as_wide_as_asked_and_small_ones_show_its_head() -> None:
    preview = mail("departures.html").preview({})
    whole, small = pixels_of(draw(preview, 900)), pixels_of(draw(preview, 160))
    assert whole.shape[1] == 900
    assert small.shape[:2] == (round(min(whole.shape[0], 900 * 1.25) * 160 / 900), 160)
    assert (whole[5, 5, :3] == (0xE9, 0xEE, 0xF2)).all()
    long = read_mail("m.html", b"<p>x</p>" * 200).preview({})
    assert pixels_of(draw(long, 160)).shape[:2] == (200, 160)


@pytest.mark.parametrize(
    "page",
    [
        b'<meta http-equiv="refresh" content="0;url=http://tarnmoor.example/"><p style="color:#123">x',
        b"<base href='http://tarnmoor.example/'><img src=a.png><link rel=stylesheet href=b.css><p>x",
        b"<p>x</p><script>document.body.innerHTML = '<p>run</p>'</script><iframe src='http://tarnmoor.example'></iframe>",
        b"<form action='http://tarnmoor.example'><input autofocus><p>x</p></form>",
        b"<style>" + b":has(:has(*)) *{color:#123}" * 200 + b"</style><p>x",
    ],
)
def test_nothing_runs_and_nothing_is_fetched(page: bytes) -> None:
    document = read_mail("m.html", page)
    assert [run.text.text for run in texts_marked(document)] == ["x"]
    assert pixels_of(draw(document.preview({}), 300)).shape[1] == 300


def test_a_page_that_takes_too_much_is_told_and_the_next_one_is_shown() -> None:
    huge = b"<table>" + b"<tr>" + b"<td bgcolor=#123456>x</td>" * 6 + b"</tr>" * 8000
    asked = browser.Asked(huge, 900, dark=False, picture=True, texts=True)
    shown = browser.show(asked)
    assert shown.png
    assert browser.show(browser.Asked(b"<p>x", 300, dark=False, texts=True)).texts
