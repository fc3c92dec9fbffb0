"""Pictures with 16 bits a channel: what a plan changes in them keeps these, and what would not is said."""

from __future__ import annotations

import io
import struct
import zlib
from typing import Any

import numpy as np
import numpy.typing as npt
import pytest
import tifffile
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra import numpy as arrays
from PIL import Image

from pavese.core.color.srgb import Rgb
from pavese.core.formats import read
from pavese.core.formats.picture.container import IN_EIGHT_BITS, IN_SIXTEEN_BITS
from pavese.core.formats.picture.deep import deep_values, packed
from pavese.core.formats.picture.document import PictureDocument
from pavese.core.formats.picture.png import Chunk, chunks
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.pixels import PictureGround, WithoutMetadata
from pavese.core.recolor.recoloring import Recoloring

Deep = npt.NDArray[np.uint16]
_HEAD = struct.Struct(">IIBBBBB")
_KINDS = {1: 0, 3: 2, 4: 6}
_SIGNATURE = b"\x89PNG\r\n\x1a\n"
WHITE, SEA = Rgb(255, 255, 255), Rgb(47, 62, 158)
NEW = {WHITE: Rgb(238, 240, 236), SEA: Rgb(11, 94, 107)}


def file(values: Deep, *more: Chunk) -> bytes:
    """A PNG whose rows are filtered by nothing."""
    rows, columns, channels = values.shape
    head = Chunk(b"IHDR", _HEAD.pack(columns, rows, 16, _KINDS[channels], 0, 0, 0))
    lines = np.column_stack([np.zeros(rows, dtype=np.uint8), values.astype(">u2").view(np.uint8).reshape(rows, -1)])
    all_ = [head, *more, Chunk(b"IDAT", zlib.compress(lines.tobytes())), Chunk(b"IEND", b"")]
    return _SIGNATURE + b"".join(one.written for one in all_)


def values(data: bytes) -> Deep:
    """All that a PNG of 16 bits holds."""
    upper = Image.open(io.BytesIO(data))
    found = deep_values(Image.open(io.BytesIO(data)), np.asarray(upper.convert(upper.mode)))
    assert found is not None
    return found


def harbor(colors: dict[Rgb, Rgb], fine: int = 0) -> Deep:
    """A sea under a sky with a soft edge, in 16 bits; `fine` is by how much both run within a level of eight."""
    sky, sea = (np.array(colors.get(one, one), dtype=np.float64) * 257 for one in (WHITE, SEA))
    part = np.clip((np.arange(120) - 58) / 4, 0, 1)[:, None, None]
    made = np.repeat((1 - part) * sky + part * sea, 160, axis=1)
    run = np.linspace(-fine, fine, 160)[None, :, None]
    return np.clip(np.rint(made + run), 0, 65535).astype(np.uint16)


def changed(document: PictureDocument) -> Changes:
    return Changes(
        Recoloring(
            {
                paint: NEW[min(NEW, key=lambda one: max(abs(a - b) for a, b in zip(one, paint.rgb, strict=True)))]
                for paint in document.paints
            }
        )
    )


def opened(data: bytes) -> PictureDocument:
    document = read("a.png", data)
    assert isinstance(document, PictureDocument)
    return document


@given(
    arrays.arrays(np.uint16, st.tuples(st.integers(1, 300), st.integers(1, 12), st.sampled_from((1, 3, 4)))),
)
@settings(max_examples=25)
def test_what_is_packed_is_read_as_it_was(made: Deep) -> None:
    rows, columns, channels = made.shape
    head = Chunk(b"IHDR", _HEAD.pack(columns, rows, 16, _KINDS[channels], 0, 0, 0))
    data = _SIGNATURE + b"".join(one.written for one in (head, Chunk(b"IDAT", packed(made)), Chunk(b"IEND", b"")))
    assert (values(data) == made).all()
    assert (values(file(made)) == made).all()


def test_it_is_packed_about_as_well_as_pictures_are() -> None:
    made = harbor({}, 200)
    eight = io.BytesIO()
    Image.fromarray((made >> 8).astype(np.uint8)).save(eight, "PNG")
    assert len(packed(made)) < len(zlib.compress(made.astype(">u2").tobytes())) / 2


