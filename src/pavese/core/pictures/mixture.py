"""Of which paints the pixels of a picture are mixed, and the same mixed of others.

Where a renderer draws the edge between two shapes, a pixel is a mix of their paints by how much of it each covers; it
is mixed in sRGB values, as every common renderer does. The paints are exchanged and the parts are kept.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np
import numpy.typing as npt

Levels = npt.NDArray[np.uint8]
#: The same with 16 bits.
Deep = npt.NDArray[np.uint16]
Floats = npt.NDArray[np.float32]
Places = npt.NDArray[np.int32]

#: Numbers of areas that are no paint: of gradients, which begin behind all paints there can be; of what is not known.
GRADIENTS, NONE = 256, -1
#: In `Mixture.at`: this pixel is no paint as it is.
OTHER = 255
#: Rows, and mixes, that are counted at a time.
_STRIP, _AT_ONCE = 256, 500_000
#: Of how many a pixel is mixed at most.
MOST = 3
#: By how much a level of 16 bits is finer.
_FINER = 257
#: So many values tell what most of them are.
_ENOUGH = 100_000


def codes_of(colors: Levels) -> npt.NDArray[np.int32]:
    """Colors, shape (n, 3), as single numbers."""
    codes = colors[:, 0].astype(np.int32)
    for channel in (1, 2):
        codes <<= 8
        codes |= colors[:, channel]
    return codes


def levels_apart(colors: Levels, others: Levels) -> Levels:
    """By how many levels the channel differs most that differs most, of colors that go together, shape (..., 3)."""
    apart = np.maximum(colors, others) - np.minimum(colors, others)
    return np.asarray(np.maximum(np.maximum(apart[..., 0], apart[..., 1]), apart[..., 2]))


def colors_of(codes: npt.NDArray[np.integer[Any]]) -> Levels:
    """The colors of such numbers, shape (n, 3)."""
    return np.stack([codes >> 16, codes >> 8 & 255, codes & 255], axis=-1).astype(np.uint8)


@dataclass(frozen=True)
class Blended:
    """Pixels (`places`, flat positions, shape (n,)) that are mixes. `of` (n, 3) is what each is mixed of, `parts`
    (n, 3) with which parts, 0 where there are fewer than three. With `rest`, what the mix leaves of the pixel's own
    color is kept: shading, and noise."""

    places: Places
    of: Places
    parts: Floats
    rest: npt.NDArray[np.bool_]

    @classmethod
    def none(cls) -> Blended:
        """No pixel at all."""
        empty = np.zeros((0, MOST), dtype=np.int32)
        return cls(empty[:, 0], empty, empty.astype(np.float32), np.zeros(0, dtype=np.bool_))

    @classmethod
    def joined(cls, parts: Sequence[Blended]) -> Blended:
        """All of several."""
        if not parts:
            return cls.none()
        return cls(
            np.concatenate([one.places for one in parts]),
            np.concatenate([one.of for one in parts]),
            np.concatenate([one.parts for one in parts]),
            np.concatenate([one.rest for one in parts]),
        )

    def split(self, sizes: npt.NDArray[np.integer[Any]]) -> Iterator[Blended]:
        """So many of them each, in their order."""
        ends = np.cumsum(sizes)
        for part in (slice(end - size, end) for end, size in zip(ends.tolist(), sizes.tolist(), strict=True)):
            yield Blended(self.places[part], self.of[part], self.parts[part], self.rest[part])

    def shares(self, count: int) -> npt.NDArray[np.float64]:
        """How many pixels each of so many paints is in them, where they are mixes of paints."""
        counted = np.zeros(count)
        for start in range(0, len(self.places), _AT_ONCE):
            some = slice(start, start + _AT_ONCE)
            counted += np.bincount(self.of[some].ravel(), self.parts[some].ravel(), count)
        return counted

    def mixed(self, had: Levels, has: Levels, own: Levels) -> Levels:
        """Their new colors, shape (n, 3): `had` and `has` are the colors by which `of` counts, before and after, shape
        (m, 3); `own` are the pixels' own, shape (n, 3)."""
        new = np.zeros((len(self.places), 3), dtype=np.float32)
        left = own.astype(np.float32)
        for at in range(MOST):
            part = self.parts[:, at, None]
            new += part * has[self.of[:, at]]
            left -= part * had[self.of[:, at]]
        new += np.where(self.rest[:, None], left, 0)
        return np.clip(np.rint(new), 0, 255).astype(np.uint8)


