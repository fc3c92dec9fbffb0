"""Pictures of mails with a ground of their own: found, shown, mended, and handed over in the format they came in."""

from __future__ import annotations

import base64
import io
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from threading import Thread
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image, ImageDraw

from pavese.core.formats.archive import package
from pavese.render.web import FetchPolicy
from pavese.settings import Settings
from tests.api.test_exports import made
from tests.api.test_sets import drop, files_of, kit, start
from tests.conftest import pages_allowed

Json = Any
__all__ = ["kit"]
HULL, FOG = (22, 37, 43), (238, 240, 236)


def boxed(kind: str, box: tuple[int, int, int] = (255, 255, 255)) -> bytes:
    """A picture of a disc in a box."""
    image = Image.new("RGB", (120, 60), box)
    ImageDraw.Draw(image).ellipse((40, 10, 80, 50), fill=(200, 30, 30))
    target = io.BytesIO()
    image.save(target, kind)
    return target.getvalue()


PAGE = """<html><head><title>One</title></head><body bgcolor="#ffffff"><table bgcolor="#fefefe"><tr><td>
<img src="images/logo.png" width="120" height="60" alt="x"><img src="photo.jpg" width="120" height="60">
<img src="{inside}" width="120" height="60"><p style="color:#222222">Words</p></td></tr></table></body></html>"""
INSIDE = f"data:image/png;base64,{base64.b64encode(boxed('PNG')).decode()}"


@pytest.fixture
def mails(client: TestClient, kit: Json) -> Json:
    entries = [
        ("a/one.html", PAGE.format(inside=INSIDE).encode()),
        ("a/two.html", PAGE.format(inside="").encode()),
        ("a/images/logo.png", boxed("PNG")),
        ("a/photo.jpg", boxed("JPEG")),
    ]
    made = client.post(f"/api/kits/{kit['id']}/sets", json={"name": "Mails", "channel": "email"}).json()
    answer = client.post(f"/api/sets/{made['id']}/files", files=[("files", ("a.zip", package(entries)))])
    assert answer.json()["taken"] == 2
    client.put(f"/api/sets/{made['id']}/rules/picture", json={"target": "keep"})
    path = f"/api/sets/{made['id']}/ground-and-ink"
    return client.put(path, json={"ground": "hull.base", "ink": "fog.base"}).json()


def listed(client: TestClient, mails: Json) -> dict[str, Json]:
    found = client.get(f"/api/sets/{mails['id']}/pictures").json()["pictures"]
    return {one["title"]: one for one in found}


def mend(client: TestClient, mails: Json, reference: str, way: str | None, **more: Any) -> Any:
    return client.put(f"/api/sets/{mails['id']}/pictures", json={"key": reference, "way": way, **more})


def handed(client: TestClient, mails: Json) -> dict[str, bytes]:
    packed = zipfile.ZipFile(io.BytesIO(client.get(f"/api/sets/{mails['id']}/package.zip").content))
    return {name: packed.read(name) for name in packed.namelist()}


def pixels(data: bytes) -> np.ndarray[Any, Any]:
    with Image.open(io.BytesIO(data)) as image:
        return np.asarray(image.convert("RGBA")).astype(int)


def test_boxes_that_show_on_what_they_stand_on_are_found(client: TestClient, mails: Json) -> None:
    found = listed(client, mails)
    assert set(found) == {"logo.png", "photo.jpg", "a picture inside"}
    logo = found["logo.png"]
    assert (logo["files"], logo["box"], logo["grounds"]) == (["a/one.html", "a/two.html"], "#ffffff", ["#16252b"])
    assert (logo["stands"], logo["before"], logo["way"]) == (True, False, None)
    assert logo["ways"] == ["clear", "ground"]
    assert found["photo.jpg"]["ways"] == ["ground"]
    assert mend(client, mails, "none.png", "clear").status_code == 422
    assert mend(client, mails, "photo.jpg", "clear").status_code == 422


