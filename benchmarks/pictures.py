"""Flat pictures: drawings by others, drawn and recolored as pixels, against the same drawings recolored as vectors.

Beside it stand the plain ways that anyone would try first: exchanging exact colors only, and each pixel to the target
of the nearest paint.
"""

from __future__ import annotations

import io
import random
import time
from collections.abc import Iterable, Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from functools import partial
from itertools import cycle, islice
from multiprocessing import get_context
from pathlib import Path
from resource import RUSAGE_SELF, getrusage
from tempfile import TemporaryDirectory

import numpy as np
import numpy.typing as npt
from PIL import Image
from scipy.spatial import KDTree

from corpus_sets import kits, listed_files, packages_here
from figures import figure, ratio
from pavese.core.color.difference import ciede2000, cielab
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats import format_of, read
from pavese.core.formats.document import Document
from pavese.core.gather.logo import take_logo
from pavese.core.kit.kit import Kit
from pavese.core.kit.logo import Logo
from pavese.core.kit.logo_on_grounds import KitLogo
from pavese.core.pictures.kept import keep_nothing, keep_on
from pavese.core.pictures.mixture import OTHER, Mixture
from pavese.core.pictures.regions import LOSSLESS, LOSSY
from pavese.core.pictures.unmix import unmixed
from pavese.core.recolor.assign import assign
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import summarize
from pavese.core.recolor.pixels import PhotographTones
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.pointed import PartWay, PicturePart, PictureParts, Region
from pavese.core.recolor.recipe import Recipe
from pavese.demo.banners import banner_files
from pavese.demo.pictures import logo
from pavese.render.draw import draw, load_fonts, pixels_of
from pavese.render.reading import measured
from pavese.render.shelf import FolderShelf
from pavese.settings import settings

_Levels = npt.NDArray[np.uint8]
_Mask = npt.NDArray[np.bool_]
_Floats = npt.NDArray[np.float64]

#: Drawings, the most of one package, and the longer sides in which they are drawn.
_DRAWINGS, _OF_PACKAGE = 60, 8
_SIDES = (128, 512, 1024)
_QUALITIES = (75, 85, 92)
_OURS, _EXACT, _NEAREST = _WAYS = "", ", exact colors only", ", nearest paint"
#: Drawings that are made smaller.
_SMALLER = 24
#: What they are laid on, as pictures mostly are; and within how many levels a paint is one of the drawing.
_GROUND, _SAME = Rgb(242, 240, 235), 6


@dataclass
class _Seen:
    """How far pixels are from those of the recolored vector (CIEDE2000), one entry a picture: where the vector is one
    color all around, where pixels are mixes, and all of them."""

    inside: list[_Floats] = field(default_factory=list)
    edges: list[_Floats] = field(default_factory=list)

    whole: list[_Floats] = field(default_factory=list)

    def add(self, apart: _Floats, inside: _Mask, mixed: _Mask) -> None:
        self.inside.append(apart[inside])
        self.edges.append(apart[mixed])
        self.whole.append(apart.ravel())

    @staticmethod
    def median_of(pictures: list[_Floats], percent: float, of: float = 50) -> float:
        """A percentile of the pixels of the median picture, or of that which so many percent do not pass."""
        return float(np.percentile([np.percentile(one, percent) for one in pictures if len(one)], of))


def drawings() -> Iterator[tuple[str, Document]]:
    """Drawings of the corpus that are painted in plain codes, some of each package."""
    count = 0
    for package in packages_here():
        taken = 0
        paths = [path for path in listed_files(package) if path.suffix == ".svg"]
        random.Random(package).shuffle(paths)
        for path in paths:
            if taken == _OF_PACKAGE or count == _DRAWINGS:
                break
            try:
                document = read(path.name, path.read_bytes())
            except RefusedFileError:
                continue
            found = document.inventory()
            plain = not found.blends and not found.remarks and all(paint.alpha == 1 for paint in found.paints)
            if plain and 2 <= len(found.paints) <= 24 and b"opacity" not in path.read_bytes():
                taken, count = taken + 1, count + 1
                yield f"{package}/{path.name}", document


def _laid(pixels: _Levels, ground: Rgb) -> _Levels:
    """A picture (rows, columns, 4) on a ground."""
    whole = Image.new("RGBA", (pixels.shape[1], pixels.shape[0]), (*ground, 255))
    whole.alpha_composite(Image.fromarray(pixels))
    return np.asarray(whole.convert("RGB"))


