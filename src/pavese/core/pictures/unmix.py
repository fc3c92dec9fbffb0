"""Finding of which paints a picture is mixed (`mixture`).

What is quiet, pixels that hardly differ from those around them, falls into regions (`regions`). A region of one color
is a paint; one whose colors lie between two to four is a gradient of these; any other is a photograph, and so is what
lies among such. All else are edges: each pixel is a mix of two, else three, of what stands within a few pixels of it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

import numpy as np
import numpy.typing as npt
from scipy import ndimage

from pavese.core.pictures.fitting import (
    Fitted,
    best_mixes,
    between,
    blend_of,
    explained,
    knots_of,
    mixed_by_chance,
    near_places,
    of_usual_pairs,
    seen_as,
    with_far,
    within_reach,
)
from pavese.core.pictures.lens import is_of_entries, is_of_greys
from pavese.core.pictures.mixture import (
    GRADIENTS,
    NONE,
    OTHER,
    Blended,
    Levels,
    Mixture,
    Places,
    codes_of,
    colors_of,
    levels_apart,
)
from pavese.core.pictures.regions import (
    LOSSLESS,
    PALETTE,
    Fineness,
    Regions,
    among_unknown,
    beside_photograph,
    dense,
    gathered,
    modes,
    mostly,
    night,
    panels,
    quiet_regions,
)
from pavese.core.pictures.rings import rings
from pavese.core.pictures.slopes import goes_on, is_smooth, some_of, straight
from pavese.core.pictures.stripes import in_paints, in_plain, words_in_stripes

_Mask = npt.NDArray[np.bool_]

#: Most paints of one picture, by their kind; those of the smallest area beyond are mixes of others, or kept.
_MOST_FLAT, _MOST_PAINTS = 120, 200
#: More see-through than this, a pixel has no color.
_SEEN = 8
#: A region of fewer pixels is none; a gradient of fewer is no gradient, so many are looked at, by so many pixels.
_LEAST_REGION, _LEAST_LOSSY_REGION, _LEAST_GRADIENT, _MOST_GRADIENTS, _LOOKED_AT = 9, 30, 40, 400, 3000
#: Paints of a lossy picture nearer than this, in levels, are one; and knots of gradients that are so near to a paint.
_SAME, _SAME_KNOT = 9.0, 6.0
#: Codes up to which a quiet region is no gradient, but several paints that hardly differ; and those of a picture in
#: which nothing is quiet and that is no photograph.
_FEW_CODES, _PATTERN = 4, 32
#: Thin paints that are looked for, colors that are tried for each, by so many pixels, and how many it has to explain.
_THIN, _TRIED, _TRIED_ON, _LEAST_THIN = 24, 16, 20_000, 6
#: The same where values are coarse: so many, and which part of the picture.
_LEAST_THIN_LOSSY, _LEAST_THIN_PART = 60, 0.0008
#: How many of the paints are tried where an area has none of its own, and the part of it that they have to explain.
_MAIN, _MOSTLY = 14, 0.75
#: Areas of mixes at most, the largest first: each has a number of its own, of 16 bits.
_MOST_MIXED = 20_000
#: The part of it that so many pairs of them have to explain: among many pairs there is one for any color of a thing.
_USUAL, _FEW_PAIRS = 0.6, 4
#: A shaded region of so much of the picture is one of its own beside a photograph.
_LARGE_SHADED = 0.04
#: Of what there is less than so many pixels, and less than this part of the picture, is no paint.
_LEAST_PAINT, _LEAST_PAINT_PART = 5, 0.0001
#: A shaded region of a lossy picture is noise of a paint that is more, where so much of it, in percent, is near it.
_MOST_OF_IT = 90
#: From so many pixels on a table of all colors is quicker; at how many a thin paint may be a mix.
_MANY, _FEW_PIXELS = 400_000, 40
#: Up to which part of a lossy picture a paint may be noise, beside how many times as much of what it is noise of.
_NOISE_PART, _NOISE_BESIDE = 0.006, 3
#: How far such paints are from each other where coding made several of one, as color is seen there; those of which
#: there is hardly anything.
_ONE_BUT_FOR_NOISE = (3.5, 5.0)
#: By chance a mix comes again in every frame; from so many on it is left out of account, for what is in few of them.
_AGAIN = 8
#: Paints that are tried for pixels near which nothing explains them; pixels by which photographs are told.
_FAR, _TOLD_BY = 12, 60_000
#: How often known areas of a lossy picture grow; what a thin paint is of one: pixels within so many levels of it.
_GROWS, _THIN_SAME = 2, 16.0
#: The part of a picture that has to be even, or run evenly, for it to be none; of tiny ones that is not asked, and of
#: small ones, which are edges mostly, only where so much of them is explained by nothing that is near.
_LEAST_KNOWN, _TINY, _SMALL, _LEAST_UNKNOWN = 0.3, 64 * 64, 160 * 160, 0.15
#: Paints of the panels on a photograph, with which all on them is lettering.
_ON_PANELS = 8
#: Regions that cover such a part of a picture and deviate by more levels may be several that hang together by soft
#: edges; how much less neighbors may differ where they are looked at more closely.
_CHAINED, _RUNS, _CLOSER = 0.02, 12, (5, 3)
#: From which deviation on where values are exact; how much of them has to be flat then.
_RUNS_EXACT, _FALLS_APART = 3, 0.4
#: The part of a picture from which on it is a photograph, where no more than that is flat.
_PHOTOGRAPH, _LITTLE_FLAT = 0.45, 0.3


def unmixed(pixels: Levels, how: Fineness, frames: int = 1) -> Mixture:
    """The mixture that a picture is, shape (rows, columns, 3) or with alpha (rows, columns, 4), or that its frames are
    together; the same picture, the same mixture. A photograph has no paints."""
    again = min(frames, _AGAIN)
    words = words_in_stripes(pixels[..., :3]) if how is LOSSLESS and again == 1 else []
    if not words:
        return _Unmixing(pixels, how, again).found()
    plain = pixels.copy()
    plain[..., :3] = in_plain(pixels[..., :3], words)
    found = _Unmixing(plain, how, again).found()
    return replace(found, striped=in_paints(words, found.paints))


class _Unmixing:
    """One picture. `area` is what each pixel belongs to: a paint by its number, a gradient, or nothing that is known
    (yet)."""

    def __init__(self, pixels: Levels, how: Fineness, again: int, within: _Mask | None = None) -> None:
        """`again` is how often a pixel is counted on to come in what may be a paint: as often as there are frames. Only
        what is `within` a mask counts, shape (rows, columns), where one is given."""
        self.pixels, self.again, self.within = pixels, again, within
        self.colors = np.ascontiguousarray(pixels[..., :3])
        self.flat = self.colors.reshape(-1, 3)
        self.how = how
        alpha = pixels[..., 3] if pixels.shape[2] == 4 else None
        self.alpha = alpha.ravel() if alpha is not None and alpha.min() < 255 else None
        self.seen = alpha >= _SEEN if alpha is not None else np.ones(pixels.shape[:2], dtype=np.bool_)
        if within is not None:
            self.seen = self.seen & within
        #: Pixels of all that counts.
        self.size = self.seen.size if within is None else int(self.seen.sum())
        self.paints = np.zeros((0, 3), dtype=np.uint8)
        #: Paints that were found as regions; those behind are thin.
        self.large = 0
        self.area: npt.NDArray[np.int16] = np.full(pixels.shape[:2], NONE, dtype=np.int16)
        self.blends: dict[int, Blended] = {}
        #: Areas of mixes so far; each has a number of its own, also where another is taken back.
        self.areas = 0
        self.soft: dict[int, list[tuple[int, int]]] = {}

    def found(self, *, dense_is_lettering: bool = False) -> Mixture:
        regions = self._quiet_regions()
        shaded = self._take_flat(regions)
        if self.within is None and self.how is PALETTE and is_of_entries(self.area, len(self.paints)):
            return self._of_panels(regions)
        self._take_gradients(regions, shaded)
        if not self.how.exact:
            self._grow()
        elif not len(self.paints):
            self._take_pattern(len(regions.areas))
        seen = int(self.seen.sum())
        little = seen > _TINY and (self.area >= 0).sum() < _LEAST_KNOWN * seen
        if little and (seen > _SMALL or dense_is_lettering):
            # Greys are mixes of other greys: what is around them explains those of a photograph as well.
            return self._of_panels(regions)
        photo = np.zeros(self.area.shape, np.bool_) if dense_is_lettering else self._photograph(regions)
        if little and photo.sum() > _LEAST_UNKNOWN * seen:
            return self._of_panels(regions)
        flat = regions.areas[regions.flat(self.how.flat)].sum()
        if photo.mean() > _PHOTOGRAPH and flat < _LITTLE_FLAT * photo.size:
            return self._of_panels(regions)
        photo &= ~self._take_mixed(photo | (self.area < 0) & (regions.of >= 0), regions)
        if photo.any():
            photo |= self._take_back(photo, regions)
        places = self._open()
        places = places[~photo.ravel()[places]]
        fitted = self._fit_but_chance(places) if self.how.exact else self._fit(places)
        if photo.any():
            # Where a photograph begins is told by fields; what is left of it at their edges is its own as well.
            fitted = fitted.chosen(fitted.fits | ~beside_photograph(photo).ravel()[fitted.places])
        found = self._mixture(self._without_small(self._take_thin(fitted)))
        greys = self.within is None and is_of_greys(found, self.colors, self.seen)
        return Mixture.nothing(self.area.shape) if greys else found

    def _of_panels(self, regions: Regions) -> Mixture:
        """The mixture of a photograph: that of the panels on it with all that stands on them, or nothing."""
        within = panels(regions, self.colors) if self.within is None else None
        if within is None or not within.any():
            return Mixture.nothing(self.area.shape)
        # What is dense on a panel is small lettering first, until that would be of many colors.
        found = _Unmixing(self.pixels, self.how, self.again, within).found(dense_is_lettering=True)
        if len(found.paints) <= _ON_PANELS:
            return found
        return _Unmixing(self.pixels, self.how, self.again, within).found()

    def _quiet_regions(self) -> Regions:
        """Its quiet regions. Where edges are soft, as in what was made larger, all that they part hangs together: a
        region that is neither one color nor a few nor a gradient is looked at more closely."""
        regions = quiet_regions(self.colors, self.seen, self.how.quiet)
        if self.how.exact:
            # A disc and the shaded ring around it differ by few levels where the ring begins.
            return regions.cored(self.colors, self._chained(regions, _RUNS_EXACT), _FALLS_APART)
        for quiet in _CLOSER:
            chained = self._chained(regions, _RUNS)
            if not chained:
                break
            parted = regions.parted(self.colors, chained, quiet)
            flat = parted.areas[parted.flat(self.how.flat)].sum() - regions.areas[regions.flat(self.how.flat)].sum()
            if flat < _FALLS_APART * regions.areas[chained].sum():
                # Light on things falls apart, too, into what is no more even.
                break
            regions = parted
        return regions

    def _chained(self, regions: Regions, runs: float) -> list[int]:
        """Large regions that deviate by more levels and are neither a few colors nor a gradient."""
        large = (regions.deviation.max(axis=1, initial=0) > runs) & (regions.areas >= _CHAINED * self.size)
        return [int(one) for one in np.flatnonzero(large) if self._is_chained(regions.places(int(one)))]

    def _is_chained(self, places: Places) -> bool:
        few = not self.how.exact and modes(self.flat[some_of(places, self.area)]) is not None
        return not few and self._knots(places) is None

    def _knots(self, places: Places) -> Levels | None:
        """The colors between which those of some pixels lie, where these are a gradient."""
        some = some_of(places, self.area)
        knots = knots_of(self.flat[places], self.flat[some], self.how) if len(places) >= _LEAST_GRADIENT else None
        if knots is not None and len(knots) == 1:
            return knots
        if knots is not None:
            return knots if is_smooth(self.flat[some], *np.divmod(some, self.area.shape[1])) else None
        return straight(self.flat, places, self.area) if len(places) >= _CHAINED * self.size else None

    def _take_flat(self, regions: Regions) -> list[int]:
        """Takes the paints of flat regions; gives the regions that are not flat, the largest first."""
        large = regions.areas >= (_LEAST_REGION if self.how.exact else _LEAST_LOSSY_REGION)
        flat = regions.flat(self.how.flat) & large
        order = np.argsort(-regions.areas, kind="stable")
        chosen = order[flat[order]]
        near = 0.0 if self.how.exact else _SAME
        self.paints, number = gathered(regions.means[chosen], regions.areas[chosen], near, _MOST_FLAT)
        if self.how.exact:
            self._take_codes(np.flatnonzero(self.seen.ravel()).astype(np.int32))
        elif len(chosen):
            numbers = np.full(len(regions.areas) + 1, NONE, dtype=np.int16)
            numbers[chosen] = number
            self.area = numbers[regions.of]
        return [int(one) for one in order if large[one] and not flat[one]]

    def _take_codes(self, places: Places) -> None:
        """Of some pixels, every one that is exactly a paint is that paint."""
        if not len(self.paints):
            return
        codes, known = codes_of(self.flat[places]), codes_of(self.paints)
        if len(places) >= _MANY:
            table = np.full(1 << 24, NONE, dtype=np.int16)
            table[known] = np.arange(len(known))
            self.area.ravel()[places] = table[codes]
            return
        order = np.argsort(known, kind="stable")
        at = np.minimum(np.searchsorted(known, codes, sorter=order), len(known) - 1)
        hit = known[order[at]] == codes
        self.area.ravel()[places] = np.where(hit, order[at], NONE)

    def _take_gradients(self, regions: Regions, shaded: Sequence[int]) -> None:
        """Takes the gradients among regions that are not flat, and several paints that hardly differ."""
        flat = self.area[self.area >= 0]
        much = np.bincount(flat, minlength=len(self.paints))[: len(self.paints)]
        for region in shaded[:_MOST_GRADIENTS]:
            places = regions.places(region)
            places = places[self.area.ravel()[places] < GRADIENTS]
            if not len(places):
                continue
            some = self.flat[some_of(places, self.area)]
            codes, counts = np.unique(codes_of(some), return_counts=True)
            if self.how.exact and len(codes) <= _FEW_CODES:
                self._know(colors_of(codes[np.argsort(-counts, kind="stable")]), 0.0)
                self._take_codes(places)
                continue
            if not self.how.exact and flat.size >= _LITTLE_FLAT * self.size:
                # What coding leaves around letters and edges is no gradient of its own.
                number = self._paint_but_for_noise(some, much > len(places))
                if number is not None:
                    self.area.ravel()[places] = number
                    continue
            if not self.how.exact and (found := modes(some)) is not None:
                numbers = np.array(self._know(found, _SAME))
                apart = levels_apart(self.flat[places][:, None], self.paints[numbers])
                near = apart.min(axis=1) <= _SAME
                self.area.ravel()[places[near]] = numbers[apart[near].argmin(axis=1)]
                continue
            knots = self._knots(places)
            if knots is None or len(self.paints) + len(knots) > _MOST_PAINTS:
                continue
            named = self._know(knots, _SAME_KNOT)
            if len(places) >= _CHAINED * self.size:
                places = np.concatenate([places, goes_on(self.colors, self.area, self.seen, places, self.how.loose)])
            self._take_blend(region, blend_of(self.flat[places], self.paints, named, places))
            self.soft[region] = list(pairwise(named))

    def _take_pattern(self, key: int) -> None:
        """Takes a picture in which nothing is quiet, such as a pattern of dots or of fine stripes, whose few codes lie
        between two to four colors."""
        places = self._open()
        codes = np.unique(codes_of(self.flat[places]))
        if len(codes) > _PATTERN or not len(codes):
            return
        knots = knots_of(colors_of(codes), colors_of(codes), self.how)
        if knots is not None:
            named = self._know(knots, 0.0)
            self._take_blend(key, blend_of(self.flat[places], self.paints, named, places))

    def _paint_but_for_noise(self, colors: Levels, among: _Mask) -> int | None:
        """The paint, among some, that most of these colors are but for noise."""
        numbers = np.flatnonzero(among)
        if not len(numbers):
            return None
        known, own = seen_as(self.paints[numbers], self.how), seen_as(colors, self.how)
        nearest = int(np.linalg.norm(known - np.median(own, axis=0), axis=1).argmin())
        off = np.linalg.norm(own - known[nearest], axis=1)
        return int(numbers[nearest]) if np.percentile(off, _MOST_OF_IT) <= self.how.noise else None

    def _take_blend(self, key: int, blend: Blended) -> None:
        """Takes an area of mixes of paints."""
        self.area.ravel()[blend.places] = GRADIENTS + self.areas
        self.areas += 1
        self.blends[key] = blend
        self.soft[key] = []

    def _grow(self) -> None:
        """Takes what is a paint but for noise, beside where it is known."""
        for _ in range(_GROWS):
            places = self._open()
            places = places[within_reach(self.area >= 0, places)]
            names, _ = near_places(self.area, places, 2)
            for name in names:
                paint = np.flatnonzero((name >= 0) & (name < GRADIENTS))
                off = levels_apart(self.flat[places[paint]], self.paints[name[paint]])
                near = paint[off <= self.how.noise]
                near = near[self.area.ravel()[places[near]] < 0]
                self.area.ravel()[places[near]] = name[near]

    def _know(self, colors: Levels, near: float) -> list[int]:
        """The numbers of colors among the paints; those that are not near to one become paints."""
        numbers = []
        for color in colors:
            apart = np.linalg.norm(self.paints.astype(np.float64) - color, axis=1)
            if not len(apart) or apart.min() > near:
                apart = np.append(apart, 0.0)
                self.paints = np.vstack([self.paints, color[None]])
            numbers.append(int(apart.argmin()))
        return numbers

    def _open(self) -> Places:
        """The pixels that belong to nothing yet."""
        return np.flatnonzero(self.seen.ravel() & (self.area.ravel() < 0)).astype(np.int32)

    def _fit(self, places: Places) -> Fitted:
        return best_mixes(self.flat, self.area, places, self.how.fits, self.how, self.alpha)

    def _fit_but_chance(self, places: Places) -> Fitted:
        """Takes apart some pixels, and those that are a paint by chance, as mixes are."""
        by_chance = mixed_by_chance(self.flat, self.area, self.how, self.alpha)
        return self._fit(places).with_(by_chance)

    def _photograph(self, regions: Regions) -> _Mask:
        """Which pixels are those of a photograph. Regions among them are taken back."""
        places = self._open()
        each = max(len(places) // _TOLD_BY, 1)
        fitted = self._fit(places[::each])
        photo = dense(fitted.places[~fitted.fits], self.area.shape, each)
        if not photo.any():
            return photo
        taken = np.append(among_unknown(regions, photo, self.how.flat), False)
        # What in it is a paint by chance is none; what is quiet and no piece of it is a panel.
        lost = taken[regions.of] | (photo & (regions.of < 0))
        self.area[lost] = NONE
        self.blends = {region: blend for region, blend in self.blends.items() if not taken[region]}
        return np.asarray((photo | lost) & (self.area < 0))

    def _take_back(self, photo: _Mask, regions: Regions) -> _Mask:
        """Takes what hangs together and is a photograph in much of it for one, as glare and smooth things in it are by
        themselves paints and gradients; large regions part it from what else there is. Gives which pixels these are."""
        own = regions.large_and_even(self.how.flat, self.size) | (regions.areas >= _LARGE_SHADED * self.size)
        parts = np.append(own, False)[regions.of]
        lost = mostly(photo, self.seen & ~parts)
        if lost.any() and (dark := night(regions, self.colors, lost)).any():
            lost = mostly(photo | dark, self.seen & (~parts | dark))
        self.area[lost] = NONE
        self.blends = {key: one for key, one in self.blends.items() if not lost.ravel()[one.places].any()}
        return np.asarray(lost)

    def _take_mixed(self, open_: _Mask, regions: Regions) -> _Mask:
        """Takes areas that are no regions, but whose colors lie between paints of the picture, as those of fine lines
        and of shading do; gives which pixels these are."""
        taken = np.zeros(self.area.shape, dtype=np.bool_)
        flat = self.area[(self.area >= 0) & (self.area < GRADIENTS)]
        shares = np.bincount(flat, minlength=len(self.paints)) + self._of_blends()
        main = np.argsort(-shares, kind="stable")[:_MAIN]
        labels = ndimage.label(open_)[0].ravel()
        places = np.flatnonzero((labels > 0) & (self.area.ravel() < 0)).astype(np.int32)
        places = places[np.argsort(labels[places], kind="stable")]
        numbers, starts, sizes = np.unique(labels[places], return_index=True, return_counts=True)
        if len(main) < 2 or not len(numbers):
            return taken
        # All of them are asked at once, each by some of its pixels: there may be thousands.
        every = np.maximum(sizes // _LOOKED_AT, 1)
        own = np.repeat(np.arange(len(numbers)), sizes)
        asked = (np.arange(len(places)) - starts[own]) % every[own] == 0
        asked &= (sizes >= _LEAST_GRADIENT)[own]
        some, off = between(self.flat[places[asked]], self.paints, main, places[:0])
        near, of = off <= self.how.loose, own[asked]
        counts = np.maximum(np.bincount(of, minlength=len(numbers)), 1)
        mixed = np.bincount(of, near, len(numbers)) >= _MOSTLY * counts
        quiet = np.bincount(own, regions.of.ravel()[places] >= 0, len(numbers)) >= _MOSTLY * sizes
        for one in np.flatnonzero(mixed & ~quiet).tolist():
            among = slice(*np.searchsorted(of, (one, one + 1)).tolist())
            mixed[one] = of_usual_pairs(some.of[among][near[among]], _FEW_PAIRS) >= _USUAL * counts[one]
        mixed[np.argsort(-sizes * mixed, kind="stable")[_MOST_MIXED:]] = False
        if mixed.any():
            blend, _ = between(self.flat[places[mixed[own]]], self.paints, main, places[mixed[own]])
            for number, part in zip(numbers[mixed].tolist(), blend.split(sizes[mixed]), strict=True):
                self._take_blend(-number, part)
            taken.ravel()[blend.places] = True
        return taken

    def _take_thin(self, fitted: Fitted) -> Fitted:
        """Takes paints of what is too thin to be a region, such as letters, as long as one explains a good deal."""
        self.large = len(self.paints)
        for _ in range(_THIN):
            left = fitted.places[~fitted.fits]
            color = self._thin_paint(left) if len(left) >= self._least_thin else None
            if color is None or len(self.paints) >= _MOST_PAINTS:
                break
            # What is a known paint but for noise is that, in letters too.
            [number] = self._know(color[None], 0.0 if self.how.exact else _THIN_SAME)
            near = np.linalg.norm(self.flat[left] - color.astype(np.float32), axis=1)
            self.area.ravel()[left[near <= (0 if self.how.exact else _THIN_SAME)]] = number
            near = within_reach(self.area == number, fitted.places)
            anew = fitted.places[~fitted.fits & near & (self.area.ravel()[fitted.places] < 0)]
            stays = fitted.fits | (~near & (self.area.ravel()[fitted.places] < 0))
            fitted = fitted.chosen(stays).with_(self._fit(anew))
        return fitted

    def _without_small(self, fitted: Fitted) -> Fitted:
        """Without paints that are hardly there, such as a mix that happens to come again and again along an edge, and
        thin ones that are mixes of thin ones found later."""
        area = self.area.ravel()
        if not self.how.exact:
            self._join()
        beneath = area[fitted.of.ravel()]
        whole = np.concatenate([area[area >= 0], beneath[beneath >= 0]])
        weight = np.concatenate([np.ones((area >= 0).sum()), fitted.parts.ravel()[beneath >= 0]])
        much = np.bincount(whole, weight, GRADIENTS).astype(np.float64)
        least = max(_LEAST_PAINT * self.again, _LEAST_PAINT_PART * self.size) if self.how.exact else self._least_thin
        knots = {int(one) for blend in self.blends.values() for one in np.unique(blend.of)}
        lost = np.zeros(area.size, dtype=np.bool_)
        counts = np.bincount(area[area >= 0], minlength=len(self.paints))
        for paint in sorted(set(range(len(self.paints))) - knots, key=lambda one: (much[one], one)):
            if (
                much[paint] < least
                or self._is_noise(paint, much)
                or (paint >= self.large and self._is_mix(paint, counts))
            ):
                places = np.flatnonzero(area == paint)
                much[paint] = counts[paint] = 0
                area[places], lost[places] = NONE, True
        open_ = np.flatnonzero(lost).astype(np.int32)
        found = (
            rings(self.area, self.paints, much[: len(self.paints)] + self._of_blends(), knots) if self.how.exact else []
        )
        for ring in found:
            much[ring.paint] = 0
            area[ring.places] = NONE
            lost[ring.places] = True
            self._rename(ring.paint, ring.of)
        if lost.any():
            touched = np.asarray((lost[fitted.of] & (fitted.parts != 0)).any(axis=1))
            fitted = fitted.chosen(~touched).with_(self._fit(np.concatenate([open_, fitted.places[touched]])))
            for ring in found:
                fitted = fitted.with_(ring.as_mix(self.area))
        kept = [
            paint
            for paint in np.argsort(-much[: len(self.paints)], kind="stable")[:_FAR].tolist()
            if (area == paint).any()
        ]
        spots = np.array([int(np.argmax(area == paint)) for paint in kept], dtype=np.int32)
        limit = self.how.fits if self.how.exact else np.inf
        left = fitted.chosen(~fitted.fits)
        anew = with_far(self.flat, left, self.area, self.paints[kept], spots, limit, self.how, self.alpha)
        return fitted.chosen(fitted.fits).with_(anew)

    def _of_blends(self) -> npt.NDArray[np.float64]:
        """How many pixels each paint is in gradients."""
        return sum((blend.shares(len(self.paints)) for blend in self.blends.values()), np.zeros(len(self.paints)))

    def _rename(self, paint: int, as_: int) -> None:
        """Gradients end in another paint, from which theirs hardly differs."""
        for blend in self.blends.values():
            blend.of[(blend.of == paint) & (blend.parts != 0)] = as_
        for key, pairs in self.soft.items():
            renamed = ((as_ if one == paint else one, as_ if other == paint else other) for one, other in pairs)
            self.soft[key] = [pair for pair in renamed if pair[0] != pair[1]]

    def _join(self) -> None:
        """Makes one of what coding made several paints, in small places: the one of which there is most."""
        flat = self.area[(self.area >= 0) & (self.area < GRADIENTS)]
        much = np.bincount(flat, minlength=len(self.paints)) + self._of_blends()
        plain, known = self.paints.astype(np.float64), seen_as(self.paints, self.how)
        for paint in np.argsort(much, kind="stable").tolist():
            if much[paint] > _NOISE_PART * self.size:
                break
            apart, seen = (np.linalg.norm(one - one[paint], axis=1) for one in (plain, known))
            near = (apart <= _SAME) | (seen <= _ONE_BUT_FOR_NOISE[int(much[paint] < self._least_thin)])
            more = np.flatnonzero(near & (much > much[paint]))
            if len(more):
                same = int(more[apart[more].argmin()])
                self.area[self.area == paint] = same
                self._rename(paint, same)
                much[same] += much[paint]
                much[paint] = 0

    def _is_noise(self, paint: int, much: npt.NDArray[np.float64]) -> bool:
        """Whether a paint of a lossy picture is what coding makes of another, of which there is much more."""
        if self.how.exact or much[paint] > _NOISE_PART * self.size:
            return False
        known = seen_as(self.paints, self.how)
        near = np.linalg.norm(known - known[paint], axis=1) <= self.how.fits
        return bool((near & (much[: len(known)] > _NOISE_BESIDE * much[paint])).any())

    def _is_mix(self, paint: int, counts: npt.NDArray[np.integer]) -> bool:
        """Whether a thin paint is a mix of what is around it and another, of which there is not much less (`counts` are
        the pixels of each): letters are often so thin that few of their pixels are the ink itself."""
        if counts[paint] > _FEW_PIXELS * self.again or not counts[paint]:
            return not counts[paint]
        places = np.flatnonzero(self.area == paint).astype(np.int32)
        names, near = near_places(self.area, places, 2)
        other = np.where(names[0] == paint, near[1], near[0])
        ground = seen_as(self.flat[other], self.how)
        own = seen_as(self.flat[places], self.how)
        for ink in range(len(self.paints)):
            more = ink != paint and 2 * counts[ink] >= len(places)
            if more and explained(own, ground, seen_as(self.paints[ink : ink + 1], self.how), self.how).all():
                return True
        return False

    @property
    def _least_thin(self) -> float:
        """How many pixels a thin paint has to explain."""
        return _LEAST_THIN * self.again if self.how.exact else max(_LEAST_THIN_LOSSY, _LEAST_THIN_PART * self.size)

    def _thin_paint(self, left: Places) -> Levels | None:
        """The color of which most of some pixels are mixes, with what is around each; None where it is too few."""
        some = left[:: max(len(left) // _TRIED_ON, 1)]
        names, near = near_places(self.area, some, 1)
        own, has = seen_as(self.flat[some], self.how), names[0] >= 0
        ground = np.where(has[:, None], seen_as(self.flat[near[0]], self.how), 1e4).astype(np.float32)
        codes, at, counts = np.unique(codes_of(self.flat[some]), return_inverse=True, return_counts=True)
        far = np.zeros(len(codes))
        np.maximum.at(far, at.ravel(), np.linalg.norm(own - ground, axis=1) * has)
        # What is there most often, and what is farthest from its ground: mixes lie between.
        often = np.argsort(-counts, kind="stable")[:_TRIED]
        farthest = np.argsort(-far, kind="stable")[:_TRIED]
        tried = np.array([*dict.fromkeys((*often.tolist(), *farthest.tolist()))])
        colors = colors_of(codes[tried])
        mixes = explained(own, ground, seen_as(colors, self.how), self.how)
        gained = [int((mix | (at.ravel() == one)).sum()) for one, mix in zip(tried.tolist(), mixes, strict=True)]
        best = int(np.argmax(gained))
        return colors[best] if gained[best] > self._least_thin * len(some) / len(left) - 1 else None

    def _mixture(self, fitted: Fitted) -> Mixture:
        """All of it, with the paints that are left, the largest first."""
        area = self.area
        at = np.where((area >= 0) & (area < GRADIENTS), area, OTHER).astype(np.uint8)
        shades = Blended.joined(list(self.blends.values()))
        shares = Mixture(self.paints, at, shades, Blended.none()).shares()
        order = np.argsort(-shares, kind="stable")
        order = order[shares[order] > 0]
        rank = np.full(OTHER + 1, OTHER, dtype=np.uint8)
        rank[order] = np.arange(len(order))
        pairs = {tuple(sorted((int(rank[one]), int(rank[two])))) for key in self.blends for one, two in self.soft[key]}
        of = rank[shades.of].astype(np.int32)
        of[shades.parts == 0] = 0
        return Mixture(
            self.paints[order],
            rank[at],
            Blended(shades.places, of, shades.parts, shades.rest),
            fitted.blended(self.how.exact),
            frozenset((one, two) for one, two in pairs if one != two),
            fitted.unsure,
        )
