"""Making an export: everything that was ordered, in one zip."""

from __future__ import annotations

import uuid
from collections.abc import Iterator, Sequence

import structlog
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session, sessionmaker

from pavese.core.errors import PaveseError
from pavese.core.formats.archive import zipped
from pavese.core.handoff.beside import Beside
from pavese.core.handoff.css import kit_css
from pavese.core.handoff.export import OUTPUTS, Export, ExportForm
from pavese.core.handoff.package import free_name
from pavese.core.handoff.plan_file import plan_file
from pavese.core.handoff.tokens import kit_tokens
from pavese.core.kit.kit import Kit
from pavese.core.recolor.plan import Plan
from pavese.jobs.outputs import MAKERS, OF_SET, Item, Order, item_of
from pavese.render.pool import DrawingPool
from pavese.store import belonging, contents, exports, sets
from pavese.store.queue import MOST_TRIES, NoLongerOursError

log = structlog.get_logger()


class CannotMakeError(PaveseError):
    """An order that no worker got over."""


def make_export(sessions: sessionmaker[Session], pool: DrawingPool, export_id: uuid.UUID) -> None:
    """Makes an export and ends it; one that has ended, or is ended by another meanwhile, is left as it is."""
    with sessions.begin() as session:
        claimed = exports.claim(session, export_id)
    if claimed is None:
        return
    mine, tries = claimed
    notes: list[str] = []
    size = 0
    try:
        if tries > MOST_TRIES:
            raise CannotMakeError(f"Making it has failed {MOST_TRIES} times. Order less of it at a time.")
        with sessions.begin() as session:
            digest, size = contents.write(session, zipped(_made(sessions, pool, export_id, mine, notes)))
    except NoLongerOursError:
        return
    except PaveseError as error:
        digest, notes = None, [str(error)]
    except SQLAlchemyError:
        # The database may be back in a moment: the queue gives the work out again.
        raise
    except Exception:
        log.exception("export failed", id=str(export_id))
        digest, notes = None, [f"Something went wrong that was not foreseen. Its number in the log is {export_id}."]
    with sessions.begin() as session:
        ended = exports.end(session, export_id, mine, digest, notes)
    log.info("export", id=str(export_id), ended=ended, bytes=size)


def _made(
    sessions: sessionmaker[Session], pool: DrawingPool, export_id: uuid.UUID, mine: uuid.UUID, notes: list[str]
) -> Iterator[tuple[str, bytes]]:
    """Every file of the zip; what cannot be made is noted, and the rest is made."""
    with sessions() as session:
        row = exports.get(session, export_id)
        wanted = Export.model_validate(row.wanted)
        plan, kit = Plan.model_validate(row.plan), Kit.model_validate(row.kit)
        ours = plan.kit_with_guests(kit)
        set_row = sets.get(session, row.set_id)
        set_name = set_row.name
        handed = [asset for asset in sets.assets(session, set_row) if asset.name not in plan.left_out]
        each = ((asset, plan.changes(ours, asset.name, asset.paints)) for asset in handed)
        items = [item_of(one, number) for number, one in enumerate(sets.each_becoming(session, each), 1)]
        original = ExportForm.ORIGINAL in wanted.forms
        came_along = list(belonging.neighbors(session, handed)) if original else []
        paths = {asset.name: belonging.paths(asset) for asset in handed}
    beside = Beside()
    for item in items if original else ():
        beside.add(item.name, paths[item.name], item.beside)
    order = Order(set_name, wanted, ours, pool)
    taken: set[str] = set()
    for done, (path, made) in enumerate(_steps(items, order), 1):
        try:
            for name, data in made:
                yield free_name(name, taken), data
        except PaveseError as error:
            notes.append(f"{path}: {error}")
        with sessions.begin() as session:
            if not exports.progress(session, export_id, mine, done):
                raise NoLongerOursError
    yield from beside.files(came_along, taken)
    yield free_name("kit.css", taken), kit_css(ours).encode()
    yield free_name("kit.tokens.json", taken), kit_tokens(kit).encode()
    yield free_name("plan.json", taken), plan_file(plan, kit).encode()
    if notes:
        yield free_name("not-made.txt", taken), ("\n".join(notes) + "\n").encode()


def _steps(items: Sequence[Item], order: Order) -> Iterator[tuple[str, Iterator[tuple[str, bytes]]]]:
    """Each step with what it is about, as `Export.steps` counts them."""
    for form in order.wanted.forms:
        if form in OF_SET:
            yield form.value, OF_SET[form](items, order)
            continue
        for item in items:
            if OUTPUTS[form].of(item.can, order.wanted.motion):
                yield f"{item.name} as {form.value}", MAKERS[form](item, order)
