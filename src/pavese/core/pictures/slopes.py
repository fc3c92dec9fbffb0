"""How gradients run over a picture: by a polynomial of the place."""

from __future__ import annotations

from math import gcd

import numpy as np
import numpy.typing as npt

from pavese.core.pictures.fitting import on_knots
from pavese.core.pictures.mixture import GRADIENTS, Levels, Places, levels_apart

_Floats = npt.NDArray[np.float64]
_Mask = npt.NDArray[np.bool_]
_Ints = npt.NDArray[np.signedinteger]
_Areas = npt.NDArray[np.int16]
_Span = tuple[int, int]

#: By how many levels, and by which part of its range, a gradient may run unevenly.
_UNEVEN = (2.0, 0.05)
#: The degree that most have, and one that comes near to the tip of a cone; the lower one goes on better where nothing
#: told it.
_SIMPLE, _FINE = 3, 6
#: By how many levels, on an average, what goes on beyond lines may run unevenly.
_EVEN = 2.0
#: A paint is a piece of a gradient where so much of it is what that would be there.
_MOST_OF_IT = 0.8
#: How far apart the directions are in which a straight gradient is looked for, in degrees, more closely each time round
#: the best; the stretches it is looked at by, each of so many pixels; and by how many levels pixels beside each other
#: may differ, on an average.
_TURNS, _STRETCHES, _ON_A_STRETCH, _STRAIGHT = (5.0, 1.0, 0.2), 256, 12, 2.5
#: How many colors a straight gradient runs through at most, and by how many levels it may miss the ways between.
_STOPS, _OFF_WAY = 10, 4.0
#: Pixels by which it is told how one runs, and those that are looked at together.
_TOLD_BY, _AT_ONCE = 3000, 200_000


