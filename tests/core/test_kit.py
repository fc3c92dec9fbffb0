"""Codes found in texts, roles proposed, kits and their tokens."""

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.parse import parse_color
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError
from pavese.core.handoff.css import kit_css
from pavese.core.handoff.tokens import kit_tokens
from pavese.core.kit.codes import MOST_CODES, find_codes
from pavese.core.kit.kit import Kit, KitColor, key_for, members
from pavese.core.kit.pairings import pairs
from pavese.core.kit.plain import plain_name
from pavese.core.kit.role import Role
from pavese.core.kit.roles import propose_roles
from pavese.core.kit.token import Token, parse_token
from pavese.core.kit.token_file import read_kit_tokens
from tests.core.strategies import colors, kits


def found(text: str) -> list[tuple[str, str]]:
    return [(code.color.hex, code.name) for code in find_codes(text)]


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("#0B6E75", [("#0b6e75", "Strong blue-green")]),
        ("0b6e75", [("#0b6e75", "Strong blue-green")]),
        ("Deep water: #0b5e6b\nBuoy #d2452d", [("#0b5e6b", "Deep water"), ("#d2452d", "Buoy")]),
        ("#efb23a Lamp, #6b7d3a Kelp", [("#efb23a", "Lamp"), ("#6b7d3a", "Kelp")]),
        ("- **Fog** — `#eef0ec`;", [("#eef0ec", "Fog")]),
        ("--deep-water: #0b5e6b;", [("#0b5e6b", "Deep water")]),
        ("--tf-lamp: #efb23a;\n--tf-fog: #eef0ec;", [("#efb23a", "Lamp"), ("#eef0ec", "Fog")]),
        ("$brand_hull: rgb(22, 37, 43)", [("#16252b", "Brand hull")]),
        ("ink oklch(0.25 0.02 220), paper hsl(80 12% 93%)", [("#172428", "Ink"), ("#eeefeb", "Paper")]),
        (":root { --sea: #0b5e6b } a:hover { color: teal }", [("#0b5e6b", "Sea"), ("#008080", "Strong blue-green")]),
        ("#fade .x { color: #123456 } /* #abcdef */", [("#123456", "Deep blue")]),
        ("Sea #0b5e6b and again #0B5E6B", [("#0b5e6b", "Sea")]),
        ("", []),
        ("no codes here, only page.html#top and &#169; and #1", []),
    ],
)
def test_codes_are_found_with_their_names(text: str, expected: list[tuple[str, str]]) -> None:
    result = found(text)
    assert result == expected


def test_places_are_lines_and_columns() -> None:
    first, second = find_codes("a\r\nLamp: #efb23a\n  #0b5e6b, #efb23a")
    assert (first.line, first.column, first.places) == (2, 7, 2)
    assert (second.line, second.column) == (3, 3)


def test_numbers_and_words_that_look_like_codes_are_marked() -> None:
    marks = {code.code: code.certain for code in find_codes("order 123456, facade, 0b5e6b, #123457")}
    assert marks == {"123456": False, "facade": False, "0b5e6b": True, "#123457": True}


def test_very_long_lists_are_bounded() -> None:
    text = "\n".join(f"#{n:06x}" for n in range(0, 16_000_000, 1000))
    assert len(find_codes(text)) == MOST_CODES


@given(st.text(max_size=300))
def test_no_text_breaks_the_search(text: str) -> None:
    names = [code.name.casefold() for code in find_codes(text)]
    assert len(names) == len(set(names))


@given(st.lists(colors, min_size=1, max_size=20, unique=True))
def test_every_color_written_in_a_list_is_found(listed: list[Rgb]) -> None:
    text = "\n".join(f"Color {chr(97 + n)}: {color.hex.upper()}" for n, color in enumerate(listed))
    assert [code.color for code in find_codes(text)] == listed


def test_roles_are_proposed_from_names_first_and_then_from_looks() -> None:
    codes = ["#0b5e6b", "#5a6fa8", "#d2452d", "#efb23a", "#eef0ec", "#7d878c", "#16252b"]
    bases = [parse_color(code).rgb for code in codes]
    assert propose_roles([(base, None) for base in bases]) == [
        Role.PRIMARY, Role.SECONDARY, Role.ACTION, Role.ACCENT, Role.BACKGROUND, Role.NEUTRAL, Role.TEXT_DARK,
    ]  # fmt: skip
    assert propose_roles([(bases[0], "Button background")]) == [Role.ACTION]
    assert propose_roles([(bases[3], None)], [Role.PRIMARY, Role.SECONDARY]) == [Role.ACCENT]


@given(kits())
def test_tokens_and_their_texts(kit: Kit) -> None:
    for token, color in kit.tokens():
        assert parse_token(str(token)) == token
        assert kit.resolve(token) == color
    own = members(kit)
    assert {color.base for color in kit.colors} <= set(own)
    assert sum(1 for _ in kit.tokens()) == 11 * len(kit.colors)


@given(kits())
def test_a_tokens_file_gives_the_kit_back(kit: Kit) -> None:
    assert read_kit_tokens(kit_tokens(kit)) == kit


def test_a_tokens_file_follows_the_format() -> None:
    kit = Kit(name="K", colors=(KitColor(key="sea", name="Sea", role=Role.PRIMARY, base=Rgb(11, 94, 107)),))
    tree = json.loads(kit_tokens(kit))
    assert tree["sea"]["$type"] == "color"
    assert tree["sea"]["base"]["$value"]["colorSpace"] == "srgb"
    assert tree["sea"]["700"]["$value"] == "{sea.base}"
    assert tree["role"]["primary"]["$value"] == "{sea.base}"
    css = kit_css(kit)
    assert "--sea: #0b5e6b;" in css
    assert "--role-primary: var(--sea);" in css
    assert all(f"--sea-{step}: #" in css for step in STEPS)


@pytest.mark.parametrize(
    "text", ["", "[]", "{}", "null", '{"$extensions":{"pavese":{"name":"x","order":["a"]}}}', "[" * 100_000]
)
def test_other_json_is_refused_as_a_tokens_file(text: str) -> None:
    with pytest.raises(InvalidKitError):
        read_kit_tokens(text)


def test_keys_are_plain_and_unlike() -> None:
    assert key_for("Ålesund Blå!") == "alesund-bla"
    assert key_for("深い海") == "color"
    assert key_for("Sea", ["sea", "sea-2"]) == "sea-3"
    assert key_for("Role") == "role-2"
    assert plain_name("  Deep \n water ") == "Deep water"
    with pytest.raises(ValueError, match="visible"):
        plain_name(" \t ")


@pytest.mark.parametrize("text", ["", "sea", "sea.", ".600", "sea.60", "sea.600.1", "sea.-1"])
def test_other_texts_are_no_token(text: str) -> None:
    with pytest.raises(InvalidKitError):
        parse_token(text)


def test_a_color_that_is_gone_is_named() -> None:
    with pytest.raises(InvalidKitError, match="sea"):
        Kit(name="K").resolve(Token("sea", 500))


@given(kits(smallest=2))
def test_all_ordered_pairs_best_first(kit: Kit) -> None:
    listed = pairs(kit).best_first()
    assert len(listed) == len(kit.colors) * (len(kit.colors) - 1)
    ratios = [pair.ratio for pair in listed]
    assert ratios == sorted(ratios, reverse=True)
    assert all(pair.text != pair.ground for pair in listed)
