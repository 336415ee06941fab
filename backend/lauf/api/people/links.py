"""Links that let somebody set their own password, as they are shown."""

from __future__ import annotations

from datetime import datetime

import segno
from django.http import HttpRequest

from lauf.api.people.mail import mailed_link
from lauf.api.shape import Schema
from lauf.people.models import Staff


class StaffLink(Schema):
    """A link that lets somebody set their own password, once; it is shown this one time. `qr` is a
    picture of it (data URI)."""

    name: str
    path: str
    qr: str
    until: datetime
    # Where it was sent to by mail; empty: nowhere.
    mailed_to: str = ""


def link_shown(request: HttpRequest, person: Staff, token: str) -> StaffLink:
    """The link of a token that was just made, mailed to its person where that can be."""
    # Behind the sign "#" it reaches no server's log.
    path = f"/welcome#{token}"
    picture = segno.make(request.build_absolute_uri("/")[:-1] + path, error="m")
    return StaffLink(
        name=person.name,
        path=path,
        qr=picture.svg_data_uri(scale=6, border=2),
        until=person.invitation.expires_at,
        mailed_to=mailed_link(person, request.build_absolute_uri("/")[:-1] + path),
    )