def apart(one: _Levels, other: _Levels) -> _Floats:
    """CIEDE2000 of each pixel of two pictures (rows, columns, 3)."""
    differing = np.flatnonzero((one != other).any(axis=-1))
    found = np.zeros(one.shape[0] * one.shape[1])
    first, second = (cielab(each.reshape(-1, 3)[differing]) for each in (one, other))
    found[differing] = ciede2000(first, second)
    return found.reshape(one.shape[:2])


def _mapping(document: Document, kit: Kit, name: str) -> dict[Rgba, Rgb]:
    """What its paints become by the plan for a drawing."""
    paints = summarize([document.inventory()], [measured(document, format_of(name).can)], [name])
    plan = assign(paints, kit, Plan(recipe=Recipe(natural=False)))
    kept = {paint: paint.rgb for paint in document.inventory().paints}
    return kept | dict(plan.recoloring(kit, name).colors)


def _targets(mixture: Mixture, mapping: dict[Rgb, Rgb], truth: _Levels) -> _Levels:
    """What each paint of a picture becomes: what its drawing says, and where a paint is in no drawing (an edge that
    repeats itself), what the vector shows there."""
    found = np.zeros((len(mixture.paints), 3), dtype=np.uint8)
    for at, paint in enumerate(mixture.paints):
        near = min(mapping, key=lambda one: float(np.abs(np.subtract(one, paint.astype(int))).max()))
        there = truth[mixture.at == at]
        known = np.abs(np.subtract(near, paint.astype(int))).max() <= _SAME or not len(there)
        found[at] = mapping[near] if known else np.median(there, axis=0)
    return found


def _mixed(pixels: _Levels, paints: Iterable[Rgb]) -> _Mask:
    """Where a picture is none of its drawing's paints: the pixels of its edges."""
    weights = np.array([65536, 256, 1])
    return ~np.isin(pixels.astype(np.int64) @ weights, [int(np.dot(one, weights)) for one in paints])


def _inside(pixels: _Levels) -> _Mask:
    """Where a picture is one color all around: what is no edge."""
    same = np.ones(pixels.shape[:2], dtype=np.bool_)
    for down in (-1, 0, 1):
        for right in (-1, 0, 1):
            same &= (np.roll(pixels, (down, right), axis=(0, 1)) == pixels).all(axis=-1)
    return same


def pictures() -> None:
    """The figures of flat pictures."""
    load_fonts(str(settings().fonts_dir))
    found = list(drawings())
    if not found:
        print("no corpus: run benchmarks/fetch.py for the figures of pictures")
        return
    ways = {(side, way): _Seen() for side in _SIDES for way in _WAYS}
    lossy = {quality: _Seen() for quality in _QUALITIES}
    unsure = []
    for name, document in found:
        for title, kit, _ in kits()[:3]:
            mapping = _mapping(document, kit, name)
            by_code = {_GROUND: mapping[min(mapping)], **{paint.rgb: to for paint, to in mapping.items()}}
            for side in _SIDES:
                before, after = (pixels_of(draw(document.preview(one), side)) for one in ({}, mapping))
                flat, truth = _laid(before, _GROUND), _laid(after, by_code[_GROUND])
                inside, mixed = _inside(flat) & _inside(truth), _mixed(flat, by_code)
                mixture = unmixed(flat, LOSSLESS)
                targets = _targets(mixture, by_code, truth)
                ways[side, _OURS].add(apart(mixture.exchanged(flat, targets), truth), inside, mixed)
                unsure.append(mixture.unsure / inside.size)
                if side == _SIDES[1]:
                    only = flat.copy()
                    only[mixture.at != OTHER] = targets[mixture.at[mixture.at != OTHER]]
                    ways[side, _EXACT].add(apart(only, truth), inside, mixed)
                    _, nearest = KDTree(mixture.paints).query(flat.reshape(-1, 3))
                    ways[side, _NEAREST].add(apart(targets[nearest].reshape(flat.shape), truth), inside, mixed)
                    for quality in _QUALITIES if title == "ordinary kit" else ():
                        coarse = _as_jpeg(flat, quality)
                        mixture_ = unmixed(coarse, LOSSY)
                        made = mixture_.exchanged(coarse, _targets(mixture_, by_code, truth))
                        lossy[quality].add(apart(made, truth), inside, mixed)
    for (side, way), seen in ways.items():
        if seen.edges:
            _figures(f"flat pictures {side} px{way}", seen, 97.0 if side == _SIDES[0] else 99.5)
    figure("flat pictures, pixels with no sure answer", 100 * float(np.mean(unsure)), 1.0, "%")
    for quality, seen in lossy.items():
        figure(f"flat JPEG {quality}, inside, p95", seen.median_of(seen.inside, 95), 4.0, "CIEDE2000")
        figure(f"flat JPEG {quality}, edges, p95", seen.median_of(seen.edges, 95), 10.0, "CIEDE2000")


