"""The boarding-safety animations of Tarnmoor Ferries, built by code as Lottie (see `pavese.core.formats.lottie`).

Their colors are those of an older template: none is of the kit, gradients, keyframed colors and a solid among them.
"""

from __future__ import annotations

from typing import Any

import orjson

from pavese.core.color.srgb import parse_hex
from pavese.core.formats.archive import package

Json = dict[str, Any]

_SIDE = 240
_RATE = 30
_EASE = {"i": {"x": 0.4, "y": 1}, "o": {"x": 0.6, "y": 0}}


def animation_files() -> dict[str, bytes]:
    """Name to bytes; four small animations, the last packed as dotLottie."""
    return {
        "ferry-on-waves.json": _file("Ferry on waves", 90, _ferry()),
        "light-turns.json": _file("Light turns", 60, _light()),
        "life-ring.json": _file("Life ring", 60, _ring()),
        "all-aboard.lottie": _packed("all-aboard", _file("All aboard", 75, _aboard())),
    }


def _file(name: str, length: int, layers: list[Json]) -> bytes:
    markers = [{"tm": 0, "cm": "arrive", "dr": length // 3}, {"tm": length // 3, "cm": "hold", "dr": length // 3}]
    for number, layer in enumerate(layers, 1):
        layer.update({"ind": number, "ip": 0, "op": length, "st": 0, "sr": 1, "bm": 0})
    body = {
        "v": "5.7.4", "fr": _RATE, "ip": 0, "op": length, "w": _SIDE, "h": _SIDE, "nm": name, "ddd": 0,
        "assets": [], "layers": layers, "markers": markers,
    }  # fmt: skip
    return orjson.dumps(body)


def _packed(name: str, animation: bytes) -> bytes:
    manifest = {"version": "2", "generator": "Tarnmoor Ferries", "animations": [{"id": name}]}
    return package([("manifest.json", orjson.dumps(manifest)), (f"a/{name}.json", animation)])


def _ferry() -> list[Json]:
    hull = _path([(-70, 0), (70, 0), (52, 34), (-54, 34)])
    house = _rect((-6, -22), (76, 44), 4)
    funnel = _rect((18, -54), (18, 26), 2)
    bob = _moving([(0, [120, 128, 0]), (45, [120, 120, 0]), (90, [120, 128, 0])])
    return [
        _shapes("Wave", [_group("Crest", [_wave(), _fill("#2f6aa8")])], _slide(90)),
        _shapes(
            "Ferry",
            [
                _group("Hull", [hull, _fill("#2f3e9e")]),
                _group("Stripe", [_rect((0, 4), (136, 6), 0), _fill("#ffca28")]),
                _group("House", [house, _fill("#ffffff"), _stroke("#2f3e9e", 3)]),
                _group("Funnel", [funnel, _fill("#e53935")]),
            ],
            {"p": bob},
        ),
        _shapes("Sky", [_group("Air", [_rect((0, 0), (240, 240), 0), _gradient("#cfe3f2", "#6fb6e8")])]),
    ]


def _light() -> list[Json]:
    turn = _moving([(0, [0]), (60, [360])])
    lamp = {
        "ty": "fl",
        "nm": "Lamp",
        "o": {"a": 0, "k": 100},
        "c": _colors([(0, "#ffca28"), (30, "#fff3c4"), (60, "#ffca28")]),
    }
    return [
        _shapes("Lamp", [_group("Glow", [_ellipse((0, 0), (40, 40)), lamp])], {"p": _fixed([120, 84, 0])}),
        _shapes(
            "Tower",
            [
                _group("Band", [_rect((0, 26), (44, 16), 0), _fill("#e53935")]),
                _group("Shaft", [_path([(-18, -40), (18, -40), (28, 80), (-28, 80)]), _fill("#ffffff")]),
            ],
            {"p": _fixed([120, 140, 0])},
        ),
        _shapes(
            "Beam",
            [_group("Ray", [_path([(0, 0), (150, -34), (150, 34)]), _gradient("#ffe29a", "#2f3e9e", alpha=(0.9, 0))])],
            {"p": _fixed([120, 84, 0]), "r": turn},
        ),
        _solid("Night", "#1a2052"),
    ]


def _ring() -> list[Json]:
    turn = _moving([(0, [0]), (60, [90])])
    arcs = [_group(f"Quarter {n + 1}", [_arc(n), _stroke("#e53935" if n % 2 else "#ffffff", 30)]) for n in range(4)]
    return [
        _shapes("Ring", [*arcs], {"p": _fixed([120, 120, 0]), "r": turn}),
        _shapes("Water", [_group("Pool", [_ellipse((0, 0), (210, 210)), _fill("#6fb6e8"), _stroke("#2f6aa8", 4)])]),
    ]


def _aboard() -> list[Json]:
    step = _moving([(0, [40, 150, 0]), (45, [128, 128, 0]), (75, [128, 128, 0])])
    return [
        _shapes(
            "Passenger",
            [
                _group("Face", [_ellipse((0, -44), (30, 30)), _fill("#d9a37e")]),
                _group("Coat", [_rect((0, 0), (44, 56), 12), _fill("#43a047")]),
                _group("Bag", [_rect((30, 16), (22, 26), 3), _fill("#8d5a3b")]),
            ],
            {"p": step},
        ),
        _shapes(
            "Gangway", [_group("Plank", [_path([(-110, 70), (110, 40), (110, 54), (-110, 84)]), _fill("#607d8b")])]
        ),
        _solid("Quay", "#e4f0f8"),
    ]


def _shapes(name: str, shapes: list[Json], placed: Json | None = None) -> Json:
    transform = {
        "o": _fixed(100), "r": _fixed(0), "p": _fixed([_SIDE / 2, _SIDE / 2, 0]), "a": _fixed([0, 0, 0]),
        "s": _fixed([100, 100, 100]), **(placed or {}),
    }  # fmt: skip
    return {"ty": 4, "nm": name, "ks": transform, "ao": 0, "shapes": shapes}


def _solid(name: str, color: str) -> Json:
    transform = {
        "o": _fixed(100),
        "r": _fixed(0),
        "p": _fixed([_SIDE / 2] * 2 + [0]),
        "a": _fixed([_SIDE / 2] * 2 + [0]),
        "s": _fixed([100] * 3),
    }
    return {"ty": 1, "nm": name, "ks": transform, "ao": 0, "sw": _SIDE, "sh": _SIDE, "sc": color}


def _group(name: str, items: list[Json]) -> Json:
    placed = {
        "ty": "tr",
        "p": _fixed([0, 0]),
        "a": _fixed([0, 0]),
        "s": _fixed([100, 100]),
        "r": _fixed(0),
        "o": _fixed(100),
    }
    return {"ty": "gr", "nm": name, "it": [*items, placed]}


def _fixed(value: Any) -> Json:
    return {"a": 0, "k": value}


def _moving(frames: list[tuple[int, list[float]]]) -> Json:
    """Keyframes, eased; rlottie wants the easing before the values."""
    eased = [{**_EASE, "t": at, "s": value} for at, value in frames[:-1]]
    at, value = frames[-1]
    return {"a": 1, "k": [*eased, {"t": at, "s": value}]}


def _slide(length: int) -> Json:
    return {"p": _moving([(0, [100, 176, 0]), (length, [140, 176, 0])])}


def _rgb(code: str) -> list[float]:
    color = parse_hex(code)
    assert color is not None
    return [round(level / 255, 4) for level in color.rgb]


def _colors(frames: list[tuple[int, str]]) -> Json:
    return _moving([(at, [*_rgb(code), 1]) for at, code in frames])


def _fill(code: str) -> Json:
    return {"ty": "fl", "nm": "Fill", "o": _fixed(100), "r": 1, "c": _fixed([*_rgb(code), 1])}


def _stroke(code: str, width: float) -> Json:
    return {
        "ty": "st",
        "nm": "Line",
        "o": _fixed(100),
        "w": _fixed(width),
        "lc": 1,
        "lj": 2,
        "c": _fixed([*_rgb(code), 1]),
    }


def _gradient(first: str, last: str, alpha: tuple[float, float] | None = None) -> Json:
    stops: list[float] = [0, *_rgb(first), 1, *_rgb(last)]
    stops += [0, alpha[0], 1, alpha[1]] if alpha else []
    return {
        "ty": "gf", "nm": "Blend", "o": _fixed(100), "r": 1, "t": 1, "s": _fixed([0, -110] if not alpha else [0, 0]),
        "e": _fixed([0, 110] if not alpha else [150, 0]), "g": {"p": 2, "k": _fixed(stops)},
    }  # fmt: skip


def _path(points: list[tuple[float, float]], closed: bool = True) -> Json:
    still = [[0, 0]] * len(points)
    return {
        "ty": "sh",
        "nm": "Outline",
        "ks": _fixed({"i": still, "o": still, "v": [list(p) for p in points], "c": closed}),
    }


def _wave() -> Json:
    top = [(-160 + 32 * n, -8 if n % 2 else 4) for n in range(11)]
    return _path([*top, (160, 90), (-160, 90)])


def _arc(quarter: int) -> Json:
    radius, bend = 72, 39.8
    corners = [(0, -radius), (radius, 0), (0, radius), (-radius, 0)]
    (x, y), (to_x, to_y) = corners[quarter], corners[(quarter + 1) % 4]
    leaving = [to_x / radius * bend, to_y / radius * bend]
    coming = [x / radius * bend, y / radius * bend]
    shape = {"i": [[0, 0], coming], "o": [leaving, [0, 0]], "v": [[x, y], [to_x, to_y]], "c": False}
    return {"ty": "sh", "nm": "Arc", "ks": _fixed(shape)}


def _rect(center: tuple[float, float], size: tuple[float, float], round_: float) -> Json:
    return {"ty": "rc", "nm": "Box", "d": 1, "p": _fixed(list(center)), "s": _fixed(list(size)), "r": _fixed(round_)}


def _ellipse(center: tuple[float, float], size: tuple[float, float]) -> Json:
    return {"ty": "el", "nm": "Round", "d": 1, "p": _fixed(list(center)), "s": _fixed(list(size))}
