"""How good the engine is over whole packages of drawings by others, beside two plain ways that anyone would try first.

Each package is a set, planned at once, as people do it; what is told is counted file by file, by a reader of its own
that shares nothing with the engine but the arithmetic of color. The plain ways stand there twice: as they are, and with
merging two paints of a file forbidden to them too.
"""

from __future__ import annotations

import statistics
import time
from collections import Counter
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from corpus_sets import kits, listed_files, packages_here
from fetch import corpus_dir
from figures import figure
from pavese.core.color.contrast import LARGE, contrast_ratio, luminance
from pavese.core.color.difference import differences
from pavese.core.color.oklab import oklch_of
from pavese.core.color.ramp import step_position
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats import read
from pavese.core.formats.document import Document
from pavese.core.kit.kit import Kit, members
from pavese.core.recolor.assign import assign
from pavese.core.recolor.inventory import FilePaints, SetPaints, summarize
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.recipe import Recipe
from pavese.render.draw import draw_measured
from pavese.render.pool import DrawingPool
from pavese.settings import settings

#: Drawings of one package that make a set, and the numbers of colors that they have.
_SAMPLE = 30
_FEWEST, _MOST = 2, 60
#: Luminance (plus 0.05) within this factor has no order that an eye would see.
_LEVEL = 1.06
#: OKLCH chroma from which a paint is vivid, and below which a color is grey; degrees by which a hue is kept, and lost.
_VIVID, _GREY = 0.1, 0.03
_KEPT, _LOST = 30.0, 60.0
#: CIEDE2000 below which two paints are near-equal and may share a color.
_NEAR_EQUAL = 2.5

#: What becomes of the paints of a file, by its name.
Way = Callable[[str], Mapping[Rgba, Rgb]]


@dataclass
class Tally:
    """What is counted over files."""

    orders: list[float] = field(default_factory=list)
    counts: Counter[str] = field(default_factory=Counter)

    def share(self, part: str, whole: str) -> float:
        """In percent; nothing of nothing is nothing."""
        return 100 * self.counts[part] / self.counts[whole] if self.counts[whole] else 0.0


def quality() -> None:
    """The whole table; without the corpus only a line that says so."""
    if not corpus_dir().exists():
        print("the corpus has not been fetched (python benchmarks/fetch.py); figures over it are left out")
        return
    _taken([path for package in packages_here() for path in listed_files(package)])
    sets = measured_sets()
    files = sum(len(one.files) for one in sets.values())
    for title, kit, closest in kits():
        print(f"{files} drawings of {len(sets)} packages, each package planned as a set, {title}:")
        began = time.perf_counter()
        tally = counted(sets, kit, _engine)
        print(f"  planned and counted in {time.perf_counter() - began:.1f} s")
        _table(tally, strict=closest)
        for name, way in PLAIN.items():
            plain = counted(sets, kit, way)
            _row(name, plain)


#: What is told, how it is reckoned, and what is wanted where the kit has the hues for it.
FIGURES: tuple[tuple[str, Callable[[Tally], float], float, bool], ...] = (
    ("order of lightness, mean tau", lambda t: statistics.fmean(t.orders), 0.985, True),
    ("inverted pairs", lambda t: t.share("inverted", "ordered"), 0.3, False),
    ("touching pairs that keep their 3:1", lambda t: t.share("kept", "clear"), 99.5, True),
    ("hue lost", lambda t: t.share("lost", "vivid"), 1.0, False),
    ("vivid to grey", lambda t: t.share("grey", "vivid"), 0.5, False),
    ("vivid to grey, also of hues that the kit lacks", lambda t: t.share("faded", "strong"), 0.5, False),
    ("distinct in a file", lambda t: 100 - t.share("merged", "files"), 100.0, True),
    ("gradients monotone", lambda t: 100 - t.share("turned", "blends"), 100.0, True),
)


def _table(tally: Tally, *, strict: bool) -> None:
    for label, reckon, bound, at_least in FIGURES:
        unit = "" if "tau" in label else "%"
        if strict:
            figure(f"engine: {label}", reckon(tally), bound, unit, at_least=at_least)
        else:
            print(f"  engine: {label}  {reckon(tally):.3f} {unit}")


