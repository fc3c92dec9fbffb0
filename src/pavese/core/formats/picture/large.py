"""A picture too large to be taken apart whole: seen, planned and measured as a small one of itself, and written a few
rows at a time."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from pavese.core.formats.picture.container import Container, fineness_of
from pavese.core.formats.picture.document import PictureDocument
from pavese.core.pictures import large
from pavese.core.pictures.large import LargeMixture, made_small
from pavese.core.pictures.mixture import Levels
from pavese.core.pictures.profile import Profile
from pavese.core.pictures.regions import PALETTE, Fineness
from pavese.core.recolor.changes import Changes, Wanted
from pavese.core.recolor.pixels import LARGE, PhotographTones


@dataclass
class SmallPicture:
    """A small picture of a large one. See `container.Container`; it is never written itself."""

    pixels: Levels
    fineness: Fineness
    profile: Profile
    turn: int
    remarks: tuple[str, ...]
    clears: bool
    #: All of them: one that is of several frames is not so large.
    seen_rows: int
    square: int = 0

    def written(self, colors: Levels, alpha: Levels | None = None, by_place: bool = False) -> bytes:
        """Never asked for."""
        raise NotImplementedError

    def bare(self, data: bytes) -> bytes:
        """Never asked for."""
        raise NotImplementedError


class LargePicture(PictureDocument):
    """See `pavese.core.formats.document.Document`."""

    as_a_whole = True

    def __init__(self, name: str, data: bytes, container: Container, opens: Callable[[str, bytes], Container]) -> None:
        pixels, by = made_small(container.pixels, large.SMALL, exact_colors=container.fineness is PALETTE)
        small = SmallPicture(
            pixels,
            fineness_of(container),
            container.profile,
            container.turn,
            (*container.remarks, LARGE),
            container.clears,
            len(pixels),
        )
        super().__init__(data, small, opens)
        self._name, self._by = name, by

    def write(self, wanted: Wanted) -> bytes:
        changes = Changes.of(wanted)
        acts = {type(act): act for act in changes.acts}
        tones = acts.get(PhotographTones)
        changed = not changes.recoloring.is_empty and bool((self._targets(changes) != self._mixture.paints).any())
        toned = tones if isinstance(tones, PhotographTones) and self.has_photograph else None
        bare = self._is_bare(changes)
        if not (changed or toned is not None or bare):
            return self._data
        container = self._opens(self._name, self._data)
        made = self._data
        if container.fineness is PALETTE and toned is None:
            # Its entries are told by the small one, which has pixels of its own.
            container.pixels = self._container.pixels
            made = container.written(self._made(changes)[0]) if changed else made
        elif changed or toned is not None:
            made = container.written(self._whole(container, changes, toned), by_place=toned is not None)
        return container.bare(made) if bare else made

    def _whole(self, container: Container, changes: Changes, tones: PhotographTones | None) -> Levels:
        """All of its colors after changes, in the place of those it had."""
        mixture = LargeMixture(self._mixture, self._by, self._fineness)
        colors = container.pixels[..., :3]
        tone = self._toner(tones, changes.resolved) if tones is not None else None
        for strip in mixture.strips(container.pixels, self._targets(changes)):
            made = strip.after
            if tone is not None and strip.photograph.any():
                made = made.copy()
                made[strip.photograph] = tone(strip.after[strip.photograph])
            colors[strip.top : strip.top + len(made)] = made
        return colors
