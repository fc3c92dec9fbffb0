"""The history against a model of it, and two people at the same draft."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from typing import Any

import pytest
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, precondition, rule
from sqlalchemy.orm import Session, sessionmaker

from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.role import Role
from pavese.store import history, kits
from pavese.store.database import connect, migrate, sessions
from pavese.store.errors import NothingToUndoError
from pavese.store.models import Subject

_made: list[sessionmaker[Session]] = []


@pytest.fixture(scope="module")
def making(database_url: str) -> Iterator[sessionmaker[Session]]:
    engine = connect(database_url)
    migrate(engine)
    _made.append(sessions(engine))
    yield _made[-1]
    _made.clear()
    engine.dispose()


class HistoryMachine(RuleBasedStateMachine):
    """A list of bodies and a position in it is all a history is."""

    def __init__(self) -> None:
        super().__init__()
        self.bodies: list[dict[str, Any]] = []
        self.labels: list[str] = []
        self.at = 0

    @initialize()
    def begin(self) -> None:
        with _made[-1].begin() as session:
            self.id = history.begin(session, "start", {"n": 0}).id
        self.bodies, self.labels, self.at = [{"n": 0}], ["start"], 0

    def subject(self, session: Session) -> Subject:
        found = session.get(Subject, self.id)
        assert found is not None
        return found

    @rule(number=st.integers(0, 3))
    def record(self, number: int) -> None:
        with _made[-1].begin() as session:
            history.record(session, self.subject(session), f"to {number}", {"n": number})
        if self.bodies[self.at] != {"n": number}:
            del self.bodies[self.at + 1 :], self.labels[self.at + 1 :]
            self.bodies.append({"n": number})
            self.labels.append(f"to {number}")
            self.at += 1

    @rule(number=st.integers(4, 6))
    def amend(self, number: int) -> None:
        with _made[-1].begin() as session:
            history.amend(session, self.subject(session), {"n": number})
        self.bodies[self.at] = {"n": number}

    @rule()
    @precondition(lambda self: self.at > 0)
    def undo(self) -> None:
        with _made[-1].begin() as session:
            assert history.undo(session, self.subject(session)) == self.labels[self.at]
        self.at -= 1

    @rule()
    @precondition(lambda self: self.at + 1 < len(self.bodies))
    def redo(self) -> None:
        self.at += 1
        with _made[-1].begin() as session:
            assert history.redo(session, self.subject(session)) == self.labels[self.at]

    @rule()
    @precondition(lambda self: self.at == 0)
    def undo_at_the_first(self) -> None:
        with _made[-1].begin() as session, pytest.raises(NothingToUndoError):
            history.undo(session, self.subject(session))

    @rule()
    @precondition(lambda self: self.at + 1 == len(self.bodies))
    def redo_at_the_last(self) -> None:
        with _made[-1].begin() as session, pytest.raises(NothingToUndoError):
            history.redo(session, self.subject(session))

    @invariant()
    def agrees(self) -> None:
        if not self.bodies:
            return
        with _made[-1].begin() as session:
            subject = self.subject(session)
            assert history.current(session, subject) == self.bodies[self.at]
            state = history.state(session, subject)
            assert state.undo == (self.labels[self.at] if self.at else None)
            assert state.redo == (self.labels[self.at + 1] if self.at + 1 < len(self.labels) else None)


def test_undo_and_redo_are_a_list_and_a_position(making: sessionmaker[Session]) -> None:
    machine = HistoryMachine.TestCase()
    machine.settings = settings(max_examples=25, stateful_step_count=14, deadline=None)
    machine.runTest()


def test_changes_made_at_the_same_time_are_all_kept(making: sessionmaker[Session]) -> None:
    with making.begin() as session:
        kit_id = kits.create(session, Kit(name="Shared")).id
    start = threading.Barrier(6)

    def add(number: int) -> None:
        start.wait()
        color = KitColor(key=f"c{number}", name=f"C{number}", role=Role.ACCENT, base=Rgb(number, 0, 0))
        with making.begin() as session:
            row = kits.get(session, kit_id)
            kits.change(
                session, row, f"add {number}", lambda kit: kit.model_copy(update={"colors": (*kit.colors, color)})
            )

    people = [threading.Thread(target=add, args=(number,)) for number in range(6)]
    for person in people:
        person.start()
    for person in people:
        person.join()
    with making.begin() as session:
        row = kits.get(session, kit_id)
        assert {color.key for color in kits.kit_of(session, row).colors} == {f"c{n}" for n in range(6)}
        assert row.draft.head == 6


def test_a_change_that_fails_leaves_nothing_behind(making: sessionmaker[Session]) -> None:
    with making.begin() as session:
        kit_id = kits.create(session, Kit(name="Safe")).id

    def explode(_kit: Kit) -> Kit:
        raise RuntimeError("no")

    with pytest.raises(RuntimeError), making.begin() as session:
        kits.change(session, kits.get(session, kit_id), "explode", explode)
    with making.begin() as session:
        assert kits.get(session, kit_id).draft.head == 0
