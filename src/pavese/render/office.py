"""Decks as LibreOffice shows them: a PDF of their slides, from which pictures are drawn and texts are read.

It runs within the bounds of the child that asks for it, with a profile of that child's own, and ends with it. Nothing
is fetched: what leads out of a package is taken away before, and the way out is closed besides. What it made is kept
for the other children for a while, since all slides of a deck come from one PDF.
"""

from __future__ import annotations

import ctypes
import fcntl
import hashlib
import json
import os
import shutil
import subprocess
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from functools import cache
from io import BytesIO
from itertools import count
from pathlib import Path
from typing import IO, TYPE_CHECKING, Any, Literal, NamedTuple
from xml.sax.saxutils import escape

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

    from pavese.core.color.srgb import Rgb

#: Seconds that the program may take for one package, less than a child is given.
SECONDS = 50.0
_WARM_SECONDS = 6.0
#: Megabytes of PDFs that are kept.
_KEPT = 300
_POINTS_PER_INCH, _PIXELS_PER_INCH = 72, 96
#: The program asks to be started again when it has set up a new profile.
_START_AGAIN = 81
_BOLD = 600
_OPTIONS = {
    "ReduceImageResolution": {"type": "boolean", "value": "true"},
    "MaxImageResolution": {"type": "long", "value": "150"},
    "Quality": {"type": "long", "value": "90"},
    "ExportBookmarks": {"type": "boolean", "value": "false"},
    "ExportNotes": {"type": "boolean", "value": "false"},
}
_NOTES = {name: {"type": "boolean", "value": "true"} for name in ("ExportNotesPages", "ExportOnlyNotesPages")}
#: What is made of a package: its slides as a PDF, the pages with their notes as one, or a template.
Kind = Literal["pdf", "notes", "otp"]


class _Filter(NamedTuple):
    """What the program is asked for, and the ending of what it makes."""

    asked: str
    ending: str


_FILTERS: dict[Kind, _Filter] = {
    "pdf": _Filter(f"pdf:impress_pdf_Export:{json.dumps(_OPTIONS)}", "pdf"),
    "notes": _Filter(f"pdf:impress_pdf_Export:{json.dumps({**_OPTIONS, **_NOTES})}", "pdf"),
    "otp": _Filter("otp:impress8_template", "otp"),
}
#: There is no such host: whatever asks for one through it gets no answer.
_NO_WAY_OUT = "http://127.0.0.1:9"


class Piece(NamedTuple):
    """A piece of text on a slide: its words, its color, its size in CSS pixels, whether it is bold, its box (left, top,
    right, bottom, as parts of the slide), and the face that it is set in."""

    text: str
    ink: Rgb
    size: float
    bold: bool
    box: tuple[float, float, float, float]
    face: str


class Slide(NamedTuple):
    """A slide: its pieces of text, and its pixels without them, shape (height, width, 3)."""

    pieces: list[Piece]
    pixels: npt.NDArray[np.uint8]


def picture(package: bytes, page: int, side: int, kind: Kind = "pdf") -> bytes:
    """A slide, or its notes, as a PNG whose longer side is `side` pixels. Raises ValueError when it cannot be shown."""
    with _opened(package, kind) as pdf:
        return _png(pdf[min(page, len(pdf) - 1)], side)


def pictures(package: bytes, side: int) -> Iterator[bytes]:
    """Every slide as a PNG whose longer side is `side` pixels. Raises ValueError when they cannot be shown."""
    with _opened(package) as pdf:
        for number in range(len(pdf)):
            yield _png(pdf[number], side)


def pdf(package: bytes) -> bytes:
    """The slides as a PDF. Raises ValueError when they cannot be shown."""
    return made(package).read_bytes()


def pixels(package: bytes, side: int, kind: Kind = "pdf") -> Iterator[npt.NDArray[np.uint8]]:
    """Every slide, or the notes of each, in pixels, shape (height, width, 3). Raises ValueError when it cannot be
    shown."""
    with _opened(package, kind) as pdf:
        for number in range(len(pdf)):
            yield _rendered(pdf[number], side)


def slides(package: bytes, side: int) -> Iterator[Slide]:
    """The slides with their texts apart. Raises ValueError when they cannot be shown."""
    with _opened(package) as pdf:
        for number in range(len(pdf)):
            yield _taken_apart(pdf[number], side)


@contextmanager
def any_slide(package: bytes, side: int) -> Iterator[Callable[[int], Slide]]:
    """Gives those slides, by their numbers, that are asked for, with their texts apart. Raises ValueError when they
    cannot be shown."""
    with _opened(package) as pdf:
        yield lambda number: _taken_apart(pdf[min(number, len(pdf) - 1)], side)


