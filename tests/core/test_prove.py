"""Decisions, nudges, trios, states, and what makes a kit more readable: the promises of Prove."""

import pytest
from hypothesis import assume, example, given
from hypothesis import strategies as st

from pavese.core.color.contrast import LARGE, TEXT, contrast_ratio
from pavese.core.color.difference import difference
from pavese.core.color.oklab import hue_distance, oklch_of
from pavese.core.color.srgb import Rgb
from pavese.core.kit.changes import changed, with_base, with_tinted, without
from pavese.core.kit.compare import DifferenceKind, compare
from pavese.core.kit.controls import State, controls
from pavese.core.kit.decisions import Decision, Status
from pavese.core.kit.diagnosis import diagnosis
from pavese.core.kit.edition import PictureRights, Snapshot, SourceRights, unresolved
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.logo import LogoShare
from pavese.core.kit.logo_on_grounds import logo_ratio
from pavese.core.kit.nudge import nudges
from pavese.core.kit.pairings import pairs
from pavese.core.kit.places import meant, shared, touched
from pavese.core.kit.role import Role
from pavese.core.kit.rules import Rules, Use
from pavese.core.kit.token import parse_token
from pavese.core.kit.trios import trios
from pavese.core.kit.typefaces import stand_in
from pavese.core.kit.widen import additions
from tests.core.strategies import colors, kits, proven_kits


def demo() -> Kit:
    names = {
        "Deep water": (Role.PRIMARY, "#0b5e6b"),
        "Buoy": (Role.ACTION, "#e4572e"),
        "Fog": (Role.BACKGROUND, "#eef2f1"),
        "Hull": (Role.TEXT_DARK, "#17262b"),
        "Rope": (Role.NEUTRAL, "#8a8578"),
    }
    return Kit.model_validate(
        {
            "name": "Quay",
            "colors": [
                {"key": name.lower().replace(" ", "-"), "name": name, "role": role, "base": code}
                for name, (role, code) in names.items()
            ],
        }
    )


def approved(kit: Kit, *found: tuple[str, str, Use]) -> Kit:
    made = (Decision(text=f"{t}.base", ground=f"{g}.base", status=Status.APPROVED, use=use) for t, g, use in found)
    return kit.with_(decisions=(*kit.decisions, *made))


@given(proven_kits())
def test_no_kit_holds_an_approval_that_its_colors_do_not_bear_out(kit: Kit) -> None:
    known = {color.key for color in kit.colors}
    for decision in kit.decisions:
        text, ground = (parse_token(token) for token in decision.pair)
        assert {text.color, ground.color} <= known
        ratio = contrast_ratio(kit.resolve(text), kit.resolve(ground))
        if decision.status is Status.APPROVED:
            assert ratio >= kit.rules.least(decision.use)
        elif decision.reopened:
            assert ratio < kit.rules.least(decision.use)
            assert decision.by == "Maren"


@given(proven_kits(), st.data())
def test_a_changed_color_reopens_what_it_breaks_and_nothing_else(kit: Kit, data: st.DataObject) -> None:
    key = data.draw(st.sampled_from([color.key for color in kit.colors]))
    base = data.draw(colors)
    after = changed(kit, key, lambda color: with_base(color, base))
    was = {decision.pair: decision for decision in kit.decisions}
    assert {decision.pair for decision in after.decisions} == set(was)
    for decision in after.decisions:
        if decision != was[decision.pair]:
            assert decision.status is Status.OPEN
            assert decision.reopened
    gone = without(kit, key)
    assert all(parse_token(token).color != key for decision in gone.decisions for token in decision.pair)
    assert all(setting.of != key for setting in gone.see_through)


def test_a_reopened_decision_says_what_it_was() -> None:
    kit = approved(demo(), ("hull", "fog", Use.BODY))
    after = changed(kit, "hull", lambda color: with_base(color, Rgb(150, 160, 165)))
    [decision] = after.decisions
    assert decision.status is Status.OPEN
    assert "Hull on Fog was approved for body text" in decision.reopened
    assert "4.5 is needed" in decision.reopened
    assert diagnosis(after).reopened


