"""Routes for what is handed out on paper. A file is begun, asked after, and fetched."""

from __future__ import annotations

from datetime import date
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Field, Router

from lauf.api.authentication import signed_in_staff
from lauf.api.exchange.files import file_answer
from lauf.api.shape import Schema
from lauf.exchange import queries
from lauf.exchange.paper import jobs
from lauf.exchange.paper.jobs import Handout
from lauf.exchange.paper.pages import Drawing
from lauf.exchange.queries import SheetKind
from lauf.exchange.queries.handouts import Awards, FamilyLineRow
from lauf.messages import say
from lauf.people.models import Staff
from lauf.people.shapes import Day
from lauf.records import actions
from lauf.rules.planning.school_days import Span

router = Router(tags=["exchange"])


def _begun(staff: Staff, made: queries.Pages) -> Handout:
    return jobs.begin(staff.id, made.name, made.pages)


def _span(since: date | None, until: date | None) -> Span | None:
    return Span(since, until or timezone.localdate()) if since else None


class ReportWish(Schema):
    """Of which days (the term of today if none are named), and of which children (all)."""

    since: Day | None = None
    until: Day | None = None
    pupil_ids: list[UUID] | None = Field(None, max_length=200)


@router.post("/classes/{class_id}/reports", response=Handout)
def make_reports(request: HttpRequest, class_id: UUID, wish: ReportWish) -> Handout:
    """A page a child for its family."""
    staff, span = signed_in_staff(request), _span(wish.since, wish.until)
    made = queries.family_reports(staff, class_id, timezone.localdate(), span, wish.pupil_ids)
    return _begun(staff, made)


class ClassListWish(Schema):
    since: Day | None = None
    until: Day | None = None


@router.post("/classes/{class_id}/class-list", response=Handout)
def make_class_list(request: HttpRequest, class_id: UUID, wish: ClassListWish) -> Handout:
    """A class over its tests, for the class teacher."""
    staff, span = signed_in_staff(request), _span(wish.since, wish.until)
    return _begun(staff, queries.class_list(staff, class_id, timezone.localdate(), span))


@router.post("/school/head-page", response=Handout)
def make_head_page(request: HttpRequest) -> Handout:
    """The school without names."""
    staff = signed_in_staff(request)
    return _begun(staff, queries.head_pages(staff, timezone.localdate()))


@router.get("/classes/{class_id}/awards", response=Awards)
def get_awards(
    request: HttpRequest, class_id: UUID, since: Day | None = None, until: Day | None = None
) -> Awards:
    span = _span(since, until)
    return queries.award_proposals(signed_in_staff(request), class_id, timezone.localdate(), span)


class CertificateEntry(Schema):
    """Whom it is for, and for what."""

    pupil_id: UUID
    words: str = Field(min_length=1, max_length=200)


class CertificateWish(Schema):
    title: str = Field(say("Well done"), min_length=1, max_length=60)
    drawing: Drawing = Drawing.PENNANT
    items: list[CertificateEntry] = Field(max_length=300)


@router.post("/classes/{class_id}/certificates", response=Handout)
def make_certificates(request: HttpRequest, class_id: UUID, wish: CertificateWish) -> Handout:
    """A page a certificate that was agreed to."""
    staff = signed_in_staff(request)
    wanted = [queries.Certificate(one.pupil_id, one.words) for one in wish.items]
    made = queries.certificates(
        staff, class_id, wanted, wish.title, wish.drawing, timezone.localdate()
    )
    return _begun(staff, made)


class SheetWish(Schema):
    """What the sheet is for; `of` names the test, the battery or the week of challenges."""

    kind: SheetKind
    of: UUID | None = None
    earlier: bool = False


@router.post("/classes/{class_id}/sheets", response=Handout)
def make_sheet(request: HttpRequest, class_id: UUID, wish: SheetWish) -> Handout:
    """A recording sheet in the order of entry."""
    staff = signed_in_staff(request)
    made = queries.recording_sheet(
        staff, class_id, wish.kind, wish.of, timezone.localdate(), earlier=wish.earlier
    )
    return _begun(staff, made)


@router.post("/weeks/{week_id}/sheets", response=Handout)
def make_set_sheets(request: HttpRequest, week_id: UUID, on: Day) -> Handout:
    """The challenges of one day to write in, a page a class."""
    made = queries.set_sheets(signed_in_staff(request), week_id, on, timezone.localdate())
    return _begun(signed_in_staff(request), made)


class SlipsWish(Schema):
    """The slips of a class, or of one child of it."""

    class_id: UUID
    pupil_id: UUID | None = None


@router.post("/weeks/{week_id}/slips", response=Handout)
def make_slips(request: HttpRequest, week_id: UUID, wish: SlipsWish) -> Handout:
    """How each child enters its own goes, to be cut out for the families."""
    staff, address = signed_in_staff(request), request.build_absolute_uri("/mine")
    return _begun(
        staff, queries.family_slips(staff, week_id, wish.class_id, address, wish.pupil_id)
    )


@router.get("/handouts/{handout_id}", response=Handout)
def get_handout(request: HttpRequest, handout_id: UUID) -> Handout:
    """How far it is."""
    return jobs.state_of(signed_in_staff(request).id, handout_id)


@router.get("/handouts/{handout_id}/file", url_name="handout_file")
def get_handout_file(request: HttpRequest, handout_id: UUID) -> HttpResponse:
    """The PDF."""
    name, file = jobs.file_of(signed_in_staff(request).id, handout_id)
    return file_answer(name, file, "application/pdf")


class FamilyLineEntry(Schema):
    text: str = Field(max_length=300)


@router.put("/pupils/{pupil_id}/family-line", response=FamilyLineEntry)
def write_family_line(
    request: HttpRequest, pupil_id: UUID, entry: FamilyLineEntry
) -> dict[str, str]:
    """The teacher's line in a child's report; an empty one takes it away."""
    return {"text": actions.write_family_line(signed_in_staff(request), pupil_id, entry.text)}


@router.get("/classes/{class_id}/family-lines", response=list[FamilyLineRow])
def get_family_lines(request: HttpRequest, class_id: UUID) -> list[FamilyLineRow]:
    """The teacher's line of each child of a class."""
    return queries.family_lines(signed_in_staff(request), class_id)
