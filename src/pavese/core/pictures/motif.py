"""What a picture shows, so that the same thing is known again in another size, format or ground."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from PIL import Image

from pavese.core.errors import RefusedFileError
from pavese.core.pictures.box import freed
from pavese.core.pictures.decode import decode_picture
from pavese.core.pictures.mend import is_drawn

#: Fields along a side in which it is looked at, pixels along the longer side before, and how well the fields of two of
#: the same motif go together (correlation).
_FIELDS, _LOOKED_AT, _ALIKE = 16, 256, 0.85
_ASPECT = 0.08
#: From this part of a field on it is drawn on.
_HALF = 0.5
#: Pictures of more bytes are photographs, most likely, and are not opened for this.
LARGEST = 8_000_000


class Motif(NamedTuple):
    """How much of each field is drawn on (of a picture that is full: how light it is), from 0 to 255; whether it is
    told by its `outline`; how wide it is for its height; and whether it has few colors, as drawings have."""

    fields: bytes
    outline: bool
    aspect: float
    drawn: bool

    def same(self, other: Motif) -> bool:
        """Whether two pictures show the same."""
        if self.outline != other.outline or abs(self.aspect / other.aspect - 1) > _ASPECT:
            return False
        one, two = (np.frombuffer(motif.fields, dtype=np.uint8).astype(np.float64) for motif in (self, other))
        if not one.std() or not two.std():
            return self.fields == other.fields
        return float(np.corrcoef(one, two)[0, 1]) >= _ALIKE


def motif_of(data: bytes) -> Motif | None:
    """What a picture shows; None for one that is empty, cannot be read or is too large."""
    if len(data) > LARGEST:
        return None
    try:
        pixels = decode_picture("", data).pixels
    except RefusedFileError:
        return None
    image = Image.fromarray(pixels)
    image.thumbnail((_LOOKED_AT, _LOOKED_AT), Image.Resampling.BOX)
    small = freed(np.asarray(image), inside=True)
    alpha = Image.fromarray(small[..., 3])
    box = alpha.point(lambda level: 255 * (level > 127)).getbbox()
    if box is None:
        return None
    fields = np.asarray(alpha.crop(box).resize((_FIELDS, _FIELDS), Image.Resampling.BOX))
    outline = bool(fields.min() <= 255 * _HALF)
    if not outline:
        # It fills its whole place: told by light and dark.
        grey = Image.fromarray(small).convert("L").crop(box)
        fields = np.asarray(grey.resize((_FIELDS, _FIELDS), Image.Resampling.BOX))
    width, height = box[2] - box[0], box[3] - box[1]
    return Motif(fields.tobytes(), outline, width / height, is_drawn(pixels))
