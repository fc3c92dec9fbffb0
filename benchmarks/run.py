"""Measures speed against the floor of the same work, and the promises that are numbers.

Prints one line a figure: name, value, bound, and `ok` or `short`. Times are the median of several runs.
"""

from __future__ import annotations

import random
import statistics
import sys
import time
from colorsys import hls_to_rgb
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent))

import httpx
import orjson
from lxml import etree

from corpus import animation, drawn, many
from crowd import crowd, full_set
from decks import decks
from dropping import drop
from fetch import corpus_dir
from figures import figure, ratio_by_file, seconds
from gathering import composing, extraction
from hostile import hostile
from mails import mails
from natural_tones import natural
from objects import objects
from objects import speed as objects_speed
from pavese.core import css
from pavese.core.color.ramp import ramp
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.intake import take
from pavese.core.formats.lottie import read_lottie
from pavese.core.formats.svg import cascade, places, read_svg
from pavese.core.kit.codes import find_codes
from pavese.core.recolor.alternatives import alternatives
from pavese.core.recolor.assign import assign
from pavese.core.recolor.inventory import Inventory, PaintUse, SetPaints, summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.site import Kind
from pavese.demo.animations import animation_files
from pavese.demo.load import demo_kit
from pavese.demo.people import COORDINATOR
from pavese.demo.served import served
from photographs import photographs
from pictures import handed_on, pictures, smaller, speed
from proving import proving
from quality import quality
from thousands import films, two_thousand


def recoloring_speed() -> None:
    """Read + plan's colors applied + written, against parsing and writing the same bytes with lxml."""
    fetched = _of_corpus(".svg", 600)
    for label, files in (
        ("demo drawings", drawn()),
        ("300 icons of 2-20 kB", many(300)),
        *([("600 drawings of the corpus", fetched)] if fetched else []),
    ):
        plan = _plan(files)

        def ours(name: str, data: bytes, plan: dict[Rgba, Rgb] = plan) -> None:
            read_svg(name, data).write(plan)

        figure(f"svg read + apply + write / lxml, {label}", ratio_by_file(files, ours, _lxml), 4, "times")
        cold = ratio_by_file(files, ours, _lxml, before=_forget)
        figure(f"the same, nothing remembered, {label}", cold, 4, "times")


def _of_corpus(kind: str, most: int) -> dict[str, bytes]:
    """Some of the files that were fetched and can be read; none where nothing was."""
    paths = sorted(corpus_dir().rglob(f"*{kind}"))
    random.Random(3).shuffle(paths)
    found: dict[str, bytes] = {}
    for path in paths:
        if len(found) < most:
            found.update({file.name: file.data for file in take([(str(path), path.read_bytes())]).taken})
    return found


def _lxml(_name: str, data: bytes) -> None:
    etree.tostring(etree.fromstring(data))


def _forget() -> None:
    """Empties everything that reading remembers from one file to the next."""
    for module in (css, cascade, places):
        for one in vars(module).values():
            if hasattr(one, "cache_clear"):
                one.cache_clear()


def lottie_speed() -> None:
    """Read + plan's colors applied + written, against loading and dumping the same bytes with orjson."""
    large = [animation(seed) for seed in range(3)]
    fetched = _of_corpus(".json", 100)
    for label, files in (
        ("demo", _lotties()),
        ("large", {f"{n}.json": data for n, data in enumerate(large)}),
        *([("the corpus", fetched)] if fetched else []),
    ):
        plan = _plan(files)

        def ours(name: str, data: bytes, plan: dict[Rgba, Rgb] = plan) -> None:
            read_lottie(name, data).write(plan)

        figure(
            f"lottie read + apply + write / orjson, {label}", ratio_by_file(files, ours, _orjson, runs=5), 3, "times"
        )


def _orjson(_name: str, data: bytes) -> None:
    orjson.dumps(orjson.loads(data))


def _lotties() -> dict[str, bytes]:
    return {name: data for name, data in animation_files().items() if name.endswith(".json")}


def planning() -> None:
    """Assignments, ramps and codes."""
    kit = demo_kit()
    paints = _three_hundred()
    figure(
        "plan for a drawing of 300 paints, 900 pairs of which touch", seconds(lambda: assign(paints, kit), 3), 0.5, "s"
    )
    for count, bound in ((300, 0.15), (1_200, 1.0), (5_000, 5.0)):
        many = _many_paints(count)
        figure(
            f"plan for a set of {count:,} paints in files of 12", seconds(lambda m=many: assign(m, kit), 1), bound, "s"
        )
    icons = summarize(file.inventory for file in take(drawn().items()).taken)
    figure("six alternatives for the demo's drawings", seconds(lambda: alternatives(icons, kit, Plan()), 3), 2, "s")
    fresh = iter(range(1_000))

    def one_ramp() -> None:
        n = next(fresh)
        ramp(Rgb(n % 256, (n * 7) % 256, (n * 13) % 256))

    figure("a ramp from a new base", seconds(one_ramp, 50) * 1000, 20, "ms")
    text = "\n".join(f"Color {n}: #{n * 1000:06x}" for n in range(10_000))
    figure("10,000 codes found in a text", seconds(lambda: find_codes(text), 3), 5, "s")
    files = drawn()
    first = {name: read_svg(name, data).write(_plan(files)) for name, data in files.items()}
    second = {name: read_svg(name, data).write(_plan(files)) for name, data in reversed(files.items())}
    figure("files with the same bytes when a plan is repeated", _share(first, second), 100, "%", at_least=True)


