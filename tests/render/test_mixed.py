"""Texts on what is no one color: what is seen below them is told by what says it, and what that becomes is foretold."""

from __future__ import annotations

import io
from dataclasses import replace
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from PIL import Image
from pptx import Presentation
from pptx.dml.color import RGBColor
from pptx.enum.shapes import MSO_SHAPE
from pptx.util import Inches
from scipy.ndimage import gaussian_filter

from pavese.core.color.contrast import ENHANCED, contrast_ratio
from pavese.core.color.derived import Transform, derived
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats import format_of, read
from pavese.core.formats.document import Document
from pavese.core.formats.marks import scattered
from pavese.core.kit.kit import Kit
from pavese.core.kit.role import Role
from pavese.core.recolor.assign import assign
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import FilePaints, summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.reading import readings
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.texts import Part, Seen, Text, TextRun
from pavese.core.recolor.together import text_levels
from pavese.demo.load import demo_kit
from pavese.render.mixed import Mixing, mixtures, together, veiled
from pavese.render.reading import measured
from tests.core.strategies import colors
from tests.core.test_near_colors import kit_of

WHITE, INK = Rgb(255, 255, 255), Rgba(16, 24, 32)
SHARES = np.linspace(0.1, 0.9, 40)[:, None]
PLACES = ["/one", "/two"]


def sites(*paints: tuple[Rgb, float], kind: Kind = Kind.STOP) -> list[Site]:
    return [Site(Rgba(*color, alpha), kind, (place,)) for (color, alpha), place in zip(paints, PLACES, strict=False)]


def mixed(first: tuple[int, ...], second: tuple[int, ...]) -> np.ndarray:
    return SHARES * np.array(first, dtype=float) + (1 - SHARES) * np.array(second, dtype=float)


def foretold(found: tuple[Seen, ...], to: Recoloring) -> list[Rgb]:
    assert found
    made = [one.becomes(to) for one in found]
    return [one for one in made if one is not None]


def near(found: list[Rgb], expected: np.ndarray, most: float = 4) -> bool:
    """Whether each color found is among those expected, but for rounding."""
    return all(np.abs(expected - np.array(one)).max(axis=1).min() <= most for one in found)


@given(colors, colors, colors, colors)
def test_what_is_seen_of_a_gradient_moves_with_its_stops(one: Rgb, other: Rgb, new: Rgb, further: Rgb) -> None:
    own = sites((one, 1), (other, 1))
    marks = [scattered(7), scattered(8)]
    found = Mixing(mixtures(own, marks, {})).seen(mixed(one, other), mixed(*marks))
    to = Recoloring(
        {}, {(site.paint, place): color for site, place, color in zip(own, PLACES, (new, further), strict=True)}
    )
    assert near(foretold(found, to), mixed(new, further))
    assert [round(sum(part.share for part in seen.parts or ()), 2) for seen in found] == [1.0] * len(found)


@given(colors, colors, st.sampled_from([0.2, 0.5, 0.8]), st.randoms(use_true_random=False))
def test_behind_a_veil_a_photograph_stays_and_the_veil_moves(veil: Rgb, new: Rgb, alpha: float, random: object) -> None:
    photograph = np.random.default_rng(random.randrange(1000)).integers(0, 256, (40, 3)).astype(float)
    own = sites((veil, alpha), kind=Kind.FILL)
    marks = [scattered(3)]
    assume(np.abs(np.array(marks[0]) - np.array(veil)).max() * alpha > 3)

    def behind(color: Rgb) -> np.ndarray:
        return alpha * np.array(color) + (1 - alpha) * photograph

    found = Mixing(mixtures(own, marks, {})).seen(behind(veil), behind(marks[0]))
    assert near(foretold(found, Recoloring({own[0].paint: new})), behind(new))


