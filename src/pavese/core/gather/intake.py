"""Making sources: pictures taken in, set side by side, looked at for their colors; pages with their picture.

What draws an SVG or reads a picture, and the place where pixels are kept, are given as functions.
"""

from __future__ import annotations

import uuid
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from pathlib import PurePosixPath
from typing import NamedTuple

from pavese.core.color.extract import Pixels, find_colors
from pavese.core.errors import PaveseError, RefusedFileError
from pavese.core.formats.document import Preview
from pavese.core.formats.intake import digest
from pavese.core.formats.svg import read_svg
from pavese.core.gather.drop import is_drawing, no_room
from pavese.core.gather.source import (
    MOST_PICTURES,
    InvalidSourceError,
    Looking,
    Pin,
    Source,
    SourceKind,
    SourcePicture,
    with_found,
)
from pavese.core.gather.web_page import PageElement, PageReading, read_elements
from pavese.core.pictures.board import compose
from pavese.core.pictures.box import box_of
from pavese.core.pictures.decode import decode_picture
from pavese.core.pictures.sample import Reach, sample

#: Longer side of the picture that is made of an SVG, in pixels.
DRAWN_SIDE = 1600

Draw = Callable[[Preview, int], bytes]
PixelsOf = Callable[[str], Pixels]


class TakenPicture(NamedTuple):
    """A picture that was read, the bytes of it that hold pixels, and whether it is see-through somewhere."""

    picture: SourcePicture
    pixels_file: bytes
    clear: bool


#: Reads one picture of (name, bytes). Raises PaveseError for one that cannot be taken.
Take = Callable[[str, bytes], TakenPicture]


@dataclass
class TakenPictures:
    """What became of pictures: those taken, the bytes to keep under their hashes, and the refused with reasons.

    `clear` tells whether all of them are see-through somewhere, as logos are.
    """

    pictures: list[SourcePicture] = field(default_factory=list)
    files: dict[str, bytes] = field(default_factory=dict)
    refused: list[RefusedFileError] = field(default_factory=list)
    clear: bool = True


def take_pictures(files: Iterable[tuple[str, bytes]], take: Take, room: int = MOST_PICTURES) -> TakenPictures:
    """Reads pictures of (name, bytes), one at a time and at most `room`; one bad file does not stop the others."""
    taken = TakenPictures()
    for name, data in files:
        if len(taken.pictures) >= room:
            taken.refused.append(no_room(name))
            continue
        try:
            one = take(name, data)
        except RefusedFileError as error:
            taken.refused.append(error)
            continue
        except PaveseError as error:
            taken.refused.append(RefusedFileError(name, f"it cannot be drawn: {error}."))
            continue
        taken.pictures.append(one.picture)
        taken.files |= {one.picture.original: data, one.picture.digest: one.pixels_file}
        taken.clear = taken.clear and one.clear
    return taken


def take_picture(name: str, data: bytes, draw: Draw) -> TakenPicture:
    """Reads one picture. Raises RefusedFileError, and what `draw` raises."""
    pixels_file = data
    if data and is_drawing(name, data):
        pixels_file = draw(read_svg(name, data).preview({}), DRAWN_SIDE)
    decoded = decode_picture(name, pixels_file)
    picture = SourcePicture(
        id=uuid.uuid4().hex[:12],
        name=name[-200:],
        digest=digest(pixels_file),
        original=digest(data),
        width=decoded.width,
        height=decoded.height,
        notes=decoded.notes,
        box=box_of(decoded.pixels),
    )
    return TakenPicture(picture, pixels_file, bool((decoded.pixels[..., 3] < 255).any()))


def picture_source(taken: TakenPictures) -> Source:
    """One picture, or a board of several. Raises InvalidSourceError when there is none."""
    if not taken.pictures:
        raise InvalidSourceError("None of these pictures can be taken.")
    first, count = taken.pictures[0], len(taken.pictures)
    kind = SourceKind.BOARD if count > 1 else SourceKind.PICTURE
    name = f"Board of {count} pictures" if count > 1 else PurePosixPath(first.name).stem or first.name
    return Source(kind=kind, name=name, pictures=tuple(taken.pictures), looking=Looking(leave_out_ground=taken.clear))


def page_source(
    address: str, title: str, elements: Sequence[PageElement], size: tuple[int, int], png: bytes, notes: Sequence[str]
) -> tuple[Source, dict[str, bytes]]:
    """A page of this width and height in pixels as a source, and the bytes of its picture under their hash."""
    colors, fonts, remarks = read_elements(elements, *size)
    name = title.strip() or address or "Page"
    key = digest(png)
    picture = SourcePicture(
        id=uuid.uuid4().hex[:12],
        name=f"{name[:100]}.png",
        digest=key,
        original=key,
        width=size[0],
        height=size[1],
        origin=address or "a saved page",
    )
    page = PageReading(address=address, title=title, colors=colors, fonts=fonts, notes=(*notes, *remarks))
    source = Source(kind=SourceKind.PAGE, name=name[:120], pictures=(picture,), page=page)
    return source, {key: png}


def pixels_of(source: Source, get: PixelsOf) -> Pixels:
    """The source's own picture, of shape (rows, columns, 4): the picture itself, or the board as it is arranged."""
    if source.kind is not SourceKind.BOARD:
        return get(source.pictures[0].digest)
    places, height = source.places()
    parts = [picture.part for picture in source.pictures]
    return compose((get(picture.digest) for picture in source.pictures), places, height, parts)


def looked_at(source: Source, pixels: Pixels, looking: Looking) -> Source:
    """The source with its colors found anew."""
    return with_found(source, find_colors(pixels, looking.finding()), looking)


def pin_at(source: Source, pixels: Pixels, x: int, y: int, reach: Reach) -> Pin:
    """A pin at a column and row of the source's own picture. Raises InvalidSourceError where there is no picture."""
    picture, across, down = source.at(x, y)
    found = sample(pixels, x, y, reach)
    return Pin(picture=picture, x=across, y=down, reach=reach, color=found.rgb, alpha=found.alpha)
