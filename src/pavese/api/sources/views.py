"""Sources as they are shown."""

from __future__ import annotations

import hashlib

from sqlalchemy.orm import Session

from pavese.api.kits.views import answers_of, candidates_view, history_view
from pavese.api.sources.schemas import (
    FontView,
    LookingSent,
    PageView,
    PictureView,
    PinView,
    ShownPart,
    SourceEntry,
    SourceView,
    Spot,
    UseView,
)
from pavese.core.color.contrast import readable_ink
from pavese.core.color.extract import Pixels
from pavese.core.color.notations import notations
from pavese.core.gather.candidates import candidates, from_source
from pavese.core.gather.source import Source, SourceKind
from pavese.core.gather.web_page import PageReading
from pavese.core.handoff.picture_palette import NamedColor, PicturePalette, PinOnPicture
from pavese.core.kit.kit import Kit
from pavese.core.pictures.board import WIDTH
from pavese.core.pictures.sample import Reach, around, sample
from pavese.store.models import SourceRow


def fingerprint_of(source: Source) -> str:
    """A name for the source's picture as it stands."""
    shown = [(picture.digest, picture.scale, picture.part, picture.lies) for picture in source.pictures]
    return hashlib.sha256(f"{source.kind} {shown}".encode()).hexdigest()[:24]


def entry_view(row: SourceRow, source: Source) -> SourceEntry:
    """A source in a list."""
    return SourceEntry(
        id=row.id,
        kind=source.kind,
        name=source.name,
        pictures=len(source.pictures),
        pins=len(source.pins),
        unstated=source.unstated,
        fingerprint=fingerprint_of(source),
    )


def source_view(session: Session, row: SourceRow, source: Source, kit: Kit) -> SourceView:
    """A source with its pictures, pins and candidates."""
    places, height = source.places()
    spots = [source.spot(pin) for pin in source.pins]
    answers = answers_of([pin.color for pin in source.pins], kit)
    return SourceView(
        id=row.id,
        kind=source.kind,
        name=source.name,
        width=WIDTH if source.kind is SourceKind.BOARD else places[0].width,
        height=height,
        by_hand=source.by_hand,
        fingerprint=fingerprint_of(source),
        pictures=[
            PictureView(
                id=picture.id,
                name=picture.name,
                digest=picture.digest,
                notes=list(picture.notes),
                box=picture.box.hex if picture.box else None,
                origin=picture.origin,
                author=picture.author,
                rights=picture.rights,
                scale=picture.scale,
                part=ShownPart.of(picture.part),
                x=place.x,
                y=place.y,
                width=place.width,
                height=place.height,
            )
            for picture, place in zip(source.pictures, places, strict=True)
        ],
        pins=[
            PinView(
                number=number,
                x=x,
                y=y,
                reach=pin.reach,
                seen=source.shows(pin),
                alpha=_percent(pin.alpha),
                share=None if pin.share is None else f"{pin.share * 100:.1f}",
                ink=readable_ink(pin.color).hex,
                answer=answer,
            )
            for number, (pin, (x, y), answer) in enumerate(zip(source.pins, spots, answers, strict=True), 1)
        ],
        looking=LookingSent(**source.looking.model_dump()),
        note=source.note,
        page=_page(source.page) if source.page else None,
        unstated=source.unstated,
        candidates=candidates_view(from_source(source), kit),
        history=history_view(session, row.draft),
    )


def spot_view(pixels: Pixels, x: int, y: int, reach: Reach, kit: Kit) -> Spot:
    """What stands at a place of a picture; places outside are moved to its edge."""
    x, y = min(x, pixels.shape[1] - 1), min(y, pixels.shape[0] - 1)
    found = sample(pixels, x, y, reach)
    return Spot(
        x=x,
        y=y,
        alpha=_percent(found.alpha),
        ink=readable_ink(found.rgb).hex,
        answer=answers_of([found.rgb], kit)[0],
        notations=notations(found.rgb),
        around=[[color.hex if color else None for color in line] for line in around(pixels, x, y)],
    )


def with_palette(source: Source, kit: Kit, png: bytes) -> PicturePalette:
    """The source's own picture, what is pinned on it and found in it; a color of the kit has the name it has there."""
    places, height = source.places()
    width = max(place.x + place.width for place in places)
    spots = [(number, pin, source.spot(pin)) for number, pin in enumerate(source.pins, 1) if source.shows(pin)]
    rights = [", ".join(filter(None, (one.author.strip(), one.rights.strip()))) for one in source.pictures]
    return PicturePalette(
        title=source.name,
        kit=kit.name,
        png=png,
        shape=width / height,
        pins=[PinOnPicture(number, x / width, y / height, pin.color) for number, pin, (x, y) in spots],
        colors=[
            NamedColor(
                one.spotted.pin,
                one.known_as.removesuffix(" base") if one.known_as and one.same else one.name,
                one.spotted.color,
                one.spotted.context if one.spotted.pin else one.spotted.where,
            )
            for one in candidates(from_source(source), kit)
        ],
        rights=[line for line in rights if line],
    )


def _page(page: PageReading) -> PageView:
    return PageView(
        address=page.address,
        title=page.title,
        uses=[
            UseView(
                use=used.use,
                hex=used.color.hex,
                ink=readable_ink(used.color).hex,
                places=used.places,
                share=None if used.share is None else f"{used.share * 100:.1f}",
                example=used.example,
            )
            for used in page.colors
        ],
        fonts=[FontView(name=name, places=places) for name, places in page.fonts],
        notes=list(page.notes),
    )


def _percent(alpha: float) -> str | None:
    """Alpha in words; None where opaque."""
    return None if alpha >= 1 else f"{alpha * 100:.0f} %"
