"""Large pictures, taken apart by small ones of themselves.

Of which paints a picture is mixed, and what in it is a photograph, is told by one that is so many times smaller, each
pixel the mean of a square. With that known, its own pixels are taken apart a few rows at a time, as in `unmix`: what is
a paint is told by its color, what runs between paints by where it lies between them, and edges by what is near them.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import cached_property
from typing import Any, NamedTuple, TypeVar

import numpy as np
import numpy.typing as npt
from PIL import Image

from pavese.core.pictures.fitting import best_mixes, mixed_by_chance
from pavese.core.pictures.masks import grown, shrunk
from pavese.core.pictures.mixture import GRADIENTS, NONE, OTHER, Blended, Levels, Mixture, codes_of, levels_apart
from pavese.core.pictures.regions import Fineness, beside_photograph, spread

_Mask = npt.NDArray[np.bool_]
_Value = TypeVar("_Value", bound="np.generic[Any]")

#: Pixels of a small picture at most, and of the rows that are taken apart at a time.
SMALL, _AT_ONCE = 8_000_000, 2_000_000
#: Rows that are looked at beyond those that are taken apart: mixes are looked for as far.
_BEYOND = 12
#: By how many levels pixels differ that are an edge; within how many one is the same, and of how many it may not be so.
_EDGE, _SAME, _FEW = 24, 20, 0.03
#: Side of the blocks in which what is lost is counted, pixels of edges that one has at least, which part of them is
#: lost in a sharp one (where a picture would be halved once, and again), and how many may be sharp.
_BLOCK, _SOME, _SHARP, _FEW_BLOCKS = 16, 12, (0.5, 0.3), 2
#: Pixels of the smallest that is looked at for it: smaller ones show little but edges.
_LEAST = 60_000


def made_small(pixels: Levels, most: int, *, exact_colors: bool = False) -> tuple[Levels, int]:
    """A picture, shape (rows, columns, 3) or with alpha, as one with no more than so many pixels, and how many times
    smaller it is: by means, or with `exact_colors` by one of so many pixels."""
    rows, columns = pixels.shape[:2]
    by = 1
    while -(-rows // by) * -(-columns // by) > most:
        by += 1
    if exact_colors:
        return np.ascontiguousarray(pixels[::by, ::by]), by
    each = max(_AT_ONCE // (columns * by), 1) * by
    strips = [np.asarray(Image.fromarray(pixels[top : top + each]).reduce(by)) for top in range(0, rows, each)]
    return np.concatenate(strips), by


def smaller(pixels: Levels, by: int) -> Levels:
    """A picture, shape (rows, columns, 3) or with alpha, so many times smaller, by means."""
    return pixels if by == 1 else np.asarray(Image.fromarray(np.ascontiguousarray(pixels)).reduce(by))


def made_larger_by(pixels: Levels) -> int:
    """How many times smaller a picture, shape (rows, columns, 3) or with alpha, can be and hold as much, since it was
    made larger before: a power of two, 1 where it was not."""
    small, by = pixels, 1
    while small.shape[0] * small.shape[1] > _LEAST and is_made_larger(small, again=by > 1):
        by *= 2
        small = smaller(pixels, by)
    return by


def is_made_larger(pixels: Levels, *, again: bool = False) -> bool:
    """Whether a picture, shape (rows, columns, 3) or with alpha, holds no more than one of half its size does: it was
    made larger, or is blurred, and has no line and no edge as sharp as its pixels are. Small lettering on a soft
    photograph is sharp in a few places only; where it would be halved `again`, in none."""
    # Pairs stay pairs from the first to the last, so that nothing is shifted or stretched.
    rows, columns = (size // 2 * 2 for size in pixels.shape[:2])
    edges, lost, sharp = 0, 0, 0
    for top in range(0, rows, each := max(_AT_ONCE // columns // 2 * 2, 4 * _BEYOND)):
        some = Image.fromarray(np.ascontiguousarray(pixels[top : min(top + each, rows), :columns, :3]))
        blurred = np.asarray(some.reduce(2).resize(some.size, Image.Resampling.BICUBIC))
        off = levels_apart(blurred, np.asarray(some))
        # Where rows were cut, there is nothing beyond to go by.
        own = np.s_[_BEYOND:-_BEYOND]
        edge = spread(np.asarray(some))[own] > _EDGE
        gone = edge & (off[own] > _SAME)
        edges += int(edge.sum())
        lost += int(gone.sum())
        held, missed = _by_blocks(edge), _by_blocks(gone)
        sharp += int(((held >= _SOME) & (missed >= _SHARP[again] * held)).sum())
        if sharp > (0 if again else _FEW_BLOCKS):
            return False
    return edges > 0 and lost <= _FEW * edges


def _by_blocks(mask: _Mask) -> npt.NDArray[np.int64]:
    """How many pixels of each whole block are of a mask."""
    rows, columns = (size // _BLOCK for size in mask.shape)
    whole = mask[: rows * _BLOCK, : columns * _BLOCK]
    return np.asarray(whole.reshape(rows, _BLOCK, columns, _BLOCK).sum(axis=(1, 3)))


class Strip(NamedTuple):
    """Some rows of a large picture (from `top` on) as they came and with other paints, shape (rows, columns, 3), and
    what of them is a photograph, shape (rows, columns)."""

    top: int
    before: Levels
    after: Levels
    photograph: _Mask


class _Band(NamedTuple):
    """Rows that are taken apart at a time, from `top` to `bottom`, and those that are looked at for it, from `first` to
    `end`."""

    top: int
    bottom: int
    first: int
    end: int


def _bands(rows: int, columns: int) -> Iterator[_Band]:
    each = max(_AT_ONCE // columns, 1)
    for top in range(0, rows, each):
        bottom = min(top + each, rows)
        yield _Band(top, bottom, max(top - _BEYOND, 0), min(bottom + _BEYOND, rows))


class LargeMixture:
    """What is known of a large picture by the mixture of a small one, that is `by` times smaller."""

    def __init__(self, told: Mixture, by: int, how: Fineness) -> None:
        self._told, self._by, self._how = told, by, how
        self._unknown = ~told.known

    @cached_property
    def _runs(self) -> npt.NDArray[np.int32]:
        """The mix that each pixel of the small picture is in which paints run into each other; -1 for none."""
        found = np.full(self._told.at.shape, -1, dtype=np.int32)
        found.ravel()[self._told.shades.places] = np.arange(len(self._told.shades.places), dtype=np.int32)
        return found

    @cached_property
    def _fringes(self) -> tuple[npt.NDArray[np.int32], Blended]:
        """The mixes of the small picture between areas of paints: that each pixel is in, -1 for none; and what each is
        mixed of, told as paints."""
        edges = self._told.edges
        of = self._told.at.ravel()[edges.of].astype(np.int32)
        paints = np.flatnonzero(((of != OTHER) | (edges.parts == 0)).all(axis=1))
        found = np.full(self._told.at.shape, -1, dtype=np.int32)
        found.ravel()[edges.places[paints]] = np.arange(len(paints), dtype=np.int32)
        of = np.where(edges.parts[paints] == 0, 0, of[paints])
        return found, Blended(edges.places[paints], of, edges.parts[paints], edges.rest[paints])

    @cached_property
    def _photo(self) -> tuple[_Mask, _Mask]:
        """What of the small picture is a photograph for certain, and what may be a part of one."""
        return shrunk(self._unknown, 1), grown(self._unknown, 1)

    @cached_property
    def _numbers(self) -> npt.NDArray[np.int16]:
        """The paint that each color is, by its code."""
        table = np.full(1 << 24, NONE, dtype=np.int16)
        table[codes_of(self._told.paints)] = np.arange(len(self._told.paints), dtype=np.int16)
        return table

    def strips(self, pixels: Levels, targets: Levels) -> Iterator[Strip]:
        """The picture, shape (rows, columns, 3) or with alpha, a few rows after another. They may be written to it as
        they come."""
        same = len(targets) == 0 or bool((targets == self._told.paints).all())
        before = pixels[:0].copy()
        for band in _bands(*pixels.shape[:2]):
            # Those above have been written to since.
            seen = np.concatenate([before, pixels[band.top : band.end]])
            own = slice(band.top - band.first, band.bottom - band.first)
            colors = np.ascontiguousarray(seen[..., :3])
            photo = self._at(self._photo[1], band.first, seen.shape)
            after = colors
            if not same or (photo.any() and len(targets)):
                mixture = self._mixture(seen, band.first)
                photo &= ~mixture.known
                after = colors if same else mixture.exchanged(colors, targets)
            yield Strip(band.top, colors[own], after[own], photo[own])
            before = seen[max(own.stop - _BEYOND, 0) : own.stop]

    def whole(self, pixels: Levels) -> Mixture:
        """The mixture that all of the picture is, shape (rows, columns, 3) or with alpha."""
        rows, columns = pixels.shape[:2]
        if not len(self._told.paints):
            return Mixture.nothing((rows, columns))
        at: list[Levels] = []
        shades: list[Blended] = []
        edges: list[Blended] = []
        for top, bottom, first, end in _bands(rows, columns):
            strip = self._mixture(pixels[first:end], first)
            own = slice((top - first) * columns, (bottom - first) * columns)
            at.append(strip.at[top - first : bottom - first])
            for mixes, found, moved in ((strip.shades, shades, False), (strip.edges, edges, True)):
                found.append(_within(mixes, own, first * columns, moved=moved))
        told = self._told
        return Mixture(
            told.paints, np.concatenate(at), Blended.joined(shades), Blended.joined(edges), told.soft, told.unsure
        )

    def _at(self, small: npt.NDArray[_Value], top: int, shape: tuple[int, ...]) -> npt.NDArray[_Value]:
        """What is told of pixels of the small picture, of those of some rows of the large one."""
        down = np.minimum((top + np.arange(shape[0])) // self._by, small.shape[0] - 1)
        across = np.minimum(np.arange(shape[1]) // self._by, small.shape[1] - 1)
        return np.asarray(small.take(down, axis=0).take(across, axis=1))

    def _mixture(self, pixels: Levels, top: int) -> Mixture:
        """The mixture that some rows of it are, with those beyond them."""
        how, paints = self._how, self._told.paints
        colors = np.ascontiguousarray(pixels[..., :3])
        flat, shape = colors.reshape(-1, 3), pixels.shape[:2]
        alpha = pixels[..., 3].ravel() if pixels.shape[2] == 4 else None
        photo = self._at(self._photo[0], top, shape).ravel()
        name = (
            self._numbers[codes_of(flat)]
            if how.exact
            else self._near(flat, self._at(self._told.at, top, shape).ravel())
        )
        run = self._at(self._runs, top, shape).ravel()
        name[photo] = NONE
        running = np.flatnonzero((run >= 0) & ~photo & (name < 0)).astype(np.int32)
        shades = _along(flat, running, self._told.shades, run[running], paints)
        name[running] = GRADIENTS
        area = name.reshape(shape)
        by_chance = mixed_by_chance(flat, area, how, alpha).blended(exact=True) if how.exact else Blended.none()
        open_ = (area.ravel() < 0) & ~photo
        open_[by_chance.places] = False
        fitted = best_mixes(flat, area, np.flatnonzero(open_).astype(np.int32), how.fits, how, alpha)
        if photo.any():
            beside = beside_photograph(photo.reshape(shape)).ravel()
            fitted = fitted.chosen(fitted.fits | ~beside[fitted.places])
        # An edge may be softer here than mixes are looked for; in the small picture it is not.
        fringe, mixes = self._fringes
        fringe = self._at(fringe, top, shape).ravel()[fitted.places]
        soft = ~fitted.fits & (fringe >= 0)
        shades = Blended.joined([shades, _along(flat, fitted.places[soft], mixes, fringe[soft], paints)])
        fitted = fitted.chosen(~soft)
        at = np.where((area >= 0) & (area < GRADIENTS), area, OTHER).astype(np.uint8)
        return Mixture(paints, at, shades, Blended.joined([by_chance, fitted.blended(how.exact)]))

    def _near(self, flat: Levels, name: Levels) -> npt.NDArray[np.int16]:
        """The paint that pixels are but for noise, which the small picture has there."""
        known = np.zeros((OTHER + 1, 3), dtype=np.uint8)
        known[: len(self._told.paints)] = self._told.paints
        near = (name != OTHER) & (levels_apart(flat, np.take(known, name, axis=0)) <= self._how.noise)
        return np.where(near, name.astype(np.int16), np.int16(NONE))


def _along(
    flat: Levels, places: npt.NDArray[np.int32], mixes: Blended, numbers: npt.NDArray[np.int32], paints: Levels
) -> Blended:
    """Pixels by the mixes of paints that the small picture has there, by their numbers: how far they lie between two is
    their own."""
    of, parts = mixes.of[numbers], mixes.parts[numbers].copy()
    two = np.flatnonzero((parts[:, 1] != 0) & (parts[:, 2] == 0))
    start, end = (paints[of[two, at]].astype(np.float32) for at in (0, 1))
    way = end - start
    length = np.maximum(np.einsum("ij,ij->i", way, way), 1e-6)
    part = np.clip(np.einsum("ij,ij->i", flat[places[two]] - start, way) / length, 0, 1)
    parts[two, 0], parts[two, 1] = 1 - part, part
    return Blended(places, of, parts, np.ones(len(places), dtype=np.bool_))


def _within(mixes: Blended, own: slice, by: int, *, moved: bool) -> Blended:
    """Those mixes of some rows that are within their own places, as they stand in the whole, which begins so many
    pixels before; with `moved`, so do those they are mixed of."""
    inside = (mixes.places >= own.start) & (mixes.places < own.stop)
    of = mixes.of[inside]
    return Blended(mixes.places[inside] + by, of + by if moved else of, mixes.parts[inside], mixes.rest[inside])
