"""How each form of an export is made, file by file (`MAKERS`) or once of all of them (`OF_SET`)."""

from __future__ import annotations

import io
import json
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from posixpath import splitext

from PIL import Image

from pavese.core.color.srgb import Rgb
from pavese.core.formats import format_of, read
from pavese.core.formats.animation import animation
from pavese.core.formats.document import Document, Notation, Preview
from pavese.core.formats.format import Can
from pavese.core.formats.intake import Becoming, Came
from pavese.core.formats.svg.raster import svg_of_png
from pavese.core.formats.svg.sprite import sprite
from pavese.core.formats.written import written
from pavese.core.handoff.css import links
from pavese.core.handoff.export import OUTPUTS, Export, ExportForm
from pavese.core.handoff.file_proof import proof_page
from pavese.core.kit.kit import Kit
from pavese.core.kit.token import parse_token
from pavese.core.recolor.changes import Changes
from pavese.render.pool import DrawingPool
from pavese.render.proofs import proof
from pavese.render.remembered import pictures_after
from pavese.render.rendering import slide_pictures, slides_pdf

Made = Iterator[tuple[str, bytes]]

_WHITE = Rgb(255, 255, 255)
#: What browsers and phones ask for: https://html.spec.whatwg.org/multipage/links.html#rel-icon and the sizes that
#: web app manifests name.
_ICO, _APP = (16, 32, 48), (180, 192, 512)
#: Up to so many colors a picture is coded without loss where a format can either.
_FLAT = 4096
_DAY = date(2000, 1, 1)
_CONTACT_SIDE = 160


@dataclass(frozen=True)
class Item:
    """One file of an export: as it came, and what becomes of it."""

    name: str
    number: int
    document: Document
    changes: Changes
    came: Came

    @property
    def can(self) -> frozenset[Can]:
        """What may be asked of it."""
        return format_of(self.name).can

    @property
    def written(self) -> bytes:
        """The file with its changes."""
        return self.document.write(self.changes)

    @property
    def beside(self) -> Mapping[str, bytes]:
        """The pictures beside it that become others, by what it calls them."""
        return pictures_after(self.document, self.name, self.changes)

    @property
    def shown(self) -> Preview:
        """The same for a drawing engine."""
        return self.document.preview(self.changes)

    def animation(self, order: Order) -> bytes:
        """The animation it is, or the one that the order's motion makes of it."""
        return animation(self.name, self.document, self.changes, order.wanted.motion, order.pool.png).content


@dataclass(frozen=True)
class Order:
    """What the items of an export have in common."""

    set_name: str
    wanted: Export
    kit: Kit
    pool: DrawingPool

    @property
    def ground(self) -> Rgb | None:
        """The ground pictures are on; None is transparent."""
        return self.kit.resolve(parse_token(self.wanted.ground)) if self.wanted.ground else None

    def path(self, item: Item, size: int, scale: int) -> str:
        """The name of a picture, without its ending."""
        return self.wanted.named(item.name, size=size, scale=scale, set_name=self.set_name, number=item.number)


def _original(item: Item, order: Order) -> Made:
    yield item.name, written(item.name, item.document, item.changes, order.pool.png)


def _variables(item: Item, order: Order) -> Made:
    changes = replace(item.changes, links=links(order.kit))
    yield f"variables/{item.name}", item.document.write(changes)


def _png(item: Item, order: Order) -> Made:
    shown = item.shown
    for size, scale in order.wanted.pictures():
        png = order.pool.png(shown, size * scale)
        yield f"png/{order.path(item, size, scale)}.png", _grounded(png, order.ground)


def _coded(kind: str, folder: str) -> Callable[[Item, Order], Made]:
    """Pictures in a format for pages, coded with little loss and in whole color."""

    def made(item: Item, order: Order) -> Made:
        shown = item.shown
        ground = order.ground or _WHITE if kind == "jpg" else order.ground
        for size, scale in order.wanted.pictures():
            png = _grounded(order.pool.png(shown, size * scale), ground)
            with Image.open(io.BytesIO(png)) as picture:
                yield f"{folder}/{order.path(item, size, scale)}.{kind}", _saved(picture, kind)

    return made


