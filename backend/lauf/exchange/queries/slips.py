"""Slips for families: how a child enters its own goes of a challenge, cut from a page."""

from __future__ import annotations

from typing import Final
from uuid import UUID

import segno

from lauf.challenges.models import ChallengeCode, Slip
from lauf.challenges.pictures import picture
from lauf.challenges.queries import class_of_week, week_of
from lauf.challenges.queries.entering import takes_goes
from lauf.errors import Refused
from lauf.exchange.paper.pages import day, fill
from lauf.exchange.queries.handouts import Pages
from lauf.messages import and_list, say
from lauf.people.models import Staff

_A_PAGE: Final = 8


def family_slips(
    staff: Staff, week_id: UUID, class_id: UUID, address: str, pupil_id: UUID | None = None
) -> Pages:
    """The slips of a class, eight a page, or of one child. Five queries. Raises NotFound, or
    Refused while the week is not open to the class.

    address  of the page that a slip opens
    """
    week = week_of(staff, week_id)
    group = class_of_week(staff, week, class_id)
    if not ChallengeCode.objects.filter(week=week, school_class=group).exists():
        raise Refused(say("Open the week to the children first."))
    slips = Slip.objects.filter(week=week, withdrawn_at=None, pupil__school_class=group)
    if pupil_id is not None:
        slips = slips.filter(pupil=pupil_id)
    challenges = week.challenges.select_related("protocol__test")
    tests = [one.protocol.test.name for one in challenges if takes_goes(one.protocol)]
    made = [
        _slip(slip, address)
        for slip in slips.select_related("pupil").order_by("pupil__given_name", "picture")
    ]
    shown = {
        "week": week.name,
        "tests": and_list(tests),
        "until": day(week.ends_on),
        "address": address,
    }
    pages = [
        fill("slips", {**shown, "rows": _pairs(made[first : first + _A_PAGE])})
        for first in range(0, len(made), _A_PAGE)
    ]
    return Pages(say("{week} {name} slips.pdf", week=week.name, name=group.name), pages)


def _pairs(slips: list[dict[str, str]]) -> list[list[dict[str, str]]]:
    return [slips[at : at + 2] for at in range(0, len(slips), 2)]


def _slip(slip: Slip, address: str) -> dict[str, str]:
    """A slip with its square and its picture, both as drawings."""
    code = slip.code or ""
    drawn = segno.make(f"{address}#{code}", error="m", micro=False).svg_inline(
        scale=1, border=1, omitsize=True
    )
    shows = say("Code: {code}", code=code)
    shown = picture(slip.picture)
    return {
        "name": slip.pupil.given_name,
        "code": f"{code[:5]} {code[5:]}",
        "qr": drawn.replace("<svg", f'<svg aria-label="{shows}"', 1),
        "word": shown["word"],
        "picture": (
            '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24" '
            f'aria-label="{shown["word"]}"><path fill="#0b4f5c" d="{shown["path"]}"/></svg>'
        ),
    }
