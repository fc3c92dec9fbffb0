"""Pictures of several frames or pages: all of them are recolored, and they stand where, when and how they stood."""

from __future__ import annotations

import io
import struct
from typing import Any

import numpy as np
import numpy.typing as npt
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats import read
from pavese.core.formats.picture import png
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.pixels import MOVES, PAGED, GroundKind, PictureGround
from pavese.core.recolor.recoloring import Recoloring
from tests.formats.rasters import saved

SEA, LAMP, FOAM = Rgb(47, 62, 158), Rgb(255, 202, 40), Rgb(255, 255, 255)
NEW = {SEA: Rgb(0, 100, 50), LAMP: Rgb(250, 240, 200), FOAM: Rgb(120, 20, 30)}
TIMES = [100, 120, 140, 80, 300]
#: How each kind is saved, and how far its pixels may be from those drawn in the new colors, in levels.
KINDS: dict[str, tuple[str, dict[str, Any], float]] = {
    "a.png": ("PNG", {"loop": 3}, 3),
    "a.webp": ("WEBP", {"loop": 3, "lossless": True}, 3),
    "b.webp": ("WEBP", {"loop": 3, "quality": 90}, 40),
    "a.avif": ("AVIF", {"quality": 90}, 14),
}


def frame(at: int, colors: dict[Rgb, Rgb], size: tuple[int, int] = (160, 90)) -> Image.Image:
    """A lamp that goes over the sea, with soft edges."""
    large = Image.new("RGB", (size[0] * 4, size[1] * 4), colors.get(SEA, SEA))
    pen = ImageDraw.Draw(large)
    pen.ellipse((40 + 60 * at, 60, 200 + 60 * at, 220), fill=colors.get(LAMP, LAMP))
    pen.rectangle((0, large.height - 80, *large.size), fill=colors.get(FOAM, FOAM))
    return large.resize(size, Image.Resampling.BOX)


def moving(name: str, frames: list[Image.Image], **options: Any) -> bytes:
    kind, more, _ = KINDS[name]
    return saved(frames[0], kind, save_all=True, append_images=frames[1:], duration=TIMES, **{**more, **options})


def wanted(found: Inventory) -> dict[Rgba, Rgb]:
    """The new color for each paint."""
    return {
        paint: NEW[min(NEW, key=lambda one: max(abs(a - b) for a, b in zip(one, paint.rgb, strict=True)))]
        for paint in found.paints
    }


def played(data: bytes) -> tuple[list[npt.NDArray[np.uint8]], list[float], Any]:
    """The frames as they are seen, how long each is, and how often all are."""
    with Image.open(io.BytesIO(data)) as image:
        frames, times = [], []
        for number in range(image.n_frames):
            image.seek(number)
            image.load()
            frames.append(np.asarray(image.convert("RGBA")))
            times.append(float(image.info.get("duration", 0)))
        return frames, times, image.info.get("loop")


@pytest.mark.parametrize("name", list(KINDS))
def test_every_frame_comes_out_as_if_drawn_in_the_new_colors(name: str) -> None:
    data = moving(name, [frame(at, {}) for at in range(5)])
    document = read(name, data)
    found = document.inventory()
    assert len(found.paints) == 3
    assert MOVES in found.remarks
    assert document.write({}) == data
    made = document.write(wanted(found))
    frames, times, loop = played(made)
    assert (times, loop) == (TIMES, played(data)[2])
    for at, one in enumerate(frames):
        apart = np.abs(one[..., :3].astype(int) - np.asarray(frame(at, NEW))).max(axis=2)
        assert np.percentile(apart, 99) <= KINDS[name][2]
        assert one[..., 3].min() == 255
    assert Image.open(io.BytesIO(document.preview({}).content)).size == (160, 90), "its first frame is shown"


def controls(data: bytes) -> list[bytes]:
    """How each frame of a PNG stands, but for its number among the chunks."""
    return [chunk.data[4:] for chunk in png.chunks("", data) if chunk.kind == b"fcTL"]


def test_pieces_of_a_png_stay_pieces() -> None:
    frames = [frame(at, {}) for at in range(5)]
    data = moving("a.png", frames)
    made = read("a.png", data).write(wanted(read("a.png", data).inventory()))
    assert controls(made) == controls(data)
    sizes = {struct.unpack(">II", one[:8]) for one in controls(data)}
    assert len(sizes) > 1, "what does not move is not written again"
    numbers = [struct.unpack(">I", one.data[:4])[0] for one in png.chunks("", made) if one.kind in (b"fcTL", b"fdAT")]
    assert numbers == list(range(len(numbers)))
    assert [one.kind for one in png.chunks("", made)].count(b"IDAT") == 1
    # One that programs show which know of no frames stands beside them.
    apart = saved(
        Image.new("RGB", (160, 90), FOAM), "PNG", save_all=True, append_images=frames, default_image=True, duration=90
    )
    still = read("a.png", apart).write(wanted(read("a.png", apart).inventory()))
    with Image.open(io.BytesIO(still)) as opened:
        assert (opened.default_image, opened.n_frames) == (True, 6)  # type: ignore[attr-defined]
        assert opened.convert("RGB").getpixel((5, 5)) == NEW[FOAM]


def test_of_a_moving_png_with_a_palette_only_its_entries_move() -> None:
    frames = [frame(at, {}).quantize(24) for at in range(2)]
    shared = frames[0]
    data = saved(shared, "PNG", save_all=True, append_images=[frame(1, {}).quantize(palette=shared)], duration=90)
    made = read("a.png", data).write(wanted(read("a.png", data).inventory()))
    before, after = (list(png.chunks("", one)) for one in (data, made))
    assert {one.kind for one, other in zip(before, after, strict=True) if one != other} == {b"PLTE"}


