"""Faces that are not here are told with what stands in for them, as the engines that draw have chosen it."""

from __future__ import annotations

import io
from typing import cast

import pytest
from pptx import Presentation
from pptx.util import Inches

from pavese.core.formats import format_of, read
from pavese.core.formats.document import Slided
from pavese.demo.deck import deck_file
from pavese.demo.talk import talk_file
from pavese.render.faces import told_in
from pavese.render.reading import measured


def faces_of(name: str, data: bytes) -> tuple[tuple[str, str], ...]:
    return measured(read(name, data), format_of(name).can).faces


def test_of_mails_the_browser_tells() -> None:
    mail = b"""<body style="font-family:Arial,Helvetica,sans-serif"><p>One</p><h1 style="font-family:'Calibri'">Two</h1>
    <p style="font-family:'Nobody, Face',Cambria,serif">Three</p><p style="font-family:sans-serif">Four</p>
    <p style="font-family:'Liberation Sans'">Five</p><p style="font-family:-apple-system,sans-serif">Six</p>"""
    told = dict(faces_of("m.html", mail))
    assert told == {"Arial": "Liberation Sans", "Calibri": "Carlito", "Nobody, Face": "Caladea"}


def test_of_decks_the_faces_that_are_set_tell() -> None:
    made = Presentation()
    slide = made.slides.add_slide(made.slide_layouts[6])
    for at, face in enumerate((None, "Cambria", "Liberation Serif", "Nobody's: face-1")):
        box = slide.shapes.add_textbox(Inches(1), Inches(1 + at), Inches(6), Inches(1)).text_frame
        box.text = "Words on a slide"
        box.paragraphs[0].runs[0].font.name = face
    target = io.BytesIO()
    made.save(target)
    told = dict(faces_of("x.pptx", target.getvalue()))
    assert (told["Calibri"], told["Cambria"]) == ("Carlito", "Caladea")
    assert "Liberation Serif" not in told


@pytest.mark.parametrize(("made", "face"), [(deck_file(), "Calibri"), (talk_file(), "Carlito")])
def test_decks_of_either_kind_name_their_faces(made: dict[str, bytes], face: str) -> None:
    [(name, data)] = made.items()
    faces = cast(Slided, read(name, data)).faces
    assert face in faces
    assert all(one and not one.startswith("+") for one in faces)


def test_what_the_system_does_not_give_or_is_not_seen_is_not_told() -> None:
    assert list(told_in(["Calibri", "Carlito", "No,such:face-9", "--help"], {"Carlito"})) == [("Calibri", "Carlito")]
    assert list(told_in(["Calibri"], {"Liberation Sans"})) == []
    # Of very many only the first are asked for.
    many = [f"Nobody's {number}" for number in range(100_000)]
    assert list(told_in([*many, "Calibri"], {"Carlito"})) == []