def _three_hundred() -> SetPaints:
    rng = random.Random(1)
    listed = [Rgba((n * 37) % 256, (n * 91) % 256, (n * 53) % 256) for n in range(300)]
    uses = tuple(PaintUse(paint, 1, 1, (Kind.FILL,), rng.random()) for paint in listed)
    pairs = [tuple(sorted(rng.sample(listed, 2))) for _ in range(900)]
    return SetPaints(uses, {(one, other): rng.random() for one, other in pairs})


def _many_paints(count: int) -> SetPaints:
    """Files of twelve shades of a few hues each, as drawings have them; each paint stands in four or so."""
    rng = random.Random(count)
    hues = [rng.random() for _ in range(max(count // 10, 1))]
    listed = sorted({_shade(hue, rng) for hue in hues for _ in range(10)})
    inventories, measured = [], []
    for _ in range(len(listed) // 3):
        at = rng.randrange(len(listed))
        some = list(dict.fromkeys([*listed[at : at + 6], *rng.sample(listed, 6)]))
        inventories.append(Inventory.count([(paint, Kind.FILL) for paint in some]))
        pairs = {tuple(sorted(rng.sample(some, 2))): 0.1 for _ in range(6)}
        measured.append(Measured({paint: 1 / len(some) for paint in some}, pairs))
    return summarize(inventories, measured)


def _shade(hue: float, rng: random.Random) -> Rgba:
    return Rgba(*(round(255 * part) for part in hls_to_rgb(hue, rng.uniform(0.15, 0.9), rng.uniform(0.3, 0.9))))


def _plan(files: dict[str, bytes]) -> dict[Rgba, Rgb]:
    kit = demo_kit()
    return assign(summarize(file.inventory for file in take(files.items()).taken), kit).resolve(kit)


def _share(first: dict[str, bytes], second: dict[str, bytes]) -> float:
    return 100 * sum(first[name] == second[name] for name in first) / len(first)


def a_drop_of_300() -> None:
    """From the drop to the planned grid, and from a changed target to the repainted view, over the real API."""
    files = list(many(300).items())
    with served(demo=False) as address, httpx.Client(base_url=address, timeout=60) as client:
        client.post("/api/session", json=COORDINATOR.sign_in).raise_for_status()
        kit = client.post("/api/kits", json={"name": "Bench", "colors": _colors()}).json()
        made = client.post(f"/api/kits/{kit['id']}/sets", json={"name": "Icons"}).json()
        started = time.perf_counter()
        view = drop(client, made["id"], files)
        print(f"  of which the drop: {time.perf_counter() - started:.1f} s")
        _pictures(client, view, before=True)
        figure("300 icons from drop to the planned grid, first 32 drawn", time.perf_counter() - started, 2.5, "s")

        colors = [color["key"] for color in kit["colors"]]
        times = []
        for n in range(7):
            started = time.perf_counter()
            body = {"paints": [view["paints"][0]["key"]], "color": colors[n % len(colors)]}
            view = client.post(f"/api/sets/{made['id']}/aim", json=body).json()
            _pictures(client, view)
            times.append(time.perf_counter() - started)
        figure("a changed target repaints 32 pictures in view", statistics.median(times), 0.5, "s")


def _pictures(client: httpx.Client, view: dict, *, before: bool = False) -> None:
    """Asks for the pictures of the tiles in view as a browser does: six at a time."""
    wanted = []
    seen = {"count": 32, "size": 84, "seen_to": 31}
    page = client.get(f"/api/sets/{view['id']}/files", params=seen).json()
    for asset in page["files"]:
        path = f"/api/assets/{asset['id']}/picture.png"
        query = {"size": "84", "fingerprint": asset["fingerprint"]}
        wanted.append((path, query))
        if before:
            wanted.append((path, {"size": "84", "side": "before", "fingerprint": asset["came"]}))
    with ThreadPoolExecutor(6) as pool:
        for response in pool.map(lambda ask: client.get(ask[0], params=ask[1]), wanted):
            assert response.status_code == 200, response.text


def _colors() -> list[dict[str, str]]:
    return [{"name": color.name, "role": color.role, "code": color.base.hex} for color in demo_kit().colors]


if __name__ == "__main__":
    recoloring_speed()
    lottie_speed()
    planning()
    quality()
    natural()
    extraction()
    composing()
    proving()
    a_drop_of_300()
    two_thousand()
    crowd()
    full_set()
    hostile()
    films()
    mails()
    decks()
    speed()
    pictures()
    smaller()
    handed_on()
    photographs()
    objects()
    objects_speed()
