"""How good the engine is over real drawings, beside two plain ways that anyone would try first."""

from __future__ import annotations

import json
import statistics
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path

import numpy as np

from fetch import PACKAGES, corpus_dir
from figures import figure
from pavese.core.color.difference import differences
from pavese.core.color.ramp import step_position
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats import read
from pavese.core.formats.document import Document
from pavese.core.kit.kit import Kit, members
from pavese.core.recolor.assign import assign
from pavese.core.recolor.figures import Figures, figures
from pavese.core.recolor.inventory import SetPaints, summarize
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.recipe import Recipe
from pavese.demo.load import demo_kit
from pavese.render.draw import draw_measured
from pavese.render.pool import DrawingPool
from pavese.settings import settings

_SAMPLE = 60
_LARGE_ENOUGH = 3


def quality() -> None:
    """The whole table; without the corpus only a line that says so."""
    if not corpus_dir().exists():
        print("the corpus has not been fetched (python benchmarks/fetch.py); figures over it are left out")
        return
    files = {package: list(_files(package)) for package in PACKAGES}
    _taken([path for listed in files.values() for path in listed])
    kit = demo_kit()
    pool = DrawingPool(settings().drawing_workers, settings().fonts_dir)
    try:
        measured = [one for listed in files.values() for one in _measured(listed, pool)]
    finally:
        pool.close()
    print(
        f"over {len(measured)} drawings of {_LARGE_ENOUGH} to 40 colors, each with a plan of its own, kit steps only:"
    )
    for name, way in (("engine", _engine), ("nearest color", _nearest), ("lightness mapping", _by_lightness)):
        found = [figures(paints, way(paints, kit), kit) for paints in measured]
        _table(name, found, measured, own=name == "engine", resolved=[way(paints, kit) for paints in measured], kit=kit)


def _table(
    name: str,
    found: Sequence[Figures],
    measured: Sequence[SetPaints],
    *,
    own: bool,
    resolved: Sequence[dict[Rgba, Rgb]],
    kit: Kit,
) -> None:
    orders = sorted(one.order for one in found)
    kept, pairs = 0, 0
    for one, paints in zip(found, measured, strict=True):
        count = len(paints.touching)
        kept += one.contrast * count
        pairs += count
    inside = [all(color in members(kit) for color in targets.values()) for targets in resolved]
    apart = [one.distinct == 1.0 for one in found]
    rows = (
        ("closure", 100 * statistics.fmean(inside), 100.0),
        ("order of lightness, median tau", statistics.median(orders), 0.95),
        ("order of lightness, worst tau", orders[0], 0.8),
        ("touching pairs that keep their 3:1", 100 * kept / pairs if pairs else 100.0, 95.0),
        ("drawings whose paints all stay distinct", 100 * statistics.fmean(apart), 100.0),
    )
    for label, value, bound in rows:
        unit = "" if "tau" in label else "%"
        if own:
            figure(f"{name}: {label}", value, bound, unit, at_least=True)
        else:
            print(f"  {name}: {label}  {value:.3f} {unit}")


def _files(package: str) -> Iterator[Path]:
    folder = corpus_dir() / package.replace("/", "-").lstrip("@")
    for path in sorted(folder.rglob("*")):
        if path.suffix == ".svg" or (path.suffix == ".json" and _animation(path)):
            yield path


def _animation(path: Path) -> bool:
    """Whether a JSON file is one: schemas and settings lie beside them."""
    found = json.loads(path.read_bytes())
    return isinstance(found, dict) and isinstance(found.get("layers"), list)


def _taken(paths: Sequence[Path]) -> None:
    refused: Counter[str] = Counter()
    crashed = 0
    moving = {True: [0, 0], False: [0, 0]}
    for path in paths:
        count = moving[path.suffix == ".json"]
        count[1] += 1
        try:
            document = read(path.name, path.read_bytes())
            if document.write({}) != path.read_bytes():
                refused[f"{path.name}: not the same when kept"] += 1
                continue
            count[0] += 1
        except RefusedFileError as error:
            refused[error.reason] += 1
        except Exception as error:
            crashed += 1
            print(f"  {path.name}: {error!r}")
    for reason, count in refused.most_common(10):
        print(f"  not taken: {reason} ({count})")
    figure(f"SVG taken, of {moving[False][1]:,}", 100 * moving[False][0] / moving[False][1], 99.5, "%", at_least=True)
    figure(f"Lottie taken, of {moving[True][1]:,}", 100 * moving[True][0] / moving[True][1], 100, "%", at_least=True)
    figure("files that crashed a reader", crashed, 0, "files")


def _measured(paths: Sequence[Path], pool: DrawingPool) -> Iterator[SetPaints]:
    """The paints of up to `_SAMPLE` drawings with several colors, spread over a package."""
    chosen: list[Document] = []
    step = max(len(paths) // (_SAMPLE * 3), 1)
    for path in paths[::step]:
        document = read(path.name, path.read_bytes())
        if _LARGE_ENOUGH <= len({paint.rgb for paint in document.inventory().paints}) <= 40:
            chosen.append(document)
        if len(chosen) == _SAMPLE:
            break
    inventories = [document.inventory() for document in chosen]
    drawings = [(document.preview({}), found.paints) for document, found in zip(chosen, inventories, strict=True)]
    waiting = [pool.begin(draw_measured, *drawing, seconds=10.0) for drawing in drawings]
    for inventory, one in zip(inventories, map(pool.result, waiting), strict=True):
        yield summarize([inventory], [one])


def _engine(paints: SetPaints, kit: Kit) -> dict[Rgba, Rgb]:
    return assign(paints, kit, Plan(recipe=Recipe(natural=False))).resolve(kit)


def _nearest(paints: SetPaints, kit: Kit) -> dict[Rgba, Rgb]:
    """Every paint to the color of the kit that differs least (CIEDE2000)."""
    return _each(paints, kit, lambda colors, own: differences(colors, own).argmin(axis=1))


def _by_lightness(paints: SetPaints, kit: Kit) -> dict[Rgba, Rgb]:
    """Every paint to the color of the kit that is nearest in lightness, of whatever hue."""

    def nearest(colors: Sequence[Rgb], own: Sequence[Rgb]) -> np.ndarray:
        places = np.array([step_position(color) for color in own])
        return np.abs(np.array([step_position(color) for color in colors])[:, None] - places).argmin(axis=1)

    return _each(paints, kit, nearest)


def _each(paints: SetPaints, kit: Kit, choose: Callable[[Sequence[Rgb], Sequence[Rgb]], np.ndarray]) -> dict[Rgba, Rgb]:
    own = list(members(kit))
    listed = [use.paint for use in paints.uses]
    chosen = choose([paint.rgb for paint in listed], own)
    return {paint: own[int(at)] for paint, at in zip(listed, chosen, strict=True)}


if __name__ == "__main__":
    quality()
