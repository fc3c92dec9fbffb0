"""What is handed over of an edition: each form is read back and says what the kit says."""

from __future__ import annotations

import csv
import io
import json
import re
import zipfile
from collections.abc import Callable
from contextlib import suppress
from datetime import date
from pathlib import Path

import pypdf
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from lxml import etree

from pavese.core.color.contrast import LARGE, TEXT, contrast_ratio, shown
from pavese.core.color.notations import read_print_letters
from pavese.core.color.parse import parse_color
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError
from pavese.core.gather.code_files import read_code_file
from pavese.core.gather.kit_file import kit_from_file, kit_from_tokens
from pavese.core.handoff.card import swatch_card
from pavese.core.handoff.css import kit_css
from pavese.core.handoff.deck_template import deck_template, theme_colors
from pavese.core.handoff.forms import FORMS, KitForm, file_name
from pavese.core.handoff.mail import kit_mail
from pavese.core.handoff.published import CodeKind, Language, Part, Published, SheetWishes, code
from pavese.core.handoff.sheet import sheet_files
from pavese.core.handoff.table import kit_table
from pavese.core.handoff.tokens import kit_tokens
from pavese.core.kit.decisions import Decision, Status
from pavese.core.kit.edition import PictureRights, Snapshot, SourceRights
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.logo import Logo
from pavese.core.kit.role import Role
from pavese.core.kit.rules import Use
from pavese.core.kit.see_through import SeeThrough
from pavese.core.kit.token_file import read_kit_tokens
from pavese.core.kit.typefaces import Typefaces
from pavese.demo.load import demo_kit
from pavese.render.fonts import letters
from pavese.render.sheet import set_pdf
from pavese.settings import settings as app_settings
from tests.core.strategies import colors, kits, proven_kits

DAY = date(2026, 11, 25)
ALL = SheetWishes()
RATIO = shown(contrast_ratio(Rgb(0x16, 0x25, 0x2B), Rgb(0xEE, 0xF0, 0xEC)))
NAMES = ("深い海", "🛟 ring", "Ålesund blå", "Море")


def proven() -> Kit:
    """The demo kit with an approved pair, a see-through ramp, and typefaces."""
    approved = Decision(text="hull.base", ground="fog.base", status=Status.APPROVED, use=Use.BODY)
    return demo_kit().with_(
        decisions=(approved,),
        see_through=(SeeThrough(of="deep-water"),),
        type=Typefaces(headline="Quay Antiqua", text="Commissioner"),
    )


def published(kit: Kit, note: str = "") -> Published:
    rights = SourceRights(name="Board", kind="board", pictures=(PictureRights(name="dawn.jpg", rights="own work"),))
    return Published(Snapshot(kit=kit, sources=(rights,)), 3, DAY, note, "ab" * 32, lambda _: b"")


@given(proven_kits())
def test_tokens_give_the_same_kit_back(kit: Kit) -> None:
    assert read_kit_tokens(kit_tokens(kit)) == kit
    assert kit_from_tokens("kit.tokens.json", kit_tokens(kit)).kit == kit


@given(proven_kits())
def test_tokens_are_of_the_format(kit: Kit) -> None:
    """Every alias leads to a token, every token has a type, every name is one the format allows."""
    tree = json.loads(kit_tokens(kit))
    found = {}

    def walk(node: dict, path: tuple[str, ...], kind: str | None) -> None:
        kind = node.get("$type", kind)
        if "$value" in node:
            assert kind == "color"
            found[".".join(path)] = node["$value"]
            return
        for name, child in node.items():
            if not name.startswith("$"):
                assert not set(name) & set("{}.")
                walk(child, (*path, name), kind)

    walk(tree, (), None)
    for value in found.values():
        if isinstance(value, str):
            assert value.strip("{}") in found
        else:
            assert value["colorSpace"] == "srgb"
            assert Rgb(*(round(part * 255) for part in value["components"])).hex == value["hex"]
    approved = {decision.pair for decision in kit.decisions if decision.status is Status.APPROVED}
    groups = [group for name, group in tree.get("pairings", {}).items() if not name.startswith("$")]
    assert {(g["text"]["$value"], g["ground"]["$value"]) for g in groups} == {
        (f"{{{text}}}", f"{{{ground}}}") for text, ground in approved
    }


