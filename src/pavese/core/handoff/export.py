"""What a set can be handed over as: forms, sizes, grounds and names."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Collection, Iterable
from dataclasses import dataclass
from enum import StrEnum
from posixpath import splitext
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, field_validator

from pavese.core.formats.format import Can
from pavese.core.formats.lottie.staging import Motion
from pavese.core.kit.token import TokenText

#: The longer side of the largest picture that is made, in pixels.
LARGEST = 4096


class ExportForm(StrEnum):
    """The forms there are; see `OUTPUTS`."""

    ORIGINAL = "as it came"
    VARIABLES = "SVG with variables"
    PNG = "PNG"
    JPEG = "JPEG"
    STILL_WEBP = "WebP"
    AVIF = "AVIF"
    PDF = "PDF"
    LOTTIE = "Lottie"
    GIF = "GIF"
    WEBP = "animated WebP"
    WEBM = "WebM"
    MP4 = "MP4"
    FAVICON = "favicon and app icons"
    SPRITE = "SVG sprite"
    CONTACT = "contact sheet"
    PROOF = "proof of mails"
    SLIDES_PDF = "PDF of slides"
    SLIDES_PNG = "PNG of slides"
    SLIDES_PROOF = "proof of slides"


class Scope(StrEnum):
    """What one form is made of."""

    FILE = "file"
    SET = "set"


@dataclass(frozen=True)
class Output:
    """A form, in plain words for the one who chooses; `needs` is what a file must be able to, for this to be made of
    it; `in_motion` forms are made of still files too, once a motion is chosen; `sized` ones in the wanted sizes."""

    words: str
    needs: frozenset[Can] = frozenset()
    scope: Scope = Scope.FILE
    in_motion: bool = False
    sized: bool = False

    def of(self, can: Collection[Can], motion: Motion | None) -> bool:
        """Whether it is made of files that can so much."""
        moved = self.in_motion and motion is not None and Can.MOTION in can
        return self.needs <= set(can) or moved


_STILL, _VECTOR, _LINKS, _ANIMATED, _LAID_OUT, _SLIDES = (
    frozenset((one,)) for one in (Can.STILL, Can.VECTOR, Can.LINKS, Can.ANIMATED, Can.LAID_OUT, Can.SLIDES)
)

OUTPUTS: dict[ExportForm, Output] = {
    ExportForm.ORIGINAL: Output("each file in its own format, recolored"),
    ExportForm.VARIABLES: Output(
        "colors as CSS variables of the kit, so that a drawing follows the page it stands in", _LINKS
    ),
    ExportForm.PNG: Output("in the sizes below, transparent or on a ground", _STILL, sized=True),
    ExportForm.JPEG: Output("in the sizes below, on a ground, white where none is chosen", _STILL, sized=True),
    ExportForm.STILL_WEBP: Output("in the sizes below, for pages; what is flat without loss", _STILL, sized=True),
    ExportForm.AVIF: Output("in the sizes below, for pages: the smallest files", _STILL, sized=True),
    ExportForm.PDF: Output("one page each, drawings as vectors", _STILL),
    ExportForm.LOTTIE: Output(
        "animations, and drawings set in motion: vector where they are plain shapes",
        _ANIMATED,
        in_motion=True,
        sized=True,
    ),
    ExportForm.GIF: Output("animations, for mail and chat", _ANIMATED, in_motion=True, sized=True),
    ExportForm.WEBP: Output("animations, for pages", _ANIMATED, in_motion=True, sized=True),
    ExportForm.WEBM: Output("animations as film (VP9), on a ground", _ANIMATED, in_motion=True, sized=True),
    ExportForm.MP4: Output("animations as film (H.264), on a ground", _ANIMATED, in_motion=True, sized=True),
    ExportForm.FAVICON: Output("an .ico and the sizes that phones and browsers ask for", _STILL),
    ExportForm.SPRITE: Output("all drawings in one file, each a symbol", _STILL | _VECTOR, Scope.SET),
    ExportForm.PROOF: Output(
        "a PDF a mail: before and after as readers see it, every text on its ground with its level",
        _LAID_OUT,
    ),
    ExportForm.SLIDES_PDF: Output("a PDF a deck, of all slides that are shown", _SLIDES),
    ExportForm.SLIDES_PNG: Output("every slide that is shown, in the sizes below", _SLIDES, sized=True),
    ExportForm.SLIDES_PROOF: Output(
        "a PDF a deck: every slide before and after, every text on its ground with its level", _SLIDES
    ),
    ExportForm.CONTACT: Output("a PDF with all of them at a glance", scope=Scope.SET),
}

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

    def steps(self, files: Iterable[Collection[Can]]) -> int:
        """How many things are to be made of files that can so much each."""
        counted = Counter(frozenset(can) for can in files)
        chosen = [OUTPUTS[form] for form in self.forms]
        of_files = [one for one in chosen if one.scope is Scope.FILE]
        return sum(count * sum(one.of(can, self.motion) for one in of_files) for can, count in counted.items()) + sum(
            one.scope is Scope.SET for one in chosen
        )

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