@given(text=colors, ground=colors, wanted=st.sampled_from([LARGE, TEXT, 7.0]))
@example(text=Rgb(119, 119, 119), ground=Rgb(255, 255, 255), wanted=TEXT)
@example(text=Rgb(128, 128, 128), ground=Rgb(127, 127, 127), wanted=7.0)
def test_a_nudge_reaches_the_level_at_the_same_hue(text: Rgb, ground: Rgb, wanted: float) -> None:
    found = nudges(text, ground, wanted)
    if contrast_ratio(text, ground) >= wanted:
        assert found == ()
        return
    for one in found:
        assert contrast_ratio(one.text, one.ground) == one.ratio >= wanted
        assert (one.text == text) == (one.changes == "ground") or one.changes == "both"
        for before, after in ((text, one.text), (ground, one.ground)):
            (_, chroma, hue), (_, new_chroma, new_hue) = oklch_of([before, after])
            assert new_chroma < 0.004 or chroma < 0.004 or hue_distance(hue, new_hue) * new_chroma <= 0.36
        assert one.difference == pytest.approx(max(difference(text, one.text), difference(ground, one.ground)))


@given(shade=st.integers(60, 200))
def test_a_nudge_of_a_grey_is_the_nearest_grey(shade: int) -> None:
    """Against all 256 greys, tried one by one."""
    grey, white = Rgb(shade, shade, shade), Rgb(255, 255, 255)
    assume(contrast_ratio(grey, white) < TEXT)
    best = max(level for level in range(256) if contrast_ratio(Rgb(level, level, level), white) >= TEXT)
    [by_text] = [one for one in nudges(grey, white, TEXT) if one.changes == "text"]
    assert abs(by_text.text.g - best) <= 1


@given(kits(smallest=2))
def test_additions_gain_what_they_say(kit: Kit) -> None:
    before = pairs(kit)
    for one in additions(kit):
        if one.shade is None:
            after = kit.with_(steps=(*kit.steps, str(one.token)))
        else:
            after = with_tinted(kit, one.token.color, [one.shade], 0.5)
        if after.steps != kit.steps or len(after.colors) > len(kit.colors):
            assert pairs(after).readable - before.readable == one.gained
        assert set(one.helped) <= set(before.without_partner)


def test_a_pale_kit_is_diagnosed_and_widened() -> None:
    kit = Kit(
        name="Pale",
        colors=tuple(
            KitColor(key=key, name=key.title(), role=role, base=base)
            for key, role, base in (
                ("sand", Role.PRIMARY, Rgb(220, 200, 160)),
                ("foam", Role.ACTION, Rgb(190, 220, 210)),
                ("mist", Role.BACKGROUND, Rgb(225, 228, 232)),
            )
        ),
    )
    found = diagnosis(kit)
    assert found.summary == "No pair of 6 reads as body text (4.5 to 1)."
    texts = " ".join(remark.text for remark in found.findings)
    assert "Sand reads with no other color" in texts
    assert "No text color of the kit reads on Foam, the action color" in texts
    dark = additions(kit)[0]
    assert dark.gained == 6
    assert set(dark.helped) == {"sand", "foam", "mist"}


def test_trios_come_from_approved_pairs_and_vary() -> None:
    kit = approved(
        demo(),
        ("hull", "fog", Use.BODY),
        ("deep-water", "fog", Use.BODY),
        ("buoy", "fog", Use.GRAPHICS),
        ("fog", "hull", Use.BODY),
        ("rope", "hull", Use.GRAPHICS),
    )
    found = trios(kit)
    told = {(str(t.ground), str(t.title), str(t.graphic)) for t in found}
    assert ("fog.base", "hull.base", "buoy.base") in told
    assert ("hull.base", "fog.base", "rope.base") in told
    assert not any(title == "buoy.base" for _, title, _ in told)
    assert found[0].ground != found[1].ground
    assert all(min(t.title_ratio, t.graphic_ratio) >= LARGE and t.apart >= 15 for t in found)


@given(kits(smallest=2, largest=8))
def test_text_stays_readable_in_every_state(kit: Kit) -> None:
    for control in controls(kit):
        assert [look.state for look in control.looks] == list(State)
        for look in control.looks:
            assert kit.resolve(look.fill) == look.fill_color
            assert look.ratio == contrast_ratio(look.ink, look.fill_color)
            assert look.ratio >= (LARGE if look.state is State.DISABLED else TEXT)
            if look.ring_ratio is not None:
                assert look.ring_ratio >= LARGE


@given(proven_kits())
def test_nothing_differs_from_itself(kit: Kit) -> None:
    assert compare(kit, kit) == ()
    assert touched(kit, kit) == {}


@given(proven_kits(), proven_kits())
def test_what_compares_equal_touches_nothing(old: Kit, new: Kit) -> None:
    def decided(kit: Kit) -> Kit:
        """In which order pairs were decided is no place that anyone changes."""
        return kit.with_(decisions=sorted(kit.decisions, key=lambda one: one.pair))

    assert bool(touched(old, new)) == (decided(old).model_dump() != decided(new).model_dump())
    gained = [one for one in compare(old, new) if one.kind is DifferenceKind.GAINED]
    lost = [one for one in compare(new, old) if one.kind is DifferenceKind.LOST]
    assert {one.text for one in gained} == {one.text for one in lost}


