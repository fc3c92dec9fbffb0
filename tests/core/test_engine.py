"""The engine: families, ramps, steps, modes, alternatives and figures, on small inventories with known answers."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from pavese.core.color.contrast import LARGE, contrast_ratio, luminance
from pavese.core.color.oklab import hue_distance, oklch_of
from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import InvalidPlanError
from pavese.core.handoff.plan_file import plan_file, read_plan_file
from pavese.core.kit.kit import Kit, members
from pavese.core.kit.token import Token
from pavese.core.recolor.alternatives import alternatives
from pavese.core.recolor.assign import assign
from pavese.core.recolor.backing import FileBacking
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.families import split
from pavese.core.recolor.figure_contrast import figure_contrast
from pavese.core.recolor.figures import figures
from pavese.core.recolor.inventory import Inventory, PaintUse, SetPaints, summarize
from pavese.core.recolor.measure import Measured, combined, measure, paint_at
from pavese.core.recolor.natural import natural_tone
from pavese.core.recolor.plan import Choice, Plan
from pavese.core.recolor.recipe import AllowedColors, Mode, Policy, Recipe
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind
from pavese.core.recolor.target import blend, is_derived, label, ramp_of, resolve_target, shade
from pavese.core.recolor.traits import apart, traits_of
from pavese.demo.load import demo_kit
from tests.core.strategies import colors, kits

RED, WHITE, BLACK, BLUE = (Rgba(*rgb) for rgb in ((229, 57, 53), (255, 255, 255), (0, 0, 0), (47, 62, 158)))


def paints(
    *codes: str, areas: tuple[float, ...] = (), touching: dict[tuple[str, str], float] | None = None
) -> SetPaints:
    """A set's paints by code, with what was measured of them."""
    uses = [PaintUse(parse_color(code), 1, 1, (Kind.FILL,), areas[n] if areas else 0.0) for n, code in enumerate(codes)]
    pairs = {
        (min(a, b), max(a, b)): share
        for (one, other), share in (touching or {}).items()
        for a, b in [(parse_color(one), parse_color(other))]
    }
    return SetPaints(tuple(uses), pairs)


def planned(found: SetPaints, **recipe: object) -> dict[str, str]:
    plan = assign(found, demo_kit(), Plan(recipe=Recipe(**recipe)))  # type: ignore[arg-type]
    return {key: choice.target for key, choice in plan.choices.items()}


@st.composite
def sets(draw: st.DrawFn) -> SetPaints:
    """Paints with areas, some of which touch."""
    listed = draw(st.lists(colors, min_size=1, max_size=14, unique=True))
    uses = [
        PaintUse(Rgba(*color), 1, 1, (draw(st.sampled_from([Kind.FILL, Kind.TEXT])),), draw(st.floats(0.01, 1)))
        for color in listed
    ]
    pairs = {}
    for _ in range(draw(st.integers(0, 12))):
        one, other = sorted((draw(st.sampled_from(uses)).paint, draw(st.sampled_from(uses)).paint))
        if one != other:
            pairs[one, other] = draw(st.floats(0.01, 1))
    outline = {use.paint: 0.1 for use in uses if draw(st.booleans())}
    return SetPaints(tuple(uses), pairs, outline)


def test_families_are_gathered_around_the_circle_of_hues() -> None:
    # Two roses on either side of 0 degrees, one teal in three shades, and a grey.
    listed = [
        Rgb(*rgb)
        for rgb in ((230, 60, 120), (230, 60, 90), (10, 90, 95), (40, 140, 150), (120, 200, 205), (128, 128, 128))
    ]
    found = split(oklch_of(listed), [1.0] * len(listed))
    assert [sorted(family.members) for family in found] == [[5], [0, 1], [2, 3, 4]]
    assert found[0].hue is None


@settings(max_examples=30)
@given(st.lists(colors, min_size=1, max_size=20, unique=True), st.randoms(use_true_random=False))
def test_families_are_a_partition_whatever_the_order(listed: list[Rgb], random: object) -> None:
    def grouped(order: list[Rgb]) -> set[frozenset[Rgb]]:
        found = split(oklch_of(order), [1.0 + color.r for color in order])
        assert sorted(i for family in found for i in family.members) == list(range(len(order)))
        return {frozenset(order[i] for i in family.members) for family in found}

    shuffled = list(listed)
    random.shuffle(shuffled)  # type: ignore[attr-defined]
    assert grouped(listed) == grouped(shuffled)