@pytest.mark.parametrize("name", ["a.png", "a.webp"])
@settings(max_examples=25, deadline=None)
@given(boxes=st.lists(st.tuples(*[st.integers(0, 30)] * 4, st.integers(0, 255)), min_size=2, max_size=5))
def test_what_is_laid_over_others_is_seen_as_it_was(name: str, boxes: list[tuple[int, ...]]) -> None:
    """Frames in which what is half clear is laid over what was there: exchanged for the same colors nothing is seen to
    change, and exchanged for others every pixel is what its paint becomes."""
    frames = []
    for left, top, width, height, alpha in boxes:
        one = Image.new("RGBA", (40, 40), (0, 0, 0, 0))
        one.paste((*SEA, 255), (0, 0, 40, 20))
        one.paste((*LAMP, alpha), (left, top, left + width + 1, top + height + 1))
        frames.append(one)
    kind, more, _ = KINDS[name]
    data = (
        saved(frames[0], kind, save_all=True, append_images=frames[1:], duration=90, blend=1, **more)
        if (kind == "PNG")
        else saved(frames[0], kind, save_all=True, append_images=frames[1:], duration=90, **more)
    )
    document = read(name, data)
    made = document.write({paint: NEW[paint.rgb] for paint in document.inventory().paints if paint.rgb in NEW})
    before, after = played(data)[0], played(made)[0]
    assert len(before) == len(after)
    for was, becomes in zip(before, after, strict=True):
        assert (was[..., 3] == becomes[..., 3]).all()
        for old, new in NEW.items():
            here = (was[..., :3] == old).all(axis=2) & (was[..., 3] == 255)
            assert (becomes[here][:, :3] == new).all() or old not in {
                paint.rgb for paint in document.inventory().paints
            }


def test_pages_of_a_tiff_are_all_recolored_each_as_it_was() -> None:
    pages = [frame(0, {}), frame(2, {}, (100, 60)).convert("RGBA")]
    data = saved(pages[0], "TIFF", save_all=True, append_images=pages[1:], compression="tiff_lzw", dpi=(144, 144))
    document = read("a.tif", data)
    assert PAGED in document.inventory().remarks
    assert document.write({}) == data
    with Image.open(io.BytesIO(document.write(wanted(document.inventory())))) as made:
        assert made.n_frames == 2  # type: ignore[attr-defined]
        for number, page in enumerate(pages):
            made.seek(number)
            assert (made.size, made.mode, made.info["compression"]) == (page.size, page.mode, "tiff_lzw")
            assert made.convert("RGB").getpixel((2, 2)) == NEW[SEA]
            assert made.info["dpi"] == (144, 144)


def test_what_is_for_still_pictures_leaves_one_that_moves_as_it_is() -> None:
    data = moving("a.png", [frame(at, {}) for at in range(5)])
    act = PictureGround(kind=GroundKind.CLEAR, color="fog.base")
    changes = Changes(Recoloring({}), (act,), {"fog.base": FOAM})
    assert read("a.png", data).write(changes) == data


def test_more_frames_than_it_says_are_not_unpacked() -> None:
    """A bomb: it says that it has two frames, and holds many large ones."""
    listed = list(png.chunks("", moving("a.png", [frame(at, {}) for at in range(2)])))
    control = next(one for one in listed if one.kind == b"fcTL")
    large = png.Chunk(b"fcTL", control.data[:4] + struct.pack(">II", 4_000, 4_000) + control.data[12:])
    for more, count in ((control, 400), (large, 1)):
        held = [*listed[:-1], *[more] * count, listed[-1]]
        with pytest.raises(RefusedFileError, match="does not hold the frames"):
            read("a.png", png.SIGNATURE + b"".join(one.written for one in held))


def broken(name: str) -> bytes:
    data = moving(name, [frame(at, {}) for at in range(5)])
    if name == "a.png":
        listed = list(png.chunks("", data))
        last = max(at for at, one in enumerate(listed) if one.kind == b"fcTL")
        return png.SIGNATURE + b"".join(one.written for one in [*listed[:last], listed[-1]])
    at = data.rindex(b"ANMF")
    return data[: at + 8] + b"\xff" * 6 + data[at + 14 :]


@pytest.mark.parametrize("name", ["a.png", "a.webp"])
def test_one_that_does_not_hold_its_frames_is_refused(name: str) -> None:
    with pytest.raises(RefusedFileError, match="broken"):
        read(name, broken(name))


def test_one_that_is_cut_says_so_without_words_of_programs() -> None:
    with pytest.raises(RefusedFileError, match="broken: what is in it does not fit together") as refused:
        read("a.webp", moving("a.webp", [frame(at, {}) for at in range(5)])[:900])
    assert "decoder" not in refused.value.reason


def test_too_many_frames_are_refused_before_they_are_looked_at() -> None:
    dot = [Image.new("RGB", (1, 1), (FOAM, SEA)[at % 2]) for at in range(2_001)]
    many = saved(dot[0], "WEBP", save_all=True, append_images=dot[1:], duration=20)
    with pytest.raises(RefusedFileError, match="frames"):
        read("a.webp", many)
    large = [Image.new("RGB", (3000, 3000), (100 * at, 0, 0)) for at in range(3)]
    with pytest.raises(RefusedFileError, match="27 million pixels together"):
        read("b.webp", saved(large[0], "WEBP", save_all=True, append_images=large[1:], duration=20, method=0))
