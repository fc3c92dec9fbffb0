"""Measures finding colors in pictures, and the answers that have to keep up with a hand."""

from __future__ import annotations

import io
import multiprocessing
import statistics
import time
from collections import Counter
from collections.abc import Callable
from pathlib import Path

import httpx
import numpy as np
from PIL import Image

from figures import figure, ratio, seconds
from pavese.core.color.extract import Finding, find_colors
from pavese.core.color.srgb import Rgb
from pavese.core.kit.proposals import gallery
from pavese.core.kit.role import Role
from pavese.core.pictures.decode import decode_picture
from pavese.demo.load import demo_kit
from pavese.demo.people import COORDINATOR
from pavese.demo.planted import missed, pictures, planted
from pavese.demo.served import served

_SEEDS = 40
_QUANTIZERS = {
    "median cut": Image.Quantize.MEDIANCUT,
    "maximum coverage": Image.Quantize.MAXCOVERAGE,
    "octree": Image.Quantize.FASTOCTREE,
}


def photo() -> bytes:
    """A JPEG of 12 megapixels, with grain and gradients."""
    tiles = [planted(seed, "all").pixels[..., :3] for seed in range(6)]
    sheet = np.concatenate([np.concatenate(tiles[:3], axis=1), np.concatenate(tiles[3:], axis=1)], axis=0)
    out = io.BytesIO()
    Image.fromarray(sheet).resize((4000, 3000), Image.Resampling.BICUBIC).save(out, "JPEG", quality=90)
    return out.getvalue()


def extraction() -> None:
    """Time and memory beside the decode of the same picture, and what is found of what was planted."""
    data = photo()
    pixels = decode_picture("photo.jpg", data).pixels

    def decode() -> None:
        with Image.open(io.BytesIO(data)) as image:
            np.asarray(image.convert("RGBA"))

    figure(
        "8 colors of a 12 MP JPEG, on top of / its decode",
        ratio(lambda: find_colors(pixels, Finding(8)), decode),
        1.5,
        "times",
    )
    with multiprocessing.get_context("spawn").Pool(1) as pool:
        figure("memory for decode and colors of the same", pool.apply(_memory, (data,)), 120, "MB")
    total: Counter[str] = Counter()
    lost: Counter[str] = Counter()
    for picture in pictures(_SEEDS):
        count = min(12, len(picture.colors) + 3)
        total["planted"] += len(picture.colors)
        lost["ours"] += len(missed(picture, [color.color for color in find_colors(picture.pixels, Finding(count))]))
        image = Image.fromarray(picture.pixels).convert("RGB")
        for name, method in _QUANTIZERS.items():
            palette = (image.quantize(count, method=method).getpalette() or [])[: count * 3]
            lost[name] += len(missed(picture, [Rgb(*palette[i : i + 3]) for i in range(0, len(palette), 3)]))
    found = {name: 100 * (1 - lost[name] / total["planted"]) for name in ("ours", *_QUANTIZERS)}
    name = f"planted colors found, of {total['planted']} in {_SEEDS * 5} pictures"
    figure(name, found["ours"], 100, "%", at_least=True)
    over = [planted(seed, kind) for kind in ("gradient", "all") for seed in range(_SEEDS)]
    asked = ((one, find_colors(one.pixels, Finding(len(one.colors) + 1))) for one in over)
    share = 100 * sum(not missed(one, [color.color for color in got]) for one, got in asked) / len(over)
    figure("pictures with a gradient in which all are found, asked for one more", share, 90, "%", at_least=True)
    for name in _QUANTIZERS:
        figure(f"the same by Pillow's {name}, to be beaten", found[name], found["ours"], "%")


def composing() -> None:
    """Proposals, and over the real API what a dragged pin and a dragged point of the wheel wait for."""
    kit = demo_kit()
    keep = [color.key for color in kit.colors if color.role is not Role.ACTION]
    roles = [Role.ACTION, Role.NEUTRAL]
    figure("nine proposals for an action color and a neutral", seconds(lambda: gallery(kit, keep, roles), 5), 1, "s")
    fresh = iter(range(1, 100))

    def alike() -> None:
        gallery(kit, keep, roles, f"3.2.{next(fresh) * 50}")

    figure("nine more like one of them", seconds(alike, 5), 1, "s")
    with served(demo=False) as address, httpx.Client(base_url=address, timeout=60) as client:
        client.post("/api/session", json=COORDINATOR.sign_in).raise_for_status()
        colors = [{"name": color.name, "role": color.role, "code": color.base.hex} for color in kit.colors]
        made = client.post("/api/kits", json={"name": "Bench", "colors": colors}).json()
        url = f"/api/kits/{made['id']}/sources/drop"
        source = client.post(url, files=[("files", ("photo.jpg", photo()))]).json()["source"]
        place = np.random.default_rng(1)

        def pin() -> httpx.Response:
            x, y = (int(place.integers(0, size)) for size in (source["width"], source["height"]))
            return client.get(f"/api/sources/{source['id']}/spot", params={"x": x, "y": y, "reach": 15})

        def wheel() -> httpx.Response:
            x, y = (float(place.uniform(-0.7, 0.7)) for _ in range(2))
            asked = {"code": "#0b5e6b", "rule": "tetrad", "wheel": "painters", "move": {"point": 2, "x": x, "y": y}}
            return client.post("/api/scheme", params={"kit_id": made["id"]}, json=asked)

        figure("a pin dragged over 12 MP, 95th of 100 answers", _slowest(pin), 100, "ms")
        figure("a point dragged on the wheel, 95th of 100 answers", _slowest(wheel), 100, "ms")


def _slowest(ask: Callable[[], httpx.Response]) -> float:
    times = []
    for _ in range(100):
        started = time.perf_counter()
        response = ask()
        times.append((time.perf_counter() - started) * 1000)
        assert response.status_code == 200, response.text
    return statistics.quantiles(times, n=20)[-1]


def _memory(data: bytes) -> float:
    """Megabytes that a process takes more for it than it had."""
    find_colors(planted(0, "flat").pixels, Finding(8))
    _peak()
    before = _peak()
    find_colors(decode_picture("photo.jpg", data).pixels, Finding(8))
    return _peak() - before


def _peak() -> float:
    """The most megabytes this process has held since it was asked last (proc(5), VmHWM and clear_refs)."""
    status = Path("/proc/self/status").read_text()
    Path("/proc/self/clear_refs").write_text("5")
    return int(next(line.split()[1] for line in status.splitlines() if line.startswith("VmHWM"))) / 1024