def test_shades_of_one_hue_stay_shades_of_one_ramp_in_their_order() -> None:
    targets = planned(paints("#cfe3f2", "#6fb6e8", "#2f6aa8", "#1b3f6b"), natural=False)
    ramps = {ramp_of(target) for target in targets.values()}
    assert len(ramps) == 1
    kit = demo_kit()
    light = [luminance(resolve_target(target, kit) or Rgb(0, 0, 0)) for target in targets.values()]
    assert light == sorted(light, reverse=True)


def test_white_and_near_black_follow_the_kit_or_stay() -> None:
    assert planned(paints("#ffffff", "#000000", "#e53935")) == {
        "#ffffff": "fog.base", "#000000": "hull.base", "#e53935": "buoy.base"
    }  # fmt: skip
    stayed = planned(paints("#ffffff", "#0a0a0a", "#e53935"), ends="stay")
    assert (stayed["#ffffff"], stayed["#0a0a0a"]) == ("keep", "keep")


def test_natural_tones_are_kept_and_switched_off_in_one_press() -> None:
    skin = paints("#d9a37e", "#8d5a3b", "#2f3e9e")
    kept = assign(skin, demo_kit())
    assert [kept.choices[key].target for key in ("#d9a37e", "#8d5a3b")] == ["keep", "keep"]
    assert "skin" in kept.choices["#d9a37e"].reason
    assert "keep" not in planned(skin, natural=False).values()
    for code in ("#ffd7c2", "#d6a089", "#c68d7b", "#966661", "#573739", "#452829"):
        assert "skin" in (natural_tone(parse_color(code).rgb) or ""), code
    assert natural_tone(Rgb(0xD2, 0x45, 0x2D)) is None, "a vivid red is no skin"
    assert natural_tone(Rgb(0xEF, 0xB2, 0x3A)) is None, "nor is a brand's amber"


def test_the_branded_policy_gives_large_areas_the_main_colors_and_spares_the_action_color() -> None:
    listed = paints("#43a047", "#e53935", "#8e24aa", areas=(0.7, 0.2, 0.1))
    branded = planned(listed, policy=Policy.BRANDED)
    assert ramp_of(branded["#43a047"]) == "deep-water"
    assert "buoy" not in {ramp_of(target) for target in branded.values()}
    assert ramp_of(planned(listed)["#e53935"]) == "buoy"


def test_a_figure_keeps_its_contrast_to_what_it_touches() -> None:
    # The red and the brown are as light as two steps that are 2:1 apart; they touched at 3.3:1.
    listed = paints("#6b2d1a", "#e8735f", areas=(0.5, 0.5), touching={("#6b2d1a", "#e8735f"): 1.0})
    was = contrast_ratio(Rgb(0x6B, 0x2D, 0x1A), Rgb(0xE8, 0x73, 0x5F))
    assert was >= LARGE
    plan = assign(listed, demo_kit(), Plan(recipe=Recipe(natural=False)))
    found = figures(listed, plan.resolve(demo_kit()), demo_kit())
    assert (found.contrast, found.order, found.distinct, found.remarks) == (1.0, 1.0, 1.0, ())


def test_what_cannot_be_kept_is_said() -> None:
    kit = Kit(name="One", colors=demo_kit().colors[:1])
    resolved = {BLACK: Rgb(100, 100, 100), WHITE: Rgb(120, 120, 120), RED: Rgb(120, 120, 120)}
    listed = SetPaints(
        tuple(PaintUse(paint, 1, 1, (Kind.FILL,), 0.3) for paint in resolved), {(BLACK, WHITE): 0.9, (BLACK, RED): 0.1}
    )
    found = figures(listed, resolved, kit)
    assert found.contrast == 0
    assert found.kit == 0
    assert found.order == 1
    assert found.distinct == pytest.approx(2 / 3)
    assert "#000000 on #ffffff had 21.00:1" in found.remarks[0]
    assert "1 pairs of different paints" in found.remarks[-1]


def test_a_gradient_that_would_turn_is_told_of() -> None:
    blends = frozenset([(Rgba(200, 30, 30), Rgba(120, 10, 10))])
    uses = tuple(PaintUse(paint, 1, 1, (Kind.STOP,)) for pair in blends for paint in pair)
    turned = {Rgba(200, 30, 30): Rgb(230, 20, 230), Rgba(120, 10, 10): Rgb(20, 200, 60)}
    turned_figures = figures(SetPaints(uses, blends=blends), turned, demo_kit())
    same = figures(SetPaints(uses, blends=blends), {}, demo_kit())
    assert not any("gradient" in remark for remark in same.remarks)
    assert all("middle" in remark for remark in turned_figures.remarks)


