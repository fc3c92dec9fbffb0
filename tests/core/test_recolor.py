"""Plans: the automatic assignment's promises, choices by hand, what a check finds."""

import json
from collections import Counter
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pavese.core.check.conformance import Holds, check_paints, held_by_files, holds, left_by_coding
from pavese.core.color.contrast import luminance
from pavese.core.color.parse import parse_color
from pavese.core.color.ramp import step_position
from pavese.core.color.srgb import Rgb, Rgba, parse_key
from pavese.core.errors import InvalidPlanError
from pavese.core.handoff.plan_file import plan_file, read_plan_file
from pavese.core.kit.kit import Kit
from pavese.core.kit.ours import Verdict, nearest
from pavese.core.kit.token import parse_token
from pavese.core.recolor.acts import Namespace
from pavese.core.recolor.assign import assign, nearest_step
from pavese.core.recolor.backing import BackingShape, FileBacking
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import Inventory, PaintUse, SetPaints, summarize
from pavese.core.recolor.plan import Choice, Plan
from pavese.core.recolor.recipe import AllowedColors, Recipe
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind
from pavese.core.recolor.spotlight import mask_recolorings, spotlight
from pavese.core.recolor.target import label
from pavese.demo.load import demo_kit
from tests.core.apart import melted
from tests.core.strategies import colors, kits

paints = st.builds(lambda color, alpha: Rgba(*color, alpha), colors, st.sampled_from([1.0, 1.0, 0.5]))
uses = st.lists(paints, max_size=40, unique=True).map(
    lambda listed: SetPaints(
        tuple(PaintUse(paint, 1 + n % 3, 1 + n % 7, (Kind.FILL,)) for n, paint in enumerate(listed))
    )
)


def use(*codes: str) -> SetPaints:
    return SetPaints(tuple(PaintUse(parse_color(code), 1, 1, (Kind.FILL,)) for code in codes))


@settings(max_examples=60)
@given(uses, kits())
def test_two_colors_of_a_drawing_stay_two_while_the_kit_has_steps_of_their_hue(listed: SetPaints, kit: Kit) -> None:
    plan = assign(listed, kit, Plan(recipe=Recipe(natural=False)))
    assert set(plan.choices) == {entry.paint.key for entry in listed.uses}
    became = {entry.paint.rgb: kit.resolve(parse_token(plan.choices[entry.paint.key].target)) for entry in listed.uses}
    assert melted(became, became, kit) == []


@settings(max_examples=30)
@given(uses, kits(), st.randoms(use_true_random=False))
def test_the_order_of_paints_does_not_matter(listed: SetPaints, kit: Kit, random: object) -> None:
    shuffled = list(listed.uses)
    random.shuffle(shuffled)  # type: ignore[attr-defined]
    assert assign(SetPaints(tuple(shuffled)), kit).choices == assign(listed, kit).choices


