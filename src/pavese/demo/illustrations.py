"""Four route illustrations of Tarnmoor Ferries, with gradients, repeated parts, a mask and lettering."""

from __future__ import annotations

import math
from itertools import pairwise

_HEAD = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 320 200" font-family="sans-serif">'


def illustration_files() -> dict[str, bytes]:
    """File name to content."""
    drawn = {"dawn-crossing": _dawn(), "night-harbor": _night(), "island-route": _route(), "loading-day": _loading()}
    return {
        f"{name}.svg": f"{_HEAD}\n<title>{name.replace('-', ' ').capitalize()}</title>\n{body}\n</svg>\n".encode()
        for name, body in drawn.items()
    }


def _waves(y: float, height: float, length: float, phase: float = 0.0) -> str:
    """A closed area of water with a wavy upper edge."""
    points = [f"{x} {y + height * math.sin((x / length + phase) * 2 * math.pi):.1f}" for x in range(0, 321, 8)]
    return f"M0 200L{' L'.join(points)} L320 200Z"


def _hills(y: float, heights: list[float]) -> str:
    width = 320 / (len(heights) - 1)
    points = [(i * width, y - h) for i, h in enumerate(heights)]
    path = f"M0 200L0 {points[0][1]:.1f}"
    for (x0, y0), (x1, y1) in pairwise(points):
        middle = (x0 + x1) / 2
        path += f"C{middle:.1f} {y0:.1f} {middle:.1f} {y1:.1f} {x1:.1f} {y1:.1f}"
    return f"{path}L320 200Z"


_FERRY = """<g id="ferry">
    <path class="hull" d="M0 30h110l-12 22H14z"/>
    <path class="stripe" d="M4 37h102l-3 5H8z"/>
    <path class="house" d="M18 12h70v18H18z"/>
    <path class="glass" d="M24 17h10v7H24zM40 17h10v7H40zM56 17h10v7H56zM72 17h10v7H72z"/>
    <path class="funnel" d="M64-8h14v20H64z"/>
    <path class="band" d="M64-3h14v6H64z"/>
  </g>"""


def _dawn() -> str:
    return f"""<defs>
  <linearGradient id="sky" x1="0" y1="0" x2="0" y2="1">
    <stop offset="0" stop-color="#5c6bc0"/>
    <stop offset=".55" stop-color="#f2b6a0"/>
    <stop offset="1" style="stop-color:#ffe29a"/>
  </linearGradient>
  <radialGradient id="sun"><stop offset=".6" stop-color="#ffca28"/>
    <stop offset="1" stop-color="#ffca28" stop-opacity="0"/></radialGradient>
  <style>
    .hull {{ fill: #2f3e9e }} .stripe {{ fill: #e53935 }} .house {{ fill: #fff }} .glass {{ fill: #6fb6e8 }}
    .funnel {{ fill: #e53935 }} .band {{ fill: #ffca28 }}
  </style>
</defs>
<rect width="320" height="200" fill="url(#sky)"/>
<circle cx="232" cy="96" r="42" fill="url(#sun)"/>
<path d="{_hills(132, [12, 40, 22, 8, 26, 14, 4])}" fill="#7986cb"/>
<path d="{_hills(140, [2, 14, 30, 10, 4, 20, 30])}" fill="#3f4fa8"/>
<path d="{_waves(142, 2.5, 64)}" fill="#6fb6e8"/>
<g transform="translate(96 100)">{_FERRY}</g>
<path d="{_waves(158, 3, 80, 0.3)}" fill="#4a90c8"/>
<path d="{_waves(176, 3.5, 96, 0.6)}" fill="#2f6aa8"/>"""


def _night() -> str:
    stars = "".join(
        f'<circle cx="{(37 * n * n + 11) % 320}" cy="{(23 * n * n) % 84 + 6}" r="{0.8 + n % 3 * 0.4:g}"/>'
        for n in range(1, 26)
    )
    windows = "".join(
        f'<rect x="{x + 6 + 10 * column}" y="{y + 8 + 12 * row}" width="5" height="6" '
        f'fill="{"#ffca28" if (column + row + x) % 3 else "#37407a"}"/>'
        for x, y, columns, rows in ((20, 92, 3, 4), (62, 76, 4, 5), (246, 84, 4, 4))
        for column in range(columns)
        for row in range(rows)
    )
    return f"""<defs>
  <linearGradient id="night" x2="0" y2="1">
    <stop stop-color="#0d1238"/>
    <stop offset="1" stop-color="#2f3e9e"/>
  </linearGradient>
  <mask id="beam"><linearGradient id="fade"><stop stop-color="#fff"/><stop offset="1"/></linearGradient>
    <rect width="320" height="200" fill="url(#fade)"/></mask>
</defs>
<rect width="320" height="200" fill="url(#night)"/>
<g fill="#fff">{stars}</g>
<path d="M178 62 320 26v74z" fill="#ffe29a" opacity=".7" mask="url(#beam)"/>
<g fill="#1a2052"><path d="M20 92h36v60H20zM62 76h46v76H62zM246 84h46v68h-46z"/></g>
{windows}
<path d="M164 70h22l8 82h-38z" fill="white"/>
<path d="M162.600 88h25l1.600 18h-28zM159 124h32l1.600 16h-35z" fill="#e53935"/>
<path d="M166 56h18v14h-18z" fill="#ffca28"/>
<path d="M162 56l13-12 13 12z"/>
<path d="{_waves(152, 2, 60)}" fill="#253180"/>
<path d="{_waves(168, 3, 90, 0.4)}" fill="hsl(230, 55%, 22%)"/>
<path d="M150 158h50M158 166h34M166 174h20" stroke="#ffe29a" stroke-opacity=".6" stroke-width="2"/>"""


