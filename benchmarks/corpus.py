"""Drawings to measure with: the demo's own, and larger ones made from them like an exporter would."""

from __future__ import annotations

import math
import random

import orjson

from pavese.demo.animations import animation_files
from pavese.demo.icons import ICONS, icon_files
from pavese.demo.illustrations import illustration_files
from pavese.demo.shapes import NOTATIONS, Shape, area, svg


def drawn() -> dict[str, bytes]:
    """The demo's icons and illustrations."""
    return {**icon_files(), **illustration_files()}


def many(count: int, seed: int = 7) -> dict[str, bytes]:
    """`count` icons of 2 to 20 kB: shapes of the demo with long paths between them, in every notation."""
    rng = random.Random(seed)
    names = list(ICONS)
    files = {}
    for number in range(count):
        shapes: list[Shape] = []
        wanted = rng.randint(2_000, 20_000)
        while sum(len(str(shape.geometry)) for shape in shapes) < wanted:
            shapes += ICONS[rng.choice(names)]
            shapes.append(area(rng.choice(shapes).fill or "#2f3e9e", _path(rng)))
        files[f"icon-{number:03}.svg"] = svg(shapes, NOTATIONS[number % len(NOTATIONS)], f"Icon {number}")
    return files


def _path(rng: random.Random) -> str:
    """A detailed outline around a part of the drawing, as traced shapes have them."""
    x, y, size = rng.uniform(8, 40), rng.uniform(8, 40), rng.uniform(1.5, 7)
    count = rng.randint(20, 60)
    points = []
    for n in range(count):
        angle, radius = 2 * math.pi * n / count, size * rng.uniform(0.75, 1)
        points.append(f"{x + radius * math.cos(angle):.2f} {y + radius * math.sin(angle):.2f}")
    return f"M{'L'.join(points)}z"


def animation(seed: int, layers: int = 60) -> bytes:
    """A large animation, about a megabyte: many layers of detailed paths with keyframes, as exporters write them."""
    rng = random.Random(seed)
    body = orjson.loads(animation_files()["ferry-on-waves.json"])
    patterns = body["layers"]
    body["layers"] = []
    for number in range(layers):
        layer = orjson.loads(orjson.dumps(rng.choice(patterns)))
        points = [[round(rng.uniform(-90, 90), 3), round(rng.uniform(-90, 90), 3)] for _ in range(80)]
        frames = [
            {
                "i": {"x": 0.4, "y": 1},
                "o": {"x": 0.6, "y": 0},
                "t": t,
                "s": [{"i": points, "o": points, "v": points, "c": True}],
            }
            for t in range(0, 60, 20)
        ]
        fill = {
            "ty": "fl",
            "c": {"a": 0, "k": [round(rng.random(), 4) for _ in range(3)] + [1]},
            "o": {"a": 0, "k": 100},
        }
        layer["shapes"].append({"ty": "gr", "it": [{"ty": "sh", "ks": {"a": 1, "k": frames}}, fill, {"ty": "tr"}]})
        layer["ind"] = number + 1
        body["layers"].append(layer)
    return orjson.dumps(body)
