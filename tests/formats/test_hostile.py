"""Crafted files are taken or refused by name, and never bring the reading down."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats import read
from pavese.core.formats.document import Notation, Preview
from pavese.core.formats.intake import take
from pavese.core.formats.lottie.staging import Motion, set_in_motion
from pavese.core.formats.svg import read_svg
from pavese.core.formats.svg.sprite import sprite
from pavese.core.gather.code_files import read_code_file
from pavese.core.recolor.acts import Namespace
from pavese.core.recolor.backing import FileBacking
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.recoloring import Recoloring
from pavese.render.draw import draw
from tests.hostile import SVG, Hostile, codes, drawing, drawings, entities

TEAL = Rgb(11, 94, 107)


@pytest.mark.parametrize("one", [*drawings(), *entities()], ids=lambda one: one.title)
def test_a_crafted_drawing(one: Hostile) -> None:
    intake = take([(one.name, one.data), ("good.svg", drawing("<g/>"))])
    assert intake.taken[-1].name == "good.svg"
    if one.reason is None:
        assert [file.name for file in intake.taken] == [one.name, "good.svg"]
        plain = intake.taken[0].document.preview(Recoloring())
        assert draw(plain, 32).startswith(b"\x89PNG")
        assert set_in_motion(one.name, plain.content, Motion.ARRIVE, lambda side: draw(plain, side))
        return
    assert len(intake.taken) == 1
    assert [error.name for error in intake.refused] == [one.name]
    assert one.reason in intake.refused[0].reason


@pytest.mark.parametrize("one", [*codes()], ids=lambda one: one.title)
def test_a_crafted_list_of_codes(one: Hostile) -> None:
    if one.reason is None:
        assert read_code_file(one.name, one.data)
    else:
        with pytest.raises(RefusedFileError, match=one.reason):
            read_code_file(one.name, one.data)


def test_a_table_with_old_line_ends_is_read() -> None:
    found = read_code_file("a.csv", b"name,hex\rSea,#0b5e6b\rFog,#eef0ec\r")
    assert [(code.name, code.color.hex) for code in found] == [("Sea", "#0b5e6b"), ("Fog", "#eef0ec")]


def test_an_error_that_nobody_foresaw_refuses_one_file(monkeypatch: pytest.MonkeyPatch) -> None:
    from pavese.core.formats import intake

    def failing(name: str) -> object:
        raise KeyError("never seen")

    told: list[tuple[str, Exception]] = []
    good = drawing("<g/>")
    with monkeypatch.context() as changed:
        changed.setattr(intake, "read", lambda name, *rest: failing(name) if name == "a.svg" else read(name, *rest))
        found = take([("a.svg", good), ("b.svg", good)], lambda name, error: told.append((name, error)))
        assert [file.name for file in found.taken] == ["b.svg"]
        assert [(name, type(error)) for name, error in told] == [("a.svg", KeyError)]
        with pytest.raises(KeyError):
            take([("a.svg", good)])


@given(st.sampled_from(["fill:#F00;", "fill:#f00", "#f00", "red"]), st.sampled_from(['"', "'"]))
def test_what_an_entity_says_is_recolored_where_it_is_declared(said: str, quote: str) -> None:
    use = "style" if ":" in said else "fill"
    declared = f"<!ENTITY a {quote}{said}{quote}>"
    namespace = f"<!ENTITY ns {quote}{SVG}{quote}>"
    body = f'<g {use}="&a;"/><path {use}="&a;" d="M0 0h9v9z"/><!-- &a; --><text>&a; &#38;</text>'
    before = f'<!DOCTYPE svg [{namespace}{declared}]><svg xmlns="&ns;">{body}</svg>'.encode()
    document = read_svg("a.svg", before)
    red = Rgba(255, 0, 0)
    assert red in document.inventory().paints
    assert document.write({}) == before
    after = document.write({red: TEAL})
    assert after == before.replace(
        said.encode(), said.lower().replace("#f00", TEAL.hex).replace("red", TEAL.hex).encode()
    ) or ("#F00" in said and after == before.replace(b"#F00", TEAL.hex.upper().encode()))
    # Where the drawing is put elsewhere, the text stands where it is used.
    for made in (document.preview({red: TEAL}).content, sprite([("a", after)])):
        assert b"&a;" not in made.replace(b"<!-- &a; -->", b"")
    backing = FileBacking(color="sea.base")
    backed = document.write(Changes(Recoloring({red: TEAL}), (backing,), {backing.color: Rgb(1, 2, 3)}))
    assert TEAL in [paint.rgb for paint in read_svg("b.svg", backed).inventory().paints]


def test_an_entity_that_nobody_declared_says_nothing() -> None:
    before = b'<!DOCTYPE svg PUBLIC "x" "x.dtd"><svg xmlns="%s"><g fill="&gone;#f00"/></svg>' % SVG.encode()
    document = read_svg("a.svg", before)
    assert document.write({Rgba(255, 0, 0): TEAL}) == before.replace(b"#f00", TEAL.hex.encode())


def test_a_drawing_without_its_namespace_is_taken_drawn_and_mended_on_request() -> None:
    before = b'<?xml version="1.0"?>\n<svg viewBox="0 0 9 9"><path fill="red" d="M0 0h9v9H0z"/></svg>'
    document = read_svg("a.svg", before)
    assert Namespace.remedies in document.inventory().remarks
    assert document.write({}) == before
    assert draw(document.preview({}), 9) == draw(
        Preview(Notation.VECTOR, before.replace(b"<svg", b'<svg xmlns="%s"' % SVG.encode())), 9
    )
    wanted = Recoloring({Rgba(255, 0, 0): TEAL})
    plain = document.write(Changes(wanted))
    assert b"xmlns" not in plain
    mended = document.write(Changes(wanted, (Namespace(),)))
    assert mended == plain.replace(b"<svg", b'<svg xmlns="%s"' % SVG.encode())
    assert Namespace.remedies not in read_svg("a.svg", mended).inventory().remarks
