"""What the children need, imported for all of them in the process that they are split off from (`children`): it has no
bounds of its own, and no file comes to it."""

import playwright.sync_api
import resvg

from pavese.render import draw, film, pictures_inside, pixels, pointed, proofs, reading, rendering, sheet

__all__ = [
    "draw",
    "film",
    "pictures_inside",
    "pixels",
    "playwright",
    "pointed",
    "proofs",
    "reading",
    "rendering",
    "resvg",
    "sheet",
]
