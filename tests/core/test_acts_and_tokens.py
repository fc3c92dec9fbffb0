"""Acts describe themselves, forms ask for what files can, and the token of a color is that of its color."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.contrast import LARGE, TEXT, WHITE
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.format import Can
from pavese.core.formats.lottie.staging import Motion
from pavese.core.formats.references import path_beside
from pavese.core.handoff.css import links
from pavese.core.handoff.export import OUTPUTS, Export, ExportForm, Scope
from pavese.core.kit.token import parse_token
from pavese.core.recolor.acts import ACTS, FieldKind, fields_of, read_act
from pavese.core.recolor.assign import assign
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import Inventory, summarize
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.reading import readings
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.texts import BARE, Text, TextRun
from pavese.demo.load import demo_kit
from pavese.jobs.outputs import MAKERS, OF_SET
from tests.core.strategies import colors

KIT = demo_kit()
paints = st.builds(lambda color, alpha: Rgba(*color, alpha), colors, st.sampled_from([1.0, 0.4]))
_selectors = st.sampled_from(["#sail", ".deck", "~Hull", "/loop"])
_sites = st.builds(Site, paints, st.sampled_from(Kind), st.lists(_selectors, max_size=2, unique=True).map(tuple))


@given(st.lists(_sites, min_size=1, max_size=8), st.data())
def test_the_token_of_a_site_stands_for_its_color(sites: list[Site], data: st.DataObject) -> None:
    """Whatever was chosen, split, ruled and kept: what a file would be linked to is what it is painted with."""
    plan = assign(summarize([Inventory.count(sites)]), KIT, Plan(rules={Kind.STROKE: "kelp.300"}))
    for _ in range(data.draw(st.integers(0, 4))):
        site = data.draw(st.sampled_from(sites))
        part = data.draw(st.sampled_from(["", f"@{site.kind}", *(f"@{one}" for one in site.selectors)]))
        target = data.draw(st.sampled_from(["buoy.base", "fog.100", "keep", "#123456", "deep-water~5.25"]))
        file = data.draw(st.sampled_from([None, "a.svg"]))
        plan = plan.with_targets({f"{site.paint.key}{part}": target}, KIT, file)
    plan = plan.with_(kept_selectors=tuple(data.draw(st.lists(_selectors, max_size=1))))
    to, named = plan.recoloring(KIT, "a.svg"), links(KIT)
    for site in sites:
        token, color = to.token_at(*site), to.at(*site)
        if token is not None:
            assert color is not None
            assert KIT.resolve(parse_token(token)) == color
            assert named.name(color, token) == named.by_token[token]
        elif color is not None:
            assert named.name(color, None) == named.by_color.get(color)


@pytest.mark.parametrize("key", ACTS)
def test_an_act_can_be_chosen_by_what_it_says_of_itself(key: str) -> None:
    kind = ACTS[key]
    assert kind.title
    assert kind.words
    chosen: dict[str, Any] = {}
    for field in fields_of(kind):
        assert field.title
        if field.kind is FieldKind.CHOICE:
            assert field.default in field.options
            chosen[field.name] = field.options[-1]
        elif field.kind is FieldKind.NUMBER:
            assert field.least is not None
            assert field.most is not None
            chosen[field.name] = field.most
            for wrong in (field.least - 1, field.most + 1, "many"):
                with pytest.raises(Exception, match=field.name):
                    read_act(key, {**_colors(kind), field.name: wrong})
        else:
            chosen[field.name] = "fog.base"
    act = read_act(key, chosen)
    dumped = act.model_dump(mode="json", exclude_defaults=not chosen)
    assert {name: dumped[name] for name in chosen} == chosen
    told = {field.name for field in fields_of(kind)}
    assert all(name in told or kind.model_fields[name].default_factory for name in dumped)
    assert set(act.targets) == {"fog.base"} & set(chosen.values())
    assert act.told


def _colors(kind: type[Any]) -> dict[str, str]:
    return {field.name: "fog.base" for field in fields_of(kind) if field.kind is FieldKind.COLOR}


def test_every_form_is_told_and_made() -> None:
    assert OUTPUTS.keys() == set(ExportForm)
    assert MAKERS.keys() == {form for form, output in OUTPUTS.items() if output.scope is Scope.FILE}
    assert OF_SET.keys() == {form for form, output in OUTPUTS.items() if output.scope is Scope.SET}


@given(
    st.lists(st.frozensets(st.sampled_from(Can), max_size=5), max_size=6),
    st.lists(st.sampled_from(ExportForm), min_size=1, unique=True),
    st.sampled_from([None, *Motion]),
)
def test_steps_are_what_is_made(files: list[frozenset[Can]], forms: list[ExportForm], motion: Motion | None) -> None:
    wanted = Export(forms=tuple(forms), motion=motion)
    made = sum(OUTPUTS[form].of(can, motion) for form in forms if form in MAKERS for can in files)
    assert wanted.steps(files) == made + sum(form in OF_SET for form in forms)
    # A motion only ever adds.
    assert Export(forms=tuple(forms)).steps(files) <= wanted.steps(files)


_names = st.lists(st.sampled_from(["maps", "sea chart", "å", "a#b", "50%"]), min_size=1, max_size=3).map("/".join)


@given(_names, _names)
def test_a_neighbor_is_found_from_where_its_file_lies(file: str, other: str) -> None:
    up = "../" * file.count("/")
    written = up + "".join(
        f"%{byte:02X}" if chr(byte) in " #%?" or byte > 127 else chr(byte) for byte in other.encode()
    )
    assert path_beside(file, written) == other
    assert path_beside(file, f"{written}?v=3#part") == other


@given(_names, st.text(st.sampled_from("./\\ab:%2"), max_size=12))
def test_nothing_outside_of_a_drop_is_ever_meant(file: str, reference: str) -> None:
    found = path_beside(file, reference)
    if found is not None:
        assert not found.startswith(("/", "../"))
        assert ".." not in found.split("/")


@pytest.mark.parametrize(
    "reference", ["", "#a", "?x", "/etc/passwd", "https://tarnmoor.example/a.png", "data:,", "../../a"]
)
def test_what_is_no_path_of_the_drop_is_none(reference: str) -> None:
    assert path_beside("maps/a.svg", reference) is None


@given(colors, colors, colors, st.floats(8, 60), st.booleans(), st.floats(0.1, 1))
def test_a_text_that_read_and_reads_no_more_is_worse(
    ink: Rgb, ground: Rgb, to: Rgb, size: float, bold: bool, opacity: float
) -> None:
    text = Text("Quay", Rgba(*ink), opacity, size, bold)
    on = TextRun(text, Rgba(*ground))
    [kept] = readings([on], Changes(), WHITE)
    assert kept.before == kept.after
    assert not kept.worse, "what stays as it came is no worse"
    assert kept.needed == (LARGE if size >= 24 or (bold and size >= 18.66) else TEXT)
    [moved] = readings([on], Changes(Recoloring({Rgba(*ink): to})), WHITE)
    assert moved.before == kept.before
    assert moved.worse == (moved.after < moved.needed and moved.after < moved.before)
    # On nothing it stands on what it is shown on; on a picture nothing is said.
    [bare] = readings([TextRun(text, BARE)], Changes(), ground)
    assert (bare.after, bare.ground) == (kept.after, ground)
    assert readings([TextRun(text, None)], Changes(), WHITE) == []


def test_the_worst_text_comes_first() -> None:
    runs = [TextRun(Text(name, Rgba(*ink), 1.0, 12, False), Rgba(*WHITE)) for name, ink in
            (("fine", Rgb(0, 0, 0)), ("pale", Rgb(200, 200, 200)), ("fair", Rgb(90, 90, 90)))]  # fmt: skip
    to = Recoloring({Rgba(90, 90, 90): Rgb(220, 220, 220)})
    assert [one.run.text.text for one in readings(runs, Changes(to), WHITE)] == ["fair", "pale", "fine"]