def _pdf(item: Item, order: Order) -> Made:
    shown = item.shown
    files = {"main": _PAGE, "drawing.svg": _as_drawing(shown, shown.content)}
    yield f"pdf/{splitext(item.name)[0]}.pdf", order.pool.pdf(files, _DAY)


def _favicon(item: Item, order: Order) -> Made:
    shown = item.shown
    folder = f"favicon/{splitext(item.name)[0]}"
    sizes = [Image.open(io.BytesIO(order.pool.png(shown, side))).convert("RGBA") for side in _ICO]
    squares = [_square(picture, side) for picture, side in zip(sizes, _ICO, strict=True)]
    target = io.BytesIO()
    squares[-1].save(target, "ICO", sizes=[(side, side) for side in _ICO], append_images=squares[:-1])
    yield f"{folder}/favicon.ico", target.getvalue()
    for side in _APP:
        picture = _square(Image.open(io.BytesIO(order.pool.png(shown, side))).convert("RGBA"), side)
        # Phones cut corners off and put black behind what is transparent, so these stand on a ground.
        yield f"{folder}/app-{side}.png", _grounded(_as_png(picture), order.ground or _WHITE)


def _proof(item: Item, order: Order) -> Made:
    files = proof_page(proof(order.pool, item.came, item.changes), order.kit.name)
    yield f"proof/{splitext(item.name)[0]}.pdf", order.pool.pdf(files, _DAY)


def _slides_pdf(item: Item, order: Order) -> Made:
    yield f"pdf/{splitext(item.name)[0]}.pdf", slides_pdf(order.pool, item.came, item.changes)


def _slides_png(item: Item, order: Order) -> Made:
    for size, scale in order.wanted.pictures():
        for number, png in enumerate(slide_pictures(order.pool, item.came, item.changes, size * scale), 1):
            yield (
                f"png/{splitext(item.name)[0]}/{order.path(item, size, scale).rpartition('/')[2]}-{number:02}.png",
                png,
            )


def _moving(kind: str) -> Callable[[Item, Order], Made]:
    def made(item: Item, order: Order) -> Made:
        animation = item.animation(order)
        for size, scale in order.wanted.pictures():
            path = f"{kind}/{order.path(item, size, scale)}.{kind}"
            if kind in ("gif", "webp"):
                yield path, order.pool.moving_picture(animation, kind, size * scale, order.ground)
            else:
                yield path, order.pool.film(animation, kind, size * scale, order.ground or _WHITE)

    return made


def _lottie(item: Item, order: Order) -> Made:
    yield f"lottie/{splitext(item.name)[0]}.json", item.animation(order)


def _sprite(items: Sequence[Item], _: Order) -> Made:
    drawn = [item for item in items if OUTPUTS[ExportForm.SPRITE].of(item.can, None)]
    stills = [(splitext(item.name)[0].replace("/", "-"), item.written) for item in drawn]
    if stills:
        yield "sprite.svg", sprite(stills)


def _contact(items: Sequence[Item], order: Order) -> Made:
    files: dict[str, bytes] = {}
    cells = []
    for item in items:
        path = f"{item.number}.svg"
        shown = item.shown
        plain = shown.notation is Notation.VECTOR
        files[path] = _as_drawing(shown, b"" if plain else order.pool.png(shown, _CONTACT_SIDE))
        cells.append({"picture": path, "name": item.name})
    files["data.json"] = json.dumps({"title": order.set_name, "kit": order.kit.name, "cells": cells}).encode()
    files["main"] = _CONTACT.encode()
    yield "contact-sheet.pdf", order.pool.pdf(files, _DAY)


