"""A picture file to pixels of sRGB: upright, its color profile respected, its alpha kept.

Orientation: Exif 2.32, tag 0x0112. Color: the embedded ICC profile is converted to sRGB with the relative colorimetric
intent (ICC.1:2010); a file without one is sRGB already, and CMYK without one is converted naively.
"""

from __future__ import annotations

import io
import warnings
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageCms, ImageOps, UnidentifiedImageError

from pavese.core.color.extract import Pixels
from pavese.core.errors import RefusedFileError

#: Formats that are read, by Pillow's names; the file's content decides, not its ending.
FORMATS = ("PNG", "JPEG", "WEBP", "AVIF", "GIF")
ENDINGS = (".png", ".jpg", ".jpeg", ".webp", ".avif", ".gif", ".svg")
LARGEST_BYTES = 40 * 1024 * 1024
#: Largest picture; a camera's largest at present has about 61 million pixels.
LARGEST_PIXELS = 64_000_000
LONGEST_SIDE = 20_000

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


def decode_picture(name: str, data: bytes) -> Decoded:
    """Reads a picture. Raises RefusedFileError for what is none, is broken, or is beyond the bounds above."""
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
                return _decoded(image)
    except UnidentifiedImageError as error:
        kinds = "PNG, JPEG, WebP, AVIF, GIF or SVG"
        raise RefusedFileError(name, f"this is no picture that can be read here ({kinds}).") from error
    except Image.DecompressionBombError as error:
        raise RefusedFileError(name, _too_large("more")) from error
    except (OSError, SyntaxError, ValueError, EOFError, OverflowError) as error:
        raise RefusedFileError(name, f"the picture is broken: {str(error).splitlines()[0][:120]}.") from error


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


def _decoded(image: Image.Image) -> Decoded:
    notes: list[str] = []
    if getattr(image, "is_animated", False):
        notes.append("It is animated; its first frame is read.")
    image.seek(0)
    profile = image.info.get("icc_profile")
    clear = image.info.get("transparency") if image.mode in ("L", "RGB") else None
    upright = ImageOps.exif_transpose(image)
    if upright.mode in ("I;16", "I;16B", "I;16L", "I", "F"):
        notes.append("It has 16 bits a channel; 8 are kept.")
        upright = _eight_bits(upright)
        profile = None
    converted = _to_srgb(upright, profile, notes)
    if clear is not None and converted.mode != "RGBA":
        converted.info["transparency"] = clear
    return Decoded(np.asarray(converted.convert("RGBA")), tuple(notes))


def _eight_bits(image: Image.Image) -> Image.Image:
    values = np.asarray(image, dtype=np.float64)
    top = 65535.0 if values.max(initial=0.0) > 255 else 255.0
    return Image.fromarray(np.rint(np.clip(values / top, 0, 1) * 255).astype(np.uint8), "L")


def _to_srgb(image: Image.Image, profile: bytes | None, notes: list[str]) -> Image.Image:
    """The picture in sRGB, as RGB or with its alpha as RGBA."""
    if image.mode in ("P", "PA", "1", "LA"):
        image = image.convert("RGBA" if "transparency" in image.info or image.mode in ("PA", "LA") else "RGB")
    if profile and image.mode in ("RGB", "RGBA", "CMYK", "L"):
        try:
            return _by_profile(image, profile)
        except (ImageCms.PyCMSError, OSError, ValueError):
            notes.append("Its color profile cannot be read and is left out.")
    if image.mode == "CMYK":
        notes.append("It is in CMYK without a profile; its colors are converted naively and are a hint only.")
    return image


def _by_profile(image: Image.Image, profile: bytes) -> Image.Image:
    source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
    # 1024 lines of a profile's name tell sRGB apart cheaply; a picture that is in it already needs no conversion.
    if "sRGB" in ImageCms.getProfileDescription(source) and image.mode in ("RGB", "RGBA"):
        return image
    alpha = image.getchannel("A") if image.mode == "RGBA" else None
    opaque = image.convert("RGB") if image.mode == "RGBA" else image
    converted = ImageCms.profileToProfile(
        opaque, source, ImageCms.createProfile("sRGB"), renderingIntent=_INTENT, outputMode="RGB"
    )
    assert converted is not None
    if alpha is not None:
        converted.putalpha(alpha)
    return converted
