"""Schemes, families, proposals and the rest of composing, as they are shown."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Sequence
from dataclasses import replace

from pavese.api.composing.schemas import (
    BoxView,
    FamiliesView,
    FamilyMember,
    FamilyView,
    Gallery,
    KitSpot,
    LayoutView,
    LineView,
    PointSent,
    PointView,
    ProportionsView,
    ProposalView,
    ProposedColor,
    ReadingView,
    SchemeAsked,
    SchemeView,
    ShelfView,
    ShelvedView,
    SlotView,
    ToneView,
    TunedRow,
    TunedScheme,
    WayView,
    Wish,
)
from pavese.core.color.contrast import readable_ink, shown
from pavese.core.color.families import COLORFUL, RANGES, HueFamily, families_of, outliers, pull
from pavese.core.color.naming import describe
from pavese.core.color.notations import notations
from pavese.core.color.parse import parse_color
from pavese.core.color.schemes import RULES, Point, Rule, Wheel, at, base_for, beside, in_gamut, limits, points, tuned
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError
from pavese.core.kit.changes import with_proposal
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.meaning import GUIDANCE, reading_of
from pavese.core.kit.proportions import USUAL, Layout, Slot, dark_ground, inks_of, layouts, slots, usual_colors
from pavese.core.kit.proposals import Proposal, gallery, next_seed
from pavese.core.kit.role import Role
from pavese.core.kit.samples import Samples
from pavese.core.kit.shelf import Palette, ShelfWish, common_family, search, shelf


def scheme_view(asked: SchemeAsked, kit: Kit | None) -> SchemeView:
    """A scheme as asked for; a drag is carried out first. Raises InvalidKitError for an unknown scheme."""
    if asked.rule is None:
        free = [Point(sent.lightness, sent.chroma, sent.hue % 360) for sent in asked.points] or [_base(asked)]
        if asked.move is not None and asked.move.point < len(free):
            old = free[asked.move.point]
            free[asked.move.point] = at(asked.move.x, asked.move.y, old.lightness, asked.wheel)
        if asked.put is not None and asked.put.point < len(free):
            free[asked.put.point] = Point.of(parse_color(asked.put.code).rgb)
        return _on_wheel(free, asked, 0.0, 0.0, kit, list)
    rule = RULES.get(asked.rule)
    if rule is None:
        raise InvalidKitError(f"There is no scheme “{asked.rule[:40]}”; there are {', '.join(RULES)}.")
    spread = min(rule.spread if asked.spread is None else asked.spread, rule.most) if rule.most else 0.0
    base = _base(asked)
    if asked.locked:
        asked, spread = _around(asked, base, rule, spread)
    else:
        base = _dragged(asked, base, rule, spread)

    def whole(moved: Sequence[Point]) -> list[Point]:
        return points(moved[0], rule, asked.wheel, spread, asked.lightness, asked.chroma)

    return _on_wheel(whole([base]), asked, spread, rule.most, kit, whole)


def families_view(kit: Kit) -> FamiliesView:
    """Every color of a kit with its family."""
    bases = [color.base for color in kit.colors]
    common, apart = outliers(bases)
    return FamiliesView(
        families=[
            FamilyView(
                family=family,
                lightness=[round(edge * 100) for edge in wanted.lightness],
                chroma=list(wanted.chroma),
                colorful=family in COLORFUL,
            )
            for family, wanted in RANGES.items()
        ],
        common=common,
        members=[
            FamilyMember(
                key=color.key,
                name=color.name,
                hex=color.base.hex,
                family=family,
                outlier=i in apart,
                pulled={f: _code(pull(color.base, f)) for f in HueFamily},
            )
            for i, (color, family) in enumerate(zip(kit.colors, families_of(bases), strict=True))
        ],
    )


def tone_view(color: Rgb, held: bool) -> ToneView:
    """A color of the same tone."""
    return ToneView(hex=color.hex, ink=readable_ink(color).hex, held=held, description=describe(color))


def gallery_view(kit: Kit, wish: Wish) -> Gallery:
    """Nine proposals, each with its kit laid out at 60, 30 and 10."""
    made = gallery(kit, wish.keep, wish.roles, wish.first, theme=wish.theme)
    last = max((proposal.seed for proposal in made), key=lambda seed: int(seed.rpartition(".")[2]))
    return Gallery(proposals=[_proposal(kit, wish, proposal) for proposal in made], following=next_seed(last))


def proportions_view(
    kit: Kit, keys: tuple[str | None, str | None, str | None], shares: Sequence[float] | None
) -> ProportionsView:
    """The kit's layouts. Raises InvalidKitError for a key that is none, or shares that do not make 100."""
    usual = usual_colors(kit)
    three = [kit.color(key).base if key else color for key, color in zip(keys, usual, strict=True)]
    large, middle, small = three
    given = tuple(shares or USUAL)
    inks = inks_of(kit)
    ways = [
        ("as meant", "the quiet color carries the whole, the strong one is rare", three),
        ("inverted", "on the darkest ground of the kit", [dark_ground(kit), middle, small]),
        ("the wrong way round", "the rare color everywhere: nothing stands out any more", [small, middle, large]),
    ]
    looks = [
        WayView(name=name, words=words, slots=[_slot(slot) for slot in slots(colors, inks, given)])
        for name, words, colors in ways
    ]
    return ProportionsView(
        large=_key_of(kit, large),
        middle=_key_of(kit, middle),
        small=_key_of(kit, small),
        layouts=[_layout(layout) for layout in layouts(kit.samples.of(kit.name), given)],
        looks=looks,
    )


