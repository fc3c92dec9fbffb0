"""Whether skin is kept and nothing else is taken for it, over drawings by others whose skin is known.

Several packages hold the same figure in five tones of skin: what differs between the five is skin, with its shadows and
the hair that goes with it; what all five share is not. Drawings that come in no tones, and are no people by their
names, have none. Half of the drawings were never looked at while the rules were made (`_TUNED`).
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from hashlib import sha256

from fetch import corpus_dir, folder_of, made_people
from figures import figure
from pavese.core.color.oklab import oklch_of
from pavese.core.color.srgb import Rgb
from pavese.core.errors import RefusedFileError
from pavese.core.formats import read
from pavese.core.recolor.inventory import FilePaints
from pavese.core.recolor.natural import natural_tones
from pavese.render.draw import draw_measured
from pavese.render.pool import DrawingPool
from pavese.settings import settings

_TONES = ("light", "medium-light", "medium", "medium-dark", "dark")
_CODES = ("1f3fb", "1f3fc", "1f3fd", "1f3fe", "1f3ff")
_TABLES = ("@iconify-json/noto@1.2.9", "@iconify-json/openmoji@1.2.29", "@iconify-json/emojione@1.2.3")
#: Words that tell of people, of parts of them, and of what is drawn like them.
_PEOPLE = re.compile(
    r"man|woman|men|women|person|people|boy|girl|baby|child|adult|family|couple|kiss|hand|finger|fist|thumb|arm|leg|foot|ear|"
    r"nose|mouth|tongue|face|head|hair|bust|skin|mage|fairy|elf|genie|zombie|vampire|hero|villain|santa|claus|angel|prince|"
    r"queen|bride|police|guard|ninja|worker|student|teacher|judge|farmer|cook|mechanic|scientist|artist|pilot|astronaut|"
    r"firefighter|singer|swim|surf|row|bik|climb|walk|run|danc|wrestl|golf|ski|snowboard|juggl|lotus|bath|bed|selfie|nail|"
    r"muscle|brain|bone|tooth|eye|lip|foot|pregnant|breast|beard|blond|guru|levitat|massage|merperson|mermaid|merman|troll|"
    r"gestur|pout|frown|bow|facepalm|shrug|tuxedo|veil|turban|cap$|detective|supervillain|handshake|clap|pray|wave|victory|"
    r"horn|love-you|call-me|backhand|index|palm|pinch|raised|oncoming|vulcan|ok-|crossed|avatar|assistant|business|customer|"
    r"manager|reading|support|sales|podium|portrait|contact|call"
)
_PER_PACKAGE = 40
#: Tones of people in styles that nobody has: orange, and yellow as of a lamp.
_OF_NOBODY = ("fd9841", "f8d25c")


@dataclass(frozen=True)
class Labelled:
    """A drawing, and which of its colors are skin or go with it."""

    package: str
    file: FilePaints
    skin: frozenset[Rgb]
    people: bool

    @property
    def tuned(self) -> bool:
        """Whether the rules were made with it in sight."""
        return sha256(self.file.name.encode()).digest()[0] % 2 == 0


def natural() -> None:
    """Skin kept, and other paint taken for it, in the drawings that the rules were not made by, and in the others."""
    if not corpus_dir().exists():
        print("the corpus has not been fetched (python benchmarks/fetch.py); figures over natural tones are left out")
        return
    found = labelled()
    for half, listed in (
        ("seen while made", [one for one in found if one.tuned]),
        ("never looked at", [one for one in found if not one.tuned]),
    ):
        kept, skin, taken, other = counted(listed)
        people = sum(one.people for one in listed)
        words = f"{people} drawings of people, {len(listed) - people} without, {half}"
        figure(f"skin kept ({words})", 100 * kept / max(skin, 1), 95, "%", at_least=True)
        figure(f"other paint taken for skin ({words})", 100 * taken / max(other, 1), 3, "%")
    if made_people().exists():
        _in_every_tone()


def _in_every_tone() -> None:
    """People of several draftsmen, in every tone of skin that they have: whether theirs is kept, alone in a file."""
    listed = [path for path in sorted(made_people().glob("*.svg")) if path.stem.split("-")[1] not in _OF_NOBODY]
    kept = 0
    for path in listed:
        inventory = read(path.name, path.read_bytes()).inventory()
        measured = draw_measured(read(path.name, path.read_bytes()).preview({}), inventory.paints)
        found = natural_tones(FilePaints(path.name, inventory.paints, measured, inventory.blends))
        kept += Rgb(*bytes.fromhex(path.stem.split("-")[1])) in found
    tones = len({path.stem.rpartition("-")[0] for path in listed})
    figure(f"skin of people kept, {tones} tones of several styles", 100 * kept / len(listed), 95, "%", at_least=True)


def counted(listed: Sequence[Labelled]) -> tuple[int, int, int, int]:
    """Colors of skin that are kept, of all; others that are taken for it, of all."""
    kept = skin = taken = other = 0
    for one in listed:
        tones = natural_tones(one.file)
        for color in {paint.rgb for paint in one.file.paints}:
            lightness, chroma, hue = oklch_of([color])[0]
            # What differs and is darker, yellower or more vivid than any skin is hair, and counted neither way.
            if color in one.skin and lightness >= 0.3 and 0.015 <= chroma <= 0.125 and (hue <= 80 or hue >= 350):
                skin += 1
                kept += color in tones
            elif not one.people or not (color in one.skin or (chroma <= 0.13 and 0 <= hue <= 100)):
                other += 1
                taken += color in tones
    return kept, skin, taken, other


def labelled() -> list[Labelled]:
    """The drawings, measured."""
    pool = DrawingPool(settings().drawing_workers, settings().fonts_dir)
    try:
        return list(_measured(pool, [*_toned(), *_without()]))
    finally:
        pool.close()


def _measured(pool: DrawingPool, listed: Sequence[tuple[str, str, bytes, bytes | None]]) -> Iterator[Labelled]:
    waiting = []
    for package, name, data, other_tones in listed:
        try:
            document = read(f"{name}.svg", data)
            paints = {paint.rgb for paint in document.inventory().paints}
            shared = paints if other_tones is None else _paints(other_tones)
        except RefusedFileError:
            continue
        if len(paints) > 1:
            inventory = document.inventory()
            ticket = pool.begin(draw_measured, document.preview({}), inventory.paints, seconds=20.0)
            waiting.append((package, name, inventory, frozenset(paints - shared), other_tones is not None, ticket))
    for package, name, inventory, skin, people, ticket in waiting:
        if skin or not people:
            yield Labelled(
                package,
                FilePaints(f"{package} {name}", inventory.paints, pool.result(ticket), inventory.blends),
                skin,
                people,
            )


def _paints(data: bytes) -> set[Rgb]:
    return {paint.rgb for paint in read("x.svg", data).inventory().paints}


def _toned() -> Iterator[tuple[str, str, bytes, bytes | None]]:
    """Drawings of people with the same in another tone."""
    for package in _TABLES:
        drawings = dict(_table(package))
        bases = sorted(
            {name.removesuffix("-medium-skin-tone") for name in drawings if name.endswith("-medium-skin-tone")}
        )
        for base in _spread(bases):
            yield from _pairs(package, base, {tone: drawings.get(f"{base}-{tone}-skin-tone") for tone in _TONES})
    flat = {path.stem: path for path in folder_of("fluentui-emoji@1.3.0").rglob("flat/*.svg")}
    bases = sorted({name.removesuffix("-medium-dark") for name in flat if name.endswith("-medium-dark")})
    for base in _spread(bases):
        drawn = {tone: flat.get(f"{base}-{tone}") for tone in _TONES}
        yield from _pairs("fluentui-emoji", base, {tone: path.read_bytes() for tone, path in drawn.items() if path})
    twemoji = {path.stem: path for path in folder_of("@twemoji/svg@15.0.0").rglob("*.svg")}
    for base in _spread(
        sorted(name for name in twemoji if name.count("1f3fd") == 1 and "1f3fb" not in name and "1f9d1" not in name)
    ):
        drawn = {tone: twemoji.get(base.replace("1f3fd", code)) for tone, code in zip(_TONES, _CODES, strict=True)}
        yield from _pairs("twemoji", base, {tone: path.read_bytes() for tone, path in drawn.items() if path})


def _pairs(package: str, base: str, drawn: dict[str, bytes | None]) -> Iterator[tuple[str, str, bytes, bytes | None]]:
    if any(tone in base for tone in _TONES) or any(code in base for code in ("1f3fb", "1f3fc", "1f3fe", "1f3ff")):
        return
    here = [(tone, data) for tone, data in drawn.items() if data]
    if len(here) > 2:
        at = len(base) % len(here)
        tone, data = here[at]
        yield package, f"{base}-{tone}", data, here[(at + 2) % len(here)][1]


def _without() -> Iterator[tuple[str, str, bytes, bytes | None]]:
    for package in _TABLES:
        for name in _spread(sorted(name for name, _ in _table(package) if not _PEOPLE.search(name))):
            yield package, name, dict(_table(package))[name], None
    for package in ("fluentui-emoji@1.3.0", "@iconify-json/flat-color-icons@1.2.3", "flag-icons@7.5.0"):
        paths = {path.stem: path for path in folder_of(package).rglob("*.svg") if not _PEOPLE.search(path.stem)}
        for name in _spread(sorted(name for name in paths if not name.endswith(_TONES))):
            yield package, name, paths[name].read_bytes(), None


def _table(package: str) -> Iterator[tuple[str, bytes]]:
    for table in folder_of(package).rglob("icons.json"):
        known = json.loads(table.read_bytes())
        for name, drawing in known["icons"].items():
            width, height = (drawing.get(side, known.get(side, 16)) for side in ("width", "height"))
            head = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}">'
            yield name, f"{head}{drawing['body']}</svg>".encode()


def _spread(names: Sequence[str]) -> Sequence[str]:
    return names[:: max(len(names) // _PER_PACKAGE, 1)][:_PER_PACKAGE]


if __name__ == "__main__":
    natural()
