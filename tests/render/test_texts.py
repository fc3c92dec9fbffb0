"""What texts stand on, as it is measured, and whether they can be read there."""

from __future__ import annotations

import json
from itertools import combinations
from typing import Any

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from pavese.core.color.contrast import TEXT, WHITE, contrast_ratio
from pavese.core.color.difference import difference
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats import format_of, read
from pavese.core.formats.lottie import read_lottie
from pavese.core.formats.svg import read_svg
from pavese.core.recolor.assign import assign
from pavese.core.recolor.backing import FileBacking
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.reading import readings
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.texts import BARE, TextRun
from pavese.demo.illustrations import illustration_files
from pavese.demo.load import demo_kit
from pavese.render.draw import draw, load_fonts, pixels_of
from pavese.render.reading import measured
from pavese.render.texts import texts_measured
from pavese.settings import settings as product
from tests.core.strategies import colors

NAVY, SAND, INK = Rgba(0x12, 0x34, 0x56), Rgba(0xFF, 0xEE, 0xCC), Rgba(0x1B, 0x1F, 0x3A)


@pytest.fixture(scope="module", autouse=True)
def _fonts() -> None:
    load_fonts(str(product().fonts_dir))


def runs(body: str, root: str = 'viewBox="0 0 200 100"') -> list[TextRun]:
    document = read_svg("x.svg", f'<svg xmlns="http://www.w3.org/2000/svg" {root}>{body}</svg>'.encode())
    return list(texts_measured(document, document.inventory().paints))


def told(found: list[TextRun]) -> list[tuple[str, str, float, bool, str | None]]:
    return [
        (one.text.text, one.text.ink.key, one.text.size, one.text.bold, one.ground and one.ground.key) for one in found
    ]


@pytest.mark.parametrize(
    ("body", "expected"),
    [
        ('<rect width="200" height="100" fill="#123456"/><text x="9" y="50" fill="#fff">Quay</text>',
         [("Quay", "#ffffff", 16.0, False, "#123456")]),
        ('<text x="9" y="50">Bare</text>', [("Bare", "#000000", 16.0, False, BARE.key)]),
        # The cascade, relative sizes, shorthands, and a passage in an ink of its own.
        ('<style>.b{font:bold 2em Quay;fill:#fff}</style><rect width="200" height="100" fill="#123456"/>'
         '<g font-size="10"><text class="b" x="2" y="60">Gate '
         '<tspan fill="#ffeecc" font-weight="400">4</tspan></text></g>',
         [("Gate", "#ffffff", 20.0, True, "#123456"), ("4", "#ffeecc", 20.0, False, "#123456")]),
        ('<rect width="100" height="100" fill="#123456"/><text x="60" y="60" font-size="40" fill="#e53935">Half</text>',
         [("Half", "#e53935", 40.0, False, BARE.key), ("Half", "#e53935", 40.0, False, "#123456")]),
        ('<linearGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient>'
         '<rect width="200" height="100" fill="url(#g)"/><text x="60" y="60">Over</text>',
         [("Over", "#000000", 16.0, False, None)]),
        ('<text x="9" y="50" transform="scale(2)" font-size="12px" color="#1b1f3a" fill="currentColor">Twice</text>',
         [("Twice", "#1b1f3a", 24.0, False, BARE.key)]),
        # What is not seen is not told.
        ('<defs><text>Hidden</text></defs><text x="-900">Away</text><text fill="none" x="9" y="9">Clear</text>'
         '<text x="9" y="50"> </text>', []),
    ],
)  # fmt: skip
def test_a_text_is_told_with_what_it_stands_on(body: str, expected: list[Any]) -> None:
    assert told(runs(body)) == expected


GRADIENT = (
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 100"><linearGradient id="g"><stop stop-color="{}"/>'
    '<stop offset="0.5" stop-color="{}"/><stop offset="1" stop-color="{}"/></linearGradient>'
    '<rect width="200" height="100" fill="url(#g)"/><text x="20" y="60" font-size="30" fill="{}">Harbor</text></svg>'
)


@settings(max_examples=25, deadline=None)
@given(st.lists(colors, min_size=4, max_size=4, unique=True), st.lists(colors, min_size=3, max_size=3))
def test_what_a_text_on_a_gradient_stands_on_moves_with_the_stops(paints: list[Rgb], new: list[Rgb]) -> None:
    assume(min(difference(one, other) for one, other in combinations(paints, 2)) > 12)
    document = read_svg("x.svg", GRADIENT.format(*(one.hex for one in paints)).encode())
    mixed = [one for one in texts_measured(document, document.inventory().paints) if one.ground is None]
    # Where stops hardly differ, all between them is taken for one or the other.
    assume(mixed)
    to = Recoloring({Rgba(*paint): color for paint, color in zip(paints, new, strict=False)})
    for run in mixed:
        assert run.told
        drawn = pixels_of(draw(read_svg("x.svg", document.write(to)).unlettered(), 400))
        for seen in run.followed:
            becomes = np.array(seen.becomes(to))
            assert np.abs(drawn[100, :, :3].astype(int) - becomes).max(axis=1).min() <= 8


