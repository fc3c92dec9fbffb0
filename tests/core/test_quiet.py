"""One ground and one ink through whole files, in any kit: what is offered reads, and so does what is made of it."""

from __future__ import annotations

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from pavese.core.color.contrast import TEXT, contrast_ratio, luminance
from pavese.core.color.srgb import Rgba
from pavese.core.errors import InvalidPlanError
from pavese.core.kit.deciding import Judgement, decided, decided_trios
from pavese.core.kit.decisions import Status
from pavese.core.kit.kit import Kit
from pavese.core.kit.rules import Use
from pavese.core.kit.token import parse_token
from pavese.core.kit.trios import thirds
from pavese.core.recolor.assign import assign
from pavese.core.recolor.inventory import Inventory, SetPaints, summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.quiet import Pressed, fitting, grounds_and_inks, light_and_dark, quiet, ruled_by, rules_left
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.texts import Text, TextRun
from pavese.demo.load import demo_kit
from tests.core.strategies import kits


@settings(max_examples=150)
@given(kits())
def test_what_is_offered_reads_and_what_is_made_of_it_too(kit: Kit) -> None:
    offered = grounds_and_inks(kit)
    assert all(one.ratio >= TEXT for one in offered)
    assert len({one.key for one in offered}) == len(offered)
    for pair in offered[:6]:
        for pressed in Pressed:
            made = quiet(kit, pair.ground, pair.ink, pressed)
            assert (made.ground, made.ink) == (pair.ground, pair.ink)
            for ink, ground in ((made.ink, made.ground), (made.link, made.ground), (made.label, made.button)):
                assert contrast_ratio(kit.resolve(ink), kit.resolve(ground)) >= TEXT
            # What it says can be read back from the rules.
            assert ruled_by(Plan().with_rules(made.rules, kit).rules) == made


@settings(max_examples=150)
@given(kits())
def test_the_whole_results_are_one_on_a_light_ground_and_one_on_a_dark_one(kit: Kit) -> None:
    # Also of a single color, and of a few loud ones.
    light, dark = light_and_dark(kit)
    assert {light, dark} <= set(grounds_and_inks(kit))
    assert luminance(kit.resolve(light.ground)) > luminance(kit.resolve(light.ink))
    assert luminance(kit.resolve(dark.ground)) < luminance(kit.resolve(dark.ink))


@given(kits(), st.data())
def test_a_pair_that_does_not_read_is_refused(kit: Kit, data: st.DataObject) -> None:
    tokens = [token for token, _ in kit.tokens()]
    ground, ink = data.draw(st.sampled_from(tokens)), data.draw(st.sampled_from(tokens))
    assume(contrast_ratio(kit.resolve(ground), kit.resolve(ink)) < TEXT)
    with pytest.raises(InvalidPlanError, match="does not read"):
        quiet(kit, ground, ink, Pressed.TONE)


def test_where_pairs_are_approved_for_text_only_those_are_offered() -> None:
    kit = demo_kit()
    open_ = grounds_and_inks(kit)
    assert open_
    assert not any(one.approved for one in open_)
    pair = ("hull.base", "lamp.base")
    body = decided(kit, [pair], Judgement(Status.APPROVED, Use.BODY, "Ines", None, ""))  # type: ignore[arg-type]
    assert [(str(one.ink), str(one.ground), one.approved) for one in grounds_and_inks(body)] == [(*pair, True)]
    large = decided(kit, [pair], Judgement(Status.APPROVED, Use.LARGE, "Ines", None, ""))  # type: ignore[arg-type]
    assert not any(one.approved for one in grounds_and_inks(large)), "approved for large text is not for all"


def test_a_button_is_in_the_color_for_actions_with_what_reads_on_it() -> None:
    kit = demo_kit()
    fog, hull = parse_token("fog.base"), parse_token("hull.base")
    made = quiet(kit, fog, hull, Pressed.ACTION)
    assert made.button.color == "buoy"
    assert quiet(kit, fog, hull, Pressed.INK).button == hull
    assert quiet(kit, fog, hull, Pressed.INK).label == fog
    assert quiet(kit, fog, hull, Pressed.TONE).button.color == "fog"
    without = kit.with_(colors=tuple(color for color in kit.colors if color.role != "action"))
    assert quiet(without, fog, hull, Pressed.ACTION).button == hull