def test_they_are_mended_in_their_own_formats_and_all_else_stays(
    client: TestClient, app_settings: Settings, database_url: str, mails: Json
) -> None:
    before = handed(client, mails)
    references = {title: one["key"] for title, one in listed(client, mails).items()}
    mend(client, mails, references["logo.png"], "clear")
    mend(client, mails, references["photo.jpg"], "ground")
    changed = mend(client, mails, references["a picture inside"], "ground").json()
    assert changed["history"]["undo"] == "a picture inside on the ground below it"
    after = handed(client, mails)
    assert client.get(f"/api/sets/{mails['id']}/pictures").json()["standing"] == 0
    logo, photo = pixels(after["a/images/logo.png"]), pixels(after["a/photo.jpg"])
    assert logo[0, 0, 3] == 0
    assert tuple(logo[30, 60]) == (200, 30, 30, 255)
    assert np.abs(photo[0, 0, :3] - HULL).max() <= 2
    assert after["a/photo.jpg"].startswith(b"\xff\xd8\xff")
    assert after["a/two.html"] == before["a/two.html"]
    inside = after["a/one.html"].split(b"base64,")[1].split(b'"')[0]
    assert tuple(pixels(base64.b64decode(inside))[0, 0, :3]) == HULL
    assert after["a/one.html"].replace(inside, b"") == before["a/one.html"].replace(INSIDE.split(",")[1].encode(), b"")
    # What is ordered is the same as what is given at once.
    ordered = made(client, app_settings, database_url, mails)
    assert {name: ordered[name] for name in after} == after
    # Another ground below makes it show again; without its mending it is as it came.
    client.put(f"/api/sets/{mails['id']}/ground-and-ink", json={"ground": "fog.base", "ink": "hull.base"})
    assert listed(client, mails)["photo.jpg"]["stands"]
    assert not listed(client, mails)["logo.png"]["stands"]
    for reference in references.values():
        assert mend(client, mails, reference, None).status_code == 200
    assert handed(client, mails)["a/photo.jpg"] == before["a/photo.jpg"]


def test_the_logo_of_the_kit_takes_the_place_of_one(client: TestClient, mails: Json) -> None:
    reference = listed(client, mails)["logo.png"]["key"]
    assert mend(client, mails, reference, "logo").status_code == 422
    image = Image.new("RGBA", (80, 80))
    ImageDraw.Draw(image).rectangle((10, 20, 69, 59), fill=(*FOG, 255))
    target = io.BytesIO()
    image.save(target, "PNG")
    path = f"/api/kits/{mails['kit_id']}/logo/dark"
    assert client.post(path, files={"file": ("logo.png", target.getvalue(), "image/png")}).status_code == 200
    assert listed(client, mails)["logo.png"]["ways"] == ["clear", "ground", "logo"]
    assert mend(client, mails, reference, "logo", names=["a/two.html"]).status_code == 200
    found = listed(client, mails)["logo.png"]
    assert found["way"] is None, "in one mail only"
    mend(client, mails, reference, "logo")
    assert listed(client, mails)["logo.png"]["way"] == "logo"
    logo = pixels(handed(client, mails)["a/images/logo.png"])
    assert logo.shape == (60, 120, 4)
    assert logo[0, 0, 3] == 0
    assert tuple(logo[30, 60]) == (*FOG, 255)
    # Clear space of half its height on every side.
    drawn = np.argwhere(logo[..., 3] > 0)
    top, bottom = drawn[:, 0].min(), drawn[:, 0].max()
    assert min(top, 59 - bottom) >= (bottom - top) / 2 - 1
    for file in files_of(client, mails["id"]):
        view = client.get(f"/api/sets/{mails['id']}/files/{file['id']}").json()
        assert view["beside"] == ["a/images/logo.png", "a/photo.jpg"]
        for drawn in ("masks.png", "picture.png"):
            shown = client.get(f"/api/assets/{file['id']}/{drawn}", params={"of": mails["id"], "size": 96})
            assert shown.status_code == 200
    # Another logo of the kit stands there, too, and without one the old one is back.
    before = files_of(client, mails["id"])[0]["fingerprint"]
    square = Image.new("RGBA", (80, 80))
    square.paste((*FOG, 255), (20, 20, 60, 60))
    target = io.BytesIO()
    square.save(target, "PNG")
    client.post(path, files={"file": ("square.png", target.getvalue(), "image/png")})
    logo = pixels(handed(client, mails)["a/images/logo.png"])
    rows, columns = np.nonzero(logo[..., 3])
    assert np.ptp(rows) == np.ptp(columns)
    assert files_of(client, mails["id"])[0]["fingerprint"] != before
    client.delete(path)
    assert (pixels(handed(client, mails)["a/images/logo.png"])[..., 3] == 255).all()


