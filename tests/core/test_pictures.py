"""Pictures as files: read upright and in sRGB with their alpha, or refused; sampled; set on a board."""

from __future__ import annotations

import contextlib
import io
import struct
import zlib
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image, ImageCms

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.pictures.board import GAP, WIDTH, arrange, compose, on_white
from pavese.core.pictures.decode import decode_picture
from pavese.core.pictures.sample import Reach, around, sample

TEAL = (11, 94, 107)


def encoded(image: Image.Image, kind: str, **options: object) -> bytes:
    out = io.BytesIO()
    image.save(out, kind, **options)
    return out.getvalue()


def teal(mode: str = "RGB", size: tuple[int, int] = (24, 16)) -> Image.Image:
    return Image.new("RGB", size, TEAL).convert(mode)


@pytest.mark.parametrize("kind", ["PNG", "WEBP", "GIF", "AVIF", "JPEG", "TIFF"])
def test_every_format_is_read_whatever_it_is_called(kind: str) -> None:
    read = decode_picture("picture.dat", encoded(teal(), kind, **({"lossless": True} if kind == "WEBP" else {})))
    assert (read.width, read.height) == (24, 16)
    assert np.abs(read.pixels[8, 12, :3].astype(int) - TEAL).max() <= (
        0 if kind in ("PNG", "WEBP", "GIF", "TIFF") else 3
    )
    assert read.pixels[8, 12, 3] == 255


def test_orientation_alpha_and_palettes() -> None:
    sideways = teal(size=(30, 10))
    exif = Image.Exif()
    exif[0x0112] = 6
    read = decode_picture("a.jpg", encoded(sideways, "JPEG", exif=exif))
    assert (read.width, read.height) == (10, 30)
    lying = decode_picture("a.tif", encoded(sideways, "TIFF", tiffinfo={0x0112: 6}))
    assert (lying.width, lying.height) == (10, 30)
    half = Image.new("RGBA", (4, 4), (*TEAL, 128))
    assert tuple(decode_picture("a.png", encoded(half, "PNG")).pixels[0, 0]) == (*TEAL, 128)
    few = teal().quantize(4)
    assert tuple(decode_picture("a.png", encoded(few, "PNG", transparency=0)).pixels[0, 0])[3] == 0
    assert tuple(decode_picture("a.png", encoded(Image.new("L", (3, 3), 77), "PNG")).pixels[0, 0]) == (77, 77, 77, 255)


def test_profiles_are_converted_and_bad_ones_said() -> None:
    wide = ImageCms.ImageCmsProfile(ImageCms.createProfile("LAB")).tobytes()
    broken = decode_picture("a.png", encoded(teal(), "PNG", icc_profile=b"no profile at all"))
    assert broken.notes == ("Its color profile cannot be read and is left out.",)
    assert tuple(broken.pixels[0, 0, :3]) == TEAL
    odd = decode_picture("a.png", encoded(teal(), "PNG", icc_profile=wide))
    assert odd.notes == ("Its color profile cannot be read and is left out.",)
    srgb = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    assert tuple(decode_picture("a.png", encoded(teal(), "PNG", icc_profile=srgb)).pixels[0, 0, :3]) == TEAL