def smaller() -> None:
    """The same drawings made smaller by a good filter, as most pictures are that are sent: paints beside those that
    were drawn, and how far they are from the recolored drawings made smaller."""
    load_fonts(str(settings().fonts_dir))
    seen, more = _Seen(), []
    kit = kits()[0][1]
    for name, document in islice(drawings(), _SMALLER):
        mapping = _mapping(document, kit, name)
        by_code = {_GROUND: mapping[min(mapping)], **{paint.rgb: to for paint, to in mapping.items()}}
        large = (pixels_of(draw(document.preview(one), _SIDES[-1])) for one in ({}, mapping))
        flat, truth = (_shrunk(_laid(one, to)) for one, to in zip(large, (_GROUND, by_code[_GROUND]), strict=True))
        mixture = unmixed(flat, LOSSLESS)
        made = mixture.exchanged(flat, _targets(mixture, by_code, truth))
        seen.add(apart(made, truth), _inside(flat) & _inside(truth), _mixed(flat, by_code))
        more.append(len(mixture.paints) / len(by_code))
    if more:
        figure("made smaller, paints to those drawn", float(np.mean(more)), 1.5, "times")
        _figures("made smaller", seen, 97.0)


def handed_on() -> None:
    """Drawings that were JPEGs before they were saved as PNG, some made larger between: their paints."""
    load_fonts(str(settings().fonts_dir))
    for times in (1.0, 1.5, 2.0):
        parts = []
        for _, document in drawings():
            drawn = _laid(pixels_of(draw(document.preview({}), _SIDES[1])), _GROUND)
            coded = Image.fromarray(_as_jpeg(drawn, 85))
            size = round(coded.width * times), round(coded.height * times)
            made = read("handed-on.png", _saved(coded.resize(size, Image.Resampling.BICUBIC), "PNG"))
            parts.append(len(made.inventory().paints) / len(unmixed(drawn, LOSSLESS).paints))
        figure(f"drawings as PNG of a JPEG, {times:g} times as large, paints", float(np.mean(parts)), 1.5, "times")


