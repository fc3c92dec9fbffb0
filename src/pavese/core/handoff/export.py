"""What a set can be handed over as: forms, sizes, grounds and names."""

from __future__ import annotations

import re
from enum import StrEnum
from posixpath import splitext
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, field_validator

from pavese.core.formats.lottie.staging import Motion
from pavese.core.kit.token import TokenText

#: The longer side of the largest picture that is made, in pixels.
LARGEST = 4096


class ExportForm(StrEnum):
    """The forms there are; each is made of still files, of moving ones, of both, or once of the whole set."""

    ORIGINAL = "as it came"
    VARIABLES = "SVG with variables"
    PNG = "PNG"
    PDF = "PDF"
    LOTTIE = "Lottie"
    GIF = "GIF"
    WEBP = "animated WebP"
    WEBM = "WebM"
    MP4 = "MP4"
    FAVICON = "favicon and app icons"
    SPRITE = "SVG sprite"
    CONTACT = "contact sheet"


#: In plain words, for the one who chooses.
FORM_WORDS: dict[ExportForm, str] = {
    ExportForm.ORIGINAL: "each file in its own format, recolored",
    ExportForm.VARIABLES: "colors as CSS variables of the kit, so that a drawing follows the page it stands in",
    ExportForm.PNG: "in the sizes below, transparent or on a ground",
    ExportForm.PDF: "vector, one page a drawing",
    ExportForm.LOTTIE: "animations, and drawings set in motion: vector where they are plain shapes",
    ExportForm.GIF: "animations, for mail and chat",
    ExportForm.WEBP: "animations, for pages",
    ExportForm.WEBM: "animations as film (VP9), on a ground",
    ExportForm.MP4: "animations as film (H.264), on a ground",
    ExportForm.FAVICON: "an .ico and the sizes that phones and browsers ask for",
    ExportForm.SPRITE: "all drawings in one file, each a symbol",
    ExportForm.CONTACT: "a PDF with all of them at a glance",
}
STILL = frozenset((ExportForm.VARIABLES, ExportForm.PNG, ExportForm.PDF, ExportForm.FAVICON, ExportForm.SPRITE))
MOVING = frozenset((ExportForm.LOTTIE, ExportForm.GIF, ExportForm.WEBP, ExportForm.WEBM, ExportForm.MP4))
#: Those that are made in the wanted sizes.
SIZED = MOVING | {ExportForm.PNG}
OF_THE_SET = frozenset((ExportForm.SPRITE, ExportForm.CONTACT))

_FIELD = re.compile(r"\{(\w+)\}")
_FIELDS = frozenset(("name", "size", "scale", "set", "number"))


class Export(BaseModel):
    """An order: `sizes` is the longer side in pixels, each also at `scales` times that; `ground` is a token, None is
    transparent (films get white); `motion` sets still files in motion for the forms that move; `pattern` names
    pictures, with {name}, {size}, {scale}, {set} and {number}."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    forms: tuple[ExportForm, ...] = Field(default=(ExportForm.ORIGINAL,), min_length=1, max_length=len(ExportForm))
    sizes: tuple[Annotated[int, Field(ge=8, le=2048)], ...] = Field(default=(64,), min_length=1, max_length=8)
    scales: tuple[Annotated[int, Field(ge=1, le=4)], ...] = Field(default=(1,), min_length=1, max_length=4)
    ground: Annotated[TokenText, Field(max_length=90, pattern=r"^[a-z0-9-]+\.[a-z0-9]+$")] | None = None
    motion: Motion | None = None
    pattern: str = Field(default="{name}-{size}@{scale}x", min_length=1, max_length=80)

    @field_validator("pattern")
    @classmethod
    def _known_fields(cls, pattern: str) -> str:
        unknown = set(_FIELD.findall(pattern)) - _FIELDS
        if unknown or "{" in _FIELD.sub("", pattern) or "}" in _FIELD.sub("", pattern):
            raise ValueError("names may use {name}, {size}, {scale}, {set} and {number}")
        if re.search(r'[\x00-\x1f\x7f<>:"|?*\\\ud800-\udfff]', pattern) or ".." in pattern or pattern.startswith("/"):
            raise ValueError("names of files may not hold such characters")
        return pattern

    def pictures(self) -> list[tuple[int, int]]:
        """Every (size, scale) that is not beyond LARGEST."""
        return [(size, scale) for size in self.sizes for scale in self.scales if size * scale <= LARGEST]

    def steps(self, stills: int, moving: int) -> int:
        """How many things are to be made of so many files."""
        of_files = sum(
            (stills if form not in MOVING or self.motion else 0) + (moving if form not in STILL else 0)
            for form in self.forms
            if form not in OF_THE_SET
        )
        return of_files + sum(form in OF_THE_SET for form in self.forms)

    def named(self, path: str, *, size: int, scale: int, set_name: str, number: int) -> str:
        """The path of a picture without its ending, in the folder of its file."""
        stem = splitext(path)[0]
        folder, _, name = stem.rpartition("/")
        fields = {
            "name": name,
            "size": size,
            "scale": scale,
            "set": set_name.replace("/", "-"),
            "number": f"{number:03}",
        }
        made = _FIELD.sub(lambda match: str(fields[match[1]]), self.pattern)
        return f"{folder}/{made}" if folder else made
