"""Pairs against the definition, places and rules in words, and the words of every language."""

from __future__ import annotations

import re
import string
from datetime import date

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.contrast import ENHANCED, LARGE, TEXT, Level, contrast_ratio, contrast_table
from pavese.core.color.overlay import SeeThroughColor, see_through_equal
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.handoff.published import Language
from pavese.core.handoff.words import ROLES, USES, WORDS, day_words, edition_words, rule_words
from pavese.core.kit.changes import Arrival, changed, reordered, with_base, with_colors, without
from pavese.core.kit.diagnosis import diagnosis
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.logo import Backing, Logo, LogoPicture, LogoShare
from pavese.core.kit.logo_on_grounds import logo_on_grounds
from pavese.core.kit.pairings import LEVELS, pairs, subjects
from pavese.core.kit.places import in_words, meant, shared, touched
from pavese.core.kit.role import Role
from pavese.core.kit.rules import Rules, Use
from pavese.core.kit.token import Token, parse_token
from tests.core.strategies import colors, kits, proven_kits


@given(st.lists(colors, min_size=1, max_size=6), st.lists(colors, min_size=1, max_size=6))
def test_the_table_is_the_ratio_of_each_two(rows: list[Rgb], columns: list[Rgb]) -> None:
    table = contrast_table(rows, columns)
    assert table.shape == (len(rows), len(columns))
    for i, row in enumerate(rows):
        for j, column in enumerate(columns):
            assert table[i, j] == contrast_ratio(row, column)


@given(proven_kits())
def test_every_pair_has_the_level_of_its_ratio(kit: Kit) -> None:
    found = pairs(kit)
    for pair in found.best_first():
        ratio = contrast_ratio(kit.resolve(pair.text), kit.resolve(pair.ground))
        assert pair.ratio == ratio
        least = {Level.NONE: 0.0, Level.LARGE: LARGE, Level.AA: TEXT, Level.AAA: ENHANCED}
        assert pair.level is [level for level in LEVELS if ratio >= least[level]][-1]
    assert found.readable == sum(pair.ratio >= TEXT for pair in found.best_first())
    for key in found.without_partner:
        assert all(pair.ratio < TEXT for pair in found.best_first() if pair.text == Token(key, None))


@given(proven_kits())
def test_subjects_are_the_bases_and_the_steps_that_are_on(kit: Kit) -> None:
    found = [subject.token for subject in subjects(kit)]
    assert len(set(found)) == len(found)
    assert [token for token in found if token.step is None] == [Token(color.key, None) for color in kit.colors]
    assert {str(token) for token in found if token.step is not None} == set(kit.steps)
    for token in found:
        assert token.step != kit.color(token.color).ramp.base_step, "a base's own step is no second color"


@given(color=colors, ground=colors)
def test_as_hex_an_equal_is_off_by_little(color: Rgb, ground: Rgb) -> None:
    """A level of 255ths is at most half of one away from a percent, so a channel moves by at most 0.5, rounded."""
    found = see_through_equal(color, ground)
    assert max(abs(a - b) for a, b in zip(found.hex_over(ground), color, strict=True)) <= 1


@given(color=colors, ground=colors)
def test_the_ends_of_alpha(color: Rgb, ground: Rgb) -> None:
    assert SeeThroughColor(color, 0).over(ground) == ground
    assert SeeThroughColor(color, 100).over(ground) == color
    assert see_through_equal(ground, ground).alpha == 0


# ── places ──────────────────────────────────────────────────────────────────────────────────────────────────────────


@given(proven_kits(), proven_kits())
def test_every_place_has_words(old: Kit, new: Kit) -> None:
    for place in touched(old, new):
        for kit in (old, new):
            words = in_words(place, kit)
            assert words.strip() == words != ""


@given(kits(smallest=3), colors)
def test_an_order_stands_in_nobody_s_way(kit: Kit, color: Rgb) -> None:
    """One moves the colors about while another changes one of them."""
    keys = [one.key for one in kit.colors]
    moved = touched(kit, reordered(kit, keys[::-1]))
    rebased = touched(kit, changed(kit, keys[0], lambda one: with_base(one, color)))
    assert shared(meant(moved), rebased) == []
    assert shared(meant(rebased), moved) == []


@given(kits(smallest=2, largest=4), colors)
def test_changes_apart_can_be_made_one_on_the_other(kit: Kit, color: Rgb) -> None:
    first, second = kit.colors[0].key, kit.colors[1].key
    one = touched(kit, changed(kit, first, lambda c: c.model_copy(update={"note": "Mine."})))
    other = touched(kit, changed(kit, second, lambda c: with_base(c, color)))
    gone = touched(kit, without(kit, first))
    added = touched(kit, with_colors(kit, [Arrival("Rope", Role.NEUTRAL, color)]))
    assert shared(one, other) == shared(one, added) == []
    assert shared(one, gone) == [f"colors/{first}/note"]


# ── words ───────────────────────────────────────────────────────────────────────────────────────────────────────────


def blanks(text: str) -> int:
    return sum(field is not None for _, field, _, _ in string.Formatter().parse(text))


