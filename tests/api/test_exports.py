"""Exports: ordered over HTTP, made by real workers, and the same whatever happens meanwhile."""

from __future__ import annotations

import io
import json
import os
import signal
import subprocess
import sys
import time
import uuid
import zipfile

import av
import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image
from pypdf import PdfReader
from sqlalchemy.orm import Session, sessionmaker

from pavese.core.formats import read
from pavese.core.formats.format import Can
from pavese.core.formats.lottie.staging import Motion
from pavese.core.handoff.export import Export, ExportForm
from pavese.core.handoff.plan_file import read_plan_file
from pavese.core.kit.kit import members
from pavese.demo.animations import animation_files
from pavese.demo.icons import icon_files
from pavese.demo.load import demo_kit
from pavese.settings import Settings
from pavese.store import contents, exports
from tests.api.test_sets import RED, Json, kit, start
from tests.conftest import files_of, work

__all__ = ["kit"]

SQUARE = (
    b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><path id="p" fill="#e53935" d="M0 0h8v8H0z"/></svg>'
)
BUOY = (0xD2, 0x45, 0x2D)


def order(client: TestClient, view: Json, **wanted: object) -> Json:
    answer = client.post(f"/api/sets/{view['id']}/exports", json=wanted)
    assert answer.status_code == 201, answer.text
    return answer.json()


def made(client: TestClient, settings: Settings, url: str, view: Json, **wanted: object) -> dict[str, bytes]:
    """Orders, works until nothing is left, and opens what came of it."""
    ordered = order(client, view, **wanted)
    work(settings, url)
    now = client.get(f"/api/exports/{ordered['id']}").json()
    assert (now["state"], now["done"], now["notes"]) == ("done", now["total"], [])
    return opened(client, ordered)


def opened(client: TestClient, ordered: Json) -> dict[str, bytes]:
    data = client.get(f"/api/exports/{ordered['id']}/result.zip").content
    with zipfile.ZipFile(io.BytesIO(data)) as packed:
        return {name: packed.read(name) for name in packed.namelist()}


def test_still_files_in_every_form(client: TestClient, app_settings: Settings, database_url: str, kit: Json) -> None:
    view = start(client, kit, ("flags/red.svg", SQUARE), ("b.svg", SQUARE))
    forms = [form.value for form in ExportForm]
    inside = made(
        client, app_settings, database_url, view, forms=forms, sizes=[16, 32], scales=[1, 2], ground="fog.base",
        pattern="{name}_{size}x{scale}",
    )  # fmt: skip
    assert [name for name in inside if name.startswith("png/flags/")] == [
        f"png/flags/red_{size}x{scale}.png" for size in (16, 32) for scale in (1, 2)
    ]
    picture = Image.open(io.BytesIO(inside["png/flags/red_32x2.png"]))
    assert (picture.size, picture.mode, picture.getpixel((9, 9))) == ((64, 64), "RGB", BUOY)
    assert b"var(--buoy, #d2452d)" in inside["variables/b.svg"]
    assert read("b.svg", inside["b.svg"]).inventory().paints == ((*BUOY, 1.0),)
    assert len(PdfReader(io.BytesIO(inside["pdf/b.pdf"])).pages) == 1
    assert Image.open(io.BytesIO(inside["favicon/b/favicon.ico"])).info["sizes"] == {(16, 16), (32, 32), (48, 48)}
    assert Image.open(io.BytesIO(inside["favicon/b/app-180.png"])).size == (180, 180)
    symbols = inside["sprite.svg"]
    assert symbols.count(b"<symbol") == 2
    assert b'id="flags-red-p"' in symbols
    assert read("sprite.svg", symbols).inventory().paints == ((*BUOY, 1.0),)
    contact = PdfReader(io.BytesIO(inside["contact-sheet.pdf"]))
    assert "flags/red.svg" in contact.pages[0].extract_text()
    assert read_plan_file(inside["plan.json"].decode()).choices["#e53935"].target == "buoy.base"


