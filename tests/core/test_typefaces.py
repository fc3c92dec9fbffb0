"""Typefaces: what is measured of them, what stands in, which go together, and those that are brought along."""

from __future__ import annotations

import io
from itertools import pairwise
from pathlib import Path

import pytest
from fontTools.fontBuilder import FontBuilder
from fontTools.ttLib import TTFont

from pavese.core.errors import RefusedFileError
from pavese.core.gather.own_face import take_face
from pavese.core.kit.face_traits import TypefaceKind, kind_of, traits_of
from pavese.core.kit.typefaces import SHIPPED, Typefaces, face_pairs, likenesses, stand_in
from pavese.render.fonts import FACES
from pavese.settings import settings

FILES = {face.family: face.file for face in FACES if face.style == "Regular"}


def made(family: str) -> Path:
    return settings().fonts_dir / FILES[family]


@pytest.mark.parametrize("face", SHIPPED, ids=lambda face: face.slug)
def test_the_table_says_what_is_measured(face) -> None:  # type: ignore[no-untyped-def]
    font = TTFont(made(face.family))
    found = traits_of(face.family, font)
    assert found.model_dump() == pytest.approx(face.traits.model_dump(), abs=0.004)
    if face.kind is not TypefaceKind.HAND:
        assert kind_of(font) is face.kind
    assert all(ord(letter) in font.getBestCmap() for letter in "äöüßéèçñøåÄÖÜ€")


def test_at_least_24_of_different_kinds_ship() -> None:
    assert len(SHIPPED) >= 24
    for kind, least in zip(TypefaceKind, (5, 3, 8, 3, 3), strict=True):
        assert sum(face.kind is kind for face in SHIPPED) >= least, kind


@pytest.mark.parametrize(
    ("wanted", "kind", "shown"),
    [
        ("Commissioner", TypefaceKind.SANS, "Commissioner"),
        ("Harbor Antiqua", TypefaceKind.SERIF, "EB Garamond"),
        ("Quay Slab", TypefaceKind.SLAB, None),
        ("Pier Condensed", TypefaceKind.SANS, "Oswald"),
        ("Deck Mono", TypefaceKind.MONO, "Spline Sans Mono"),
        ("Tide Didot", TypefaceKind.SERIF, "Playfair Display"),
        ("Fog sans-serif", TypefaceKind.SANS, None),
        ("Sea Script", TypefaceKind.HAND, None),
        ("Zyx", TypefaceKind.SANS, None),
    ],
)
def test_a_name_is_shown_in_what_it_tells(wanted: str, kind: TypefaceKind, shown: str | None) -> None:
    found = stand_in(wanted)
    assert found is not None
    assert found.kind is kind
    assert found.why
    assert shown in (None, found.face)
    assert found.same is (wanted == "Commissioner")
    assert all(one.face.kind is kind for one in found.like)
    assert all(a.distance <= b.distance for a, b in pairwise(found.like))


def test_the_nearest_to_a_shipped_face_is_itself() -> None:
    for face in SHIPPED:
        first, *others = likenesses(face.kind, face.traits)
        assert (first.face, first.distance, first.words) == (face, 0.0, "as good as alike")
        assert others[0].distance > 0


def test_a_face_that_is_brought_is_measured_and_shown_as_itself() -> None:
    packed = io.BytesIO()
    font = TTFont(made("Lora"))
    font["name"].setName("Own Quay", 1, 3, 1, 0x409)
    font.flavor = "woff2"
    font.save(packed)
    face, kept = take_face("own-quay.woff2", packed.getvalue(), "bought for 5 desks")
    lora = next(one for one in SHIPPED if one.family == "Lora")
    assert (face.family, face.kind, face.license) == ("Own Quay", lora.kind, "bought for 5 desks")
    assert face.traits.distance(lora.traits) < 0.2
    assert kept.startswith(b"\x00\x01\x00\x00"), "engines read it without unpacking"
    found = stand_in("own quay", [face])
    assert found is not None
    assert (found.same, found.own, found.like[0].face) == (True, face, lora)
    pairs = face_pairs(Typefaces(headline="Own Quay", own=(face,)))
    assert "Own Quay" in {pairs[0].headline, pairs[0].text}


def test_a_variable_typeface_is_one_family_of_all_its_weights() -> None:
    font = TTFont(made("Lora"))
    font["name"].removeNames(nameID=16)
    font["name"].setName("Own Quay ExtraLight", 1, 3, 1, 0x409)
    builder = FontBuilder(font=font)
    builder.setupFvar([("wght", 200, 200, 800, "Weight"), ("wdth", 75, 100, 100, "Width")], [])
    builder.setupGvar({name: [] for name in font.getGlyphOrder()})
    file = io.BytesIO()
    font.save(file)
    face, kept = take_face("own.ttf", file.getvalue(), "bought")
    assert (face.family, face.weights) == ("Own Quay", (200, 800))
    lora = next(one for one in SHIPPED if one.family == "Lora")
    assert face.traits.distance(lora.traits) < 0.2, "it is measured as it stands in a text"
    assert "fvar" in TTFont(io.BytesIO(kept)), "and kept with all its weights"


@pytest.mark.parametrize("cut", [0, 4, 60, 900, 9_000])
def test_what_is_no_typeface_is_refused(cut: int) -> None:
    data = made("Lora").read_bytes()[:cut] if cut else b"%PDF-1.7"
    with pytest.raises(RefusedFileError, match=r"typeface|measured"):
        take_face("broken.ttf", data, "none")


def test_pairs_give_a_choice_with_reasons() -> None:
    pairs = face_pairs(Typefaces())
    assert len(pairs) == 9
    assert all(pair.why for pair in pairs)
    kinds = {face.family: face.kind for face in SHIPPED}
    for pair in pairs:
        assert pair.headline == pair.text or kinds[pair.headline] is not kinds[pair.text]
        assert kinds[pair.text] not in (TypefaceKind.MONO, TypefaceKind.HAND)
    assert len({pair.headline for pair in pairs}) >= 5