def sixteen_bits(width: int, height: int) -> bytes:
    """A 16-bit RGB PNG, by hand (PNG 1.2, sections 5 and 11)."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    row = b"\0" + b"".join(struct.pack(">H", level * 257) for level in TEAL) * width
    head = struct.pack(">IIBBBBB", width, height, 16, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(row * height)) + chunk(b"IEND", b"")
    )


def test_what_is_unusual_is_read_and_said() -> None:
    assert tuple(decode_picture("a.png", sixteen_bits(6, 4)).pixels[2, 3]) == (*TEAL, 255)
    deep = Image.fromarray(np.full((4, 4), 40_000, dtype=np.uint16))
    read = decode_picture("a.png", encoded(deep, "PNG"))
    assert read.notes == ("It has 16 bits a channel; 8 are kept.",)
    assert read.pixels[0, 0, 0] == round(40_000 / 65535 * 255)
    print_ = decode_picture("a.jpg", encoded(Image.new("CMYK", (8, 8), (0, 255, 255, 0)), "JPEG"))
    assert "converted naively" in print_.notes[0]
    assert print_.pixels[4, 4, 0] > 240 > 20 > print_.pixels[4, 4, 1]
    frames = [Image.new("P", (8, 8), 0), Image.new("P", (8, 8), 1)]
    for frame in frames:
        frame.putpalette([*TEAL, 255, 0, 0])
    moving = decode_picture("a.gif", encoded(frames[0], "GIF", save_all=True, append_images=frames[1:]))
    assert moving.notes == ("It is animated; its first frame is read.",)
    assert tuple(moving.pixels[0, 0, :3]) == TEAL


@pytest.mark.parametrize(
    ("data", "hint"),
    [
        (b"", "empty"),
        (b"hello", "no picture"),
        (b"\x89PNG\r\n\x1a\n", "no picture"),
        (encoded(teal(size=(400, 300)), "PNG")[:-400], "broken"),
        (encoded(teal(size=(400, 300)), "JPEG")[:600], "broken"),
        (encoded(Image.new("1", (20_001, 1)), "PNG"), "longer than"),
        (encoded(Image.new("1", (9000, 9000)), "PNG"), "million"),
    ],
)
def test_what_cannot_be_read_is_refused_with_the_reason(data: bytes, hint: str) -> None:
    with pytest.raises(RefusedFileError, match=hint) as refused:
        decode_picture("a.png", data)
    assert refused.value.name == "a.png"


@given(st.binary(max_size=200), st.sampled_from([b"", b"\x89PNG\r\n\x1a\n", b"\xff\xd8\xff\xe0", b"GIF89a", b"RIFF"]))
def test_bytes_at_random_are_read_or_refused(data: bytes, head: bytes) -> None:
    with contextlib.suppress(RefusedFileError):
        assert decode_picture("a", head + data).pixels.shape[2] == 4


def test_samples_are_means_in_linear_light_that_respect_alpha() -> None:
    pixels = np.zeros((9, 9, 4), dtype=np.uint8)
    pixels[..., 3] = 255
    pixels[:, 5:, :3] = 255
    assert sample(pixels, 0, 4) == Rgba(0, 0, 0)
    # Two of five columns are white: 40 % of the light, which sRGB writes as 170.
    assert sample(pixels, 4, 4, Reach.FIVE)[:3] == (170, 170, 170)
    pixels[:, 5:, 3] = 0
    assert sample(pixels, 4, 4, Reach.FIVE) == Rgba(0, 0, 0, 0.6)
    assert sample(pixels, -5, 99) == sample(pixels, 0, 8)
    grid = around(pixels, 0, 0, 5)
    assert grid[0] == [None] * 5
    assert grid[2] == [None, None, Rgb(0, 0, 0), Rgb(0, 0, 0), Rgb(0, 0, 0)]


shapes = st.lists(st.tuples(st.floats(0.2, 5), st.floats(0.4, 3)), min_size=1, max_size=30)


@given(shapes)
def test_a_board_is_justified_in_order_without_overlap(pictures: list[tuple[float, float]]) -> None:
    places, height = arrange(pictures)
    rows: dict[int, list] = {}
    for place, (aspect, _) in zip(places, pictures, strict=True):
        rows.setdefault(place.y, []).append(place)
        assert place.x >= GAP
        assert place.x + place.width <= WIDTH
        assert place.y + place.height <= height
        # The last of a row takes up what rounding left over.
        assert place.width / place.height == pytest.approx(aspect, rel=0.12, abs=2.5 / place.height)
    assert list(rows) == sorted(rows)
    for at, row in enumerate(rows.values()):
        assert len({place.height for place in row}) == 1
        assert all(b.x >= a.x + a.width + GAP - 1 for a, b in pairwise(row))
        if at < len(rows) - 1 and row[0].height < 620:
            assert row[-1].x + row[-1].width == WIDTH - GAP


def test_a_board_shows_its_pictures_where_they_lie() -> None:
    colors = [(11, 94, 107), (210, 69, 45), (239, 178, 58)]
    tiles = [np.broadcast_to(np.array([*color, 255], np.uint8), (60, 90, 4)).copy() for color in colors]
    places, height = arrange([(1.5, 1)] * 3)
    board = compose(tiles, places, height)
    for place, color in zip(places, colors, strict=True):
        assert tuple(board[place.y + place.height // 2, place.x + place.width // 2]) == (*color, 255)
    assert board[0, 0, 3] == 0
    assert tuple(on_white(board)[0, 0]) == (255, 255, 255, 255)
