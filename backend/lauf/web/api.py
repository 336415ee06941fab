"""The API: every part's addresses, one sign-in check, one shape of error."""

from __future__ import annotations

import json
import pkgutil
from collections.abc import Iterator
from importlib import import_module
from types import ModuleType
from typing import Any, Final

from django.core.exceptions import RequestDataTooBig
from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI, Router, Status
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.parser import Parser

from lauf import __version__
from lauf.api import catalogue, challenges, exchange, lessons, people, progress
from lauf.api.shape import Schema
from lauf.errors import Clash, Confirm, Denied, IdTaken, Locked, NotFound, Refused
from lauf.messages import say
from lauf.rules.reading.entry import EntryError
from lauf.rules.reading.words import CONTROLS
from lauf.web.database_errors import unavailable
from lauf.web.doors.account import router as account
from lauf.web.doors.beginning import router as beginning
from lauf.web.doors.entering import router as entering
from lauf.web.doors.helping import router as helping
from lauf.web.doors.private_links import router as private_links
from lauf.web.doors.session import router as session
from lauf.web.doors.session import signed_in
from lauf.web.health import health, ready
from lauf.web.throttling import TooMany

#: What a file, pasted cells or an entry hold is read by a reader of their own.
_READ_ELSEWHERE: Final = frozenset({"text", "data", "typed"})


def _is_plain(found: Any) -> bool:
    match found:
        case str():
            return not CONTROLS.search(found)
        case dict():
            return all(
                _is_plain(name) and (name in _READ_ELSEWHERE or _is_plain(one))
                for name, one in found.items()
            )
        case list():
            return all(map(_is_plain, found))
        case _:
            return True


class Text(Parser):
    """JSON whose text the database can hold and a page can show: no control signs, and no half of a
    surrogate pair. Raises ValueError."""

    def parse_body(self, request: HttpRequest) -> Any:
        try:
            data = json.loads(request.body)
        except RecursionError as error:
            raise ValueError(say("lists within lists without an end")) from error
        # Only an escape can write either.
        if b"\\u" in request.body:
            text = json.dumps(data, ensure_ascii=False)
            text.encode()
            if "\\u0000" in text:
                raise ValueError(say("text holds a NUL"))
        if not _is_plain(data):
            raise ValueError(say("text holds control signs"))
        return data


api = NinjaAPI(
    title="Lauf",
    parser=Text(),
    version="1",
    description="Every error says `message`; a refused entry adds `accepted`, `choices`.",
    auth=signed_in,
    docs_url=None,
    openapi_url="/openapi.json",
)


def _routers(room: ModuleType) -> Iterator[Router]:
    """The addresses of every module of a room."""
    for found in pkgutil.iter_modules(room.__path__):
        module = import_module(f"{room.__name__}.{found.name}")
        if isinstance(router := getattr(module, "router", None), Router):
            yield router


_ROOMS = (people, catalogue, lessons, progress, challenges, exchange)
for router in (
    session,
    beginning,
    account,
    private_links,
    helping,
    entering,
    *(router for room in _ROOMS for router in _routers(room)),
):
    api.add_router("", router)


class Health(Schema):
    """The version that is served, whether the database answers, and whether it can keep
    anything."""

    version: str
    database: bool
    writing: bool


class Ready(Schema):
    ready: bool


@api.get("/health", auth=None, response={200: Health, 503: Health}, tags=["service"])
def get_health(request: HttpRequest) -> Any:
    found = health()
    return Status(200 if found["writing"] else 503, {"version": __version__, **found})


@api.get("/ready", auth=None, response={200: Ready, 503: Ready}, tags=["service"])
def get_ready(request: HttpRequest) -> Any:
    """Whether this one is to be sent requests; for what stands before several of them."""
    found = ready()
    return Status(200 if found else 503, {"ready": found})


def _answer(request: HttpRequest, status: int, message: str, **more: Any) -> HttpResponse:
    return api.create_response(request, {"message": message, **more}, status=status)


@api.exception_handler(OperationalError)
@api.exception_handler(InterfaceError)
def _unavailable(_: HttpRequest, error: OperationalError | InterfaceError) -> HttpResponse:
    return unavailable(error)


@api.exception_handler(RequestDataTooBig)
def _too_big(request: HttpRequest, _: RequestDataTooBig) -> HttpResponse:
    return _answer(request, 413, say("This is too much for one request."))


@api.exception_handler(TooMany)
def _too_many(request: HttpRequest, error: TooMany) -> HttpResponse:
    answer = _answer(request, 429, str(error))
    answer["Retry-After"] = str(error.seconds)
    return answer


@api.exception_handler(NotFound)
def _not_found(request: HttpRequest, error: NotFound) -> HttpResponse:
    return _answer(request, 404, str(error))


@api.exception_handler(Denied)
def _not_allowed(request: HttpRequest, error: Denied) -> HttpResponse:
    return _answer(request, 403, str(error))


@api.exception_handler(Locked)
def _locked(request: HttpRequest, error: Locked) -> HttpResponse:
    return _answer(request, 423, str(error))


@api.exception_handler(Refused)
def _refused(request: HttpRequest, error: Refused) -> HttpResponse:
    return _answer(request, 422, str(error))


@api.exception_handler(Confirm)
def _confirm(request: HttpRequest, error: Confirm) -> HttpResponse:
    return _answer(request, 422, str(error), sure=True)


@api.exception_handler(EntryError)
def _unreadable(request: HttpRequest, error: EntryError) -> HttpResponse:
    choices = [{"typed": c.typed, "words": c.words} for c in error.choices]
    return _answer(
        request, 422, error.message, accepted=error.accepted, choices=choices, sure=error.sure
    )


@api.exception_handler(IdTaken)
def _id_taken(request: HttpRequest, error: IdTaken) -> HttpResponse:
    return _answer(request, 409, str(error))


@api.exception_handler(Clash)
def _clash(request: HttpRequest, error: Clash) -> HttpResponse:
    current = error.current
    stored = {
        "id": str(current.id),
        "typed": current.typed,
        "variant": getattr(current, "variant", ""),
        "by": getattr(current, "entered_by", current.recorded_by.name),
        "at": current.recorded_at,
    }
    return _answer(request, 409, str(error), current=stored)


@api.exception_handler(AuthenticationError)
def _signed_out(request: HttpRequest, _: AuthenticationError) -> HttpResponse:
    return _answer(request, 401, say("Sign in first."))


@api.exception_handler(HttpError)
def _http(request: HttpRequest, error: HttpError) -> HttpResponse:
    message = str(error)
    if error.status_code == 400:
        message = say(
            "The request could not be read. Send JSON, and text without control characters."
        )
    return _answer(request, error.status_code, message)


@api.exception_handler(ValidationError)
def _malformed(request: HttpRequest, error: ValidationError) -> HttpResponse:
    parts = [f"{'.'.join(map(str, e['loc'][1:]))}: {e['msg']}" for e in error.errors]
    return _answer(request, 422, "; ".join(parts) or say("The request could not be read."))
