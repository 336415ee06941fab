"""What handouts say: gathered from the same judgement as every screen, without a body
measurement."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from datetime import date
from typing import NamedTuple
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.models import ProtocolVersion
from lauf.errors import NotFound, Refused
from lauf.exchange.paper.pages import (
    Drawing,
    certificate_page,
    class_list_forms,
    day,
    head_page,
    report_forms,
)
from lauf.exchange.paper.render import Part
from lauf.judgement.family_words import family_words
from lauf.judgement.picture import Lane
from lauf.lessons.queries import calendar_of
from lauf.messages import and_list, say
from lauf.people.models import Pupil, Staff
from lauf.people.queries import class_of
from lauf.progress.board import class_board, term_of
from lauf.progress.histories import Histories, histories_of
from lauf.progress.pupil.lanes import lanes_of
from lauf.progress.pupil.record import OverallStatement, overall_of, year_so_far
from lauf.progress.school.school_picture import school_picture
from lauf.records.models import FamilyLine
from lauf.rules.contests.awards import AWARD_RULES, Award, Fact, awards
from lauf.rules.judging.change import Verdict
from lauf.rules.planning.school_days import Span

#: So many aims are named in a report: more are not remembered.
_AIMS = 4
_UP = (Verdict.BETTER, Verdict.REACHED_THE_TOP, Verdict.MOVED_UP)
_NO_CHANGE = (Verdict.FIRST, Verdict.NOT_COMPARABLE)


class ReportTest(TypedDict):
    """A test in a child's report."""

    test: str
    form: str
    lane: Lane
    shown: str
    estimate: bool
    on: date
    says: str


class Report(TypedDict):
    """What a child's report to its family says. `compared`: whether any score stands beside an
    earlier one."""

    pupil_id: UUID
    name: str
    given_name: str
    class_name: str
    school: str
    days: str
    tests: list[ReportTest]
    better: list[str]
    compared: bool
    next: list[str]
    missing: str
    overall: OverallStatement | None
    line: str
    teacher: str


class Pages(NamedTuple):
    """A file's name and the HTML of its parts."""

    name: str
    pages: Sequence[Part]


def family_reports(
    staff: Staff, class_id: UUID, today: date, span: Span | None = None,
    only: Collection[UUID] | None = None,
) -> Pages:  # fmt: skip
    """A page a child of a class, of these days (the term of today, if none are named). Fourteen
    queries. Raises NotFound, or Refused without a child."""
    name, children = report_children(staff, class_id, today, span, only)
    return Pages(
        say("{name} family reports.pdf", name=name), [report_forms(child) for child in children]
    )


def report_children(
    staff: Staff, class_id: UUID, today: date, span: Span | None = None,
    only: Collection[UUID] | None = None,
) -> tuple[str, list[Report]]:  # fmt: skip
    """The class's name, and what the report of each child says. Same queries and errors."""
    group = class_of(staff, class_id)
    span = span or term_of(today, calendar_of(group.school).terms)
    pupils = list(group.pupils.select_related("school"))
    if only is not None:
        known = {one.id for one in pupils}
        if not set(only) <= known:
            raise NotFound(say("child"))
        pupils = [one for one in pupils if one.id in set(only)]
    if not pupils:
        raise Refused(say("Choose at least one child."))
    histories = histories_of(staff, pupils, span.ends)
    lines = {
        one.pupil_id: one
        for one in FamilyLine.objects.filter(pupil__in=pupils).select_related("by")
    }
    given = _given(histories, pupils, span)
    return group.name, [
        _report(one, group.name, histories, span, given, lines.get(one.id)) for one in pupils
    ]


def _given(
    histories: Histories, pupils: Sequence[Pupil], span: Span
) -> dict[UUID, ProtocolVersion]:
    """The tests that the class was given in these days."""
    return {
        test_id: protocol
        for test_id, protocol in histories.protocols.items()
        if any(span.holds(row.on) for one in pupils for row in histories.of(one, test_id))
    }


def _report(
    pupil: Pupil, class_name: str, histories: Histories, span: Span,
    given: dict[UUID, ProtocolVersion], line: FamilyLine | None,
) -> Report:  # fmt: skip
    tests: list[ReportTest] = []
    better, aims, missing = [], [], []
    compared = False
    for test_id, protocol in given.items():
        place = histories.latest(pupil, test_id, span.starts)
        if place is None:
            missing.append(protocol.test.name)
            continue
        statement = histories.statement(pupil, histories.of(pupil, test_id), place)
        lane = lanes_of(pupil, protocol, histories)[0]
        name = protocol.test.name
        tests.append(
            {
                "test": name,
                "form": statement.form,
                "lane": lane["lane"],
                "shown": statement.shown,
                "estimate": statement.row.estimate,
                "on": statement.row.on,
                "says": family_words(statement),
            }
        )
        compared |= statement.change.verdict not in _NO_CHANGE
        if statement.change.verdict in _UP:
            then = (
                say("{lane}, then {shown}", lane=lane["then"], shown=statement.shown)
                if lane["then"]
                else statement.shown
            )
            better.append(f"{name}: {then}")
        if statement.target:
            aims.append(say("{name}: aim for {target}", name=name, target=statement.target))
    return {
        "pupil_id": pupil.id,
        "name": pupil.name,
        "given_name": pupil.given_name,
        "class_name": class_name,
        "school": pupil.school.name,
        "days": say("{day} to {day2}", day=day(span.starts), day2=day(span.ends)),
        "tests": tests,
        "better": better,
        "compared": compared,
        "next": aims[:_AIMS],
        "missing": and_list(missing),
        "overall": overall_of(pupil, histories, year_so_far(pupil.school, span.ends)),
        "line": line.text if line else "",
        "teacher": line.by.name if line else "",
    }


