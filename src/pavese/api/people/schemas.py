"""What goes over the wire about people."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated

from pydantic import Field

from pavese.api.schemas import Code, Name, Sent, Text
from pavese.store.people import AccessRole

Email = Annotated[Code, Field(max_length=254)]
Password = Annotated[Text, Field(min_length=1, max_length=200)]


class SignInSent(Sent):
    """Who wants in."""

    email: Email
    password: Password


class Person(Sent):
    """Somebody who may sign in."""

    id: uuid.UUID
    email: str
    name: str
    role: AccessRole
    active: bool
    since: datetime


class NewPerson(Sent):
    """Somebody to let in."""

    email: Email
    name: Name
    role: AccessRole
    password: Password


class PersonChange(Sent):
    """Another role, out or in again, or a new password for who has lost theirs."""

    role: AccessRole | None = None
    active: bool | None = None
    password: Password | None = None


class PasswordChange(Sent):
    """One's own new password."""

    old: Password
    password: Password
