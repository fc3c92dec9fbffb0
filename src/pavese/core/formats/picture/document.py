"""A picture as a document: its paints, and how it is written and shown with others."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import replace
from functools import cached_property

import numpy as np
import numpy.typing as npt
from PIL import Image

from pavese.core.color.contrast import BLACK, WHITE
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.document import PLAIN, WHOLE, Document, Look, Notation, Page, Preview
from pavese.core.formats.picture.container import (
    Container,
    DeepContainer,
    alpha_of,
    by_entries,
    fineness_of,
    keeps_palette,
    turned,
    unturned,
    with_alpha,
)
from pavese.core.formats.picture.logos import LogoStays, with_logo
from pavese.core.formats.picture.parts import Framed, framed, kept_in
from pavese.core.formats.picture.pointing import Headroom, rectangle, with_headline, with_objects
from pavese.core.formats.picture.touching import measured_of
from pavese.core.kit.logo_on_grounds import KitLogo
from pavese.core.pictures.box import box_of, freed
from pavese.core.pictures.in_place import around
from pavese.core.pictures.kept import kept
from pavese.core.pictures.large import LargeMixture, made_larger_by, smaller
from pavese.core.pictures.mend import is_drawn
from pavese.core.pictures.mixture import OTHER, Levels, Mixture
from pavese.core.pictures.regions import LOSSLESS, LOSSY, PALETTE, Fineness
from pavese.core.pictures.rims import with_rims
from pavese.core.pictures.tones import between, toned, tones, with_skin
from pavese.core.pictures.unmix import unmixed
from pavese.core.pictures.veil import Rectangle
from pavese.core.recolor.changes import Changes, Wanted
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.pixels import GroundKind, PhotographTones, PictureGround, Skin, Tones, WithoutMetadata
from pavese.core.recolor.pointed import HeadlineRoom, ObjectColors, PartWay, PictureParts
from pavese.core.recolor.site import Kind, Site

#: From this alpha on a pixel is seen.
_CLEAR = 8
#: Bytes that a pixel takes which is a mix.
_A_MIX = 29
#: Rows that are toned at a time.
_ROWS = 256
#: The part of a picture from which on a photograph in it is told.
_SOME = 0.03
#: How much of a drawing with noise is even, or how much of it paints tell.
_FLAT, _NEARLY_ALL = 0.2, 0.9


class PictureDocument:
    """See `pavese.core.formats.document.Document`. Paints are told in sRGB; pixels are mixed in the picture's own
    values."""

    refers: tuple[str, ...] = ()
    #: Whether nothing in it is changed by itself.
    as_a_whole = False
    pages: tuple[Page, ...] = (WHOLE,)
    looks: tuple[Look, ...] = (PLAIN,)

    def __init__(self, data: bytes, container: Container, opens: Callable[[str, bytes], Container]) -> None:
        self._data = data
        self._container, self._opens = container, opens
        self._colors = np.ascontiguousarray(container.pixels[..., :3])
        # One of several frames or pages.
        self.as_a_whole |= container.seen_rows != len(container.pixels)

    @cached_property
    def _larger_by(self) -> int:
        """By how much it was made larger before, as far as that tells how it is taken apart."""
        apart = self.as_a_whole or self._container.fineness is PALETTE
        return 1 if apart else made_larger_by(self._container.pixels)

    @property
    def _mixture(self) -> Mixture:
        return self._taken_apart[0]

    @property
    def _fineness(self) -> Fineness:
        """How exact its values turned out to be."""
        return self._taken_apart[1]

    @cached_property
    def _taken_apart(self) -> tuple[Mixture, Fineness]:
        how = fineness_of(self._container, self._larger_by)
        mixture = self._unmixed(how)
        if how is LOSSLESS and not len(mixture.paints):
            # Noise that left no trace makes a photograph of a drawing, if every value is taken for exact.
            coarse = self._unmixed(LOSSY)
            known, even = (part[self._seen].sum() for part in (coarse.known, coarse.at != OTHER))
            if len(coarse.paints) and (even >= _FLAT * self._seen.sum() or known >= _NEARLY_ALL * self._seen.sum()):
                return coarse, LOSSY
        return mixture, how

    def _unmixed(self, how: Fineness) -> Mixture:
        by, rows = self._larger_by, self._container.seen_rows
        return kept(self._container.pixels, f"{how} {by} {rows}", lambda: self._found(how, by))

    def _found(self, how: Fineness, by: int) -> Mixture:
        pixels = self._container.pixels
        if by > 1:
            found = LargeMixture(unmixed(smaller(pixels, by), how), by, how).whole(pixels)
        else:
            found = unmixed(pixels, how, -(-len(pixels) // self._container.seen_rows))
        # An entry of a palette is what it is wherever it stands.
        return found if how is PALETTE else with_rims(found, pixels, how)

    def embedded(self) -> Sequence[Document]:
        return ()

    @property
    def weight(self) -> int:
        """Bytes that it takes in memory."""
        mixed = 0
        if "_taken_apart" in vars(self):
            mixed = len(self._mixture.edges.places) + len(self._mixture.shades.places)
        deep = self._container.deep.nbytes if isinstance(self._container, DeepContainer) else 0
        return deep + self._container.pixels.nbytes + self._colors.nbytes + self._colors[..., 0].size + _A_MIX * mixed

    @cached_property
    def paints(self) -> tuple[Rgba, ...]:
        """What each paint of the mixture is in sRGB; two may be the same there."""
        plain = self._container.profile.to_srgb(self._mixture.paints)
        return tuple(Rgba(int(r), int(g), int(b), 1.0) for r, g, b in plain)

    def sites(self) -> Iterator[Site]:
        return (Site(paint, Kind.FILL) for paint in self.paints)

    def inventory(self) -> Inventory:
        pairs = ((self.paints[one], self.paints[other]) for one, other in self._mixture.soft)
        blends = {(min(pair), max(pair)) for pair in pairs if pair[0] != pair[1]}
        return Inventory.count(self.sites(), [*self._container.remarks, *self._kept()], sorted(blends))

    @property
    def is_photograph(self) -> bool:
        """Whether nothing in it is flat, nor a panel that lies on it."""
        return not len(self._mixture.paints) and self.known_part == 0

    @property
    def has_photograph(self) -> bool:
        """Whether a part of it that counts is a photograph."""
        return 1 - self.known_part >= _SOME

    def _kept(self) -> Iterator[str]:
        """What is said of what no paint is."""
        photograph = 1 - self.known_part
        if self.is_photograph:
            yield "It is a photograph: nothing in it is flat."
        elif self.has_photograph:
            yield f"A photograph fills {photograph:.0%} of it and stays as it is."

    @cached_property
    def known_part(self) -> float:
        """What part of it that is seen paints tell."""
        known = self._mixture.known[self._seen]
        return float(known.mean()) if known.size else 1.0

    def measured(self) -> Measured:
        """How much each paint is, and which touch."""
        return measured_of(self._mixture, self.paints, alpha_of(self._container.pixels))

    def write(self, wanted: Wanted) -> bytes:
        changes = Changes.of(wanted)
        colors, alpha = self._made(changes)
        same = alpha is None and (colors is self._colors or (colors == self._colors).all())
        by_place = any(act.by_place for act in changes.acts)
        container = self._container
        by_colors_alone = all(isinstance(act, WithoutMetadata) for act in changes.acts)
        if same:
            made = self._data
        elif by_colors_alone and isinstance(container, DeepContainer):
            made = container.written_deep(self._mixture.exchanged_deep(container.deep, self._targets(changes)))
        else:
            made = container.written(colors, alpha, by_place)
        return self._container.bare(made) if self._is_bare(changes) else made

    @staticmethod
    def _is_bare(changes: Changes) -> bool:
        return any(isinstance(act, WithoutMetadata) for act in changes.acts)

    def preview(self, wanted: Wanted, page: int | None = None, look: Look = PLAIN) -> Preview:
        """As a PNG in sRGB, upright; of one that moves, its first frame."""
        made, alpha = self._made(Changes.of(wanted))
        rows = slice(0, self._container.seen_rows)
        shown = self._container.profile.to_srgb(np.ascontiguousarray(made[rows]))
        alpha = alpha_of(self._container.pixels) if alpha is None else alpha
        whole = with_alpha(shown, None if alpha is None else alpha[rows])
        target = io.BytesIO()
        Image.fromarray(turned(whole, self._container.turn)).save(target, "PNG", compress_level=0)
        return Preview(Notation.PICTURE, target.getvalue(), look)

    def _made(self, changes: Changes) -> tuple[Levels, Levels | None]:
        """Its colors after all changes, and its alpha where that is another; the very colors where nothing changes."""
        colors = self._colors
        acts = {type(act): act for act in changes.acts if not (act.still and self.as_a_whole)}
        parts = acts.get(PictureParts)
        framed_parts = self._framed(parts) if isinstance(parts, PictureParts) else ()
        # What it is a mixture of is told only where its paints change.
        if not changes.recoloring.is_empty:
            colors = self._exchanged(self._targets(changes), framed_parts)
            if (rest := changes.recoloring.rest) is not None and not self._mixture.known.all():
                colors = np.where(self._mixture.known[..., None], colors, np.array(self._own(rest), dtype=np.uint8))
        alpha = None
        # In whatever order they were chosen: what the picture is, what is in it, what it stands on, what lies over it.
        if isinstance(tones := acts.get(PhotographTones), PhotographTones):
            colors = self._toned(colors, tones, changes.resolved, framed_parts)
        if isinstance(things := acts.get(ObjectColors), ObjectColors) and things.objects:
            colors = self._in_plain(colors, lambda seen: with_objects(self._came, seen, things, changes.resolved))
        if isinstance(ground := acts.get(PictureGround), PictureGround):
            colors, alpha = self._grounded(colors, ground, changes.resolved[ground.color])
        if isinstance(headline := acts.get(HeadlineRoom), HeadlineRoom):
            colors = self._in_plain(colors, lambda seen: self._with_room(seen, headline, changes.resolved)[0])
        if isinstance(parts, PictureParts) and parts.with_logo and changes.logo is not None:
            colors, alpha, _ = self._with_logos(colors, alpha, parts, changes.logo)
        by_place = any(act.by_place for act in acts.values())
        if colors is not self._colors and keeps_palette(self._container.fineness, alpha, by_place):
            colors = by_entries(self._container.pixels, colors)
        return colors, alpha

    def _with_logos(
        self, colors: Levels, alpha: Levels | None, act: PictureParts, logo: KitLogo | None
    ) -> tuple[Levels, Levels | None, tuple[str, ...]]:
        """With the kit's logo where it is to stand, and of each part why it does not; "" where it does, or is not to.
        The very colors where it stands nowhere."""
        turn, noise = self._container.turn, self._fineness.noise
        had = alpha_of(self._container.pixels)
        now = had if alpha is None else alpha
        had, clear = (None if one is None else turned(one, turn) for one in (had, now))
        under = made = self._upright(colors)
        why = [""] * len(act.parts)
        for number, part in enumerate(act.parts):
            if part.way is not PartWay.LOGO:
                continue
            frame = rectangle(part.region, under.shape)
            there = around(frame, under.shape)
            own = Rectangle(*(at - there.top for at in frame[:2]), *(at - there.left for at in frame[2:]))
            came, become = _in_four(self._came, had, there), _in_four(made, clear, there)
            laid = with_logo(came, become, own, logo, noise, (there.left, under.shape[1] - there.right))
            if isinstance(laid, LogoStays):
                why[number] = laid
                continue
            if made is under:
                made, clear = under.copy(), None if clear is None else clear.copy()
            there.of(made)[:] = laid[..., :3]
            if clear is not None:
                there.of(clear)[:] = laid[..., 3]
        if made is not under:
            colors = self._in_plain(colors, lambda _: made)
            alpha = alpha if clear is None else np.ascontiguousarray(unturned(clear, turn))
        return colors, alpha, tuple(why)

    def logos(self, wanted: Wanted) -> tuple[str, ...]:
        """Of each of its parts why the kit's logo does not stand there; "" where it does, or is not to."""
        changes = Changes.of(wanted)
        act = next((act for act in changes.acts if isinstance(act, PictureParts)), None)
        if act is None or self.as_a_whole:
            return ()
        return self._with_logos(*self._made(replace(changes, logo=None)), act, changes.logo)[2]

    def _framed(self, act: PictureParts) -> tuple[Framed, ...]:
        turn = self._container.turn
        seen = turned(self._colors[..., 0], turn).shape
        return tuple(Framed(one.way, unturned(one.where, turn)) for one in framed(act, seen))

    def _exchanged(self, targets: Levels, parts: Sequence[Framed]) -> Levels:
        """Its colors with other paints, but for parts that keep theirs; the very colors where none changes."""
        paints = self._mixture.paints
        if (targets == paints).all():
            return self._colors
        colors = self._mixture.exchanged(self._colors, targets)
        for part in parts:
            if part.way in (PartWay.COLORS, PartWay.LOGO):
                own = np.where(kept_in(self._mixture, part.where)[:, None], paints, targets)
                colors[part.where] = self._mixture.exchanged(self._colors, own)[part.where]
            elif part.way is not PartWay.DRAWN:
                colors[part.where] = self._colors[part.where]
        return colors

    def photograph(self, act: PictureParts | None = None) -> npt.NDArray[np.bool_]:
        """What of it is taken for a photograph, shape (rows, columns), as it is seen, upright."""
        taken = self._photograph(self._framed(act) if act else ())
        return turned(taken, self._container.turn)

    def _photograph(self, parts: Sequence[Framed]) -> npt.NDArray[np.bool_]:
        taken = ~self._mixture.known & self._seen
        for part in parts:
            if part.way is PartWay.PHOTOGRAPH:
                taken |= part.where & self._seen
            elif part.way not in (PartWay.COLORS, PartWay.LOGO):
                taken &= ~part.where
        return taken

    def headroom(self, wanted: Wanted) -> Headroom | None:
        """What its headline has under it; None where it has none."""
        changes = Changes.of(wanted)
        act = next((act for act in changes.acts if isinstance(act, HeadlineRoom)), None)
        if act is None or self.as_a_whole:
            return None
        others = replace(changes, acts=tuple(one for one in changes.acts if one is not act))
        return self._with_room(self._upright(self._made(others)[0]), act, changes.resolved)[1]

    def _with_room(self, seen: Levels, act: HeadlineRoom, resolved: Mapping[str, Rgb]) -> tuple[Levels, Headroom]:
        as_it_is = self._container.fineness.exact and self._container.profile.is_plain
        return with_headline(seen, act, resolved, None if as_it_is else self._read_back)

    def _read_back(self, seen: Levels, part: Rectangle) -> Levels:
        """What is read of a part of pixels, in sRGB and upright, once they are coded."""
        square = self._container.square
        if square and self._container.turn == 1:
            # Only what is coded with it is needed.
            top, left = part.top // square * square, part.left // square * square
            bottom, right = (-(-end // square) * square for end in (part.bottom, part.right))
            seen = seen[top:bottom, left:right]
            part = Rectangle(part.top - top, part.bottom - top, part.left - left, part.right - left)
        made = self._container.written(self._own_of(seen))
        return part.of(self._upright(self._opens("", made).pixels[..., :3]))

    @cached_property
    def _came(self) -> Levels:
        """Its pixels as they came, in sRGB and upright."""
        return self._upright(self._colors)

    def _upright(self, colors: Levels) -> Levels:
        plain = self._container.profile.to_srgb(np.ascontiguousarray(colors))
        return turned(plain, self._container.turn)

    def _own_of(self, seen: Levels) -> Levels:
        """Pixels that are in sRGB and upright in its own values, as they lie in it."""
        lying = np.ascontiguousarray(unturned(seen, self._container.turn))
        return self._container.profile.from_srgb(lying)

    def _in_plain(self, colors: Levels, changed: Callable[[Levels], Levels]) -> Levels:
        """Its colors after a change that is made in sRGB and upright; what does not change has the very values it
        had."""
        before = self._upright(colors)
        after = changed(before)
        if self._container.profile.is_plain:
            return np.ascontiguousarray(unturned(after, self._container.turn))
        moved = unturned((before != after).any(axis=2), self._container.turn)
        return np.where(moved[..., None], self._own_of(after), colors)

    def _toned(
        self, colors: Levels, act: PhotographTones, resolved: Mapping[str, Rgb], parts: Sequence[Framed]
    ) -> Levels:
        """With what is a photograph in few tones."""
        photograph = self._photograph(parts)
        if photograph.sum() < _SOME * max(self._seen.sum(), 1):
            return colors
        tone = self._toner(act, resolved)
        made = colors.copy()
        for top in range(0, len(made), _ROWS):
            rows = slice(top, top + _ROWS)
            where = photograph[rows]
            if where.all():
                made[rows] = tone(colors[rows].reshape(-1, 3)).reshape(made[rows].shape)
            elif where.any():
                made[rows][where] = tone(colors[rows][where])
        return made

    def _toner(self, act: PhotographTones, resolved: Mapping[str, Rgb]) -> Callable[[Levels], Levels]:
        """What brings its own values, shape (n, 3), to few tones."""
        dark, light = resolved[act.dark], resolved[act.light]
        ways = {
            Tones.TWO: (dark, light),
            Tones.THREE: (dark, resolved[act.middle], light) if act.middle else (dark, light),
            Tones.ONE: (BLACK, dark, WHITE),
            Tones.GREY: (BLACK, WHITE),
        }
        profile = self._container.profile
        table = between(tones(ways[act.tones]), act.dark_end / 100, act.light_end / 100)

        def tone(values: Levels) -> Levels:
            plain = profile.to_srgb(values[None])[0]
            new = toned(plain, table, act.strength / 100)
            new = with_skin(plain, new) if act.skin is Skin.KEPT else new
            return np.asarray(profile.from_srgb(new[None])[0])

        return tone

    def _grounded(self, colors: Levels, act: PictureGround, color: Rgb) -> tuple[Levels, Levels | None]:
        """With another ground round what it shows; as it is where it has none that is even."""
        had = alpha_of(self._container.pixels)
        whole = with_alpha(colors, np.full(colors.shape[:2], 255, dtype=np.uint8) if had is None else had)
        if box_of(whole) is None:
            return colors, None
        shown = freed(whole, inside=is_drawn(whole))
        if act.kind is GroundKind.CLEAR and self._container.clears:
            return shown[..., :3], shown[..., 3]
        laid = Image.new("RGBA", (whole.shape[1], whole.shape[0]), (*self._own(color), 255))
        laid.alpha_composite(Image.fromarray(shown))
        return np.asarray(laid.convert("RGB")), None

    def _own(self, color: Rgb) -> Rgb:
        """A color in the picture's own values."""
        found = self._container.profile.from_srgb(np.array([[color]], dtype=np.uint8))[0, 0]
        return Rgb(*map(int, found))

    @cached_property
    def _seen(self) -> npt.NDArray[np.bool_]:
        alpha = alpha_of(self._container.pixels)
        return np.ones(self._colors.shape[:2], dtype=np.bool_) if alpha is None else alpha >= _CLEAR

    def _targets(self, changes: Changes) -> Levels:
        """What each paint becomes, in the picture's own values; one that is kept has the very values it had."""
        targets = self._mixture.paints.copy()
        for number, paint in enumerate(self.paints):
            color: Rgb | None = changes.recoloring.at(paint, Kind.FILL)
            if color is not None and color != paint.rgb:
                targets[number] = self._own(color)
        return targets


def _in_four(colors: Levels, alpha: Levels | None, part: Rectangle) -> Levels:
    """A part of a picture with an alpha."""
    some = part.of(colors)
    return np.dstack([some, np.full(some.shape[:2], 255, dtype=np.uint8) if alpha is None else part.of(alpha)])