def _layout(layout: Layout) -> LayoutView:
    return LayoutView(
        name=layout.name,
        height=layout.height,
        boxes=[BoxView(slot=box.slot, x=box.x, y=box.y, width=box.width, height=box.height) for box in layout.boxes],
        lines=[LineView(slot=s, x=x, y=y, size=size, text=text) for s, x, y, size, text in layout.lines],
    )


def reading_view(color: Rgb) -> ReadingView:
    """How the hue of a color is often read."""
    reading = reading_of(color)
    return ReadingView(
        hue=reading.name,
        general=reading.general,
        regions=list(reading.regions),
        trades=list(reading.trades),
        mind=reading.mind,
        guidance=GUIDANCE,
    )


def shelf_view(own: Sequence[tuple[uuid.UUID, Kit]], wish: ShelfWish, like: str | None, words: Samples) -> ShelfView:
    """The kits of the workspace and the palettes of the shelf that a search finds; `like` is a palette's name.

    Raises InvalidKitError where none is named so.
    """
    owned = [(kit_id, _as_palette(kit)) for kit_id, kit in own if kit.colors]
    ids = {id(palette): kit_id for kit_id, palette in owned}
    everything = [*(palette for _, palette in owned), *shelf()]
    if like is not None:
        named = next((palette for palette in everything if palette.name == like), None)
        if named is None:
            raise InvalidKitError(f"No palette of the shelf is called “{like[:80]}”.")
        wish = replace(wish, like=named)
    return ShelfView(
        found=[
            ShelvedView(
                name=entry.palette.name,
                kit_id=ids.get(id(entry.palette)),
                family=entry.palette.family,
                build=entry.palette.build or None,
                moods=list(entry.palette.moods),
                trades=list(entry.palette.trades),
                colors=[color.hex for color in entry.palette.colors],
                slots=[_slot(slot) for slot in entry.palette.slots],
                nearest=list(entry.nearest),
                difference=None if entry.difference is None else f"{entry.difference:.1f}",
            )
            for entry in search(everything, wish)
        ],
        layouts=[_layout(layout) for layout in layouts(words)],
        moods=sorted({mood for palette in shelf() for mood in palette.moods}),
        trades=sorted({trade for palette in shelf() for trade in palette.trades}),
        total=len(everything),
    )


def _base(asked: SchemeAsked) -> Point:
    if asked.base is not None:
        return Point(asked.base.lightness, asked.base.chroma, asked.base.hue % 360)
    if asked.code is not None:
        return Point.of(parse_color(asked.code).rgb)
    raise InvalidKitError("A scheme starts from a base: give its code.")


def _dragged(asked: SchemeAsked, base: Point, rule: Rule, spread: float) -> Point:
    """The base after a drag or a number typed in; what happens to a partner turns the whole scheme with it."""
    if asked.move is not None:
        place = at(asked.move.x, asked.move.y, base.lightness, asked.wheel)
        index = min(asked.move.point, len(rule.fixed))
        base = base_for(place, index, base, rule, asked.wheel, spread, asked.chroma)
    if asked.put is not None:
        wanted = Point.of(parse_color(asked.put.code).rgb)
        index = min(asked.put.point, len(rule.fixed))
        base = base_for(wanted, index, base, rule, asked.wheel, spread, asked.chroma)
        reached = points(base, rule, asked.wheel, spread, asked.lightness, asked.chroma)[index]
        level = base.lightness + wanted.lightness - reached.lightness
        base = replace(base, lightness=min(max(level, 0.0), 1.0))
    return base


