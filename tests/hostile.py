"""Files that somebody made to bring a reader down, by code: small ones, each with what is to become of it."""

from __future__ import annotations

import gzip
import io
import json
import zipfile
import zlib
from collections.abc import Iterator
from typing import Any, NamedTuple

SVG = "http://www.w3.org/2000/svg"


class Hostile(NamedTuple):
    """A file, and a word of the reason it is refused for; None where it is to be taken."""

    title: str
    name: str
    data: bytes
    reason: str | None


def drawing(inner: str, root: str = "", head: str = "") -> bytes:
    """An SVG with this inside."""
    return f'{head}<svg xmlns="{SVG}" {root}>{inner}</svg>'.encode()


def zipped(*files: tuple[str, bytes], method: int = zipfile.ZIP_DEFLATED) -> bytes:
    """A zip of (path, bytes)."""
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", method) as archive:
        for path, data in files:
            archive.writestr(path, data)
    return target.getvalue()


def png_claiming(width: int, height: int) -> bytes:
    """A PNG that says it is so large, and holds a few bytes."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        body = kind + data
        return len(data).to_bytes(4, "big") + body + zlib.crc32(body).to_bytes(4, "big")

    head = width.to_bytes(4, "big") + height.to_bytes(4, "big") + b"\x08\x06\0\0\0"
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(b"\0" * 64)) + chunk(b"IEND", b"")


def gif_claiming(width: int, height: int) -> bytes:
    """A GIF of a few bytes that says it is so large."""
    size = width.to_bytes(2, "little") + height.to_bytes(2, "little")
    image = b"\x2c\0\0\0\0" + size + b"\0\x02\x02\x4c\x01\0"
    return b"GIF89a" + size + b"\x80\0\0\0\0\0\xff\xff\xff" + image + b"\x3b"


def _grouped(depth: int) -> dict[str, Any]:
    shape: dict[str, Any] = {"ty": "fl", "c": {"a": 0, "k": [1, 0, 0, 1]}}
    for _ in range(depth):
        shape = {"ty": "gr", "it": [shape]}
    return shape


def _animation(**layer: Any) -> bytes:
    body = {"v": "5.7.0", "w": 100, "h": 100, "ip": 0, "op": 1, "fr": 30, "layers": [{"ty": 4, **layer}]}
    return json.dumps(body).encode()


def _damaged(data: bytes, at: int) -> bytes:
    return data[:at] + bytes([data[at] ^ 0xFF]) + data[at + 1 :]


_SHAPE = '<path fill="red" d="M0 0h9v9z"/>'
#: Numbers that no color has, in every notation; each is clamped and taken.
NUMBERS = (
    "rgb(1e400 0 0)", "rgb(0 0 0 / 1e400)", "hsl(1e400 50% 50%)", "hsl(30 1e400% 50%)", "hwb(1e400 0% 0%)",
    "lab(50 1e400 0)", "lab(1e400 0 0)", "lch(50 1e308 1e308)", "oklab(0.5 1e300 -1e300)", "oklch(0.5 0.1 1e400)",
    "oklch(1e308 1e308 1e308)", "color(srgb 1e400 0 0)", "color(xyz 1e308 1 1)", "color(prophoto-rgb -1e300 0 1e300)",
)  # fmt: skip


def drawings() -> Iterator[Hostile]:
    """What is dropped in Apply."""
    plain, icons = drawing(_SHAPE), drawing(_SHAPE * 50)
    for encoding in ("cp1259", "iso-8859-99", "windows-1259"):
        yield Hostile(encoding, "a.svg", f"<?xml version='1.0' encoding='{encoding}'?><svg/>".encode(), "encoding")
    yield Hostile("open brackets", "a.svg", drawing(f'<path fill="{"(" * 100_000}"/>'), "nested")
    yield Hostile("nested var()", "a.svg", drawing(f'<path fill="{"var(--a," * 3000}{")" * 3000}"/>'), "nested")
    yield Hostile("nested at-rules", "a.svg", drawing(f"<style>{'@media{' * 5000}</style>"), "nested")
    yield Hostile("nested rules", "a.svg", drawing(f"<style>{'a{' * 20_000}</style>"), "nested")
    nots = f"<style>{':not(' * 2000}a{')' * 2000}{{fill:red}}</style><g/>"
    yield Hostile("nested :not()", "a.svg", drawing(nots), "nested")
    steps = f"<style>{'g ' * 1000}{{fill:red}}</style><g/>"
    yield Hostile("a long selector", "a.svg", drawing(steps), "steps")
    rules = "".join(f"g .c{n}{{fill:#00{n:04x}}}" for n in range(6000))
    yield Hostile("many selectors", "a.svg", drawing(f"<style>{rules}</style>{'<g/>' * 3000}"), "selectors")
    yield Hostile("tiny viewBox", "a.svg", drawing(_SHAPE, 'viewBox="0 0 1e-320 1e-320"'), None)
    yield Hostile("a line", "a.svg", drawing(_SHAPE, 'width="1e9" height="1"'), None)
    yield Hostile("endless", "a.svg", drawing(_SHAPE, 'width="1e400" height="-1e400"'), None)
    for color in NUMBERS:
        yield Hostile(color, "a.svg", drawing(f'<path fill="{color}" d="M0 0h9v9z"/>'), None)
    many = "".join(f'<stop stop-color="#{n * 3000 % 0xFFFFFF:06x}"/>' for n in range(5000))
    yield Hostile("5,000 stops", "a.svg", drawing(f"<linearGradient>{many}</linearGradient>"), "5,000 colors")
    yield Hostile("30,000 paints", "a.svg", drawing("".join(f'<g fill="#{n:06x}"/>' for n in range(30_000))), "colors")
    yield Hostile("190,000 elements", "a.svg", drawing('<g fill="red"/>' * 190_000), "elements")
    yield Hostile("svgz in pieces", "a.svgz", gzip.compress(b"") * 100_000 + gzip.compress(plain), "pieces")
    yield Hostile("svgz cut short", "a.svgz", gzip.compress(icons)[:-20], "cut short")
    yield Hostile("240 groups", "a.json", _animation(shapes=[_grouped(240)]), "nested")
    yield Hostile("900 arrays", "a.json", b'{"layers":[{"ty":4,"x":' + b"[" * 900 + b"]" * 900 + b"}]}", "nested")
    yield Hostile("90,000 arrays", "a.json", b'{"layers":' + b"[" * 90_000 + b"]" * 90_000 + b"}", "JSON")
    for method, title in ((zipfile.ZIP_BZIP2, "bz2"), (zipfile.ZIP_LZMA, "lzma")):
        packed = zipped(("a.svg", icons), method=method)
        yield Hostile(title, "a.zip", packed, "packed in a way")
        yield Hostile(f"broken {title}", "a.zip", _damaged(packed, 60), "packed in a way")
        yield Hostile(f"{title} in a dotLottie", "a.lottie", packed, "packed in a way")
    yield Hostile(
        "a name that is no text", "a.zip", zipped(("é.svg", plain)).replace("é".encode(), b"\xff\xfe"), "UTF-8"
    )
    deck = (("[Content_Types].xml", b"<Types/>"), ("ppt/media/image1.svg", plain), ("ppt/slides/slide1.xml", b"<p/>"))
    yield Hostile("a deck without one", "briefing.pptx", zipped(*deck), "no presentation")
    yield Hostile("a document", "briefing.docx", zipped(*deck), "deck")
    yield Hostile(
        "an open deck without one", "a.odp", zipped(("mimetype", b"x"), ("Pictures/a.svg", plain)), "no present"
    )
    yield Hostile("an open document", "a.odt", zipped(("mimetype", b"x"), ("Pictures/a.svg", plain)), "deck")


def entities() -> Iterator[Hostile]:
    """Drawings that declare entities: plain ones are taken, all others are doors to something."""

    def with_entities(declared: str, inner: str = "") -> bytes:
        return drawing(inner or _SHAPE, head=f"<!DOCTYPE svg [{declared}]>")

    yield Hostile("plain", "a.svg", with_entities('<!ENTITY st0 "fill:#F00;">', '<g style="&st0;"/>'), None)
    yield Hostile("nested", "a.svg", with_entities('<!ENTITY a "x"><!ENTITY b "&a;&a;">'), "entity")
    yield Hostile("external", "a.svg", with_entities('<!ENTITY a SYSTEM "file:///etc/hostname">'), "entity")
    yield Hostile("parameter", "a.svg", with_entities('<!ENTITY % a "x">'), "entity")
    yield Hostile("markup", "a.svg", with_entities("<!ENTITY a '<g/>'>"), "entity")
    yield Hostile("long", "a.svg", with_entities(f'<!ENTITY a "{"x" * 2000}">'), "entity")
    bomb = with_entities(f'<!ENTITY a "{"x" * 900}">', f"<text>{'&a;' * 5000}</text>")
    yield Hostile("used too often", "a.svg", bomb, "larger")
    many = "".join(f'<!ENTITY e{n} "x">' for n in range(500))
    yield Hostile("many", "a.svg", with_entities(many), "entities")


def codes() -> Iterator[Hostile]:
    """What is dropped in Gather and read for codes."""
    yield Hostile("a long field", "a.csv", b"name,hex\nSea," + b"x" * 140_000 + b"\n", "table")
    yield Hostile("bare CR", "a.csv", b"name,hex\rSea,#0b5e6b\rFog,#eef0ec\r", None)
    yield Hostile("$value at the root", "a.json", b'{"$value": "#0b5e6b", "base": {"$value": "#0b5e6b"}}', None)
    yield Hostile("base alone", "a.json", b'{"base": {"$type": "color", "$value": "#0b5e6b"}}', None)
    huge = {"base": {"$value": {"colorSpace": "oklch", "components": [1e308, 1e308, 1e308]}}}
    yield Hostile("oklch of 1e308", "a.json", json.dumps(huge).encode(), None)


def pictures() -> Iterator[Hostile]:
    """Pictures that are small as files and claim to be large, or are cut."""
    yield Hostile("PNG of 16,000 x 16,000", "a.png", png_claiming(16_000, 16_000), "million pixels")
    yield Hostile("PNG of 7,000 x 7,000", "a.png", png_claiming(7_000, 7_000), "cut short")
    yield Hostile("GIF of 8,000 x 8,000", "a.gif", gif_claiming(8_000, 8_000), "cut short")
    yield Hostile("GIF of 60,000 x 60,000", "a.gif", gif_claiming(60_000, 60_000), "million pixels")
