"""The ASGI application that uvicorn serves."""

import gc
import os
import warnings
from typing import cast

# WhiteNoise hands files over as plain iterators; Django reads small files that way well enough.
warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous")

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "lauf.web.settings")

import django
from asgiref.sync import sync_to_async
from django.core.handlers.asgi import ASGIHandler
from django.http import HttpRequest
from django.http.response import HttpResponseBase
from django.urls import get_resolver

from lauf.web.live import LiveStreams
from lauf.web.overload import OverloadLimiter
from lauf.web.shapes import Application, Message
from lauf.web.watching import PERSON, ROUTE, Watched


class OneThread(ASGIHandler):
    """Nothing here is written for the event loop: a request goes through all of the middleware and
    its view on one thread in one go. Django by itself would bring it back to the loop between every
    two of them, which takes longer than most of Lauf's answers."""

    def load_middleware(self, is_async: bool = False) -> None:  # noqa: ARG002
        super().load_middleware(is_async=False)

    async def get_response_async(self, request: HttpRequest) -> HttpResponseBase:
        return await sync_to_async(self._answered)(request)

    def _answered(self, request: HttpRequest) -> HttpResponseBase:
        response = self.get_response(request)
        scope: Message = request.scope  # type: ignore[attr-defined]
        if (found := request.resolver_match) is not None:
            scope[ROUTE] = found.route
        # Whoever was not asked for is not looked up for the log.
        if (person := getattr(request, "_cached_user", None)) is not None and person.pk:
            scope[PERSON] = str(person.pk)
        return response


django.setup(set_prefix=False)
# Its models are there only now.
from lauf.web.throttling import is_known_device

application = Watched(
    LiveStreams(OverloadLimiter(cast("Application", OneThread()), is_known_device))
)
# All of Lauf is read before anybody asks, and stays to the end: nobody looks for waste in it again.
_ = get_resolver().url_patterns
gc.collect()
gc.freeze()
