"""What is proposed for the places of decks' themes, from what stands in them and what is read there."""

from __future__ import annotations

from collections.abc import Mapping

import pytest

from pavese.core.color.contrast import LARGE, TEXT, WHITE, contrast_ratio
from pavese.core.color.derived import Transform, derived
from pavese.core.color.difference import differences
from pavese.core.color.neighbors import LEAST
from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgba
from pavese.core.color.vision import Vision
from pavese.core.kit.kit import Kit
from pavese.core.kit.role import Role
from pavese.core.recolor.assign import assign
from pavese.core.recolor.inventory import Inventory, SetPaints, summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.proposed_theme import theme_for
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.target import resolve_target
from pavese.core.recolor.texts import BARE, Text, TextRun
from pavese.core.recolor.theme import place_selector
from pavese.demo.load import demo_kit
from tests.core.test_near_colors import kit_of

QUIET = kit_of(
    ("Harbor", Role.PRIMARY, "#2f4b7c"),
    ("Moss", Role.SECONDARY, "#5f7d3a"),
    ("Rust", Role.ACTION, "#b5482a"),
    ("Straw", Role.ACCENT, "#e3b448"),
    ("Linen", Role.BACKGROUND, "#f4efe6"),
    ("Night", Role.TEXT_DARK, "#1b1f2a"),
)
KITS = pytest.mark.parametrize("kit", [demo_kit(), QUIET], ids=["demo", "quiet"])
#: Accents of one hue each, as templates bring them.
LOUD = {
    "accent1": "#7fd13b",
    "accent2": "#ea157a",
    "accent3": "#feb80a",
    "accent4": "#00addc",
    "accent5": "#738ac8",
    "accent6": "#1ab39f",
}


def paint_of(written: str) -> Rgba:
    return Rgba(*parse_color(written).rgb)


def deck(
    theme: Mapping[str, str], *runs: TextRun, made: tuple[Site, ...] = (), touching: tuple[tuple[str, str], ...] = ()
) -> SetPaints:
    """A deck with what stands in the places of its theme, what is made from it, its texts, and what touches there."""
    sites = [Site(paint_of(held), Kind.THEME, (place_selector(slot),)) for slot, held in theme.items()]
    borders = {tuple(sorted(map(paint_of, both))): 1 / len(touching) for both in touching}
    measured = Measured(texts=runs, touching=borders, areas={paint: 1.0 for both in borders for paint in both})
    return summarize([Inventory.count([*sites, *made])], [measured], ["a.pptx"])


def words(ink: Rgba, ground: Rgba, size: float) -> TextRun:
    return TextRun(Text("x", ink, 1.0, size, False), ground, page="/slide1")


@KITS
@pytest.mark.parametrize("slot", ["lt2", "dk2", "accent3"])
def test_texts_of_slides_without_a_ground_read_on_white(kit: Kit, slot: str) -> None:
    grey = paint_of("#737373")
    paints = deck({"lt1": "#ffffff", "dk1": "#000000", slot: "#737373"}, words(grey, BARE, 20))
    assert contrast_ratio(kit.resolve(theme_for(paints, kit)[slot]), WHITE) >= TEXT


@KITS
@pytest.mark.parametrize("slot", ["accent2", "accent3", "accent5"])
def test_large_texts_that_read_well_do_not_end_where_they_just_pass(kit: Kit, slot: str) -> None:
    navy, paper = paint_of("#001a45"), paint_of("#ffffff")
    theme = {"lt1": "#ffffff", "dk1": "#000000", **LOUD, slot: "#001a45"}
    # As it stands there, and as it is made from that.
    through = (Transform("lumMod", 90_000), Transform("lumOff", 10_000))
    lighter = Rgba(*derived(navy.rgb, through).rgb)
    made = Site(lighter, Kind.TEXT, (place_selector(slot, through),))
    paints = deck(theme, words(navy, paper, 40), words(lighter, paper, 40), made=(made,))
    plan = assign(paints, kit)
    ground = resolve_target(plan.choices[paper.key].target, kit)
    for ink in (navy, lighter):
        became = resolve_target(plan.choices[ink.key].target, kit)
        assert became is not None
        assert ground is not None
        assert contrast_ratio(became, ground) >= TEXT


def test_accents_keep_their_hue_also_where_the_kit_has_fewer_colors() -> None:
    accents = dict(zip(LOUD, ["#5b9bd5", "#ed7d31", "#a5a5a5", "#ffc000", "#4472c4", "#70ad47"], strict=True))
    theme = theme_for(deck({"lt1": "#ffffff", "dk1": "#000000", **accents}), QUIET)
    hues = {slot: token.color for slot, token in theme.items() if slot in LOUD and slot != "accent3"}
    assert [*hues.values()] == ["harbor", "rust", "straw", "harbor", "moss"]


