"""Deck signage of Tarnmoor Ferries: thirty icons in the colors of its old look."""

from __future__ import annotations

from pavese.demo.shapes import NOTATIONS, Shape, area, box, disc, line, ring, svg

NAVY, BLUE, SKY, PALE = "#2f3e9e", "#5c6bc0", "#6fb6e8", "#cfe3f2"
RED, BRICK, AMBER, SAND = "#e53935", "#b3261e", "#ffca28", "#ffe29a"
GREEN, SKIN, WHITE, INK, SLATE = "#43a047", "#d9a37e", "#ffffff", "#000000", "#607d8b"

ICONS: dict[str, list[Shape]] = {
    "crossing": [
        area(NAVY, "M6 28h36l-5 9H11z"),
        box(WHITE, 12, 21, 24, 7),
        box(SKY, 15, 23, 4, 3),
        box(SKY, 22, 23, 4, 3),
        box(SKY, 29, 23, 4, 3),
        box(RED, 26, 11, 6, 10),
        box(AMBER, 26, 14, 6, 3),
        line(SKY, 2.5, "M4 41c4-3 7-3 10 0s7 3 10 0 7-3 10 0 7 3 10 0"),
    ],
    "lifebuoy": [
        ring(RED, 9, 24, 24, 14.5),
        area(WHITE, "M20 4.9h8v9.5h-8zM20 33.6h8v9.5h-8zM4.9 20v8h9.5v-8zM33.6 20v8h9.5v-8z"),
        ring(NAVY, 1.5, 24, 24, 19.4),
        ring(NAVY, 1.5, 24, 24, 9.8),
    ],
    "harbor-light": [
        area(SAND, "M27 12 44 7v12zM21 12 4 7v12z"),
        area(WHITE, "M19 16h10l3 24H16z"),
        area(RED, "M18.2 22h11.6l.8 6H17.4zM16.7 34h14.6l.7 6H16z"),
        box(AMBER, 20, 10, 8, 6),
        area(NAVY, "M18 10l6-6 6 6z"),
        box(NAVY, 12, 40, 24, 3),
    ],
    "ticket": [
        box(NAVY, 5, 12, 38, 24, 3),
        box(SKY, 5, 12, 38, 6),
        line(WHITE, 2, "M10 24h12M10 29h8"),
        box(AMBER, 30, 23, 8, 8, 1),
    ],
    "luggage": [
        ring(NAVY, 3, 24, 14, 6),
        box(AMBER, 7, 16, 34, 24, 3),
        box(NAVY, 7, 26, 34, 3),
        box(WHITE, 21, 23, 6, 9, 1),
        box(SAND, 11, 19, 4, 4),
    ],
    "mooring": [
        ring(NAVY, 3, 24, 9, 4),
        line(NAVY, 3.5, "M24 13v27"),
        line(RED, 3.5, "M15 19h18"),
        line(SKY, 4, "M8 28c1 8 8 13 16 13s15-5 16-13"),
    ],
    "steward": [
        disc(SKIN, 24, 15, 8),
        area(NAVY, "M14 13c0-6 5-9 10-9s10 3 10 9z"),
        area(SKY, "M9 43c0-11 6-17 15-17s15 6 15 17z"),
        area(AMBER, "M18 27h12v16H18z"),
        line(NAVY, 2, "M24 30v13"),
    ],
    "caution": [
        area(AMBER, "M24 5 45 42H3z"),
        line(INK, 4, "M24 18v11"),
        disc(INK, 24, 36, 2.6),
    ],
    "life-jacket": [
        area(AMBER, "M13 6h7l4 10 4-10h7l5 36H8z"),
        area(RED, "M12 22h24l1 7H11z"),
        line(NAVY, 2, "M24 16v26"),
        box(WHITE, 21, 23.5, 6, 4, 1),
    ],
    "assembly-point": [
        box(GREEN, 4, 4, 40, 40, 4),
        disc(WHITE, 24, 15, 4),
        disc(WHITE, 14, 20, 3),
        disc(WHITE, 34, 20, 3),
        area(WHITE, "M17 34c0-8 2-13 7-13s7 5 7 13zM9 34c0-6 2-10 5-10 2 0 3 1 3 3-1 2-2 4-2 7zM39 34c0-6-2-10-5-10"
             "-2 0-3 1-3 3 1 2 2 4 2 7z"),
        area(SAND, "M8 8h7l-7 7zM40 8v7l-7-7z"),
    ],
    "first-aid": [
        box(WHITE, 5, 14, 38, 27, 4),
        ring(SLATE, 2.5, 24, 13, 6),
        box(GREEN, 7, 16, 34, 23, 3),
        area(WHITE, "M21 19h6v6h6v6h-6v6h-6v-6h-6v-6h6z"),
    ],
    "extinguisher": [
        box(RED, 15, 17, 16, 26, 5),
        box(BRICK, 15, 26, 16, 8),
        box(INK, 19, 10, 8, 6),
        line(INK, 2.5, "M27 12h6l6 5v8"),
        line(WHITE, 2, "M19 22v3"),
    ],
    "galley": [
        area(BLUE, "M9 18h24v12c0 6-4 10-12 10S9 36 9 30z"),
        line(BLUE, 3, "M33 21h4a5 5 0 0 1 0 10h-4"),
        line(SKY, 2.5, "M15 13c-2-3 2-4 0-8M22 13c-2-3 2-4 0-8M29 13c-2-3 2-4 0-8"),
        box(NAVY, 6, 41, 30, 3, 1.5),
    ],
    "car-deck": [
        area(RED, "M8 24l4-9h22l5 9 4 2v9H5v-9z"),
        area(PALE, "M14 17h8v7H11zM25 17h8l4 7H25z"),
        disc(INK, 14, 35, 5),
        disc(INK, 34, 35, 5),
        disc(WHITE, 14, 35, 2),
        disc(WHITE, 34, 35, 2),
        box(AMBER, 40, 27, 3, 3),
    ],
    "bicycles": [
        ring(NAVY, 2.5, 12, 31, 8),
        ring(NAVY, 2.5, 36, 31, 8),
        line(RED, 3, "M12 31l8-14h11l5 14M20 17l6 14h-14M26 31l6-14"),
        line(INK, 2.5, "M16 14h6M30 13h5l2 3"),
    ],
    "timetable": [
        disc(NAVY, 24, 24, 20),
        disc(WHITE, 24, 24, 16),
        line(NAVY, 3, "M24 14v10l7 5"),
        area(RED, "M23 5h2v5h-2zM23 38h2v5h-2zM5 23v2h5v-2zM38 23v2h5v-2z"),
        disc(AMBER, 24, 24, 2.4),
    ],
    "stairs": [
        area(SKY, "M5 42V34h9v-8h9v-8h9v-8h11v32z"),
        line(NAVY, 3, "M5 34h9v-8h9v-8h9v-8h11"),
        area(AMBER, "M10 8h10v4l6-6-6-6v4H10z"),
    ],
    "lift": [
        box(SLATE, 9, 5, 30, 38, 3),
        box(PALE, 13, 9, 22, 30),
        area(NAVY, "M24 13l6 8H18z"),
        area(RED, "M24 35l-6-8h12z"),
    ],
    "step-free": [
        disc(NAVY, 20, 8, 4),
        line(NAVY, 4, "M20 14v12h11l5 11"),
        line(SKY, 3.5, "M15 21a12 12 0 1 0 15 15"),
        line(NAVY, 3, "M20 19h9"),
    ],
    "dogs": [
        area(SLATE, "M10 20l4-8h6l3 8h13l6-5-2 9v16h-6v-9H20v9h-6V28l-5-2z"),
        area(INK, "M14 12l-2-5 6 5z"),
        line(RED, 3, "M14 24h9"),
        disc(WHITE, 15, 17, 1.6),
        disc(AMBER, 18, 27, 2),
    ],
    "sea-state": [
        box(PALE, 4, 6, 40, 36, 3),
        disc(AMBER, 33, 16, 5),
        line(SKY, 3, "M6 26c4-4 8-4 12 0s8 4 12 0 8-4 12 0"),
        line(NAVY, 3, "M6 34c4-4 8-4 12 0s8 4 12 0 8-4 12 0"),
    ],
    "wind": [
        line(SLATE, 3, "M9 5v38"),
        area(RED, "M10 8l10 2v12l-10 2z"),
        area(WHITE, "M20 10l9 2v8l-9 2z"),
        area(RED, "M29 12l8 2v4l-8 2z"),
        line(SKY, 2, "M18 30h18M22 35h18M18 40h14"),
    ],
    "gangway": [
        area(NAVY, "M4 6h10v26H4z"),
        area(SKY, "M4 32h40v10H4z"),
        line(AMBER, 4, "M14 14l26 18"),
        line(INK, 2, "M14 7l26 18M20 11v8M27 16v8M34 21v8"),
    ],
    "radio": [
        box(INK, 14, 14, 20, 30, 4),
        line(INK, 3, "M30 14V4"),
        box(SKY, 18, 18, 12, 8, 1),
        disc(RED, 20, 33, 2.5),
        disc(AMBER, 28, 33, 2.5),
        line(SLATE, 2, "M19 39h10"),
    ],
    "bell": [
        area(AMBER, "M24 6c9 0 11 7 11 15 0 7 3 9 5 12H8c2-3 5-5 5-12 0-8 2-15 11-15z"),
        box(NAVY, 6, 33, 36, 4, 2),
        disc(NAVY, 24, 41, 4),
        line(SAND, 2.5, "M18 19c0-4 1-7 4-8"),
    ],
    "island-map": [
        box(SKY, 4, 7, 40, 34, 2),
        area(GREEN, "M10 28c-2-7 5-13 12-11s13-3 15 4-3 8-9 9-15 6-18-2z"),
        line(WHITE, 2, "M15 27c4 0 4-5 9-5s5-3 8-2"),
        area(RED, "M31 10c4 0 6 3 6 6 0 4-6 9-6 9s-6-5-6-9c0-3 2-6 6-6z"),
        disc(WHITE, 31, 16, 2.2),
    ],
    "quiet-deck": [
        disc(PALE, 24, 24, 20),
        area(NAVY, "M29 7a17 17 0 1 0 11 25A15 15 0 0 1 29 7z"),
        line(SLATE, 2.5, "M30 15h7l-7 8h7"),
        disc(AMBER, 16, 33, 2),
    ],
    "no-entry": [
        disc(RED, 24, 24, 20),
        ring(BRICK, 2, 24, 24, 19),
        box(WHITE, 11, 20, 26, 8, 1),
    ],
    "parcel": [
        area(SAND, "M6 16l18-9 18 9-18 9z"),
        area(AMBER, "M6 16l18 9v18L6 34z"),
        area("#d99a1c", "M42 16l-18 9v18l18-9z"),
        area(RED, "M15 11.5l18 9v7l-4-1v-4L11 13.5z"),
        line(INK, 1.5, "M10 29l6 3"),
    ],
    "crew": [
        disc(SKIN, 16, 17, 6),
        disc("#8d5a3b", 33, 17, 6),
        area(NAVY, "M9 15c0-5 3-8 7-8s7 3 7 8zM26 15c0-5 3-8 7-8s7 3 7 8z"),
        area(SKY, "M4 40c0-9 5-14 12-14s12 5 12 14z"),
        area(BLUE, "M22 40c0-9 5-14 11-14s11 5 11 14z"),
        area(AMBER, "M14 26h4l-2 6zM31 26h4l-2 6z"),
    ],
}  # fmt: skip


def icon_files() -> dict[str, bytes]:
    """File name to content; the notations take turns."""
    return {
        f"{name}.svg": svg(shapes, NOTATIONS[number % len(NOTATIONS)], name.replace("-", " ").capitalize())
        for number, (name, shapes) in enumerate(ICONS.items())
    }
