"""What is taken is told by the application, once, and by no list in the interface."""

from __future__ import annotations

import re
from pathlib import Path

from fastapi.testclient import TestClient

from pavese.core.formats import FORMATS
from pavese.demo.animations import animation_files
from tests.api.test_sets import RED, Json, kit, start
from tests.conftest import files_of

__all__ = ["kit"]

VIEWS = Path(__file__).parents[2] / "frontend" / "src"


def test_the_interface_is_told_what_is_taken_and_what_each_format_can(client: TestClient, kit: Json) -> None:
    told = client.get("/api/formats").json()
    known = {one["key"]: one for one in told["formats"]}
    assert list(known) == [one.key for one in FORMATS]
    endings = [ending for one in FORMATS for ending in one.endings]
    assert len({*endings}) == len(endings), "an ending stands for one format"
    assert {*endings} < {*told["accepts"]["set"]}
    drawings = "SVG icons and illustrations, Lottie animations, dotLottie packages"
    decks = "slide decks (.pptx), slide decks in OpenDocument (.odp)"
    pictures = "PNG pictures, JPEG pictures, GIF pictures, WebP pictures, AVIF pictures and TIFF pictures"
    assert told["words"] == f"{drawings}, mails in HTML, mails as they are sent (.eml), {decks}, {pictures}"
    moving = next(item for item in animation_files().items() if item[0].endswith(".json"))
    view = start(client, kit, ("a.svg", RED), moving)
    for file, key in zip(files_of(client, view["id"]), ("svg", "lottie"), strict=True):
        assert file["can"] == known[key]["can"]
    # What cannot be laid on a backing is none of those that are.
    path, backing = f"/api/sets/{view['id']}", {"color": "fog.base"}
    laid = client.put(f"{path}/acts/backing", json={"settings": backing, "which": {"only": "all"}})
    assert laid.status_code == 200
    assert [file["acts"].get("backing") is not None for file in files_of(client, view["id"])] == [True, False]


def test_no_view_lists_endings_of_files() -> None:
    listing = re.compile(r"""(?<!:)accept="[.\w]|['"]\.(svg|json|lottie|zip|png|pptx)['"]""")
    for path in sorted([*VIEWS.rglob("*.vue"), *VIEWS.rglob("*.ts")]):
        found = listing.search(path.read_text())
        assert not found or path.name == "schema.d.ts" or found[0] == "'.zip'", f"{path.name}: {found and found[0]}"