@dataclass(frozen=True)
class Striped:
    """Pixels (`places`, flat positions, shape (n,)) of such lettering: `of` (n, 2) are the paints of ground and ink by
    their numbers, `cover` (n, 3) is how much of each channel is ink."""

    places: Places
    of: Places
    cover: Floats

    @classmethod
    def none(cls) -> Striped:
        """No pixel at all."""
        return cls(np.zeros(0, np.int32), np.zeros((0, 2), np.int32), np.zeros((0, 3), np.float32))

    def drawn(self, paints: npt.NDArray[np.number]) -> Floats:
        """Their colors in such paints, shape (m, 3), not rounded."""
        ground, ink = (paints[self.of[:, at]].astype(np.float32) for at in (0, 1))
        return np.asarray(ground + self.cover * (ink - ground))


@dataclass(frozen=True)
class Mixture:
    """A picture as a mixture of `paints`, shape (n, 3), in the picture's own values.

    `at` (rows, columns) is the number of the paint that a pixel is, or OTHER; `shades` are mixed of paints (by their
    numbers), as in a gradient, `edges` of other pixels near them (by their flat positions); `striped` is lettering that
    was drawn for the stripes of a screen, and is among these as if it were covered evenly. Pixels that are none of
    these, such as those of a photograph, are kept. `soft` are pairs of paints between which shades run; `unsure`
    is how many pixels could as well be mixed otherwise.
    """

    paints: Levels
    at: Levels
    shades: Blended
    edges: Blended
    soft: frozenset[tuple[int, int]] = frozenset()
    unsure: int = 0
    striped: Striped = field(default_factory=Striped.none)

    @classmethod
    def nothing(cls, shape: tuple[int, ...]) -> Mixture:
        """That of a picture (rows, columns) in which no paint is known."""
        paints = np.zeros((0, 3), dtype=np.uint8)
        return cls(paints, np.full(shape, OTHER, dtype=np.uint8), Blended.none(), Blended.none())

    def exchanged(self, pixels: Levels, targets: Levels) -> Levels:
        """The picture, shape (rows, columns, 3), mixed of other paints, shape (n, 3)."""
        # The last entry is never used, but has to be there for OTHER.
        table = np.zeros((OTHER + 1, 3), dtype=np.uint8)
        table[: len(targets)] = targets
        made = np.take(table, self.at, axis=0)
        np.copyto(made, pixels, where=(self.at == OTHER)[..., None])
        flat, own = made.reshape(-1, 3), pixels.reshape(-1, 3)
        if len(self.shades.places):
            flat[self.shades.places] = self.shades.mixed(self.paints, targets, own[self.shades.places])
        if len(self.edges.places):
            flat[self.edges.places] = self.edges.mixed(own, flat, own[self.edges.places])
        if len(self.striped.places):
            moved = self.striped.drawn(targets) - self.striped.drawn(self.paints)
            flat[self.striped.places] = np.clip(np.rint(own[self.striped.places] + moved), 0, 255).astype(np.uint8)
        return made

    def exchanged_deep(self, values: Deep, targets: Levels) -> Deep:
        """The picture mixed of other paints, in 16 bits: `values` are its own, shape (rows, columns, 3), of which those
        it was taken apart by are the upper bytes. What is finer than these stays where a paint is not the same all
        over."""
        ways = np.zeros((OTHER + 1, 3), dtype=np.float32)
        for paint in np.flatnonzero((targets != self.paints).any(axis=1)):
            here = values[self.at == paint]
            some = here[:: max(len(here) // _ENOUGH, 1)]
            own = np.median(some, axis=0) if len(here) else self.paints[paint].astype(np.float32) * _FINER
            ways[paint] = targets[paint].astype(np.float32) * _FINER - own
        moved = ways[self.at]
        flat = moved.reshape(-1, 3)
        for mixes, by in ((self.shades, ways), (self.edges, flat)):
            parts = (mixes.parts[:, at, None] * by[mixes.of[:, at]] for at in range(MOST))
            flat[mixes.places] = sum(parts, np.zeros((len(mixes.places), 3), dtype=np.float32))
        flat[self.striped.places] = self.striped.drawn(ways)
        moved += values
        return np.clip(np.rint(moved, out=moved), 0, 65535, out=moved).astype(np.uint16)

    def shares(self) -> npt.NDArray[np.float64]:
        """How many pixels each paint is, those it is mixed into by their parts."""
        counted = np.zeros(len(self.paints))
        for top in range(0, len(self.at), _STRIP):
            numbers = self.at[top : top + _STRIP].ravel()
            counted += np.bincount(numbers, minlength=OTHER + 1)[: len(self.paints)]
        return counted + self.shades.shares(len(self.paints))

    @property
    def known(self) -> npt.NDArray[np.bool_]:
        """Which pixels are paints or mixes of them, shape (rows, columns)."""
        found = self.at != OTHER
        found.ravel()[self.shades.places] = True
        found.ravel()[self.edges.places] = True
        found.ravel()[self.striped.places] = True
        return np.asarray(found)