class AwardRule(TypedDict):
    """What a certificate is given for."""

    award: Award
    words: str


class AwardProposal(TypedDict):
    """What a child may be given a certificate for."""

    award: Award
    words: str


class AwardChild(TypedDict):
    """A child and what is proposed for it."""

    pupil_id: UUID
    name: str
    proposals: list[AwardProposal]


class Awards(TypedDict):
    """What each child may be given, and by which rules."""

    class_id: UUID
    class_name: str
    since: date
    until: date
    rules: list[AwardRule]
    children: list[AwardChild]


class FamilyLineRow(TypedDict):
    """The teacher's line in a child's report."""

    pupil_id: UUID
    name: str
    text: str


def award_proposals(staff: Staff, class_id: UUID, today: date, span: Span | None = None) -> Awards:
    """What each child of a class may be given a certificate for in these days, by stated rules.
    Ten queries. Raises NotFound."""
    group = class_of(staff, class_id)
    span = span or term_of(today, calendar_of(group.school).terms)
    pupils = list(group.pupils.all())
    histories = histories_of(staff, pupils, span.ends)
    given = _given(histories, pupils, span)
    facts = {one.id: _facts(one, histories, span, given) for one in pupils}
    found = awards(facts, len(given))
    return {
        "class_id": group.id,
        "class_name": group.name,
        "since": span.starts,
        "until": span.ends,
        "rules": [{"award": one, "words": AWARD_RULES[one]} for one in Award],
        "children": [
            {
                "pupil_id": one.id,
                "name": one.name,
                "proposals": [
                    {"award": made.award, "words": made.words} for made in found.get(one.id, ())
                ],
            }
            for one in pupils
        ],
    }


def _facts(
    pupil: Pupil, histories: Histories, span: Span, given: dict[UUID, ProtocolVersion]
) -> list[Fact]:
    facts = []
    for test_id, protocol in given.items():
        place = histories.latest(pupil, test_id, span.starts)
        if place is None:
            continue
        mine = histories.of(pupil, test_id)
        statement = histories.statement(pupil, mine, place)
        before = [
            histories.statement(pupil, mine, n) for n in range(place) if mine[n].value is not None
        ]
        reached = max((one.rung for one in before if one.rung is not None), default=-1)
        # A first score is no step up: there is nothing it went up from.
        new = bool(before) and statement.rung is not None and statement.rung > reached
        facts.append(
            Fact(
                test=protocol.test.name,
                shown=statement.shown,
                scores=sum(1 for row in mine if span.holds(row.on) and row.value is not None),
                verdict=statement.change.verdict,
                best=statement.best,
                gain_in_te=statement.gain_in_errors,
                new_rung=statement.rung_name if new and not statement.row.estimate else "",
            )
        )
    return facts


class Certificate(NamedTuple):
    """Whom it is for, and for what, as the teacher has agreed to it."""

    pupil_id: UUID
    words: str


def certificates(
    staff: Staff, class_id: UUID, wanted: Sequence[Certificate], title: str, drawing: Drawing,
    today: date,
) -> Pages:  # fmt: skip
    """A page a certificate, in the given order. Two queries. Raises NotFound, or Refused without
    one."""
    group = class_of(staff, class_id)
    names = {one.id: one.name for one in group.pupils.all()}
    if not wanted:
        raise Refused(say("Choose at least one certificate."))
    if any(one.pupil_id not in names for one in wanted):
        raise NotFound(say("child"))
    pages = [
        certificate_page(
            {
                "name": names[one.pupil_id], "words": one.words.strip(), "title": title.strip(),
                "drawing": drawing, "on": day(today), "school": group.school.name,
                "signed": staff.name,
            }
        )
        for one in wanted
    ]  # fmt: skip
    return Pages(say("{name} certificates.pdf", name=group.name), pages)


def class_list(staff: Staff, class_id: UUID, today: date, span: Span | None = None) -> Pages:
    """A class over its tests for its class teacher. As many queries as `class_board`, and eight
    where the school wants an overall statement. Raises NotFound."""
    board = class_board(staff, class_id, today, span)
    group = class_of(staff, class_id)
    statements = []
    if group.school.scheme:
        pupils = list(group.pupils.select_related("school"))
        histories = histories_of(staff, pupils, board["until"])
        year = year_so_far(group.school, board["until"])
        for pupil in pupils:
            found = overall_of(pupil, histories, year)
            statements.append((found["words"] or "–") if found else "")
    page = class_list_forms(
        board, say("{name}: all tests", name=group.name), group.school.name, statements
    )
    return Pages(say("{name} class list.pdf", name=group.name), [page])


def head_pages(staff: Staff, today: date) -> Pages:
    """The school without names, for its head. As many queries as `school_picture`. Raises
    Denied."""
    picture = school_picture(staff, today)
    page = head_page({**picture, "school": staff.school.name, "on": day(today)})
    return Pages(say("{name} picture.pdf", name=staff.school.name), [page])


def family_lines(staff: Staff, class_id: UUID) -> list[FamilyLineRow]:
    """The teacher's line of each child of a class, in the order of the list. Two queries. Raises
    NotFound."""
    pupils = class_of(staff, class_id).pupils.select_related("family_line")
    return [
        {
            "pupil_id": one.id,
            "name": one.name,
            "text": one.family_line.text if hasattr(one, "family_line") else "",
        }
        for one in pupils
    ]
