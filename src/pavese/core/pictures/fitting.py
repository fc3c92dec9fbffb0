"""Taking pixels apart: of what around it each is mixed, and with which parts."""

from __future__ import annotations

from dataclasses import dataclass
from functools import reduce
from itertools import combinations, permutations

import numpy as np
import numpy.typing as npt

from pavese.core.pictures.masks import near
from pavese.core.pictures.mixture import GRADIENTS, MOST, NONE, Blended, Floats, Levels, Places, codes_of, colors_of
from pavese.core.pictures.regions import Fineness

_Mask = npt.NDArray[np.bool_]
_Areas = npt.NDArray[np.int16]

#: How far around a pixel what it is mixed of is looked for, in pixels, and how many of these are tried; for mixes of
#: three there is also what most of the picture is.
_REACH, _NEAREST = 4, 5
#: How much nearer in color a mix has to be for it to be preferred to one of nearer things, in levels.
_PREFERRED = 1.5
#: A pixel that is alone in being a paint is a mix where it fits as one so well, and no more of it is one thing.
_CHANCE, _NEARLY = 1.6, 0.97
#: Pixels taken apart at a time; pixels by colors, where each of these is tried.
_AT_ONCE = 100_000
#: Where fewer of some pixels than this are left, only these are looked at.
_FEW_LEFT = 0.7
#: What most of a picture is, is told by so many of its pixels.
_TOLD_BY = 1_000_000
#: Knots of a gradient at most.
_KNOTS = 4
#: What a color counts beside another, in the values of which JPEG keeps lightness finer (ITU-T T.871, section 7).
_TO_YCC = np.array([[0.299, 0.587, 0.114], [-0.1687, -0.3313, 0.5], [0.5, -0.4187, -0.0813]], dtype=np.float32)
#: From this opacity down, values of see-through pixels are coarse.
_FULL = 255
#: How far beyond a paint, away from the one beside it, pixels go where a picture was made smaller or sharper, as a part
#: of the way between the two, and by how many levels such a one may be off; how far where that is clear: the color of
#: thin lines is divided by their alpha there.
_BEYOND, RINGS, _FROM_NOTHING = 0.1, 4.0, 0.17
#: Up to this opacity a pixel is one beside which others may be brighter than their paint, and how far from it.
_SEE_THROUGH, _BESIDE = 240, 3


def _offsets() -> list[tuple[int, int]]:
    around = [(row, column) for row in range(-_REACH, _REACH + 1) for column in range(-_REACH, _REACH + 1)]
    return sorted((at for at in around if at != (0, 0) and at[0] ** 2 + at[1] ** 2 <= _REACH**2), key=_length)


def _length(at: tuple[int, int]) -> tuple[int, int, int]:
    return at[0] ** 2 + at[1] ** 2, *at


_AROUND = _offsets()


@dataclass(frozen=True)
class Fitted:
    """Pixels taken apart, as in `Blended`; which of them `fit`, and which have more than one good answer."""

    places: Places
    of: Places
    parts: Floats
    fits: _Mask
    alone: _Mask

    @property
    def unsure(self) -> int:
        """How many of them fit badly, or only as a mix of three."""
        return int((~self.fits | (self.parts > 0).all(axis=1)).sum())

    def chosen(self, which: _Mask | slice) -> Fitted:
        """Some of them."""
        return Fitted(self.places[which], self.of[which], self.parts[which], self.fits[which], self.alone[which])

    def with_(self, other: Fitted) -> Fitted:
        """Both together."""
        return Fitted(
            np.concatenate([self.places, other.places]),
            np.concatenate([self.of, other.of]),
            np.concatenate([self.parts, other.parts]),
            np.concatenate([self.fits, other.fits]),
            np.concatenate([self.alone, other.alone]),
        )

    def blended(self, exact: bool) -> Blended:
        """As pixels that are mixes. Those near which nothing is known stay as they are."""
        whole = self.chosen(~self.alone)
        return Blended(whole.places, whole.of, whole.parts, whole.rest(exact))

    def rest(self, exact: bool) -> _Mask:
        """Of which pixels what a mix leaves is kept: of all where values are exact, else where it fits badly."""
        return np.full(len(self.places), exact)


