"""Decks by others and of the demo: how many are taken, how fast, and whether all reads in what is handed over.

What is counted is counted on the decks that are handed over, opened anew and drawn by the office program again, beside
the plain way that anyone would try first: every color replaced by the nearest of the kit.
"""

from __future__ import annotations

import io
import shutil
import time
import zipfile
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import NamedTuple

import httpx
import numpy as np

from dropping import drop, empty_set
from fetch import DECKS, folder_of
from figures import figure, ratio_by_file
from nearest import Way, nearest_colors
from pavese.core.color.contrast import WHITE
from pavese.core.color.srgb import Rgb, parse_key
from pavese.core.errors import RefusedFileError
from pavese.core.formats import is_taken, read
from pavese.core.formats.document import Document
from pavese.core.kit.kit import Kit
from pavese.core.recolor.assign import assign
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import summarize
from pavese.core.recolor.measure import Measured, combined
from pavese.core.recolor.reading import readings
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind
from pavese.core.recolor.target import KEEP
from pavese.demo.deck import NAME, deck_file
from pavese.demo.load import demo_kit
from pavese.demo.served import served
from pavese.render.slides import slides_measured

#: Decks of one large drop, of twelve slides each.
_MANY = 50


@dataclass
class _Decks:
    documents: dict[str, Document] = field(default_factory=dict)
    measured: dict[str, Measured] = field(default_factory=dict)
    data: dict[str, bytes] = field(default_factory=dict)
    refused: int = 0


def files() -> Iterator[tuple[str, bytes]]:
    """Name and content, of the demo, of the packages that were fetched, and of the templates of the office program."""
    yield from deck_file().items()
    program = shutil.which("soffice")
    for path in sorted(Path(program).resolve().parents[1].rglob("*.otp")) if program else ():
        yield f"office/{path.name}", path.read_bytes()
    for package in DECKS:
        for path in sorted(folder_of(package).rglob("*")) if folder_of(package).exists() else ():
            if path.is_file() and is_taken(path.name) and path.suffix[:3] in (".pp", ".po", ".od", ".ot"):
                yield f"{package}/{path.name}", path.read_bytes()


def decks() -> None:
    """All figures."""
    found = _Decks()
    started = time.perf_counter()
    for name, data in files():
        try:
            found.documents[name] = document = read(name, data)
        except RefusedFileError as error:
            print(f"  refused: {error}")
            found.refused += 1
            continue
        found.data[name] = data
        found.measured[name] = _measured(document)
    took = time.perf_counter() - started
    count = len(found.documents)
    print(f"  decks: {count} of {count + found.refused}, measured in {took:.0f} s")
    figure("decks taken", 100 * count / (count + found.refused), 100, "%", at_least=True)
    figure("decks read and written to unpacked and packed", ratio_by_file(found.data, _worked, _floor, runs=3), 2, "x")
    _quality(found, demo_kit())
    _over_the_wire()


def _measured(document: Document) -> Measured:
    return combined(slides_measured(document))


def _worked(name: str, data: bytes) -> None:
    document = read(name, data)
    document.write({paint: Rgb(*(255 - channel for channel in paint.rgb)) for paint in document.inventory().paints})


