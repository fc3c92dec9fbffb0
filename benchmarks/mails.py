"""Mails by others and of the demo: how many are taken, how fast, and whether all reads in what is handed over.

What is counted is counted on the files that are handed over, opened anew and computed by the engine again, beside the
plain way that anyone would try first: every color replaced by the nearest of the kit.
"""

from __future__ import annotations

import statistics
import time
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field

import httpx

from dropping import drop, empty_set
from fetch import MAILS, folder_of
from figures import figure
from nearest import Way, nearest_colors
from pavese.core.color.contrast import WHITE
from pavese.core.color.srgb import Rgb, parse_key
from pavese.core.errors import RefusedFileError
from pavese.core.formats import read
from pavese.core.formats.document import Document
from pavese.core.formats.mail.places import DARK_PART
from pavese.core.kit.kit import Kit
from pavese.core.recolor.assign import assign
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.dark import DarkScheme
from pavese.core.recolor.inventory import summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.quiet import Pressed, fitting, light_and_dark, quiet
from pavese.core.recolor.reading import readings
from pavese.core.recolor.site import OUTER
from pavese.core.recolor.target import KEEP
from pavese.core.recolor.texts import TextRun
from pavese.demo.load import demo_kit
from pavese.demo.mail import mail_files, sent_mail
from pavese.demo.served import served
from pavese.render.marked import texts_marked
from sections import labelled_mails, sections

#: Mails of one large drop.
_MANY = 200


@dataclass
class _Mails:
    documents: dict[str, Document] = field(default_factory=dict)
    texts: dict[str, tuple[TextRun, ...]] = field(default_factory=dict)
    refused: int = 0


def files() -> Iterator[tuple[str, bytes]]:
    """Name and content, of the demo and of the packages that were fetched."""
    yield from mail_files().items()
    yield "crew-news.eml", sent_mail()
    for package in MAILS:
        for path in sorted(folder_of(package).rglob("*.html")) if folder_of(package).exists() else ():
            if not any(part.startswith(".") for part in path.relative_to(folder_of(package)).parts):
                yield f"{package}/{path.name}", path.read_bytes()


def mails() -> None:
    """All figures."""
    found, times = _read(files())
    print(f"  mails: {len(found.documents)} of {len(found.documents) + found.refused}")
    figure("mails taken", 100 * len(found.documents) / (len(found.documents) + found.refused), 100, "%", at_least=True)
    # The first starts the engine.
    figure("a mail read, computed and proved, warm: median", statistics.median(times[1:]), 0.8, "s")
    figure("a mail read, computed and proved, warm: mean", statistics.mean(times[1:]), 1.2, "s")
    figure("a mail read, computed and proved, warm: p95", statistics.quantiles(times[1:], n=20)[-1], 3, "s")
    _quality("mails", found, demo_kit())
    labelled, _ = _read((f"{name}.html", data) for name, data in labelled_mails())
    _quality("labelled mails", labelled, demo_kit())
    sections()
    _over_the_wire()


def _read(mails: Iterable[tuple[str, bytes]]) -> tuple[_Mails, list[float]]:
    """Mails with their texts, and how long each took to be read, computed and proved."""
    found, times = _Mails(), []
    for name, data in mails:
        started = time.perf_counter()
        try:
            document = read(name, data)
        except RefusedFileError:
            found.refused += 1
            continue
        found.documents[name], found.texts[name] = document, _texts(document)
        # The proof is the same again, on what is written.
        _texts(read(name, document.write({})))
        times.append(time.perf_counter() - started)
    return found, times


def _texts(document: Document) -> tuple[TextRun, ...]:
    looks = [look for look in document.looks if look.reads]
    return tuple(dict.fromkeys(run for look in looks for run in texts_marked(document, look)))


