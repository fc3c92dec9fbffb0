"""People, how they sign in, and how often that may fail.

Passwords are kept as Argon2id hashes (RFC 9106, with the parameters of its second recommended option, 64 MiB), tokens
of sessions and links as SHA-256 of 32 random bytes.
"""

from __future__ import annotations

import hashlib
import secrets
import uuid
from collections.abc import Sequence
from datetime import datetime, timedelta
from enum import StrEnum
from functools import lru_cache
from math import ceil
from threading import BoundedSemaphore

import email_validator
from email_validator import EmailNotValidError, validate_email
from pwdlib import PasswordHash
from sqlalchemy import ColumnElement, delete, func, select
from sqlalchemy.orm import Session

from pavese.store.database import now
from pavese.store.errors import NotFoundError, StoreError
from pavese.store.models import Attempt, SignIn, UserRow

#: How long a browser stays signed in without being used.
LASTS = timedelta(days=14)
#: After this a session that is in use gets a new token; the old one is good a little longer, for requests under way.
ROTATED_AFTER = timedelta(hours=1)
_OVERLAP = timedelta(minutes=1)
#: Failures in this window count. From one place, those for one person slow down what is tried for them there, by twice
#: as long each time; a person who signs in from elsewhere is not held up by them. So many from one place stop it.
WINDOW = timedelta(minutes=15)
FREE_FOR_ONE = 5
LONGEST_PAUSE = 300
MOST_FROM_ONE = 40
LEAST_PASSWORD = 10
#: Hashing is slow and large on purpose, so only a few are computed side by side.
_HASHING = BoundedSemaphore(2)
_HASHES = PasswordHash.recommended()


class AccessRole(StrEnum):
    """What a person may do: everything; decide and comment; look."""

    COORDINATOR = "coordinator"
    REVIEWER = "reviewer"
    READER = "reader"

    def may(self, needed: AccessRole) -> bool:
        """Whether it is enough for what needs another."""
        order = list(AccessRole)
        return order.index(self) <= order.index(needed)


def token_digest(token: str) -> str:
    """The hash a token is kept under."""
    return hashlib.sha256(token.encode()).hexdigest()


#: Offices have networks of their own under this name (RFC 6762, appendix G), and people sign in with it.
_OF_OFFICES = "local"
if _OF_OFFICES in email_validator.SPECIAL_USE_DOMAIN_NAMES:
    email_validator.SPECIAL_USE_DOMAIN_NAMES.remove(_OF_OFFICES)


def _address(email: str) -> str:
    """An address as it is kept. Whether mail gets there is not asked. Raises StoreError."""
    try:
        found = validate_email(email.strip(), check_deliverability=False, globally_deliverable=False)
    except EmailNotValidError as error:
        raise StoreError(f"“{email[:80]}” is no e-mail address: {error}") from error
    return found.normalized.lower()


def add(session: Session, email: str, name: str, role: AccessRole, password: str) -> UserRow:
    """A new person. Raises StoreError for an address that is there, or a password that is too short."""
    address = _address(email)
    _long_enough(password)
    if session.scalars(select(UserRow).where(UserRow.email == address)).first() is not None:
        raise StoreError(f"There is somebody with the address {address} already.")
    user = UserRow(id=uuid.uuid4(), email=address, name=name, role=role.value, secret=_hashed(password))
    session.add(user)
    session.flush()
    return user


def listed(session: Session) -> list[UserRow]:
    """Everybody, by name."""
    return list(session.scalars(select(UserRow).order_by(func.lower(UserRow.name), UserRow.email)))


def get(session: Session, user_id: uuid.UUID) -> UserRow:
    """One person. Raises NotFoundError."""
    user = session.get(UserRow, user_id)
    if user is None:
        raise NotFoundError("This person does not exist.")
    return user


def change(session: Session, user: UserRow, role: AccessRole | None, active: bool | None) -> None:
    """Another role, or in or out. Raises StoreError when no coordinator would be left."""
    # Everybody's row is locked, so that two coordinators cannot put each other out at the same moment.
    everybody = session.scalars(select(UserRow).with_for_update().execution_options(populate_existing=True)).all()
    if role is not None:
        user.role = role.value
    if active is not None:
        user.active = active
    if not any(one.active and one.role == AccessRole.COORDINATOR for one in everybody):
        raise StoreError("At least one active coordinator has to stay.")
    if not user.active:
        session.execute(delete(SignIn).where(SignIn.user_id == user.id))
    session.flush()