def _around(asked: SchemeAsked, base: Point, rule: Rule, spread: float) -> tuple[SchemeAsked, float]:
    """What is asked, and the spread, after a drag or a number typed in while the base stays."""
    if asked.move is not None and 0 < asked.move.point <= len(rule.fixed):
        place = at(asked.move.x, asked.move.y, base.lightness, asked.wheel)
        spread, chroma = beside(place, asked.move.point, base, rule, asked.wheel, spread)
        asked = asked.model_copy(update={"chroma": chroma})
    if asked.put is not None and 0 < asked.put.point <= len(rule.fixed):
        wanted = Point.of(parse_color(asked.put.code).rgb)
        spread, chroma = beside(wanted, asked.put.point, base, rule, asked.wheel, spread)
        reached = points(base, rule, asked.wheel, spread)[asked.put.point]
        asked = asked.model_copy(update={"chroma": chroma, "lightness": wanted.lightness - reached.lightness})
    return asked, spread


def _tuned(found: Sequence[Point], whole: Callable[[Sequence[Point]], list[Point]]) -> list[TunedRow]:
    """The scheme of these points, a step or two to both sides in each direction; `whole` completes points to it."""
    return [
        TunedRow(
            direction=direction,
            schemes=[
                TunedScheme(
                    by=by,
                    colors=[color.hex for color, _ in in_gamut(whole(moved))],
                    points=[PointSent(lightness=one.lightness, chroma=one.chroma, hue=one.hue) for one in moved],
                )
                for by, moved in row.items()
            ],
        )
        for direction, row in tuned(found, 2).items()
    ]


def _on_wheel(
    found: list[Point],
    asked: SchemeAsked,
    spread: float,
    most: float,
    kit: Kit | None,
    whole: Callable[[Sequence[Point]], list[Point]],
) -> SchemeView:
    wheel = asked.wheel
    views = []
    for point, (color, reduced) in zip(found, in_gamut(found), strict=True):
        x, y = point.place(wheel)
        views.append(
            PointView(
                lightness=point.lightness,
                chroma=point.chroma,
                hue=point.hue,
                x=x,
                y=y,
                hex=color.hex,
                ink=readable_ink(color).hex,
                reduced=reduced,
                description=describe(color),
                notations=notations(color),
            )
        )
    return SchemeView(
        points=views,
        spread=spread,
        most_spread=most,
        lightness=asked.lightness,
        chroma=asked.chroma,
        tuned=_tuned(found if asked.rule is None else found[:1], whole),
        limits=[[x, y] for x, y in limits(found[0].lightness, wheel)],
        spots=[_spot(color, wheel) for color in kit.colors] if kit else [],
    )


def _spot(color: KitColor, wheel: Wheel) -> KitSpot:
    x, y = Point.of(color.base).place(wheel)
    return KitSpot(key=color.key, name=color.name, hex=color.base.hex, x=x, y=y)


def _proposal(kit: Kit, wish: Wish, proposal: Proposal) -> ProposalView:
    whole = with_proposal(kit, wish.keep, proposal.new)
    figures = proposal.figures
    return ProposalView(
        seed=proposal.seed,
        new=[_proposed(new.name, new.role, new.color) for new in proposal.new],
        line=[_proposed(color.name, color.role, color.base) for color in whole.colors],
        slots=[_slot(slot) for slot in slots(_shown(whole, proposal), inks_of(whole))],
        readable_gained=figures.readable_gained,
        action_distance=None if figures.action_distance is None else round(figures.action_distance, 1),
        lightness_spread=round(figures.lightness_spread, 1),
        family=figures.family,
        family_fit=round(figures.family_fit),
        relation=figures.relation,
        miss=round(figures.miss, 1),
    )


def _shown(whole: Kit, proposal: Proposal) -> tuple[Rgb, Rgb, Rgb]:
    """The three colors a proposal is drawn with; where its own are not among the usual ones, its first is the rare."""
    large, middle, small = usual_colors(whole)
    new = [arrival.color for arrival in proposal.new]
    return (large, middle, small) if {large, middle, small} & set(new) else (large, middle, new[0])


def _proposed(name: str, role: Role, color: Rgb) -> ProposedColor:
    return ProposedColor(name=name, role=role, hex=color.hex, ink=readable_ink(color).hex)


def _slot(slot: Slot) -> SlotView:
    return SlotView(hex=slot.color.hex, ink=slot.ink.hex, share=slot.share, contrast=shown(slot.ratio))


def _key_of(kit: Kit, color: Rgb) -> str:
    return next((known.key for known in kit.colors if known.base == color), "")


def _as_palette(kit: Kit) -> Palette:
    colors = tuple(color.base for color in kit.colors)
    places = (colors.index(color) if color in colors else 0 for color in usual_colors(kit))
    return Palette(kit.name, common_family(colors), "", (), (), colors, *places)


def _code(color: Rgb | None) -> str | None:
    return color.hex if color else None