@given(proven_kits())
def test_without_our_own_notes_tokens_still_give_the_same_colors(kit: Kit) -> None:
    """What anyone else's file would hold: groups of steps, aliases, no extensions."""
    tree = json.loads(kit_tokens(kit), object_hook=lambda node: {k: v for k, v in node.items() if k != "$extensions"})
    names = {color.key: color for color in kit.colors}
    tree = {key: group for key, group in tree.items() if key in names}
    found, _ = imported(tree)
    assert len(found.colors) == len(kit.colors)
    for color, original in zip(found.colors, kit.colors, strict=True):
        assert color.base == original.base
        assert color.ramp.colors == original.ramp.colors


def imported(tree: object, name: str = "brand.tokens.json") -> tuple[Kit, str]:
    found = kit_from_tokens(name, json.dumps(tree))
    return found.kit, " ".join(found.notes)


def test_tokens_of_others_make_a_kit() -> None:
    kit, notes = imported(
        {
            "color": {
                "$type": "color",
                "tide": {"100": {"$value": "#dff6fb"}, "500": {"$value": "#0b5e6b"}, "900": {"$value": "#062b31"}},
                "Signal": {"$value": {"colorSpace": "srgb", "components": [0.82, 0.27, 0.18]}},
                "veil": {"$value": "#16252b80"},
                "glow": {"$value": {"colorSpace": "display-p3", "components": [1, 0.2, 0.1]}},
                "odd": {"$value": {"colorSpace": "made-up", "components": [1, 2, 3]}},
            },
            "action": {"$type": "color", "$value": "{color.Signal}"},
            "gap": {"$type": "dimension", "$value": {"value": 4, "unit": "px"}},
            "fast": {"$type": "duration", "$value": {"value": 100, "unit": "ms"}},
        }
    )
    assert kit.name == "brand"
    by_name = {color.name: color for color in kit.colors}
    assert set(by_name) == {"Tide", "Signal", "Veil", "Glow"}
    assert by_name["Tide"].base == Rgb(11, 94, 107)
    assert by_name["Tide"].ramp.at(100) == Rgb(0xDF, 0xF6, 0xFB)
    assert by_name["Signal"].role is Role.ACTION
    assert "1 dimension" in notes
    assert "color.odd" in notes
    assert "see-through, such as color.veil" in notes
    assert "outside of sRGB, such as color.glow" in notes


@pytest.mark.parametrize(
    ("tree", "words"),
    [
        ({"a": {"$type": "color", "$value": "{b}"}, "b": {"$type": "color", "$value": "{a}"}}, "circle: a → b → a"),
        ({"a": {"$type": "color", "$value": "{nowhere.at.all}"}}, "points to nowhere.at.all, which is not there"),
        ({"a": {"$type": "dimension", "$value": "4px"}}, "holds no color tokens"),
        ([1, 2], "not an object of groups"),
        ({"$extensions": {"pavese": {"name": "x", "order": ["gone"]}}}, "gone"),
    ],
)
def test_what_is_wrong_with_tokens_is_named(tree: object, words: str) -> None:
    with pytest.raises(InvalidKitError, match=re.escape(words)):
        imported(tree)


@pytest.mark.parametrize(
    ("name", "made"),
    [
        ("kit.tokens.json", lambda kit: kit_tokens(kit).encode()),
        ("kit.css", lambda kit: kit_css(kit).encode()),
        ("kit.csv", lambda kit: kit_table(published(kit), SheetWishes())),
    ],
)
def test_what_we_hand_over_comes_back_as_a_kit(name: str, made: Callable[[Kit], bytes]) -> None:
    kit = demo_kit()
    found = kit_from_file(name, made(kit))
    assert [color.base for color in found.kit.colors] == [color.base for color in kit.colors]
    assert [color.ramp.colors for color in found.kit.colors] == [color.ramp.colors for color in kit.colors]
    assert [color.name for color in found.kit.colors] == [color.name for color in kit.colors]
    if name.endswith(".tokens.json"):
        assert (found.kit, found.notes) == (kit, ())
    elif name.endswith(".csv"):
        assert ([color.role for color in found.kit.colors], found.notes) == ([color.role for color in kit.colors], ())
    else:
        # A style names one color of each role.
        first = {color.role: color.name for color in reversed(kit.colors)}
        assert first.items() <= {color.role: color.name for color in reversed(found.kit.colors)}.items()
        assert any("proposed" in note for note in found.notes)


def test_a_list_in_a_mail_is_a_kit() -> None:
    found = kit_from_file("brand.txt", b"Our blue is #0b5e6b, buttons are #d2452d.\n\nText: #16252b on #eef0ec")
    assert [color.base.hex for color in found.kit.colors] == ["#0b5e6b", "#d2452d", "#16252b", "#eef0ec"]
    assert {Role.TEXT_DARK, Role.BACKGROUND} <= {color.role for color in found.kit.colors}


