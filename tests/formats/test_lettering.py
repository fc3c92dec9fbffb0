"""Texts of any drawing and animation: told without fault, and drawn apart from all else."""

from __future__ import annotations

import json

import orjson
from hypothesis import assume, given
from hypothesis import strategies as st

from pavese.core.color.srgb import Rgb
from pavese.core.formats.lottie import read_lottie
from pavese.core.formats.svg import read_svg
from pavese.core.formats.xml_source import read_xml
from tests.formats.lotties import lotties
from tests.formats.svgs import svgs

INKS = [Rgb(16 + number, 16, 16) for number in range(200)]


_LABELS = st.lists(
    st.sampled_from(
        [
            '<text fill="#123456" x="1" y="9">Quay <tspan style="fill:#abc;opacity:.5">4</tspan></text>',
            '<g font-size="2em" opacity="50%" transform="scale(2) rotate(9)">'
            '<text class="a b">Å &amp; <![CDATA[<]]></text></g>',
            '<text style="font: italic bold 1.5em/2 Quay, serif" fill="url(#g)">over</text>',
            "<text><textPath href='#t' fill='currentColor' color='rgb(1 2 3)'>on a path</textPath></text>",
            "<text> <!-- nothing --> </text>",
        ]
    ),
    min_size=1,
    max_size=4,
)


@given(svgs(), _LABELS)
def test_texts_of_a_drawing_are_told_and_drawn_apart(data: bytes, labels: list[str]) -> None:
    data = data.replace(b"</svg>\n", "".join(labels).encode() + b"</svg>\n")
    assume(b"".join(label.encode() for label in labels) in data)
    document = read_svg("x.svg", data)
    texts = document.texts()
    plain = read_xml("x.svg", document.preview({}).content)
    for text in filter(None, texts):
        assert text.text.strip()
        assert text.size > 0
        assert 0 <= text.opacity <= 1
        if b"<mask" not in data:
            assert text.ink in document.inventory().paints
    for drawn in (document.inked(INKS), document.unlettered()):
        again = read_xml("x.svg", drawn.content)
        assert [element.name for element in again.elements] == [element.name for element in plain.elements]
    inked = document.inked(INKS[: len(texts)]).content
    assert sum(ink.hex.encode() in inked for ink in INKS[: len(texts)]) == len(texts), "each its own ink"


@given(lotties(), st.integers(0, 3))
def test_texts_of_an_animation_stand_where_their_layers_do(data: bytes, fewer: int) -> None:
    document = read_lottie("x.json", data)
    texts = document.texts()
    inks = INKS[: max(len(texts) - fewer, 0)]
    before = json.loads(data.removeprefix(b"\xef\xbb\xbf"))
    after = orjson.loads(document.inked(inks).content)
    boxes = 0
    for was, now in zip(_layers(before), _layers(after), strict=True):
        assert len(was) == len(now)
        for old, new in zip(was, now, strict=True):
            # What moves with what stays so: order, parents, times and transforms.
            assert [new.get(key) for key in ("ind", "parent", "ip", "op", "ks")] == [
                old.get(key) for key in ("ind", "parent", "ip", "op", "ks")
            ]
            boxes += new["ty"] == 4
            assert new["ty"] in (0, 3, 4)
    assert boxes == len(inks)
    assert document.unlettered().content == data


def _layers(tree: dict) -> list[list[dict]]:  # type: ignore[type-arg]
    return [tree["layers"], *(asset["layers"] for asset in tree.get("assets", []) if "layers" in asset)]
