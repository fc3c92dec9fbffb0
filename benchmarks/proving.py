"""What Prove computes, and the quality of what it finds."""

from __future__ import annotations

import httpx
import numpy as np

from figures import figure, seconds
from pavese.core.color.contrast import contrast_ratio
from pavese.core.color.overlay import see_through_equal
from pavese.core.color.srgb import Rgb
from pavese.core.kit.compare import compare
from pavese.core.kit.nudge import nudges
from pavese.core.kit.see_through import SeeThrough
from pavese.core.kit.see_through_steps import equals
from pavese.demo.load import demo_kit
from pavese.demo.people import COORDINATOR
from pavese.demo.served import served

_FOREVER = 60


def proving() -> None:
    """The full matrix and the sheet over the real API; equals, nudges and comparing on their own."""
    random = np.random.default_rng(2)
    kit = demo_kit()
    setting = SeeThrough(of="deep-water")
    equals(kit, setting)

    def fresh_equals() -> None:
        see_through_equal.cache_clear()
        equals(kit, setting)

    figure("see-through equals of 11 steps, nothing remembered", seconds(fresh_equals, 20) * 1000, 20, "ms")
    exact = [one.exact for color in kit.colors for one in equals(kit, SeeThrough(of=color.key, base="fog.base"))]
    figure("of these over another base, exact to the bit", 100 * sum(exact) / len(exact), 100, "%", at_least=True)
    failing = [pair for pair in _some_pairs(random, 60) if contrast_ratio(*pair) < 4.5]
    figure("ways to nudge a pair", seconds(lambda: nudges(*failing[0], 4.5), 5) * 1000, 250, "ms")
    short = sum(way.ratio < 4.5 for pair in failing[:20] for way in nudges(*pair, 4.5))
    figure("nudged pairs that miss the level they were nudged to", short, 0, "pairs")
    moved = kit.with_(colors=(kit.colors[0].model_copy(update={"base": Rgb(20, 80, 120)}), *kit.colors[1:]))
    figure("two editions compared", seconds(lambda: compare(kit, moved)) * 1000, 50, "ms")
    with served(demo=False) as address, httpx.Client(base_url=address, timeout=_FOREVER) as client:
        client.post("/api/session", json=COORDINATOR.sign_in).raise_for_status()
        for count, bound in ((40, 60), (200, 1000)):
            made = [tuple(map(int, random.integers(0, 256, 3))) for _ in range(count)]
            colors = [{"name": f"C{i}", "role": "accent", "code": Rgb(*one).hex} for i, one in enumerate(made)]
            url = f"/api/kits/{_started(client, colors)}/pairs"
            client.get(url).raise_for_status()
            taken = seconds(lambda url=url: client.get(url), 15) * 1000
            figure(f"the matrix of {count} colors, from the server", taken, bound, "ms")
        colors = [{"name": color.name, "role": color.role, "code": color.base.hex} for color in kit.colors]
        url = f"/api/kits/{_started(client, colors)}"
        pair = {"text": "hull.base", "ground": "fog.base"}
        client.post(f"{url}/decisions", json={"pairs": [pair], "status": "approved"}).raise_for_status()
        client.put(f"{url}/see-through", json={"settings": [{"of": "deep-water"}]}).raise_for_status()
        client.post(f"{url}/editions", json={}).raise_for_status()

        def sheet() -> None:
            client.get(f"{url}/editions/1/hand-over/sheet").raise_for_status()

        figure("the first PDF sheet", seconds(sheet, 1), 3, "s")
        figure("a PDF sheet", seconds(sheet, 5), 1.5, "s")


def _some_pairs(random: np.random.Generator, count: int) -> list[tuple[Rgb, Rgb]]:
    rows = random.integers(0, 256, (count, 6)).tolist()
    return [(Rgb(*row[:3]), Rgb(*row[3:])) for row in rows]


def _started(client: httpx.Client, colors: list[dict[str, str]]) -> str:
    return str(client.post("/api/kits", json={"name": "Bench", "colors": colors}).json()["id"])
