"""The people of Tarnmoor Ferries who may sign in to the demo, which is on loopback: their passwords are no secret."""

from __future__ import annotations

from typing import NamedTuple

from sqlalchemy.orm import Session

from pavese.store import people
from pavese.store.people import AccessRole


class DemoPerson(NamedTuple):
    """Who, and how they sign in."""

    email: str
    name: str
    role: AccessRole
    password: str

    @property
    def sign_in(self) -> dict[str, str]:
        """What is sent to sign in."""
        return {"email": self.email, "password": self.password}


COORDINATOR = DemoPerson("maren@tarnmoor.example", "Maren Quist", AccessRole.COORDINATOR, "harbor lights 8")
REVIEWER = DemoPerson("jonas@tarnmoor.example", "Jonas Feld", AccessRole.REVIEWER, "quiet moorings 5")
READER = DemoPerson("ada@tarnmoor.example", "Ada Brook", AccessRole.READER, "early crossing 3")
EVERYBODY = (COORDINATOR, REVIEWER, READER)


def let_in(session: Session) -> None:
    """Adds those who are not there yet."""
    known = {user.email for user in people.listed(session)}
    for person in EVERYBODY:
        if person.email not in known:
            people.add(session, person.email, person.name, person.role, person.password)


def in_words() -> str:
    """How they sign in, one a line."""
    return "\n".join(f"  {one.role.value:<12} {one.email:<24} {one.password}" for one in EVERYBODY)