@KITS
@pytest.mark.parametrize("slot", ["accent1", "accent4"])
@pytest.mark.parametrize("shown", ["place", "typed", "made from it"])
def test_what_is_clearly_seen_on_a_dark_slide_does_not_sink_into_it(kit: Kit, slot: str, shown: str) -> None:
    light, black = "#bbe0e3", "#000000" if shown == "place" else "#0a0d14"
    theme = {"lt1": "#ffffff", "dk1": "#000000", **LOUD, slot: light}
    through = (Transform("lumMod", 75_000),) if shown == "made from it" else ()
    figure = Rgba(*derived(paint_of(light).rgb, through).rgb)
    made = (Site(figure, Kind.FILL, (place_selector(slot, through),)), Site(paint_of(black), Kind.GROUND))
    paints = deck(theme, made=made, touching=((figure.key, black),))
    assert contrast_ratio(figure.rgb, paint_of(black).rgb) >= LARGE
    plan = assign(paints, kit)
    became, ground = (resolve_target(plan.choices[paint.key].target, kit) for paint in (figure, paint_of(black)))
    assert became is not None
    assert ground is not None
    assert contrast_ratio(became, ground) >= LARGE or differences([became], [ground])[0, 0] >= LEAST[Vision.USUAL]


@KITS
@pytest.mark.parametrize(("one", "other"), [("dk1", "dk2"), ("lt1", "lt2")])
def test_places_that_are_one_ground_stay_one(kit: Kit, one: str, other: str) -> None:
    theme = {"lt1": "#ffffff", "dk1": "#000000", **LOUD}
    ground = Site(paint_of(theme[one]), Kind.GROUND, (place_selector(one),))
    same = theme_for(deck({**theme, other: theme[one]}, made=(ground,)), kit)
    assert same[other] == same[one]
    # Where no slide is of it, the other one may bring a color.
    brings = theme_for(deck({**theme, other: theme[one]}), kit)
    assert brings[other] != brings[one]


def test_a_loud_light_place_is_no_tint_of_white() -> None:
    yellow = paint_of("#ffee00")
    theme = {"lt1": "#ffffff", "dk1": "#000000", **LOUD, "lt2": "#ffee00"}
    paints = deck(theme, words(yellow, paint_of("#000000"), 40))
    assert str(theme_for(paints, QUIET)["lt2"]) == "straw.base"


def test_a_light_main_color_stays_the_first_accent_on_a_light_slide() -> None:
    kit = kit_of(
        ("Sun", Role.PRIMARY, "#ffd100"), ("Ink", Role.TEXT_DARK, "#1b1f2a"), ("White", Role.BACKGROUND, "#ffffff")
    )
    theme = {"lt1": "#ffffff", "dk1": "#000000", **LOUD, "accent1": "#4472c4"}
    made = (Site(paint_of("#4472c4"), Kind.FILL, (place_selector("accent1"),)),)
    paints = deck(theme, made=made, touching=(("#4472c4", "#ffffff"),))
    assert kit.resolve(theme_for(paints, kit)["accent1"]) == paint_of("#ffd100").rgb


#: What someone typed in on slides, from light to dark.
TYPED = ("#e8a0a0", "#d62828", "#9d1c1c")


def typed_in(accent: str) -> tuple[SetPaints, Plan]:
    """A deck with typed colors beside an accent, and what becomes of it where the accent goes to the kit's darkest."""
    made = [Site(paint_of(accent), Kind.FILL, (place_selector("accent1"),))]
    made += [Site(paint_of(one), Kind.FILL) for one in TYPED]
    theme = {"lt1": "#ffffff", "dk1": "#000000", "accent1": accent}
    paints = deck(theme, made=tuple(made))
    ruled = Plan().with_theme({"lt1": "linen.base", "dk1": "night.base", "accent1": "harbor.900"}, QUIET)
    return paints, assign(paints, QUIET, held=ruled)


def test_an_accent_that_a_rule_makes_dark_does_not_make_all_else_dark() -> None:
    _, beside_dark = typed_in("#20304d")
    paints, beside_light = typed_in("#bbe0e3")
    assert resolve_target(beside_light.choices[paint_of("#bbe0e3").key].target, QUIET) == QUIET.color("harbor").ramp.at(
        900
    )
    for one in TYPED:
        assert beside_light.choices[paint_of(one).key].target == beside_dark.choices[paint_of(one).key].target
    assert paints.theme


def test_what_only_stands_in_a_theme_takes_no_color_from_what_is_seen() -> None:
    rust = QUIET.color("rust").base
    theme = {"lt1": "#ffffff", "dk1": "#000000", "accent6": "#00addc"}
    paints = deck(theme, made=(Site(paint_of("#b0452c"), Kind.FILL),))
    plan = assign(paints, QUIET, held=Plan().with_theme({"accent6": "rust.base"}, QUIET))
    assert resolve_target(plan.choices[paint_of("#b0452c").key].target, QUIET) == rust