def _quality(what: str, found: _Mails, kit: Kit) -> None:
    names = list(found.documents)
    measured = [Measured(texts=found.texts[name]) for name in names]
    paints = summarize([found.documents[name].inventory() for name in names], measured, names)
    plans = {"faithful": assign(paints, kit)}
    for side, pair in zip(("light", "dark"), light_and_dark(kit), strict=True):
        rules = quiet(kit, pair.ground, pair.ink, fitting(paints)).rules
        plans[f"one ground, {side}"] = assign(paints, kit, Plan().with_rules(rules, kit))
    _, dark = light_and_dark(kit)
    own = quiet(kit, dark.ground, dark.ink, fitting(paints))
    for title, part in (("footers", "/footer"), ("headers", "/header"), ("what lies around", OUTER)):
        plans[f"{title} apart"] = plans["one ground, light"].with_part_rules(part, own.rules, kit)
    plans["with a scheme for the dark"] = (
        plans["one ground, light"]
        .with_part_rules(DARK_PART, own.rules, kit)
        .with_act(DarkScheme.key, quiet(kit, dark.ground, dark.ink, Pressed.ACTION).in_the_dark)
    )
    for title, plan in plans.items():
        kept = {parse_key(key).rgb for key, choice in plan.choices.items() if choice.target == KEEP}
        fell, left = _counted(found, kit, lambda name, plan=plan: plan.changes(kit, name), kept)
        figure(f"{what}, {title}: texts that fell below their level", fell, 0, "")
        figure(f"{what}, {title}: computed colors that are not of the kit", left, 0, "")
    fell, _ = _counted(found, kit, nearest_colors(paints, kit), set())
    print(f"  each color to the nearest of the kit: {fell} texts fell below their level")


def _counted(found: _Mails, kit: Kit, way: Way, kept: set[Rgb]) -> tuple[int, int]:
    """Texts that read before and do not after, and inks and grounds of texts that are neither of the kit nor kept."""
    own = {color for _, color in kit.tokens()} | kept
    fell = left = 0
    for name, document in found.documents.items():
        before = {_name_of(one.run): one.before >= one.needed for one in readings(found.texts[name], Changes(), WHITE)}
        again = _texts(read(name, document.write(way(name))))
        for one in readings(again, Changes(), WHITE):
            fell += before.get(_name_of(one.run), False) and one.after < one.needed
        for run in again:
            left += sum(paint is not None and paint.rgb not in own for paint in (run.text.ink, run.ground))
    return fell, left


def _name_of(run: TextRun) -> tuple[object, ...]:
    """What a text is told by, before and after: template code makes many that say the same."""
    return run.text.text, run.text.size, run.text.kind, run.kind


def _over_the_wire() -> None:
    """The first mail from the drop to its pictures, a changed ground, and a large drop."""
    some = list(files())
    with served(demo=False) as address, httpx.Client(base_url=address, timeout=300) as client:
        _, made = empty_set(client)
        started = time.perf_counter()
        view = drop(client, made["id"], some[:1])
        _pictures(client, view, ("before", "after"))
        figure("the first mail from drop to before and after", time.perf_counter() - started, 4, "s")
        times = []
        for ground, ink in (("fog.base", "hull.base"), ("hull.base", "fog.base"), ("deep-water.base", "fog.base")) * 2:
            started = time.perf_counter()
            body = {"ground": ground, "ink": ink, "pressed": "action color"}
            client.put(f"/api/sets/{view['id']}/ground-and-ink", json=body).raise_for_status()
            _pictures(client, view, ("after",))
            times.append(time.perf_counter() - started)
        figure("a changed ground is seen in the mail in view", statistics.median(times), 0.4, "s")
        html = [(name, data) for name, data in some if name.endswith(".html")]
        many = [
            (f"{at}-{name.rpartition('/')[2]}", data + b"\n" * at)
            for at, (name, data) in zip(range(_MANY), html * _MANY, strict=False)
        ]
        started = time.perf_counter()
        drop(client, made["id"], many)
        figure(f"{_MANY} mails from drop to plan", time.perf_counter() - started, 240, "s")


def _pictures(client: httpx.Client, view: dict, sides: tuple[str, ...]) -> None:
    [asset, *_] = client.get(f"/api/sets/{view['id']}/files", params={"count": 1}).json()["files"]
    for side in sides:
        of = {} if side == "before" else {"of": view["id"], "fingerprint": asset["fingerprint"]}
        query = {"size": "900", **({"side": side} if side == "before" else {}), **of}
        client.get(f"/api/assets/{asset['id']}/picture.png", params=query).raise_for_status()


if __name__ == "__main__":
    mails()