@given(st.lists(colors, min_size=3, max_size=3, unique=True), st.sampled_from([(60, 30, 10), (34, 33, 33)]))
def test_below_a_text_all_paints_of_a_picture_are_known(paints: list[Rgb], shares: tuple[int, ...]) -> None:
    own = [Site(Rgba(*color), Kind.PICTURE, ("/picture",)) for color in paints]
    marks = [scattered(at) for at in range(3)]
    assume(all(np.abs(np.array(mark) - np.array(color)).max() > 20 for mark, color in zip(marks, paints, strict=True)))

    def drawn(in_colors: list[Rgb]) -> np.ndarray:
        return np.repeat(np.array(in_colors, dtype=float), shares, axis=0)

    found = Mixing(mixtures(own, marks, {})).seen(drawn(paints), drawn(marks))
    new = [Rgb(200, 60, 90), Rgb(20, 30, 200), Rgb(240, 240, 220)]
    to = Recoloring({site.paint: color for site, color in zip(own, new, strict=True)})
    assert all(seen.parts is not None for seen in found)
    assert near(foretold(found, to), np.array(new, dtype=float), 8)


@given(colors, colors, st.integers(15_000, 95_000), st.integers(15_000, 95_000))
def test_what_a_style_makes_of_a_color_is_made_of_the_next_one(one: Rgb, new: Rgb, tint: int, shade: int) -> None:
    own = sites((one, 1), kind=Kind.FILL)
    mark = scattered(5)
    style = [(Transform("tint", tint),), (Transform("shade", shade),)]

    def styled(color: Rgb) -> np.ndarray:
        first, second = (derived(color, transforms).rgb for transforms in style)
        return mixed(first, second)

    found = Mixing(mixtures(own, [mark], {0: style})).seen(styled(one), styled(mark))
    assert near(foretold(found, Recoloring({own[0].paint: new})), styled(new), 6)


def test_what_a_style_makes_a_veil_is_seen_through_and_goes_with_its_color() -> None:
    own, mark = sites((Rgb(10, 40, 60), 1), kind=Kind.FILL), scattered(9)
    style = [(Transform("shade", 80_000), Transform("alpha", 60_000))]
    behind = np.random.default_rng(5).integers(0, 256, (40, 3)).astype(float)

    def veiled_by(color: Rgb) -> np.ndarray:
        return 0.6 * np.array(derived(color, style[0]).rgb) + 0.4 * behind

    found = Mixing(mixtures(own, [mark], {0: style})).seen(veiled_by(own[0].paint.rgb), veiled_by(mark))
    new = Rgb(200, 60, 90)
    assert near(foretold(found, Recoloring({own[0].paint: new})), veiled_by(new))


def test_what_is_not_made_of_what_is_known_is_not_foretold() -> None:
    own = sites((Rgb(10, 20, 30), 1), (Rgb(200, 100, 0), 1))
    mixing = Mixing(mixtures(own, [scattered(0), scattered(1)], {}))
    noise = np.random.default_rng(1).integers(0, 256, (2, 40, 3)).astype(float)
    found = mixing.seen(*noise)
    assert {seen.parts for seen in found} == {None}
    run = TextRun(Text("x", INK, 1.0, 16, False), None, seen=found)
    assert not run.told
    assert readings([run], Changes(), WHITE) == []
    # As it is now it is counted all the same, where a file is opened that nothing changes any more.
    assert len(readings([run.settled()], Changes(), WHITE)) == 1
    # A few spots that are not told do not count before a file is opened anew; many make all of it untold.
    told = tuple(Seen(Rgb(n, n, n)) for n in range(30))
    assert len(together(told)) == 12
    most = replace(run, seen=(*told, *found[:5]))
    assert most.told
    assert most.followed == told
    assert len(list(most.settled().grounded(Recoloring()))) == 30 + len(found[:5])
    assert not replace(run, seen=(*told[:2], *found)).told