def _route() -> str:
    stops = ((52, 142, "Pier 1"), (128, 96, "Skerry"), (206, 118, "Northholm"), (276, 58, "Tarn Point"))
    marks = "".join(
        f'<circle cx="{x}" cy="{y}" r="7" class="halo"/><circle cx="{x}" cy="{y}" r="4" class="stop"/>'
        f'<text x="{x}" y="{y + 20}" text-anchor="middle" font-size="11">{name}</text>'
        for x, y, name in stops
    )
    return f"""<style><![CDATA[
  :root {{ --sea: #cfe3f2; --shallow: #e4f0f8; --land: #a5d6a7; }}
  .land {{ fill: var(--land); stroke: #43a047; stroke-width: 2 }}
  .halo {{ fill: #fff; stroke: rgb(229, 57, 53); stroke-width: 3 }}
  .stop {{ fill: rgb(229 57 53) }}
  .way {{ fill: none; stroke: #2f3e9e; stroke-width: 3; stroke-dasharray: 7 6; stroke-linecap: round }}
  text {{ fill: #1b1f3a }}
]]></style>
<rect width="320" height="200" style="fill: var(--sea)"/>
<path d="M0 40c60-30 100 20 160-6s100-40 160-10v110c-50 30-90-10-150 20S40 190 0 160z" style="fill: var(--shallow)"/>
<path class="land" d="M0 120c20-10 40 0 50 22s-10 58-50 58zM104 70c16-14 40-8 46 10s-14 34-32 30-30-26-14-40z"/>
<path class="land" d="M190 100c14-10 34-4 38 12s-18 26-30 20-20-24-8-32z"/>
<path class="land" d="M250 30c20-16 50-8 70-14v70c-30 6-60 4-72-14s-14-30 2-42z"/>
<path class="way" d="M52 142C80 140 96 110 128 96s56 24 78 22 44-44 70-60"/>
{marks}
<g transform="translate(30 34)" color="#2f3e9e"><circle r="18" fill="#fff" stroke="currentColor" stroke-width="2"/>
  <path d="M0-15 5 0H-5z" fill="#e53935"/><path d="M0 15-5 0H5z" fill="currentColor"/></g>"""


def _loading() -> str:
    cars = "".join(
        f'<g transform="translate({x} 132)"><path d="M2 20l6-12h26l8 12 4 2v10H0V22z" fill="{body}"/>'
        f'<path d="M11 11h9v9H7zM23 11h9l5 9H23z" fill="#cfe3f2"/>'
        f'<circle cx="11" cy="32" r="5"/><circle cx="35" cy="32" r="5"/></g>'
        for x, body in ((8, "#e53935"), (60, "#ffca28"), (112, "#43a047"))
    )
    return f"""<linearGradient id="air" x2="0" y2="1">
  <stop stop-color="#9fd0f0"/>
  <stop offset="1" stop-color="#fff"/>
</linearGradient>
<rect width="320" height="200" fill="url(#air)"/>
<path d="M40 40c6-12 22-10 26-2 8-4 16 2 14 10H36c-4-2-2-8 4-8z" fill="#ffffff" fill-opacity=".9"/>
<path d="M170 30c6-12 22-10 26-2 8-4 16 2 14 10h-44c-4-2-2-8 4-8z" fill="#ffffff" fill-opacity=".6"/>
<path d="M168 60h152v112H182z" fill="#2f3e9e"/>
<path d="M168 60h152v16H171z" fill="#5c6bc0"/>
<path d="M196 96h90v68h-86z" fill="#11173f"/>
<path d="M206 106h70v58h-68z" fill="#37407a"/>
<path d="M168 84h152v8H172z" fill="#e53935"/>
<path d="M150 164h50l60 8H150z" fill="#607d8b"/>
<path d="M0 168h200v32H0z" fill="#90a4ae"/>
<path d="M10 184h24M54 184h24M98 184h24M142 184h24" stroke="#fff" stroke-width="3"/>
<path d="{_waves(176, 2.5, 70)}" clip-path="url(#right)" fill="#6fb6e8"/>
<clipPath id="right"><path d="M200 160h120v40H200z"/></clipPath>
{cars}
<g transform="translate(168 118)"><circle cx="8" cy="6" r="6" fill="#d9a37e"/>
  <path d="M0 44c0-20 2-30 8-30s8 10 8 30z" fill="#ffca28"/><path d="M1 4c0-5 3-7 7-7s7 2 7 7z" fill="#2f3e9e"/>
  <path d="M14 20l12-10" stroke="#d9a37e" stroke-width="4" stroke-linecap="round"/>
  <path d="M26 10l2-8" stroke="#e53935" stroke-width="3" stroke-linecap="round"/></g>"""
