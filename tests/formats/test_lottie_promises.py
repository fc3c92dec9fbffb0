"""The five promises, for Lottie and dotLottie, and what the specification says of single places."""

from __future__ import annotations

import io
import json
import re
import zipfile
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats import read
from pavese.core.formats.intake import take
from pavese.core.formats.lottie import read_dotlottie, read_lottie
from pavese.core.formats.lottie.texts import inked
from pavese.core.recolor.inventory import recolored
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind
from pavese.demo.animations import animation_files
from tests.core.strategies import colors as targets
from tests.formats.lotties import lotties

#: What may differ: three components in an array of at least three numbers, or a code.
_ARRAY = re.compile(rb"\[[-+0-9.eE,\s]*\]")
_CODE = re.compile(rb'"#[0-9a-fA-F]{3,8}"')
TEAL = Rgb(11, 94, 107)


def wanted_of(paints: tuple[Rgba, ...], colors: list[Rgb]) -> dict[Rgba, Rgb]:
    return {paint: colors[n % len(colors)] for n, paint in enumerate(paints)}


CIRCLE = [
    {"id": "a", "layers": [{"ty": 0, "refId": "b"}]},
    {"id": "b", "layers": [{"ty": 0, "refId": "a"}]},
]


def animation(*layers: dict[str, Any], **more: Any) -> bytes:
    return json.dumps(
        {"v": "5.7.4", "fr": 30, "ip": 0, "op": 30, "w": 9, "h": 9, "layers": list(layers), **more}
    ).encode()


def fill(color: list[float], **more: Any) -> dict[str, Any]:
    return {"ty": 4, "shapes": [{"ty": "fl", "c": {"a": 0, "k": color, **more}, "o": {"a": 0, "k": 100}}]}


@given(lotties(), st.lists(targets, min_size=1, max_size=5))
def test_closure(data: bytes, colors: list[Rgb]) -> None:
    document = read_lottie("x.json", data)
    wanted = wanted_of(document.inventory().paints, colors)
    after = read_lottie("x.json", document.write(wanted)).inventory()
    assert after.sites == document.inventory().after(wanted).sites
    assert set(after.paints) == {recolored(paint, wanted) for paint in document.inventory().paints}


@given(lotties(), st.lists(targets, min_size=1, max_size=5))
def test_nothing_else_moves_and_the_same_comes_again(data: bytes, colors: list[Rgb]) -> None:
    document = read_lottie("x.json", data)
    wanted = wanted_of(document.inventory().paints, colors)
    after = document.write(wanted)
    assert after == read_lottie("y.json", bytes(data)).write(dict(reversed(wanted.items())))
    assert _CODE.sub(b'""', _ARRAY.sub(b"[]", after)) == _CODE.sub(b'""', _ARRAY.sub(b"[]", data))
    for before, now in zip(_ARRAY.findall(data), _ARRAY.findall(after), strict=True):
        # Arrays that are no colors keep the very text of their numbers; in colors so do offset and alpha.
        old, new = before.split(b","), now.split(b",")
        assert len(old) == len(new)
        assert len(old) >= 3 or before == now


@settings(max_examples=40)
@given(lotties(), st.integers(0, 10_000), st.integers(0, 255))
def test_damage_is_refused_or_read(data: bytes, at: int, byte: int) -> None:
    place = at % len(data)
    damaged = data[:place] + bytes([byte]) + data[place + 1 :]
    try:
        document = read_lottie("x.json", damaged)
    except RefusedFileError:
        return
    assert document.write({}) == damaged


@pytest.mark.parametrize(
    ("data", "reason"),
    [
        (b"", "empty"),
        (b"{", "JSON"),
        (b"[1, 2]", "no layers"),
        (b'{"layers": {}}', "no layers"),
        (b'{"v": "5.5.5", "layers": [NaN]}', "JSON"),
        (b'{"layers": [{"ty":1,"sc":"#123456","sc":"#123457"}]}', "same name twice"),
        (animation(assets=CIRCLE), "holds itself"),
        (b'{"layers": [{"ty": 4, "shapes": ' + b'[{"ty":"gr","it":' * 300 + b"[]" + b"}]" * 300 + b"}]}", "nested"),
    ],
)  # fmt: skip
def test_what_is_not_taken(data: bytes, reason: str) -> None:
    with pytest.raises(RefusedFileError) as refused:
        read("x.json", data)
    assert refused.value.name == "x.json"
    assert reason in refused.value.reason


