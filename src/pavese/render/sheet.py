"""Setting a sheet as PDF, with nothing but the shipped typefaces and those that are given."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date
from pathlib import Path
from tempfile import TemporaryDirectory

import typst

from pavese.core.errors import PaveseError


class CannotSetError(PaveseError):
    """A sheet that could not be set, with the reason."""


#: Pixels of an inch of a page that is made a picture.
_PIXELS = 150.0


def set_png(files: Mapping[str, bytes], fonts_dir: Path) -> bytes:
    """The page of the file `main`, all of it, as PNG. Raises CannotSetError."""
    try:
        made = typst.compile(  # type: ignore[call-overload]
            dict(files), font_paths=[str(fonts_dir)], ignore_system_fonts=True, format="png", ppi=_PIXELS
        )
    except typst.TypstError as error:
        raise CannotSetError(f"The page cannot be set: {str(error).splitlines()[0][:200]}") from error
    return bytes(made[0] if isinstance(made, list) else made)


def set_pdf(files: Mapping[str, bytes], fonts_dir: Path, day: date, faces: Sequence[bytes] = ()) -> bytes:
    """A tagged PDF of the file `main` and what it reads, in the shipped typefaces and in `faces`; the same files give
    the same bytes.

    Raises CannotSetError, for example for a picture that cannot be placed.
    """
    moment = int((day - date(1970, 1, 1)).total_seconds())
    try:
        with TemporaryDirectory(prefix="pavese-faces-") as own:
            for number, face in enumerate(faces):
                (Path(own) / f"{number}.ttf").write_bytes(face)
            paths = [str(fonts_dir), own]
            # Its types do not tell that several files may be given by name.
            made = typst.compile(dict(files), font_paths=paths, ignore_system_fonts=True, timestamp=moment)  # type: ignore[call-overload]
            return bytes(made)
    except typst.TypstError as error:
        raise CannotSetError(f"The sheet cannot be set: {str(error).splitlines()[0][:200]}") from error
