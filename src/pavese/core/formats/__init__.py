"""File formats: each reads bytes into a `Document`. Adding one is adding a folder and an entry here."""

from __future__ import annotations

from collections.abc import Iterable
from importlib import import_module

from pavese.core import limits
from pavese.core.errors import RefusedFileError
from pavese.core.formats.deck import DECK
from pavese.core.formats.document import ALONE, Beside, Document
from pavese.core.formats.format import Can, Format
from pavese.core.formats.lottie import DOTLOTTIE, LOTTIE
from pavese.core.formats.mail import MAIL, SENT_MAIL
from pavese.core.formats.open_deck import OPEN_DECK
from pavese.core.formats.picture import FORMATS as PICTURES
from pavese.core.formats.svg import SVG_FORMAT
from pavese.core.recolor.acts import ACTS

FORMATS: list[Format] = [SVG_FORMAT, LOTTIE, DOTLOTTIE, MAIL, SENT_MAIL, DECK, OPEN_DECK, *PICTURES]


#: What is said of files that other programs can turn into ones that are taken.
_WAYS_OUT = {
    ".msg": "this kind of mail is not read here. Open it in your mail program and save it as .eml or .html.",
    ".oft": "this kind of mail is not read here. Open it in your mail program and save it as .html.",
    ".ppt": "decks of this older kind are not read here. Open it and save it as .pptx.",
    ".pot": "decks of this older kind are not read here. Open it and save it as .potx.",
    ".heic": "this kind of file is not read here. Save it as .jpg or .png.",
    ".heif": "this kind of file is not read here. Save it as .jpg or .png.",
    ".psd": "this kind of file is not read here. Save it as .png or .tif.",
    ".bmp": "this kind of file is not read here. Save it as .png.",
    ".pps": "decks of this older kind are not read here. Open it and save it as .ppsx.",
    ".fodp": "decks in one flat file are not read here. Open it and save it as .odp.",
    ".key": "this kind of deck is not read here. Save it as .pptx.",
    ".ai": "this kind of drawing is not read here. Save it as .svg.",
    **dict.fromkeys((".eps", ".emf", ".wmf"), "this kind of drawing is not read here. Save it as .svg."),
    ".pdf": "its pages are not recolored here. Save what they were made from, or each page as .svg or .png.",
    **dict.fromkeys((".doc", ".docx", ".odt", ".rtf"), "texts of offices are not recolored here."),
    **dict.fromkeys((".xls", ".xlsx", ".ods"), "tables of offices are not recolored here."),
    **dict.fromkeys(
        (".mp4", ".mov", ".webm"), "films are not recolored here. Animations are taken as .json or .lottie."
    ),
    **dict.fromkeys(
        (".css", ".scss", ".less"),
        "no mail here links this style sheet. Drop it with those that do, or bring it under Gather for its colors.",
    ),
    **dict.fromkeys((".csv", ".tsv", ".gpl"), "lists of colors are read under Gather."),
    **dict.fromkeys((".txt", ".md"), "plain text has no colors: nothing in it is recolored."),
    **dict.fromkeys((".ttf", ".otf", ".woff", ".woff2"), "a typeface has no colors. Bring it under Compose, type."),
}


def words() -> str:
    """What is taken, as one reads it aloud."""
    each = [one.words for one in FORMATS]
    return " and ".join(filter(None, (", ".join(each[:-1]), each[-1])))


def format_of(name: str) -> Format:
    """The format of a file by its ending. Raises RefusedFileError when there is none for it."""
    for known in FORMATS:
        if known.ends(name):
            return known
    way_out = next((words for ending, words in _WAYS_OUT.items() if name.lower().endswith(ending)), None)
    if way_out is not None:
        raise RefusedFileError(name, way_out)
    taken = ", ".join(ending for known in FORMATS for ending in known.endings)
    raise RefusedFileError(name, f"this kind of file is not taken here; taken are {taken} and .zip.")


def made_of_pixels(names: Iterable[str]) -> frozenset[str]:
    """Those of some files that are pictures made of pixels."""
    return frozenset(name for name in names if Can.PIXELS in format_of(name).can)


def told(name: str, data: bytes) -> Format:
    """The format of a file by how it begins, and by its name where that tells nothing. Raises RefusedFileError."""
    by_name = next((known for known in FORMATS if known.ends(name)), None)
    begins = [known for known in FORMATS if known.matches(data)]
    if by_name is not None and (by_name in begins or not begins):
        return by_name
    return begins[0] if begins else format_of(name)


def fitting_name(name: str, data: bytes) -> str:
    """The name of a file with the ending that fits what it is; its own where that does."""
    known = told(name, data)
    if known.ends(name):
        return name
    wrong = next((ending for one in FORMATS for ending in one.all_endings if name.lower().endswith(ending)), "")
    return name[: len(name) - len(wrong)] + known.endings[0]


def is_taken(name: str) -> bool:
    """Whether there is a format for a file of this name."""
    return any(known.ends(name) for known in FORMATS)


def largest_of(name: str) -> int:
    """The most bytes that a file of this name may have."""
    return next((known.largest for known in FORMATS if known.ends(name)), limits.LARGEST_FILE)


def read(name: str, data: bytes, beside: Beside = ALONE) -> Document:
    """Reads a file by its ending, with those that belong to it. Raises RefusedFileError with the reason."""
    return format_of(name).read(name, data, beside)


def take_in(modules: Iterable[str]) -> None:
    """Takes in the formats of further modules, each with a `FORMAT` and perhaps `ACTS`; once, however often asked."""
    for name in modules:
        module = import_module(name)
        if module.FORMAT not in FORMATS:
            FORMATS.append(module.FORMAT)
        ACTS.update({act.key: act for act in getattr(module, "ACTS", ())})


def leave_out(modules: Iterable[str]) -> None:
    """Takes the formats of modules away again."""
    for name in modules:
        module = import_module(name)
        FORMATS.remove(module.FORMAT)
        for act in getattr(module, "ACTS", ()):
            del ACTS[act.key]
