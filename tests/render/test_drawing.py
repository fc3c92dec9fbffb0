"""Pictures: what is recolored is what is seen, and no file brings the application down."""

from __future__ import annotations

import contextlib
import io
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.document import Notation, Preview
from pavese.core.formats.svg import read_svg
from pavese.core.kit.typefaces import stand_in
from pavese.demo.icons import icon_files
from pavese.demo.illustrations import illustration_files
from pavese.render.pool import CannotDrawError, DrawingPool
from pavese.settings import settings

TEAL = Rgb(11, 94, 107)
NS = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'


@pytest.fixture(scope="module")
def pool() -> Iterator[DrawingPool]:
    started = DrawingPool(2, settings().fonts_dir)
    yield started
    started.close()


def pixels(png: bytes) -> np.ndarray:
    return np.asarray(Image.open(io.BytesIO(png)).convert("RGBA")).reshape(-1, 4).astype(int)


@pytest.mark.parametrize(("name", "data"), [*icon_files().items(), *illustration_files().items()])
def test_with_every_paint_in_one_color_nothing_else_is_seen(pool: DrawingPool, name: str, data: bytes) -> None:
    document = read_svg(name, data)
    seen = pixels(pool.png(document.preview(dict.fromkeys(document.inventory().paints, TEAL)), 96))
    solid = seen[seen[:, 3] > 200]
    assert len(solid) > 200
    assert np.abs(solid[:, :3] - TEAL).max() <= 6


@pytest.mark.parametrize(
    "notation", ["oklch(0.4436 0.0742 212)", "rgb(11 94 107 / 100%)", "var(--x, #0b5e6b)", "var(--y)"]
)
def test_notations_the_engine_does_not_know_are_drawn(pool: DrawingPool, notation: str) -> None:
    sheet = "<style>:root{--y: hsl(188 81% 23%)}</style>"
    data = f'<svg {NS} viewBox="0 0 9 9">{sheet}<path fill="{notation}" d="M0 0h9v9H0z"/></svg>'
    seen = pixels(pool.png(read_svg("x.svg", data.encode()).preview({}), 16))
    assert np.abs(seen[:, :3] - TEAL).max() <= 2


@pytest.mark.parametrize(
    ("mix", "wanted"),
    [
        ("in srgb, #d00 25%, #00f", (0, 57, 191)),
        ("in oklab, #d00, #d00 30%", (0, 229, 0)),
        ("in lch, var(--red) 100%, #00f", (0, 229, 0)),
        ("in some-space, #d00, #d00", (0, 229, 0)),
    ],
)
def test_colors_that_are_mixed_are_drawn_in_the_new_ones(pool: DrawingPool, mix: str, wanted: tuple[int, ...]) -> None:
    sheet = "<style>:root{--red:#d00}</style>"
    data = f'<svg {NS} viewBox="0 0 9 9">{sheet}<path style="fill:color-mix({mix})" d="M0 0h9v9H0z"/></svg>'
    document = read_svg("x.svg", data.encode())
    seen = pixels(pool.png(document.preview({Rgba(221, 0, 0): Rgb(0, 229, 0)}), 16))
    assert np.abs(seen[:, :3] - wanted).max() <= 1


@pytest.mark.parametrize(
    ("sheet", "style"),
    [
        (".a{width:min(var(--w), 4px);fill:#d00} .b{fill:#d00}", ""),
        (".a{fill:#d00}", "stroke-width:calc((2 + 1) * var(--w, 1px));fill:#d00"),
        ("svg{--w:1} .a{stroke:color-mix(in lch, var(--gone, red), #00f);stroke-width:0;fill:#d00} .b{fill:#d00}", ""),
        (".a{filter:drop-shadow(0 0 0 rgb(0 0 0 / calc(0 * 1)));fill:#d00}", "fill:#d00"),
        (".a{font:calc(1px * (2 + 1)) Quay;fill:#d00}", "font-family:'A (of (B))', serif;fill:#d00"),
    ],
)
def test_functions_within_others_cost_nothing_that_stands_beside_them(
    pool: DrawingPool, sheet: str, style: str
) -> None:
    paths = f'<path class="a" d="M0 0h5v9H0z"/><path class="b" style="{style}" d="M5 0h4v9H5z"/>'
    data = f'<svg {NS} viewBox="0 0 9 9"><style>{sheet}</style>{paths}</svg>'.encode()
    seen = pixels(pool.png(read_svg("x.svg", data).preview({Rgba(221, 0, 0): TEAL}), 16))
    assert np.abs(seen[:, :3] - TEAL).max() <= 2


