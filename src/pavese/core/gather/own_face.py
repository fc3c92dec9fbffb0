"""A typeface as its owner brings it: read, measured, and kept in the form that engines and browsers read alike."""

from __future__ import annotations

import io
import re
from typing import Any, NamedTuple

from fontTools.ttLib import TTFont, TTLibError
from fontTools.varLib.instancer import instantiateVariableFont

from pavese.core.errors import RefusedFileError
from pavese.core.formats.intake import digest
from pavese.core.kit.face_traits import kind_of, traits_of
from pavese.core.kit.plain import plain_name
from pavese.core.kit.typefaces import OwnFace

#: How files begin: TrueType, OpenType with PostScript outlines, WOFF 2 (OpenType 1.9, WOFF 2.0, section 4).
_MAGIC = (b"\x00\x01\x00\x00", b"true", b"OTTO", b"wOF2")
#: How such files are called.
ENDINGS = (".ttf", ".otf", ".woff2")
LARGEST_BYTES = 12 * 1024 * 1024
_REGULAR = 400
#: A weight at the end of a name, as OpenType 1.9 calls them in `OS/2`, usWeightClass.
_OF_WEIGHT = re.compile(
    r"(?<=\S) (?:thin|hairline|regular|book|medium|heavy|(?:(?:extra|ultra|semi|demi) ?)?(?:light|bold|black))$",
    re.IGNORECASE,
)


class TakenFace(NamedTuple):
    """A typeface, and the bytes to keep of it: without the packing of WOFF, under its own name alone."""

    face: OwnFace
    data: bytes


def take_face(name: str, data: bytes, license: str) -> TakenFace:
    """The typeface a file holds. Raises RefusedFileError for what is none or cannot be measured."""
    if not data.startswith(_MAGIC):
        raise RefusedFileError(name, "this is no typeface that can be read here (TTF, OTF or WOFF2).")
    if len(data) > LARGEST_BYTES:
        raise RefusedFileError(name, f"the file is larger than {LARGEST_BYTES // (1024 * 1024)} MB.")
    try:
        font = TTFont(io.BytesIO(data))
        family = plain_name(_family(font) or name.rpartition(".")[0])[:80]
        weights = _weights(font)
        measured = instantiateVariableFont(TTFont(io.BytesIO(data)), _plain(font)) if "fvar" in font else font
        traits, kind = traits_of(name, measured), kind_of(measured)
        kept = _kept(font, family)
    except RefusedFileError:
        raise
    except (TTLibError, KeyError, AttributeError, AssertionError, ValueError, TypeError, IndexError, OSError) as error:
        # What a broken file makes of the reader; there is no list of it.
        raise RefusedFileError(name, "this typeface is broken, or made in a way that is not read.") from error
    face = OwnFace(family=family, key=digest(kept), license=license, kind=kind, weights=weights, traits=traits)
    return TakenFace(face, kept)


def _family(font: TTFont) -> str | None:
    """The name of a family. That of a variable one may end with the weight its file begins at ("... Thin"), where it
    has lost the longer of its two names."""
    named: str | None = font["name"].getBestFamilyName()
    return _OF_WEIGHT.sub("", named) if named and "fvar" in font else named


def _weights(font: TTFont) -> tuple[int, int]:
    for axis in font["fvar"].axes if "fvar" in font else ():
        if axis.axisTag == "wght":
            return int(axis.minValue), int(axis.maxValue)
    weight = int(font["OS/2"].usWeightClass)
    return weight, weight


def _plain(font: TTFont) -> dict[str, float]:
    """The place on its axes at which a variable face is measured: regular, and as it is by itself on all others."""
    return {
        axis.axisTag: min(max(_REGULAR, axis.minValue), axis.maxValue) if axis.axisTag == "wght" else axis.defaultValue
        for axis in font["fvar"].axes
    }


def _kept(font: TTFont, family: str) -> bytes:
    font.flavor = None
    table: Any = font["name"]
    for number in (16, 17, 21, 22):
        table.removeNames(nameID=number)
    table.removeNames(nameID=1)
    table.setName(family, 1, 3, 1, 0x409)
    target = io.BytesIO()
    font.save(target)
    return target.getvalue()