def test_a_drawing_s_text_on_a_gradient_reads_as_it_is_planned() -> None:
    document = read_svg("x.svg", GRADIENT.format("#0b3d91", "#7a1238", "#105a2a", "#fdfdfd").encode())
    found = Measured(texts=texts_measured(document, document.inventory().paints))
    kit = demo_kit()
    plan = assign(summarize([document.inventory()], [found], ["x.svg"]), kit)
    (told,) = [one for one in readings(found.texts, plan.changes(kit, "x.svg"), WHITE) if one.run.ground is None]
    assert told.before > TEXT
    assert told.reads


def test_sizes_are_those_of_the_file_at_its_own_size() -> None:
    [one] = runs('<text x="9" y="50" font-size="8">Small</text>', 'width="400" height="200" viewBox="0 0 200 100"')
    assert one.text.size == 16.0


def test_a_small_text_on_a_wide_page_is_there() -> None:
    """At the size that is good for areas, 72 pixels, it would be less than a pixel high."""
    page = '<rect width="4000" height="2000" fill="#ffeecc"/>'
    page += '<text x="60" y="900" font-size="20" fill="#123456">Sail</text>'
    assert told(runs(page, 'viewBox="0 0 4000 2000"')) == [("Sail", "#123456", 20.0, False, "#ffeecc")]


def test_the_demo_tells_its_texts() -> None:
    name, data = "island-route.svg", illustration_files()["island-route.svg"]
    found = measured(read(name, data), format_of(name).can)
    assert {run.text.text for run in found.texts} == {"Pier 1", "Skerry", "Northholm", "Tarn Point"}
    assert all(run.text.ink == INK and run.ground in found.areas for run in found.texts)


def layer(text: str, fill: list[float], place: list[float], **more: Any) -> dict[str, Any]:
    said = {"t": text, "f": "Quay-Bold", "s": 20, "j": 0, "fc": fill, "lh": 24}
    motion = {
        "p": {"a": 0, "k": place}, "a": {"a": 0, "k": [0, 0]}, "s": {"a": 0, "k": [100, 100]}, "r": {"a": 0, "k": 0},
        "o": {"a": 0, "k": 100},
    }  # fmt: skip
    frame = {"ty": 5, "nm": text, "ip": 0, "op": 60, "st": 0, "ks": motion, "t": {"d": {"k": [{"t": 0, "s": said}]}}}
    return {**frame, **more}


def test_text_layers_stand_on_what_lies_behind_them() -> None:
    solid = {
        "ty": 1, "nm": "deck", "ip": 0, "op": 60, "st": 0, "sw": 100, "sh": 100, "sc": "#123456",
        "ks": {"p": {"a": 0, "k": [50, 50]}, "a": {"a": 0, "k": [50, 50]}, "s": {"a": 0, "k": [100, 100]}},
    }  # fmt: skip
    carrier = {**layer("", [0, 0, 0], [100, 0]), "ty": 3, "ind": 9}
    carrier.pop("t")
    tree = {
        "v": "5.7.4", "fr": 30, "ip": 0, "op": 60, "w": 200, "h": 100,
        "fonts": {"list": [{"fName": "Quay-Bold", "fFamily": "Quay", "fStyle": "Bold"}]},
        "layers": [
            layer("Deck", [1, 1, 1], [10, 60]), layer("Sky", [0, 0, 0], [10, 60], parent=9), carrier, solid,
        ],
    }  # fmt: skip
    document = read_lottie("x.json", json.dumps(tree).encode())
    found = texts_measured(document, document.inventory().paints)
    assert told(list(found)) == [
        ("Deck", "#ffffff", 20.0, True, "#123456"),
        ("Sky", "#000000", 20.0, True, BARE.key),
    ]
    assert [one.text.selectors for one in found] == [("~Deck",), ("~Sky",)]


@settings(max_examples=40, deadline=None)
@given(colors, colors, colors, colors, st.booleans())
def test_a_reading_is_that_of_what_is_handed_over(
    ink: Rgb, ground: Rgb, to_ink: Rgb, to_ground: Rgb, backed: bool
) -> None:
    """The ratios of a text are those of the colors that stand in the written file."""
    shape = f'<rect width="200" height="100" fill="{ground.hex}"/>' if not backed else ""
    found = runs(f'{shape}<text x="9" y="50" font-size="20" font-weight="bold" fill="{ink.hex}">Quay</text>')
    colors = {Rgba(*ink): to_ink, Rgba(*ground): to_ink if ink == ground else to_ground}
    backing = FileBacking(color="fog.base")
    changes = Changes(Recoloring(colors), (backing,) if backed else (), {"fog.base": to_ground} if backed else {})
    [one] = readings(found, changes, WHITE)
    assert one.needed == 3.0
    assert one.before == contrast_ratio(ink, WHITE if backed else ground)
    assert one.after == contrast_ratio(to_ink, colors[Rgba(*ground)] if not backed else to_ground)
    assert one.worse == (one.after < 3.0 and one.after < one.before)