def _floor(_: str, data: bytes) -> None:
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        parts = [(info.filename, archive.read(info)) for info in archive.infolist()]
    with zipfile.ZipFile(io.BytesIO(), "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in parts:
            archive.writestr(name, content)


def _quality(found: _Decks, kit: Kit) -> None:
    """The decks of one package are one set, as people drop them."""
    sets: dict[str, list[str]] = {}
    for name in found.documents:
        sets.setdefault(name.partition("/")[0], []).append(name)
    fell = old = plainly = neighbors = alike = before = 0
    off: list[float] = []
    for names in sets.values():
        inventories = [found.documents[name].inventory() for name in names]
        paints = summarize(inventories, [found.measured[name] for name in names], names)
        plan = assign(paints, kit)
        kept = {parse_key(key).rgb for key, choice in plan.choices.items() if choice.target == KEEP}
        counted = _counted(found, names, kit, lambda name, plan=plan: plan.changes(kit, name), kept)
        fell, old, off = fell + counted.fell, old + counted.old, off + counted.off
        plainly += _counted(found, names, kit, nearest_colors(paints, kit), set()).fell
        for name, inventory in zip(names, inventories, strict=True):
            for chart in inventory.charts:
                neighbors += sum(1 for _ in chart.neighbors())
                alike += sum(1 for _ in chart.alike(plan.recoloring(kit, name)))
                before += sum(1 for _ in chart.alike(Recoloring()))
    figure("decks, theme as proposed: texts that fell below their level", fell, 0, "")
    figure("decks, theme as proposed: texts still in an old color", old, 0, "")
    mixed = [run for one in found.measured.values() for run in one.texts if run.ground is None]
    followed = sum(run.told for run in mixed)
    print(f"  texts on pictures, gradients and veils: {len(mixed)}, of which what is below is followed: {followed}")
    figure(
        "decks, ratios foretold on those and measured anew: 95 of 100 within", float(np.percentile(off, 95)), 0.3, ""
    )
    print(f"  each color to the nearest of the kit: {plainly} texts fell below their level")
    print(f"  neighbors in charts: {neighbors}, not told apart before: {before}")
    figure("decks, neighbors in charts not told apart", 100 * alike / neighbors, 10, "%")


class _Counted(NamedTuple):
    """Texts that read before and do not after, those whose ink or ground is neither of the kit nor kept, and how far
    off the ratios were that were foretold of texts on what is no one color."""

    fell: int
    old: int
    off: list[float]


def _counted(found: _Decks, names: Sequence[str], kit: Kit, way: Way, kept: set[Rgb]) -> _Counted:
    own = {color for _, color in kit.tokens()} | kept
    fell = left = 0
    off = []
    for name in names:
        document = found.documents[name]
        before: dict[tuple[str, float, str], bool] = {}
        came = found.measured[name].texts
        for one in readings([run.settled() for run in came], Changes(), WHITE):
            key = one.run.text.text, one.run.text.size, one.run.page
            before[key] = before.get(key, True) and one.before >= one.needed
        changes = way(name)
        foretold: dict[tuple[str, float, str], list[float]] = {}
        for one in readings((run for run in came if run.ground is None), Changes.of(changes), WHITE):
            foretold.setdefault((one.run.text.text, one.run.text.size, one.run.page), []).append(one.after)
        after = _measured(read(name, document.write(changes))).texts
        for one in readings([run.settled() for run in after], Changes(), WHITE):
            key = one.run.text.text, one.run.text.size, one.run.page
            if one.run.ground is None and key in foretold:
                off.append(min(abs(one.after - told) for told in foretold[key]))
            if before.get(key, False) and one.after < one.needed:
                fell += 1
                print(f"    fell: {name} {key} {one.before:.2f}: {one.run.text.ink.key} on {one.run.ground}")
        for run in after:
            # What is read back of a picture is what its coding made of a color.
            seen = (run.text.ink, run.ground if run.kind is not Kind.PICTURE else None)
            left += any(paint is not None and paint.alpha == 1 and paint.rgb not in own for paint in seen)
    return _Counted(fell, left, off)


def _over_the_wire() -> None:
    """The first deck from the drop to its first slide, a changed place of the theme, and a large drop."""
    data = deck_file()[NAME]
    with served(demo=False) as address, httpx.Client(base_url=address, timeout=600) as client:
        _, made = empty_set(client)
        started = time.perf_counter()
        view = drop(client, made["id"], [(NAME, data)])
        _slide(client, view, 0)
        figure("a first deck from drop to its first slide", time.perf_counter() - started, 6, "s")
        times = []
        for at, target in enumerate(("kelp.600", "buoy.500", "slipway.700", "deep-water.500")):
            started = time.perf_counter()
            body = {"places": {"accent1": target}}
            client.put(f"/api/sets/{view['id']}/theme", json=body).raise_for_status()
            _slide(client, view, 2 * at)
            times.append(time.perf_counter() - started)
        figure("a changed place of the theme is seen on the slide in view", max(times), 4, "s")
        many = [(f"{at}-{NAME}", _other(data, at)) for at in range(_MANY)]
        started = time.perf_counter()
        drop(client, made["id"], many)
        for at in range(_MANY):
            _slide(client, view, 0, at)
        figure(f"{_MANY} decks from drop to their first slides", time.perf_counter() - started, 360, "s")


def _other(data: bytes, at: int) -> bytes:
    """The same deck as another file."""
    target = io.BytesIO(data)
    with zipfile.ZipFile(target, "a") as archive:
        archive.writestr("docProps/number.txt", str(at))
    return target.getvalue()


def _slide(client: httpx.Client, view: dict, page: int, at: int = 0) -> None:
    listed = client.get(f"/api/sets/{view['id']}/files", params={"start": at, "count": 1}).json()["files"]
    query = {"size": "900", "of": view["id"], "fingerprint": listed[0]["fingerprint"], "page": str(page)}
    client.get(f"/api/assets/{listed[0]['id']}/picture.png", params=query).raise_for_status()


if __name__ == "__main__":
    decks()
