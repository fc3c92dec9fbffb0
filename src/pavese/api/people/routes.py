"""Routes for signing in and out, and for who may."""

from __future__ import annotations

import uuid

from fastapi import APIRouter, Depends, Request
from fastapi.responses import Response

from pavese.api.access import COOKIE, Forgetting, Me, admitted, set_cookie
from pavese.api.context import Db
from pavese.api.people.schemas import NewPerson, PasswordChange, Person, PersonChange, SignInSent
from pavese.api.problems import problem
from pavese.store import people
from pavese.store.models import UserRow

#: Signing in and out asks for no session.
door = APIRouter(prefix="/api", tags=["people"])
router = APIRouter(prefix="/api", tags=["people"], dependencies=[Depends(admitted)])


@door.post("/session", response_model=Person)
def sign_in(sent: SignInSent, request: Request, response: Response, db: Db) -> Person | Response:
    """Signs in; whether the address is unknown or the password wrong is not told."""
    place = _place(request)
    wait = people.held_up(db, sent.email, place)
    if wait:
        return _too_many(request, wait)
    found = people.signed_in(db, sent.email, sent.password, place)
    if found is None:
        # Answered, not raised: the failed attempt has to be kept.
        return problem(request, 401, "Not signed in", "Address and password do not belong together.")
    user, token = found
    set_cookie(request, response, token)
    return _view(user)


@door.delete("/session", status_code=204, dependencies=[Forgetting])
def sign_out(request: Request, response: Response, db: Db) -> None:
    """Signs out; signing out twice is fine."""
    people.signed_out(db, request.cookies.get(COOKIE, ""))
    response.delete_cookie(COOKIE, path="/")


@router.get("/session")
def who_am_i(me: Me, request: Request, response: Response, db: Db) -> Person:
    """Who is signed in; gives a session that has been used for a while a new token."""
    token = people.rotated(db, request.cookies.get(COOKIE, ""))
    if token is not None:
        set_cookie(request, response, token)
    return _view(me)


@router.put("/session/password", response_model=Person, dependencies=[Forgetting])
def change_password(sent: PasswordChange, me: Me, request: Request, response: Response, db: Db) -> Person | Response:
    """Changes one's own password; every other session of one's ends."""
    place = _place(request)
    wait = people.held_up(db, me.email, place)
    if wait:
        return _too_many(request, wait)
    token = people.renew(db, people.get(db, me.id), sent.old, sent.password, place)
    if token is None:
        return problem(request, 422, "Not changed", "This is not the password you have.")
    set_cookie(request, response, token)
    return _view(me)


@router.get("/people")
def list_people(db: Db) -> list[Person]:
    """Everybody, by name."""
    return [_view(user) for user in people.listed(db)]


@router.post("/people", status_code=201)
def add_person(new: NewPerson, db: Db) -> Person:
    """Lets somebody in."""
    return _view(people.add(db, new.email, new.name, new.role, new.password))


@router.patch("/people/{user_id}", dependencies=[Forgetting])
def change_person(user_id: uuid.UUID, change: PersonChange, db: Db) -> Person:
    """Gives somebody another role or password, or puts them out; then their sessions end at once."""
    user = people.get(db, user_id)
    people.change(db, user, change.role, change.active)
    if change.password is not None:
        people.set_password(db, user, change.password)
    return _view(user)


def _place(request: Request) -> str:
    return request.client.host if request.client else "unknown"


def _too_many(request: Request, wait: int) -> Response:
    pause = f"{-(-wait // 60)} minutes" if wait > 90 else f"{wait} seconds"
    refusal = problem(request, 429, "Too many attempts", f"Too many attempts failed. Try again in {pause}.")
    refusal.headers["Retry-After"] = str(wait)
    return refusal


def _view(user: UserRow) -> Person:
    return Person(
        id=user.id,
        email=user.email,
        name=user.name,
        role=people.AccessRole(user.role),
        active=user.active,
        since=user.made_at,
    )
