"""The word lists: every word names the color it stands for, and no list is thin anywhere it claims to be."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pavese.core.color.gamut import max_chroma, to_rgb
from pavese.core.color.naming import describe
from pavese.core.gather.drop import sort_drop
from pavese.core.kit.names import PLAIN, suggest, theme_names
from pavese.core.kit.word_lists import themes
from pavese.demo.site import PAGES
from tests.core.strategies import colors


@pytest.mark.parametrize("theme", themes())
def test_every_word_is_suggested_for_its_own_color(theme: str) -> None:
    for word in themes()[theme]:
        lch = np.array([[word.lightness, word.chroma, word.hue]])
        limit = float(max_chroma(lch[:, 0], lch[:, 2])[0])
        # A word stands for a color the screen has, or nearly has.
        assert word.chroma <= limit * 1.15 + 0.01, word
        [color] = to_rgb(lch)
        assert suggest([color], theme) == [word.text], word


@pytest.mark.parametrize("theme", themes())
def test_words_are_for_people(theme: str) -> None:
    for word in themes()[theme]:
        assert word.text[0].isupper()
        assert all(letter.isalpha() or letter in " -'" for letter in word.text)
        assert len(word.text) <= 26


@given(colors)
def test_plain_words_describe_and_are_stable(color: tuple) -> None:
    [name] = suggest([color], PLAIN)  # type: ignore[list-item]
    assert name == describe(color).capitalize()  # type: ignore[arg-type]
    assert 1 <= len(name.split()) <= 4


@settings(max_examples=20)
@given(st.lists(colors, min_size=2, max_size=8, unique=True), st.sampled_from(theme_names()))
def test_a_color_alone_and_in_company_has_the_same_word_when_it_is_free(many: list, theme: str) -> None:
    alone = [suggest([color], theme)[0] for color in many]
    together = suggest(many, theme)
    # A word that only one of them wants goes to that one.
    for color_alone, color_together in zip(alone, together, strict=True):
        if alone.count(color_alone) == 1 and color_alone not in set(together) - {color_together}:
            assert color_together == color_alone


contents = st.sampled_from(
    [b"", b"#0b5e6b", b"<svg/>", b"<!doctype html>", b"\x89PNG", b"GIF8", b"PK\x03\x04", b"\xff\xd8\xff", PAGES["/"][1]]
)
names = st.builds(
    lambda stem, ending: f"{stem}{ending}",
    st.sampled_from(["a", "Ä b", "folder/c", ""]),
    st.sampled_from([".png", ".svg", ".html", ".zip", ".pptx", ".txt", ""]),
)


@given(st.lists(st.tuples(names, contents | st.binary(max_size=40)), max_size=12))
def test_every_file_of_a_drop_lands_somewhere_once(files: list[tuple[str, bytes]]) -> None:
    found = sort_drop(files)
    landed = [name for name, _ in [*found.pictures, *found.pages, *found.codes]] + [e.name for e in found.refused]
    assert sorted(landed) == sorted(name for name, _ in files)