def test_what_the_kit_loses_of_a_pair_leaves_what_was_chosen_beside_it() -> None:
    kit = demo_kit()
    fog, hull = parse_token("fog.base"), parse_token("hull.base")
    chosen = {Kind.STROKE: "kelp.base", Kind.FILL: "kelp.base"}
    rules = quiet(kit, fog, hull, Pressed.ACTION).rules | chosen
    assert rules_left(rules, kit) == rules

    def without(key: str) -> Kit:
        return kit.with_(colors=tuple(color for color in kit.colors if color.key != key))

    inked = quiet(kit, fog, hull, Pressed.INK).rules
    assert rules_left(rules, without("buoy")) == inked | chosen, "what was pressed had that color"
    kept_so = quiet(kit, fog, hull, Pressed.ACTION).rules
    assert rules_left(rules, without("kelp")) == kept_so, "the line is a step of the ground again"
    assert rules_left(rules, without("hull")) == rules_left(rules, without("fog")) == {Kind.FILL: "kelp.base"}


def test_a_button_is_in_a_color_that_makes_a_trio_with_the_pair() -> None:
    kit = demo_kit()
    fog, hull, buoy, deep = (parse_token(f"{one}.{step}") for one, step in _TRIOS)
    assert thirds(kit, fog, hull) == []
    pairs_ = [(str(one), str(fog)) for one in (hull, buoy, deep)]
    approved = decided(kit, pairs_, Judgement(Status.APPROVED, Use.LARGE, "Ines", None, ""))  # type: ignore[arg-type]
    found = thirds(approved, fog, hull)
    assert {trio.graphic for trio, _ in found} == {buoy, deep}
    assert not any(together for _, together in found)
    one = decided_trios(
        approved, [(str(fog), str(hull), str(deep))], Judgement(Status.APPROVED, None, "Ines", None, "")
    )
    assert [(trio.graphic, whole) for trio, whole in thirds(one, fog, hull)] == [(deep, True), (buoy, False)]
    made = quiet(kit, fog, hull, deep)
    assert (made.button, made.link) == (deep, hull)
    assert contrast_ratio(kit.resolve(made.label), kit.resolve(deep)) >= TEXT
    assert ruled_by(Plan().with_rules(made.rules, kit).rules) == made
    for sunk in ("lamp.base", "fog.100"):
        with pytest.raises(InvalidPlanError, match="does not stand out from Fog: it needs 3:1"):
            quiet(kit, fog, hull, parse_token(sunk))


_TRIOS = (("fog", "base"), ("hull", "base"), ("buoy", "base"), ("deep-water", "base"))
WHITE, RED = Rgba(255, 255, 255), Rgba(200, 30, 30)


def _set(*texts: TextRun) -> SetPaints:
    sites = [Site(WHITE, Kind.GROUND), Site(WHITE, Kind.LABEL), Site(RED, Kind.ACTION), Site(RED, Kind.TEXT)]
    return summarize([Inventory.count(sites)], [Measured(texts=texts)], ["a.html"])


def test_where_a_label_is_not_told_from_other_texts_buttons_are_tone_on_tone() -> None:
    label = Text("Go", WHITE, 1.0, 16, False, (), Kind.LABEL)
    link = Text("Go", WHITE, 1.0, 16, False, (), Kind.LINK)
    assert fitting(_set(TextRun(label, RED, Kind.ACTION))) is Pressed.ACTION
    assert fitting(_set(TextRun(link, RED, Kind.ACTION))) is Pressed.TONE
    assert fitting(_set(TextRun(label, WHITE, Kind.GROUND))) is Pressed.TONE
    assert fitting(_set(TextRun(link, None))) is Pressed.ACTION


def test_one_paint_in_two_capacities_goes_two_ways() -> None:
    kit = demo_kit()
    made = quiet(kit, parse_token("fog.base"), parse_token("hull.base"), Pressed.INK)
    plan = assign(_set(), kit, Plan().with_rules(made.rules, kit))
    to: Recoloring = plan.recoloring(kit, "a.html")
    fog, hull = kit.resolve(made.ground), kit.resolve(made.ink)
    assert [to.at(WHITE, Kind.GROUND), to.at(WHITE, Kind.LABEL)] == [fog, fog]
    assert [to.at(RED, Kind.ACTION), to.at(RED, Kind.TEXT)] == [hull, hull]
    # What nothing more is known of goes with its ground, and no choice is left that planning made.
    assert {choice.by for choice in plan.choices.values()} == {"rule"}
    assert plan.files == {}
