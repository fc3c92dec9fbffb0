"""A picture file to pixels of sRGB: upright, its color profile respected, its alpha kept.

Orientation: Exif 2.32, tag 0x0112. Color: the embedded ICC profile is converted to sRGB with the relative colorimetric
intent (ICC.1:2010); a file without one is sRGB already, and CMYK without one is converted naively.
"""

from __future__ import annotations

import io
import warnings
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageCms, ImageOps, UnidentifiedImageError

from pavese.core.color.extract import Pixels
from pavese.core.errors import RefusedFileError

#: Formats that are read, by Pillow's names; the file's content decides, not its ending.
FORMATS = ("PNG", "JPEG", "WEBP", "AVIF", "GIF", "TIFF")
ENDINGS = (".png", ".jpg", ".jpeg", ".webp", ".avif", ".gif", ".tif", ".tiff", ".svg")
LARGEST_BYTES = 40 * 1024 * 1024
#: Largest picture; a camera's largest at present has about 61 million pixels.
LARGEST_PIXELS = 64_000_000
LONGEST_SIDE = 20_000

#: Rows that are converted at a time.
_STRIP = 128
_INTENT = ImageCms.Intent.RELATIVE_COLORIMETRIC


@dataclass(frozen=True)
class Decoded:
    """A picture of shape (rows, columns, 4), and what had to be done to read it, in sentences."""

    pixels: Pixels
    notes: tuple[str, ...]

    @property
    def width(self) -> int:
        """Columns."""
        return int(self.pixels.shape[1])

    @property
    def height(self) -> int:
        """Rows."""
        return int(self.pixels.shape[0])


#: Gives the place for a picture of so many rows and columns: an array of shape (rows, columns, 4).
Make = Callable[[int, int], Pixels]


def _in_memory(rows: int, columns: int) -> Pixels:
    return np.empty((rows, columns, 4), dtype=np.uint8)


def decode_picture(name: str, data: bytes, make: Make = _in_memory) -> Decoded:
    """Reads a picture, some rows at a time, into what `make` gives.

    Raises RefusedFileError for what is none, is broken or cut short, or is beyond the bounds above.
    """
    if not data:
        raise RefusedFileError(name, "the file is empty.")
    if len(data) > LARGEST_BYTES:
        raise RefusedFileError(name, f"the file is larger than {LARGEST_BYTES // (1024 * 1024)} MB.")
    try:
        with warnings.catch_warnings():
            # The bound on pixels is ours, checked below before anything is decoded.
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(data), formats=FORMATS) as image:
                _check(name, image)
                return _decoded(image, make)
    except UnidentifiedImageError as error:
        kinds = "PNG, JPEG, WebP, AVIF, GIF, TIFF or SVG"
        raise RefusedFileError(name, f"this is no picture that can be read here ({kinds}).") from error
    except Image.DecompressionBombError as error:
        raise RefusedFileError(name, _too_large("more")) from error
    except (OSError, SyntaxError, ValueError, EOFError, OverflowError, RuntimeError, KeyError, TypeError) as error:
        raise RefusedFileError(name, f"the picture is broken: {plainly(error)}.") from error


def plainly(error: Exception) -> str:
    """What a person can make of the library's words."""
    words = (str(error).splitlines() or [""])[0]
    if "truncated" in words.lower() or isinstance(error, EOFError):
        return "it is cut short"
    inner = any(one in words for one in (".", "_", "decoder", "encoder"))
    return "what is in it does not fit together" if inner else words[:120]


def _check(name: str, image: Image.Image) -> None:
    width, height = image.size
    if width * height > LARGEST_PIXELS:
        raise RefusedFileError(name, _too_large(f"{width * height / 1e6:.0f}"))
    if max(width, height) > LONGEST_SIDE:
        raise RefusedFileError(name, f"a side of {max(width, height):,} pixels is longer than {LONGEST_SIDE:,}.")
    if not width or not height:
        raise RefusedFileError(name, "the picture has no pixels.")


def _too_large(have: str) -> str:
    return f"it has {have} million pixels; at most {LARGEST_PIXELS // 1_000_000} million are read."


def _decoded(image: Image.Image, make: Make) -> Decoded:
    notes: list[str] = []
    if getattr(image, "is_animated", False):
        notes.append("It is animated; its first frame is read.")
    image.seek(0)
    # A TIFF turns itself, and says so no longer.
    image.load()
    ImageOps.exif_transpose(image, in_place=True)
    columns, rows = image.size
    convert = _converter(image, notes)
    pixels = make(rows, columns)
    for top in range(0, rows, _STRIP):
        strip = image.crop((0, top, columns, min(top + _STRIP, rows)))
        pixels[top : top + _STRIP] = np.asarray(convert(strip).convert("RGBA"))
    return Decoded(pixels, tuple(notes))


def _converter(image: Image.Image, notes: list[str]) -> Callable[[Image.Image], Image.Image]:
    """What brings a strip of the picture to sRGB, as RGB or with its alpha; what has to be said of it is noted."""
    profile = image.info.get("icc_profile")
    clear = image.info.get("transparency") if image.mode in ("L", "RGB") else None
    if image.mode in ("I;16", "I;16B", "I;16L", "I", "F"):
        notes.append("It has 16 bits a channel; 8 are kept.")
        top = 65535.0 if float(image.getextrema()[1]) > 255 else 255.0  # type: ignore[arg-type]
        return lambda strip: _eight_bits(strip, top)
    mode = image.mode
    if mode in ("P", "PA", "1", "LA"):
        mode = "RGBA" if "transparency" in image.info or mode in ("PA", "LA") else "RGB"
    transform = _transform(profile, mode, notes) if profile and mode in ("RGB", "RGBA", "CMYK", "L") else None
    if mode == "CMYK" and transform is None:
        notes.append("It is in CMYK without a profile; its colors are converted naively and are a hint only.")

    def converted(strip: Image.Image) -> Image.Image:
        if strip.mode != mode:
            strip = strip.convert(mode)
        if transform is not None:
            strip = _by_profile(strip, transform)
        if clear is not None and strip.mode != "RGBA":
            strip.info["transparency"] = clear
        return strip

    return converted


def _eight_bits(image: Image.Image, top: float) -> Image.Image:
    values = np.asarray(image, dtype=np.float64)
    return Image.fromarray(np.rint(np.clip(values / top, 0, 1) * 255).astype(np.uint8), "L")


def _transform(profile: bytes, mode: str, notes: list[str]) -> ImageCms.ImageCmsTransform | None:
    try:
        source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
        # The profile's name tells sRGB apart cheaply; a picture that is in it already needs no conversion.
        if "sRGB" in ImageCms.getProfileDescription(source) and mode in ("RGB", "RGBA"):
            return None
        opaque = "RGB" if mode == "RGBA" else mode
        return ImageCms.buildTransform(source, ImageCms.createProfile("sRGB"), opaque, "RGB", renderingIntent=_INTENT)
    except (ImageCms.PyCMSError, OSError, ValueError):
        notes.append("Its color profile cannot be read and is left out.")
        return None


def _by_profile(image: Image.Image, transform: ImageCms.ImageCmsTransform) -> Image.Image:
    alpha = image.getchannel("A") if image.mode == "RGBA" else None
    converted = ImageCms.applyTransform(image.convert("RGB") if alpha is not None else image, transform)
    assert converted is not None
    if alpha is not None:
        converted.putalpha(alpha)
    return converted
