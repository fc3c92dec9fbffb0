"""Whether what a lens saw is told from what was drawn: photographs of general packages, cut, made smaller and saved in
every way that pages have them, and the drawings of a package of sprites."""

from __future__ import annotations

import io
import random
from collections.abc import Iterator
from pathlib import Path

from PIL import Image, ImageDraw

from fetch import PICTURES, folder_of
from figures import figure
from pavese.core.formats import read
from pavese.core.formats.picture.document import PictureDocument

_SEED = 8
_PHOTOGRAPHS = (
    *("astronaut.png", "camera.png", "chelsea.png", "coffee.png", "rocket.jpg", "moon.png", "motorcycle_left.png"),
    *("brick.png", "grass.png", "gravel.png"),
)
_CUTS, _SIDES = 12, (64, 96, 128, 240, 480, 900)
_WAYS = ("PNG", "palette", "GIF", "grey", "JPEG", "round")
_DRAWINGS = 200
#: Much of a picture is a photograph, or none of it that one sees.
_NEARLY_ALL, _HARDLY = 0.9, 0.1


def photographs() -> None:
    """How many photographs stay as they are, and how many drawings do not because they are taken for such."""
    seen, drawn = (folder_of(package) for package in PICTURES)
    if not (seen.exists() and drawn.exists()):
        print("the corpus has not been fetched (python benchmarks/fetch.py); figures of photographs are left out")
        return
    shares = [_unknown(name, data) for name, data in _cuts(seen)]
    kept = sum(share >= _NEARLY_ALL for share in shares)
    figure(f"{len(shares)} photographs kept, nine tenths of each", 100 * kept / len(shares), 90, "%", at_least=True)
    of_drawings = [_unknown(path.name, path.read_bytes()) for path in _spread(drawn)]
    taken = sum(share >= _HARDLY for share in of_drawings)
    figure(f"{len(of_drawings)} sprites taken for photographs, in part", 100 * taken / len(of_drawings), 2, "%")


def _spread(folder: Path) -> list[Path]:
    paths = sorted(folder.rglob("*.png"))
    return paths[:: max(len(paths) // _DRAWINGS, 1)]


def _unknown(name: str, data: bytes) -> float:
    """What part of a picture no paint tells."""
    document = read(name, data)
    assert isinstance(document, PictureDocument)
    return 1 - document.known_part


def _cuts(folder: Path) -> Iterator[tuple[str, bytes]]:
    dice = random.Random(_SEED)
    for name in _PHOTOGRAPHS:
        with Image.open(next(folder.rglob(name))) as whole:
            image = whole.convert("RGB")
        for number in range(_CUTS):
            side, way = dice.choice(_SIDES), _WAYS[number % len(_WAYS)]
            of = dice.uniform(0.4, 1) * min(image.size)
            left, top = (dice.uniform(0, whole - of) for whole in image.size)
            cut = image.crop((round(left), round(top), round(left + of), round(top + of)))
            yield _saved(cut.resize((side, side), Image.Resampling.LANCZOS), way)


def _saved(picture: Image.Image, way: str) -> tuple[str, bytes]:
    kind = way if way in ("JPEG", "GIF") else "PNG"
    if way in ("palette", "GIF"):
        picture = picture.quantize(256)
    elif way == "grey":
        picture = picture.convert("L")
    elif way == "round":
        disc = Image.new("L", [side * 4 for side in picture.size])
        ImageDraw.Draw(disc).ellipse((0, 0, disc.width - 1, disc.height - 1), fill=255)
        picture.putalpha(disc.resize(picture.size))
    target = io.BytesIO()
    picture.save(target, kind, quality=88)
    return f"cut.{kind.lower().replace('jpeg', 'jpg')}", target.getvalue()


if __name__ == "__main__":
    photographs()
