"""What is shown of a mail, or a deck, for its proof: before and after, and how each text reads.

The functions named with an underscore run in a child.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace
from typing import cast

from pavese.core.color.contrast import WHITE
from pavese.core.formats import format_of
from pavese.core.formats.document import Slided
from pavese.core.formats.format import Can
from pavese.core.formats.intake import Came
from pavese.core.handoff.file_proof import FileProof, SeenFile
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.reading import readings
from pavese.core.recolor.texts import TextRun
from pavese.render.draw import draw
from pavese.render.marked import laid_out, texts_marked
from pavese.render.pool import DrawingPool
from pavese.render.remembered import handed, read_file, seconds_for
from pavese.render.slides import seen_pages, slides_measured

_PROOF_SECONDS = 30.0
#: What a proof says of where it looked, how high its pictures stand (in millimeters), and slides that it shows.
_EVERY_LOOK, _EVERY_SLIDE = "in every way in which the mail is seen here", "on the slides"
_MAIL_HIGH, _SLIDE_HIGH, _MOST_SLIDES = 86, 50, 100
#: How wide a mail stands in its proof.
_PROOF_WIDE = 700


def proof(pool: DrawingPool, file: Came, changes: Changes) -> FileProof:
    """What is shown of a mail for its proof. Raises CannotDrawError."""
    made: FileProof = pool.done(_proof, file, changes, seconds=max(_PROOF_SECONDS, 3 * seconds_for(file)))
    return made


def _proof(file: Came, changes: Changes) -> FileProof:
    came, became_file = read_file(file), read_file(handed(file, changes))
    if Can.SLIDES in format_of(file.name).can:
        return _slide_proof(file.name, cast(Slided, came), cast(Slided, became_file))
    looks, runs = [], dict[TextRun, None]()
    had: dict[tuple[str, float], float] = {}
    parts = list(zip(laid_out(came), laid_out(became_file), strict=True))
    for number, (document, after) in enumerate(parts, 1):
        for look in after.looks:
            before, became = (one.preview(Changes(), look=look) for one in (document, after))
            words = f"{look.words}, part {number}" if len(parts) > 1 else look.words
            looks.append(SeenFile(words, draw(before, _PROOF_WIDE), draw(became, _PROOF_WIDE)))
            if look.reads:
                for one in readings(_settled(texts_marked(document, look)), Changes(), WHITE):
                    had.setdefault((one.run.text.text, one.run.text.size), one.before)
                runs.update(dict.fromkeys(_settled(texts_marked(after, look))))
    told = readings(runs, Changes(), WHITE)
    title = came.inventory().title
    return FileProof(file.name, title, looks, told, had, len(runs) - len(told), _EVERY_LOOK, _MAIL_HIGH)


def _slide_proof(name: str, document: Slided, written: Slided) -> FileProof:
    seen = []
    for at, page in enumerate(seen_pages(document)[:_MOST_SLIDES]):
        before, after = (draw(one.preview(Changes(), at), _PROOF_WIDE) for one in (document, written))
        seen.append(SeenFile(page.title or "Slide", before, after))
    had: dict[tuple[str, float], float] = {}
    for one in readings(_texts_of_slides(document), Changes(), WHITE):
        had.setdefault((one.run.text.text, one.run.text.size), one.before)
    runs = _texts_of_slides(written)
    told = readings(runs, Changes(), WHITE)
    title = document.inventory().title
    return FileProof(name, title, seen, told, had, len(runs) - len(told), _EVERY_SLIDE, _SLIDE_HIGH)


def _texts_of_slides(document: Slided) -> list[TextRun]:
    """Each once, on whichever slide it is seen."""
    runs = (replace(run, page="") for found in slides_measured(document) for run in found.texts)
    return list(dict.fromkeys(_settled(runs)))


def _settled(runs: Iterable[TextRun]) -> Iterator[TextRun]:
    """Texts on what is seen below them, whatever says that."""
    return (run.settled() for run in runs)