def _row(name: str, tally: Tally) -> None:
    print(f"  {name}: " + ", ".join(f"{label} {reckon(tally):.3f}" for label, reckon, _, _ in FIGURES))


def counted(sets: Mapping[str, SetPaints], kit: Kit, plan: Callable[[SetPaints, Kit], Way]) -> Tally:
    """What a way of planning does to all files of the sets."""
    tally = Tally()
    for paints in sets.values():
        way = plan(paints, kit)
        for file in paints.files:
            _count(tally, file, way(file.name), kit)
    return tally


def _count(tally: Tally, file: FilePaints, resolved: Mapping[Rgba, Rgb], kit: Kit) -> None:
    became = {paint: resolved.get(paint, paint.rgb) for paint in file.paints}
    before = sorted({paint.rgb for paint in became})
    after = {paint.rgb: color for paint, color in became.items()}
    tally.counts["files"] += 1
    if len(before) > 1:
        _count_order(tally, before, [after[color] for color in before])
    for one, other in file.measured.touching:
        if contrast_ratio(one.rgb, other.rgb) >= LARGE:
            tally.counts["clear"] += 1
            tally.counts["kept"] += contrast_ratio(became[one], became[other]) >= LARGE
    _count_hues(tally, before, after, kit)
    tally.counts["merged"] += _merged(before, after, kit)
    for one, other in file.blends:
        tally.counts["blends"] += 1
        tally.counts["turned"] += _turned(one.rgb, other.rgb, became[one], became[other])


def _count_order(tally: Tally, before: Sequence[Rgb], after: Sequence[Rgb]) -> None:
    """Kendall's tau over pairs that differ in lightness, ties counted as neither, and the pairs that plainly invert."""
    was, now = (np.log([luminance(color) + 0.05 for color in colors]) for colors in (before, after))
    first, second = np.triu_indices(len(before), 1)
    gap, gap_now = was[first] - was[second], now[first] - now[second]
    seen = np.abs(gap) >= np.log(_LEVEL)
    if seen.any():
        tally.orders.append(float(np.mean(np.sign(gap[seen]) * np.sign(np.round(gap_now[seen], 9)))))
    plain = (np.abs(gap_now) >= np.log(_LEVEL)) & (np.sign(gap) != np.sign(gap_now))
    tally.counts["ordered"] += int(seen.sum())
    tally.counts["inverted"] += int((seen & plain).sum())


def _count_hues(tally: Tally, before: Sequence[Rgb], after: Mapping[Rgb, Rgb], kit: Kit) -> None:
    bases = oklch_of([color.base for color in kit.colors])
    for color in before:
        lch, now = oklch_of([color, after[color]])
        tally.counts["strong"] += lch[1] >= _VIVID
        tally.counts["faded"] += lch[1] >= _VIVID and now[1] < _GREY
        near = (bases[:, 1] >= _VIVID / 2) & (_turn(bases[:, 2], lch[2]) <= _KEPT)
        if lch[1] < _VIVID or not near.any():
            continue
        tally.counts["vivid"] += 1
        tally.counts["grey"] += now[1] < _GREY
        tally.counts["lost"] += now[1] >= _GREY and _turn(now[2], lch[2]) >= _LOST


def _merged(before: Sequence[Rgb], after: Mapping[Rgb, Rgb], kit: Kit) -> bool:
    """Whether two paints that are plainly two end as one although the kit has colors of their hue left."""
    own = list(members(kit))
    free = [color for color in own if color not in set(after.values())]
    holders: dict[Rgb, list[Rgb]] = {}
    for color in before:
        holders.setdefault(after[color], []).append(color)
    for group in holders.values():
        if len(group) > 1 and free:
            plain = (differences(group, group) >= _NEAR_EQUAL).any()
            left = oklch_of(free)
            if plain and any(_fits(oklch_of([color])[0], left).any() for color in group):
                return True
    return False


def _fits(color: np.ndarray, left: np.ndarray) -> np.ndarray:
    """Which free colors have the hue of a color, or are grey where it is."""
    if color[1] < _GREY:
        return np.asarray(left[:, 1] < _GREY)
    return np.asarray((left[:, 1] >= _GREY) & (_turn(left[:, 2], color[2]) <= _KEPT))


