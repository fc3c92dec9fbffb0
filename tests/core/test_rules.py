"""Rules: one choice for all that does one thing in a set."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.srgb import Rgba
from pavese.core.errors import InvalidPlanError
from pavese.core.handoff.plan_file import plan_file, read_plan_file
from pavese.core.recolor.assign import assign
from pavese.core.recolor.inventory import Inventory, SetPaints, summarize
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.target import resolve_target
from pavese.demo.load import demo_kit
from tests.core.strategies import colors

KIT = demo_kit()
_paints = st.builds(lambda color: Rgba(*color), colors)
_sites = st.lists(st.tuples(_paints, st.sampled_from([Kind.FILL, Kind.TEXT, Kind.STROKE])), min_size=1, max_size=12)
_rules = st.dictionaries(
    st.sampled_from([Kind.FILL, Kind.TEXT, Kind.STROKE]),
    st.sampled_from(["fog.base", "hull.900", "deep-water.600", "keep"]),
    min_size=1,
    max_size=2,
)


def found(sites: list[tuple[Rgba, Kind]]) -> SetPaints:
    return summarize([Inventory.count(sites)])


def becomes(plan: Plan, paint: Rgba, kind: Kind) -> Rgba:
    color = plan.recoloring(KIT, "a.svg").at(paint, kind)
    return paint if color is None else Rgba(*color, paint.alpha)


@given(_sites, _sites, _rules, st.data())
def test_a_rule_holds_for_all_that_does_it_but_for_what_a_person_chose(
    sites: list[tuple[Rgba, Kind]], later: list[tuple[Rgba, Kind]], rules: dict[Kind, str], data: st.DataObject
) -> None:
    plan = assign(found(sites), KIT, Plan(rules=rules))
    by_hand = data.draw(st.sampled_from([paint for paint, _ in sites]))
    plan = plan.with_targets({by_hand.key: "buoy.base"}, KIT)
    # Files that come later bring paints, and other uses of those that are there.
    both = found([*sites, *later])
    plan = assign(both, KIT, plan.ruled(both, KIT))
    for use in both.uses:
        for kind in use.kinds:
            after = becomes(plan, use.paint, kind)
            if use.paint == by_hand:
                assert after == Rgba(*KIT.color("buoy").base)
            elif kind in rules:
                color = resolve_target(rules[kind], KIT)
                assert after == (use.paint if color is None else Rgba(*color))
    # Let go again, everything is planned as if there had been none.
    free = plan
    for kind in rules:
        free = free.with_rule(kind, None, KIT)
    without = assign(both, KIT, Plan().with_(choices=plan.held()))
    assert assign(both, KIT, free).choices == without.choices


@given(_sites, _rules)
def test_rules_go_with_a_plan(sites: list[tuple[Rgba, Kind]], rules: dict[Kind, str]) -> None:
    plan = assign(found(sites), KIT, Plan(rules=rules))
    assert Plan.model_validate(plan.model_dump(mode="json")) == plan
    assert read_plan_file(plan_file(plan, KIT)).rules == rules
    following = assign(found(sites), KIT, assign(found(sites), KIT).following(plan, "Quay"))
    assert following.rules == rules
    assert {key: following.recoloring(KIT, "a.svg").at(*key) for key in sites} == {
        key: plan.recoloring(KIT, "a.svg").at(*key) for key in sites
    }


def test_a_rule_for_what_is_not_there_is_refused() -> None:
    with pytest.raises(InvalidPlanError):
        Plan().with_rule(Kind.TEXT, "gone.base", KIT)


def test_a_split_by_hand_goes_before_a_rule() -> None:
    red = Rgba(0xE5, 0x39, 0x35)
    both = summarize([Inventory.count([Site(red, Kind.FILL, ("#sail",)), Site(red, Kind.TEXT)])])
    plan = assign(both, KIT, Plan(rules={Kind.FILL: "fog.base"}))
    plan = assign(both, KIT, plan.with_targets({f"{red.key}@#sail": "deep-water.base"}, KIT))
    to = plan.recoloring(KIT, "a.svg")
    assert to.at(red, Kind.FILL, ["#sail"]) == KIT.color("deep-water").base
    assert to.at(red, Kind.FILL) == KIT.color("fog").base
    assert to.at(red, Kind.TEXT) == plan.color_of(red, plan.choices[red.key], KIT)
