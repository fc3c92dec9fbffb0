"""Texts of mails on pictures, gradients and veils, and in every part of a mail that was sent: counted and foretold."""

from __future__ import annotations

import io

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from pavese.core.color.contrast import contrast_ratio
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats import format_of, read
from pavese.core.formats.document import Document
from pavese.core.formats.intake import Came
from pavese.core.recolor.alternatives import alternatives
from pavese.core.recolor.assign import assign
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.on_pictures import with_pictures_apart, without_pictures_apart
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.quiet import Pressed, kept, light_and_dark, quiet
from pavese.core.recolor.reading import readings, readings_of_set
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import ON_PICTURES
from pavese.core.recolor.texts import TextRun
from pavese.demo.load import demo_kit
from pavese.render import proofs, rendering
from pavese.render.pool import DrawingPool
from pavese.render.reading import measured
from pavese.settings import settings as product
from tests.core.strategies import colors
from tests.formats.mails import sent, sent_part
from tests.render.test_mixed import WHITE, foretold, near, photograph

MAIL = b"""<body style="background:#f4f4f4;color:#222222;font:16px Arial"><table width="600" cellpadding="30">
<tr><td background="photo.jpg" style="color:#fffffe">On a photograph
<p style="background:rgba(10,40,60,.6);color:#fffffd">On a veil over it</p></td></tr>
<tr><td style="background:linear-gradient(90deg,#102030,#7080a0);color:#fffffc">On a gradient</td></tr>
<tr><td style="background:url(flat.png) #ffffff;color:#fffffb">On a flat picture</td></tr>
<tr><td style="background:#123456"><b style="background:rgba(200,30,90,.3);color:#fffffa">On a veil over a color</b>
</td></tr>
<tr><td style="background:url(https://pictures.example/a.png) #abcdef;color:#222221">On what is not there</td></tr>
</table></body>"""
TOLD = ["On a photograph", "On a veil over it", "On a gradient", "On a flat picture", "On a veil over a color"]


def packed(pixels: np.ndarray, kind: str) -> bytes:
    target = io.BytesIO()
    Image.fromarray(pixels).save(target, kind, quality=90)
    return target.getvalue()


@pytest.fixture(scope="module")
def beside() -> dict[str, bytes]:
    flat = np.full((300, 600, 3), (11, 110, 79), dtype=np.uint8)
    flat[:, ::2] = (40, 60, 160)
    return {"photo.jpg": packed(np.tile(photograph(), (1, 2, 1)), "JPEG"), "flat.png": packed(flat, "PNG")}


def loose(document: Document) -> dict[str, TextRun]:
    texts = measured(document, format_of("m.html").can).texts
    return {run.text.text: run for run in texts if run.ground is None}


@settings(max_examples=3)
@given(st.lists(colors, min_size=8, max_size=8))
def test_what_texts_stand_on_becomes_what_was_foretold(beside: dict[str, bytes], becomes: list[Rgb]) -> None:
    document = read("m.html", MAIL, beside)
    found = loose(document)
    assert [name for name, run in found.items() if run.told] == TOLD
    assert not found["On what is not there"].told
    grounds = [one for one in sorted(document.inventory().paints) if one.rgb.b < 200]
    to = Recoloring(dict(zip(grounds, becomes, strict=False)))
    changed = {reference: document.beside(to).get(reference, data) for reference, data in beside.items()}
    after = loose(read("m.html", document.write(to), changed))
    for name in TOLD:
        drawn = np.array([seen.color for seen in after[name].seen], dtype=float)
        assert near(foretold(found[name].seen, to), drawn, 9), name
    # A photograph stays, whatever becomes of the rest.
    assert all(seen.becomes(to) == seen.color for seen in found["On a photograph"].seen)


def test_a_text_on_a_picture_counts_at_its_worst_place(beside: dict[str, bytes]) -> None:
    lit = np.full((200, 600, 3), 30, dtype=np.uint8)
    lit[:, 40:80] = 235
    document = read("m.html", MAIL, {**beside, "photo.jpg": packed(lit, "PNG")})
    (told,) = readings([loose(document)["On a photograph"]], Changes(), WHITE)
    assert told.before < 1.4
    dark = read("m.html", MAIL, {**beside, "photo.jpg": packed(np.full((200, 600, 3), 30, dtype=np.uint8), "PNG")})
    (told,) = readings([loose(dark)["On a photograph"]], Changes(), WHITE)
    assert told.before > 12


