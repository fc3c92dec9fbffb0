"""TIFF (6.0) of one page: its pixels are packed anew as they were packed; its profile, density, and what its own tags
say stay."""

from __future__ import annotations

import io

import numpy as np
from PIL import Image, TiffImagePlugin

from pavese.core.errors import RefusedFileError
from pavese.core.formats.picture.container import alpha_of, opened, pixels_of, remarks_on, turn_of, unturned, with_alpha
from pavese.core.pictures.decode import decode_picture
from pavese.core.pictures.mixture import Levels
from pavese.core.pictures.profile import Profile
from pavese.core.pictures.regions import LOSSLESS, LOSSY

#: How one begins (section 2), in either order of bytes.
SIGNATURES = (b"II*\0", b"MM\0*")
#: Tags (section 8, and those of Photoshop and XMP) that say something of a picture, and not how its pixels lie.
_TELLING = (270, 271, 272, 305, 306, 315, 316, 700, 33432)
#: The tag of its bits, and of how it is turned.
_BITS, _ORIENTATION = 258, 274
_PLAIN = frozenset(("1", "L", "LA", "P", "PA", "RGB", "RGBA"))
#: How pixels are packed of what was packed as only black and white can be.
_PACKED = "tiff_lzw"
_KEPT_PACKING = frozenset(("raw", "tiff_lzw", "tiff_adobe_deflate", "packbits", "jpeg"))


class TiffPicture:
    """See `container.Container`."""

    clears = True
    square = 0

    def __init__(self, name: str, data: bytes) -> None:
        with opened(name, data, "TIFF") as image:
            assert isinstance(image, TiffImagePlugin.TiffImageFile)
            if image.n_frames > 1:
                raise RefusedFileError(name, "it has several pages; a TIFF of one page is recolored.")
            # Reading the pixels turns them, and takes the tag away that says so.
            self.turn = turn_of(image)
            self._told = {tag: image.tag_v2[tag] for tag in _TELLING if tag in image.tag_v2}
            self._told |= {_ORIENTATION: self.turn} if self.turn != 1 else {}
            image.load()
            said = list(remarks_on(image))
            self.profile = Profile(image.info.get("icc_profile"))
            packing = str(image.info.get("compression", "raw"))
            self._options = {key: image.info[key] for key in ("dpi", "icc_profile") if image.info.get(key)}
            if image.mode == "CMYK":
                self.pixels = decode_picture(name, data).pixels[..., :3]
                self.profile, self.turn = Profile(None), 1
                self._options.pop("icc_profile", None)
                self._told.pop(_ORIENTATION, None)
                said.append("It is in CMYK; recolored it is handed over in RGB (sRGB).")
            elif image.mode in _PLAIN:
                self.pixels = unturned(pixels_of(image), self.turn)
            elif image.mode in ("I;16", "I;16B", "I;16L"):
                self.pixels = unturned(pixels_of(Image.fromarray((np.asarray(image) >> 8).astype(np.uint8))), self.turn)
            else:
                raise RefusedFileError(name, f"its pixels are of a kind ({image.mode}) that is not recolored.")
            if max(image.tag_v2.get(_BITS, (8,))) > 8:
                said.append("It has 16 bits a channel; recolored it is handed over with 8.")
        self._packing = packing if packing in _KEPT_PACKING else _PACKED
        self.fineness = LOSSY if self._packing == "jpeg" else LOSSLESS
        self.remarks = tuple(said)
        self.seen_rows = self.pixels.shape[0]

    def written(self, colors: Levels, alpha: Levels | None = None, by_place: bool = False) -> bytes:
        whole = with_alpha(colors, alpha_of(self.pixels) if alpha is None else alpha)
        target = io.BytesIO()
        packing = self._packing if self._packing != "raw" else None
        Image.fromarray(whole).save(target, "TIFF", compression=packing, tiffinfo=self._told, **self._options)
        return target.getvalue()

    def bare(self, data: bytes) -> bytes:
        return data
