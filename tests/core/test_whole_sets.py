"""What is promised of a plan for a whole set: what stood stays, files that would lose something get an exception, texts
read, gradients run on, and what is doubtful is told with remedies that help."""

from __future__ import annotations

from colorsys import hls_to_rgb
from itertools import combinations, pairwise
from random import Random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pavese.core.color.contrast import LARGE, TEXT, contrast_ratio, luminance
from pavese.core.color.oklab import hue_distance, oklch_of
from pavese.core.color.parse import parse_color
from pavese.core.color.ramp import STEPS, step_position
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.role import Role
from pavese.core.recolor import step_plan
from pavese.core.recolor.assign import assign
from pavese.core.recolor.doubts import Doubt, DoubtKind, doubts
from pavese.core.recolor.inventory import FilePaints, Inventory, SetPaints, summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.natural import natural_in_set, natural_tones
from pavese.core.recolor.plan import Choice, Plan
from pavese.core.recolor.reading import readings_of_set
from pavese.core.recolor.recipe import AllowedColors, Mode, Recipe
from pavese.core.recolor.site import Kind
from pavese.core.recolor.steps import Term
from pavese.core.recolor.target import KEEP, ramp_of
from pavese.core.recolor.texts import Text, TextRun
from pavese.core.recolor.together import pairs_of
from pavese.demo.load import demo_kit
from tests.core.apart import melted
from tests.core.strategies import colors, kits

KIT = demo_kit()
WHITE = Rgb(255, 255, 255)
STRICT = Plan(recipe=Recipe(natural=False))


def file(
    *codes: str,
    touching: dict[tuple[str, str], float] | None = None,
    areas: dict[str, float] | None = None,
    blends: tuple[tuple[str, str], ...] = (),
    texts: tuple[tuple[str, str], ...] = (),
    outline: tuple[str, ...] = (),
) -> tuple[Inventory, Measured]:
    """A drawing in some colors, with what was measured of it."""
    listed = [parse_color(code) for code in codes]
    pairs = {
        (min(a, b), max(a, b)): share
        for (one, other), share in (touching or {}).items()
        for a, b in [(parse_color(one), parse_color(other))]
    }
    runs = tuple(
        TextRun(Text("Quay", parse_color(ink), 1.0, 16.0, False), parse_color(ground)) for ink, ground in texts
    )
    covered = {parse_color(code): (areas or {}).get(code, 1 / len(codes)) for code in codes}
    measured = Measured(covered, pairs, {parse_color(code): 1.0 for code in outline}, runs)
    inventory = Inventory.count(
        [(paint, Kind.FILL) for paint in listed],
        blends=[(parse_color(one), parse_color(other)) for one, other in blends],
    )
    return inventory, measured


def found(*files: tuple[Inventory, Measured], on_pixels: tuple[str, ...] = ()) -> SetPaints:
    names = [f"{at}.svg" for at in range(len(files))]
    return summarize([one for one, _ in files], [one for _, one in files], names, on_pixels)


def became(plan: Plan, name: str, code: str, kit: Kit = KIT) -> Rgb:
    paint = parse_color(code)
    return plan.recoloring(kit, name).get(paint) or paint.rgb


several = st.lists(st.lists(colors, min_size=1, max_size=7, unique=True), min_size=2, max_size=5)


def drawn(groups: list[list[Rgb]]) -> SetPaints:
    return found(*(file(*(color.hex for color in group)) for group in groups))


@settings(max_examples=40)
@given(several, several, kits())
def test_files_that_come_later_change_nothing_that_stood(
    first: list[list[Rgb]], then: list[list[Rgb]], kit: Kit
) -> None:
    before = assign(drawn(first), kit, STRICT)
    after = assign(drawn([*first, *then]), kit, before)
    assert {key: after.choices[key] for key in before.choices} == before.choices
    old = {f"{at}.svg" for at in range(len(first))}
    assert {name: own for name, own in after.files.items() if name in old} == before.files
    assert assign(drawn([*first, *then]), kit, after) == after, "and nothing is left to do"


@settings(max_examples=40)
@given(several, kits())
def test_two_colors_of_any_file_stay_two_while_there_are_steps_of_their_hue(groups: list[list[Rgb]], kit: Kit) -> None:
    plan = assign(drawn(groups), kit, STRICT)
    for at, group in enumerate(groups):
        own = plan.recoloring(kit, f"{at}.svg")
        assert melted(group, {color: own.get(Rgba(*color)) or color for color in group}, kit) == []


