"""Codes in every notation and every kind of list come back as the colors they were written from."""

from __future__ import annotations

import colorsys

from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.oklab import oklch_of
from pavese.core.color.srgb import Rgb
from pavese.core.kit.codes import find_codes
from pavese.core.kit.role import Role
from pavese.core.kit.roles import propose_roles
from tests.core.strategies import colors


def _hsl(color: Rgb) -> str:
    hue, lightness, saturation = colorsys.rgb_to_hls(*(channel / 255 for channel in color))
    return f"hsl({hue * 360:.3f}deg {saturation * 100:.3f}% {lightness * 100:.3f}%)"


def _oklch(color: Rgb) -> str:
    lightness, chroma, hue = oklch_of([color])[0]
    return f"oklch({lightness:.6f} {chroma:.6f} {hue:.4f})"


WRITTEN = {
    "hex": lambda c: c.hex,
    "capitals": lambda c: c.hex.upper(),
    "rgb with commas": lambda c: f"rgb({c.r}, {c.g}, {c.b})",
    "rgb with spaces": lambda c: f"rgb({c.r} {c.g} {c.b})",
    "rgba": lambda c: f"rgba({c.r},{c.g},{c.b},1)",
    "hsl": _hsl,
    "oklch": _oklch,
}
LISTS = {
    "lines": "\n",
    "windows lines": "\r\n",
    "commas": ", ",
    "semicolons": ";",
    "tabs": "\t",
    "bullets": "\n - ",
}
notations = st.sampled_from(sorted(WRITTEN))
separators = st.sampled_from(sorted(LISTS))


@given(st.lists(st.tuples(colors, notations), min_size=1, max_size=12, unique_by=lambda pair: pair[0]), separators)
def test_lists_of_codes(written: list[tuple[Rgb, str]], separator: str) -> None:
    text = LISTS[separator].join(WRITTEN[notation](color) for color, notation in written)
    assert [code.color for code in find_codes(text)] == [color for color, _ in written]


@given(st.lists(st.tuples(colors, notations), min_size=1, max_size=8, unique_by=lambda pair: pair[0]))
def test_sheets_of_variables(written: list[tuple[Rgb, str]]) -> None:
    names = [f"--sea-{chr(97 + n) * 2}" for n in range(len(written))]
    lines = (f"  {name}: {WRITTEN[how](color)};" for name, (color, how) in zip(names, written, strict=True))
    found = find_codes(":root {\n" + "\n".join(lines) + "\n}\n#facade { margin: 0 }")
    assert [code.color for code in found] == [color for color, _ in written]
    assert [code.line for code in found] == list(range(2, 2 + len(written)))
    assert all(code.named and code.certain for code in found)


@given(colors, notations, st.text("abc \n,;é", max_size=30))
def test_a_place_is_where_the_code_stands(color: Rgb, notation: str, before: str) -> None:
    text = f"{before} {WRITTEN[notation](color)}"
    code = next(found for found in find_codes(text) if found.color == color)
    line = text.split("\n")[code.line - 1]
    assert line[code.column - 1 :].startswith(code.code)


@given(st.lists(colors, min_size=1, max_size=12, unique=True), st.sets(st.sampled_from(list(Role))))
def test_roles_are_proposed_for_all_and_single_ones_once(listed: list[Rgb], taken: set[Role]) -> None:
    roles = propose_roles([(color, None) for color in listed], list(taken))
    assert len(roles) == len(listed)
    for role in (Role.PRIMARY, Role.SECONDARY, Role.ACTION, Role.BACKGROUND, Role.TEXT_DARK, Role.TEXT_LIGHT):
        assert roles.count(role) <= (0 if role in taken else 1)
    assert roles == propose_roles([(color, None) for color in listed], list(taken))