def _taken_apart(page: Any, side: int) -> Slide:
    pieces = list(_without_texts(page))
    return Slide(pieces, _rendered(page, side))


def _png(page: Any, side: int) -> bytes:
    target = BytesIO()
    _image(page, side).save(target, "PNG")
    return target.getvalue()


def _rendered(page: Any, side: int) -> npt.NDArray[np.uint8]:
    import numpy as np

    return np.asarray(_image(page, side))


def _image(page: Any, side: int) -> Any:
    width, height = page.get_size()
    scale = side / max(width, height)
    # The engine rounds up, which would add a line of nothing.
    size = max(round(width * scale), 1), max(round(height * scale), 1)
    return page.render(scale=scale).to_pil().convert("RGB").crop((0, 0, *size))


def _without_texts(page: Any) -> Iterator[Piece]:
    """The pieces of text of a page, which are painted on it no more."""
    from pypdfium2 import raw

    from pavese.core.color.srgb import Rgb

    width, height = page.get_size()
    words = page.get_textpage()
    for each in page.get_objects(filter=[raw.FPDF_PAGEOBJ_TEXT], max_depth=8):
        channels = [ctypes.c_uint() for _ in range(4)]
        raw.FPDFPageObj_GetFillColor(each.raw, *channels)
        r, g, b, alpha = (one.value for one in channels)
        raw.FPDFPageObj_SetFillColor(each.raw, r, g, b, 0)
        raw.FPDFPageObj_SetStrokeColor(each.raw, r, g, b, 0)
        text = _said(raw, each, words)
        if not text.strip() or not alpha:
            continue
        left, bottom, right, top = each.get_bounds()
        size = ctypes.c_float()
        raw.FPDFTextObj_GetFontSize(each.raw, size)
        _, _, _, upright, _, _ = each.get_matrix().get()
        font = raw.FPDFTextObj_GetFont(each.raw)
        bold = bool(font) and (raw.FPDFFont_GetWeight(font) >= _BOLD or "Bold" in _called(raw, font))
        yield Piece(
            text,
            Rgb(r, g, b),
            abs(size.value * upright) * _PIXELS_PER_INCH / _POINTS_PER_INCH,
            bold,
            (left / width, 1 - top / height, right / width, 1 - bottom / height),
            _family(raw, font) if font else "",
        )


def _said(raw: Any, each: Any, words: Any) -> str:
    length = raw.FPDFTextObj_GetText(each.raw, words.raw, None, 0)
    room = ctypes.create_string_buffer(length * 2)
    raw.FPDFTextObj_GetText(each.raw, words.raw, ctypes.cast(room, ctypes.POINTER(ctypes.c_ushort)), length)
    return room.raw.decode("utf-16-le", errors="replace").split("\0")[0]


def _family(raw: Any, font: Any) -> str:
    room = ctypes.create_string_buffer(120)
    raw.FPDFFont_GetFamilyName(font, room, len(room))
    return room.value.decode(errors="replace")


def _called(raw: Any, font: Any) -> str:
    room = ctypes.create_string_buffer(120)
    raw.FPDFFont_GetBaseFontName(font, room, len(room))
    return room.value.decode(errors="replace")


@contextmanager
def _opened(package: bytes, kind: Kind = "pdf") -> Iterator[Any]:
    from pypdfium2 import PdfDocument, PdfiumError

    try:
        pdf = PdfDocument(made(package, kind))
    except PdfiumError as error:
        raise ValueError("the office program made nothing that can be shown") from error
    try:
        yield pdf
    finally:
        pdf.close()


def open_template(package: bytes) -> bytes:
    """A deck as an OpenDocument template. Raises ValueError with the reason."""
    return made(package, "otp").read_bytes()


def made(package: bytes, kind: Kind = "pdf") -> Path:
    """A package as a PDF of its slides, or as another kind, made unless it is there. Raises ValueError with the
    reason."""
    name = hashlib.sha256(package).hexdigest()
    folder = _folder()
    target = folder / f"{name}.{kind}"
    with (folder / "lock").open("a") as kept, (folder / f"{name[:2]}.lock").open("a") as lock:
        # Who wants the same at the same time waits for it rather than making it, too.
        fcntl.flock(lock, fcntl.LOCK_EX)
        if target.exists():
            os.utime(target)
            return target
        source = folder / f"{name}-{os.getpid()}.{_ending(package)}"
        try:
            source.write_bytes(package)
            came = _convert(source, folder, _FILTERS[kind])
            came.rename(target)
        finally:
            for left in (source, source.with_suffix(f".{_FILTERS[kind].ending}")):
                left.unlink(missing_ok=True)
        fcntl.flock(kept, fcntl.LOCK_EX)
        _prune(folder, target)
    return target


