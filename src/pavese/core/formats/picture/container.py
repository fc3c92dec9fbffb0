"""What holds the pixels of a picture, whatever its format: opened for its pixels, written anew with others."""

from __future__ import annotations

import io
import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any, Protocol, TypeVar, runtime_checkable

import numpy as np
import numpy.typing as npt
from PIL import Image, UnidentifiedImageError

from pavese.core import limits
from pavese.core.errors import RefusedFileError
from pavese.core.pictures.decode import plainly
from pavese.core.pictures.large import smaller
from pavese.core.pictures.mixture import Deep, Levels, codes_of, colors_of
from pavese.core.pictures.profile import Profile
from pavese.core.pictures.regions import LOSSLESS, LOSSY, PALETTE, Fineness
from pavese.core.pictures.ringing import was_coded
from pavese.core.recolor.pixels import TELLS

_Value = TypeVar("_Value", bound="np.generic[Any]")

#: Exif 2.32, tags: how a picture is turned for being seen, where it was taken, and with what.
_ORIENTATION, _PLACE, _DEVICE = 0x0112, 0x8825, (0x010F, 0x0110)
#: What stands before such data in a JPEG.
EXIF = b"Exif\0\0"
#: What is said of one that has more bits.
IN_EIGHT_BITS = "It has 16 bits a channel; recolored it is handed over with 8."
#: And where its paints keep them.
IN_SIXTEEN_BITS = (
    "It has 16 bits a channel, and keeps them; with tones, things, parts, a headline or another ground it is handed "
    "over with 8."
)
#: Rows that are read at a time.
_ROWS = 512
#: By the value of the first of them.
_TURNS = {
    2: Image.Transpose.FLIP_LEFT_RIGHT,
    3: Image.Transpose.ROTATE_180,
    4: Image.Transpose.FLIP_TOP_BOTTOM,
    5: Image.Transpose.TRANSPOSE,
    6: Image.Transpose.ROTATE_270,
    7: Image.Transpose.TRANSVERSE,
    8: Image.Transpose.ROTATE_90,
}


class Container(Protocol):
    """A picture file. `pixels` are of shape (rows, columns, 3), or with alpha (rows, columns, 4), in its own values and
    as they lie in it; frames stand below each other, and the first `seen_rows` are what is seen of it as a still.
    `fineness` is how exact they are, `profile` what they mean, `turn` how they are turned to be seen (by Exif), and
    `remarks` what has to be said of what becomes of the file."""

    pixels: Levels
    seen_rows: int
    fineness: Fineness
    profile: Profile
    turn: int
    remarks: tuple[str, ...]
    #: Whether it can be clear in parts.
    clears: bool
    #: The side of the squares that are coded each by itself; 0 where a pixel may tell on any other.
    square: int

    def written(self, colors: Levels, alpha: Levels | None = None, by_place: bool = False) -> bytes:
        """The file with other colors, shape (rows, columns, 3), and another alpha (rows, columns) where its format has
        such; all else as it was. Of colors that go `by_place`, equal ones can become different."""

    def bare(self, data: bytes) -> bytes:
        """A file of its format without what it says of itself, but for what its colors mean and how it is turned."""


def fineness_of(container: Container, larger_by: int = 1) -> Fineness:
    """How exact the values of a picture are: those of an exact format may have been coded with loss, and so many times
    made larger, before."""
    if container.fineness is not LOSSLESS:
        return container.fineness
    sizes = {1, larger_by}
    return LOSSY if any(was_coded(smaller(container.pixels, by)) for by in sizes) else LOSSLESS


@runtime_checkable
class DeepContainer(Container, Protocol):
    """One whose colors have 16 bits, of which `pixels` has the upper ones: `deep`, shape (rows, columns, 3)."""

    deep: Deep

    def written_deep(self, colors: Deep) -> bytes:
        """The file with other colors, all else as it was."""


@contextmanager
def opened(name: str, data: bytes, kind: str) -> Iterator[Image.Image]:
    """A picture of a kind (by Pillow's name) within the bounds, not decoded yet. Raises RefusedFileError, also for what
    turns out while it is used."""
    if not data:
        raise RefusedFileError(name, "the file is empty.")
    try:
        with warnings.catch_warnings():
            # The bound on pixels is ours, and damaged Exif data does no harm.
            warnings.simplefilter("ignore")
            with Image.open(io.BytesIO(data), formats=(kind,)) as image:
                _check(name, image)
                yield image
    except UnidentifiedImageError as error:
        raise RefusedFileError(name, f"it is no {kind} picture, or its beginning is broken.") from error
    except Image.DecompressionBombError as error:
        raise RefusedFileError(name, _too_large("more")) from error
    except (
        OSError,
        SyntaxError,
        ValueError,
        EOFError,
        OverflowError,
        IndexError,
        KeyError,
        TypeError,
        RuntimeError,
    ) as error:
        raise RefusedFileError(name, f"the picture is broken: {plainly(error)}.") from error


def _check(name: str, image: Image.Image) -> None:
    width, height = image.size
    if not width or not height:
        raise RefusedFileError(name, "the picture has no pixels.")
    if width * height > limits.LARGE_PICTURE_PIXELS:
        raise RefusedFileError(name, _too_large(f"{width * height / 1e6:.0f}"))


