"""Rules for a part of files: what goes before what, and that they are kept, handed over and read again."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import InvalidPlanError
from pavese.core.handoff.plan_file import plan_file, read_plan_file
from pavese.core.recolor.inventory import SetPaints
from pavese.core.recolor.plan import Choice, Plan
from pavese.core.recolor.quiet import kept
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind
from pavese.demo.load import demo_kit
from pavese.store.sets import complete
from tests.core.strategies import colors

WHITE = Rgba(255, 255, 255)
FOOT = {Kind.GROUND: "hull.base", Kind.TEXT: "fog.base"}
_kinds = st.sampled_from(Kind)
_selectors = st.lists(st.sampled_from(["#a", ".b", "/footer", "/content", "/dark"]), max_size=4, unique=True)


@given(st.data(), _kinds, _selectors, colors)
def test_a_selector_goes_before_a_kind_and_a_paint_before_a_rule(
    data: st.DataObject, kind: Kind, selectors: list[str], color: Rgb
) -> None:
    parts = {(WHITE, part): data.draw(colors) for part in data.draw(_selectors)}
    rules = {(part, kind): data.draw(colors) for part in data.draw(_selectors)}
    to = Recoloring({WHITE: color}, {**parts, (WHITE, str(kind)): Rgb(1, 2, 3)}, rules=rules)
    own = [parts[WHITE, one] for one in selectors if (WHITE, one) in parts]
    ruled = [rules[one, kind] for one in selectors if (one, kind) in rules]
    assert to.at(WHITE, kind, selectors) == next(iter([*own, *ruled]), Rgb(1, 2, 3))
    assert to.parted(WHITE, kind, selectors) == bool(own or ruled)
    assert Rgba(*to.at(WHITE, kind, selectors) or color) in to.results(WHITE)
    assert Recoloring({}, kept=frozenset(selectors[:1]), rules=rules).at(WHITE, kind, selectors[:1]) is (
        None if selectors else Recoloring({}, rules=rules).at(WHITE, kind)
    )


def test_a_file_may_say_otherwise_and_follow_again() -> None:
    kit = demo_kit()
    plan = Plan(choices={WHITE.key: Choice(target="keep")}).with_part_rules("/footer", FOOT, kit)
    own = plan.with_part_rules("/footer", {Kind.GROUND: "lamp.base"}, kit, "a.html")

    def ground(made: Plan, file: str) -> Rgb | None:
        one_of = made.changes_by_file(kit)(file, [WHITE.key]).recoloring
        assert one_of.at(WHITE, Kind.GROUND, ["/footer"]) == made.recoloring(kit, file).at(
            WHITE, Kind.GROUND, ["/footer"]
        )
        return one_of.at(WHITE, Kind.GROUND, ["/footer"])

    hull, lamp = kit.color("hull").base, kit.color("lamp").base
    assert [ground(own, "a.html"), ground(own, "b.html")] == [lamp, hull]
    again = own.with_part_rules("/footer", None, kit, "a.html")
    assert again == plan
    assert ground(again, "a.html") == hull
    assert ground(plan.with_part_rules("/footer", None, kit), "a.html") is None
    assert plan.chosen_in("a.html", [WHITE.key], {}) == set()
    assert own.with_part_rules("/dark", kept(), kit, "a.html").chosen_in("a.html", [WHITE.key], {}) == {WHITE.key}
    # What stands in what is kept is wanted so, and nothing else.
    one_kept = plan.with_(kept_selectors=("/picture.1a2b",))
    assert one_kept.chosen_in("a.html", [WHITE.key], {WHITE: ("/picture.1a2b", "/footer")}) == {WHITE.key}
    assert one_kept.chosen_in("a.html", [WHITE.key], {WHITE: ("/footer",)}) == set()
    with pytest.raises(InvalidPlanError):
        plan.with_part_rules("/footer", {Kind.TEXT: "gone.base"}, kit)


def test_rules_for_parts_are_handed_over_and_go_with_the_colors_they_name() -> None:
    kit = demo_kit()
    plan = Plan().with_part_rules("/footer", FOOT, kit).with_part_rules("/header", kept(), kit, "a.html")
    again = read_plan_file(plan_file(plan, kit))
    assert (again.part_rules, again.file_part_rules) == (plan.part_rules, plan.file_part_rules)
    without = kit.with_(colors=tuple(color for color in kit.colors if color.key != "hull"))
    # Half of a pair would be worse than none.
    left = complete(SetPaints(), without, plan)
    assert left.part_rules == {}
    assert left.file_part_rules == {"a.html": {"/header": kept()}}