def test_animations_as_films_and_moving_pictures(
    client: TestClient, app_settings: Settings, database_url: str, kit: Json
) -> None:
    ring = animation_files()["life-ring.json"]
    view = start(client, kit, ("ring.json", ring))
    client.put(f"/api/sets/{view['id']}/acts/backing", json={"settings": None})
    wanted = ["as it came", "GIF", "animated WebP", "WebM", "MP4"]
    inside = made(client, app_settings, database_url, view, forms=wanted, sizes=[120], ground="deep-water.base")
    # The corner shows the ground; it must come back as the brand's color.
    for name in ("mp4/ring-120@1x.mp4", "webm/ring-120@1x.webm"):
        with av.open(io.BytesIO(inside[name])) as film:
            stream = film.streams.video[0]
            shown = next(film.decode(stream)).reformat(format="rgb24", src_colorspace="ITU709").to_ndarray()
            assert stream.codec_context.colorspace == 1
        assert np.abs(shown[4, 4].astype(int) - (0x0B, 0x5E, 0x6B)).max() <= 2, name
        assert shown.shape == (120, 120, 3)
    for name in ("gif/ring-120@1x.gif", "webp/ring-120@1x.webp"):
        moving = Image.open(io.BytesIO(inside[name]))
        assert moving.n_frames > 20
        assert np.abs(np.array(moving.convert("RGB").getpixel((3, 3))) - (0x0B, 0x5E, 0x6B)).max() <= 2
    assert json.loads(inside["ring.json"])["layers"]


def test_a_still_file_is_set_in_motion(
    client: TestClient, app_settings: Settings, database_url: str, kit: Json
) -> None:
    view = start(client, kit, ("bell.svg", icon_files()["bell.svg"]))
    forms = ["PNG", "Lottie", "GIF"]
    inside = made(client, app_settings, database_url, view, forms=forms, sizes=[96], motion="ring")
    animation = inside["lottie/bell.json"]
    found = read("bell.json", animation).inventory().paints
    own = members(demo_kit())
    assert found
    assert all(paint.rgb in own for paint in found), "what moves is the recolored drawing"
    gif = Image.open(io.BytesIO(inside["gif/bell-96@1x.gif"]))
    assert gif.n_frames > 40, "frames at rest are one"
    assert "png/bell-96@1x.png" in inside
    asset = files_of(client, view["id"])[0]["id"]
    seen = client.get(f"/api/assets/{asset}/motion.json?of={view['id']}&motion=ring")
    assert seen.content == animation, "what is looked at is what is handed over"
    assert client.get(f"/api/assets/{asset}/motion.json?motion=dance").status_code == 422
    # Without a motion there is nothing to make of it.
    refused = client.post(f"/api/sets/{view['id']}/exports", json={"forms": ["Lottie"]})
    assert refused.status_code == 422


def test_an_export_is_of_the_moment_it_was_ordered(
    client: TestClient, app_settings: Settings, database_url: str, kit: Json
) -> None:
    view = start(client, kit, ("a.svg", RED))
    ordered = order(client, view)
    client.post(f"/api/sets/{view['id']}/aim", json={"paints": ["#e53935"], "target": "kelp.base"})
    assert client.get(f"/api/exports/{ordered['id']}/result.zip").status_code == 404
    work(app_settings, database_url)
    assert b"#d2452d" in opened(client, ordered)["a.svg"]
    listed = client.get(f"/api/sets/{view['id']}/exports").json()
    assert [one["state"] for one in listed["exports"]] == ["done"]
    # Nothing of it is made into what is for mails and decks.
    others = {ExportForm.PROOF, ExportForm.SLIDES_PDF, ExportForm.SLIDES_PNG, ExportForm.SLIDES_PROOF}
    assert {one["form"] for one in listed["forms"]} == {form.value for form in ExportForm} - others


def test_a_cancelled_export_is_not_made(
    client: TestClient, app_settings: Settings, database_url: str, kit: Json
) -> None:
    view = start(client, kit, ("a.svg", RED))
    ordered = order(client, view, forms=["PNG"])
    assert client.post(f"/api/exports/{ordered['id']}/cancel").json()["state"] == "cancelled"
    work(app_settings, database_url)
    assert client.get(f"/api/exports/{ordered['id']}").json()["state"] == "cancelled"
    again = client.post(f"/api/exports/{ordered['id']}/cancel")
    assert again.status_code in (409, 422)
    assert "already" in again.json()["detail"]


