"""The one answer when the database cannot do it now: it says so, and when to come again."""

from __future__ import annotations

import logging
import sys
from typing import Final

from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.views.defaults import server_error
from psycopg.errors import DiskFull, QueryCanceled

from lauf.messages import say

_LOG: Final = logging.getLogger("lauf.database")
#: What the database answers when it is away, full, or too busy. Another try may find it otherwise.
PASSING: Final = (OperationalError, InterfaceError)
COME_AGAIN: Final = "1"


def unavailable(error: BaseException) -> HttpResponse:
    """503 with the time to wait, for one of `PASSING`."""
    _LOG.warning("the database could not: %s", type(error.__cause__ or error).__name__)
    if isinstance(error.__cause__, DiskFull):
        words = say(
            "The disk of this Lauf is full. Nothing new can be saved until there is room again."
        )
    elif isinstance(error.__cause__, QueryCanceled):
        words = say(
            "This took too long and was stopped. Choose fewer days or one class, or try later."
        )
    else:
        words = say("The database cannot be reached at the moment. Lauf tries again.")
    return JsonResponse({"message": words}, status=503, headers={"Retry-After": COME_AGAIN})


def failed(request: HttpRequest) -> HttpResponse:
    """Django's page for what went wrong outside the API's own answers (`handler500`)."""
    error = sys.exc_info()[1]
    return unavailable(error) if isinstance(error, PASSING) else server_error(request)
