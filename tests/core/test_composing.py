"""What composing promises: proposals keep to the wish, names differ, changes are followed, shares are true."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pavese.core.color.contrast import BLACK, LARGE, TEXT, WHITE, contrast_ratio
from pavese.core.color.difference import difference, differences
from pavese.core.color.families import COLORFUL, HueFamily, families_of
from pavese.core.color.neutrals import Shade, tinted
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError
from pavese.core.kit.changes import (
    changed,
    duplicated,
    reordered,
    with_base,
    with_pin,
    with_proposal,
    with_tinted,
    without,
)
from pavese.core.kit.kit import Kit
from pavese.core.kit.meaning import reading_of
from pavese.core.kit.names import PLAIN, suggest, theme_names
from pavese.core.kit.proportions import inks_of, layouts, slots, usual_colors
from pavese.core.kit.proposals import Proposal, gallery, next_seed, propose
from pavese.core.kit.remarks import remarks
from pavese.core.kit.role import Role
from pavese.core.kit.samples import Samples
from pavese.core.kit.shelf import ShelfWish, search, shelf
from pavese.core.kit.word_lists import themes
from pavese.demo.load import demo_kit
from tests.core.strategies import colors, kits

wished = st.lists(st.sampled_from(list(Role)), min_size=1, max_size=4)
seeds = st.builds(
    lambda first, more: ".".join(map(str, [first, *more])),
    st.integers(0, 9999),
    st.lists(st.integers(0, 99), max_size=3),
)


def proposed(kit: Kit, kept: list[str], roles: list[Role], seed: str) -> Proposal | None:
    """A proposal; None where no color is left that can be pressed."""
    try:
        return propose(kit, kept, roles, seed)
    except InvalidKitError as error:
        if "No action color is left" in str(error):
            return None
        raise


@settings(max_examples=60)
@given(kits(smallest=0, largest=5), wished, seeds)
def test_a_proposal_satisfies_the_wish(kit: Kit, roles: list[Role], seed: str) -> None:
    kept = [color.key for color in kit.colors]
    made = proposed(kit, kept, roles, seed)
    if made is None:
        # Colors at random may leave no room for an action color: that is said, not papered over.
        assert Role.ACTION in roles
        return
    assert sorted(new.role for new in made.new) == sorted(roles)
    assert propose(kit, kept, roles, seed) == made
    whole = with_proposal(kit, kept, made.new)
    assert [color for color in whole.colors if color.key in kept] == list(kit.colors)
    grounds = [color.base for color in whole.colors if color.role is Role.BACKGROUND] or [WHITE]
    inks = [c.base for c in whole.colors if c.role in (Role.TEXT_DARK, Role.TEXT_LIGHT, Role.BACKGROUND)] + [
        WHITE,
        BLACK,
    ]
    for new in made.new:
        if new.role is Role.ACTION and roles.count(Role.ACTION) == 1:
            assert all(contrast_ratio(new.color, ground) >= LARGE for ground in grounds)
            assert any(contrast_ratio(new.color, ink) >= TEXT for ink in inks)
            others = [color.base for color in whole.colors if color.base != new.color]
            assert min((difference(new.color, other) for other in others), default=100) >= 20


def test_a_gallery_is_nine_kits_unlike_each_other_that_can_be_found_again() -> None:
    kit = demo_kit()
    kept = [color.key for color in kit.colors if color.role is not Role.ACTION]
    found = gallery(kit, kept, [Role.ACTION, Role.NEUTRAL])
    assert len(found) == 9
    for one, other in combinations(found, 2):
        assert max(difference(a.color, b.color) for a, b in zip(one.new, other.new, strict=True)) >= 4
    for proposal in found:
        assert propose(kit, kept, [Role.ACTION, Role.NEUTRAL], proposal.seed) == proposal
        assert proposal.figures.action_distance is not None
        assert proposal.figures.action_distance >= 20
    like = gallery(kit, kept, [Role.ACTION, Role.NEUTRAL], f"{found[4].seed}.1")
    away = [difference(a.new[0].color, found[4].new[0].color) for a in like]
    assert np.median(away) < np.median([difference(a.new[0].color, found[4].new[0].color) for a in found])
    assert next_seed("7.2") == "7.3"


@pytest.mark.parametrize(
    ("roles", "seed"), [([], "1"), ([Role.ACCENT] * 13, "1"), ([Role.ACCENT], "x"), ([Role.ACCENT], "")]
)
def test_wishes_that_cannot_be_granted(roles: list[Role], seed: str) -> None:
    for ask in (propose, gallery):
        with pytest.raises(InvalidKitError):
            ask(demo_kit(), [], roles, seed)


def test_a_whole_proposal_takes_over_what_pointed_to_the_old_colors() -> None:
    kit = demo_kit()
    made = propose(kit, ["deep-water", "fog"], [Role.ACTION, Role.TEXT_DARK], "3")
    whole = with_proposal(kit, ["deep-water", "fog"], made.new)
    assert {color.key for color in whole.colors} == {"deep-water", "fog", "buoy", "hull"}
    assert whole.color("buoy").base == next(new.color for new in made.new if new.role is Role.ACTION)


@settings(max_examples=40)
@given(
    st.lists(colors, min_size=1, max_size=20),
    st.sampled_from(theme_names()),
    st.lists(st.sampled_from(["Kelp", "Fog"])),
)
def test_names_are_unique_stable_and_not_taken(many: list[Rgb], theme: str, taken: list[str]) -> None:
    names = suggest(many, theme, taken)
    folded = [name.casefold() for name in names]
    assert len(set(folded)) == len(many)
    assert not set(folded) & {name.casefold() for name in taken}
    assert suggest(many, theme, taken) == names
    assert all(name.strip() == name and 0 < len(name) <= 80 for name in names)


def test_word_lists_are_many_and_each_word_fits_its_own_region() -> None:
    assert len(themes()) >= 10
    assert theme_names()[0] == PLAIN
    for theme, words in themes().items():
        assert len({word.text.casefold() for word in words}) == len(words) >= 12, theme
    assert suggest([Rgb(11, 94, 107)], "harbor") == ["Deep water"]
    with pytest.raises(InvalidKitError, match="no names on"):
        suggest([Rgb(0, 0, 0)], "motor cars")


def test_the_shelf_holds_three_hundred_palettes_that_are_what_they_say() -> None:
    assert len(shelf()) >= 300
    assert len({palette.name for palette in shelf()}) == len(shelf())
    builds = {palette.build for palette in shelf()}
    assert len(builds) >= 12
    assert {len(palette.colors) for palette in shelf()} == {3, 4, 5, 6, 7}
    for palette in shelf():
        found = [family for family in families_of(palette.colors) if family in COLORFUL]
        assert palette.family in (found or [None]), palette.name
        assert any(contrast_ratio(one, palette.colors[0]) >= 4.5 for one in palette.colors), (
            "a text reads on its ground"
        )
        assert all(slot.ratio >= 3 for slot in palette.slots[:1])
        assert palette.moods
        assert len(palette.trades) == 3


@settings(max_examples=10)
@given(colors)
def test_a_search_by_a_color_gives_the_nearest_first(color: Rgb) -> None:
    found = search(shelf(), ShelfWish((color,)))
    away = [entry.difference for entry in found]
    assert away == sorted(away, key=lambda value: value or 0.0)
    best = found[0]
    assert len(best.nearest) == 1
    nearest = differences([color], [one for palette in shelf() for one in palette.colors]).min()
    assert best.difference == pytest.approx(nearest)
    two = search(shelf(), ShelfWish((color, Rgb(255, 255, 255))))[0]
    assert (two.difference or 0) >= best.difference - 1e-9
    assert len(two.nearest) == 2


def test_a_search_by_what_palettes_are_like_gives_such() -> None:
    like = search(shelf(), ShelfWish(like=shelf()[40]))
    assert like[0].palette is shelf()[40]
    calm = search(shelf(), ShelfWish(mood="calm", trade="finance"))
    assert calm
    assert all("calm" in entry.palette.moods and "finance" in entry.palette.trades for entry in calm)
    jewels = search(shelf(), ShelfWish((), HueFamily.JEWEL, 5))
    assert jewels
    assert all(entry.palette.family is HueFamily.JEWEL and len(entry.palette.colors) == 5 for entry in jewels)


@given(st.floats(5, 60), st.floats(1, 30))
def test_layouts_are_made_to_the_shares(middle: float, small: float) -> None:
    shares = (100 - middle - small, middle, small)
    for layout in layouts(Samples().of("Tarnmoor Ferries"), shares):
        area = {slot: sum(box.area for box in layout.boxes if box.slot == slot) for slot in (1, 2)}
        whole = layout.height
        assert area[1] / whole * 100 == pytest.approx(middle, abs=0.6)
        assert area[2] / whole * 100 == pytest.approx(small, abs=0.6)
        for box in layout.boxes:
            assert min(box.x, box.y) >= -1e-9
            assert box.x + box.width <= 1 + 1e-9
            assert box.y + box.height <= whole + 1e-9


@given(kits())
def test_text_on_every_share_reads_when_the_kit_can(kit: Kit) -> None:
    for slot in slots(usual_colors(kit), inks_of(kit)):
        # White or black always reaches 4.5 on any color.
        assert slot.ratio >= TEXT
    with pytest.raises(InvalidKitError):
        slots(usual_colors(kit), inks_of(kit), (50, 30, 10))


@given(kits(largest=4), st.sampled_from(list(Shade)), st.floats(0, 1), colors)
def test_tinted_colors_follow_their_source_until_they_are_let_go(
    kit: Kit, shade: Shade, strength: float, base: Rgb
) -> None:
    source = kit.colors[0].key
    linked = with_tinted(kit, source, [shade], strength)
    key = next(color.key for color in linked.colors if color.tint)
    followed = changed(linked, source, lambda color: with_base(color, base))
    assert followed.color(key).base == tinted(base, shade, strength)
    left = without(followed, source)
    assert left.color(key).tint is None
    assert left.color(key).base == followed.color(key).base


@given(kits(largest=4), colors, st.sampled_from(STEPS))
def test_a_pinned_step_is_that_color_until_it_is_let_go(kit: Kit, color: Rgb, step: int) -> None:
    key = kit.colors[0].key
    if step == kit.colors[0].ramp.base_step:
        with pytest.raises(InvalidKitError, match="own step"):
            with_pin(kit.colors[0], step, color)
        return
    pinned = changed(kit, key, lambda one: with_pin(one, step, color))
    assert pinned.color(key).ramp.at(step) == color
    assert pinned.color(key).ramp.pinned == {step}
    assert changed(pinned, key, lambda one: with_pin(one, step, None)) == kit


@given(kits(smallest=2, largest=5), st.randoms())
def test_order_is_free_and_copies_stand_behind(kit: Kit, chance: object) -> None:
    keys = [color.key for color in kit.colors]
    turned = keys[::-1]
    assert [color.key for color in reordered(kit, turned).colors] == turned
    with pytest.raises(InvalidKitError):
        reordered(kit, keys[1:])
    twice = duplicated(kit, keys[0])
    assert [color.base for color in twice.colors[:2]] == [kit.colors[0].base] * 2
    assert len({color.key for color in twice.colors}) == len(keys) + 1
    assert any("same color" in remark.text for remark in remarks(twice))


@given(colors)
def test_every_color_has_a_reading_that_is_marked_as_guidance(color: Rgb) -> None:
    reading = reading_of(color)
    assert reading.general
    assert reading.mind
    assert reading.regions
    assert reading.trades