_PAGE = b"""
#set page(width: auto, height: auto, margin: 0pt)
#set document(title: "Drawing")
#image("drawing.svg", alt: "drawing")
"""

_CONTACT = """
#let d = json("data.json")
#set document(title: d.title)
#set page(paper: "a4", margin: 14mm, numbering: "1")
#set text(font: "Commissioner", size: 7pt, lang: "en", fallback: false)
= #d.title
#text(fill: luma(90))[#d.cells.len() files in the colors of #d.kit]
#v(3mm)
#grid(columns: 6 * (1fr,), gutter: 4mm, ..d.cells.map(c => block(breakable: false, align(center, {
  box(height: 24mm, width: 100%, stroke: 0.3pt + luma(170), inset: 2mm,
    align(center + horizon, image(c.picture, height: 20mm, fit: "contain", alt: c.name)))
  v(-1mm)
  text(size: 6pt, c.name)
}))))
"""

#: Forms that are made of each file.
MAKERS: dict[ExportForm, Callable[[Item, Order], Made]] = {
    ExportForm.ORIGINAL: _original,
    ExportForm.VARIABLES: _variables,
    ExportForm.PNG: _png,
    ExportForm.JPEG: _coded("jpg", "jpg"),
    ExportForm.STILL_WEBP: _coded("webp", "webp-still"),
    ExportForm.AVIF: _coded("avif", "avif"),
    ExportForm.PDF: _pdf,
    ExportForm.FAVICON: _favicon,
    ExportForm.LOTTIE: _lottie,
    ExportForm.GIF: _moving("gif"),
    ExportForm.WEBP: _moving("webp"),
    ExportForm.WEBM: _moving("webm"),
    ExportForm.MP4: _moving("mp4"),
    ExportForm.PROOF: _proof,
    ExportForm.SLIDES_PDF: _slides_pdf,
    ExportForm.SLIDES_PNG: _slides_png,
    ExportForm.SLIDES_PROOF: _proof,
}
#: Forms that are made once, of all files.
OF_SET: dict[ExportForm, Callable[[Sequence[Item], Order], Made]] = {
    ExportForm.SPRITE: _sprite,
    ExportForm.CONTACT: _contact,
}


def item_of(becoming: Becoming, number: int) -> Item:
    """A file, read. Raises RefusedFileError."""
    came = becoming.file
    return Item(came.name, number, read(came.name, came.data, dict(came.beside)), becoming.changes, came)


def _as_drawing(shown: Preview, png: bytes) -> bytes:
    """What is seen of a file as an SVG: itself, or a picture of it."""
    return shown.content if shown.notation is Notation.VECTOR else svg_of_png(png)


def _grounded(png: bytes, ground: Rgb | None) -> bytes:
    if ground is None:
        return png
    with Image.open(io.BytesIO(png)) as picture:
        flat = Image.new("RGBA", picture.size, (*ground, 255))
        flat.alpha_composite(picture.convert("RGBA"))
    return _as_png(flat.convert("RGB"))


def _square(picture: Image.Image, side: int) -> Image.Image:
    square = Image.new("RGBA", (side, side))
    square.alpha_composite(picture, ((side - picture.width) // 2, (side - picture.height) // 2))
    return square


def _saved(picture: Image.Image, kind: str) -> bytes:
    target = io.BytesIO()
    if kind == "jpg":
        picture.convert("RGB").save(target, "JPEG", quality=92, subsampling=0, optimize=True)
    elif kind == "avif":
        picture.save(target, "AVIF", quality=90, subsampling="4:4:4")
    else:
        flat = picture.convert("RGBA").getcolors(_FLAT) is not None
        picture.save(target, "WEBP", lossless=flat, quality=100 if flat else 90)
    return target.getvalue()


def _as_png(picture: Image.Image) -> bytes:
    target = io.BytesIO()
    picture.save(target, "PNG")
    return target.getvalue()
