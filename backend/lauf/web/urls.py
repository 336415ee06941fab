"""Addresses: the API, and the application's page for everything else."""

from __future__ import annotations

import hashlib
import json

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe

from lauf.api.vocabulary import words_by_code
from lauf.messages import LANGUAGE, SOURCE, messages_of_pages
from lauf.web.api import api

#: Written by the front end's build wherever a nonce belongs.
NONCE_PLACE = "__LAUF_CSP_NONCE__"
#: Written by it into the service worker, where the revision of the page belongs.
REVISION_PLACE = "__LAUF_PAGE_REVISION__"


@require_safe
@ensure_csrf_cookie
def page(request: HttpRequest, **_: str) -> HttpResponse:
    """The application's one page, with this answer's nonce for the theme's style element."""
    html = _in_its_language(_built("index.html"))
    answer = HttpResponse(html.replace(NONCE_PLACE, str(request.csp_nonce)))  # type: ignore[attr-defined]
    answer["Cache-Control"] = "no-store"
    return answer


@require_safe
def service_worker(_: HttpRequest) -> HttpResponse:
    """The service worker, which keeps the page and its files for when there is no network. It is
    another one as soon as the page is: by its files, or by the language of this installation."""
    page = _in_its_language(_built("index.html"))
    revision = hashlib.sha256(page.encode()).hexdigest()[:16]
    script = _built("sw.js").replace(REVISION_PLACE, revision)
    answer = HttpResponse(script, content_type="text/javascript")
    answer["Cache-Control"] = "no-cache"
    return answer


def _built(name: str) -> str:
    try:
        return (settings.FRONT_END / name).read_text()
    except OSError as error:
        raise Http404("The front end is not built: run ./lauf start.") from error


def _in_its_language(html: str) -> str:
    """The page with the messages of another language, which are data and no script."""
    told = messages_of_pages()
    if told is None:
        return html
    brought = _data("messages", told) + _data("rules", json.dumps(words_by_code())) + "</head>"
    return html.replace(f'lang="{SOURCE}"', f'lang="{LANGUAGE}"').replace("</head>", brought, 1)


def _data(name: str, told: str) -> str:
    safe = told.replace("<", "\\u003c")
    return f'<script type="application/json" id="{name}">{safe}</script>'


handler500 = "lauf.web.database_errors.failed"
urlpatterns = [
    path("api/", api.urls),
    path("sw.js", service_worker),
    path("", page),
    re_path(r"^(?!api/|static/).*$", page),
]