def some_of(places: Places, area: _Areas) -> Places:
    """Some of these places (flat positions) of a picture, shape (rows, columns), so that they stand in all columns."""
    each = max(len(places) // _TOLD_BY, 1)
    while gcd(each, area.shape[1]) > 1:
        each += 1
    return places[::each]


def is_smooth(colors: Levels, rows: Places, columns: Places) -> bool:
    """Whether colors (n, 3) that stand at rows and columns run as a gradient does that was drawn, and not as light does
    on things."""
    values = colors.astype(np.float64)
    middle = values.mean(axis=0)
    axis = np.linalg.svd((values - middle).T @ (values - middle))[0][:, 0]
    along = (values - middle) @ axis
    terms = _terms(rows, columns, _box(rows, columns), _SIMPLE)
    off = float(np.sqrt(np.mean((along - terms @ _answer(terms, along)) ** 2)))
    return off <= _UNEVEN[0] + _UNEVEN[1] * float(np.ptp(along))


def straight(flat: Levels, places: Places, area: _Areas) -> Levels | None:
    """The colors through which a gradient runs one way, one after the other, at some places (flat positions) of a
    picture, `flat` (n, 3), shape (m, 3); None where it is none, or has too many. It is told by some of these, and its
    ends by all."""
    width, some = area.shape[1], some_of(places, area)
    values = flat[some].astype(np.float64)
    if len(values) < 2 * _ON_A_STRETCH:
        return None
    rows, columns = np.divmod(some, width)
    uneven, turned, around = np.inf, 0.0, 90.0
    for step in _TURNS:
        near = np.arange(turned - around, turned + around, step).tolist()
        uneven, turned = min((_uneven(values, _turned(rows, columns, one)), one) for one in near)
        around = step
    if uneven > _STRAIGHT:
        return None
    at, means = _stretches(values, _turned(rows, columns, turned))
    way = _turned(*np.divmod(places, width), turned)
    path = means[np.unique(at)].astype(np.float32)
    path[0], path[-1] = flat[places[way.argmin()]], flat[places[way.argmax()]]
    stops = _stops(path, 0, len(path) - 1)
    return np.rint(path[stops]).astype(np.uint8) if len(stops) <= _STOPS else None


def _turned(rows: Places, columns: Places, degrees: float) -> _Floats:
    """How far along a direction places lie."""
    angle = np.radians(degrees)
    return np.asarray(columns * np.cos(angle) + rows * np.sin(angle))


def _stretches(values: _Floats, way: _Floats) -> tuple[_Ints, _Floats]:
    """On which stretch of a way each of some values (n, 3) lies, and the mean of each stretch."""
    count = min(_STRETCHES, len(values) // _ON_A_STRETCH)
    at = np.rint((way - way.min()) / max(float(np.ptp(way)), 1e-9) * (count - 1)).astype(np.int64)
    sums = np.stack([np.bincount(at, channel, count) for channel in values.T], axis=1)
    return at, sums / np.maximum(np.bincount(at, minlength=count), 1)[:, None]


def _uneven(values: _Floats, way: _Floats) -> float:
    """By how many levels values differ on a stretch of a way, on an average."""
    at, means = _stretches(values, way)
    return float(np.sqrt(np.mean((values - means[at]) ** 2)))


def _stops(path: npt.NDArray[np.float32], first: int, last: int) -> list[int]:
    """Which colors of a path (n, 3) it is straight between, as Douglas and Peucker find them (1973)."""
    _, _, off = on_knots(path[first : last + 1], path[[first, last]])
    farthest = first + int(off.argmax())
    if off.max() <= _OFF_WAY or last - first < 2:
        return [first, last]
    return [*_stops(path, first, farthest)[:-1], *_stops(path, farthest, last)]


def goes_on(colors: Levels, area: _Areas, seen: _Mask, places: Places, near: float) -> Places:
    """Where else in its box a gradient at some places (flat positions) of a picture, shape (rows, columns, 3), goes on:
    at pixels that are `seen` and off by so many levels at most from what it would be there. Lines part what lies
    between them from a ground, and it is still that ground. By its `area` such a pixel belongs to nothing yet, or to a
    paint that is hardly found where the gradient is not."""
    rows, columns = np.divmod(places, area.shape[1])
    (top, bottom), (left, right) = box = _box(rows, columns)
    down, across = np.divmod(some_of(places, area), area.shape[1])
    own = colors[down, across].astype(np.float64)
    for degree in (_SIMPLE, _FINE):
        terms = _terms(down, across, box, degree)
        answer = _answer(terms, own)
        if np.abs(terms @ answer - own).max(axis=1).mean() <= _EVEN:
            break
    else:
        return places[:0]
    inside = np.s_[top : bottom + 1, left : right + 1]
    other = (area[inside] < GRADIENTS) & seen[inside]
    other[rows - top, columns - left] = False
    down, across = np.nonzero(other)
    down, across = down + top, across + left
    kept = np.zeros(len(down), dtype=np.bool_)
    for start in range(0, len(down), _AT_ONCE):
        part = slice(start, start + _AT_ONCE)
        told = np.clip(np.rint(_terms(down[part], across[part], box, degree) @ answer), 0, 255).astype(np.uint8)
        kept[part] = levels_apart(colors[down[part], across[part]], told) <= near
    names = area[down[kept], across[kept]].astype(np.int64)
    count = int(area[area < GRADIENTS].max(initial=-1)) + 1
    # Paints are told by their codes so far, also where they are a band of the gradient itself.
    here = _counted(names, count) + _counted(area[rows, columns], count)
    pieces = np.append(here >= _MOST_OF_IT * _counted(area, count), True)
    found = down[kept] * area.shape[1] + across[kept]
    return np.asarray(found[pieces[names]], dtype=np.int32)


def _counted(names: _Ints, count: int) -> _Ints:
    """How often each of so many paints is among some areas."""
    return np.bincount(names[(names >= 0) & (names < count)].ravel(), minlength=count)


def _box(rows: Places, columns: Places) -> tuple[_Span, _Span]:
    return (int(rows.min()), int(rows.max())), (int(columns.min()), int(columns.max()))


def _terms(rows: _Ints, columns: _Ints, box: tuple[_Span, _Span], degree: int) -> _Floats:
    """What a polynomial is a sum of at some places in a box, shape (n, terms)."""
    y, x = (
        np.vander(np.interp(one, (low, max(high, low + 1)), (-1, 1)), degree + 1, increasing=True).T
        for one, (low, high) in zip((rows, columns), box, strict=True)
    )
    return np.stack(
        [x[across] * y[down] for across in range(degree + 1) for down in range(degree + 1 - across)], axis=1
    )


def _answer(terms: _Floats, values: _Floats) -> _Floats:
    return np.asarray(np.linalg.lstsq(terms, values, rcond=None)[0])
