"""Lettering that was drawn for the stripes of a screen: each channel of a pixel is covered for itself, so that letters
have fringes of colors that nobody chose.

Of a word on one ground in one ink, color `ink`, each channel is `ground + cover * (ink - ground)`, and over the whole
word each is covered as much. So the way from ground to ink is what all of its pixels are off the ground together; and
one stripe is covered much like the next, which is red beside the blue of the pixel before, and not beside its own.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from scipy import ndimage

from pavese.core.pictures.mixture import Floats, Levels, Places, Striped, codes_of, colors_of
from pavese.core.pictures.regions import spread

_Mask = npt.NDArray[np.bool_]

#: Pixels of what may be a word, and its height; how many of these are looked at.
_FEWEST, _MOST, _TALLEST, _WORDS = 24, 60_000, 240, 6000
#: The part of the way from ground to ink that a channel has to go for its cover to be told.
_TELLS = 0.2
#: How much of their sum covers have to differ within pixels, to how much less they have to between neighbors' stripes.
_DIFFERS, _LIKE_THE_NEXT = 0.04, 0.75
#: By how much a cover may be below none or above all, and how many pixels may be beyond.
_BEYOND, _STRAYS = 0.12, 0.02
#: How near a paint has to lie to the way from the ground (as a cosine), and how far along it at least.
_ALONG, _FAR = 0.985, 0.97
#: By how many levels ground and ink differ in a channel whose cover is told by itself.
_OWN = 12


class Word(NamedTuple):
    """What hangs together on one ground: its pixels (flat positions), the ground, the way from there to the ink (the
    longest channel is 1), and by how much each pixel is off the ground, shape (n, 3)."""

    places: Places
    ground: Levels
    way: Floats
    off: Floats

    @property
    def even(self) -> Floats:
        """By how much of the way each pixel is off the ground, by the mean of the channels that tell."""
        tells = np.abs(self.way) >= _TELLS
        return np.asarray((self.off[:, tells] / self.way[tells]).mean(axis=1))


def words_in_stripes(colors: Levels) -> list[Word]:
    """The words of a picture, shape (rows, columns, 3), that were drawn so."""
    labels, _ = ndimage.label(spread(colors) > 0, np.ones((3, 3)))
    found = []
    for number, box in enumerate(ndimage.find_objects(labels)[:_WORDS], 1):
        if box[0].stop - box[0].start <= _TALLEST:
            inside = labels[box] == number
            if _FEWEST <= int(inside.sum()) <= _MOST and (word := _word(colors, box, inside)) is not None:
                found.append(word)
    return found


def in_plain(colors: Levels, words: list[Word]) -> Levels:
    """The picture with each pixel of these covered evenly, by the mean of its channels."""
    made = colors.copy()
    flat = made.reshape(-1, 3)
    for word in words:
        flat[word.places] = np.clip(np.rint(word.ground + word.even[:, None] * word.way), 0, 255).astype(np.uint8)
    return made


def in_paints(words: list[Word], paints: Levels) -> Striped:
    """The same words by the paints, shape (n, 3), that were found in the picture with them covered evenly; those of
    which ground or ink is none of them are left out."""
    places, of, covers = [], [], []
    for word in words:
        two = _ground_and_ink(word, paints.astype(np.float32))
        if two is None:
            continue
        way = paints[two[1]].astype(np.float32) - paints[two[0]]
        own = np.abs(way) >= _OWN
        cover = np.divide(word.off, way, out=np.zeros_like(word.off), where=own)
        cover[:, ~own] = cover[:, own].mean(axis=1, keepdims=True)
        places.append(word.places)
        of.append(np.broadcast_to(np.array(two, np.int32), (len(word.places), 2)))
        covers.append(np.clip(cover, 0, 1))
    if not places:
        return Striped.none()
    return Striped(np.concatenate(places), np.concatenate(of), np.concatenate(covers))


def _word(colors: Levels, box: tuple[slice, slice], inside: _Mask) -> Word | None:
    """What hangs together in a box, where it was drawn so."""
    some = colors[box][inside]
    codes, counts = np.unique(codes_of(some), return_counts=True)
    ground = colors_of(codes[counts.argmax()][None])[0]
    off = some.astype(np.float32) - ground
    sums = off.sum(axis=0)
    longest = float(np.abs(sums).max())
    if longest == 0:
        return None
    way = sums / longest
    if abs(way[0]) < _TELLS or abs(way[2]) < _TELLS:
        return None
    cover = np.zeros((*inside.shape, 2), dtype=np.float32)
    cover[inside] = off[:, ::2] / way[::2]
    red, blue = cover[..., 0], cover[..., 1]
    within = float(np.abs(red - blue).sum())
    beside = min(
        float(np.abs(red[:, 1:] - blue[:, :-1]).sum()),
        float(np.abs(blue[:, 1:] - red[:, :-1]).sum()),
    )
    if within < _DIFFERS * float(np.abs(red).sum()) or beside > _LIKE_THE_NEXT * within:
        return None
    tells = np.abs(way) >= _TELLS
    each = off[:, tells] / way[tells]
    most = float(np.quantile(each, 0.995))
    strays = ((each < -_BEYOND * most) | (each > (1 + _BEYOND) * most)).any(axis=1)
    if most <= 0 or strays.mean() > _STRAYS:
        return None
    rows, columns = np.nonzero(inside)
    places = (rows + box[0].start) * colors.shape[1] + columns + box[1].start
    moved = (off != 0).any(axis=1)
    return Word(places[moved].astype(np.int32), ground, way.astype(np.float32), off[moved])


def _ground_and_ink(word: Word, paints: Floats) -> tuple[int, int] | None:
    """The paints of a word, by their numbers: that of the ground, and the first on the way of the ink that is far
    enough for all of it."""
    ground = int(np.abs(paints - word.ground).max(axis=1).argmin()) if len(paints) else -1
    if ground < 0 or np.abs(paints[ground] - word.ground).max() > 1:
        return None
    ways = paints - paints[ground]
    lengths = np.linalg.norm(ways, axis=1)
    along = ways @ word.way / np.maximum(lengths * np.linalg.norm(word.way), 1e-6)
    need = _FAR * float(word.even.max())
    far = np.abs(ways).max(axis=1)
    fits = np.flatnonzero((along >= _ALONG) & (far >= need))
    return (ground, int(fits[far[fits].argmin()])) if len(fits) else None
