"""A picture is taken apart once, by whoever asks first; what is kept of it gives the same picture, and can be lost."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats import read
from pavese.core.formats.picture import document
from pavese.core.formats.picture.document import PictureDocument
from pavese.core.pictures import kept
from pavese.core.pictures.packed import packed, unpacked
from pavese.core.recolor.recoloring import Recoloring
from pavese.render import shelf
from pavese.render.shelf import FolderShelf
from tests.formats.rasters import FIELD, fields, saved
from tests.formats.test_striped import INK, PAPER, screen

INKS = (Rgb(21, 96, 130), Rgb(240, 240, 232), Rgb(200, 40, 40))
NEW = Rgb(90, 20, 120)


def shaded() -> Image.Image:
    """Fields with soft edges beside a gradient between two of their colors."""
    part = np.linspace(0, 1, 4 * FIELD)[None, :, None]
    shades = np.rint(part * np.array(INKS[0]) + (1 - part) * np.array(INKS[1])).astype(np.uint8)
    plain = np.asarray(fields(INKS).resize((4 * FIELD, 4 * FIELD), Image.Resampling.BICUBIC))
    return Image.fromarray(np.concatenate([plain, np.repeat(shades, FIELD, axis=0)]))


FILES = {
    "shaded.png": saved(shaded(), "PNG"),
    "shaded.jpg": saved(shaded(), "JPEG", quality=85),
    "striped.png": saved(screen(INK, PAPER, PAPER).resize((300, 200), Image.Resampling.NEAREST), "PNG"),
}


@pytest.fixture(autouse=True)
def nothing_is_kept_afterwards() -> Iterator[None]:
    yield
    kept.keep_nothing()


@pytest.fixture
def asked(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """What was taken apart, by its size."""
    found: list[str] = []
    take_apart = document.unmixed

    def counted(pixels: np.ndarray, *more: object) -> object:
        found.append(str(pixels.shape))
        return take_apart(pixels, *more)  # type: ignore[arg-type]

    monkeypatch.setattr(document, "unmixed", counted)
    return found


def recolored(name: str) -> bytes:
    opened = read(name, FILES[name])
    assert isinstance(opened, PictureDocument)
    return opened.write(Recoloring({Rgba(*opened.paints[0][:3], 1.0): NEW}))


@pytest.mark.parametrize("name", FILES)
def test_what_was_kept_gives_the_same_file(name: str, tmp_path: Path, asked: list[str]) -> None:
    before = recolored(name)
    kept.keep_on(FolderShelf(tmp_path))
    assert recolored(name) == before
    asked.clear()
    # Another process, or this one after a start.
    kept.keep_on(FolderShelf(tmp_path))
    assert recolored(name) == before
    assert not asked


def test_of_what_other_code_made_nothing_is_taken(
    tmp_path: Path, asked: list[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    kept.keep_on(FolderShelf(tmp_path))
    recolored("shaded.png")
    asked.clear()
    monkeypatch.setattr(shelf, "_made_by", lambda: "other")
    kept.keep_on(FolderShelf(tmp_path))
    recolored("shaded.png")
    assert asked


def test_what_was_cut_off_is_made_anew(tmp_path: Path) -> None:
    before = recolored("shaded.png")
    mixture = read("shaded.png", FILES["shaded.png"])._mixture  # type: ignore[attr-defined]
    assert packed(mixture, most=1000) is None, "one that is too large is not kept"
    found = packed(mixture, most=10_000_000)
    assert found is not None
    for cut in (b"", found[: len(found) // 2], b"nothing of the kind"):
        with pytest.raises(ValueError, match="no mixture"):
            unpacked(cut)

    class Cut:
        put_back: bytes = b""

        def get(self, name: str) -> bytes:
            return found[:-9]

        def put(self, name: str, data: bytes) -> None:
            self.put_back = data

    cut_off = Cut()
    kept.keep_on(cut_off)
    assert recolored("shaded.png") == before
    assert cut_off.put_back == found


def test_there_is_room_for_so_much_and_a_folder_that_fails_costs_nothing(tmp_path: Path) -> None:
    small = FolderShelf(tmp_path / "small", room=400_000)
    for number in range(120):
        small.put(str(number), bytes(40_000))
    assert sum(path.stat().st_size for path in (tmp_path / "small").rglob("*.val")) <= 800_000
    (tmp_path / "no folder").write_bytes(b"")
    none = FolderShelf(tmp_path / "no folder")
    none.put("one", b"1")
    assert none.get("one") is None