@given(st.lists(colors, min_size=1, max_size=9, unique=True), colors)
def test_a_text_reads_as_at_its_worst_place(seen: list[Rgb], ink: Rgb) -> None:
    run = TextRun(Text("x", Rgba(*ink), 1.0, 16, False), None, seen=tuple(map(Seen, seen)))
    (told,) = readings([run], Changes(), WHITE)
    assert told.before == told.after == min(contrast_ratio(ink, one) for one in seen)
    assert contrast_ratio(told.ink, told.ground) == told.after


def test_a_text_stands_on_what_most_of_a_mixture_is_and_keeps_as_much_to_that() -> None:
    paint = Rgba(79, 129, 189)
    styled = [Part(paint, Kind.FILL, ("/one",), share, (Transform("tint", 50_000),)) for share in (0.5, 0.5)]
    veil = [Part(paint, Kind.FILL, ("/two",), 0.4)]
    run = TextRun(Text("x", INK, 1.0, 16, False), None, seen=(Seen(WHITE, tuple(styled)), Seen(WHITE, tuple(veil))))
    assert list(run.below()) == [Part(paint, Kind.FILL, ("/one",))]
    # What it stands on is lighter than the paint: to that so much less is enough.
    (level,) = text_levels(FilePaints("x", (INK, paint), Measured(texts=(run,))), WHITE)
    ratio, of_paint = contrast_ratio(INK.rgb, WHITE), contrast_ratio(INK.rgb, paint.rgb)
    assert (level.level, level.of_paint) == (ENHANCED, pytest.approx(ENHANCED * of_paint / ratio))


# On slides ---------------------------------------------------------------------------------------------------------


@pytest.fixture(scope="module")
def laid_over() -> Document:
    """A slide with texts on a photograph, a gradient that was typed in, one that the style of a theme makes, and a veil
    over the photograph."""
    made, slide = over_a_photograph(photograph())
    for at, name in enumerate(("Typed in", "By a style", "Behind a veil")):
        top = Inches(1.8 if name == "Behind a veil" else 3.8 + at)
        shape = slide.shapes.add_shape(MSO_SHAPE.RECTANGLE, Inches(1), top, Inches(6), Inches(0.8))
        shape.text_frame.text = name
        shape.text_frame.paragraphs[0].runs[0].font.color.rgb = RGBColor(255, 255, 254 - at)
        if name == "Typed in":
            shape.fill.gradient()
            for stop, color in zip(shape.fill.gradient_stops, ((120, 20, 20), (20, 20, 120)), strict=True):
                stop.color.rgb = RGBColor(*color)
        elif name == "Behind a veil":
            # The style would lay a shadow below, which is one veil more.
            shape._element.remove(shape._element.find("{*}style"))
            shape.fill.solid()
            shape.fill.fore_color.rgb = RGBColor(10, 40, 60)
            color = shape.fill._xPr.find(".//{*}srgbClr")
            color.append(color.makeelement(color.tag.replace("srgbClr", "alpha"), {"val": "60000"}))
    return saved(made)


def photograph() -> np.ndarray:
    dice = np.random.default_rng(2).normal(0, 1, (300, 400, 3))
    clouds = sum(size * gaussian_filter(dice, (size, size, 0.4)) for size in (2, 6, 20, 50))
    return np.clip(60 + 25 * clouds + dice * 3, 0, 255).astype(np.uint8)


def over_a_photograph(pixels: np.ndarray) -> tuple[Any, Any]:
    """A presentation, and its slide with a picture 10 inches wide and a nearly white text on it."""
    made = Presentation()
    slide = made.slides.add_slide(made.slide_layouts[6])
    target = io.BytesIO()
    Image.fromarray(pixels).save(target, "PNG")
    slide.shapes.add_picture(target, 0, 0, Inches(10), Inches(3.5))
    words = slide.shapes.add_textbox(Inches(1), Inches(0.5), Inches(6), Inches(0.8)).text_frame
    words.text = "Over the quay"
    words.paragraphs[0].runs[0].font.color.rgb = RGBColor(250, 250, 245)
    return made, slide


