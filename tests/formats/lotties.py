"""Lottie animations at random: every place of color, still and keyframed, spaced and numbered as programs do it."""

from __future__ import annotations

import json
from typing import Any

from hypothesis import strategies as st

_part = st.one_of(
    st.sampled_from([0, 1, 0.5, 0.1, 0.30000000000000004, 1e-3]), st.integers(0, 255).map(lambda level: level / 255)
)
_rgb = st.lists(_part, min_size=3, max_size=3)
_rgba = _rgb.map(lambda rgb: [*rgb, 1])
_names = st.one_of(st.none(), st.sampled_from(["Sail", "Häfen ✓", 'quoted " name', "[0.1,0.2,0.3]", "c"]))


def _still(value: Any) -> dict[str, Any]:
    return {"a": 0, "k": value}


def _moving(values: list[Any]) -> dict[str, Any]:
    frames = [
        {"i": {"x": [0.5], "y": [1]}, "o": {"x": [0.5], "y": [0]}, "t": n * 10, "s": v} for n, v in enumerate(values)
    ]
    return {"a": 1, "k": frames}


colors = st.one_of(_rgba.map(_still), _rgb.map(_still), st.lists(_rgba, min_size=1, max_size=3).map(_moving))


@st.composite
def _gradients(draw: st.DrawFn) -> dict[str, Any]:
    count = draw(st.integers(2, 4))

    def stops() -> list[float]:
        flat: list[float] = []
        for n in range(count):
            flat += [n / (count - 1), *draw(_rgb)]
        if draw(st.booleans()):
            flat += [0, draw(_part), 1, draw(_part)]
        return flat

    value = _still(stops()) if draw(st.booleans()) else _moving([stops() for _ in range(2)])
    return {"p": count, "k": value}


@st.composite
def _shapes(draw: st.DrawFn, depth: int = 1) -> dict[str, Any]:
    kind = draw(st.sampled_from(["fl", "st", "gf", "gs", "sh", "tm", "gr"] if depth else ["fl", "st", "gf", "sh"]))
    shape: dict[str, Any] = {"ty": kind, "mystery": draw(st.sampled_from([[0.1, 0.2, 0.3], "x", None, 1.50]))}
    if kind in ("fl", "st"):
        shape |= {"c": draw(colors), "o": _still(100)}
    elif kind in ("gf", "gs"):
        shape["g"] = draw(_gradients())
    elif kind == "sh":
        shape["ks"] = _still({"i": [[0, 0]], "o": [[0, 0]], "v": [[1.0, 2.50]], "c": True})
    elif kind == "gr":
        shape["it"] = draw(st.lists(_shapes(depth - 1), max_size=3))
    name = draw(_names)
    return shape if name is None else {"nm": name, **shape}


@st.composite
def _layers(draw: st.DrawFn) -> dict[str, Any]:
    layer: dict[str, Any] = {"ty": 4, "ks": {"o": _still(100), "p": _still([0.5, 0.25, 0])}, "ip": 0, "op": 60}
    kind = draw(st.integers(0, 3))
    if kind == 0:
        layer["shapes"] = draw(st.lists(_shapes(), max_size=4))
    elif kind == 1:
        layer |= {"ty": 1, "sw": 9, "sh": 9, "sc": draw(st.sampled_from(["#0b5e6b", "#FFAA00", "#abc"]))}
    elif kind == 2:
        layer |= {
            "ty": 5,
            "t": {"d": {"k": [{"t": 0, "s": {"t": "Ahoy", "fc": draw(_rgb), "sc": draw(_rgb)}}]}, "a": []},
        }
    else:
        effect = {"ty": 21, "ef": [{"ty": 0, "v": _still(1)}, {"ty": 2, "v": draw(colors)}]}
        layer |= {"ef": [effect], "sy": [{"ty": 1, "c": draw(colors)}]}
    return layer


@st.composite
def lotties(draw: st.DrawFn) -> bytes:
    """One animation as bytes."""
    body = {
        "v": draw(st.sampled_from(["5.7.4", "4.10.0"])), "fr": 29.970, "ip": 0, "op": 60, "w": 100, "h": 100,
        "layers": draw(st.lists(_layers(), max_size=4)),
        "assets": [{"id": "inner", "layers": draw(st.lists(_layers(), max_size=2))}],
        "markers": [{"tm": 0, "cm": "one", "dr": 1}],
        "x-own": {"numbers": [1.0, 2.50, 1e3], "text": "\\u0041 [1,2]"},
    }  # fmt: skip
    indent = draw(st.sampled_from([None, None, 1]))
    separators = draw(st.sampled_from([None, (",", ":"), (" , ", " : ")]))
    text = json.dumps(body, indent=indent, separators=separators, ensure_ascii=draw(st.booleans()))
    return draw(st.sampled_from([b"", b"\xef\xbb\xbf"])) + text.replace("29.97", "29.970").encode()