@settings(max_examples=40)
@given(sets(), kits(), st.sampled_from(list(Policy)))
def test_strict_plans_use_the_kit_only_and_are_the_same_every_time(found: SetPaints, kit: Kit, policy: Policy) -> None:
    plan = assign(found, kit, Plan(recipe=Recipe(natural=False, policy=policy)))
    resolved = plan.resolve(kit)
    own = members(kit)
    assert all(color in own for color in resolved.values())
    assert plan == assign(found, kit, Plan(recipe=Recipe(natural=False, policy=policy)))


@settings(max_examples=40)
@given(sets(), st.sampled_from([Mode.SINGLE, Mode.GREY, Mode.TWO_TONE]), st.booleans())
def test_modes_by_lightness_never_turn_it_round(found: SetPaints, mode: Mode, narrow: bool) -> None:
    kit = demo_kit()
    recipe = Recipe(mode=mode, allowed=AllowedColors.DERIVED, low=0.2 if narrow else 0, high=0.9 if narrow else 1)
    resolved = assign(found, kit, Plan(recipe=recipe)).resolve(kit)
    listed = sorted({use.paint.rgb for use in found.uses}, key=luminance)
    after = [luminance(resolved[Rgba(*color)]) for color in listed]
    # Shades are 8 bits a channel: what is as light as makes no difference may be a hair off.
    assert all(later - earlier > -0.012 for earlier, later in pairwise(after))


@settings(max_examples=30)
@given(sets())
def test_derived_shades_are_as_light_as_the_paints(found: SetPaints) -> None:
    kit = demo_kit()
    plan = assign(found, kit, Plan(recipe=Recipe(allowed=AllowedColors.DERIVED, natural=False)))
    for use in found.uses:
        color = plan.resolve(kit)[use.paint]
        target = plan.target(use.paint)
        if is_derived(target) and 0.02 < luminance(use.paint.rgb) < 0.8:
            assert contrast_ratio(color, use.paint.rgb) < 1.25


def test_strength_goes_from_the_original_to_the_target() -> None:
    kit, listed = demo_kit(), paints("#43a047")
    paint = parse_color("#43a047")
    full = assign(listed, kit).resolve(kit)[paint]
    half = assign(listed, kit, Plan(recipe=Recipe(strength=0.5))).resolve(kit)[paint]
    none = assign(listed, kit, Plan(recipe=Recipe(strength=0))).resolve(kit)[paint]
    assert none == paint.rgb
    between = oklch_of([paint.rgb, half, full])[:, 0]
    assert min(between[0], between[2]) <= between[1] <= max(between[0], between[2])
    held = assign(listed, kit, Plan(recipe=Recipe(strength=0.5))).with_targets({"#43a047": "buoy.base"}, kit)
    assert held.resolve(kit)[paint] == Rgb(0xD2, 0x45, 0x2D), "what a person chose is not weakened"


def test_a_range_of_lightness_must_begin_below_its_end() -> None:
    with pytest.raises(ValidationError):
        Recipe(low=0.6, high=0.5)


def test_alternatives_are_several_different_and_the_same_every_time() -> None:
    found = paints("#2f3e9e", "#ffca28", "#e53935", "#ffffff", "#43a047", areas=(0.4, 0.2, 0.2, 0.1, 0.1))
    held = assign(found, demo_kit()).with_targets({"#43a047": "kelp.600"}, demo_kit())
    kept = Plan(choices=held.held())
    listed = alternatives(found, demo_kit(), kept)
    assert 4 <= len(listed) <= 6
    assert len({tuple(sorted(one.plan.resolve(demo_kit()).items())) for one in listed}) == len(listed)
    assert listed[0].plan == assign(found, demo_kit(), kept)
    assert all(one.plan.choices["#43a047"].target == "kelp.600" for one in listed)
    scores = [one.figures.score for one in listed[1:]]
    assert scores == sorted(scores, reverse=True) or max(scores) - min(scores) < 0.02
    assert [one.title for one in alternatives(found, demo_kit(), kept)] == [one.title for one in listed]