def near_places(area: _Areas, places: Places, count: int) -> tuple[_Areas, Places]:
    """The areas nearest to each pixel, and of each the nearest pixel (flat position); shape (count, n), nearest first,
    -1 and 0 where there are fewer."""
    width = area.shape[1] + 2 * _REACH
    rows, columns = np.divmod(places, area.shape[1])
    padded = np.pad(area, _REACH, constant_values=-1).ravel()
    names = np.full((count, len(places)), -1, dtype=np.int16)
    found = np.zeros((count, len(places)), dtype=np.int32)
    # Those that have not enough yet: their numbers, their places, and how many they have.
    open_ = np.arange(len(places))
    at = (rows + _REACH) * width + columns + _REACH
    held, most = np.zeros(len(places), dtype=np.int64), 0
    for down, right in _AROUND:
        there = padded.take(at + (down * width + right))
        new = there >= 0
        if most == count:
            new &= held < count
        for slot in range(most):
            new &= names[slot].take(open_) != there
        hits = np.flatnonzero(new)
        if not len(hits):
            continue
        names[held[hits], open_[hits]] = there[hits]
        found[held[hits], open_[hits]] = places[open_[hits]] + (down * area.shape[1] + right)
        held[hits] += 1
        most = max(most, int(held[hits].max()))
        left = held < count
        if np.count_nonzero(left) < _FEW_LEFT * len(left):
            open_, at, held = open_[left], at[left], held[left]
    return names, found


def within_reach(where: _Mask, places: Places) -> _Mask:
    """Which of some pixels (flat positions) are near enough to others to be mixed of them."""
    return near(where, _REACH, places)


def best_mixes(
    flat: Levels, area: _Areas, places: Places, fits: float, how: Fineness, alpha: npt.NDArray[np.uint8] | None
) -> Fitted:
    """Takes pixels (flat positions) of a picture, `flat` (n, 3), apart into what stands near them, by the `area` to
    which each pixel belongs (-1: to none). A mix fits that is off by so many levels, more where a pixel is
    see-through by its `alpha` (n,)."""
    reached = within_reach(area >= 0, places)
    nothing = np.zeros((len(places), MOST), dtype=np.int32)
    unknown = Fitted(places, nothing, nothing.astype(np.float32), nothing[:, 0] > 0, nothing[:, 0] == 0)
    if not reached.any():
        return unknown
    found = [unknown.chosen(~reached)]
    ground = _commonest(area)
    within = places[reached]
    clear = np.zeros(len(within), dtype=np.bool_)
    if alpha is not None:
        clear = near((alpha < _SEE_THROUGH).reshape(area.shape), _BESIDE, within)
    for start in range(0, len(within), _AT_ONCE):
        some = within[start : start + _AT_ONCE]
        limit = _limits(fits, some, alpha)
        names, spots = near_places(area, some, _NEAREST)
        veiled = clear[start : start + _AT_ONCE]
        found.append(_taken_apart(flat, some, names, spots, ground, limit, veiled, how))
    return reduce(Fitted.with_, found)