def test_words_on_pictures_go_their_own_way_where_the_ink_of_all_does_not_read_there(beside: dict[str, bytes]) -> None:
    document, kit = read("m.html", MAIL, beside), demo_kit()
    paints = summarize([document.inventory()], [measured(document, format_of("m.html").can)], ["m.html"])
    assert ON_PICTURES in [page.selector for page in document.pages]
    light, dark = light_and_dark(kit)
    held = assign(paints, kit)
    for pair in (light, dark):
        ruled = held.with_rules(quiet(kit, pair.ground, pair.ink, Pressed.INK).rules, kit)
        apart = with_pictures_apart(paints, kit, ruled)
        # The ink that is light reads on a dark photograph, the other does not.
        assert (ON_PICTURES in apart.part_rules) is (pair is light)
        assert without_pictures_apart(paints, kit, apart) == ruled
        lost = [one for one in readings_of_set(paints, assign(paints, kit, apart), kit) if one.worse]
        assert [one.run.text.text for one in lost if ON_PICTURES in one.run.text.selectors] == []
        # What a person chose stays, whatever it does.
        own = ruled.with_part_rules(ON_PICTURES, kept(), kit)
        assert with_pictures_apart(paints, kit, own) == without_pictures_apart(paints, kit, own) == own
    offered = alternatives(paints, kit, held)
    assert [one.lost for one in offered if one.title.startswith("one ground")] == [0, 0]
    # Nothing is said of pictures where none has words on it.
    bare = summarize([read("n.html", b"<p>words").inventory()], [Measured()], ["n.html"])
    assert with_pictures_apart(bare, kit, Plan()) == Plan()


def test_letters_that_are_not_meant_to_be_read_are_not_brought_to_be(beside: dict[str, bytes]) -> None:
    hidden = b'<body style="background:#f4f4f4;color:#222222"><div style="color:#fefefe">In lists only</div><p>All'
    document, kit = read("m.html", hidden), demo_kit()
    paints = summarize([document.inventory()], [measured(document, format_of("m.html").can)], ["m.html"])
    to = assign(paints, kit).changes(kit, "m.html").recoloring
    assert contrast_ratio(to.get(Rgba(254, 254, 254)) or WHITE, to.get(Rgba(244, 244, 244)) or WHITE) < 2


def test_every_part_of_a_mail_that_was_sent_is_looked_at() -> None:
    parts = (
        b'<body style="margin:0;background:#ffffff;color:#111111"><p>The first part</p>',
        b'<body style="margin:0;background:#222222;color:#dddddd"><div style="background:#123456;height:400px">'
        b'The second part</div><img src="cid:logo@x" width="80">',
    )
    data = sent(b"\r\n", *(sent_part(part, "8bit") for part in parts))
    document = read("m.eml", data)
    texts = {run.text.text: run for run in measured(document, format_of("m.eml").can).texts}
    assert texts["The first part"].ground == Rgba(255, 255, 255)
    assert texts["The second part"].ground == Rgba(18, 52, 86)
    assert [run.text.selectors[-1] for run in texts.values()] == ["/part-1", "/part-2"]
    # A spot is one of the part that is looked at, and what alone says it stands there.
    file, paints = Came("m.eml", data), document.inventory().paints
    pool = DrawingPool(1, product().fonts_dir)
    try:
        first, second = (rendering.paint_at_spot(pool, file, paints, (0.5, 0.2), page=page) for page in (0, 1))
        proven = proofs.proof(pool, file, Changes())
    finally:
        pool.close()
    assert (first.paint, second.paint) == (Rgba(255, 255, 255), Rgba(18, 52, 86))
    assert second.alone is not None
    assert second.alone.selector.startswith("/part-2/")
    assert [one.words for one in proven.looks[:1]] == ["on a desk, part 1"]
    assert {one.words.split(", ")[-1] for one in proven.looks} == {"part 1", "part 2"}
    assert {one.run.text.text for one in proven.texts} == set(texts)