def test_what_cannot_be_made_is_said_and_the_rest_is_made(
    client: TestClient, app_settings: Settings, database_url: str, kit: Json
) -> None:
    endless = b'<svg xmlns="http://www.w3.org/2000/svg"><path fill="#e53935" d="M0 0"/></svg>'
    view = start(client, kit, ("empty.svg", endless), ("b.svg", SQUARE))
    ordered = order(client, view, forms=["PDF", "PNG"])
    work(app_settings, database_url)
    now = client.get(f"/api/exports/{ordered['id']}").json()
    assert now["state"] == "done"
    inside = opened(client, ordered)
    assert "png/b-64@1x.png" in inside
    assert all("empty.svg" in note for note in now["notes"])


@pytest.mark.parametrize(
    "wanted",
    [
        {"forms": []}, {"forms": ["nothing"]}, {"sizes": [4]}, {"scales": [9]}, {"pattern": "{who}"},
        {"pattern": "a/../b"},
        {"pattern": "{"}, {"ground": "gone.base"}, {"ground": "x"}, {"forms": ["MP4"]}, {"unknown": 1},
    ],
)  # fmt: skip
def test_orders_that_mean_nothing(client: TestClient, kit: Json, wanted: Json) -> None:
    view = start(client, kit, ("a.svg", RED))
    assert client.post(f"/api/sets/{view['id']}/exports", json=wanted).status_code == 422


def test_steps_are_counted_as_they_are_made() -> None:
    wanted = Export(forms=(ExportForm.ORIGINAL, ExportForm.PNG, ExportForm.GIF, ExportForm.CONTACT))
    drawing, moving = ({Can.STILL, Can.MOTION}, {Can.ANIMATED})
    assert wanted.steps([drawing] * 3 + [moving] * 2) == 5 + 3 + 2 + 1
    stirred = wanted.model_copy(update={"motion": Motion.BREATHE})
    assert stirred.steps([drawing] * 3 + [moving] * 2) == 5 + 3 + 5 + 1


def test_two_workers_have_one_result(client: TestClient, database_url: str, kit: Json) -> None:
    """Whoever took an order last ends it; who lost it finds out, and changes nothing."""
    view = start(client, kit, ("a.svg", RED))
    ordered = uuid.UUID(order(client, view)["id"])
    made_by: sessionmaker[Session] = client.app.state.sessions  # type: ignore[attr-defined]
    with made_by.begin() as session:
        first = exports.claim(session, ordered)
        second = exports.claim(session, ordered)
    assert first
    assert second
    assert (first[1], second[1]) == (1, 2)
    with made_by.begin() as session:
        late, result = (contents.write(session, [data])[0] for data in (b"late", b"result"))
        assert not exports.progress(session, ordered, first[0], 1)
        assert not exports.end(session, ordered, first[0], late, [])
        assert exports.end(session, ordered, second[0], result, [])
        assert not exports.end(session, ordered, second[0], late, [])
        assert exports.claim(session, ordered) is None
        assert b"".join(exports.result(session, ordered)) == b"result"


def test_a_worker_killed_in_the_middle_leaves_work_that_is_done_once(
    client: TestClient, app_settings: Settings, database_url: str, kit: Json
) -> None:
    view = start(client, kit, *icon_files().items())
    sizes = [96, 128, 192, 256, 320]
    expected = made(client, app_settings, database_url, view, forms=["PNG", "contact sheet"], sizes=sizes)
    ordered = order(client, view, forms=["PNG", "contact sheet"], sizes=sizes)
    path = f"/api/exports/{ordered['id']}"
    command = [sys.executable, "-m", "pavese.cli", "worker"]
    environment = {**os.environ, "PAVESE_DATABASE_URL": database_url, "PAVESE_LOG_LEVEL": "error"}
    with subprocess.Popen(command, env=environment, start_new_session=True) as worker:
        deadline = time.monotonic() + 60
        while not client.get(path).json()["done"]:
            assert time.monotonic() < deadline, "the worker did not begin"
            time.sleep(0.02)
        os.killpg(worker.pid, signal.SIGKILL)
    left = client.get(path).json()
    assert (left["state"], left["done"] < left["total"]) == ("running", True)
    work(app_settings, database_url, fallen_after=0.0)
    now = client.get(path).json()
    assert (now["state"], now["done"]) == ("done", now["total"])
    assert opened(client, ordered) == expected
