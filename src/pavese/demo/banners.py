"""Pictures that went out in the old look of Tarnmoor Ferries: banners, a table, a chart, a poster, a GIF that moves,
and two that are or hold photographs, drawn and weathered by code."""

from __future__ import annotations

import io

import numpy as np
from PIL import Image

from pavese.core.formats.document import Notation, Preview
from pavese.render.draw import draw, pixels_of

_INK, _NAVY, _RED, _YELLOW, _SKY, _PALE, _GREEN = (
    "#1b1f3a",
    "#2f3e9e",
    "#e53935",
    "#ffca28",
    "#6fb6e8",
    "#e4f0f8",
    "#43a047",
)
_FERRY = f"""<path d="M0 30h110l-12 22H14z" fill="{_NAVY}"/><path d="M4 37h102l-3 5H8z" fill="{_RED}"/>
<path d="M18 12h70v18H18z" fill="#fff"/><path d="M24 17h10v7H24zM40 17h10v7H40zM56 17h10v7H56zM72 17h10v7H72z"
fill="{_SKY}"/><path d="M64-8h14v20H64z" fill="{_RED}"/><path d="M64-3h14v6H64z" fill="{_YELLOW}"/>"""


def banner_files() -> dict[str, bytes]:
    """File name to content. The fonts must be loaded."""
    summer = _drawn(600, 314, _summer(), 1200)
    return {
        "summer-timetable.png": _saved(summer, "PNG"),
        "summer-timetable-small.jpg": _saved(summer.resize((640, 335), Image.Resampling.LANCZOS), "JPEG", quality=85),
        "passengers-by-route.png": _saved(_drawn(400, 300, _chart(), 900).quantize(64), "PNG"),
        "departures-board.png": _saved(_drawn(480, 270, _board(), 960), "PNG"),
        "foot-passengers.jpg": _saved(_mixed(), "JPEG", quality=90),
        "evening-crossing.png": _saved(_drawn(300, 400, _poster(), 800), "PNG"),
        "boarding-now.gif": _moving(),
        "harbor-wall.jpg": _saved(_weathered(_drawn(300, 200, _HARBOR, 900), 9), "JPEG", quality=88),
    }


def _drawn(width: int, height: int, body: str, side: int) -> Image.Image:
    head = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}" font-family="Commissioner">'
    made = draw(Preview(Notation.VECTOR, f"{head}{body}</svg>".encode()), side)
    return Image.fromarray(pixels_of(made)).convert("RGB")


def _saved(picture: Image.Image, kind: str, **options: int) -> bytes:
    target = io.BytesIO()
    picture.save(target, kind, **options)
    return target.getvalue()


def _summer() -> str:
    return f"""<rect width="600" height="314" fill="{_PALE}"/><circle cx="500" cy="84" r="52" fill="{_YELLOW}"/>
<path d="M0 232c60-18 120-18 180 0s120 18 180 0 120-18 240 0v82H0z" fill="{_SKY}"/>
<g transform="translate(352 176) scale(1.7)">{_FERRY}</g>
<path d="M0 268c60-16 120-16 180 0s120 16 180 0 120-16 240 0v46H0z" fill="{_NAVY}"/>
<text x="36" y="86" font-size="44" font-weight="700" fill="{_INK}">Summer timetable</text>
<text x="36" y="126" font-size="22" fill="{_INK}">Four crossings a day, from 2 May</text>
<rect x="36" y="150" width="176" height="46" rx="4" fill="{_RED}"/>
<text x="124" y="180" text-anchor="middle" font-size="20" font-weight="700" fill="#fff">Book a crossing</text>"""


def _chart() -> str:
    routes = (("Skerry", 148, _NAVY), ("Northholm", 96, _RED), ("Tarn Point", 182, _SKY), ("Pier 1", 60, _YELLOW))
    bars = "".join(
        f'<rect x="{56 + 84 * at}" y="{250 - high}" width="52" height="{high}" fill="{color}"/>'
        f'<text x="{82 + 84 * at}" y="268" text-anchor="middle" font-size="13" fill="{_INK}">{name}</text>'
        f'<text x="{82 + 84 * at}" y="{244 - high}" text-anchor="middle" font-size="13" fill="{_INK}">{high}</text>'
        for at, (name, high, color) in enumerate(routes)
    )
    return f"""<rect width="400" height="300" fill="#fff"/><path d="M44 250.500h336" stroke="{_INK}"/>{bars}
<text x="24" y="34" font-size="19" font-weight="700" fill="{_INK}">Thousand passengers by route</text>"""


def _board() -> str:
    rows = (
        ("08:10", "Skerry", "Boarding", _GREEN),
        ("09:40", "Northholm", "On time", "#fff"),
        ("11:15", "Tarn Point", "Delayed", _RED),
        ("12:30", "Skerry", "On time", "#fff"),
        ("14:05", "Pier 1", "Gate 2", _YELLOW),
    )
    lines = "".join(
        f'<rect y="{62 + 40 * at}" width="480" height="40" fill="{("#253180", "#1a2052")[at % 2]}"/>'
        f'<text x="20" y="{88 + 40 * at}" font-size="18" fill="#fff">{time}</text>'
        f'<text x="110" y="{88 + 40 * at}" font-size="18" fill="#fff">{to}</text>'
        f'<text x="340" y="{88 + 40 * at}" font-size="18" fill="{color}">{said}</text>'
        for at, (time, to, said, color) in enumerate(rows)
    )
    return f"""<rect width="480" height="270" fill="{_INK}"/><rect width="480" height="6" fill="{_RED}"/>
<text x="20" y="44" font-size="24" font-weight="700" fill="{_YELLOW}">Departures</text>{lines}"""