def test_every_kind_of_place_is_found() -> None:
    color = {"a": 0, "k": [1, 0, 0, 1]}
    data = animation(
        {"ty": 1, "sc": "#010101"},
        {"ty": 5, "t": {"d": {"k": [{"s": {"fc": [0, 1, 0], "sc": [0, 0, 1]}}]}, "a": [{"a": {"fc": color}}]}},
        {"ty": 4, "ef": [{"ty": 5, "ef": [{"ty": 2, "v": color}]}], "sy": [{"ty": 1, "c": color}], "shapes": []},
        fill([0, 1, 1, 1]),
    )
    sites = read_lottie("x.json", data).inventory().sites
    assert sites[Rgba(1, 1, 1)] == {Kind.GROUND: 1}
    assert sites[Rgba(0, 255, 0)] == {Kind.TEXT: 1}
    assert sites[Rgba(0, 0, 255)] == {Kind.STROKE: 1}
    assert sites[Rgba(255, 0, 0)] == {Kind.TEXT: 1, Kind.EFFECT: 1, Kind.SHADOW: 1}
    assert sites[Rgba(0, 255, 255)] == {Kind.FILL: 1}


def test_old_files_count_to_255() -> None:
    old = animation(fill([200, 100, 0, 255]), fill([1, 1, 0, 255]), v="4.1.6").replace(b"5.7.4", b"4.1.6")
    document = read_lottie("x.json", old)
    assert set(document.inventory().paints) == {Rgba(200, 100, 0), Rgba(1, 1, 0)}
    after = document.write({Rgba(200, 100, 0): TEAL})
    assert b"[11, 94, 107, 255]" in after
    assert read_lottie("x.json", after).inventory().sites.keys() == {Rgba(*TEAL), Rgba(1, 1, 0)}


def test_gradients_keep_offsets_and_their_own_alpha() -> None:
    stops = "[0, 1, 0, 0, 0.50, 0, 1, 0, 1, 0, 0, 1, 0, 1.0, 1, 0.20]"
    data = animation({"ty": 4, "shapes": [{"ty": "gf", "g": {"p": 3, "k": {"a": 0, "k": [7]}}}]}).replace(
        b"[7]", stops.encode()
    )
    document = read_lottie("x.json", data)
    assert document.inventory().paints == (Rgba(255, 0, 0, 1), Rgba(0, 255, 0, 0.6), Rgba(0, 0, 255, 0.2))
    after = document.write({Rgba(0, 255, 0, 0.6): Rgb(255, 255, 0)})
    assert b"[0, 1, 0, 0, 0.50, 1, 1, 0, 1, 0, 0, 1, 0, 1.0, 1, 0.20]" in after
    assert document.inventory().blends == {
        (Rgba(255, 0, 0), Rgba(0, 255, 0, 0.6)),
        (Rgba(0, 255, 0, 0.6), Rgba(0, 0, 255, 0.2)),
    }


def test_slots_count_where_something_reads_them() -> None:
    slots = {"main": {"p": {"a": 0, "k": [0, 1, 0, 1]}}, "size": {"p": {"a": 0, "k": [1, 0, 1]}}}
    document = read_lottie("x.json", animation(fill([1, 0, 0, 1], sid="main"), slots=slots))
    assert set(document.inventory().paints) == {Rgba(255, 0, 0), Rgba(0, 255, 0)}


def test_glyphs_gradient_slots_and_gradient_themes_are_places_as_well() -> None:
    stops, red = [0, 1, 0, 0, 1, 0, 0, 1], Rgba(255, 0, 0)
    glyph = {"ch": "A", "data": {"shapes": [{"ty": "fl", "c": {"a": 0, "k": [0, 1, 1, 1]}}]}}
    running = {"ty": 4, "shapes": [{"ty": "gf", "g": {"p": 2, "k": {"a": 0, "k": stops, "sid": "sky"}}}]}
    slots = {"sky": {"p": {"a": 0, "k": [0, 1, 1, 0, 1, 1, 0, 1]}}}
    document = read_lottie("x.json", animation(running, chars=[glyph], slots=slots))
    sites = document.inventory().sites
    assert sites[Rgba(0, 255, 255)] == {Kind.FILL: 1}
    assert {paint for paint, kinds in sites.items() if Kind.STOP in kinds} == {
        red, Rgba(0, 0, 255), Rgba(255, 255, 0), Rgba(255, 0, 255),
    }  # fmt: skip
    theme = {"rules": [{"id": "sky", "type": "Gradient", "value": [{"color": [1, 0, 0, 1], "offset": 0}]}]}
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as archive:
        archive.writestr("manifest.json", json.dumps({"animations": [{"id": "a"}], "themes": [{"id": "x"}]}))
        archive.writestr("a/a.json", animation(fill([0, 1, 0, 1])))
        archive.writestr("t/x.json", json.dumps(theme))
    package = read_dotlottie("x.lottie", target.getvalue())
    assert package.inventory().sites[red] == {Kind.STOP: 1}
    assert red not in read_dotlottie("x.lottie", package.write({red: TEAL})).inventory().sites