@given(
    st.binary(max_size=200) | st.text(max_size=200).map(str.encode), st.sampled_from(["a.css", "a.json", "a", "a.csv"])
)
def test_any_file_is_a_kit_or_a_clear_error(data: bytes, name: str) -> None:
    with suppress(InvalidKitError):
        assert kit_from_file(name, data).kit.colors


WORDS = ["$value", "$type", "a", "500", "color", "components", "colorSpace", "alpha", "$extensions", "pavese"]
ANY_JSON = st.recursive(
    st.none() | st.booleans() | st.floats() | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.sampled_from(WORDS), inner, max_size=4),
    max_leaves=20,
)


@given(ANY_JSON)
def test_any_json_is_a_kit_or_a_clear_error(tree: object) -> None:
    with suppress(InvalidKitError):
        assert kit_from_tokens("any.json", json.dumps(tree)).kit.colors


@given(kits(largest=8))
def test_the_dark_scheme_stands_out(kit: Kit) -> None:
    light, _, dark = kit_css(kit).partition("@media (prefers-color-scheme: dark)")
    values = dict(re.findall(r"--([a-z0-9-]+): (#[0-9a-f]{6});", light))
    roles = dict(re.findall(r"--role-([a-z-]+): var\(--([a-z0-9-]+)\);", dark))
    if not dark:
        return
    told = {role: parse_color(values[name]).rgb for role, name in roles.items()}
    background = told["background"]
    first = {color.role: color for color in reversed(kit.colors)}
    assert background == first[Role.TEXT_DARK].base
    assert told["text-dark"] == first[Role.BACKGROUND].base
    for role, least in (("primary", TEXT), ("action", LARGE), ("accent", LARGE)):
        if role in told:
            best = max(contrast_ratio(first[Role(role)].ramp.at(step), background) for step in STEPS)
            assert contrast_ratio(told[role], background) >= min(least, best)


@given(color=colors, kind=st.sampled_from(CodeKind))
def test_every_code_kind_is_read_back(color: Rgb, kind: CodeKind) -> None:
    text = code(color, kind)
    read = read_print_letters(text) or parse_color(text).rgb
    away = 3 if kind is CodeKind.CMYK else 0
    assert max(abs(a - b) for a, b in zip(read, color, strict=True)) <= away


@given(kits())
def test_the_table_is_read_back(kit: Kit) -> None:
    rows = list(csv.DictReader(io.StringIO(kit_table(published(kit), SheetWishes()).decode("utf-8-sig"))))
    assert len(rows) == len(kit.colors) * (1 + len(STEPS))
    assert [row["hex"] for row in rows if row["step"] == "base"] == [color.base.hex for color in kit.colors]
    assert not any(cell.startswith(("=", "+", "-", "@")) for row in rows for cell in row.values())


@given(kits(largest=9))
def test_the_card_carries_readable_codes(kit: Kit) -> None:
    tree = etree.fromstring(swatch_card(published(kit), SheetWishes()))
    texts = ["".join(node.itertext()) for node in tree.iter("{*}text")]
    for color in kit.colors:
        assert color.base.hex in texts
    rects = [node.get("fill") for node in tree.iter("{*}rect")][1:]
    assert rects == [color.base.hex for color in kit.colors]
    for node in tree.iter("{*}text"):
        words = "".join(node.itertext())
        ground = next((parse_color(color.base.hex).rgb for color in kit.colors if color.base.hex == words), None)
        if ground is not None:
            assert contrast_ratio(parse_color(node.get("fill")).rgb, ground) >= TEXT


@given(kits())
def test_the_deck_s_theme_is_read_back(kit: Kit) -> None:
    kit = kit.with_(type=Typefaces(headline="Quay & <Antiqua>", text=""))
    data = deck_template(published(kit), SheetWishes())
    assert data == deck_template(published(kit), SheetWishes())
    places = theme_colors(kit)
    assert len(places) == 12
    found = {code.color for code in read_code_file("kit.pptx", data)}
    assert found == set(places.values())
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        assert b'typeface="Quay &amp; &lt;Antiqua&gt;"' in archive.read("ppt/theme/theme1.xml")