def saved(made: Any) -> Document:
    kept = io.BytesIO()
    made.save(kept)
    return read("x.pptx", kept.getvalue())


def test_a_text_is_not_read_where_a_photograph_is_white_below_it() -> None:
    pixels = photograph()
    (plain,) = readings(looked_at(saved(over_a_photograph(pixels)[0])).values(), Changes(), WHITE)
    assert plain.before > 4.5
    # A lamp, 4 of the 57 pixels that the text is long.
    pixels[:90, 156:160] = 255
    (told,) = readings(looked_at(saved(over_a_photograph(pixels)[0])).values(), Changes(), WHITE)
    assert told.before == told.after < 1.1


def looked_at(document: Document) -> dict[str, TextRun]:
    texts = measured(document, format_of("x.pptx").can).texts
    return {run.text.text: run for run in texts if run.ground is None}


def test_what_texts_on_slides_stand_on_becomes_what_was_foretold(laid_over: Document) -> None:
    found = looked_at(laid_over)
    assert set(found) == {"Over the quay", "Typed in", "By a style", "Behind a veil"}
    assert all(run.told for run in found.values())
    paints = sorted(laid_over.inventory().paints)
    to = Recoloring({paint: Rgb(*(230 - 40 * (at % 4), 60 * (at % 3), 90)) for at, paint in enumerate(paints)})
    after = looked_at(read("x.pptx", laid_over.write(to)))
    for name, run in found.items():
        drawn = np.array([seen.color for seen in after[name].seen], dtype=float)
        assert near(foretold(run.seen, to), drawn, 8), name
    # What is worst then is what was told before.
    for name, run in found.items():
        (told,) = readings([run], Changes(to), WHITE)
        (anew,) = readings([after[name].settled()], Changes(), WHITE)
        assert told.after == pytest.approx(anew.after, abs=0.25), name


BROWN = kit_of(
    ("Cream", Role.BACKGROUND, "#f4e3d0"), ("Oak", Role.PRIMARY, "#8b5e34"), ("Peat", Role.TEXT_DARK, "#2a1810")
)


@pytest.mark.parametrize("kit", [demo_kit(), BROWN], ids=["demo", "one hue"])
def test_what_reads_on_a_mixture_reads_as_it_is_planned(laid_over: Document, kit: Kit) -> None:
    found = measured(laid_over, format_of("x.pptx").can)
    plan = assign(summarize([laid_over.inventory()], [found], ["x.pptx"]), kit)
    told = readings(found.texts, plan.changes(kit, "x.pptx"), WHITE)
    assert len({one.run.text.text for one in told if one.run.ground is None}) == 4
    assert not [one for one in told if one.before >= one.needed and not one.reads]


def test_spots_go_from_the_darkest_to_the_lightest(laid_over: Document) -> None:
    for run in looked_at(laid_over).values():
        lights = [contrast_ratio(one.color, Rgb(0, 0, 0)) for one in run.seen]
        assert all(one <= other + 0.05 for one, other in pairwise(lights))


def test_veils_are_looked_for_over_grounds_that_are_seen_by_themselves() -> None:
    own = [Site(Rgba(0, 0, 0, 0.4), Kind.FILL, ("/one",)), Site(Rgba(200, 30, 60), Kind.GROUND, ("/two",))]
    marks = [scattered(0), scattered(1)]
    tried = list(mixtures(own, marks, {}))
    came, shown = (
        np.tile(0.4 * np.array(a) + 0.6 * np.array(b), (9, 1)) for a, b in ((own[0].paint[:3], own[1].paint[:3]), marks)
    )
    assert Mixing(tried).seen(came, shown)[0].parts is None
    (seen,) = Mixing([*tried, *veiled(tried, [(own[1], marks[1])])]).seen(came, shown)
    assert [(part.paint, round(part.share, 1)) for part in seen.parts or ()] == [
        (own[0].paint, 0.4),
        (own[1].paint, 0.6),
    ]
