"""What is done where a person points in a picture: things in kit colors, room for a headline, tones that keep skin."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw

from pavese.core.color.contrast import contrast_ratio
from pavese.core.color.difference import ciede2000, cielab
from pavese.core.color.oklab import decode, linear_to_oklab
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.picture.document import PictureDocument
from pavese.core.formats.picture.pointing import rectangle
from pavese.core.pictures.objects import Sought, Stroke, in_another_color, object_in
from pavese.core.pictures.tones import tones, with_skin
from pavese.core.pictures.veil import STEPS, Rectangle, fading, veil_needed, veiled, worst
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.pixels import PhotographTones, Skin, Tones
from pavese.core.recolor.pointed import (
    HeadlineRoom,
    Headlines,
    ObjectColors,
    PartWay,
    PicturePart,
    PictureParts,
    PicturePlace,
    PointedObject,
    Region,
    Spread,
)
from pavese.core.recolor.recoloring import Recoloring
from pavese.render.draw import pixels_of
from tests.core.strategies import colors
from tests.formats.rasters import fields, palette, saved
from tests.formats.scenes import SIZE, scene
from tests.formats.test_rasters import levels, read, wide_profile

SEA, BUOY, COAT, NIGHT, FOG = (
    Rgb(40, 92, 168),
    Rgb(190, 52, 40),
    Rgb(205, 203, 200),
    Rgb(20, 30, 52),
    Rgb(238, 242, 240),
)
MIDDLE = (0.4, 0.5)


def overlap(parts: Any, truth: Any) -> float:
    mask = parts >= 0.5
    return float((mask & truth).sum() / (mask | truth).sum())


@pytest.mark.parametrize("color", [SEA, BUOY, COAT])
@pytest.mark.parametrize("target", [BUOY, NIGHT, Rgb(240, 200, 80)])
def test_a_thing_goes_to_its_color_and_nothing_else_moves(color: Rgb, target: Rgb) -> None:
    made_up = scene(color, Rgb(120, 150, 118))
    for place in (MIDDLE, (0.3, 0.4), (0.47, 0.62)):
        found = object_in(made_up.pixels, Sought((place,)))
        assert found is not None
        assert overlap(found.whole(SIZE), made_up.thing) >= 0.97
    made = in_another_color(made_up.pixels, made_up.pixels, found, target)
    parts = found.whole(SIZE)
    assert (made[parts == 0] == made_up.pixels[parts == 0]).all()
    middle = np.median(made[parts == 1], axis=0)
    assert ciede2000(cielab(middle[None]), cielab(np.array([target])))[0] <= 2
    light = [linear_to_oklab(decode(one[parts == 1] / 255))[:, 0] for one in (made_up.pixels, made)]
    assert np.corrcoef(*light)[0, 1] >= 0.97, "shades and folds stay"


def test_what_hangs_together_is_widened_narrowed_and_brushed() -> None:
    made_up = scene(SEA)
    both = made_up.thing | made_up.other

    def found(sought: Sought) -> Any:
        one = object_in(made_up.pixels, sought)
        return np.zeros(SIZE) if one is None else one.whole(SIZE)

    assert overlap(found(Sought((MIDDLE,))), made_up.thing) > 0.97
    assert overlap(found(Sought((MIDDLE,), together=False)), both) > 0.97
    assert overlap(found(Sought((MIDDLE, (0.85, 0.5)))), both) > 0.97
    assert found(Sought((MIDDLE,), light=0.03)).sum() < 0.9 * made_up.thing.sum()
    left = Stroke(((0.28, 0.2), (0.28, 0.8)), 0.1, False)
    less = found(Sought((MIDDLE,), strokes=(left,)))
    assert less[120, int(0.28 * SIZE[1])] == 0
    assert less[120, int(0.45 * SIZE[1])] == 1
    more = found(Sought((MIDDLE,), strokes=(Stroke(((0.05, 0.05),), 0.08, True),)))
    assert more[12, 16] == 1
    everything = Stroke(((0.5, 0.5),), 2.5, False)
    assert object_in(made_up.pixels, Sought((MIDDLE,), strokes=(everything,))) is None


def test_an_edge_keeps_its_mix_and_no_halo_of_the_old_color() -> None:
    pixels = np.full((60, 60, 3), FOG, dtype=np.uint8)
    pixels[:, 30:] = SEA
    pixels[:, 29] = np.rint(0.5 * np.array(FOG) + 0.5 * np.array(SEA))
    found = object_in(pixels, Sought(((0.8, 0.5),)))
    assert found is not None
    made = in_another_color(pixels, pixels, found, BUOY)
    assert (made[:, 30:] == BUOY).all()
    assert (made[:, :29] == FOG).all()
    assert np.abs(made[:, 29] - (0.5 * np.array(FOG) + 0.5 * np.array(BUOY))).max() <= 2


@settings(max_examples=60)
@given(st.lists(colors, min_size=1, max_size=30), colors, colors, st.sampled_from([3.0, 4.5]), st.integers(0, STEPS))
def test_a_veil_is_as_thin_as_an_ink_needs(there: list[Rgb], ink: Rgb, color: Rgb, level: float, least: int) -> None:
    pixels = np.array(there, dtype=np.uint8)[None]
    step = veil_needed(pixels, ink, level, color, least)
    if step is None:
        assert contrast_ratio(ink, color) < level
        return
    assert worst(veiled(pixels, color, step), ink) >= level
    assert min(contrast_ratio(ink, Rgb(*map(int, one))) for one in veiled(pixels, color, step)[0]) >= level - 1e-6
    if step > least:
        assert worst(veiled(pixels, color, step - 1), ink) < level


def test_a_veil_fades_away_from_its_region() -> None:
    spread = fading((40, 100), Rectangle(10, 20, 0, 30))
    assert (spread[10:20, :30] == 1).all()
    assert (np.diff(spread[15, 30:]) < 0).all()
    assert spread[15, -1] == pytest.approx(0, abs=0.02)


headlines = st.builds(
    lambda left, top, ink, size, spread: HeadlineRoom(
        region=Region(left=left, top=top, width=0.4, height=0.3), ink=ink, veil="veil.base", size=size, spread=spread
    ),
    st.floats(0, 0.6),
    st.floats(0, 0.7),
    st.sampled_from(["ink.base", "light.base"]),
    st.sampled_from(Headlines),
    st.sampled_from(Spread),
)
WAYS = {
    "JPEG": {"quality": 70},
    "PNG": {},
    "WEBP": {"quality": 60},
    "PNG, wide": {"icc_profile": wide_profile()},
    "JPEG, turned": {"quality": 80, "turn": 6},
}


@pytest.mark.parametrize("way", WAYS)
@settings(max_examples=12)
@given(act=headlines, veil=colors, seed=st.integers(0, 5))
def test_a_headline_reads_everywhere_in_its_place_once_it_is_coded(
    way: str, act: HeadlineRoom, veil: Rgb, seed: int
) -> None:
    options: dict[str, Any] = dict(WAYS[way])
    if turn := options.pop("turn", None):
        options["exif"] = Image.Exif()
        options["exif"][0x0112] = turn
    data = saved(Image.fromarray(scene(SEA, seed=seed).pixels), way.split(",")[0], **options)
    name = f"post.{way.split(',')[0].lower()}"
    document = read(name, data)
    assert isinstance(document, PictureDocument)
    inks = {"ink.base": NIGHT, "light.base": FOG, "veil.base": veil}
    changes = Changes(acts=(act,), resolved=inks)
    room = document.headroom(changes)
    assert room is not None
    made = document.write(changes)
    if room.thick is None:
        assert made == data
        assert contrast_ratio(inks[act.ink], veil) < act.size.level
        return
    assume(room.thick < 1)
    after = read(name, made)
    assert isinstance(after, PictureDocument)
    seen = after._came
    reads = worst(rectangle(act.region, seen.shape).of(seen), inks[act.ink])
    assert reads == pytest.approx(room.after)
    assert reads >= act.size.level
    if room.thick == 0:
        assert made == data
    if act.spread is Spread.PLACE and way == "PNG":
        outside = np.ones(SIZE, dtype=bool)
        region = rectangle(act.region, SIZE)
        outside[region.top : region.bottom, region.left : region.right] = False
        assert (levels(made)[outside] == levels(data)[outside]).all()


@pytest.mark.parametrize("way", ["PNG", "PNG, wide", "PNG, clear"])
def test_things_are_given_their_colors_in_files_and_the_rest_stays_to_the_bit(way: str) -> None:
    made_up = scene(SEA)
    options = {"icc_profile": wide_profile()} if way == "PNG, wide" else {}
    picture = Image.fromarray(made_up.pixels)
    if way == "PNG, clear":
        picture.putalpha(
            Image.fromarray(np.where(np.arange(SIZE[1]) < 20, 0, 255)[None].repeat(SIZE[0], 0).astype("u1"))
        )
    data = saved(picture, "PNG", **options)
    spots = tuple(PicturePlace(x=x, y=0.5) for x in (0.4, 0.45))
    things = ObjectColors(
        objects=(
            PointedObject(spots=spots, color="buoy.base"),
            PointedObject(spots=(PicturePlace(x=0.85, y=0.5),), color="fog.base"),
        )
    )
    document = read("quay.png", data)
    resolved = {"buoy.base": BUOY, "fog.base": FOG}
    made = document.write(Changes(acts=(things,), resolved=resolved))
    before, after = levels(data), levels(made)
    far = np.zeros(SIZE, dtype=bool)
    far[:, :40] = far[:12] = far[-12:] = True
    assert (before[far] == after[far]).all()
    seen = pixels_of(document.preview(Changes(acts=(things,), resolved=resolved)).content)[..., :3]
    for mask, color in ((made_up.thing, BUOY), (made_up.other, FOG)):
        assert ciede2000(cielab(np.median(seen[mask], axis=0)[None]), cielab(np.array([color])))[0] <= 2.5
    assert document.write(Changes(acts=(ObjectColors(),))) == data


def test_one_entry_of_a_palette_parts_where_things_do() -> None:
    picture = fields([SEA, FOG, BUOY])
    data = saved(palette(picture), "PNG")
    place = PicturePlace(x=0.1, y=0.2)
    act = ObjectColors(objects=(PointedObject(spots=(place,), color="night.base"),))
    made = read("flags.png", data).write(Changes(acts=(act,), resolved={"night.base": NIGHT}))
    after = levels(made)
    assert (after[2:30, 2:28] == NIGHT).all()
    assert (after[34:62, 68:94] == SEA).all(), "the other field of the same color"


#: From pale to dark, in light and in shade; and what is no skin.
SKIN = [(255, 224, 196), (241, 194, 165), (224, 172, 130), (198, 134, 96), (141, 85, 56), (98, 58, 40), (72, 44, 32)]
NONE = [(40, 92, 168), (60, 130, 70), (190, 30, 40), (128, 128, 128), (250, 250, 250), (120, 60, 150), (240, 210, 40)]


def test_skin_is_kept_on_request_and_nothing_else() -> None:
    pixels = np.array([*SKIN, *NONE], dtype=np.uint8)
    made = np.zeros_like(pixels)
    kept = with_skin(pixels, made)
    assert (kept[: len(SKIN)] == pixels[: len(SKIN)]).all()
    assert (kept[len(SKIN) :] == made[len(SKIN) :]).all()


def test_three_tones_pass_through_the_third_and_reach_their_ends_early() -> None:
    dice = np.random.default_rng(0)
    grey = np.clip(dice.normal(128, 70, (80, 80, 1)), 0, 255).repeat(3, axis=2)
    data = saved(Image.fromarray(grey.astype(np.uint8)), "PNG")
    resolved = {"a.base": NIGHT, "b.base": BUOY, "c.base": FOG}
    act = PhotographTones(
        tones=Tones.THREE, dark="a.base", middle="b.base", light="c.base", dark_end=20, light_end=80, skin=Skin.KEPT
    )
    after = levels(read("stones.png", data).write(Changes(acts=(act,), resolved=resolved)))
    before = levels(data)[..., 0] / 255
    assert (after[before <= 0.19] == NIGHT).all()
    assert (after[before >= 0.81] == FOG).all()
    middling = np.abs(before - 0.5) < 0.004
    assert np.abs(after[middling].astype(int) - BUOY).max() <= 6
    assert tuple(tones((NIGHT, FOG))[0]) == NIGHT


def test_turned_pictures_are_pointed_at_as_they_are_seen() -> None:
    made_up = scene(SEA)
    exif = Image.Exif()
    exif[0x0112] = 6
    # It lies on its side in the file.
    lying = np.asarray(Image.fromarray(made_up.pixels).transpose(Image.Transpose.ROTATE_90))
    target = io.BytesIO()
    Image.fromarray(lying).save(target, "PNG", exif=exif)
    act = ObjectColors(objects=(PointedObject(spots=(PicturePlace(x=0.4, y=0.5),), color="buoy.base"),))
    made = read("turned.png", target.getvalue()).write(Changes(acts=(act,), resolved={"buoy.base": BUOY}))
    upright = np.asarray(Image.fromarray(levels(made)).transpose(Image.Transpose.ROTATE_270))
    assert ciede2000(cielab(np.median(upright[made_up.thing], axis=0)[None]), cielab(np.array([BUOY])))[0] <= 2.5


def signs(ground: Rgb, first: Rgb, second: Rgb, *, noise: bool = False) -> np.ndarray:
    """Two round signs on a ground, with soft edges, as large as a scene; a photograph beside them on request."""
    large = Image.new("RGB", (SIZE[1] * 4, SIZE[0] * 4), ground)
    draw = ImageDraw.Draw(large)
    for left, color in ((60, first), (300, second)):
        draw.ellipse((left, 120, left + 160, 280), fill=color)
    made = np.array(large.resize((SIZE[1], SIZE[0]), Image.Resampling.BOX))
    if noise:
        made[:, -60:] = np.random.default_rng(4).integers(30, 220, (SIZE[0], 60, 3))
    return made


SIGN = Region(left=10 / SIZE[1], top=22 / SIZE[0], width=50 / SIZE[1], height=56 / SIZE[0])


@pytest.mark.parametrize("turn", [1, 6, 8])
@settings(max_examples=6)
@given(picked=st.lists(colors, min_size=5, max_size=5, unique=True))
def test_a_sign_in_a_frame_keeps_its_colors_and_its_ground_goes_along(turn: int, picked: list[Rgb]) -> None:
    ground, sign, new, other, _ = picked
    assume(ciede2000(cielab(np.array([ground])), cielab(np.array([sign])))[0] > 12)
    exif = Image.Exif()
    exif[0x0112] = turn
    back = {6: Image.Transpose.ROTATE_90, 8: Image.Transpose.ROTATE_270}
    lying = Image.fromarray(signs(ground, sign, sign))
    lying = lying.transpose(back[turn]) if turn in back else lying
    document = read("partners.png", saved(lying, "PNG", exif=exif))
    act = PictureParts(parts=(PicturePart(region=SIGN),))
    wanted = Recoloring({Rgba(*ground, 1.0): new, Rgba(*sign, 1.0): other})
    made = Image.fromarray(levels(document.write(Changes(wanted, (act,)))))
    forth = {6: Image.Transpose.ROTATE_270, 8: Image.Transpose.ROTATE_90}
    upright = np.asarray(made.transpose(forth[turn]) if turn in forth else made)
    # As if it had been drawn so: a part of a mix is known as finely as the levels between what is mixed tell it.
    drawn = signs(new, sign, other).astype(int)
    fine = max(abs(a - b) for a, b in zip(ground, sign, strict=True))
    assert np.abs(upright - drawn).max() <= 2 + 255 / fine
    assert (upright[40:60, 25:45] == sign).all()
    assert (upright[40:60, 85:105] == other).all()


def test_parts_are_told_as_what_they_are_and_what_stays_does_to_the_bit() -> None:
    pixels = signs(FOG, BUOY, SEA, noise=True)
    data = saved(Image.fromarray(pixels), "PNG")
    document = read("banner.png", data)
    assert isinstance(document, PictureDocument)
    tone = PhotographTones(tones=Tones.GREY, dark="night.base", light="fog.base")
    resolved = {"night.base": NIGHT, "fog.base": FOG}
    wanted = Recoloring({Rgba(*BUOY, 1.0): NIGHT, Rgba(*FOG, 1.0): SEA, Rgba(*SEA, 1.0): BUOY})
    right = Region(left=1 - 40 / SIZE[1], top=0, width=40 / SIZE[1], height=1)
    photograph = document.photograph()
    assert photograph[:, -50:].mean() > 0.95
    assert not photograph[:, :-64].any()

    def made(way: PartWay, region: Region) -> Any:
        act = PictureParts(parts=(PicturePart(region=region, way=way),))
        return levels(document.write(Changes(wanted, (tone, act), resolved))), document.photograph(act)

    plain = levels(document.write(Changes(wanted, (tone,), resolved)))
    assert (np.ptp(plain[:, -50:].astype(int), axis=2) <= 1).mean() > 0.9, "the photograph is grey"
    there = rectangle(SIGN, pixels.shape)
    rows, columns = slice(there.top, there.bottom), slice(there.left, there.right)
    inside = np.zeros(SIZE, dtype=bool)
    inside[rows, columns] = True
    whole, told = made(PartWay.WHOLE, SIGN)
    assert (whole[inside] == pixels[inside]).all()
    assert (whole[~inside] == plain[~inside]).all()
    # What is told as a photograph is in its tones, and not in the plan's colors.
    grey, told = made(PartWay.PHOTOGRAPH, SIGN)
    assert told[inside].all()
    assert (np.ptp(grey[inside].astype(int), axis=1) <= 1).all()
    assert (grey[~inside] == plain[~inside]).all()
    # What is told as drawn is in no tones.
    drawn, told = made(PartWay.DRAWN, right)
    assert not told[:, -40:].any()
    assert (drawn[:, -40:] == pixels[:, -40:])[photograph[:, -40:]].all()
    assert (drawn[:, :-40] == plain[:, :-40]).all()
    assert document.write(Changes(acts=(PictureParts(parts=(PicturePart(region=SIGN),)),))) == data