def _convert(source: Path, folder: Path, wanted: _Filter) -> Path:
    program = _program()
    if program is None:
        raise ValueError("slides are drawn by LibreOffice Impress, which this machine lacks (libreoffice-impress)")
    command = [
        *program, f"-env:UserInstallation=file://{_profile()}", "--headless", "--norestore",
        "--nolockcheck", "--convert-to", wanted.asked, "--outdir", str(folder), str(source),
    ]  # fmt: skip
    for _ in range(2):
        try:
            ended = subprocess.run(command, env=_environment(), capture_output=True, timeout=SECONDS)
        except subprocess.TimeoutExpired as error:
            raise ValueError(f"the office program took longer than {SECONDS:g} seconds") from error
        if ended.returncode != _START_AGAIN:
            break
    came = source.with_suffix(f".{wanted.ending}")
    if not came.exists():
        raise ValueError("the office program cannot show it")
    return came


def _ending(package: bytes) -> str:
    """By which the program is told what a package is: in OpenDocument a file of this name stands first."""
    return "odp" if package[30:].startswith(b"mimetype") else "pptx"


def warm() -> None:
    """Gets the program ready for this process, which takes some seconds: a deck is about to come."""
    program = _program()
    if program is not None and not (profile := _profile()).exists():
        command = [*program, f"-env:UserInstallation=file://{profile}", "--headless", "--terminate_after_init"]
        with suppress(subprocess.TimeoutExpired):
            subprocess.run(command, env=_environment(), capture_output=True, timeout=_WARM_SECONDS)


@cache
def _profile() -> Path:
    """The first of the profiles that no other process uses; it is this one's as long as it lives."""
    for number in count():
        lock = (_folder() / f"profile-{number}.lock").open("a")
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            lock.close()
        else:
            _held.append(lock)
            return _folder() / f"profile-{number}"
    raise AssertionError


_held: list[IO[str]] = []


def _environment() -> dict[str, str]:
    closed = {"http_proxy": _NO_WAY_OUT, "https_proxy": _NO_WAY_OUT, "SAL_USE_VCLPLUGIN": "svp", "HOME": str(_folder())}
    return {**os.environ, **closed, **({"FONTCONFIG_FILE": str(_fonts())} if _fonts_dir else {})}


#: Where the typefaces lie that ship with the application; decks are shown in them, too.
_fonts_dir: list[Path] = []


def use_fonts(folder: Path) -> None:
    """Shows decks in the typefaces of a folder, beside those of the machine."""
    _fonts_dir[:] = [folder.resolve()]


def _fonts() -> Path:
    """What tells the program of them (fontconfig's user manual, *Configuration file format*)."""
    content = (
        '<?xml version="1.0"?><!DOCTYPE fontconfig SYSTEM "urn:fontconfig:fonts.dtd"><fontconfig>'
        f'<include ignore_missing="yes">/etc/fonts/fonts.conf</include><dir>{escape(str(_fonts_dir[0]))}</dir>'
        "</fontconfig>"
    )
    target = _folder() / f"fonts-{hashlib.sha256(content.encode()).hexdigest()[:16]}.conf"
    if not target.exists():
        made = target.with_suffix(f".{os.getpid()}")
        made.write_text(content)
        made.rename(target)
    return target


@cache
def _program() -> tuple[str, ...] | None:
    """The program itself, past the script that starts it, so that it ends with whoever started it."""
    script = shutil.which("soffice") or shutil.which("libreoffice")
    if script is None:
        return None
    program = Path(script).resolve().parent / "soffice.bin"
    if not program.exists():
        return (script,)
    ends_with_us = shutil.which("setpriv")
    return (ends_with_us, "--pdeathsig", "KILL", str(program)) if ends_with_us else (str(program),)


def _folder() -> Path:
    """Where what was made is kept: of this user alone."""
    folder = Path(tempfile.gettempdir()) / f"pavese-slides-{os.getuid()}"
    folder.mkdir(mode=0o700, exist_ok=True)
    if folder.stat().st_uid != os.getuid():
        raise ValueError("the folder in which slides are drawn belongs to somebody else")
    return folder


def _prune(folder: Path, newest: Path) -> None:
    """Leaves what was used last."""
    kept = sorted((one for kind in _FILTERS for one in folder.glob(f"*.{kind}")), key=lambda one: -_used(one))
    left = _KEPT * 1024 * 1024
    for one in kept:
        with suppress(OSError):
            left -= one.stat().st_size
            if left < 0 and one != newest:
                one.unlink()


def _used(path: Path) -> float:
    try:
        return path.stat().st_mtime
    except OSError:
        return 0.0