@settings(max_examples=40)
@given(st.lists(st.integers(0, 255), min_size=2, max_size=9, unique=True))
def test_lightness_order_is_kept_within_a_family(levels: list[int]) -> None:
    kit = demo_kit()
    listed = [PaintUse(Rgba(level, level // 4, level // 5), 1, 1, (Kind.FILL,)) for level in sorted(levels)]
    plan = assign(SetPaints(tuple(listed)), kit, Plan(recipe=Recipe(natural=False)))
    by_ramp: dict[str, list[float]] = {}
    for entry in sorted(listed, key=lambda e: luminance(e.paint.rgb)):
        token = parse_token(plan.target(entry.paint))
        by_ramp.setdefault(token.color, []).append(-step_position(kit.resolve(token)))
    assert all(order == sorted(order) for order in by_ramp.values())


def test_families_go_to_like_hues_and_neutrals_to_neutrals() -> None:
    plan = assign(use("#e53935", "#43a047", "#ffca28", "#2f3e9e", "#888888", "#ffffff", "#000000"), demo_kit())
    ramps = {key: parse_token(choice.target).color for key, choice in plan.choices.items()}
    assert ramps["#e53935"] == "buoy"
    assert ramps["#43a047"] == "kelp"
    assert ramps["#ffca28"] == "lamp"
    assert ramps["#2f3e9e"] == "slipway"
    assert {ramps[key] for key in ("#888888", "#ffffff", "#000000")} <= {"fog", "pewter", "hull"}
    assert all(choice.reason for choice in plan.choices.values())


def test_what_is_of_the_kit_already_stays() -> None:
    kit = demo_kit()
    plan = assign(use("#0b5e6b", "#efb23a", "#d2452d"), kit)
    assert [choice.target for choice in plan.choices.values()] == ["deep-water.base", "lamp.base", "buoy.base"]


def test_paints_that_differ_in_alpha_only_go_together() -> None:
    plan = assign(use("#e53935", "#e5393580"), demo_kit())
    assert len({choice.target for choice in plan.choices.values()}) == 1


def test_choices_made_by_hand_are_held_and_their_steps_taken() -> None:
    kit = demo_kit()
    first = assign(use("#e53935", "#43a047"), kit)
    held = first.with_targets({"#43a047": first.choices["#e53935"].target}, kit)
    again = assign(use("#e53935", "#43a047", "#e53936"), kit, Plan(choices=held.held()))
    assert again.choices["#43a047"] == held.choices["#43a047"]
    assert again.choices["#e53935"].target != held.choices["#43a047"].target


def test_an_empty_kit_keeps_everything() -> None:
    plan = assign(use("#e53935"), Kit(name="Empty"))
    assert plan.resolve(Kit(name="Empty")) == {}


def test_targets_are_resolved_against_the_kit_as_it_is() -> None:
    kit = demo_kit()
    plan = Plan(choices={"#ff0000": Choice(target="buoy.base"), "#00ff00": Choice(target="keep"),
                         "#0000ff/0.5": Choice(target="#123456")})  # fmt: skip
    assert plan.resolve(kit) == {Rgba(255, 0, 0): Rgb(0xD2, 0x45, 0x2D), Rgba(0, 0, 255, 0.5): Rgb(0x12, 0x34, 0x56)}
    assert label("buoy.600", kit) == "Buoy 600"
    for target in ("gone.600", "buoy.650", "red", ""):
        with pytest.raises(InvalidPlanError):
            plan.with_targets({"#ff0000": target}, kit)
    with pytest.raises(InvalidPlanError, match="no paint"):
        plan.with_targets({"#abcdef": "keep"}, kit)


@settings(max_examples=30)
@given(uses, kits())
def test_a_plan_file_makes_the_same_plan_again(listed: SetPaints, kit: Kit) -> None:
    plan = assign(listed, kit)
    text = plan_file(plan, kit)
    again = read_plan_file(text)
    assert again.resolve(kit) == plan.resolve(kit)
    assert plan_file(again, kit) == text


def test_plans_kept_under_earlier_words_are_read() -> None:
    plan = Plan(kept_selectors=("#logo",), recipe=Recipe(allowed=AllowedColors.DERIVED))
    stored = plan.model_dump(mode="json")
    earlier = {**stored, "kept_marks": stored.pop("kept_selectors")}
    earlier["recipe"]["closure"] = earlier["recipe"].pop("allowed")
    assert Plan.model_validate(earlier) == Plan.model_validate(plan.model_dump(mode="json")) == plan
    written = json.loads(plan_file(plan, demo_kit()))
    assert (written["kept_marks"], written["recipe"]["closure"]) == (["#logo"], "derived shades allowed")
    assert read_plan_file(json.dumps(written)) == plan


@pytest.mark.parametrize("version", [2, 3])
def test_acts_are_read_from_every_version_that_had_some(version: int) -> None:
    backing = {"shape": "flag", "color": "fog.base", "padding": 7, "size": 80}
    said: dict[str, Any] = {
        2: {"backing": backing, "backings": {"a.svg": None}, "declared": ["a.svg"]},
        3: {"acts": {"backing": backing}, "file_acts": {"a.svg": {"backing": None, "namespace": {}}}},
    }
    plan = read_plan_file(json.dumps({"pavese-plan": version, "paints": {}, **said[version]}))
    flag = FileBacking(shape=BackingShape.FLAG, color="fog.base", padding=7, size=80)
    assert plan.acts_of("b.svg") == {"backing": flag}
    assert plan.acts_of("a.svg") == {"namespace": Namespace()}
    assert plan.ground == "fog.base"
    again = read_plan_file(plan_file(plan, demo_kit()))
    assert (again.acts, again.file_acts) == (plan.acts, plan.file_acts)
    # What was kept before acts had a table, and what no table knows any longer.
    stored = {"choices": {}, **said[version], **({"acts": {**said[3]["acts"], "bunting": {}}} if version == 3 else {})}
    assert Plan.model_validate(stored).acts == plan.acts
    assert Plan.model_validate(plan.model_dump(mode="json")) == plan


@pytest.mark.parametrize("text", ["", "[]", "{}", '{"pavese-plan": 4, "paints": {}}', '{"pavese-plan": 1}'])
def test_other_json_is_refused_as_a_plan(text: str) -> None:
    with pytest.raises(InvalidPlanError):
        read_plan_file(text)


@given(colors, kits())
def test_the_nearest_step_is_nearest_in_luminance(paint: Rgb, kit: Kit) -> None:
    color = kit.colors[0]
    token = nearest_step(paint, color)
    best = min(abs(step_position(step) - step_position(paint)) for step in color.ramp.colors)
    assert abs(step_position(kit.resolve(token)) - step_position(paint)) == pytest.approx(best)


def test_a_summary_lists_each_paint_once() -> None:
    red, blue = Rgba(255, 0, 0), Rgba(0, 0, 255, 0.5)
    one = Inventory.count([(red, Kind.FILL), (red, Kind.STROKE), (blue, Kind.FILL)], ["a remark", "a remark"])
    other = Inventory.count([(red, Kind.STOP)])
    assert one.remarks == ("a remark",)
    assert summarize([one, other]).uses == (
        PaintUse(red, 2, 3, (Kind.FILL, Kind.STROKE, Kind.STOP)),
        PaintUse(blue, 1, 1, (Kind.FILL,)),
    )
    merged = one.after({red: Rgb(0, 0, 255)})
    assert merged.sites[Rgba(0, 0, 255)] == {Kind.FILL: 1, Kind.STROKE: 1}


def test_a_check_tells_off_from_near_and_ours() -> None:
    kit = demo_kit()
    inventory = Inventory.count(
        [(parse_color(code), Kind.FILL) for code in ("#0b5e6b", "#0b5e6c", "#0f6472", "#d9a37e", "#d9a37e80")]
    )
    findings = check_paints(inventory, kit)
    assert [(finding.paint.key, finding.severity) for finding in findings] == [
        ("#d9a37e/0.502", Verdict.OFF), ("#d9a37e", Verdict.OFF), ("#0f6472", Verdict.NEAR),
    ]  # fmt: skip
    assert findings[2].nearest == parse_token("deep-water.base")
    assert check_paints(inventory, Kit(name="Empty"))[0].nearest is None
    assert nearest([Rgb(0, 0, 0)], Kit(name="Empty")) == [None]


@pytest.mark.parametrize(
    ("kind", "on_pixels", "left"), [(Kind.PICTURE, False, True), (Kind.FILL, True, True), (Kind.FILL, False, False)]
)
def test_what_coding_makes_of_a_color_of_the_kit_is_not_off(kind: Kind, on_pixels: bool, left: bool) -> None:
    near, off = parse_color("#0f6472"), parse_color("#d9a37e")
    inventory = Inventory.count([(near, kind), (off, kind)])
    found = check_paints(inventory, demo_kit())
    told = {one.paint: left_by_coding(one, inventory, [], on_pixels=on_pixels) for one in found}
    assert told == {near: left, off: False}
    # What was to become just that, is that.
    assert not any(left_by_coding(one, inventory, [near], on_pixels=on_pixels) for one in found)


@given(st.lists(paints, max_size=12, unique=True))
def test_every_paint_has_a_mask_of_its_own(listed: list[Rgba]) -> None:
    drawings = mask_recolorings(listed)
    assert len(drawings) == -(-len(listed) // 3)
    for at, paint in enumerate(listed):
        lit = [[channel == 255 for channel in colors[paint]] for colors in drawings]
        expected = [
            [number == at // 3 and channel == at % 3 for channel in range(3)] for number in range(len(drawings))
        ]
        assert lit == expected


@given(st.lists(paints, min_size=1, max_size=12, unique=True))
def test_a_spotlight_leaves_hue_to_one_paint_only(listed: list[Rgba]) -> None:
    lit = spotlight(listed, {}, listed[0])
    assert lit[listed[0]] == listed[0].rgb
    for paint in listed[1:]:
        grey = lit[paint]
        assert max(grey) - min(grey) <= 1
        assert parse_key(paint.key) in lit


_counts = st.dictionaries(paints, st.just({Kind.FILL: 1}), min_size=1, max_size=5)


@given(st.lists(st.tuples(_counts, st.data()), max_size=4), kits())
def test_files_are_counted_by_the_worst_they_hold(
    files: list[tuple[dict[Rgba, dict[Kind, int]], st.DataObject]], kit: Kit
) -> None:
    ours = [color for _, color in kit.tokens()]
    wanted = []
    for sites, data in files:
        to = data.draw(st.dictionaries(st.sampled_from(list(sites)), st.sampled_from(ours) | colors))
        parts = {(paint, "fill"): data.draw(st.sampled_from(ours) | st.none()) for paint in list(to)[:1]}
        recoloring = Recoloring(to, parts, frozenset(data.draw(st.sampled_from([(), ("#a",)]))))
        chosen = data.draw(st.sets(st.sampled_from([paint.key for paint in sites])))
        wanted.append((Inventory(sites), Changes(recoloring), chosen))
    expected = Counter(
        holds(
            (
                found.natural(before) is not None,
                any(found.paint in to.recoloring.results(paint) for paint in before.sites if paint.key in chosen),
            )
            for found in check_paints(before.after(to.recoloring), kit)
        )
        for before, to, chosen in wanted
    )
    assert held_by_files(wanted, kit) == expected
    assert holds([]) is Holds.KIT
    assert holds([(True, False), (False, True)]) is Holds.WANTED
    assert holds([(False, True), (False, False)]) is Holds.OFF