@pytest.mark.parametrize(
    ("said", "left", "width"),
    [
        ({}, 0.0, 41.6),
        ({"j": 1}, -41.6, 41.6),
        ({"j": 2}, -20.8, 41.6),
        # In a box it begins where the box does, and no line is longer than that.
        ({"ps": [10, 20], "sz": [100, 50]}, 10.0, 41.6),
        ({"ps": [10, 20], "sz": [100, 50], "j": 1}, 68.4, 41.6),
        ({"ps": [10, 20], "sz": [100, 50], "j": 2}, 39.2, 41.6),
        ({"ps": [10, 20], "sz": [30, 50]}, 10.0, 30.0),
    ],
)
def test_a_text_layer_stands_where_its_alignment_says(said: dict[str, Any], left: float, width: float) -> None:
    text = {"t": "Ferry\rquay", "s": 16, "fc": [1, 0, 0], "f": "Bold", **said}
    fading = {"a": 1, "k": [{"t": 0, "s": [0]}, {"t": 20, "s": [50]}]}
    layer = {"ty": 5, "t": {"d": {"k": [{"s": text, "t": 0}]}}, "ks": {"o": fading, "s": {"a": 0, "k": [200, 200]}}}
    [told] = read_lottie("x.json", animation(layer)).texts()
    assert (told.text, told.size, told.bold, told.opacity) == ("Ferry quay", 32.0, True, 0.5)
    [boxed] = json.loads(inked(animation(layer), [TEAL]))["layers"]
    [group] = boxed["shapes"]
    box = group["it"][0]
    (middle, _), (wide, _) = box["p"]["k"], box["s"]["k"]
    assert (wide, middle - wide / 2) == (pytest.approx(width), pytest.approx(left))


def test_what_cannot_be_recolored_is_said() -> None:
    picture = [{"id": "p", "p": "data:image/png;base64,AA=="}, {"id": "q", "u": "images/", "p": "a.png"}]
    remarks = read_lottie("x.json", animation(fill([1, 0, 0, 1], x="var $bm_rt;"), assets=picture)).inventory().remarks
    assert [word for word in ("expression", "picture", "another file") if not any(word in r for r in remarks)] == []


def test_mattes_are_no_paint_and_parts_go_their_own_way() -> None:
    data = animation({**fill([1, 1, 1, 1]), "td": 1}, {**fill([1, 0, 0, 1]), "nm": "Sail"}, fill([1, 0, 0, 1]))
    document = read_lottie("x.json", data)
    red = Rgba(255, 0, 0)
    assert document.inventory().paints == (red,)
    assert document.inventory().selectors[red] == ("~Sail",)
    split = document.write(Recoloring({red: TEAL}, {(red, "~Sail"): None}))
    assert read_lottie("x.json", split).inventory().sites == {red: {Kind.FILL: 1}, Rgba(*TEAL): {Kind.FILL: 1}}


def test_a_package_keeps_every_part_it_need_not_touch() -> None:
    inner = animation(fill([1, 0, 0, 1]))
    theme = b'{"rules": [{"id": "a", "type": "Color", "value": [1, 0, 0]}, {"type": "Scalar", "value": 3}]}'
    target = io.BytesIO()
    parts = {
        "manifest.json": b'{ "animations" : [ {"id":"a"} ] }',
        "a/a.json": inner,
        "i/p.png": b"\x89PNG",
        "t/x.json": theme,
    }
    with zipfile.ZipFile(target, "w") as archive:
        for path, content in parts.items():
            archive.writestr(path, content)
    document = read_dotlottie("x.lottie", target.getvalue())
    assert document.write({}) == target.getvalue()
    after = document.write({Rgba(255, 0, 0): TEAL})
    with zipfile.ZipFile(io.BytesIO(after)) as archive:
        written = {path: archive.read(path) for path in archive.namelist()}
    assert list(written) == list(parts)
    assert written["manifest.json"] == parts["manifest.json"]
    assert written["i/p.png"] == parts["i/p.png"]
    assert set(read_dotlottie("x.lottie", after).inventory().paints) == {Rgba(*TEAL)}
    assert after == document.write({Rgba(255, 0, 0): TEAL})


def test_animations_are_taken_beside_drawings_and_a_package_is_no_archive() -> None:
    taken = take(animation_files().items())
    assert not taken.refused
    assert [file.name for file in taken.taken] == list(animation_files())
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        archive.writestr("manifest.json", "{}")
    with pytest.raises(RefusedFileError, match="no animation"):
        read_dotlottie("x.lottie", buffer.getvalue())