def _too_large(have: str) -> str:
    return f"it has {have} million pixels; at most {limits.LARGE_PICTURE_PIXELS // 1_000_000} million are recolored."


def turned(pixels: npt.NDArray[_Value], turn: int) -> npt.NDArray[_Value]:
    """A picture, or a mask of it, as it is seen."""
    if turn not in _TURNS:
        return pixels
    return np.asarray(Image.fromarray(pixels).transpose(_TURNS[turn]), dtype=pixels.dtype)


def unturned(pixels: npt.NDArray[_Value], turn: int) -> npt.NDArray[_Value]:
    """A picture, or a mask of it, that is seen so as it lies in its file."""
    back = {6: 8, 8: 6}.get(turn, turn)
    return turned(pixels, back)


def turn_of(image: Image.Image) -> int:
    """How a picture is turned to be seen."""
    found = image.getexif().get(_ORIENTATION, 1)
    return found if isinstance(found, int) else 1


def remarks_on(image: Image.Image) -> Iterator[str]:
    """What has to be said of what a picture tells beside its pixels."""
    exif = image.getexif()
    if exif.get_ifd(_PLACE) or any(exif.get(tag) for tag in _DEVICE):
        yield TELLS


def without_small_picture(exif: bytes) -> bytes:
    """Exif data without the small picture in the old colors, and without what stands before it in a JPEG."""
    found = Image.Exif()
    found.load(exif)
    return found.tobytes().removeprefix(EXIF)


def only_turned(turn: int) -> bytes:
    """Exif data that says how a picture is turned, and nothing else; nothing for one that is upright."""
    if turn == 1:
        return b""
    found = Image.Exif()
    found[_ORIENTATION] = turn
    return found.tobytes().removeprefix(EXIF)


def pixels_of(image: Image.Image) -> Levels:
    """The pixels of one that holds no more than 8 bits of each, with alpha where it has such."""
    clear = image.mode in ("LA", "PA", "RGBA", "La", "RGBa") or "transparency" in image.info
    mode = "RGBA" if clear else "RGB"
    made = np.empty((image.height, image.width, len(mode)), dtype=np.uint8)
    # A few rows at a time, so that a large one is not held three times.
    for top in range(0, image.height, _ROWS):
        bottom = min(top + _ROWS, image.height)
        made[top:bottom] = np.asarray(image.crop((0, top, image.width, bottom)).convert(mode))
    return made


def alpha_of(pixels: Levels) -> Levels | None:
    """The alpha of pixels, shape (rows, columns); None where they have none."""
    return pixels[..., 3] if pixels.shape[2] == 4 else None


def with_alpha(colors: Levels, alpha: Levels | None) -> Levels:
    """Colors (rows, columns, 3) with an alpha, if there is one."""
    return colors if alpha is None else np.dstack([colors, alpha])


def keeps_palette(fineness: Fineness, alpha: Levels | None, by_place: bool) -> bool:
    """Whether a picture of such values that gets an `alpha`, or colors that go `by_place`, is written with the palette
    that it came with, one color an entry."""
    return fineness is PALETTE and alpha is None and not by_place


def exchanged_codes(pixels: Levels, colors: Levels, codes: Levels) -> Levels:
    """What colors, shape (n, 3), become that were exchanged in a picture: of each what most became of its `pixels` that
    are seen, shape (rows, columns, 3 or 4), whose `colors` are others now, shape (rows, columns, 3). One that is not
    seen in it goes along with the one nearest to it."""
    alpha = alpha_of(pixels)
    shown = np.ones(colors.shape[:2], dtype=bool) if alpha is None else alpha > 0
    if not shown.any():
        return codes
    old, new, wanted = (codes_of(each) for each in (pixels[shown][:, :3], colors[shown], codes))
    both, counts = np.unique(old.astype(np.int64) << 24 | new, return_counts=True)
    most = np.lexsort((both, -counts))
    seen, first = np.unique(both[most] >> 24, return_index=True)
    became = both[most][first] & 0xFFFFFF
    at = np.minimum(np.searchsorted(seen, wanted), len(seen) - 1)
    hit = seen[at] == wanted
    made = codes.copy()
    made[hit] = colors_of(became[at[hit]])
    had = colors_of(seen).astype(np.int16)
    for one in np.flatnonzero(~hit):
        apart = np.abs(had - codes[one]).max(axis=1)
        near = int(apart.argmin())
        if apart[near] <= _NEAR:
            made[one] = np.clip(codes[one] + colors_of(became[near : near + 1])[0].astype(np.int16) - had[near], 0, 255)
    return made


def by_entries(pixels: Levels, colors: Levels) -> Levels:
    """Colors, shape (rows, columns, 3), as a palette holds them: equal `pixels`, shape (rows, columns, 3 or 4), stay
    equal, whatever each would become by itself."""
    entries, at = np.unique(codes_of(pixels[..., :3].reshape(-1, 3)), return_inverse=True)
    return exchanged_codes(pixels, colors, colors_of(entries))[at].reshape(colors.shape)


#: How far a color that is not seen may be from the one it goes along with, in levels.
_NEAR = 12