@pytest.mark.parametrize("code", ["rgb(0 0 255 / 1)", "#00f"])
def test_a_shadow_is_drawn_in_its_color(pool: DrawingPool, code: str) -> None:
    head = f'<path style="filter:drop-shadow(2px 0 0 {code});fill:red"'
    document = read_svg("x.svg", f'<svg {NS} viewBox="0 0 9 9">{head} d="M0 0h3v9H0z"/></svg>'.encode())
    for color in (TEAL, Rgb(200, 120, 255), Rgb(0, 0, 0), Rgb(255, 255, 255)):
        seen = pixels(pool.png(document.preview({Rgba(0, 0, 255): color}), 90))
        # In very dark colors one step of linear light is a dozen of sRGB.
        assert (np.abs(seen[:, :3] - color).max(axis=1) <= 6).sum() > 500


def test_a_mask_keeps_its_shape_when_black_is_recolored(pool: DrawingPool) -> None:
    data = f"""<svg {NS} viewBox="0 0 20 10">
        <mask id="m"><path fill="#fff" d="M0 0h20v10H0z"/><path d="M0 0h10v10H0z"/></mask>
        <path d="M0 0h20v10H0z" mask="url(#m)"/></svg>""".encode()
    document = read_svg("x.svg", data)
    before = pixels(pool.png(document.preview({}), 40))
    after = pixels(pool.png(document.preview({Rgba(0, 0, 0): Rgb(255, 255, 255)}), 40))
    assert (before[:, 3] == after[:, 3]).all()
    assert (after[after[:, 3] > 0][:, :3] == 255).all()


@pytest.mark.parametrize(
    "head", ["", ' fill="var(--gone)"', ' fill="inherit"', ' style="fill:var(--gone)"', ' class="none"']
)
def test_implied_black_is_drawn_as_it_is_handed_over(pool: DrawingPool, head: str) -> None:
    data = f'<svg {NS} viewBox="0 0 9 9"{head}><style>.none{{stroke:var(--s,red)}}</style><path d="M0 0h9v9H0z"/></svg>'
    document = read_svg("x.svg", data.encode())
    recoloring = {Rgba(0, 0, 0): TEAL}
    seen = pixels(pool.png(document.preview(recoloring), 16))
    written = read_svg("x.svg", document.write(recoloring))
    assert (seen == pixels(pool.png(written.preview({}), 16))).all()
    assert (np.abs(seen[:, :3] - TEAL).max(axis=1) <= 2).sum() > 100


def test_lettering_is_drawn_in_the_shipped_typeface(pool: DrawingPool) -> None:
    for family in (
        "",
        ' font-family="Nowhere"',
        " style=\"fill:red;font-family: Nowhere, 'Else Where'\"",
        ' class="a"',
    ):
        sheet = "<style>.a{font-family:Nowhere;}</style>"
        data = f'<svg {NS} viewBox="0 0 90 20">{sheet}<text y="16"{family}>Tarn</text></svg>'
        drawn = pool.png(read_svg("x.svg", data.encode()).preview({}), 180)
        assert (pixels(drawn)[:, 3] > 200).sum() > 100


def test_files_outside_are_not_read(pool: DrawingPool, tmp_path: Path) -> None:
    picture = tmp_path / "secret.png"
    Image.new("RGB", (8, 8), (255, 0, 0)).save(picture)
    for href in (str(picture), picture.as_uri(), "http://127.0.0.1:1/x.png"):
        data = f'<svg {NS} viewBox="0 0 8 8"><image href="{href}" xlink:href="{href}" width="8" height="8"/></svg>'
        document = read_svg("x.svg", data.encode())
        assert pixels(pool.png(document.preview({}), 8))[:, 3].max() == 0
        assert any("not fetched" in remark for remark in document.inventory().remarks)


