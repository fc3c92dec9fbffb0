"""What a kit remembers beyond its bases: notes, pinned steps, tints; it leaves and comes back with all of it."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.contrast import contrast_ratio
from pavese.core.color.neutrals import Shade, tinted
from pavese.core.color.parse import parse_color
from pavese.core.color.ramp import PROMISES, STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError
from pavese.core.handoff.css import kit_css
from pavese.core.handoff.tokens import kit_tokens
from pavese.core.kit.changes import (
    Arrival,
    changed,
    duplicated,
    reordered,
    with_base,
    with_colors,
    with_pin,
    with_tinted,
    without,
)
from pavese.core.kit.kit import MOST_COLORS, Kit
from pavese.core.kit.ours import Verdict, nearest, verdict
from pavese.core.kit.role import Role
from pavese.core.kit.token_file import read_kit_tokens
from pavese.demo.load import demo_kit
from tests.core.strategies import colors, kits, rich_kits


@given(rich_kits())
def test_a_rich_kit_comes_back_from_its_tokens(kit: Kit) -> None:
    assert read_kit_tokens(kit_tokens(kit)) == kit


@given(rich_kits())
def test_css_holds_every_step_as_it_stands(kit: Kit) -> None:
    css = kit_css(kit)
    written = dict(re.findall(r"--([\w-]+): (#[0-9a-f]{6}|var\([^)]*\));", css))
    for color in kit.colors:
        assert written[color.key] == color.base.hex
        for step in STEPS:
            value = written[f"{color.key}-{step}"]
            if step == color.ramp.base_step:
                assert value in (color.base.hex, f"var(--{color.key})")
            else:
                assert value == color.ramp.at(step).hex


@given(rich_kits())
def test_a_tinted_color_is_what_its_source_gives(kit: Kit) -> None:
    for color in kit.colors:
        if color.tint is not None:
            source = kit.color(color.tint.of)
            assert color.base == tinted(source.base, color.tint.shade, color.tint.strength)


@given(rich_kits(), colors)
def test_every_change_leaves_a_kit_that_holds_together(kit: Kit, color: Rgb) -> None:
    first = kit.colors[0].key
    for after in (
        changed(kit, first, lambda one: with_base(one, color)),
        duplicated(kit, first),
        reordered(kit, [one.key for one in kit.colors][::-1]),
        without(kit, first),
        with_colors(kit, [Arrival("New", Role.ACTION, color)]),
    ):
        assert Kit.model_validate(after.model_dump(mode="json")) == after
        for one in after.colors:
            if one.tint is not None and one.tint.of in {known.key for known in after.colors}:
                source = after.color(one.tint.of)
                assert one.base == tinted(source.base, one.tint.shade, one.tint.strength)


@given(kits(smallest=1, largest=4), st.sampled_from(list(Role)), colors)
def test_a_new_color_stands_behind_its_own_role(kit: Kit, role: Role, color: Rgb) -> None:
    after = with_colors(kit, [Arrival("Arrived", role, color)])
    at = next(i for i, one in enumerate(after.colors) if one.name == "Arrived")
    order = list(Role)
    assert all(order.index(one.role) > order.index(role) for one in after.colors[at + 1 :])
    assert [one for one in after.colors if one.name != "Arrived"] == list(kit.colors)


def test_bounds_and_what_cannot_be_changed() -> None:
    kit = demo_kit()
    full = with_colors(kit, [Arrival(f"Color {n}", Role.ACCENT, Rgb(n, n, n)) for n in range(MOST_COLORS - 8)])
    for too_much in (
        lambda: with_colors(full, [Arrival("More", Role.ACCENT, Rgb(1, 2, 3))]),
        lambda: duplicated(full, "fog"),
        lambda: with_tinted(full, "fog", [Shade.NEUTRAL], 0.5),
    ):
        with pytest.raises(InvalidKitError, match=f"at most {MOST_COLORS}"):
            too_much()
    linked = with_tinted(kit, "deep-water", list(Shade), 0.5)
    with pytest.raises(InvalidKitError, match="itself tinted"):
        with_tinted(linked, "deep-water-neutral", list(Shade), 0.5)
    with pytest.raises(InvalidKitError, match="no step 450"):
        with_pin(kit.color("fog"), 450, Rgb(0, 0, 0))
    for gone in (
        lambda: without(kit, "nobody"),
        lambda: duplicated(kit, "nobody"),
        lambda: changed(kit, "nobody", lambda color: color),
    ):
        with pytest.raises(InvalidKitError, match="no color “nobody”"):
            gone()


@given(kits(largest=3), st.dictionaries(st.sampled_from(STEPS), colors, min_size=1, max_size=3))
def test_what_a_pin_breaks_is_listed_and_nothing_else(kit: Kit, pins: dict[int, Rgb]) -> None:
    color = kit.colors[0]
    for step, pin in pins.items():
        if step != color.ramp.base_step:
            color = with_pin(color, step, pin)
    ramp = color.ramp
    assert ramp.at(ramp.base_step) == color.base
    given_by_hand = ramp.pinned | {ramp.base_step}
    broken = ramp.breaks()
    for found in broken:
        assert contrast_ratio(ramp.at(found.light), ramp.at(found.dark)) == found.ratio < found.promised
        assert {found.light, found.dark} & given_by_hand
    for apart, promised in PROMISES:
        for light, dark in zip(STEPS, STEPS[apart:], strict=False):
            if not {light, dark} & given_by_hand:
                assert contrast_ratio(ramp.at(light), ramp.at(dark)) >= promised


@pytest.mark.parametrize(
    ("code", "expected", "name"),
    [
        ("#0b5e6b", Verdict.OURS, "Deep water base"),
        ("#0b5e6c", Verdict.OURS, "Deep water base"),
        ("#0c6270", Verdict.NEAR, "Deep water base"),
        ("#236c79", Verdict.OURS, "Deep water 600"),
        ("#2f3e9e", Verdict.OFF, None),
        ("#ff00ff", Verdict.OFF, None),
    ],
)
def test_whether_a_color_is_one_of_ours(code: str, expected: Verdict, name: str | None) -> None:
    kit = demo_kit()
    [found] = nearest([parse_color(code).rgb], kit)
    assert found is not None
    token, _, away = found
    assert verdict(away, kit.rules) is expected
    if name:
        assert kit.label(token) == name


def test_a_kit_without_colors_has_no_nearest() -> None:
    assert nearest([Rgb(1, 2, 3)], Kit(name="Empty")) == [None]