def _turned(one: Rgb, other: Rgb, one_after: Rgb, other_after: Rgb) -> bool:
    """Whether two stops that follow each other run the other way, or through a hue that neither has."""
    was, now = (
        np.log((luminance(a) + 0.05) / (luminance(b) + 0.05)) for a, b in ((one, other), (one_after, other_after))
    )
    if abs(was) >= np.log(_LEVEL) and np.sign(was) != np.sign(now) and abs(now) >= np.log(_LEVEL):
        return True
    lch, after = oklch_of([one, other]), oklch_of([one_after, other_after])
    colored = (lch[:, 1] >= 0.05).all() and (after[:, 1] >= 0.05).all()
    return bool(colored and _turn(*after[:, 2]) > _turn(*lch[:, 2]) + _KEPT)


def _turn(one: np.ndarray | float, other: np.ndarray | float) -> np.ndarray:
    return np.asarray(np.abs((np.asarray(one) - other + 180) % 360 - 180))


def _engine(paints: SetPaints, kit: Kit) -> Way:
    plan = assign(paints, kit, Plan(recipe=Recipe(natural=False)))
    return lambda name: plan.recoloring(kit, name).colors


def _plain(
    fit: Callable[[Sequence[Rgb], Sequence[Rgb]], np.ndarray], *, apart: bool
) -> Callable[[SetPaints, Kit], Way]:
    """Every paint to the color that fits best; `apart`, to the best that no paint of its file has yet, larger first."""

    def planned(paints: SetPaints, kit: Kit) -> Way:
        own = list(members(kit))
        files = {file.name: file for file in paints.files}

        def way(name: str) -> Mapping[Rgba, Rgb]:
            areas = files[name].measured.areas
            listed = sorted(files[name].paints, key=lambda paint: (-areas.get(paint, 0.0), paint))
            cost = fit([paint.rgb for paint in listed], own)
            found: dict[Rgba, Rgb] = {}
            known: dict[Rgb, Rgb] = {}
            for paint, row in zip(listed, cost, strict=True):
                order = [own[int(at)] for at in np.argsort(row, kind="stable")]
                taken = set(known.values()) if apart else set()
                best = next((color for color in order if color not in taken), order[0])
                found[paint] = known.setdefault(paint.rgb, best)
            return found

        return way

    return planned


def _by_lightness(colors: Sequence[Rgb], own: Sequence[Rgb]) -> np.ndarray:
    places = np.array([step_position(color) for color in own])
    return np.asarray(np.abs(np.array([step_position(color) for color in colors])[:, None] - places))


#: The ways to compare with.
PLAIN: Mapping[str, Callable[[SetPaints, Kit], Way]] = {
    "nearest color": _plain(differences, apart=False),
    "lightness mapping": _plain(_by_lightness, apart=False),
    "nearest color, none twice in a file": _plain(differences, apart=True),
    "lightness mapping, none twice in a file": _plain(_by_lightness, apart=True),
}


def measured_sets() -> dict[str, SetPaints]:
    """Each package that is here as a set of up to `_SAMPLE` drawings of several colors, spread over it, measured."""
    pool = DrawingPool(settings().drawing_workers, settings().fonts_dir)
    try:
        found = {package: _measured(listed_files(package), pool) for package in packages_here()}
    finally:
        pool.close()
    return {package: paints for package, paints in found.items() if len(paints.files) > 1}


def _measured(paths: Sequence[Path], pool: DrawingPool) -> SetPaints:
    chosen = dict(_sampled(paths))
    inventories = [document.inventory() for document in chosen.values()]
    drawings = [(one.preview({}), found.paints) for one, found in zip(chosen.values(), inventories, strict=True)]
    waiting = [pool.begin(draw_measured, *drawing, seconds=20.0) for drawing in drawings]
    return summarize(inventories, map(pool.result, waiting), chosen)


def _sampled(paths: Sequence[Path]) -> Iterator[tuple[str, Document]]:
    count = 0
    step = max(len(paths) // (_SAMPLE * 2), 1)
    for path in paths[::step]:
        try:
            document = read(path.name, path.read_bytes())
        except RefusedFileError:
            continue
        if _FEWEST <= len({paint.rgb for paint in document.inventory().paints}) <= _MOST:
            count += 1
            yield f"{count} {path.name}", document
        if count == _SAMPLE:
            return


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


if __name__ == "__main__":
    quality()