@pytest.mark.parametrize("language", Language)
def test_the_mail_says_what_was_chosen(language: Language) -> None:
    text = kit_mail(
        published(proven(), "For the winter."), SheetWishes(tuple(CodeKind), frozenset(Part), language)
    ).decode()
    for color in proven().colors:
        assert color.name in text
        assert color.base.hex in text
    assert f"Hull / Fog  {RATIO}:1" in text
    assert "For the winter." in text
    alone = kit_mail(published(proven()), SheetWishes((CodeKind.HEX,), frozenset({Part.COLORS}), language)).decode()
    assert "Hull / Fog" not in alone
    assert "rgb(" not in alone


def fonts() -> Path:
    return app_settings().fonts_dir


def pdf(kit: Kit, choice: SheetWishes = ALL, note: str = "") -> pypdf.PdfReader:
    folder = fonts()
    files = sheet_files(published(kit, note), choice, letters(folder))
    data = set_pdf(files, folder, DAY)
    assert data == set_pdf(files, folder, DAY), "the same edition gives the same bytes"
    return pypdf.PdfReader(io.BytesIO(data))


def text_of(sheet: pypdf.PdfReader) -> str:
    return " ".join(" ".join(page.extract_text().split()) for page in sheet.pages)


def test_the_sheet_is_tagged_and_its_text_and_faces_are_read_back() -> None:
    sheet = pdf(proven(), SheetWishes(tuple(CodeKind), frozenset(Part), Language.EN), "For the winter.")
    root = sheet.trailer["/Root"]
    assert root["/MarkInfo"]["/Marked"]
    assert root["/Lang"] == "en"
    assert sheet.metadata is not None
    assert sheet.metadata.title == "Tarnmoor Ferries, Edition 3"
    text = text_of(sheet)
    for color in proven().colors:
        assert color.name in text
        for kind in CodeKind:
            assert code(color.base, kind) in text
    said = ["Edition 3", "25 November 2026", "Approved pairs", f"{RATIO} : 1", "Accents cover at most 15 %"]
    said += ["CMYK is naive", "See-through equals", "Deep water over white", "own work", "For the winter."]
    assert [words for words in said if words not in text] == []
    assert "stands for characters" not in text
    faces = {
        str(font.get_object()["/BaseFont"]).partition("+")[2]
        for page in sheet.pages
        for font in page["/Resources"]["/Font"].values()
    }
    assert {"Commissioner-Regular", "Commissioner-Bold", "Spline-Sans-Mono-Regular", "EB-Garamond-Regular"} <= faces
    assert all(face.startswith(("Commissioner", "Spline", "EB-Garamond")) for face in faces)


@pytest.mark.parametrize("language", Language)
def test_the_sheet_speaks_the_language_and_holds_the_parts_that_were_chosen(language: Language) -> None:
    sheet = pdf(proven(), SheetWishes((CodeKind.HEX,), frozenset({Part.PAIRS, Part.RULES}), language))
    text = text_of(sheet)
    assert {"en": "Approved pairs", "de": "Freigegebene Paare", "fr": "Paires approuvées"}[language.value] in text
    assert "Buoy" not in text
    assert sheet.trailer["/Root"]["/Lang"] == language.value


@settings(max_examples=15)
@given(proven_kits(), st.sampled_from(Language))
def test_any_kit_gets_a_sheet(kit: Kit, language: Language) -> None:
    folder = fonts()
    bare = kit.with_(logo=Logo())
    files = sheet_files(
        published(bare, "A note."), SheetWishes((CodeKind.HEX,), frozenset(Part), language), letters(folder)
    )
    text = text_of(pypdf.PdfReader(io.BytesIO(set_pdf(files, folder, DAY))))
    for color in bare.colors:
        assert color.base.hex in text
    assert text.count(": 1") >= sum(one.status is Status.APPROVED for one in bare.decisions)


@pytest.mark.parametrize("count", [1, 200])
def test_a_sheet_of_one_and_of_two_hundred_colors(count: int) -> None:
    made = tuple(KitColor(key=f"c{i}", name=NAMES[i % 4], role=Role.ACCENT, base=Rgb(i, 9, 99)) for i in range(count))
    text = text_of(pdf(Kit(name="Vollständig « ½ »", colors=made)))
    assert "Vollständig « ½ »" in text
    assert "#000963" in text
    assert "stands for characters" in text


def test_forms_have_names_and_types() -> None:
    assert file_name(published(proven()), KitForm.SHEET) == "tarnmoor-ferries-3.pdf"
    assert len({of.ending for of in FORMS.values()}) == len(FORMS)
