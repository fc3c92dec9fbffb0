"""TIFF (6.0), of one page or several: pixels are packed anew as they were packed; profile, density, and what its own
tags say stay."""

from __future__ import annotations

import io
from typing import Any, NamedTuple

import numpy as np
from PIL import Image, TiffImagePlugin

from pavese.core import limits
from pavese.core.errors import RefusedFileError
from pavese.core.formats.picture.container import (
    IN_EIGHT_BITS,
    IN_SIXTEEN_BITS,
    Container,
    alpha_of,
    opened,
    pixels_of,
    remarks_on,
    turn_of,
    unturned,
    with_alpha,
)
from pavese.core.formats.picture.deep import deep_values, kept_deep
from pavese.core.formats.picture.frames import check_frames, stacked, with_all
from pavese.core.pictures.decode import decode_picture
from pavese.core.pictures.mixture import Deep, Levels
from pavese.core.pictures.profile import Profile
from pavese.core.pictures.regions import LOSSLESS, LOSSY
from pavese.core.recolor.pixels import PAGED

#: How one begins (section 2), in either order of bytes.
SIGNATURES = (b"II*\0", b"MM\0*")
#: Tags (section 8, and those of Photoshop and XMP) that say something of a picture, and not how its pixels lie.
_TELLING = (270, 271, 272, 305, 306, 315, 316, 700, 33432)
#: The tag of its bits, and of how it is turned.
_BITS, _ORIENTATION = 258, 274
_PLAIN = frozenset(("1", "L", "LA", "P", "PA", "RGB", "RGBA"))
#: How pixels are packed of what was packed as only black and white can be.
_PACKED = "tiff_lzw"
#: Tags that have a name of their own where they are written.
_NAMED = {270: "description", 305: "software", 306: "datetime"}
_KEPT_PACKING = frozenset(("raw", "tiff_lzw", "tiff_adobe_deflate", "packbits", "jpeg"))


class _Page(NamedTuple):
    """A page: its pixels as they lie in it, shape (rows, columns, 3 or 4), and all that they hold where these are 16
    bits that are kept; how it is turned, the tags it says something by, how it is saved, the bytes of its profile, and
    what is to be said of it."""

    pixels: Levels
    values: Deep | None
    turn: int
    told: dict[int, Any]
    options: dict[str, Any]
    packing: str
    profile: bytes | None
    said: tuple[str, ...]


def tiff_picture(name: str, data: bytes) -> Container:
    """A TIFF of one or several pages. Raises RefusedFileError."""
    return kept_deep(TiffPicture(name, data))


class TiffPicture:
    """See `container.Container`."""

    clears = True
    square = 0

    def __init__(self, name: str, data: bytes) -> None:
        with opened(name, data, "TIFF") as image:
            assert isinstance(image, TiffImagePlugin.TiffImageFile)
            count, pixels = image.n_frames, 0
            self._pages: list[_Page] = []
            for number in range(count):
                image.seek(number)
                pixels += image.width * image.height
                if count > 1:
                    check_frames(name, count, pixels)
                self._pages.append(_page(name, image, data if count == 1 else None))
        first = self._pages[0]
        if any((page.profile, page.turn) != (first.profile, first.turn) for page in self._pages):
            raise RefusedFileError(name, "its pages have different color profiles, or are turned differently.")
        self.profile, self.turn = Profile(first.profile), first.turn
        self.fineness = LOSSY if any(page.packing == "jpeg" for page in self._pages) else LOSSLESS
        self.values = first.values if len(self._pages) == 1 else None
        said = dict.fromkeys(words for page in self._pages for words in page.said)
        if len(self._pages) == 1:
            self.pixels = first.pixels
            self.seen_rows = self.pixels.shape[0]
        else:
            self._stack = stacked([with_all(page.pixels) for page in self._pages])
            self.pixels, self.seen_rows = self._stack.pixels, self._stack.first_rows
            said[PAGED] = None
        self.remarks = tuple(said)

    def written(self, colors: Levels, alpha: Levels | None = None, by_place: bool = False) -> bytes:
        """See `container.Container`; no more than colors is changed in one of several pages."""
        target = io.BytesIO()
        if len(self._pages) == 1:
            _save(with_alpha(colors, alpha_of(self.pixels) if alpha is None else alpha), self._pages[0], target)
            return target.getvalue()
        with TiffImagePlugin.AppendingTiffWriter(target, True) as writer:
            for page, made in zip(self._pages, self._stack.each(colors), strict=True):
                _save(made[..., : page.pixels.shape[2]], page, writer)
                writer.newFrame()
            return target.getvalue()

    def with_values(self, values: Deep) -> bytes:
        """See `deep.Holding`."""
        return _saved_deep(values, self._pages[0])

    def bare(self, data: bytes) -> bytes:
        return data