@pytest.mark.parametrize("mode", [Mode.SINGLE, Mode.GREY, Mode.TWO_TONE])
def test_modes_of_few_colors_are_offered_in_others(mode: Mode) -> None:
    found, kit = paints("#2f3e9e", "#ffca28", "#e53935", "#ffffff", areas=(0.4, 0.2, 0.2, 0.2)), demo_kit()
    listed = alternatives(found, kit, Plan(recipe=Recipe(mode=mode)))
    assert len(listed) >= 4
    assert len({one.title for one in listed}) == len(listed)
    for one in listed:
        after = one.plan.resolve(kit)
        # Whatever it is in, what was lighter is: no pair turns round.
        dark, light = luminance(after[Rgba(0x2F, 0x3E, 0x9E)]), luminance(after[Rgba(255, 255, 255)])
        assert dark < light
        if mode is Mode.TWO_TONE:
            ends = (one.plan.recipe.dark, one.plan.recipe.light)
            assert ends == (None, None) or contrast_ratio(*(resolve_target(str(end), kit) for end in ends)) >= 4.5


@given(st.floats(0, 10), st.floats(0, 1))
def test_shades_and_blends_are_written_as_they_are_read(place: float, part: float) -> None:
    kit = demo_kit()
    text = shade("deep-water", place, 1.0)
    color = resolve_target(text, kit)
    assert color is not None
    ramp = kit.colors[0].ramp.colors
    low, high = ramp[int(place)], ramp[min(int(place) + 1, 10)]
    assert luminance(high) - 0.02 <= luminance(color) <= luminance(low) + 0.02
    assert ramp_of(text) == "deep-water"
    assert label(text, kit).startswith("Deep water")
    two = blend(Token("hull", None), Token("fog", None), part)
    mixed = resolve_target(two, kit)
    assert mixed is not None
    assert luminance(kit.colors[-1].base) - 0.01 <= luminance(mixed) <= luminance(kit.colors[5].base) + 0.01
    assert "Hull and" in label(two, kit)


@pytest.mark.parametrize("text", ["gone~4.5", "deep-water~11", "deep-water~4*2", "hull.base+gone.base~0.5", "~", "a+b"])
def test_targets_that_mean_nothing_are_refused(text: str) -> None:
    with pytest.raises(InvalidPlanError):
        resolve_target(text, demo_kit())


def test_exceptions_of_a_file_outlive_the_plan_of_the_set() -> None:
    kit, found = demo_kit(), paints("#e53935", "#2f3e9e")
    plan = assign(found, kit).with_targets({"#e53935": "kelp.base"}, kit, "a.svg")
    again = assign(found, kit, plan.with_(choices={}, recipe=Recipe(policy=Policy.BRANDED)))
    red = parse_color("#e53935")
    assert again.recoloring(kit, "a.svg").get(red) == Rgb(0x6B, 0x7D, 0x3A)
    assert again.recoloring(kit, "b.svg").get(red) == again.resolve(kit)[red]
    assert again.joined("#e53935", "a.svg").files == {}
    kept = again.with_(kept=("b.svg",))
    assert kept.recoloring(kit, "b.svg") == Recoloring()


def test_parts_follow_their_paint_until_someone_chooses_for_them() -> None:
    kit, found = demo_kit(), paints("#e53935")
    plan = assign(found, kit).split("#e53935", "stroke")
    assert plan.choices["#e53935@stroke"].target == plan.choices["#e53935"].target
    turned = plan.with_targets({"#e53935@stroke": "kelp.base"}, kit)
    red = parse_color("#e53935")
    recoloring = turned.recoloring(kit, "a.svg")
    assert recoloring.at(red, "stroke") == Rgb(0x6B, 0x7D, 0x3A)
    assert recoloring.at(red, "fill") == turned.resolve(kit)[red]
    assert {paint.rgb for paint in recoloring.results(red)} == {
        recoloring.at(red, "stroke"),
        recoloring.at(red, "fill"),
    }
    assert turned.joined("#e53935@stroke").choices == plan.joined("#e53935@stroke").choices
    with pytest.raises(InvalidPlanError):
        plan.split("#123456", "stroke")


def test_a_plan_file_holds_everything_a_plan_does() -> None:
    kit = demo_kit()
    plan = assign(paints("#e53935", "#2f3e9e"), kit, Plan(recipe=Recipe(allowed=AllowedColors.DERIVED)))
    plan = plan.split("#e53935", ".sail").with_targets({"#2f3e9e": "kelp.base"}, kit, "a.svg")
    plan = plan.with_(
        left_out=("b.svg",), kept=("c.svg",), kept_selectors=("#logo",), acts={"backing": FileBacking(color="fog.base")}
    )
    again = read_plan_file(plan_file(plan, kit))
    assert again == plan
    old = '{"pavese-plan": 1, "kit": "x", "paints": {"#e53935": {"target": "buoy.base"}}}'
    assert read_plan_file(old) == Plan(choices={"#e53935": Choice(target="buoy.base")})


