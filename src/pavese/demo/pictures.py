"""The logo of Tarnmoor Ferries and the pictures of its harbor board, drawn by code."""

from __future__ import annotations

import io

import numpy as np
from PIL import Image

from pavese.core.formats.document import Notation, Preview
from pavese.render.draw import draw

_WIDE = 900


def logo() -> bytes:
    """The mark of Tarnmoor Ferries: a bow over two waves, see-through around it."""
    return b"""<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 240 160">
<title>Tarnmoor Ferries</title>
<path d="M30 70h180l-34 46H64z" fill="#0b5e6b"/>
<path d="M92 26h44v38H92z" fill="#0b5e6b"/>
<path d="M146 10h22v54h-22z" fill="#d2452d"/>
<path d="M20 132c22-14 44-14 66 0s44 14 66 0 44-14 66 0v14c-22-14-44-14-66 0s-44 14-66 0-44-14-66 0z" fill="#0b5e6b"/>
</svg>
"""


def board_pictures() -> dict[str, bytes]:
    """File name to content: two drawings, and one with the grain and the compression of a photo."""
    return {
        "harbor-morning.jpg": _grainy(_drawn(_MORNING)),
        "kelp-shore.png": _drawn(_SHORE),
        "harbor-lamp.png": _drawn(_LAMP),
    }


_HEAD = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 300 200">'
_MORNING = """<defs><linearGradient id="s" x2="0" y2="1"><stop stop-color="#8fb3c4"/><stop offset="1"
stop-color="#f3d9b8"/></linearGradient></defs><rect width="300" height="200" fill="url(#s)"/>
<path d="M0 96c40-26 70-22 110-6s80-30 190 4v106H0z" fill="#5d7f8a"/>
<path d="M0 118c50-12 110-10 160 0s90 6 140-4v86H0z" fill="#2c6a77"/>
<path d="M120 92h96l-14 22h-70z" fill="#f4f1e8"/><path d="M138 74h52v18h-52z" fill="#f4f1e8"/>
<path d="M170 58h14v18h-14z" fill="#c8432f"/><path d="M126 100h84l-3 5h-77z" fill="#c8432f"/>
<path d="M0 150c60-10 120-4 180 4s80 4 120-2v48H0z" fill="#1c5562"/>"""
_SHORE = """<rect width="300" height="200" fill="#d9dcd2"/>
<path d="M0 40c50-14 90 8 150 0s100-10 150 4v60H0z" fill="#9fb4b2"/>
<path d="M0 96c40-18 70-10 104-2s66 30 110 18 60-10 86-4v92H0z" fill="#6b7d3a"/>
<path d="M20 160c22-30 44-30 60-6s40 30 64 10 46-14 62 6 50 14 74 2v28H20z" fill="#47552a"/>
<path d="M180 128c14-10 34-10 44 2s2 18-18 18-38-10-26-20z" fill="#b9a77c"/>"""
_LAMP = """<rect width="200" height="240" fill="#16252b"/>
<path d="M84 60h32l10 130H74z" fill="#7d878c"/><path d="M62 190h76v14H62z" fill="#4a565c"/>
<circle cx="100" cy="44" r="26" fill="#efb23a"/><circle cx="100" cy="44" r="13" fill="#fbe6b4"/>
<path d="M70 18h60l-30-14z" fill="#4a565c"/>"""


def _drawn(body: str) -> bytes:
    head = _HEAD.replace("300 200", "200 240") if body is _LAMP else _HEAD
    return draw(Preview(Notation.VECTOR, f"{head}{body}</svg>".encode()), _WIDE)


def _grainy(png: bytes) -> bytes:
    with Image.open(io.BytesIO(png)) as image:
        pixels = np.asarray(image.convert("RGB")).astype(np.float64)
    noise = np.random.default_rng(7).normal(0, 5, pixels.shape)
    out = io.BytesIO()
    Image.fromarray(np.clip(pixels + noise, 0, 255).astype(np.uint8)).save(out, "JPEG", quality=88)
    return out.getvalue()