def _shrunk(pixels: _Levels) -> _Levels:
    """A picture a quarter as large."""
    small = (pixels.shape[1] // 4, pixels.shape[0] // 4)
    return np.asarray(Image.fromarray(pixels).resize(small, Image.Resampling.LANCZOS))


def speed() -> None:
    """Read and written with every paint changed, against decoding and encoding the same file: at 12 million pixels, and
    many of the size that pages show."""
    load_fonts(str(settings().fonts_dir))
    banners = banner_files()
    with Image.open(io.BytesIO(banners["summer-timetable.png"])) as image:
        large = image.convert("RGB").resize((4000, 3000), Image.Resampling.LANCZOS)
    for kind, bound in (("PNG", 1.5), ("JPEG", 4.0)):
        data = _saved(large, kind)
        name = f"large.{kind.lower()}"
        taken = ratio(partial(_recolored, name, data), partial(_decoded, data, kind), runs=3)
        figure(f"flat {kind} of 12 million pixels, read and written, floor", taken, bound, "x")
        with TemporaryDirectory() as folder:
            keep_on(FolderShelf(Path(folder)))
            # The first run takes it apart.
            taken = ratio(partial(_recolored, name, data), partial(_decoded, data, kind), runs=5)
            figure(f"the same {kind} in another process, floor", taken, bound, "x")
            keep_nothing()
    with Image.open(io.BytesIO(banners["harbor-wall.jpg"])) as image:
        photograph = _saved(image.convert("RGB").resize((4000, 3000), Image.Resampling.LANCZOS), "JPEG")
    document = read("large.jpg", photograph)
    act = PhotographTones(dark="d.900", light="d.50")
    changes = Changes(acts=(act,), resolved={"d.900": Rgb(11, 40, 46), "d.50": Rgb(230, 240, 241)})
    taken = ratio(partial(document.write, changes), partial(_decoded, photograph, "JPEG"), runs=3)
    figure("a photograph of 12 million pixels in two tones, floor", taken, 1.5, "x")
    a_logo(large)
    large_ones(large)
    started = time.perf_counter()
    for at, (name, data) in zip(range(200), cycle(banners.items()), strict=False):
        _recolored(f"{at}-{name}", data)
    figure("200 pictures of the size of pages, read and written", time.perf_counter() - started, 60.0, "s")


def a_logo(drawn: Image.Image) -> None:
    """The kit's logo in the place of a thing, in a picture that is read already, against the floor."""
    taken_logo = take_logo("logo.svg", logo(), draw)
    assert taken_logo.picture.drawn is not None
    own = KitLogo(Logo(on_light=taken_logo.picture), None, 3.0, {taken_logo.picture.drawn: taken_logo.drawn})
    sun = Region(left=0.73, top=0.06, width=0.22, height=0.4)
    act = PictureParts(parts=(PicturePart(region=sun, way=PartWay.LOGO),))
    data = _saved(drawn, "JPEG")
    document = read("large.jpg", data)
    changes = Changes(acts=(act,), logo=own)
    taken = ratio(partial(document.write, changes), partial(_decoded, data, "JPEG"), runs=3)
    figure("the kit's logo in a flat JPEG of 12 million pixels, written, floor", taken, 6.0, "x")


def large_ones(drawn: Image.Image) -> None:
    """Of 36 million pixels against the floor, and what a process holds at most for one of 100 million."""
    whole = drawn.resize((7200, 5000), Image.Resampling.LANCZOS)
    for kind, bound in (("PNG", 1.5), ("JPEG", 4.0)):
        data = _saved(whole, kind)
        taken = ratio(partial(_recolored, f"large.{kind.lower()}", data), partial(_decoded, data, kind), runs=2)
        figure(f"flat {kind} of 36 million pixels, read and written, floor", taken, bound, "x")
    data = _saved(drawn.resize((10_000, 10_000), Image.Resampling.BICUBIC), "JPEG")
    with ProcessPoolExecutor(1, mp_context=get_context("spawn")) as pool:
        figure("memory for a flat JPEG of 100 million pixels", pool.submit(_held, data).result(), 1200, "MB")


def _held(data: bytes) -> float:
    _recolored("large.jpg", data)
    return getrusage(RUSAGE_SELF).ru_maxrss / 1024


def _saved(picture: Image.Image, kind: str) -> bytes:
    target = io.BytesIO()
    picture.save(target, kind, quality=88)
    return target.getvalue()


def _recolored(name: str, data: bytes) -> bytes:
    document = read(name, data)
    return document.write({paint: Rgb(255 - paint.r, paint.b, paint.g) for paint in document.inventory().paints})


def _decoded(data: bytes, kind: str) -> bytes:
    with Image.open(io.BytesIO(data)) as image:
        return _saved(image.convert("RGB"), kind)


def _figures(name: str, seen: _Seen, within: float) -> None:
    inside, all_ = np.concatenate(seen.inside), np.concatenate(seen.whole)
    figure(f"{name}, inside exact", 100 * float((inside == 0).mean()), 100.0, "%", at_least=True)
    figure(f"{name}, within 2", 100 * float((all_ <= 2).mean()), within, "%", at_least=True)
    figure(f"{name}, edges, median", seen.median_of(seen.edges, 50), 1.0, "CIEDE2000")
    figure(f"{name}, edges, p95 of the median drawing", seen.median_of(seen.edges, 95), 5.0, "CIEDE2000")
    figure(f"{name}, edges, p95 of nine in ten", seen.median_of(seen.edges, 95, of=90), 10.0, "CIEDE2000")


def _as_jpeg(pixels: _Levels, quality: int) -> _Levels:
    """What JPEG with halved color leaves of a picture."""
    target = io.BytesIO()
    Image.fromarray(pixels).save(target, "JPEG", quality=quality, subsampling=2)
    with Image.open(target) as image:
        return np.asarray(image.convert("RGB"))


if __name__ == "__main__":
    speed()
    pictures()
    smaller()
    handed_on()
