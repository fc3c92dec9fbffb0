"""Sets of pictures: told by what comes, planned with drawings, given tones and grounds, handed over."""

from __future__ import annotations

import io
import zipfile
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from pavese.demo.banners import banner_files
from pavese.demo.mail import LOGO, mail_files, mail_logo
from pavese.render.draw import load_fonts
from pavese.settings import Settings, settings
from tests.api.test_exports import made
from tests.api.test_sets import drop, files_of, kit, start
from tests.formats.rasters import fields, saved

Json = Any
__all__ = ["kit"]
RED = b'<svg xmlns="http://www.w3.org/2000/svg"><path fill="#e53935" d="M0 0h9v9z"/></svg>'


@pytest.fixture(scope="module")
def banners() -> dict[str, bytes]:
    load_fonts(str(settings().fonts_dir))
    return banner_files()


def zipped(files: dict[str, bytes]) -> bytes:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return target.getvalue()


def test_an_empty_set_becomes_one_for_pictures_and_drawings_keep_theirs(client: TestClient, kit: Json) -> None:
    flat = saved(fields([(47, 62, 158), (255, 255, 255)]), "PNG")  # type: ignore[list-item]
    pictures = start(client, kit, ("a.png", flat), ("b.svg", RED), ("c.png", flat))
    assert (pictures["channel"], pictures["files"]) == ("images", 3)
    icons = start(client, kit, ("a.svg", RED), ("a.png", flat), ("b.svg", RED))
    assert (icons["channel"], icons["files"]) == ("icons", 2)
    [refused] = drop(client, icons["id"], ("late.png", b"not even a picture"))["refused"]
    assert "channel images" in refused["reason"], "it is not opened"


def test_pictures_that_belong_to_a_mail_are_none_of_the_set(client: TestClient, kit: Json) -> None:
    package = zipped({"departures.html": mail_files()["departures.html"], LOGO: mail_logo(), "spare.png": mail_logo()})
    mails = start(client, kit, ("mails.zip", package))
    assert (mails["channel"], mails["files"]) == ("email", 1)
    file = files_of(client, mails["id"])[0]
    assert client.get(f"/api/sets/{mails['id']}/files/{file['id']}").json()["beside"] == [LOGO]


def test_pictures_are_planned_toned_and_handed_over(
    client: TestClient, app_settings: Settings, database_url: str, kit: Json, banners: dict[str, bytes]
) -> None:
    row = start(client, kit, *banners.items())
    assert row["channel"] == "images"
    by_name = {file["name"]: file for file in files_of(client, row["id"])}
    assert by_name["harbor-wall.jpg"]["remarks"] == ["It is a photograph: nothing in it is flat."]
    wall = by_name["harbor-wall.jpg"]["id"]
    tones = {"tones": "two tones", "dark": f"{kit['colors'][0]['key']}.900", "light": f"{kit['colors'][0]['key']}.50"}
    asked = {"settings": tones, "names": ["harbor-wall.jpg"]}
    answer = client.put(f"/api/sets/{row['id']}/acts/photograph", json=asked)
    assert answer.status_code == 200, answer.text
    changed = client.get(f"/api/assets/{wall}/file", params={"of": row["id"]}).content
    with Image.open(io.BytesIO(banners["harbor-wall.jpg"])) as before, Image.open(io.BytesIO(changed)) as after:
        assert after.size == before.size
        spread = [np.asarray(one.convert("HSV"))[..., 0].std() for one in (before, after)]
        assert spread[1] < spread[0] / 2, "one hue is left"
    package = made(client, app_settings, database_url, row, forms=["as it came", "PNG", "PDF", "contact sheet"])
    assert banners.keys() <= package.keys()
    assert {"png/harbor-wall-64@1x.png", "pdf/harbor-wall.pdf", "contact-sheet.pdf"} <= package.keys()
    assert package["boarding-now.gif"][:6] == b"GIF89a"
