"""Setting a sheet as PDF, with nothing but the shipped typefaces."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from pathlib import Path

import typst

from pavese.core.errors import PaveseError


class CannotSetError(PaveseError):
    """A sheet that could not be set, with the reason."""


def set_pdf(files: Mapping[str, bytes], fonts_dir: Path, day: date) -> bytes:
    """A tagged PDF of the file `main` and what it reads; the same files give the same bytes.

    Raises CannotSetError, for example for a picture that cannot be placed.
    """
    moment = int((day - date(1970, 1, 1)).total_seconds())
    try:
        return bytes(
            # Its types do not tell that several files may be given by name.
            typst.compile(  # type: ignore[call-overload]
                dict(files), font_paths=[str(fonts_dir)], ignore_system_fonts=True, timestamp=moment
            )
        )
    except typst.TypstError as error:
        raise CannotSetError(f"The sheet cannot be set: {str(error).splitlines()[0][:200]}") from error
