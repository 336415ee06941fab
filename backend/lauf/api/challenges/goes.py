"""Routes for the goes that children enter themselves, as their teachers see them."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Router

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import ClassChoice, qr_of
from lauf.challenges import actions
from lauf.challenges.queries.goes import GoesPage, WaitingGoes, goes_page, waiting_in_lesson

router = Router(tags=["goes"])


class EntrySquare(Schema):
    """The address that opens a week with the code of a class, and its square as a picture."""

    class_id: UUID
    address: str
    qr: str


class GoesAnswer(GoesPage):
    """`squares`: of the classes that the week is open to. `left`: why some goes still wait."""

    squares: list[EntrySquare]
    left: list[str]


class Acceptance(Schema):
    """The goes that are accepted. `sure`: the teacher has seen what is odd about them; else those
    that are odd still wait."""

    ids: list[UUID] = Field(max_length=500)
    sure: bool = False


class NewSlip(Schema):
    """The id is the device's own: the same twice is one slip."""

    id: UUID


def _answer(request: HttpRequest, week_id: UUID, left: list[str] | None = None) -> GoesAnswer:
    page = goes_page(signed_in_staff(request), week_id)
    squares = []
    for one in page["classes"]:
        if one["code"] is not None:
            # After the number sign: it stands in no log.
            address = request.build_absolute_uri(f"/mine#{one['code']}")
            square = EntrySquare(class_id=one["class_id"], address=address, qr=qr_of(address))
            squares.append(square)
    return {**page, "squares": squares, "left": left or []}


@router.get("/weeks/{week_id}/goes", response=GoesAnswer)
def get_goes(request: HttpRequest, week_id: UUID) -> GoesAnswer:
    """What children have entered, and how they come in."""
    return _answer(request, week_id)


@router.post("/weeks/{week_id}/goes/open", response=GoesAnswer)
def publish_week(request: HttpRequest, week_id: UUID, choice: ClassChoice) -> GoesAnswer:
    """A code for a class, and a slip for each child that has none."""
    actions.publish(signed_in_staff(request), week_id, choice.class_id, timezone.localdate())
    return _answer(request, week_id)


@router.post("/weeks/{week_id}/goes/close", response=GoesAnswer)
def unpublish_week(request: HttpRequest, week_id: UUID, choice: ClassChoice) -> GoesAnswer:
    actions.unpublish(signed_in_staff(request), week_id, choice.class_id)
    return _answer(request, week_id)


@router.post("/weeks/{week_id}/goes/accept", response=GoesAnswer)
def accept_goes(request: HttpRequest, week_id: UUID, given: Acceptance) -> GoesAnswer:
    staff, now = signed_in_staff(request), timezone.now()
    left = actions.accept_goes(staff, week_id, given.ids, now, sure=given.sure)
    return _answer(request, week_id, left)


@router.post("/weeks/{week_id}/goes/{go_id}/decline", response=GoesAnswer)
def decline_go(request: HttpRequest, week_id: UUID, go_id: UUID) -> GoesAnswer:
    actions.decline_go(signed_in_staff(request), week_id, go_id, timezone.now())
    return _answer(request, week_id)


@router.post("/weeks/{week_id}/goes/{go_id}/wait", response=GoesAnswer)
def let_go_wait(request: HttpRequest, week_id: UUID, go_id: UUID) -> GoesAnswer:
    """Undo a decision against a go."""
    actions.let_wait(signed_in_staff(request), week_id, go_id, timezone.now())
    return _answer(request, week_id)


@router.post("/weeks/{week_id}/slips/{pupil_id}", response=GoesAnswer)
def replace_slip(request: HttpRequest, week_id: UUID, pupil_id: UUID, new: NewSlip) -> GoesAnswer:
    """A new slip for a child; the one before opens nothing any more."""
    actions.replace_slip(signed_in_staff(request), week_id, pupil_id, timezone.now(), new.id)
    return _answer(request, week_id)


@router.delete("/weeks/{week_id}/slips/{pupil_id}", response=GoesAnswer)
def withdraw_slip(request: HttpRequest, week_id: UUID, pupil_id: UUID) -> GoesAnswer:
    actions.withdraw_slip(signed_in_staff(request), week_id, pupil_id, timezone.now())
    return _answer(request, week_id)


@router.get("/lessons/{lesson_id}/goes", response=list[WaitingGoes])
def get_waiting_goes(request: HttpRequest, lesson_id: UUID) -> list[WaitingGoes]:
    """How many goes of the lesson's class wait, by week."""
    return waiting_in_lesson(signed_in_staff(request), lesson_id)
