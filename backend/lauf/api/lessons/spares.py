"""Routes for lessons that can be begun without a network."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from ninja import Router
from typing_extensions import TypedDict

from lauf.api.authentication import signed_in_staff
from lauf.challenges.queries import rivals_in
from lauf.challenges.queries.weeks import PerformingRival
from lauf.lessons import actions, queries
from lauf.lessons.queries.hall import RunSheet, TimelinePage
from lauf.lessons.queries.lessons import LessonPage
from lauf.lessons.queries.plans import PlanPage
from lauf.lessons.queries.spares import SpareRow, spares
from lauf.progress.lesson.aims import ClassAims, class_aims
from lauf.progress.lesson.check import CheckList, check_list
from lauf.progress.lesson.lanes import ClassLanes, class_lanes
from lauf.progress.lesson.pulse import PulsePage, pulse_page
from lauf.progress.lesson.results import LessonResults, lesson_results
from lauf.progress.lesson.targets import TargetPage, target_page
from lauf.rules.body.pulse import Formula
from lauf.rules.reading.quantities import Kind

router = Router(tags=["lessons"])


class SpareLesson(TypedDict):
    """Every page that the hall reads of a lesson with one test, as it would be begun now. Its ids
    are nobody's: a device that begins it gives it its own."""

    lesson: LessonPage
    timeline: TimelinePage
    plan: PlanPage
    results: LessonResults
    pulse: PulsePage
    lanes: ClassLanes
    aims: ClassAims
    rivals: list[PerformingRival]
    check: CheckList
    beeps: RunSheet | None
    target: TargetPage | None


@router.get("/spares", response=list[SpareRow])
def list_spares(request: HttpRequest) -> list[SpareRow]:
    return spares(signed_in_staff(request))


@router.get("/spares/{class_id}/{test_id}", response=SpareLesson)
def get_spare(request: HttpRequest, class_id: UUID, test_id: UUID) -> SpareLesson:
    """A lesson that is gone again once its pages were read."""
    staff = signed_in_staff(request)
    with actions.lesson_for_a_look(staff, class_id, test_id) as activity:
        lesson, kind = activity.lesson_id, activity.protocol.kind
        return {
            "lesson": queries.lesson_page(staff, lesson),
            "timeline": queries.lesson_timeline(staff, lesson),
            "plan": queries.plan_page(staff, lesson),
            "results": lesson_results(staff, lesson),
            "pulse": pulse_page(staff, lesson, Formula.TANAKA),
            "lanes": class_lanes(staff, activity.id),
            "aims": class_aims(staff, activity.id),
            "rivals": rivals_in(staff, activity.id),
            "check": check_list(staff, activity.id),
            "beeps": queries.run_sheet(staff, activity.id) if kind == Kind.STAGE else None,
            "target": target_page(staff, activity.id, 0) if kind == Kind.TOTAL else None,
        }