def _poster() -> str:
    return f"""<defs><linearGradient id="sky" x2="0" y2="1"><stop stop-color="#0d1238"/><stop offset=".7"
stop-color="{_NAVY}"/><stop offset="1" stop-color="#7986cb"/></linearGradient>
<radialGradient id="moon"><stop stop-color="#fff6d8"/><stop offset="1" stop-color="{_YELLOW}"/></radialGradient></defs>
<rect width="300" height="400" fill="url(#sky)"/><circle cx="214" cy="96" r="44" fill="url(#moon)"/>
<path d="M0 300c40-14 80-14 120 0s80 14 180-4v104H0z" fill="#1a2052"/>
<g transform="translate(70 236) scale(1.5)">{_FERRY}</g>
<path d="M0 330c40-12 80-12 120 0s80 12 180-4v74H0z" fill="#253180"/>
<text x="24" y="56" font-size="34" font-weight="700" fill="#fff">Evening</text>
<text x="24" y="92" font-size="34" font-weight="700" fill="#fff">crossing</text>
<text x="24" y="382" font-size="16" fill="{_YELLOW}">Last boat 22:40, every day but Sunday</text>"""


def _mixed() -> Image.Image:
    """A photograph beside a panel with lettering, as most banners are."""
    whole = _drawn(600, 300, _panel(), 1200)
    whole.paste(_weathered(_drawn(300, 300, _QUAY, 600), 10), (600, 0))
    return whole


def _panel() -> str:
    return f"""<rect width="600" height="300" fill="{_NAVY}"/><rect y="286" width="300" height="14" fill="{_YELLOW}"/>
<text x="28" y="96" font-size="40" font-weight="700" fill="#fff">On foot</text>
<text x="28" y="136" font-size="19" fill="#fff">Leave the car ashore and</text>
<text x="28" y="162" font-size="19" fill="#fff">cross for half the fare.</text>
<rect x="28" y="190" width="150" height="44" rx="4" fill="{_RED}"/>
<text x="103" y="219" text-anchor="middle" font-size="19" font-weight="700" fill="#fff">See fares</text>"""


_QUAY = """<rect width="300" height="300" fill="#b9c6c9"/><path d="M0 120c60-30 130-30 300 10v170H0z" fill="#75858a"/>
<path d="M0 190h300v110H0z" fill="#4c5f63"/><path d="M40 150h180l-22 44H64z" fill="#27424c"/>
<path d="M70 116h110v34H70z" fill="#d8d4c8"/><path d="M150 84h22v34h-22z" fill="#93402f"/>
<ellipse cx="236" cy="176" rx="14" ry="16" fill="#b98a68"/><path d="M214 196h44l10 80h-64z" fill="#6b5d33"/>
<ellipse cx="96" cy="214" rx="12" ry="14" fill="#8d6248"/><path d="M78 230h38l8 60H70z" fill="#8a2f33"/>"""
_HARBOR = """<rect width="300" height="200" fill="#c9cdc4"/><path d="M0 60c60-24 120-10 180-22s80 10 120 4v158H0z"
fill="#8d9b97"/><path d="M0 118h300v82H0z" fill="#56696d"/><path d="M0 96h140v40H0z" fill="#7a6f62"/>
<path d="M150 104h110l-16 32h-82z" fill="#2d4f86"/><path d="M176 84h56v20h-56z" fill="#e3dfd2"/>
<path d="M36 70h20v34H36z" fill="#a85a3a"/><ellipse cx="46" cy="60" rx="9" ry="11" fill="#c79a7a"/>"""


def _weathered(picture: Image.Image, grain: float) -> Image.Image:
    """A drawing with the light, the unevenness and the grain of a photograph."""
    pixels = np.asarray(picture).astype(np.float64)
    rows, columns = pixels.shape[:2]
    dice = np.random.default_rng(11)
    light = np.zeros((rows, columns))
    for cells, strength in ((5, 12.0), (24, 8.0), (90, 8.0)):
        rough = Image.fromarray(dice.normal(0, strength, (cells, cells)).astype(np.float32))
        light += np.asarray(rough.resize((columns, rows), Image.Resampling.BICUBIC))
    pixels += light[..., None] + dice.normal(0, grain, pixels.shape)
    return Image.fromarray(np.clip(pixels, 0, 255).astype(np.uint8))


def _moving() -> bytes:
    """A GIF of four frames, in which a gangway is let down."""
    frames = [
        _drawn(
            240,
            120,
            f'<rect width="240" height="120" fill="{_PALE}"/><path d="M0 92h240v28H0z" fill="{_SKY}"/>'
            f'<g transform="translate(96 34) scale(1.2)">{_FERRY}</g>'
            f'<path d="M8 84h60v8H8z" fill="{_INK}"/><path d="M66 84l44-{40 - 12 * at} 3 4-44 {40 - 12 * at}z" '
            f'fill="{_RED}"/><text x="10" y="24" font-size="16" font-weight="700" fill="{_INK}">Boarding now</text>',
            360,
        ).quantize(48, dither=Image.Dither.NONE)
        for at in range(4)
    ]
    target = io.BytesIO()
    frames[0].save(target, "GIF", save_all=True, append_images=frames[1:], duration=[400, 200, 200, 900], loop=0)
    return target.getvalue()