def _page(name: str, image: TiffImagePlugin.TiffImageFile, data: bytes | None) -> _Page:
    """A page of an opened file; `data` is the file, where it is its only one."""
    # Reading the pixels turns them, and takes the tag away that says so.
    turn = turn_of(image)
    told = {tag: image.tag_v2[tag] for tag in _TELLING if tag in image.tag_v2}
    told |= {_ORIENTATION: turn} if turn != 1 else {}
    image.load()
    said = list(remarks_on(image))
    options = {key: image.info[key] for key in ("dpi", "icc_profile") if image.info.get(key)}
    profile = options.get("icc_profile")
    packing = str(image.info.get("compression", "raw"))
    if image.mode == "CMYK" and data is not None:
        pixels = decode_picture(name, data).pixels[..., :3]
        profile, turn = None, 1
        options.pop("icc_profile", None)
        told.pop(_ORIENTATION, None)
        said.append("It is in CMYK; recolored it is handed over in RGB (sRGB).")
    elif image.mode in _PLAIN:
        pixels = unturned(pixels_of(image), turn)
    elif image.mode in ("I;16", "I;16B", "I;16L"):
        pixels = unturned(pixels_of(Image.fromarray((np.asarray(image) >> 8).astype(np.uint8))), turn)
    else:
        raise RefusedFileError(name, f"its pixels are of a kind ({image.mode}) that is not recolored.")
    values = None
    if max(image.tag_v2.get(_BITS, (8,))) > 8:
        if data is not None and turn == 1 and pixels.shape[0] * pixels.shape[1] <= limits.PICTURE_PIXELS:
            with opened(name, data, "TIFF") as again:
                values = deep_values(again, pixels)
        said.append(IN_EIGHT_BITS if values is None else IN_SIXTEEN_BITS)
    return _Page(
        pixels, values, turn, told, options, packing if packing in _KEPT_PACKING else _PACKED, profile, tuple(said)
    )


def _saved_deep(values: Deep, page: _Page) -> bytes:
    """Values of 16 bits saved as a page was; packed without loss where it was."""
    import tifffile

    target = io.BytesIO()
    channels = values.shape[2]
    said = {tag: value if isinstance(value, bytes) else str(value) for tag, value in page.told.items()}
    named: dict[str, Any] = {"software": False}
    named |= {name: said.pop(tag) for tag, name in _NAMED.items() if tag in said}
    across, down = (float(one) for one in page.options.get("dpi", (0, 0)))
    tifffile.imwrite(
        target,
        values if channels > 1 else values[..., 0],
        photometric="rgb" if channels > 1 else "minisblack",
        extrasamples=["unassalpha"] if channels == 4 else None,
        compression=None if page.packing == "raw" else "zlib",
        predictor=page.packing != "raw",
        iccprofile=page.profile,
        resolution=(across, down) if across and down else None,
        resolutionunit="INCH" if across and down else None,
        extratags=[(tag, "B" if isinstance(one, bytes) else "s", len(one), one, True) for tag, one in said.items()],
        metadata=None,
        **named,
    )
    return target.getvalue()


def _save(pixels: Levels, page: _Page, target: Any) -> None:
    """Saves pixels as a page was."""
    packing = page.packing if page.packing != "raw" else None
    image = Image.fromarray(np.ascontiguousarray(pixels))
    image.save(target, "TIFF", compression=packing, tiffinfo=page.told, **page.options)