def test_a_sent_mail_has_its_picture_changed_in_its_part(client: TestClient, kit: Json) -> None:
    png = base64.encodebytes(boxed("PNG")).replace(b"\n", b"\r\n")
    sent = b"\r\n".join(
        [
            b"Subject: One",
            b'Content-Type: multipart/related; boundary="x"',
            b"",
            b"--x",
            b"Content-Type: text/html",
            b"",
            b'<body bgcolor="#fff"><p style="color:#222">Words</p><img src="cid:logo" width=120 height=60></body>',
            b"--x",
            b"Content-Type: image/png",
            b"Content-ID: <logo>",
            b"Content-Transfer-Encoding: base64",
            b"",
            png + b"--x--",
            b"",
        ]
    )
    mails = start(client, kit, ("one.eml", sent))
    client.put(f"/api/sets/{mails['id']}/ground-and-ink", json={"ground": "hull.base", "ink": "fog.base"})
    assert listed(client, mails)["logo"]["stands"]
    mend(client, mails, listed(client, mails)["logo"]["key"], "clear")
    [file] = files_of(client, mails["id"])
    after = client.get(f"/api/assets/{file['id']}/file", params={"of": mails["id"]}).content
    head, rest = after.split(b"Content-Transfer-Encoding: base64\r\n\r\n")
    assert head.startswith(b"Subject: One\r\n")
    assert pixels(base64.b64decode(rest.split(b"--x--")[0]))[0, 0, 3] == 0
    seen = client.get(
        f"/api/assets/{file['id']}/beside.png", params={"reference": "cid:logo", "of": mails["id"], "fingerprint": "1"}
    )
    assert pixels(seen.content)[0, 0, 3] == 0
    missing = {"reference": "cid:none", "of": mails["id"], "fingerprint": "1"}
    assert client.get(f"/api/assets/{file['id']}/beside.png", params=missing).status_code == 404


def test_a_picture_goes_by_the_plan_of_the_mails_that_show_it_or_keeps_its_colors(
    client: TestClient, mails: Json
) -> None:
    path = f"/api/sets/{mails['id']}"
    came = handed(client, mails)
    assert came["a/images/logo.png"] == boxed("PNG")
    # A rule keeps every picture, and nothing else is said of any.
    shown = client.get(f"{path}/pictures").json()
    assert (shown["ruled"], shown["in_plan"], {one["kept"] for one in shown["pictures"]}) == (True, 0, {None})
    client.put(f"{path}/rules/picture", json={"target": None})
    assert not client.get(f"{path}/pictures").json()["ruled"]
    view = client.get(path).json()
    [disc] = [one for one in view["paints"] if one["key"] == "#c81e1e"]
    assert (disc["kinds"], disc["files"]) == (["picture"], 2)
    after = handed(client, mails)
    became = pixels(after["a/images/logo.png"])[30, 60, :3]
    assert disc["target_css"] == "#{:02x}{:02x}{:02x}".format(*became)
    assert disc["target_css"] != disc["css"]
    # The JPEG goes where the PNG does, but for what coding leaves.
    assert np.abs(pixels(after["a/photo.jpg"])[30, 60, :3] - became).max() <= 6
    key = listed(client, mails)["logo.png"]["key"]
    kept = client.put(f"{path}/pictures/kept", json={"key": key, "kept": True})
    assert kept.json()["history"]["undo"] == "logo.png keeps its colors"
    assert kept.json()["kept_selectors"] == []
    shown = listed(client, mails)
    assert (shown["logo.png"]["kept"], shown["photo.jpg"]["kept"]) == (True, False)
    # Written into a mail it is the same picture.
    assert shown["a picture inside"]["kept"]
    after = handed(client, mails)
    assert after["a/images/logo.png"] == boxed("PNG")
    assert after["a/photo.jpg"] != boxed("JPEG")
    client.put(f"{path}/pictures/kept", json={"key": key, "kept": False})
    assert handed(client, mails)["a/images/logo.png"] != boxed("PNG")
    assert client.put(f"{path}/pictures/kept", json={"key": "none", "kept": True}).status_code == 422