@pytest.mark.parametrize("alpha", [False, True])
def test_paints_become_others_in_all_of_their_bits(alpha: bool) -> None:
    told = Chunk(b"tEXt", b"Title\0Evening")
    clear = np.linspace(65535, 3000, 160).astype(np.uint16)[None, :, None].repeat(120, axis=0)
    came, drawn = ([one, clear] if alpha else [one] for one in (harbor({}), harbor(NEW)))
    data = file(np.concatenate(came, axis=2), told)
    document = opened(data)
    assert document.inventory().remarks[:1] == (IN_SIXTEEN_BITS,)
    assert document.write({}) == data
    made = document.write(changed(document))
    got, want = values(made).astype(np.int64), np.concatenate(drawn, axis=2).astype(np.int64)
    assert (got[:57] == want[:57]).all()
    assert (got[63:] == want[63:]).all()
    # Half a level of eight, where its upper bytes tell of what it is mixed.
    assert np.abs(got - want).max() <= 257
    assert told in list(chunks("", made))
    bare = document.write(Changes(changed(document).recoloring, acts=(WithoutMetadata(),)))
    assert (values(bare) == values(made)).all()
    assert told not in list(chunks("", bare))


def test_what_is_finer_than_a_level_stays() -> None:
    made = values(opened(file(harbor({}, 100))).write(changed(opened(file(harbor({}, 100))))))
    sky = made[10, :, 0].astype(np.int64)
    assert len(np.unique(sky)) > 50
    assert (np.diff(sky) >= 0).all()
    assert abs(int(np.median(sky)) - 238 * 257) <= 100


def test_grey_stays_grey_as_long_as_it_is() -> None:
    grey = harbor({SEA: Rgb(40, 40, 40)})[..., :1]
    document = opened(file(np.ascontiguousarray(grey)))
    darker = {paint: Rgb(*(max(one - 20, 0) for one in paint.rgb)) for paint in document.paints}
    assert values(document.write(Changes(Recoloring(darker)))).shape[2] == 1
    colored = values(document.write(changed(document)))
    assert colored.shape[2] == 3
    assert tuple(colored[0, 0]) == tuple(257 * one for one in NEW[WHITE])


@pytest.mark.parametrize(("order", "packing"), [("<", None), (">", None), ("<", "zlib"), (">", "zlib")])
@pytest.mark.parametrize("channels", [1, 3, 4])
def test_tiffs_keep_them_as_well_and_what_they_say(order: Any, packing: Any, channels: int) -> None:
    def tiff(colors: dict[Rgb, Rgb]) -> Deep:
        made = harbor(colors)
        if channels == 4:
            return np.concatenate([made, np.full_like(made[..., :1], 40_000)], axis=2)
        return made[..., :channels]

    target = io.BytesIO()
    tifffile.imwrite(
        target,
        tiff({}) if channels > 1 else tiff({SEA: Rgb(40, 40, 40)})[..., 0],
        photometric="rgb" if channels > 1 else "minisblack",
        extrasamples=["unassalpha"] if channels == 4 else None,
        byteorder=order,
        compression=packing,
        resolution=(300, 300),
        resolutionunit="INCH",
        description="Evening",
        software="Lantern",
        extratags=[(315, "s", 5, "Maren", True)],
        metadata=None,
    )
    document = read("a.tif", target.getvalue())
    assert isinstance(document, PictureDocument)
    assert IN_SIXTEEN_BITS in document.inventory().remarks
    assert document.write({}) == target.getvalue()
    made = document.write(changed(document))
    with tifffile.TiffFile(io.BytesIO(made)) as opened_:
        [page] = opened_.pages
        got = page.asarray().astype(np.int64)
        assert page.compression == (1 if packing is None else 8)
    want = tiff(NEW).astype(np.int64) if channels > 1 else harbor(NEW).astype(np.int64)
    assert (got[:57] == want[:57]).all()
    assert (got[63:] == want[63:]).all()
    assert np.abs(got - want).max() <= 257
    with Image.open(io.BytesIO(made)) as seen:
        told = {tag: seen.tag_v2[tag] for tag in (270, 305, 315)}  # type: ignore[attr-defined]
        assert told == {270: "Evening", 305: "Lantern", 315: "Maren"}
        assert seen.info["dpi"] == (300, 300)


def test_what_is_given_more_than_colors_or_has_a_clear_color_is_handed_over_with_eight_bits() -> None:
    boxed = harbor({})
    boxed[:] = boxed[0, 0]
    boxed[40:90, 50:110] = harbor({})[-1, 0]
    document = opened(file(boxed))
    act = PictureGround(color="fog.base")
    made = document.write(Changes(acts=(act,), resolved={"fog.base": NEW[WHITE]}))
    assert next(chunks("", made)).data[8] == 8
    keyed = opened(file(harbor({}), Chunk(b"tRNS", struct.pack(">HHH", 65535, 65535, 65535))))
    assert keyed.inventory().remarks[:1] == (IN_EIGHT_BITS,)
    assert next(chunks("", keyed.write(changed(keyed)))).data[8] == 8
