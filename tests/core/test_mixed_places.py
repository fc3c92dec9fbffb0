"""What texts on gradients and veils of a theme need of its places, and what is proposed for these."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pavese.core.color.contrast import LARGE, TEXT, contrast_ratio, luminance
from pavese.core.color.derived import Transform, derived
from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.kit.kit import Kit
from pavese.core.kit.role import Role
from pavese.core.recolor.inventory import Inventory, SetPaints, summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.proposed_theme import theme_for
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.texts import Part, Seen, Text, TextRun
from pavese.core.recolor.theme import MixedPlaces, Pointing, mixed_reading, near_places, place_selector
from pavese.core.recolor.theme_in_use import needs_of
from pavese.demo.load import demo_kit
from tests.core.strategies import colors
from tests.core.test_near_colors import kit_of

INK, FILL, PAPER = (Rgba(*parse_color(one).rgb) for one in ("#1d2b34", "#4f81bd", "#ffffff"))
#: Two stops that older themes make of a color.
DARKER, DEEP = (Transform("shade", 51_000), Transform("satMod", 130_000)), (Transform("shade", 93_000),)
THEME = {INK: "dk1", PAPER: "lt1", FILL: "accent1"}


def part(paint: Rgba, share: float, through: tuple[Transform, ...] = (), slot: str = "") -> Part:
    selectors = ("#slide1.2", "/slide1", *([place_selector(slot)] if slot else []))
    return Part(paint, Kind.FILL, selectors, share, through)


def seen(*parts: Part) -> Seen:
    """What parts make up, over black."""
    channels = (sum(one.share * one.color[at] for one in parts) for at in range(3))
    return Seen(Rgb(*(round(channel) for channel in channels)), parts)


def paints_of(*runs: TextRun, typed: tuple[Rgba, ...] = ()) -> SetPaints:
    sites = [Site(paint, Kind.THEME, (place_selector(slot),)) for paint, slot in THEME.items()]
    sites += [Site(paint, Kind.FILL, ("#slide1.2", "/slide1")) for paint in typed]
    return summarize([Inventory.count(sites)], [Measured(texts=runs)], ["a.pptx"])


def words(ink: Rgba, *below: Seen, size: float = 16) -> TextRun:
    return TextRun(Text("x", ink, 1.0, size, False, (place_selector(THEME[ink]),)), None, seen=below)


@given(colors, st.sampled_from([0.2, 0.5, 0.9]))
def test_what_places_are_mixed_to_is_what_is_seen(new: Rgb, share: float) -> None:
    below = seen(part(FILL, share, DARKER, "accent1"), part(FILL, 1 - share, DEEP, "accent1"))
    ((ink, mixed, needed),) = set(mixed_reading(paints_of(words(PAPER, below)), {}))
    assert ink == PAPER
    assert needed.least == needed.good == min(contrast_ratio(PAPER.rgb, below.color), TEXT)
    made = [
        rest + sum(one * derived(new, place.transforms).rgb[at] for place, one in mixed.of)
        for at, rest in enumerate(mixed.rest)
    ]
    becomes = below.becomes(Recoloring({FILL: new}))
    assert becomes is not None
    assert max(abs(min(max(one, 0), 255) - channel) for one, channel in zip(made, becomes, strict=True)) <= 0.5 + 1e-6


def test_of_one_mixture_its_ends_count_where_they_are_read_worst() -> None:
    ends = [seen(part(FILL, share, DARKER, "accent1"), part(FILL, 1 - share, DEEP, "accent1")) for share in (0.9, 0.2)]
    worse = [seen(part(FILL, share, DARKER, "accent1"), part(FILL, 1 - share, DEEP, "accent1")) for share in (0.8, 0.1)]
    found = list(mixed_reading(paints_of(words(PAPER, *ends), words(PAPER, *worse)), {}))
    assert [mixed.of[0][1] for _, mixed, _ in found] == [0.8, 0.1]
    # What is hardly there to be read needs nothing.
    faint = Seen(Rgb(250, 250, 250), (part(PAPER, 0.98, (), "lt1"),))
    assert not list(mixed_reading(paints_of(words(PAPER, faint)), {}))


def test_what_was_typed_in_beside_a_place_needs_what_it_goes_along_with() -> None:
    near = Rgba(80, 130, 188, 0.75)
    veil = seen(part(near, 0.75))
    paints = paints_of(words(PAPER, veil, size=30), typed=(near,))
    fill = Pointing("accent1", ())
    assert near_places(paints, {FILL: [fill], PAPER: [Pointing("lt1", ())]}) == {near: fill}
    mixed = [(one, other, needed) for one, other, needed in needs_of(paints) if isinstance(one, MixedPlaces)]
    (only,) = {(one.of, other, needed.least) for one, other, needed in mixed}
    assert only == (((fill, 0.75),), Pointing("lt1", ()), LARGE)


PALE = kit_of(
    ("Fog", Role.BACKGROUND, "#eef0ec"),
    ("Sky", Role.PRIMARY, "#7fb4d6"),
    ("Moss", Role.SECONDARY, "#8fae6b"),
    ("Hull", Role.TEXT_DARK, "#16252b"),
)


@pytest.mark.parametrize("kit", [demo_kit(), PALE], ids=["demo", "pale"])
@pytest.mark.parametrize("through", [(DARKER, DEEP), ((), ())], ids=["styled", "plain"])
def test_a_theme_is_proposed_on_which_texts_on_its_gradients_read(
    kit: Kit, through: tuple[tuple[Transform, ...], ...]
) -> None:
    dark = seen(part(FILL, 0.6, through[0], "accent1"), part(FILL, 0.3, through[1], "accent1"))
    assert contrast_ratio(PAPER.rgb, dark.color) >= TEXT
    theme = theme_for(paints_of(words(PAPER, dark)), kit)
    to = Recoloring({paint: kit.resolve(theme[slot]) for paint, slot in THEME.items()})
    below = dark.becomes(to)
    assert below is not None
    assert contrast_ratio(to.get(PAPER) or PAPER.rgb, below) >= TEXT


@pytest.mark.parametrize("kit", [demo_kit(), PALE], ids=["demo", "pale"])
@pytest.mark.parametrize("parts", [(), None], ids=["photograph", "not followed"])
@pytest.mark.parametrize("ground", ["#22252a", "#0b3d91", "#f2efe6", "#ffd9a0"])
def test_a_theme_is_proposed_whose_accents_read_on_what_stays_below_them(
    kit: Kit, parts: tuple[Part, ...] | None, ground: str
) -> None:
    below = parse_color(ground).rgb
    accent = Rgba(*parse_color("#5ad0b8" if contrast_ratio(below, PAPER.rgb) > TEXT else "#1f5f52").rgb)
    assert contrast_ratio(accent.rgb, below) >= TEXT
    sites = [Site(paint, Kind.THEME, (place_selector(slot),)) for paint, slot in ((PAPER, "lt1"), (accent, "accent1"))]
    run = TextRun(Text("x", accent, 1.0, 16, False), None, seen=(Seen(below, parts),))
    theme = theme_for(summarize([Inventory.count(sites)], [Measured(texts=(run,))], ["a.pptx"]), kit)
    assert contrast_ratio(kit.resolve(theme["accent1"]), below) >= TEXT


@pytest.mark.parametrize(
    "kit", [demo_kit(), PALE, kit_of(("Tar", Role.PRIMARY, "#16324f"))], ids=["demo", "pale", "one"]
)
@given(below=colors)
@settings(max_examples=15, deadline=None)
def test_light_places_stay_light_whatever_stays_below_their_texts(kit: Kit, below: Rgb) -> None:
    light = words(PAPER, Seen(below, None)), words(PAPER, Seen(below), size=40)
    dark = words(INK, Seen(below, None)), words(INK, Seen(below), size=40)
    theme = theme_for(paints_of(*light, *dark), kit)
    assert luminance(kit.resolve(theme["lt1"])) > 0.5 > luminance(kit.resolve(theme["dk1"]))