def block(*rows: str) -> np.ndarray:
    """A picture from letters: R, W and B are paints, a dot is empty, an x a mixture of red and white."""
    known = {
        "R": (*RED.rgb, 255),
        "W": (255, 255, 255, 255),
        "B": (*BLUE.rgb, 255),
        ".": (0, 0, 0, 0),
        "x": (242, 156, 154, 255),
    }
    small = np.array([[known[letter] for letter in row] for row in rows], dtype=np.uint8)
    return small.repeat(6, axis=0).repeat(6, axis=1)


def test_areas_and_borders_are_measured() -> None:
    seen = measure(block("RRB.", "RRB.", "WWW."), [RED, WHITE, BLUE])
    assert seen.areas == {
        RED: pytest.approx(4 / 9, abs=1e-4),
        WHITE: pytest.approx(3 / 9, abs=1e-4),
        BLUE: pytest.approx(2 / 9, abs=1e-4),
    }
    around = {pair: round(share * 48) / 6 for pair, share in seen.touching.items()}
    assert around == {(BLUE, RED): 2, (BLUE, WHITE): 1, (RED, WHITE): 2}
    assert sum(seen.outline.values()) == pytest.approx(3 / 8, abs=1e-3)
    assert paint_at(block("RRB.", "RRB.", "WWW."), [RED, WHITE, BLUE], 0.1, 0.9) == WHITE
    assert paint_at(block("RRB.", "RRB.", "WWW."), [RED, WHITE, BLUE], 0.95, 0.1) is None


def test_an_edge_between_two_paints_is_no_third_one() -> None:
    picture = block("RRRWWW")
    picture[:, 17:18] = (242, 156, 154, 255)
    pink = Rgba(242, 156, 154)
    seen = measure(picture, [RED, WHITE, pink])
    assert pink not in seen.areas
    assert set(seen.touching) == {(RED, WHITE)}


def test_nothing_drawn_measures_nothing_and_moments_are_averaged() -> None:
    assert measure(block("..", ".."), [RED]) == Measured()
    assert measure(np.zeros((0, 0, 4), dtype=np.uint8), [RED]) == Measured()
    both = combined([measure(block("RR"), [RED, BLUE]), measure(block("BB"), [RED, BLUE])])
    assert both.areas == {RED: 0.5, BLUE: 0.5}


def test_the_odd_one_out_is_found() -> None:
    filled = Inventory.count([(RED, Kind.FILL), (BLUE, Kind.FILL)])
    thin = Inventory.count([(BLACK, Kind.STROKE)] * 9)
    looks = [traits_of(inventory, Measured()) for inventory in (filled, filled, filled, filled, thin)]
    distances = apart(looks)
    assert distances[-1] > 2
    assert max(distances[:-1]) < 1
    assert looks[-1].stroked
    assert apart(looks[:2]) == [0.0, 0.0]


@given(sets())
def test_a_set_has_the_measures_of_its_files(found: SetPaints) -> None:
    assume(found.uses)
    inventories = [Inventory.count([(use.paint, Kind.FILL)]) for use in found.uses]
    one = Measured({use.paint: 0.5 for use in found.uses}, found.touching, found.outline)
    summed = summarize([*inventories, *inventories], [one, one])
    assert all(use.area == 1.0 and use.files == 2 for use in summed.uses)
    assert summed.touching == {pair: pytest.approx(2 * share) for pair, share in found.touching.items()}


def test_hue_is_kept_by_shades_of_a_ramp() -> None:
    kit = demo_kit()
    hues = [oklch_of([resolve_target(shade("deep-water", place), kit) or Rgb(0, 0, 0)])[0] for place in (2.5, 4.5, 6.5)]
    base = oklch_of([kit.colors[0].base])[0, 2]
    assert all(hue_distance(float(hue[2]), float(base)) < 12 for hue in hues)


