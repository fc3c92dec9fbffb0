"""What is measured of a picture by its mixture: how much each paint is, which touch, and which stand on which."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np
import numpy.typing as npt
from scipy import ndimage

from pavese.core.color.contrast import FAINT, LARGE, contrast_ratio
from pavese.core.color.srgb import Rgba
from pavese.core.pictures.mixture import OTHER, Mixture
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.site import Kind
from pavese.core.recolor.texts import Text, TextRun

_Floats = npt.NDArray[np.float64]

#: A border of two paints of fewer pixels, or of a smaller part of all borders, is where corners meet.
_SHORT, _SMALL_PART = 10, 0.002
#: What is no wider than this, in pixels, may be letters; how large these then are, and how large all else is for
#: reading it (both in CSS pixels).
_THIN, _LETTERS, _SHAPES = 7, 16.0, 32.0
#: What is said of the two.
LETTERING, SHAPES = "lettering or thin lines", "shapes"


def measured_of(mixture: Mixture, paints: Sequence[Rgba], alpha: npt.NDArray[np.uint8] | None) -> Measured:
    """Measures a picture that is a mixture of paints: `paints` are these as they are told, which may be the same for
    several. `alpha` (rows, columns) tells where nothing is drawn.

    No letters are recognized: what touches and stands out is to go on doing so, and what is thin counts as small text.
    """
    labels = _labels(mixture)
    seen = max(labels.size if alpha is None else np.count_nonzero(alpha), 1)
    if alpha is not None:
        labels[alpha < 128] = _CLEAR
    number = {paint: at for at, paint in enumerate(dict.fromkeys(paints))}
    told = np.array([number[paint] for paint in paints] + [_UNKNOWN, _CLEAR], dtype=np.int64)
    labels = told[labels]
    names = list(number)
    shares = np.zeros(len(names)) + np.bincount(told[: len(paints)], mixture.shares(), len(names))
    lengths, thin = _borders(labels, len(names))
    whole = max(lengths.sum(), 1.0)
    outline = lengths[:-2, -1]
    between = lengths[:-2, :-2]
    return Measured(
        {paint: round(float(share / seen), 5) for paint, share in zip(names, shares, strict=True) if share},
        {
            (min(names[a], names[b]), max(names[a], names[b])): round(float(between[a, b] / whole), 5)
            for a, b in np.argwhere(np.triu(between) > 0).tolist()
        },
        {names[at]: round(float(outline[at] / whole), 5) for at in np.flatnonzero(outline).tolist()},
        tuple(_standing(names, shares, between, thin)),
    )


_UNKNOWN, _CLEAR = -2, -1


def _labels(mixture: Mixture) -> npt.NDArray[np.int64]:
    """The paint of each pixel, of a mix the one that is most of it; `_UNKNOWN` of those that are none."""
    labels = np.where(mixture.at == OTHER, _UNKNOWN, mixture.at.astype(np.int64))
    flat = labels.ravel()
    for blended in (mixture.shades, mixture.edges):
        if len(blended.places):
            most = blended.of[np.arange(len(blended.places)), blended.parts.argmax(axis=1)]
            flat[blended.places] = most if blended is mixture.shades else flat[most]
    return labels


def _borders(labels: npt.NDArray[np.int64], count: int) -> tuple[_Floats, _Floats]:
    """How long each two border on each other, in pixels, shape (n + 2, n + 2), symmetric; what is unknown and what is
    clear come last. And how long the first is thin where they do."""
    kinds = count + 2
    numbers = labels % kinds
    narrow = ~_wide(numbers)
    lengths, thin = np.zeros((2, kinds, kinds))
    for before, behind in ((np.s_[:, :-1], np.s_[:, 1:]), (np.s_[:-1], np.s_[1:])):
        differing = numbers[before] != numbers[behind]
        for one, other in ((before, behind), (behind, before)):
            pairs = numbers[one][differing] * kinds + numbers[other][differing]
            lengths += np.bincount(pairs, minlength=kinds**2).reshape(kinds, kinds)
            thin += np.bincount(pairs[narrow[one][differing]], minlength=kinds**2).reshape(kinds, kinds)
    return lengths, thin


def _wide(numbers: npt.NDArray[np.int64]) -> npt.NDArray[np.bool_]:
    """What lies in a square of one number that is wider than letters are."""
    small, side = numbers.astype(np.int16), _THIN + 1
    even = ndimage.maximum_filter(small, side) == ndimage.minimum_filter(small, side)
    # A square of an even side has no middle: the way back goes to the other side of it.
    return np.asarray(ndimage.maximum_filter(even, side, origin=-1))


def _standing(names: Sequence[Rgba], shares: _Floats, between: _Floats, narrow: _Floats) -> Iterator[TextRun]:
    """What stands on what: of two that touch, the smaller on the larger."""
    long_ = max(_SHORT, _SMALL_PART * between.sum() / 2)
    for a, b in np.argwhere(np.triu(between) >= long_).tolist():
        ink, ground = (a, b) if shares[a] < shares[b] else (b, a)
        thin = narrow[ink, ground] > between[ink, ground] / 2
        if contrast_ratio(names[ink].rgb, names[ground].rgb) < (FAINT if thin else LARGE):
            continue
        text = Text(LETTERING if thin else SHAPES, names[ink], 1.0, _LETTERS if thin else _SHAPES, False, (), Kind.FILL)
        yield TextRun(text, names[ground], Kind.FILL)