def set_password(session: Session, user: UserRow, password: str) -> None:
    """A new password; all sessions of the person end. Raises StoreError for one that is too short."""
    _long_enough(password)
    user.secret = _hashed(password)
    session.execute(delete(SignIn).where(SignIn.user_id == user.id))
    session.flush()


def renew(session: Session, user: UserRow, old: str, password: str, place: str) -> str | None:
    """One's own new password, and the token of the only session that is left; None where the old one is wrong.

    Raises StoreError for a new one that is too short.
    """
    if not _fits(old, user.secret):
        _failed(session, user.email, place)
        return None
    set_password(session, user, password)
    return _new_token(session, user)


def held_up(session: Session, email: str, place: str) -> int:
    """For how many seconds no more attempts are taken for this person from this place; 0 when they are."""
    moment = now(session)

    def recent(of: str) -> Sequence[datetime]:
        found = select(Attempt.at).where(Attempt.of == of, Attempt.at > moment - WINDOW).order_by(Attempt.at)
        return session.scalars(found).all()

    from_here = recent(_from(place))
    if len(from_here) >= MOST_FROM_ONE:
        return max(1, ceil((from_here[-MOST_FROM_ONE] + WINDOW - moment).total_seconds()))
    for_one = recent(_about(email, place))
    if len(for_one) < FREE_FOR_ONE:
        return 0
    pause: int = min(2 ** (len(for_one) - FREE_FOR_ONE), LONGEST_PAUSE)
    return max(0, ceil((for_one[-1] - moment).total_seconds() + pause))


def signed_in(session: Session, email: str, password: str, place: str) -> tuple[UserRow, str] | None:
    """The person and a new token, or None where address and password do not belong together.

    The same work is done for an address that is not there, so that how long it takes tells nothing.
    """
    user = session.scalars(select(UserRow).where(UserRow.email == email.strip().lower())).first()
    fits = _fits(password, user.secret if user else _nobody())
    if user is None or not fits or not user.active:
        _failed(session, email, place)
        return None
    session.execute(delete(Attempt).where((Attempt.of == _about(email, place)) | (Attempt.at < now(session) - WINDOW)))
    session.execute(delete(SignIn).where(SignIn.ends_at < now(session)))
    return user, _new_token(session, user)


def bearer(session: Session, token: str) -> UserRow | None:
    """Whose token it is; None for one that is unknown or has ended."""
    found = _sign_in(session, token)
    return found.user if found is not None and found.user.active else None


def rotated(session: Session, token: str) -> str | None:
    """A new token in place of one that has been used for a while; None while it is still good."""
    found = _sign_in(session, token)
    if found is None or found.made_at + ROTATED_AFTER > now(session):
        return None
    found.ends_at = now(session) + _OVERLAP
    return _new_token(session, found.user)


def signed_out(session: Session, token: str) -> None:
    """The token is good no longer."""
    session.execute(delete(SignIn).where(_is(token)))


def _failed(session: Session, email: str, place: str) -> None:
    session.add_all([Attempt(of=_about(email, place)), Attempt(of=_from(place))])
    session.flush()


def _long_enough(password: str) -> None:
    if len(password) < LEAST_PASSWORD:
        raise StoreError(f"A password needs at least {LEAST_PASSWORD} characters.")


def _sign_in(session: Session, token: str) -> SignIn | None:
    return session.scalars(select(SignIn).where(_is(token), SignIn.ends_at > func.clock_timestamp())).first()


def _is(token: str) -> ColumnElement[bool]:
    return SignIn.digest == token_digest(token)


def _new_token(session: Session, user: UserRow) -> str:
    token = secrets.token_urlsafe(32)
    session.add(SignIn(digest=token_digest(token), user_id=user.id, ends_at=now(session) + LASTS))
    session.flush()
    return token


def _about(email: str, place: str) -> str:
    return token_digest(f"for {email.strip().lower()} from {place}")


def _from(place: str) -> str:
    return token_digest(f"from {place}")


def _hashed(password: str) -> str:
    with _HASHING:
        return _HASHES.hash(password)


def _fits(password: str, secret: str) -> bool:
    with _HASHING:
        return _HASHES.verify(password, secret)


@lru_cache(maxsize=1)
def _nobody() -> str:
    return _hashed(secrets.token_urlsafe(32))