@given(
    st.lists(st.lists(st.sampled_from("abcdefgh"), min_size=1, max_size=5, unique=True), min_size=1, max_size=8),
    st.dictionaries(st.sampled_from("abcdefgh"), st.sampled_from("xyz")),
)
def test_what_melts_together_is_counted_drawing_by_drawing(drawings: list[list[str]], targets: dict[str, str]) -> None:
    codes = dict(zip("abcdefgh", range(0, 256, 32), strict=True))
    files = [Inventory.count((Rgba(codes[one], 255 - codes[one], 90), Kind.FILL) for one in held) for held in drawings]
    goals = {"x": Rgb(0, 0, 0), "y": Rgb(250, 0, 0), "z": Rgb(0, 0, 250)}
    resolved = {Rgba(codes[one], 255 - codes[one], 90): goals[goal] for one, goal in targets.items()}
    found = summarize(files)
    pairs = {(one, other) for held in drawings for one in held for other in held if one < other}
    merged = sum(1 for one, other in pairs if targets.get(one, one) == targets.get(other, other))
    counted = sum(len(held) * (len(held) - 1) // 2 for held in {tuple(sorted(held)) for held in drawings})
    # The same whether it is told of the whole set at once, or of drawings with exceptions.
    for own in ({}, {"nobody.svg": {}}):
        assert figures(found, resolved, demo_kit(), own).distinct == (1 - merged / counted if counted else 1)


@settings(max_examples=40)
@given(sets(), st.sampled_from(["deep-water.base", "fog.base", "hull.base", "lamp.base"]), st.sampled_from(list(Mode)))
def test_figures_stand_out_from_their_backing(found: SetPaints, color: str, mode: Mode) -> None:
    kit = demo_kit()
    recipe = Recipe(mode=mode, allowed=AllowedColors.DERIVED, natural=False)
    if mode is Mode.TWO_TONE:
        recipe = recipe.model_copy(update={"dark": "hull.base", "light": "fog.base"})
    resolved = assign(found, kit, Plan(recipe=recipe, acts={"backing": FileBacking(color=color)})).resolve(kit)
    ground = resolve_target(color, kit)
    assert ground is not None
    # Colors of 8 bits, and a middle ground that has hardly room on either side.
    assert all(contrast_ratio(after, ground) >= 2.9 for after in resolved.values())


def test_a_wardrobe_has_the_dress_of_each_file() -> None:
    kit, found = demo_kit(), paints("#e53935", "#2f3e9e", "#ffffff")
    plan = (
        assign(found, kit)
        .with_targets({"#e53935": "kelp.base"}, kit, "a.svg")
        .with_(kept=("b.svg",), kept_selectors=("#x",))
    )
    keys = ["#e53935", "#ffffff"]
    for made in (
        plan,
        plan.split("#e53935", "stroke"),
        plan.with_act("backing", FileBacking(color="fog.base"), ["c.svg"]),
    ):
        changes = made.changes_by_file(kit)
        assert all(
            changes(file, keys) == made.changes(kit, file, keys) for file in ("a.svg", "b.svg", "c.svg", "d.svg")
        )


@given(sets(), colors)
def test_a_figure_stands_out_as_its_outline_does(found: SetPaints, ground: Rgb) -> None:
    paints_ = [use.paint for use in found.uses]
    measured = Measured(outline={paint: 1 / (at + 1) for at, paint in enumerate(paints_)})
    got = figure_contrast(measured, Changes(), ground)
    assert got is not None
    ratios = {paint: contrast_ratio(paint.rgb, ground) for paint in paints_ if paint.alpha == 1}
    if len(ratios) == len(paints_):
        whole = sum(measured.outline.values())
        assert got.ratio in ratios.values()
        assert sum(measured.outline[paint] for paint in paints_ if ratios[paint] >= got.ratio) >= whole / 2 - 1e-6
        assert got.clear == pytest.approx(sum(measured.outline[p] for p in paints_ if ratios[p] >= LARGE) / whole)
        # On a backing it is the backing that counts, whatever lies behind it.
        backed = figure_contrast(
            measured, Changes(Recoloring(), (FileBacking(color="fog.base"),), {"fog.base": ground}), Rgb(1, 2, 3)
        )
        assert backed == got


def test_what_fills_its_picture_has_no_ground() -> None:
    assert figure_contrast(Measured(areas={RED: 1.0}), Changes(), Rgb(255, 255, 255)) is None
    see_through = Measured(outline={Rgba(0, 0, 0, 0.05): 1.0})
    found = figure_contrast(see_through, Changes(), Rgb(255, 255, 255))
    assert found is not None
    assert (found.stands, found.ratio < 1.2) == (False, True), "a veil is as visible as it looks, not as its code"