def _commonest(area: _Areas) -> int:
    """Where something is (a flat position) to which most of a picture belongs, by some of its pixels."""
    every = max(area.size // _TOLD_BY, 1)
    some = area.ravel()[::every]
    counts = np.bincount(some[some >= 0], minlength=1)
    return int(np.argmax(some == counts.argmax())) * every


def mixed_by_chance(flat: Levels, area: _Areas, how: Fineness, alpha: npt.NDArray[np.uint8] | None) -> Fitted:
    """The pixels that are alone in being a paint, and as well a mix of what is around them, taken apart as in
    `best_mixes`. They are taken out of `area` (rows, columns)."""
    doubtful = _alone(area)
    was = area.ravel()[doubtful]
    area.ravel()[doubtful] = NONE
    fitted = best_mixes(flat, area, doubtful, _CHANCE, how, alpha)
    mixed = fitted.fits & (fitted.parts.max(axis=1) < _NEARLY)
    area.ravel()[doubtful[~mixed]] = was[~mixed]
    return fitted.chosen(mixed)


def of_usual_pairs(of: npt.NDArray[np.int32], few: int) -> int:
    """How many of some mixes, by their paints, shape (n, 2 or more), are of the so many usual pairs."""
    pairs = np.sort(of[:, :2].astype(np.int64), axis=1)
    counts = np.unique(pairs[:, 0] << 32 | pairs[:, 1], return_counts=True)[1]
    return int(np.sort(counts)[-few:].sum())


def _alone(area: _Areas) -> Places:
    """The pixels that belong to a paint, and none around them does (flat positions)."""
    padded = np.pad(area, 1, constant_values=NONE)
    rows, columns = area.shape
    company = np.zeros(area.shape, dtype=np.bool_)
    for down in range(3):
        for right in range(3):
            if (down, right) != (1, 1):
                company |= padded[down : down + rows, right : right + columns] == area
    return np.flatnonzero((area >= 0) & (area < GRADIENTS) & ~company).astype(np.int32)


def _limits(fits: float, places: Places, alpha: npt.NDArray[np.uint8] | None) -> Floats:
    """By how many levels a mix may be off at some pixels: the color of one that is see-through was rounded when it was
    multiplied by its alpha."""
    limit = np.full(len(places), fits, dtype=np.float32)
    return limit if alpha is None else limit * np.clip(_FULL / np.maximum(alpha[places], 1), 1, 8).astype(np.float32)


def seen_as(colors: npt.NDArray[np.generic], how: Fineness) -> Floats:
    """Colors (n, 3) as values in which a difference counts as it should."""
    values = colors.astype(np.float32)
    if how.chroma == 1:
        return values
    return np.asarray(values @ (_TO_YCC * np.array([[1.0], [how.chroma], [how.chroma]], dtype=np.float32)).T)


def _taken_apart(
    flat: Levels,
    places: Places,
    names: _Areas,
    near: Places,
    ground: int,
    limit: Floats,
    clear: _Mask,
    how: Fineness,
) -> Fitted:
    own = seen_as(flat[places], how)
    around = [seen_as(flat[one], how) for one in near]
    of = np.zeros((len(places), MOST), dtype=np.int32)
    parts = np.zeros((len(places), MOST), dtype=np.float32)
    of[:, 0], parts[:, 0] = near[0], 1
    alone = names[0] < 0
    # What is near is enough where its color is the pixel's own.
    miss = np.where(alone, np.inf, np.linalg.norm(own - around[0], axis=1))
    for one, other in sorted(combinations(range(_NEAREST), 2), key=sum):
        rows = np.flatnonzero((names[other] >= 0) & (miss > _PREFERRED))
        start = around[one][rows]
        way, there = around[other][rows] - start, own[rows] - start
        part, length = _along(there, way)
        if how.noise:
            edge = how.noise / np.sqrt(length)
            part = np.where(part < edge, 0, np.where(part > 1 - edge, 1, part))
        off = np.linalg.norm(there - part[:, None] * way, axis=1)
        better = off < miss[rows] - _PREFERRED
        rows, part = rows[better], part[better]
        miss[rows] = off[better]
        of[rows, 0], of[rows, 1] = near[one][rows], near[other][rows]
        parts[rows, 0], parts[rows, 1] = 1 - part, part
    if how.exact:
        _take_rings(own, around, names, near, clear, limit, (miss, of, parts))
    # Mixes of three where none of two fits.
    open_ = np.flatnonzero((miss > (2 * _PREFERRED if how.exact else limit)) & (names[1] >= 0))
    if len(open_):
        spots = np.column_stack([*(one[open_] for one in near), np.full(len(open_), ground, dtype=np.int32)])
        there_ = np.column_stack([*(one[open_] >= 0 for one in names), np.ones(len(open_), dtype=np.bool_)])
        colors = [*(one[open_] for one in around), np.broadcast_to(seen_as(flat[[ground]], how), (len(open_), 3))]
        for trio in sorted(combinations(range(_NEAREST + 1), 3), key=sum):
            held = np.flatnonzero(there_[:, trio].all(axis=1) & (miss[open_] > _PREFERRED))
            if len(held):
                share, off = _of_three(own[open_[held]], *(colors[one][held] for one in trio))
                better = off < miss[open_[held]] - _PREFERRED
                rows = open_[held[better]]
                miss[rows], parts[rows] = off[better], share[better]
                of[rows] = spots[held[better]][:, trio]
    return Fitted(places, of, parts, (miss <= limit) & ~alone, alone)


def _take_rings(
    own: Floats,
    around: list[Floats],
    names: _Areas,
    near: Places,
    clear: _Mask,
    limit: Floats,
    answers: tuple[Floats, Places, Floats],
) -> None:
    """Takes pixels that no mix fits as what filters leave beside edges: a little more of a paint than there is, and so
    much less of the one across the edge, or of nothing where that is clear."""
    miss, of, parts = answers
    for one, other in sorted(permutations(range(_NEAREST), 2), key=sum):
        rows = np.flatnonzero((names[max(one, other)] >= 0) & (miss > limit))
        more, off = beyond(own[rows], around[one][rows], around[other][rows])
        better = off <= RINGS
        rows, more = rows[better], more[better]
        miss[rows] = off[better]
        of[rows, 0], of[rows, 1], of[rows, 2] = near[one][rows], near[other][rows], 0
        parts[rows, 0], parts[rows, 1], parts[rows, 2] = 1 + more, -more, 0
    rows = np.flatnonzero(clear & (names[0] >= 0) & (miss > limit))
    more, off = beyond(own[rows], around[0][rows], None)
    better = off <= RINGS
    rows = rows[better]
    miss[rows], of[rows, 0] = off[better], near[0][rows]
    of[rows, 1:], parts[rows, 1:], parts[rows, 0] = 0, 0, 1 + more[better]


def beyond(own: Floats, paint: Floats, other: Floats | None) -> tuple[Floats, Floats]:
    """How far colors lie beyond a paint, away from another or from nothing (None), as parts of the way between the
    two, shapes (n, 3); and by how many levels they are off that. What is as dark or as bright as can be would lie
    farther."""
    way = paint if other is None else paint - other
    most = _FROM_NOTHING if other is None else _BEYOND
    told = ((own > 0) & (own < _FULL)) * way
    length = np.maximum(np.einsum("ij,ij->i", told, way), 1e-6)
    part = np.clip(np.einsum("ij,ij->i", own - paint, told) / length, 0, most).astype(np.float32)
    return part, np.linalg.norm(own - np.clip(paint + part[:, None] * way, 0, _FULL), axis=1)


def _along(there: Floats, way: Floats) -> tuple[Floats, Floats]:
    """How far along a way colors lie that are so far from its beginning (0 to 1), each on a way of its own, shapes
    (n, 3); and the squared lengths of these."""
    length = np.maximum(np.einsum("ij,ij->i", way, way), 1e-6)
    return np.clip(np.einsum("ij,ij->i", there, way) / length, 0, 1), length


def _of_three(own: Floats, first: Floats, second: Floats, third: Floats) -> tuple[Floats, Floats]:
    """The parts of three colors of which others are mixed, and by how much these miss; beyond reach where one would be
    less than nothing."""
    one, two, there = second - first, third - first, own - first
    a, b, c = (np.einsum("ij,ij->i", *pair) for pair in ((one, one), (one, two), (two, two)))
    p, q = np.einsum("ij,ij->i", one, there), np.einsum("ij,ij->i", two, there)
    size = a * c - b * b
    flat = size < 1e-3 * np.maximum(a * c, 1)
    size = np.where(flat, 1, size)
    u, v = (c * p - b * q) / size, (a * q - b * p) / size
    off = np.linalg.norm(there - u[:, None] * one - v[:, None] * two, axis=1)
    parts = np.column_stack([1 - u - v, u, v]).astype(np.float32)
    return parts, np.where(flat | (parts < 0).any(axis=1), np.inf, off)


def explained(own: Floats, ground: Floats, colors: Floats, how: Fineness) -> _Mask:
    """Which pixels (n, 3) are mixes of their ground (n, 3) and each of some colors (m, 3), shape (m, n): those that are
    not far from the way between the two."""
    found = np.empty((len(colors), len(own)), dtype=np.bool_)
    # So many at a time that all of it stays near the processor.
    step = max(_AT_ONCE // max(len(colors), 1), 1)
    for start in range(0, len(own), step):
        some = slice(start, start + step)
        found[:, some] = _near_ways(own[some], ground[some], colors, how.fits)
    return found


def _near_ways(own: Floats, ground: Floats, colors: Floats, fits: float) -> _Mask:
    """Which colors are so near to the ways between, as `explained` says it, by the products of what lies on them."""
    start, to = ground.astype(np.float64), colors.astype(np.float64)
    there = own - start
    off = np.einsum("ij,ij->i", there, there)
    way = np.einsum("ij,ij->i", start, start) - 2 * to @ start.T + np.einsum("ij,ij->i", to, to)[:, None]
    along = to @ there.T - np.einsum("ij,ij->i", there, start)
    part = np.clip(along / np.maximum(way, 1e-6), 0, 1)
    return np.asarray(off + part * (part * way - 2 * along) <= fits**2)


def knots_of(colors: Levels, some: Levels, how: Fineness) -> Levels | None:
    """The two to four colors between which those of a gradient (n, 3) lie; one where they hardly differ, and None where
    they lie about otherwise. Its ends are looked for among all, the rest by `some` of them."""
    values = some.astype(np.float32)
    middle = np.median(values, axis=0)
    low, high = np.percentile(values, (2, 98), axis=0)
    if (high - low).max() <= 2 * how.fits / (1 if how.exact else 4):
        return np.rint(middle).astype(np.uint8)[None]
    centered = values - values.mean(axis=0)
    axis = np.linalg.svd(centered.T @ centered)[0][:, 0]
    if how.exact:
        ends = colors[[*_ends(colors.astype(np.float32) @ axis)]].astype(np.float32)
    else:
        few = max(len(values) // 100, 1)
        order = np.argsort(centered @ axis, kind="stable")
        ends = np.stack([values[order[:few]].mean(axis=0), values[order[-few:]].mean(axis=0)])
    knots = ends
    while True:
        _, _, off = on_knots(values, knots)
        if np.percentile(off, 97) <= (how.fits if how.exact else how.fits / 3):
            return np.rint(knots).astype(np.uint8)
        if len(knots) == _KNOTS:
            return None
        farthest = values[int(off.argmax())]
        # A knot stands between those along the way from one end to the other.
        knots = np.vstack([knots, farthest])
        knots = knots[np.argsort((knots - values.mean(axis=0)) @ axis, kind="stable")]


def _ends(along: Floats) -> tuple[int, int]:
    return int(along.argmin()), int(along.argmax())


def between(colors: Levels, paints: Levels, main: npt.NDArray[np.int64], places: Places) -> tuple[Blended, Floats]:
    """Pixels (n, 3) as mixes of two of some paints, by their numbers, wherever these stand; and by how many levels each
    is off."""
    # Many pixels have few colors.
    codes, at = np.unique(codes_of(colors), return_inverse=True)
    values, known = colors_of(codes).astype(np.float32), paints[main].astype(np.float32)
    of = np.zeros((len(values), MOST), dtype=np.int32)
    parts = np.zeros((len(values), MOST), dtype=np.float32)
    miss = np.full(len(values), np.inf, dtype=np.float32)
    for one, other in combinations(range(len(main)), 2):
        way = known[other] - known[one]
        part = np.clip((values - known[one]) @ way / max(float(way @ way), 1e-6), 0, 1)
        off = np.linalg.norm(values - known[one] - part[:, None] * way, axis=1)
        better = off < miss
        miss = np.where(better, off, miss)
        of[better, :2] = main[one], main[other]
        parts[better, 0], parts[better, 1] = 1 - part[better], part[better]
    return Blended(places, of[at], parts[at], np.ones(len(at), dtype=np.bool_)), miss[at]


def on_knots(values: Floats, knots: Floats) -> tuple[npt.NDArray[np.int64], Floats, Floats]:
    """On which stretch between two knots each color lies nearest (its number), how far along it (0 to 1), and how far
    from it."""
    starts, ways = knots[:-1], np.diff(knots, axis=0)
    offs, parts = [], []
    for start, way in zip(starts, ways, strict=True):
        part = np.clip((values - start) @ way / max(float(way @ way), 1e-6), 0, 1)
        parts.append(part)
        offs.append(np.linalg.norm(values - start - part[:, None] * way, axis=1))
    stretch = np.argmin(np.stack(offs), axis=0)
    rows = np.arange(len(values))
    return stretch, np.stack(parts)[stretch, rows].astype(np.float32), np.stack(offs)[stretch, rows].astype(np.float32)


def blend_of(colors: Levels, paints: Levels, named: list[int], places: Places) -> Blended:
    """Pixels of a gradient as mixes of its knots, by their numbers among the paints."""
    of = np.zeros((len(places), MOST), dtype=np.int32)
    parts = np.zeros((len(places), MOST), dtype=np.float32)
    numbers = np.array(named, dtype=np.int32)
    if len(named) == 1:
        of[:, 0], parts[:, 0] = numbers[0], 1
    else:
        stretch, part, _ = on_knots(colors.astype(np.float32), paints[numbers].astype(np.float32))
        of[:, 0], of[:, 1] = numbers[stretch], numbers[stretch + 1]
        parts[:, 0], parts[:, 1] = 1 - part, part
    return Blended(places, of, parts, np.ones(len(places), dtype=np.bool_))


def with_far(
    flat: Levels,
    fitted: Fitted,
    area: _Areas,
    paints: Levels,
    spots: Places,
    fits: float,
    how: Fineness,
    alpha: npt.NDArray[np.uint8] | None,
) -> Fitted:
    """Pixels taken apart anew into what is nearest to each and one of some paints of the picture, wherever these stand:
    `paints` (n, 3) and a pixel of each, `spots` (n,). Where that fits (as in `best_mixes`) and better than before, it
    is taken."""
    if not len(paints):
        return fitted
    found = [
        _with_far(flat, some, area, paints, spots, _limits(fits, some.places, alpha), how)
        for some in (fitted.chosen(slice(start, start + _AT_ONCE)) for start in range(0, len(fitted.places), _AT_ONCE))
    ]
    return reduce(Fitted.with_, found) if found else fitted


def _with_far(
    flat: Levels, fitted: Fitted, area: _Areas, paints: Levels, spots: Places, limit: Floats, how: Fineness
) -> Fitted:
    names, near = near_places(area, fitted.places, 1)
    own, known = seen_as(flat[fitted.places], how), seen_as(paints, how)
    # What is too far from everything stands on the paint that it looks most like.
    alike = np.linalg.norm(own[:, None] - known[None], axis=2).argmin(axis=1)
    first = np.where(names[0] >= 0, near[0], spots[alike]).astype(np.int32)
    ground = np.where(names[0][:, None] >= 0, seen_as(flat[first], how), known[alike])
    of, parts = fitted.of.copy(), fitted.parts.copy()
    miss = np.where(fitted.fits, -np.inf, limit)
    for number, paint in enumerate(known):
        way = paint - ground
        part, _ = _along(own - ground, way)
        off = np.linalg.norm(own - ground - part[:, None] * way, axis=1)
        better = off < miss
        miss = np.where(better, off, miss)
        of[better] = np.stack([first[better], np.full(better.sum(), spots[number]), np.zeros(better.sum())], axis=1)
        parts[better] = np.stack([1 - part[better], part[better], np.zeros(better.sum())], axis=1)
    if how.exact:
        # Thin lines are all ring where they are far from what is wide.
        more, off = beyond(own, known[alike], None)
        rings = np.flatnonzero((miss >= limit) & (off <= RINGS))
        miss[rings], of[rings], parts[rings] = off[rings], 0, 0
        of[rings, 0], parts[rings, 0] = spots[alike[rings]], 1 + more[rings]
    taken = (miss < limit) & np.isfinite(miss)
    return Fitted(fitted.places, of, parts, fitted.fits | taken, fitted.alone & ~taken)
