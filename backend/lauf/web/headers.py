"""What every answer carries, and what every request to the API has to be."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.http.response import HttpResponseBase

from lauf.messages import say

#: What a page may use of the device: its sound, its lit screen and all of its screen.
PERMISSIONS: Final = ", ".join(
    [*(f"{name}=(self)" for name in ("autoplay", "fullscreen", "screen-wake-lock")),
     *(f"{name}=()" for name in (
         "accelerometer", "bluetooth", "camera", "display-capture", "geolocation", "gyroscope",
         "hid", "magnetometer", "microphone", "midi", "payment", "serial", "usb",
     ))]
)  # fmt: skip
_WITH_BODY: Final = {"POST", "PUT", "PATCH"}


class Headers:
    """Django middleware: no answer of the API stays in a cache, no page gets at the device's camera
    or place, and the API takes JSON only."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        of_api = request.path_info.startswith("/api/")
        refused = _holds_nul(request) or (_not_json(request) if of_api else None)
        answer = refused or self._get_response(request)
        answer["Permissions-Policy"] = PERMISSIONS
        if of_api:
            answer["Cache-Control"] = "no-store"
        return answer


def _holds_nul(request: HttpRequest) -> HttpResponse | None:
    """No text of the database holds one: what asks for it asks for nothing."""
    if "\0" not in request.path_info and "%00" not in request.META.get("QUERY_STRING", ""):
        return None
    return JsonResponse({"message": say("The address has a NUL character. Remove it.")}, status=400)


def _not_json(request: HttpRequest) -> HttpResponse | None:
    if request.method not in _WITH_BODY or request.content_type in ("", "application/json"):
        return None
    return JsonResponse({"message": say("Send JSON (content type application/json).")}, status=415)