def test_hostile_files_end_with_a_reason_and_the_next_is_drawn(pool: DrawingPool) -> None:
    doubled = "".join(f'<g id="g{n}"><use href="#g{n - 1}"/><use href="#g{n - 1}"/></g>' for n in range(1, 40))
    bomb = f'<svg {NS} viewBox="0 0 9 9"><g id="g0"><path d="M0 0h9v9z"/></g>{doubled}<use href="#g39"/></svg>'
    wide = (
        f'<svg {NS} width="9" height="9" viewBox="0 0 9 9"><filter id="f"><feGaussianBlur stdDeviation="1e9"/></filter>'
        '<path filter="url(#f)" d="M0 0h9v9z"/></svg>'
    )
    for hostile in (bomb, wide):
        document = read_svg("x.svg", hostile.encode())
        # Whether the engine draws them or gives up is its own affair; it must come back with either.
        with contextlib.suppress(CannotDrawError):
            assert pool.png(document.preview({}), 64).startswith(b"\x89PNG")
    good = f'<svg {NS} viewBox="0 0 9 9"><path d="M0 0h9v9H0z"/></svg>'.encode()
    assert pool.png(read_svg("x.svg", good).preview({}), 10_000_000).startswith(b"\x89PNG")


@pytest.mark.parametrize(
    ("root", "size"),
    [
        ('viewBox="0 0 20 20"', (40, 40)),
        ('viewBox="0 0 20 5"', (40, 10)),
        ('viewBox="-8 4 5 20"', (10, 40)),
        ('width="2in" height="1in"', (40, 20)),
        ('width="30" viewBox="0 0 20 10"', (40, 20)),
        ('width="100%" height="100%" viewBox="0 0 20 10"', (40, 20)),
        ('viewBox="0 0 4000 1"', (40, 1)),
        ("", (40, 40)),
    ],
)
def test_a_picture_has_the_proportions_of_its_drawing(pool: DrawingPool, root: str, size: tuple[int, int]) -> None:
    data = f'<svg {NS} {root}><path d="M-99 -99h9999v9999h-9999z"/></svg>'.encode()
    with Image.open(io.BytesIO(pool.png(Preview(Notation.VECTOR, data), 40))) as picture:
        assert picture.size == size
        assert np.asarray(picture.convert("RGBA"))[..., 3].min() == 255, "it fills its picture"


def test_what_stands_before_a_drawing_does_no_harm(pool: DrawingPool) -> None:
    head = '<?xml version="1.0" encoding="UTF-16"?>\n<!DOCTYPE svg>\n<!-- <svg> -->\n'
    data = f'{head}<svg {NS} viewBox="0 0 9 9"><path fill="#0b5e6b" d="M0 0h9v9H0z"/></svg>'.encode()
    assert np.abs(pixels(pool.png(Preview(Notation.VECTOR, data), 16))[:, :3] - TEAL).max() == 0


@pytest.mark.parametrize(
    ("sheet", "said"),
    [("", 'font-family="{}"'), ("", 'style="font-family:{}"'), ("<style>.a{{font-family:{}}}</style>", 'class="a"')],
)
def test_typefaces_of_each_kind_have_a_stand_in_of_it(pool: DrawingPool, sheet: str, said: str) -> None:
    """Drawn with the face that is shipped for its kind, whatever the file names."""

    def drawn(families: str) -> bytes:
        own = sheet.format(families)
        data = f'<svg {NS} viewBox="0 0 90 20">{own}<text y="16" {said.format(families)}>Mil</text></svg>'
        return pool.png(read_svg("x.svg", data.encode()).preview({}), 180)

    sans, serif, mono = drawn("Commissioner"), drawn("'Source Serif 4'"), drawn("Spline Sans Mono")
    assert len({sans, serif, mono}) == 3
    assert drawn("sans-serif") == drawn("Nowhere") == sans
    grotesk = stand_in("Harbor Grotesk")
    assert grotesk is not None
    assert drawn("'Harbor Grotesk', serif") == drawn(f"'{grotesk.face}'")
    assert drawn("serif") == drawn("Fjord Serif") == serif
    assert drawn("Harbor Antiqua") == drawn("'EB Garamond'") != serif
    assert drawn("monospace") == drawn("Harbor Code, sans-serif") == mono


@pytest.mark.parametrize("data", [b"", b"text", b"<svg", b"<g/>", f"<svg {NS}><path d='M0 0'".encode(), b"\xff\xfe"])
def test_what_is_no_drawing_ends_with_a_reason(pool: DrawingPool, data: bytes) -> None:
    with pytest.raises(CannotDrawError, match=r"\w"):
        pool.png(Preview(Notation.VECTOR, data), 16)
