"""Mails on a phone: what lies beside a ground that does not reach the edges is found, said, and mended by color."""

from __future__ import annotations

import pytest

from pavese.core.color.contrast import WHITE
from pavese.core.color.srgb import Rgba
from pavese.core.formats import format_of, read
from pavese.core.formats.mail.document import PHONE
from pavese.core.kit.kit import Kit
from pavese.core.recolor.assign import assign
from pavese.core.recolor.doubts import Doubt, DoubtKind, doubts
from pavese.core.recolor.inventory import SetPaints, summarize
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.quiet import Pressed, kept, light_and_dark, quiet
from pavese.core.recolor.site import OUTER
from pavese.demo.load import demo_kit
from pavese.render.draw import draw, pixels_of
from pavese.render.reading import measured

OUTSIDE, INSIDE = Rgba(214, 220, 232), Rgba(255, 248, 238)
#: A mail whose content stands in a box with a margin, on a ground of its own.
MAIL = """<body style="margin:0;background:#d6dce8"><style>{style}</style>
<table class="box" width="100%" style="margin:{margin}" cellpadding="20" bgcolor="#fff8ee"><tr><td>
<h1>Winter timetable</h1><p>The boats go every hour until the ice comes, and a letter tells when.</p>
<p style="margin:0 30px;background:#cc3344;color:#ffffff">A card in it</p></td></tr></table></body>"""


def mail(margin: str = "12px auto", style: str = ".box{width:92%}") -> bytes:
    return MAIL.format(margin=margin, style=style).encode()


def paints_of(data: bytes) -> SetPaints:
    document = read("m.html", data)
    return summarize([document.inventory()], [measured(document, format_of("m.html").can)], ["m.html"])


def told(paints: SetPaints, plan: Plan, kit: Kit) -> list[Doubt]:
    return [one for one in doubts(paints, plan, kit, WHITE) if one.kind is DoubtKind.SIDES]


@pytest.mark.parametrize(
    ("data", "found"),
    [
        (mail(), True),
        (mail(style=".box{width:92%} @media (max-width:500px){.box{width:100%!important}}"), False),
        (mail("0", ""), False),
        # What nothing names shows as well; of a part of a mail it is not known what is around it.
        (b'<body><p>Words before</p><div style="margin:20px;height:300px;background:#fff8ee">Words</div>', True),
        (b'<table width="90%" align="center" bgcolor="#fff8ee"><tr><td><h1>Words</h1><p>and more', False),
        (b'<body bgcolor="#fff8ee"><p style="margin:9px;background:#d6dce8;height:20px">A low band</p>', False),
    ],
)
def test_grounds_that_do_not_reach_the_edges_are_found(data: bytes, found: bool) -> None:
    (file,) = paints_of(data).files
    assert bool(file.measured.sides) is found
    for one in file.measured.sides:
        assert one.inner.paint == INSIDE
        assert one.outer.paint == (OUTSIDE if b"d6dce8" in data else Rgba(255, 255, 255))


def test_they_are_said_and_mended_in_one_press() -> None:
    data, kit = mail(), demo_kit()
    paints = paints_of(data)
    plan = assign(paints, kit)
    [doubt] = told(paints, plan, kit)
    assert doubt.paints == (OUTSIDE.key, INSIDE.key)
    [remedy] = doubt.remedies
    [(key, target)] = remedy.targets.items()
    assert key == f"{OUTSIDE.key}@{OUTER}"
    mended = plan.with_targets({key: target}, kit)
    assert told(paints, mended, kit) == []
    changes = mended.changes(kit, "m.html")
    written = read("m.html", read("m.html", data).write(changes))
    pixels = pixels_of(draw(written.preview({}, look=PHONE), 375))
    assert tuple(pixels[60, 2, :3]) == tuple(pixels[60, 25, :3])
    assert measured(written, format_of("m.html").can).sides == ()


def test_nothing_is_said_where_all_is_one_ground_or_a_person_chose() -> None:
    paints, kit = paints_of(mail()), demo_kit()
    light, dark = light_and_dark(kit)
    rules = quiet(kit, light.ground, light.ink, Pressed.INK).rules
    whole = assign(paints, kit, Plan().with_rules(rules, kit))
    assert told(paints, whole, kit) == []
    apart = whole.with_part_rules("/content", quiet(kit, dark.ground, dark.ink, Pressed.INK).rules, kit)
    assert [one.paints for one in told(paints, apart, kit)] == [(OUTSIDE.key, INSIDE.key)]
    assert told(paints, apart.with_part_rules(OUTER, kept(), kit), kit) == []
