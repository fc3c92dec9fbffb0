"""What is seen below texts where it is no one color: a picture, a gradient, or something behind a veil.

Two drawings tell it, one as the file came and one with every site in its mark: what differs by nothing no site says, as
in a photograph, and what differs does so by the shares that sites have in it.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from enum import StrEnum
from itertools import combinations, groupby, islice, pairwise
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from pavese.core.color.derived import Transform, derived
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.texts import MOSTLY_KNOWN, Part, Seen

Array = npt.NDArray[np.float64]
#: Spots that are looked at below a piece of text, from the darkest to the lightest, and which part of them at either
#: end is edges.
_SPOTS, _EDGE = 7, 0.02
#: Of so many spots below a text at most it is kept what is seen there.
_MOST_SEEN = 12
#: How far, in 8-bit steps, a picture packed twice may differ; what the shares found may leave unexplained on an
#: average, since gradients are painted in bands whose width depends on their colors; and at any spot.
_SAME, _LEFT, _MOST_LEFT = 2.5, 4.0, 12.0
#: Shares below this are noise.
_LEAST_SHARE = 0.02
#: Paints of a picture whose mixtures are looked for, the first of them.
_MOST_PAINTS = 12
#: Pairs of paints that gradients of a drawing lie between at most.
_MOST_PAIRS = 24
#: What is drawn as a body: series of charts, also those that follow the theme.
_BODIES = (Kind.SERIES, Kind.THEME)
#: Mixtures that are tried at most.
_MOST = 6_000
#: Weights of the channels in what is dark and light (WCAG 2.2, "relative luminance").
_LUMINANCE = np.array([0.2126, 0.7152, 0.0722])


class Shown(NamedTuple):
    """A site, or what a style makes of it, as it is seen in the two drawings, and how much it hides."""

    part: Part
    mark: Rgb
    alpha: float = 1.0


#: The shadow on what is drawn as a body, as in charts: no site says it.
_SHADOW = Shown(Part(Rgba(0, 0, 0)), Rgb(0, 0, 0))


class Way(StrEnum):
    """How what is seen together lies there."""

    #: It hides all that is below.
    HIDING = "hiding"
    #: It hides that, too, with light and shadow on it that stay.
    SHADED = "shaded"
    #: It is seen through.
    VEIL = "veil"


class Mixture(NamedTuple):
    """What may be seen together: one, or two."""

    of: tuple[Shown, ...]
    way: Way


def mixtures(
    sites: Sequence[Site], marks: Sequence[Rgb], styled: Mapping[int, Sequence[tuple[Transform, ...]]]
) -> Iterator[Mixture]:
    """What may be seen together of the sites of a file, each in its mark: neighbors in a gradient or a pattern, paints
    of a picture, series of charts in shadow, veils, and what styles make of colors (of some, by their numbers)."""
    shown = [_shown(site, mark) for site, mark in zip(sites, marks, strict=True)]
    yield from (_together(one) for one in shown if one.alpha < 1)
    yield from (Mixture((one, _SHADOW), Way.HIDING) for one in shown if one.part.kind in _BODIES)
    pictured = (one for one in shown if one.part.kind is Kind.PICTURE)
    for _, own in groupby(pictured, key=lambda one: one.part.selectors):
        paints = list(islice(own, _MOST_PAINTS))
        yield from (Mixture((one,), Way.SHADED) for one in paints)
        yield from (Mixture(both, Way.SHADED) for both in combinations(paints, 2))
    for one, other in pairwise(shown):
        in_pattern = one.part.kind is Kind.FILL and one.part.selectors[:1] == other.part.selectors[:1]
        if one.part.kind is other.part.kind and (one.part.kind is Kind.STOP or in_pattern):
            yield _together(one, other)
    for number, made in styled.items():
        found = [_through(shown[number], transforms) for transforms in made]
        yield from map(_together, found)
        yield from (_together(one, other) for one, other in pairwise(found))


def alone(grounds: Iterable[tuple[Site, Rgb]]) -> Iterator[Mixture]:
    """Grounds, each with its mark, that hide all that is below."""
    return (Mixture((one,), Way.HIDING) for one in (_shown(*ground) for ground in grounds) if one.alpha >= 1)


def between(pairs: Iterable[tuple[tuple[Site, Rgb], tuple[Site, Rgb]]]) -> Iterator[Mixture]:
    """What lies between two sites, each with its mark, as in a gradient."""
    return (_together(_shown(*one), _shown(*other)) for one, other in pairs)


def veiled(veils: Iterable[Mixture], grounds: Sequence[tuple[Site, Rgb]]) -> Iterator[Mixture]:
    """The veils among mixtures over grounds, each with its mark."""
    below = [_shown(site, mark) for site, mark in grounds]
    for one in veils:
        if len(one.of) == 1 and one.way is Way.VEIL:
            yield from (Mixture((*one.of, ground), Way.HIDING) for ground in below if ground != one.of[0])


def _shown(site: Site, mark: Rgb) -> Shown:
    return Shown(Part(site.paint, site.kind, site.selectors), mark, site.paint.alpha)


def _together(*of: Shown) -> Mixture:
    return Mixture(of, Way.VEIL if min(one.alpha for one in of) < 1 else Way.HIDING)


def _through(shown: Shown, transforms: tuple[Transform, ...]) -> Shown:
    mark = derived(shown.mark, transforms)
    return Shown(shown.part._replace(through=transforms), mark.rgb, shown.alpha * mark.alpha)


#: What explains a spot: a mixture, and the shares in it.
_Explained = tuple[Mixture, Array]


class Mixing:
    """Tells which of some mixtures is seen."""

    def __init__(self, tried: Iterable[Mixture]) -> None:
        by_way: dict[Way, list[Mixture]] = {way: [] for way in Way}
        for mixture in islice(tried, _MOST):
            by_way[mixture.way].append(mixture)
        self._hiding, self._shaded, self._veils = by_way[Way.HIDING], by_way[Way.SHADED], by_way[Way.VEIL]
        self._tried = [*self._hiding, *self._shaded, *self._veils]
        self._solid, self._lit = _Between(self._hiding, _both), _Between(self._shaded, _moved)
        #: How far veils differ between the drawings; shape (count, 3, 2).
        self._moved = np.zeros((len(self._veils), 3, 2))
        for at, mixture in enumerate(self._veils):
            for place, one in enumerate(mixture.of):
                self._moved[at, :, place] = _moved(one)
        self._solving: Array = np.asarray(np.linalg.pinv(self._moved)) if self._veils else np.zeros((0, 2, 3))

    def seen(self, came: Array, marked: Array) -> tuple[Seen, ...]:
        """What is seen on pixels that are given as they came and in marks, each of shape (count, 3); where that is not
        explained by what most of it is, it is not known what says it."""
        at = _spots(came)
        colors, marks = came[at], marked[at]
        if np.abs(marks - colors).max() <= _SAME:
            return tuple(dict.fromkeys(Seen(_rgb(color)) for color in colors))
        return _told(colors, self._found(colors, marks))

    def _found(self, came: Array, marks: Array) -> list[_Explained | None]:
        """What explains best what is seen at each of some spots, given in both drawings, each of shape (count, 3): one
        mixture at most of them, and at the others, or at all, each its own that hides all below."""
        moved, both = marks - came, np.concatenate([marks, came], axis=1)
        covering = [
            np.concatenate(each) for each in zip(self._solid.shares(both), self._lit.shares(moved), strict=True)
        ]
        each_its_own = _each_its_own(self._tried, *covering)
        shares, left = (np.concatenate(each) for each in zip(covering, self._of_veils(moved), strict=True))
        if not len(left):
            return each_its_own
        best = int(np.minimum(left, 2 * _MOST_LEFT).mean(axis=1).argmin())
        explained = left[best] <= _MOST_LEFT
        if explained.mean() < MOSTLY_KNOWN or left[best][explained].mean() > _LEFT:
            return each_its_own
        each = zip(shares[best], explained.tolist(), each_its_own, strict=True)
        return [(self._tried[best], own) if known else other for own, known, other in each]

    def _of_veils(self, moved: Array) -> tuple[Array, Array]:
        """Shares by which what is below is seen through, and what is left of the difference of the drawings."""
        shares = np.clip(np.einsum("pij,nj->pni", self._solving, moved), 0, 1)
        return shares, np.abs(np.einsum("pji,pni->pnj", self._moved, shares) - moved).max(axis=2)


class _Between:
    """Where what is seen lies between the two parts of each of some mixtures, `as_seen` by numbers of one count."""

    def __init__(self, mixtures: Sequence[Mixture], as_seen: Callable[[Shown], Array]) -> None:
        first, self._second = (np.array([as_seen(one.of[at]) for one in mixtures]) for at in (0, -1))
        self._along = first - self._second
        self._length = np.maximum((self._along**2).sum(axis=-1), 1e-9)

    def shares(self, seen: Array) -> tuple[Array, Array]:
        """Shares that sum up to 1 at spots of shape (spots, n), shape (count, spots, 2), and what is left unexplained
        there, shape (count, spots)."""
        if not len(self._along):
            return np.zeros((0, len(seen), 2)), np.zeros((0, len(seen)))
        from_second = seen[None] - self._second[:, None]
        share = np.clip(np.einsum("pnk,pk->pn", from_second, self._along) / self._length[:, None], 0, 1)
        left = np.abs(share[..., None] * self._along[:, None] - from_second).max(axis=2)
        return np.stack([share, 1 - share], axis=2), left


def _moved(shown: Shown) -> Array:
    """How far it differs between the drawings."""
    return np.asarray(np.array(shown.mark, dtype=float) - np.array(shown.part.color))


def _each_its_own(mixtures: Sequence[Mixture], shares: Array, left: Array) -> list[_Explained | None]:
    """At each spot the mixture, of the first ones, that leaves least unexplained there, as of a gradient with several
    stops; `shares` and `left` are theirs."""
    if not len(left):
        return [None] * left.shape[1]
    best = left.argmin(axis=0).tolist()
    return [(mixtures[one], shares[one, at]) if left[one, at] <= _LEFT else None for at, one in enumerate(best)]


def _told(colors: Array, found: Sequence[_Explained | None]) -> tuple[Seen, ...]:
    each = zip(colors, found, strict=True)
    return tuple(dict.fromkeys(Seen(_rgb(color), None if one is None else tuple(_parts(*one))) for color, one in each))


def _spots(came: Array) -> npt.NDArray[np.int64]:
    """Which of some pixels, shape (count, 3), are looked at: from the darkest to the lightest."""
    order = np.argsort(came @ _LUMINANCE)
    at = np.unique(np.round(np.linspace(_EDGE, 1 - _EDGE, _SPOTS) * (len(order) - 1)).astype(int))
    return np.asarray(order[at])


def blended(came: Array, blends: Collection[tuple[Rgba, Rgba]]) -> tuple[Seen, ...]:
    """What is seen on pixels of shape (count, 3) of a drawing with gradients between pairs of paints. Colors alone tell
    it there, so that nothing is told where there are many pairs, or they are seen through."""
    colors = came[_spots(came)]
    pairs = [tuple(Shown(Part(paint), paint.rgb) for paint in pair) for pair in sorted(blends)]
    solid = [Mixture(pair, Way.HIDING) for pair in pairs if all(one.part.paint.alpha >= 1 for one in pair)]
    tried = solid if len(pairs) <= _MOST_PAIRS else []
    between = _Between(tried, lambda one: np.array(one.mark, dtype=float))
    return _told(colors, _each_its_own(tried, *between.shares(colors)))


def _both(shown: Shown) -> Array:
    """How it looks in either drawing."""
    return np.array([*shown.mark, *shown.part.color], dtype=float)


def _parts(mixture: Mixture, shares: Array) -> Iterator[Part]:
    alone = len(mixture.of) == 1 and mixture.way is not Way.VEIL
    for one, share in zip(mixture.of, [1.0] if alone else shares.tolist(), strict=False):
        if share >= _LEAST_SHARE and one is not _SHADOW:
            yield one.part._replace(share=round(share, 3))


def together(found: Sequence[Seen]) -> tuple[Seen, ...]:
    """What is seen below all pieces of a text, from the darkest to the lightest."""
    ordered = sorted(dict.fromkeys(found), key=lambda one: (float(np.array(one.color) @ _LUMINANCE), one.color))
    at = np.unique(np.round(np.linspace(0, len(ordered) - 1, min(len(ordered), _MOST_SEEN))).astype(int))
    return tuple(ordered[number] for number in at.tolist())


def _rgb(color: Array) -> Rgb:
    return Rgb(*(int(channel) for channel in np.clip(np.rint(color), 0, 255)))
