"""Who is asking."""

from __future__ import annotations

from typing import cast

from django.http import HttpRequest

from lauf.people.models import Staff


def signed_in_staff(request: HttpRequest) -> Staff:
    """The signed-in person of a request that has passed the API's sign-in check."""
    return cast("Staff", request.user)
