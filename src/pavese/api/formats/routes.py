"""What is taken, and what each format can: told once, so that the interface lists no format of its own."""

from __future__ import annotations

from enum import StrEnum

from fastapi import APIRouter
from pydantic import BaseModel

from pavese.core import limits
from pavese.core.formats import FORMATS, words
from pavese.core.formats.format import Can
from pavese.core.gather.code_files import DECKS, TEXTS
from pavese.core.gather.drop import DRAWINGS, PAGES
from pavese.core.gather.own_face import ENDINGS as FACE_ENDINGS
from pavese.core.kit.role import Role
from pavese.core.pictures.decode import ENDINGS
from pavese.core.recolor.acts import ACTS, FieldKind, fields_of

router = APIRouter(prefix="/api", tags=["formats"])


class Intake(StrEnum):
    """Where files come in: into a set, among the sources, as pictures of one, as codes, a logo, a kit, a typeface."""

    SET = "set"
    SOURCES = "sources"
    PICTURES = "pictures"
    CODES = "codes"
    LOGO = "logo"
    KIT = "kit"
    TYPEFACE = "typeface"


class FormatView(BaseModel):
    """A format that sets take."""

    key: str
    title: str
    words: str
    endings: list[str]
    media_type: str
    can: list[Can]
    acts: list[str]


class FieldView(BaseModel):
    """A setting of an act: a choice between `options`, a color of the kit, or a number from `least` to `most`."""

    name: str
    title: str
    words: str
    kind: FieldKind
    options: list[str]
    least: int | None
    most: int | None
    default: str | int | None
    role: Role | None
    only: tuple[str, ...]


class ActView(BaseModel):
    """What more than color files can be given; `remedy` says that it answers a remark on a file."""

    key: str
    title: str
    words: str
    without: str
    remedy: bool
    fields: list[FieldView]


class FormatsView(BaseModel):
    """The formats of sets, in words too; the acts their files can be given; what each way in takes, as endings and
    media types for a file picker; and how many files a set holds."""

    formats: list[FormatView]
    acts: list[ActView]
    words: str
    accepts: dict[Intake, list[str]]
    set_files: int


_ARCHIVES = [".zip", "application/zip"]
_PICTURES = ["image/*", *ENDINGS, *(one for one in DRAWINGS if one not in ENDINGS)]
_CODES = [*TEXTS, *DECKS, "text/*"]
_ACCEPTS = {
    Intake.SOURCES: [*_PICTURES, *PAGES, *_CODES, *_ARCHIVES],
    Intake.PICTURES: [*_PICTURES, *_ARCHIVES],
    Intake.CODES: [*_CODES, *PAGES],
    Intake.LOGO: _PICTURES,
    Intake.KIT: [*_CODES],
    Intake.TYPEFACE: [*FACE_ENDINGS, "font/ttf", "font/otf", "font/woff2"],
}


@router.get("/formats")
async def get_formats() -> FormatsView:
    """What is taken, where, and what each format can."""
    formats = [
        FormatView(
            key=one.key,
            title=one.title,
            words=one.words,
            endings=list(one.endings),
            media_type=one.media_type,
            can=sorted(one.can),
            acts=list(one.acts),
        )
        for one in FORMATS
    ]
    acts = [
        ActView(
            key=key,
            title=act.title,
            words=act.words,
            without=act.without or f"no {act.title.lower()}",
            remedy=bool(act.remedies),
            fields=[FieldView.model_validate(field._asdict()) for field in fields_of(act)],
        )
        for key, act in ACTS.items()
        if act.offered
    ]
    return FormatsView(
        formats=formats,
        acts=acts,
        words=words(),
        accepts={
            Intake.SET: [
                *(ending for one in FORMATS for ending in one.all_endings),
                *(one.media_type for one in FORMATS),
                *_ARCHIVES,
            ],
            **_ACCEPTS,
        },
        set_files=limits.SET_FILES,
    )