@pytest.mark.parametrize("language", Language)
def test_every_language_says_the_same_things(language: Language) -> None:
    assert set(WORDS[language]) == set(WORDS[Language.EN])
    assert len(ROLES[language]) == len(set(ROLES[language])) == len(Role)
    assert len(USES[language]) == len(set(USES[language])) == len(Use)
    for key, english in WORDS[Language.EN].items():
        assert blanks(WORDS[language][key]) == blanks(english), key
    if language is not Language.EN:
        alike = [key for key, english in WORDS[Language.EN].items() if WORDS[language][key] == english]
        assert set(alike) <= {"logo", "text"}, "only what is the same word in both"


@pytest.mark.parametrize(
    ("language", "day", "edition"),
    [
        (Language.EN, "3 March 2027", "Edition 4"),
        (Language.DE, "3. März 2027", "Ausgabe 4"),
        (Language.FR, "3 mars 2027", "Édition 4"),
    ],
)
def test_dates_and_editions(language: Language, day: str, edition: str) -> None:
    assert day_words(date(2027, 3, 3), language) == day
    assert edition_words(4, language) == edition
    assert not re.search(r"\d", edition_words(0, language))


@pytest.mark.parametrize("language", Language)
def test_rules_in_every_language_name_their_numbers(language: Language) -> None:
    rules = Rules(accent_share=7, least_body=5.5, least_large=3.5, same=0.5, near=4, body_text=(), action_only=False)
    text = " ".join(rule_words(rules, language))
    point = "." if language is Language.EN else ","
    for number in ("7", f"5{point}5", f"3{point}5", f"0{point}5", "4"):
        assert number in text
    assert len(rule_words(rules, language)) == len(rules.in_words()) == 6
    assert "{" not in text


# ── diagnosis, logo, tokens ─────────────────────────────────────────────────────────────────────────────────────────


def made(**roles: tuple[Role, Rgb]) -> Kit:
    return Kit(
        name="K",
        colors=tuple(KitColor(key=key, name=key.title(), role=role, base=base) for key, (role, base) in roles.items()),
    )


PALE, MID, DARK = Rgb(240, 240, 236), Rgb(150, 150, 148), Rgb(20, 30, 34)


@pytest.mark.parametrize(
    ("kit", "words"),
    [
        (made(fog=(Role.BACKGROUND, PALE), rope=(Role.NEUTRAL, MID)), "The kit has no text color"),
        (made(hull=(Role.TEXT_DARK, DARK), rope=(Role.NEUTRAL, MID)), "The kit has no background color"),
        (made(fog=(Role.BACKGROUND, PALE), ink=(Role.TEXT_DARK, MID)), "Ink, the dark text, reads on no background"),
        (
            made(fog=(Role.BACKGROUND, PALE), ink=(Role.TEXT_DARK, DARK), buoy=(Role.ACTION, Rgb(130, 128, 120))),
            "No text color of the kit reads on Buoy, the action color",
        ),
    ],
)
def test_what_a_kit_lacks_is_said(kit: Kit, words: str) -> None:
    assert any(words in finding.text for finding in diagnosis(kit).findings)


@given(kits(smallest=2))
def test_a_diagnosis_counts_what_is_there(kit: Kit) -> None:
    found = diagnosis(kit)
    total = len(kit.colors) * (len(kit.colors) - 1)
    assert f"{total:,}" in found.summary
    lonely = [finding for finding in found.findings if "reads with no other color" in finding.text]
    assert len(lonely) == len(pairs(kit).without_partner)


@given(kits(), st.sampled_from(STEPS))
def test_a_backing_stands_behind_the_logo_everywhere(kit: Kit, step: int) -> None:
    share = LogoShare(color=Rgb(11, 94, 107), share=100)
    picture = LogoPicture(key="0" * 64, name="l.svg", media_type="image/svg+xml", width=9, height=9, colors=(share,))
    token = Token(kit.colors[0].key, step)
    backed = kit.with_(logo=Logo(on_light=picture, backing=Backing(color=str(token))))
    for found in logo_on_grounds(backed):
        assert found.behind == backed.resolve(token)
        assert found.ratio == contrast_ratio(share.color, found.behind)
    plain = kit.with_(logo=Logo(on_light=picture))
    for found in logo_on_grounds(plain):
        assert found.behind == plain.color(found.ground).base
    assert backed.with_(colors=backed.colors[1:]).logo.backing is None


@given(proven_kits())
def test_tokens_are_written_as_they_are_read(kit: Kit) -> None:
    for token, color in kit.tokens():
        assert parse_token(str(token)) == token
        assert kit.resolve(token) == color
        assert kit.color(token.color).name in kit.title(token)


@given(st.lists(st.floats(1, 21), min_size=1, max_size=20))
def test_the_best_use_is_the_most_demanding_one_that_is_borne(ratios: list[float]) -> None:
    rules = Rules()
    for ratio in ratios:
        use = rules.best_use(ratio)
        assert ratio >= rules.least(use)
        assert all(ratio < rules.least(other) for other in list(Use)[: list(Use).index(use)])
    order = np.argsort(ratios)
    uses = [list(Use).index(rules.best_use(ratios[i])) for i in order]
    assert uses == sorted(uses, reverse=True)