def test_paints_that_never_meet_need_no_steps_of_their_own() -> None:
    # Forty files with one red each: none needs to leave its ramp, or its lightness, for another's sake.
    reds = [Rgb(200 + at, 40 + at // 2, 40) for at in range(40)]
    plan = assign(found(*(file(red.hex) for red in reds)), KIT, STRICT)
    for red in reds:
        target = plan.choices[red.hex].target
        assert ramp_of(target) == "buoy"
        assert abs(step_position(became(plan, "0.svg", red.hex)) - step_position(red)) < 1.2
    assert plan.files == {}


def test_one_file_of_many_binds_a_color_less_the_more_there_are() -> None:
    def bound(others: int) -> float:
        both, alone = file("#ffff00", "#ff8200"), file("#ffff00", "#ffffff")
        listed = [parse_color(code).rgb for code in ("#ffff00", "#ff8200")]
        row = {color: at for at, color in enumerate(listed)}
        pairs = pairs_of(listed, found(both, *[alone] * others).by_file, row, frozenset(), WHITE)
        return float(pairs.weights[0, Term.TURNED])

    assert all(more < less for less, more in pairwise(bound(others) for others in (0, 1, 4, 20)))


def test_near_equal_paints_go_together() -> None:
    plan = assign(found(file("#f8f8f8", "#f5f5f5", "#7a7a7a"), file("#f8f8f8", "#1b1b1b")), KIT, STRICT)
    assert plan.choices["#f8f8f8"].target == plan.choices["#f5f5f5"].target
    assert "hardly differs" in plan.choices["#f5f5f5"].reason + plan.choices["#f8f8f8"].reason


def test_a_file_in_which_one_target_for_all_would_lose_something_gets_an_exception() -> None:
    """Two greens are one for a person's choice and for all files but the one in which they meet."""
    first = found(file("#43a047"), file("#43a047", "#ffffff"))
    held = assign(first, KIT, STRICT)
    both = found(file("#43a047"), file("#43a047", "#ffffff"), file("#43a047", "#2f9a43"))
    settled = held.with_(choices={**held.choices, "#2f9a43": held.choices["#43a047"]})
    plan = assign(both, KIT, settled)
    assert became(plan, "0.svg", "#43a047") == became(plan, "1.svg", "#43a047")
    assert became(plan, "2.svg", "#43a047") != became(plan, "2.svg", "#2f9a43")
    [own] = plan.files["2.svg"].values()
    assert own.by == "plan"
    assert "in this file only" in own.reason
    # Where a person sends the paint, it goes everywhere.
    [key] = plan.files["2.svg"]
    sent = plan.with_targets({key: "lamp.base"}, KIT)
    assert sent.files == {}


@pytest.mark.parametrize(("share", "opened"), [(0.2, True), (0.0004, False)])
def test_a_border_opens_a_file_for_an_exception_but_not_where_colors_of_a_picture_meet_by_chance(
    share: float, opened: bool
) -> None:
    held = assign(found(file("#888888"), file("#dddddd")), KIT, STRICT)
    lighter = held.with_(choices={**held.choices, "#1b1b1b": held.choices["#888888"]})
    paints = found(file("#dddddd"), file("#1b1b1b", "#dddddd", touching={("#1b1b1b", "#dddddd"): share}))
    assert ("1.svg" in assign(paints, KIT, lighter).files) == opened


def test_letters_that_did_not_read_do_not_read_worse_for_the_sake_of_other_files() -> None:
    held = assign(found(file("#e53935"), file("#253180")), KIT, STRICT)
    for key, target in (("#e53935", "buoy.600"), ("#253180", "slipway.900")):
        held = held.with_(choices={**held.choices, key: Choice(target=target, reason="as in other files")})
    board = file("#253180", "#e53935", texts=(("#e53935", "#253180"),), areas={"#253180": 0.98, "#e53935": 0.02})
    plan = assign(found(file("#e53935"), file("#253180"), board, on_pixels=("2.svg",)), KIT, held)
    assert set(plan.files) == {"2.svg"}
    assert set(plan.files["2.svg"]) == {"#e53935"}, "what covers least moves"
    had = contrast_ratio(Rgb(0xE5, 0x39, 0x35), Rgb(0x25, 0x31, 0x80))
    assert contrast_ratio(became(plan, "2.svg", "#e53935"), became(plan, "2.svg", "#253180")) >= had


def test_where_very_many_files_lose_something_the_worst_come_first_and_the_rest_is_told(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    alike = [file("#43a047", "#2f8a3a", gray) for gray in ("#dddddd", "#888888")]
    held = assign(found(file("#43a047"), file("#ffffff")), KIT, STRICT)
    merged = held.with_(
        choices={**held.choices, "#2f8a3a": held.choices["#43a047"], "#1b1b1b": held.choices["#ffffff"]}
    )
    files = found(*alike, file("#1b1b1b", "#ffffff", texts=(("#1b1b1b", "#ffffff"),)))
    assert assign(files, KIT, merged).files.keys() == {"0.svg", "1.svg", "2.svg"}
    monkeypatch.setattr(step_plan, "_MOST_FILES", 1)
    plan = assign(files, KIT, merged)
    assert plan.files.keys() == {"2.svg"}, "a text goes before paints that became one"
    [doubt] = (one for one in doubts(files, plan, KIT, WHITE) if one.kind is DoubtKind.MELTED)
    assert set(doubt.files) == {"0.svg", "1.svg"}


@pytest.mark.parametrize("ground", ["#ffffff", "#2f3e9e", "#ffca28"])
def test_texts_that_read_go_on_reading(ground: str) -> None:
    ink = "#1b1b1b" if luminance(parse_color(ground).rgb) > 0.2 else "#f5f5f5"
    listed = found(file(ground, ink, "#8a8a8a", "#5f5f5f", texts=((ink, ground),)), file("#8a8a8a", ink))
    plan = assign(listed, KIT, STRICT)
    assert contrast_ratio(became(plan, "0.svg", ink), became(plan, "0.svg", ground)) >= TEXT


crowded = st.lists(st.lists(colors, min_size=6, max_size=14, unique=True), min_size=1, max_size=4)


@settings(max_examples=250)
@given(crowded, kits(largest=2))
def test_texts_go_on_reading_in_a_kit_of_one_or_two_colors_however_many_paints_there_are(
    groups: list[list[Rgb]], kit: Kit
) -> None:
    texts = [[(ink.hex, ground.hex) for ink, ground in zip(of[::2], of[1::2], strict=False)] for of in groups]
    files = [file(*(one.hex for one in of), texts=tuple(on)) for of, on in zip(groups, texts, strict=True)]
    plan = assign(found(*files), kit, STRICT)
    for at, on in enumerate(texts):
        for ink, ground in on:
            if contrast_ratio(parse_color(ink).rgb, parse_color(ground).rgb) >= TEXT:
                assert contrast_ratio(*(became(plan, f"{at}.svg", one, kit) for one in (ink, ground))) >= TEXT


@settings(max_examples=150)
@given(st.lists(colors, min_size=2, max_size=2, unique=True), kits(largest=2))
def test_a_text_reads_in_derived_shades_as_well_as_it_did(pair: list[Rgb], kit: Kit) -> None:
    ink, ground = (one.hex for one in pair)
    derived = Plan(recipe=Recipe(natural=False, allowed=AllowedColors.DERIVED))
    plan = assign(found(file(ink, ground, texts=((ink, ground),))), kit, derived)
    before = contrast_ratio(*pair)
    level = next((level for level in (7.0, TEXT, LARGE) if before >= level), 0.0)
    assert contrast_ratio(*(became(plan, "0.svg", one, kit) for one in (ink, ground))) >= level


def test_a_gradient_stays_on_one_ramp_and_runs_the_way_it_ran() -> None:
    stops = ("#e3f2fd", "#90caf9", "#42a5f5", "#1565c0")
    pairs = tuple(pairwise(stops))
    plan = assign(found(file(*stops, "#0d47a1", blends=pairs), file("#42a5f5", "#ff7043")), KIT, STRICT)
    lights = [luminance(became(plan, "0.svg", stop)) for stop in stops]
    assert lights == sorted(lights, reverse=True)
    assert len({ramp_of(plan.choices[stop].target) for stop in stops}) == 1


def _vivid(lightness: float, hue: float) -> Rgb:
    return Rgb(*(round(255 * part) for part in hls_to_rgb(hue / 360, lightness, 0.9)))


VIVID = st.builds(_vivid, st.floats(0.3, 0.65), st.floats(0, 359))


@settings(max_examples=40)
@given(st.lists(VIVID, min_size=1, max_size=5, unique=True))
def test_vivid_paints_keep_their_hue_where_the_kit_has_it(listed: list[Rgb]) -> None:
    plan = assign(drawn([listed]), KIT, STRICT)
    bases = oklch_of([color.base for color in KIT.colors if color.role not in (Role.NEUTRAL, Role.BACKGROUND)])
    for color in listed:
        lch, after = oklch_of([color, became(plan, "0.svg", color.hex)])
        near = min(hue_distance(float(lch[2]), float(base)) for base in bases[bases[:, 1] > 0.05][:, 2])
        if lch[1] >= 0.1 and near <= 30:
            assert after[1] >= 0.015
            assert hue_distance(float(lch[2]), float(after[2])) < 60


def test_white_goes_to_the_background_and_the_commonest_black_to_the_dark_text_in_every_set() -> None:
    small = assign(found(file("#ffffff", "#000000"), file("#000000", "#e53935")), KIT, STRICT)
    many = [file("#ffffff", "#000000", f"#{at:02x}{255 - at:02x}60") for at in range(0, 250, 5)]
    large = assign(found(*many, file("#fdfdfd", "#0a0a0a", "#ffffff")), KIT, STRICT)
    for plan in (small, large):
        assert (plan.choices["#ffffff"].target, plan.choices["#000000"].target) == ("fog.base", "hull.base")


@settings(max_examples=25)
@given(st.randoms(use_true_random=False))
def test_white_goes_to_the_background_with_the_near_white_that_it_follows(dice: Random) -> None:
    greys = [f"#{level:02x}{level:02x}{level:02x}" for level in (dice.randint(225, 252) for _ in range(4))]
    pool = ["#fcfcfc", "#fdfdfd", *greys, *(f"#{dice.randrange(1 << 24):06x}" for _ in range(6))]
    files = []
    for _ in range(4):
        areas = {**{color: dice.random() for color in dice.sample(sorted(set(pool)), 4)}, "#ffffff": 0.01}
        files.append(file(*areas, areas=areas, touching=dict.fromkeys(combinations(sorted(areas), 2), 0.1)))
    assert assign(found(*files), KIT, STRICT).choices["#ffffff"].target == "fog.base"


def test_a_kit_whose_background_is_dark_does_not_turn_drawings_round() -> None:
    dark = Kit(
        name="Night",
        colors=(
            KitColor(key="night", name="Night", role=Role.BACKGROUND, base=Rgb(16, 18, 30)),
            KitColor(key="sail", name="Sail", role=Role.TEXT_LIGHT, base=Rgb(240, 240, 235)),
            KitColor(key="buoy", name="Buoy", role=Role.PRIMARY, base=Rgb(210, 69, 45)),
        ),
    )
    plan = assign(found(file("#ffffff", "#000000")), dark, STRICT)
    assert luminance(became(plan, "0.svg", "#ffffff", dark)) > luminance(became(plan, "0.svg", "#000000", dark))


@settings(max_examples=25)
@given(several)
def test_derived_shades_keep_touching_pairs_apart(groups: list[list[Rgb]]) -> None:
    files = []
    for group in groups:
        pairs = {(one.hex, other.hex): 0.2 for one, other in combinations(group, 2)}
        files.append(file(*(color.hex for color in group), touching=pairs))
    plan = assign(found(*files), KIT, Plan(recipe=Recipe(natural=False, allowed=AllowedColors.DERIVED)))
    for at, group in enumerate(groups):
        for one, other in combinations(group, 2):
            # Whites and near-blacks go to the kit's own, which are not quite as far apart.
            if min(luminance(one), luminance(other)) > 0.02 and max(luminance(one), luminance(other)) < 0.8:
                # What was nearer than that may come nearer still, where both make room for a third.
                if contrast_ratio(one, other) >= LARGE:
                    after = contrast_ratio(*(became(plan, f"{at}.svg", color.hex) for color in (one, other)))
                    assert after >= LARGE * 0.93


def test_skin_is_told_by_its_drawing() -> None:
    pink = file("#ffb8b8", "#2f2e41", "#6c63ff", areas={"#ffb8b8": 0.1, "#2f2e41": 0.3, "#6c63ff": 0.6})
    flower = file("#ffb8b8", "#e91e63", "#66bb6a", areas={"#ffb8b8": 0.6, "#e91e63": 0.2, "#66bb6a": 0.2})
    person, rose = (found(one).files[0] for one in (pink, flower))
    assert list(natural_tones(person)) == [Rgb(0xFF, 0xB8, 0xB8)]
    assert natural_tones(rose) == {}
    # A thing that is shaded in a dozen tones of skin is a thing; a peach that runs into a violet is a sky.
    tones = [f"#{200 + at:02x}{150 + at:02x}{120 + at:02x}" for at in range(0, 40, 4)]
    assert natural_tones(found(file(*tones)).files[0]) == {}
    # Told from pixels, a skin is many shades of a tone.
    pixels = found(file(*tones)).files[0]._replace(on_pixels=True)
    assert natural_tones(pixels).keys() == {Rgb(200 + at, 150 + at, 120 + at) for at in range(0, 40, 4)}
    sky = file("#f2b6a0", "#5c6bc0", "#1b1f3a", blends=(("#f2b6a0", "#5c6bc0"),))
    assert natural_tones(found(sky).files[0]) == {}
    # A cheek that runs into its own light is one.
    lit = file("#ffd8c1", "#ffeded", "#1e2ecf", blends=(("#ffd8c1", "#ffeded"),))
    assert list(natural_tones(found(lit).files[0])) == [Rgb(0xFF, 0xD8, 0xC1)]
    # Someone far away is someone.
    far = file("#d9a37e", "#2f3e9e", areas={"#d9a37e": 0.0, "#2f3e9e": 1.0})
    assert list(natural_tones(found(far).files[0])) == [Rgb(0xD9, 0xA3, 0x7E)]
    # The same paint goes the same way in all of a set: as it is in more of it.
    assert natural_in_set(found(pink, pink, pink).files) == {Rgb(0xFF, 0xB8, 0xB8): "skin"}
    assert natural_in_set(found(pink, flower).files) == {}


def test_a_vivid_yellow_is_no_cream_for_the_sake_of_one_file_of_many_yellows() -> None:
    gold = [file("#fcc21b", "#ffffff", "#5d4037") for _ in range(3)]
    many = file("#fcc21b", "#fec50c", "#e39400", "#ffb410", "#f07d1d", "#fab035")
    plan = assign(found(*gold, many), KIT)
    assert oklch_of([became(plan, "0.svg", "#fcc21b")])[0, 1] >= 0.1


@pytest.mark.parametrize(
    "skin",
    [
        *("#ffe4c0", "#f9c9b6", "#f2d3b1", "#ffcb7e", "#ffcc80", "#e2ba87", "#eeb4a4", "#c99c62", "#d78774", "#b98e6a"),
        *("#ae5d29", "#9e5622", "#836055", "#8c5a2b", "#694d3d", "#77311d", "#763900", "#623d36", "#5c3829", "#4b2e20"),
    ],
)
def test_skin_is_kept_from_the_fairest_to_the_darkest(skin: str) -> None:
    someone = file(skin, "#000000", "#6bd9e9", "#e0ddff", areas={skin: 0.3, "#000000": 0.1, "#6bd9e9": 0.2})
    # Beside what else may be skin, a shirt say, as well.
    beside = file(skin, "#000000", "#f9c9b6", "#9287ff", areas={skin: 0.3, "#000000": 0.1, "#f9c9b6": 0.2})
    for one in (someone, beside):
        assert became(assign(found(one), KIT), "0.svg", skin) == parse_color(skin).rgb


def test_half_a_face_does_not_change() -> None:
    shaded = file(
        "#e0ac86", "#d9895a", "#3e2723", areas={"#e0ac86": 0.5, "#d9895a": 0.2}, touching={("#e0ac86", "#d9895a"): 0.4}
    )
    plan = assign(found(shaded), KIT)
    assert (plan.choices["#e0ac86"].target, plan.choices["#d9895a"].target) == (KEEP, KEEP)


def doubted(kind: DoubtKind, paints: SetPaints, plan: Plan) -> Doubt:
    [first, *_] = [one for one in doubts(paints, plan, KIT, WHITE) if one.kind is kind]
    return first


def test_a_tone_that_may_be_skin_or_not_is_told_with_the_other_choice() -> None:
    # A pink that was kept since hair lies beside it, and a peach that runs into a violet, as skies do.
    pink = found(file("#ffb8b8", "#2f2e41", "#6c63ff", areas={"#ffb8b8": 0.1, "#2f2e41": 0.3, "#6c63ff": 0.6}))
    sky = found(file("#f2b6a0", "#5c6bc0", "#1b1f3a", blends=(("#f2b6a0", "#5c6bc0"),)))
    for paints, key, kept in ((pink, "#ffb8b8", True), (sky, "#f2b6a0", False)):
        plan = assign(paints, KIT)
        assert (plan.choices[key].target == KEEP) is kept
        told = doubted(DoubtKind.SKIN, paints, plan)
        assert told.reason.startswith(key)
        assert told.remedies
        for remedy in told.remedies:
            after = plan.with_targets(remedy.targets, KIT)
            assert (after.choices[key].target == KEEP) is not kept
            assert not [one for one in doubts(paints, after, KIT, WHITE) if one.kind is DoubtKind.SKIN]


def test_what_is_doubtful_is_told_with_remedies_that_settle_it() -> None:
    listed = found(
        file("#2f3e9e", "#ffffff", "#e53935", texts=(("#ffffff", "#2f3e9e"),), touching={("#2f3e9e", "#ffffff"): 0.5}),
        file("#2f3e9e", "#1b5e20", outline=("#1b5e20",)),
    )
    plan = assign(listed, KIT, STRICT)
    assert doubts(listed, plan, KIT, WHITE) == []
    bad = {"#2f3e9e": "fog.100", "#e53935": "kelp.base", "#1b5e20": "fog.50"}
    choices = {
        key: choice.model_copy(update={"target": bad.get(key, choice.target)}) for key, choice in plan.choices.items()
    }
    worse = plan.with_(choices=choices)
    kinds = [one.kind for one in doubts(listed, worse, KIT, WHITE)]
    assert kinds == sorted(kinds, key=list(DoubtKind).index), "worst first"
    assert set(kinds) == {DoubtKind.UNREAD, DoubtKind.BELOW, DoubtKind.SINKS, DoubtKind.HUE}
    for kind in set(kinds):
        doubt = doubted(kind, listed, worse)
        assert doubt.remedies
        for remedy in doubt.remedies:
            if KEEP in remedy.targets.values() and kind is DoubtKind.HUE:
                continue
            settled = worse.with_targets(remedy.targets, KIT, remedy.file)
            left = [
                one for one in doubts(listed, settled, KIT, WHITE) if one.kind is kind and one.paints == doubt.paints
            ]
            assert left == [], f"{remedy.title} settles {doubt.reason}"
    # What a person chose is not doubted.
    chosen = plan.with_targets(bad, KIT)
    assert doubts(listed, chosen, KIT, WHITE) == []


@settings(max_examples=25)
@given(several, kits())
def test_every_remedy_can_be_taken(groups: list[list[Rgb]], kit: Kit) -> None:
    listed = drawn(groups)
    plan = assign(listed, kit)
    for doubt in doubts(listed, plan, kit, WHITE):
        assert doubt.files
        for remedy in doubt.remedies:
            plan.with_targets(remedy.targets, kit, remedy.file)


def test_a_mode_of_one_color_has_room_for_what_meets_only() -> None:
    listed = found(*(file(f"#{at:02x}{at:02x}{at:02x}", "#ffffff") for at in range(10, 240, 6)))
    plan = assign(listed, KIT, Plan(recipe=Recipe(mode=Mode.SINGLE)))
    for at, level in enumerate(range(10, 240, 6)):
        code = f"#{level:02x}{level:02x}{level:02x}"
        assert became(plan, f"{at}.svg", code) != became(plan, f"{at}.svg", "#ffffff")
        off = step_position(became(plan, f"{at}.svg", code)) - step_position(Rgb(level, level, level))
        assert abs(off) < 1.5


def kit_of(*colors: tuple[str, Role, str]) -> Kit:
    """A kit of a few colors."""
    made = (KitColor(key=key, name=key, role=role, base=parse_color(code).rgb) for key, role, code in colors)
    return Kit(name="Small", colors=tuple(made))


@given(st.floats(0, 1), st.floats(0.45, 0.65))
def test_a_cream_is_not_the_hue_that_a_vivid_yellow_goes_to(hue: float, lightness: float) -> None:
    kit = kit_of(
        *(("aubergine", Role.PRIMARY, "#5b2a86"), ("lagoon", Role.SECONDARY, "#00a6a6")),
        *(
            ("coral", Role.ACCENT, "#f25c5c"),
            ("cream", Role.BACKGROUND, "#fffbf0"),
            ("slate", Role.TEXT_DARK, "#39434d"),
        ),
    )
    vivid = Rgb(*(round(one * 255) for one in hls_to_rgb(hue, lightness, 1.0))).hex
    plan = assign(found(file(vivid, "#ffffff", "#fff6dc")), kit, STRICT)
    assert oklch_of([became(plan, "0.svg", vivid, kit)])[0, 1] >= 0.03, f"{vivid} ended grey"
    assert became(plan, "0.svg", "#fff6dc", kit).r >= became(plan, "0.svg", "#fff6dc", kit).b, "a cream stays warm"


@pytest.mark.parametrize("cream", ["#f4efe6", "#fdf8ec", "#f5dfbb", "#eef0f4"])
def test_greys_that_are_told_from_white_are_told_from_a_cream_too(cream: str) -> None:
    """A chart on white: its grey panel has white lines, the strip above it is a little darker."""
    kit = kit_of(
        ("sea", Role.PRIMARY, "#2f4b7c"), ("ground", Role.BACKGROUND, cream), ("ink", Role.TEXT_DARK, "#1b1f2a")
    )
    page, panel, strip = "#ffffff", "#ebebeb", "#d9d9d9"
    touching = {(page, panel): 0.4, (panel, strip): 0.2}
    plan = assign(found(file(page, panel, strip, "#333333", touching=touching)), kit, STRICT)
    light = [luminance(became(plan, "0.svg", code, kit)) + 0.05 for code in (page, panel, strip)]
    assert became(plan, "0.svg", page, kit) == kit.color("ground").base
    assert min(a / b for a, b in pairwise(light)) >= 1.06, "a factor that is seen"


def test_a_kit_with_one_pale_yellow_makes_no_yellow_brown_and_nothing_lighter_than_its_ground() -> None:
    kit = kit_of(
        ("tar", Role.PRIMARY, "#16324f"), ("signal", Role.ACCENT, "#f2542d"), ("sail", Role.BACKGROUND, "#f5dfbb")
    )
    codes = (
        *("#000000", "#070606", "#172e49", "#1fb3c2", "#276a82", "#32090b", "#333333", "#4cc2ce", "#665c34", "#685e5b"),
        *("#70cfd9", "#808080", "#8bc540", "#9d8f88", "#a49555", "#b53f26", "#bcac68", "#d76e27", "#db5526", "#ef5f2b"),
        *("#f37c20", "#f3dc7f", "#f7f3d6", "#fdd409", "#ffffff"),
    )
    areas = {**dict.fromkeys(codes, 0.0), "#172e49": 0.7, "#4cc2ce": 0.3}
    plan = assign(found(file(*codes, areas=areas), file("#fdd409", "#ffffff")), kit, STRICT)
    for code in codes:
        moved = abs(step_position(became(plan, "0.svg", code, kit)) - step_position(parse_color(code).rgb))
        assert moved < 3.5, f"{code} became {became(plan, '0.svg', code, kit).hex}"
    plan = assign(found(file("#ffffff", "#e4e4e4", "#f2f2f2", "#f7f7f7", "#172e49", "#f37c20")), kit, STRICT)
    page, *cards = (became(plan, "0.svg", code, kit) for code in ("#ffffff", "#e4e4e4", "#f2f2f2", "#f7f7f7"))
    assert luminance(page) >= max(map(luminance, cards))


def test_what_is_kept_apart_in_one_file_does_not_become_blue_or_grey_for_that() -> None:
    codes = [_vivid(0.55 + 0.4 * at / 23, 360 * (0.08 + 0.08 * (at * 7 % 24) / 24)).hex for at in range(24)]
    plan = assign(found(file(*codes), file(codes[0], "#000000")), KIT, STRICT)
    for code in codes:
        before, after = oklch_of([parse_color(code).rgb, became(plan, "0.svg", code)])
        if before[1] >= 0.08:
            assert after[1] >= 0.03, f"the yellow {code} ended grey"
            assert hue_distance(before[2], after[2]) < 60, f"the yellow {code} ended another color"


def test_many_colors_of_one_drawing_use_all_the_steps_there_are() -> None:
    # Greys are among them: what is vivid does not end on the steps of greys to be kept apart.
    greys = [Rgb(at, at, at + 2) for at in range(3, 253, 20)]
    listed = drawn([[Rgb(at * 5 % 256, at * 7 % 256, at * 11 % 256) for at in range(150)] + greys])
    plan = assign(listed, KIT, STRICT)
    used = {became(plan, "0.svg", use.paint.key) for use in listed.uses}
    assert len(used) > 0.7 * len(KIT.colors) * len(STEPS)
    assert oklch_of([became(plan, "0.svg", "#6dff23")])[0][1] >= 0.03, "a vivid green ended as a white"


def costs_below_text(run: TextRun, *, natural: set[Rgb], on_pixels: bool = False) -> float:
    """What it costs that the letters of a text miss 4.5:1 on what they stand on."""
    assert run.ground is not None
    both = (run.text.ink.rgb, run.ground.rgb)
    held = FilePaints("sign", (run.text.ink, run.ground), Measured(texts=(run,)), on_pixels=on_pixels)
    pairs = pairs_of(both, [held], {color: at for at, color in enumerate(both)}, natural, WHITE)
    return float(pairs.weights[:, Term.BELOW_TEXT].sum())


def test_what_misses_its_level_is_brought_to_it_and_large_letters_need_less() -> None:
    grey, paper, brown = Rgba(130, 130, 130), Rgba(*WHITE), Rgba(126, 73, 57)
    assert LARGE < contrast_ratio(grey.rgb, WHITE) < TEXT < contrast_ratio(brown.rgb, WHITE)
    small, large = (TextRun(Text("Quay 2", grey, 1.0, size, bold=False), paper) for size in (16.0, 40.0))
    assert costs_below_text(small, natural=set()) > 0
    assert costs_below_text(large, natural=set()) == 0
    # Words for the list of mails are not to be seen.
    veiled, hidden = (TextRun(Text("Quay 2", brown, shows, 16.0, bold=False), paper) for shows in (0.7, 0.0))
    assert costs_below_text(veiled, natural=set()) > 0
    assert costs_below_text(hidden, natural=set()) == 0
    # In a picture letters are not recognized: what skin and hair are on is no ground of letters.
    lines = TextRun(Text("thin lines", brown, 1.0, 16.0, bold=False), paper)
    assert costs_below_text(lines, natural=set(), on_pixels=True) > 0
    assert costs_below_text(lines, natural={brown.rgb}, on_pixels=True) == 0
    assert costs_below_text(lines, natural={brown.rgb}) > 0


#: A button of a mail as many style sheets make it, among other greys: its letters let their ground through.
BUTTON = "#e0e1e2"


#: A kit whose lightest and darkest are no white and no black.
SOFT = kit_of(
    *(("sea", Role.PRIMARY, "#2f4b7c"), ("moss", Role.SECONDARY, "#5f7d3a"), ("sand", Role.ACCENT, "#e3b448")),
    *(("linen", Role.BACKGROUND, "#f0e9da"), ("night", Role.TEXT_DARK, "#2b3040")),
)


def mails_with_a_button(letters: str) -> SetPaints:
    page = "#ffffff"
    areas = {page: 0.76, "#f8f8f9": 0.2, BUTTON: 0.04}
    touching = {(page, BUTTON): 0.3, ("#f8f8f9", page): 0.4}
    one = file(page, "#f8f8f9", BUTTON, "#d4d4d5", letters, areas=areas, touching=touching, texts=((letters, BUTTON),))
    other = file(page, "#f2f2f2", "#eaeaea", "#e0e0e0", "#d0d0d0", "#d4d4d5", "#222222", areas={page: 0.9})
    return found(one, other, other)


def test_letters_that_let_their_ground_through_go_on_reading() -> None:
    paints = mails_with_a_button("#00000099")
    [read] = readings_of_set(paints, assign(paints, SOFT, STRICT), SOFT)
    assert TEXT <= read.before < 6, "where the two colors have 16:1"
    assert read.after >= TEXT


def test_where_no_color_lets_them_read_the_page_stays_the_kits_and_it_is_told() -> None:
    letters = "#00000091"
    paints = mails_with_a_button(letters)
    plan = assign(paints, SOFT, STRICT)
    [read] = readings_of_set(paints, plan, SOFT)
    assert 4 < read.after < TEXT < read.before
    assert became(plan, "0.svg", "#ffffff", SOFT) == SOFT.color("linen").base != became(plan, "0.svg", BUTTON, SOFT)
    told = next(one for one in doubts(paints, plan, SOFT, WHITE) if one.kind is DoubtKind.UNREAD)
    assert f"had {read.before:.1f}" in told.reason
    assert told.paints == (parse_color(letters).key, BUTTON)


def test_greys_stay_greys_where_the_kit_has_some() -> None:
    """A picture of a window has more light greys than there are neutral steps of their lightness."""
    greys = (
        "#ffffff",
        "#f7f7f7",
        "#ececec",
        "#ede6e3",
        "#ededf4",
        "#e3e3e3",
        "#dfdfdf",
        "#c9c9c9",
        "#b4b4b4",
        "#9f9f9f",
    )
    plan = assign(
        found(file(*greys, "#e3a21a", "#1f77b4", "#000000"), file("#ffffff", "#dfdfdf", "#c6c6c6")), SOFT, STRICT
    )
    tints = {grey: became(plan, "0.svg", grey, SOFT) for grey in greys}
    assert {grey: color.hex for grey, color in tints.items() if oklch_of([color])[0, 1] > 0.04} == {}
