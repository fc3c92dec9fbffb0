"""The quiet regions of a picture, in which pixels hardly differ from those around them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import numpy.typing as npt
from scipy import ndimage

from pavese.core.pictures.masks import grown, shrunk
from pavese.core.pictures.mixture import Levels, Places, codes_of, levels_apart

_Mask = npt.NDArray[np.bool_]
_Floats = npt.NDArray[np.float64]
_Ints = npt.NDArray[np.int64]

#: Rows that are counted at a time.
_STRIP = 256
#: Side in pixels of the fields by which photographs are told, and how many of them one has along a side; the part of
#: what is around a field, and of what borders on a region, that has to be unknown.
_FIELD, _LEAST_FIELDS, _UNKNOWN_FIELD, _UNKNOWN_BORDER = 8, 5, 0.6, 0.3
#: How far outside of a region what it borders on is looked at: its edge is between.
_BEYOND = 4
#: A flat region of so much of the picture is no piece of a photograph.
_LARGE_EVEN = 0.004
_ROUNDS = 6
#: What of a picture a panel on a photograph fills at least, what of it is within a level of its color, and of a
#: rectangle within three.
_PANEL, _ONE_COLOR, _NEARLY = 0.004, 0.75, 0.85
#: A paint of a lossy picture is none where it has so many regions, the largest of which is no more than such a part of
#: them, and such a part of which is farther from it, in levels: coding takes no paint so far from itself.
_MANY_REGIONS, _LARGEST, _RUNNING, _OFF = 8, 0.25, 0.1, 4.5
#: From which level on, down and up, a lens saw nothing more; what of its box a rectangle fills; how large, beside it, a
#: panel letters on it are at most, each.
_CLIPPED, _RECTANGLE, _HOLE = (4, 251), 0.9, 0.8
#: How much of what hangs together is a photograph, in pixels and as a part of it, that is one as a whole.
_LEAST_PHOTOGRAPH, _MUCH = 1600, 0.4
#: How much of what is around the dark of a photograph is that, and not lighter than this, in levels; of things seen
#: against the light, whose outline is so many times as long as that of a disc, squared: a bar of 1 to 10 has 4.
_NIGHT, _FADING, _AGAINST_LIGHT, _RAGGED = 0.8, 64, 0.5, 8
#: How far beyond its fields a photograph may go, both ways, in pixels.
_BESIDE = 13
#: Colors that a quiet region of a lossy picture may have, how far noise takes them and most of it, in levels; which
#: part of a region one has at least, and all together.
_MOST_MODES, _MODE, _CORE, _LEAST_MODE, _OF_MODES = 6, 7, 3, 0.01, 0.8


@dataclass(frozen=True)
class Fineness:
    """How exact a picture's values are, in levels: how far neighbors in a quiet region differ at most, the standard
    deviation up to which one is flat, how well a mix has to fit, one of the paints of the whole
    picture (`loose`) and what is noise. `chroma` is what color counts
    beside lightness: JPEG keeps it coarser."""

    quiet: int
    flat: float
    fits: float
    loose: float = 12.0
    noise: float = 0.0
    chroma: float = 1.0

    @property
    def exact(self) -> bool:
        """Whether a paint has one code, everywhere."""
        return self.noise == 0


LOSSLESS = Fineness(6, 0.3, 5.0)
#: A palette holds what comes near to a mix.
PALETTE = Fineness(6, 0.3, 12.0)
LOSSY = Fineness(10, 3.0, 24.0, 16.0, 7.0, 0.4)


@dataclass(frozen=True)
class Regions:
    """Regions by their numbers: `of` (rows, columns) has that of each pixel, -1 for none; `areas` in pixels, and the
    mean and the standard deviation of each channel, shape (n, 3)."""

    of: Places
    areas: _Ints
    means: _Floats
    deviation: _Floats

    def flat(self, most: float) -> _Mask:
        """Which of them have one color."""
        return np.asarray(self.deviation.max(axis=1) <= most)

    def large_and_even(self, most: float, size: int) -> _Mask:
        """Which of them have one color and cover so much of a picture of `size` pixels that they stand by themselves,
        beside a photograph as well."""
        return self.flat(most) & (self.areas >= _LARGE_EVEN * size)

    def box(self, number: int) -> tuple[slice, slice]:
        """The rows and columns in which one lies."""
        return self._boxes[number]

    @cached_property
    def _boxes(self) -> list[tuple[slice, slice]]:
        return list(ndimage.find_objects(self.of + 1))

    def parted(self, colors: Levels, numbers: Sequence[int], quiet: int) -> Regions:
        """The same, with some of them taken apart where neighbors differ by more than so many levels. Those have no
        pixels then; what they fall into has numbers of its own."""
        inside = self._inside(numbers)
        return self._with(inside, numbers, quiet_regions(colors, inside, quiet))

    def cored(self, colors: Levels, numbers: Sequence[int], least: float) -> Regions:
        """The same, with some of them taken apart into the one code that at least such a part of one has, and the rest.
        Those have no pixels then, as in `parted`."""
        if not numbers:
            return self
        codes = codes_of(colors.reshape(-1, 3))
        core, taken = np.zeros(self.of.size, dtype=np.bool_), []
        for number in numbers:
            places = self.places(number)
            found, counts = np.unique(codes[places], return_counts=True)
            if counts.max() >= least * len(places):
                core[places[codes[places] == found[counts.argmax()]]] = True
                taken.append(number)
        inside = self._inside(taken)
        main = core.reshape(self.of.shape)
        whole = self._with(inside, taken, _labelled(colors, main))
        return whole._with(inside & ~main, taken, _labelled(colors, inside & ~main))

    def _inside(self, numbers: Sequence[int]) -> _Mask:
        # The last entry is for pixels of no region, whose number is -1.
        some = np.zeros(len(self.areas) + 1, dtype=np.bool_)
        some[list(numbers)] = True
        return np.asarray(some[self.of])

    def _with(self, inside: _Mask, numbers: Sequence[int], others: Regions) -> Regions:
        """These and others, which have the pixels `inside` of some of these instead."""
        areas = self.areas.copy()
        areas[list(numbers)] = 0
        of = np.where(inside, -1, self.of)
        of[others.of >= 0] = others.of[others.of >= 0] + len(areas)
        return Regions(
            of,
            np.concatenate([areas, others.areas]),
            np.concatenate([self.means, others.means]),
            np.concatenate([self.deviation, others.deviation]),
        )

    def places(self, number: int) -> Places:
        """The flat positions of the pixels of one."""
        rows, columns = self._boxes[number]
        inside = np.nonzero(self.of[rows, columns] == number)
        return np.asarray((inside[0] + rows.start) * self.of.shape[1] + inside[1] + columns.start, dtype=np.int32)


def quiet_regions(colors: Levels, seen: _Mask, quiet: int) -> Regions:
    """The regions of a picture, shape (rows, columns, 3), in which no channel differs by more than so many levels
    between a pixel and those around it, and all are `seen`."""
    calm = spread(colors) <= quiet
    if not seen.all():
        calm &= shrunk(seen, 1)
    return _labelled(colors, calm)


def _labelled(colors: Levels, inside: _Mask) -> Regions:
    """What hangs together of the pixels inside of a mask."""
    labels, count = ndimage.label(inside)
    areas = np.zeros(count + 1, dtype=np.int64)
    sums, squares = np.zeros((count + 1, 3)), np.zeros((count + 1, 3))
    for top in range(0, len(labels), _STRIP):
        strip = labels[top : top + _STRIP].ravel()
        areas += np.bincount(strip, minlength=count + 1)
        for channel in range(3):
            values = colors[top : top + _STRIP, :, channel].ravel().astype(np.float64)
            sums[:, channel] += np.bincount(strip, values, count + 1)
            squares[:, channel] += np.bincount(strip, values * values, count + 1)
    size = np.maximum(areas, 1)[1:, None]
    means = sums[1:] / size
    deviation = np.sqrt(np.maximum(squares[1:] / size - means * means, 0))
    # What rounding leaves of nothing.
    deviation[deviation < 1e-3] = 0
    return Regions((labels - 1).astype(np.int32), areas[1:], means, deviation)


def spread(colors: Levels) -> Levels:
    """By how many levels the channel differs most that differs most, in the 3 x 3 around each pixel."""
    padded = np.pad(colors, ((1, 1), (1, 1), (0, 0)), mode="edge")
    low, high = (
        np.minimum(np.minimum(padded[:-2], padded[1:-1]), padded[2:]),
        np.maximum(np.maximum(padded[:-2], padded[1:-1]), padded[2:]),
    )
    low = np.minimum(np.minimum(low[:, :-2], low[:, 1:-1]), low[:, 2:])
    high = np.maximum(np.maximum(high[:, :-2], high[:, 1:-1]), high[:, 2:])
    return levels_apart(high, low)


def gathered(means: _Floats, areas: _Ints, near: float, most: int) -> tuple[Levels, _Ints]:
    """The colors of regions, shape (n, 3), the largest first, as few: one that is within so many levels of one before
    it is that one. At most so many; with the number of each among them, -1 for one that is left out, as those are whose
    colors run on."""
    colors = np.rint(means).astype(np.uint8)
    if near == 0:
        found, at = np.unique(colors.reshape(-1, 3), axis=0, return_inverse=True)
        order = np.argsort(-np.bincount(at.ravel(), areas, len(found)), kind="stable")[:most]
        rank = np.full(len(found), -1, dtype=np.int64)
        rank[order] = np.arange(len(order))
        return found[order], rank[at.ravel()]
    kept: list[Levels] = []
    number = np.full(len(colors), -1, dtype=np.int64)
    for here, color in enumerate(colors):
        apart = np.linalg.norm(np.array(kept, dtype=np.float64) - color, axis=1) if kept else np.array([np.inf])
        if apart.min() <= near:
            number[here] = int(apart.argmin())
        elif len(kept) < most:
            number[here] = len(kept)
            kept.append(color)
    paints = np.array(kept, dtype=np.uint8).reshape(-1, 3)
    runs = _running(means, areas, paints, number)
    return paints[~runs], np.append(np.where(runs, -1, np.cumsum(~runs) - 1), -1)[number]


def _running(means: _Floats, areas: _Ints, paints: Levels, number: _Ints) -> _Mask:
    """Which paints are none, by the regions that were gathered to each, with their means, shape (n, 3), and areas:
    many small ones whose colors run on, as those of a texture and of walls in soft light do."""
    count = len(paints)
    known = number >= 0
    own, sizes = number[known], areas[known]
    off = np.linalg.norm(means[known] - paints[own], axis=1) > _OFF
    whole, far = np.bincount(own, sizes, count), np.bincount(own, sizes * off, count)
    largest = np.zeros(count)
    np.maximum.at(largest, own, sizes)
    many = np.bincount(own, minlength=count) >= _MANY_REGIONS
    return np.asarray(many & (largest <= _LARGEST * whole) & (far >= _RUNNING * whole))


def modes(colors: Levels) -> Levels | None:
    """The few colors that nearly all of some (n, 3) are, but for noise, the usual ones first; None for a gradient."""
    weights = np.array([65536, 256, 1], dtype=np.int64)
    codes, counts = np.unique(colors @ weights, return_counts=True)
    order = np.argsort(-counts, kind="stable")
    counts = counts[order]
    levels = np.stack([codes >> 16, codes >> 8 & 255, codes & 255], axis=-1)[order]
    found: list[npt.NDArray[np.float64]] = []
    close = 0
    open_ = np.ones(len(levels), dtype=np.bool_)
    while open_.any() and len(found) < _MOST_MODES:
        mode = levels[int(np.argmax(open_))]
        apart = np.abs(levels - mode).max(axis=1)
        own = open_ & (apart <= _MODE)
        if counts[own].sum() < _LEAST_MODE * counts.sum():
            break
        found.append(
            np.rint(np.average(levels[own & (apart <= _CORE)], axis=0, weights=counts[own & (apart <= _CORE)]))
        )
        close += int(counts[own & (apart <= _CORE)].sum())
        open_ &= ~own
    return np.array(found, dtype=np.uint8) if close >= _OF_MODES * counts.sum() else None


def dense(places: Places, shape: tuple[int, ...], each: int) -> _Mask:
    """Where most of all pixels around are unknown, as nowhere in a drawing, in fields that are no smaller than a
    photograph is: `places` (flat positions) are some of the unknown ones, one of so many."""
    rows, columns = shape
    unknown = np.zeros(shape, dtype=np.float32)
    unknown.ravel()[places] = each
    tall, wide = -(-rows // _FIELD), -(-columns // _FIELD)
    padded = np.zeros((tall * _FIELD, wide * _FIELD), dtype=np.float32)
    padded[:rows, :columns] = unknown
    fields = padded.reshape(tall, _FIELD, wide, _FIELD).mean(axis=(1, 3))
    full = ndimage.uniform_filter(fields, 3, mode="nearest") > _UNKNOWN_FIELD
    labels, _ = ndimage.label(full)
    for number, box in enumerate(ndimage.find_objects(labels), 1):
        if box is not None and min(one.stop - one.start for one in box) < _LEAST_FIELDS:
            full[box] &= labels[box] != number
    return np.asarray(np.repeat(np.repeat(full, _FIELD, axis=0), _FIELD, axis=1)[:rows, :columns])


def beside_photograph(photo: _Mask) -> _Mask:
    """What lies beside a photograph: where it begins is told by fields, so what there is no mix is its own."""
    return grown(photo, _BESIDE)


def among_unknown(regions: Regions, photo: _Mask, flat: float) -> _Mask:
    """Which regions, by their numbers, are pieces of a photograph: they lie in it, or border on it and on such pieces.
    Large ones of one color are panels beside it."""
    count = len(regions.areas)
    taken = np.zeros(count + 1, dtype=np.bool_)
    panels = regions.large_and_even(flat, photo.size)
    inside = np.bincount(regions.of[photo] + 1, minlength=count + 1)[1:]
    taken[:count] = (inside > regions.areas / 2) & ~panels
    if not count:
        return taken[:count]
    one, other, looked = _borders(regions.of, photo)
    around = np.bincount(one, looked, count)
    for _ in range(_ROUNDS):
        unknown = np.bincount(one, looked * np.where(other < 0, other == -2, taken[other]), count)
        more = (unknown > _UNKNOWN_BORDER * around) & ~panels & ~taken[:count]
        if not more.any():
            break
        taken[:count] |= more
    return taken[:count]


def panels(regions: Regions, colors: Levels) -> _Mask:
    """Where on a photograph, shape (rows, columns, 3), panels lie, such as a strip or a badge, with what stands on
    them: regions of which nearly all is one color, as nothing is that a lens saw. Where it saw the brightest or the
    darkest that there is, that is one color, too, and what coding leaves of a small panel is less so: such are panels
    where they are rectangles."""
    found = np.zeros(regions.of.shape, dtype=np.bool_)
    for number in np.flatnonzero(regions.areas >= _PANEL * regions.of.size):
        places = regions.places(int(number))
        color = np.median(colors.reshape(-1, 3)[places], axis=0)
        off = np.abs(colors.reshape(-1, 3)[places].astype(np.int16) - color).max(axis=1)
        one, nearly = (off <= 1).mean() >= _ONE_COLOR, (off <= 3).mean() >= _NEARLY
        if not (one or nearly):
            continue
        box = regions.box(int(number))
        inside = _without_small_holes(regions.of[box] == number, box, regions.of.shape)
        clipped = color.min() >= _CLIPPED[1] or color.max() <= _CLIPPED[0]
        if (one and not clipped) or inside.mean() >= _RECTANGLE:
            found[box] |= inside
    return grown(found, 1)


def mostly(photo: _Mask, inside: _Mask) -> _Mask:
    """What hangs together inside of a mask and is a photograph in much of it."""
    labels, count = ndimage.label(inside)
    sizes = np.bincount(labels.ravel(), minlength=count + 1)
    much = (np.bincount(labels[photo], minlength=count + 1) >= _MUCH * sizes) & (sizes >= _LEAST_PHOTOGRAPH)
    much[0] = False
    return np.asarray(much[labels])


def night(regions: Regions, colors: Levels, photo: _Mask) -> _Mask:
    """Where beside a photograph, shape (rows, columns), a lens saw nothing: the darkest that there is, which the
    photograph fades into all around it, or most of the way where the outline is that of trees and people; a black panel
    ends at once."""
    found = np.zeros(photo.shape, dtype=np.bool_)
    dark = (regions.areas >= _PANEL * photo.size) & (regions.means.max(axis=1, initial=0) <= _CLIPPED[0])
    for number in np.flatnonzero(dark).tolist():
        box = tuple(slice(max(one.start - _BEYOND, 0), one.stop + _BEYOND) for one in regions.box(number))
        inside = regions.of[box] == number
        around = grown(inside, _BEYOND) & ~inside
        fades = photo[box] & around & (colors[box].max(axis=2) <= _FADING)
        outline = (photo[box] & around).sum() / _BEYOND
        ragged = outline**2 >= _RAGGED * 4 * np.pi * inside.sum()
        if fades.sum() >= (_AGAINST_LIGHT if ragged else _NIGHT) * around.sum():
            found[box] |= inside
    return found


def _without_small_holes(inside: _Mask, box: tuple[slice, slice], shape: tuple[int, ...]) -> _Mask:
    """A mask in a box of a picture of such a shape with its holes filled, such as letters are, also those that the
    picture's edge closes; what is large is another picture in a frame."""
    at_edges = [(one.start == 0, one.stop == size) for one, size in zip(box, shape, strict=True)]
    closed = np.pad(inside, [(int(start), int(end)) for start, end in at_edges], constant_values=True)
    own = tuple(slice(int(start), size + int(start)) for (start, _), size in zip(at_edges, inside.shape, strict=True))
    holes, _ = ndimage.label(ndimage.binary_fill_holes(closed)[own] & ~inside)
    sizes = np.bincount(holes.ravel())
    small = sizes <= _HOLE * inside.sum()
    small[0] = False
    return np.asarray(inside | small[holes])


def _borders(of: Places, photo: _Mask) -> tuple[_Ints, _Ints, _Floats]:
    """Regions, what they border on (another region; -2 for a photograph, -1 for else), and how long that is."""
    beside = np.where(photo & (of < 0), -2, of)
    ones, others = [], []
    for axis in (0, 1):
        for back in (False, True):
            here = of[:-_BEYOND] if axis == 0 else of[:, :-_BEYOND]
            there = beside[_BEYOND:] if axis == 0 else beside[:, _BEYOND:]
            if back:
                here = of[_BEYOND:] if axis == 0 else of[:, _BEYOND:]
                there = beside[:-_BEYOND] if axis == 0 else beside[:, :-_BEYOND]
            differ = (here >= 0) & (here != there)
            ones.append(here[differ])
            others.append(there[differ])
    one, other = np.concatenate(ones).astype(np.int64), np.concatenate(others).astype(np.int64)
    pairs, lengths = np.unique(one * (of.max() + 4) + other + 2, return_counts=True)
    return pairs // (of.max() + 4), pairs % (of.max() + 4) - 2, lengths.astype(np.float64)