def test_differences_in_words() -> None:
    old = approved(demo(), ("hull", "fog", Use.BODY))
    moved = changed(old, "rope", lambda color: with_base(color, Rgb(90, 88, 80)).model_copy(update={"name": "Cable"}))
    new = without(moved, "buoy").with_(rules=Rules(accent_share=5), decisions=())
    words = {one.kind: one.text for one in compare(old, new)}
    assert words[DifferenceKind.REMOVED].startswith("Buoy, action, #e4572e")
    assert words[DifferenceKind.RENAMED] == "Rope is now Cable"
    assert "#8a8578 is now #5a5850, a difference of" in words[DifferenceKind.CHANGED]
    assert words[DifferenceKind.APPROVED] == "Hull on Fog is no longer approved"
    assert words[DifferenceKind.RULES].startswith("Accents cover at most 5 %")
    assert "Fog" in words[DifferenceKind.GAINED]


def test_two_changes_of_one_place_are_found() -> None:
    kit = demo()
    mine = touched(kit, changed(kit, "buoy", lambda color: with_base(color, Rgb(1, 2, 3))))
    theirs = touched(kit, without(kit, "buoy"))
    apart = touched(kit, changed(kit, "fog", lambda color: color.model_copy(update={"note": "Paper."})))
    assert shared(mine, touched(kit, changed(kit, "buoy", lambda c: with_base(c, Rgb(9, 9, 9))))) == [
        "colors/buoy/base"
    ]
    assert shared(mine, theirs)
    assert not shared(mine, apart)
    broken = approved(kit, ("hull", "fog", Use.BODY))
    change = touched(broken, changed(broken, "hull", lambda color: with_base(color, Rgb(200, 200, 200))))
    assert set(meant(change)) == {"colors/hull/base"}
    assert "decisions/hull.base on fog.base" in change


def test_what_is_unresolved_blocks_only_without_a_body_pair() -> None:
    unstated = SourceRights(name="Quay board", kind="board", pictures=(PictureRights(name="dawn.jpg"),))
    found = unresolved(Snapshot(kit=demo(), sources=(unstated,)))
    assert [one.text for one in found if one.blocks] == [
        "No pair is approved for body text; approve one that reaches the level."
    ]
    assert found[0].blocks
    assert any(one.text == "No rights are stated for dawn.jpg of Quay board." for one in found)
    fine = Snapshot(kit=approved(demo(), ("hull", "fog", Use.BODY)))
    assert not any(one.blocks for one in unresolved(fine))


@given(proven_kits())
def test_the_hash_is_of_the_content(kit: Kit) -> None:
    again = Snapshot.model_validate_json(Snapshot(kit=kit).model_dump_json())
    assert again.digest == Snapshot(kit=kit).digest
    assert Snapshot(kit=kit.with_(name=f"{kit.name} b")).digest != again.digest


def test_a_logo_is_measured_by_the_half_that_stands_out() -> None:
    shares = [LogoShare(color=Rgb(0, 0, 0), share=50), LogoShare(color=Rgb(255, 255, 255), share=50)]
    assert logo_ratio(shares, Rgb(255, 255, 255)) == pytest.approx(21)
    assert logo_ratio([LogoShare(color=Rgb(240, 240, 240), share=90), shares[0]], Rgb(255, 255, 255)) < 1.2


@pytest.mark.parametrize(
    ("name", "face", "same"),
    [
        ("Commissioner", "Commissioner", True),
        ("Harbor Antiqua", "EB Garamond", False),
        ("Pier Sans Serif", "Commissioner", False),
        ("Signal Mono", "Spline Sans Mono", False),
        ("Wherry", "Commissioner", False),
    ],
)
def test_look_alikes(name: str, face: str, same: bool) -> None:
    found = stand_in(name)
    assert found is not None
    assert (found.face, found.same) == (face, same)
    assert stand_in("  ") is None


def test_two_hundred_colors_are_paired() -> None:
    bases = [Rgb(i, 255 - i, i * 7 % 256) for i in range(200)]
    made = tuple(KitColor(key=f"c{i}", name=f"C{i}", role=Role.ACCENT, base=base) for i, base in enumerate(bases))
    found = pairs(Kit(name="Many", colors=made))
    assert found.total == sum(found.counts.values()) == 39_800