@contextmanager
def site(pages: dict[str, bytes]) -> Iterator[tuple[str, FetchPolicy]]:
    """A place on the web, and what lets it be asked."""

    class Answer(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            found = pages.get(self.path)
            self.send_response(200 if found is not None else 404)
            self.end_headers()
            self.wfile.write(found or b"")

        def log_message(self, *_: object) -> None:
            pass

    with ThreadingHTTPServer(("127.0.0.1", 0), Answer) as server:
        port = server.server_address[1]
        Thread(target=server.serve_forever, daemon=True).start()
        yield f"http://127.0.0.1:{port}", FetchPolicy(False, frozenset({("127.0.0.1", port)}))
        server.shutdown()


def remote_mail(at: str) -> bytes:
    return (
        f'<body bgcolor="#fff"><p style="color:#222">Words</p><img src="{at}/a/logo.png" width="120" height="60">'
        f'<img src="{at}/b/logo.png?v=2" width="120"><img src="{at}/seen.gif" width="1" height="1">'
        f'<img src="{at}/words.png" width="9"><img src="{at}/gone.png" width="9"></body>'
    ).encode()


def test_pictures_on_the_web_are_brought_in_and_told_where_to_put_them(client: TestClient, kit: Json) -> None:
    pages = {
        "/a/logo.png": boxed("PNG"),
        "/b/logo.png?v=2": boxed("JPEG"),
        "/words.png": b"<p>no picture",
        "/seen.gif": b"",
    }
    with site(pages) as (at, policy):
        mails = start(client, kit, ("one.html", remote_mail(at)), ("two.html", remote_mail(at)))
        client.put(f"/api/sets/{mails['id']}/ground-and-ink", json={"ground": "hull.base", "ink": "fog.base"})
        path, host = f"/api/sets/{mails['id']}/pictures", at.removeprefix("http://")
        assert client.get(path).json()["remote"] == [{"host": host, "missing": 4}]
        with pages_allowed(client, FetchPolicy(False)):
            refused = client.post(f"{path}/fetch", json={"hosts": [host]}).json()
        assert (refused["fetched"], refused["failed"]) == (0, 4)
        with pages_allowed(client, policy):
            assert client.post(f"{path}/fetch", json={"hosts": ["elsewhere.example"]}).json()["fetched"] == 0
            made = client.post(f"{path}/fetch", json={"hosts": [host]}).json()
        assert (made["fetched"], made["failed"]) == (2, 2)
        assert any("no picture" in reason for reason in made["reasons"])
        assert any("404" in reason for reason in made["reasons"])
    assert client.get(path).json()["remote"] == [{"host": host, "missing": 2}]
    found = listed(client, mails)
    assert found["logo.png"]["of_files"] == 2
    # Their colors are among those of the mails now, and go by the plan until they are to stay.
    view = client.get(f"/api/sets/{mails['id']}").json()
    assert any(one["kinds"] == ["picture"] and one["key"].startswith("#c81e1e") for one in view["paints"])
    assert any(name.startswith("pictures") for name in handed(client, mails))
    client.put(f"/api/sets/{mails['id']}/rules/picture", json={"target": "keep"})
    # What was not changed is not handed over: it lies there already.
    plain = handed(client, mails)
    assert [name for name in plain if name.startswith("pictures")] == []
    first = next(one for one in client.get(path).json()["pictures"] if one["reference"].endswith("/a/logo.png"))
    mend(client, mails, first["key"], "clear")
    after = handed(client, mails)
    folder = f"pictures/{host.replace(':', '-')}"
    assert pixels(after[f"{folder}/a/logo.png"])[0, 0, 3] == 0
    assert f"{folder}/a/logo.png\n  {at}/a/logo.png" in after["pictures.txt"].decode()
    assert after["one.html"] == plain["one.html"]


def test_pictures_on_the_web_are_known_by_name_from_what_is_dropped(client: TestClient, kit: Json) -> None:
    at = "https://tarnmoor.example"
    mails = start(client, kit, ("one.html", remote_mail(at)))

    def missing() -> Json:
        return client.get(f"/api/sets/{mails['id']}/pictures").json()["remote"]

    [file] = files_of(client, mails["id"])
    assert any("on the web" in remark for remark in file["remarks"])
    answer = drop(client, mails["id"], ("folder/logo.png", boxed("PNG")), ("folder/other.png", boxed("PNG")))
    assert [one["name"] for one in answer["refused"]] == ["folder/other.png"]
    assert client.get(f"/api/sets/{mails['id']}/pictures").json()["remote"] == [
        {"host": "tarnmoor.example", "missing": 2}
    ]
    drop(client, mails["id"], ("words.png", boxed("PNG")), ("gone.png", boxed("PNG")))
    [file] = files_of(client, mails["id"])
    assert file["remarks"] == []
    packed = package([("mails/two.html", remote_mail(at)), ("assets/logo.png", boxed("PNG"))])
    client.post(f"/api/sets/{mails['id']}/files", files=[("files", ("a.zip", packed))])
    assert client.get(f"/api/sets/{mails['id']}/pictures").json()["remote"] == [
        {"host": "tarnmoor.example", "missing": 2}
    ]
    # So are those in an archive that holds nothing else; of that only what is asked for is taken.
    packed = package([(f"deep/er/{name}.png", boxed("PNG")) for name in ("words", "gone", "other")])
    answer = drop(client, mails["id"], ("pictures.zip", packed))
    assert [one["name"] for one in answer["refused"]] == ["deep/er/other.png"]
    assert not client.get(f"/api/sets/{mails['id']}/pictures").json()["remote"]
    assert all(not one["remarks"] for one in files_of(client, mails["id"]))
    broken = drop(client, mails["id"], ("pictures.zip", packed[:-40]))
    assert "cannot be opened" in broken["refused"][0]["reason"]
