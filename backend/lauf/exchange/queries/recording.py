"""Recording sheets: boxes in the order of entry, for when paper is quicker."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from typing import Final
from uuid import UUID

import segno
from django.db.models import Q

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import (
    battery_of,
    battery_protocols,
    newest_protocol,
    sees,
)
from lauf.challenges.queries import challenges_on, rival_shown, week_of
from lauf.errors import Refused
from lauf.exchange.paper.pages import BOXES_A_PAGE, day, sheet_forms
from lauf.exchange.paper.render import Part
from lauf.exchange.queries.handouts import Pages
from lauf.lessons.queries import asked_by
from lauf.messages import say
from lauf.people.models import Exclusion, Pupil, SchoolClass, Staff
from lauf.people.queries import class_of, classes_of
from lauf.progress.histories import Histories, histories_of
from lauf.rules.planning.care import Care
from lauf.rules.reading.entry import reason_keys
from lauf.rules.reading.kinds import form_words, format_value
from lauf.rules.reading.reasons import REASON_KEYS, REASON_WORDS

_BLANK_BOXES: Final = 4


class SheetKind(StrEnum):
    """What a sheet is for."""

    TEST = "test"
    BATTERY = "battery"
    PULSES = "pulses"
    WEEK = "week"
    BLANK = "blank"


@dataclass(frozen=True, slots=True)
class _Sheet:
    """What a sheet has room for. `tests` stand over the boxes, None for a box of its own kind;
    `mark` names what it is of in the code, by id and version."""

    title: str
    rules: Sequence[str]
    columns: Sequence[str]
    tests: Sequence[ProtocolVersion | None]
    mark: str


def recording_sheet(
    staff: Staff, class_id: UUID, kind: SheetKind, of: UUID | None, today: date, *,
    earlier: bool = False,
) -> Pages:  # fmt: skip
    """A sheet for a class in the order its scores are typed in. Twelve queries at most. Raises
    NotFound, or Refused where it is not said of what.

    of        the test, the battery or the week of challenges
    earlier   print each child's best so far lightly in its box; never of a body measurement
    """
    group = class_of(staff, class_id)
    if of is None and kind not in (SheetKind.PULSES, SheetKind.BLANK):
        raise Refused(say("Choose the test, battery or week of the sheet."))
    sheet = _MAKERS[kind](staff, of)
    part = _part(staff, group, sheet, kind, today, earlier=earlier)
    return Pages(say("{name} {title}.pdf", name=group.name, title=sheet.title), [part])


def set_sheets(staff: Staff, week_id: UUID, on: date, today: date) -> Pages:
    """The challenges of one day for every class that does them: a page a class, a box a challenge,
    with the mark to beat above. Six queries and four a class. Raises NotFound, also for a day
    without a challenge."""
    week = week_of(staff, week_id)
    challenges = challenges_on(staff, week, on)
    rivals = [rival_shown(one) for one in challenges]
    sheet = _Sheet(
        week.name,
        [say("{day}. Write your score in each box.", day=day(on))],
        [
            say("{test}\nto beat: {mark}", test=one.protocol.test.name, mark=rival["shown"])
            if rival and rival["shown"]
            else one.protocol.test.name
            for one, rival in zip(challenges, rivals, strict=True)
        ],
        [one.protocol for one in challenges],
        f"{week_id.hex[:8]}.{''.join(str(one.protocol.number) for one in challenges)}",
    )
    parts = [
        _part(staff, one, sheet, SheetKind.WEEK, today, beside=len(challenges))
        for one in week.classes.all() & classes_of(staff)
    ]
    return Pages(say("{week} sheets.pdf", week=week.name), parts)


def _part(
    staff: Staff, group: SchoolClass, sheet: _Sheet, kind: SheetKind, today: date, *,
    earlier: bool = False, beside: int = BOXES_A_PAGE,
) -> Part:  # fmt: skip
    """A sheet of a class, so many boxes beside each other."""
    pupils = list(group.pupils.all())
    histories = histories_of(staff, pupils, today) if earlier else None
    kept_from = _kept_from(pupils, sheet.tests, today)
    rows = [
        {
            "number": number,
            "name": pupil.name,
            "kept_from": pupil.id in kept_from,
            "cells": [_best(histories, pupil, test) for test in sheet.tests],
        }
        for number, pupil in enumerate(pupils, 1)
    ]
    foot = [_legend([one for one in sheet.tests if one is not None])]
    if kept_from:
        foot.append(say("⊘ means ask before this child begins."))
    if earlier:
        foot.append(say("The best so far is printed in grey."))
    return sheet_forms(
        {
            "title": sheet.title, "class_name": group.name, "rules": sheet.rules,
            "columns": sheet.columns, "foot": " ".join(foot),
        },
        rows,
        _coder(kind, sheet.mark, group, pupils),
        beside=beside,
    )  # fmt: skip


def _legend(tests: Sequence[ProtocolVersion]) -> str:
    """What is written where there is no score: a letter, or the words where the letter could be
    something else in one of these tests."""
    measures = [one.measure for one in tests]
    letters, words = [], []
    for letter, reason in REASON_KEYS.items():
        if all(letter in reason_keys(one) for one in measures):
            letters.append(f"{letter} {REASON_WORDS[reason]}")
        else:
            words.append(REASON_WORDS[reason])
    sentences = [" · ".join([*letters, say("~ an estimate")]) + "."]
    if words:
        sentences.append(say("Write in words: {words}.", words=", ".join(words)))
    return " ".join([*sentences, say("An empty box is not a zero.")])


def _test(staff: Staff, of: UUID | None) -> _Sheet:
    assert of is not None
    protocol = newest_protocol(staff, of)
    tries = (
        [say("Try {n}", n=n) for n in range(1, protocol.tries + 1)]
        if protocol.tries > 1
        else [say("Score")]
    )
    more = [say("Form")] if len(protocol.variants) > 1 else []
    return _Sheet(
        protocol.test.name,
        _rules(protocol),
        [*more, *tries, say("Note")],
        [*(None for _ in more), protocol, *(None for _ in tries[1:]), None],
        f"{of.hex[:8]}.{protocol.number}",
    )


def _battery(staff: Staff, of: UUID | None) -> _Sheet:
    assert of is not None
    battery = battery_of(staff, of)
    protocols = [one for one in battery_protocols(battery) if sees(staff, one.test)]
    rules = [f"{one.test.name}: {_short(one)}" for one in protocols]
    versions = "".join(f"{one.number}" for one in protocols)
    return _Sheet(
        battery.name, rules, [_headed(one) for one in protocols], protocols,
        f"{of.hex[:8]}.{versions}",
    )  # fmt: skip


def _week(staff: Staff, of: UUID | None) -> _Sheet:
    assert of is not None
    week = week_of(staff, of)
    days = list(week.challenges.select_related("protocol__test__school"))
    rules = [f"{one.on:%A}: {one.protocol.test.name}, {_short(one.protocol)}" for one in days]
    return _Sheet(
        week.name,
        rules,
        [*(f"{one.on:%a} {one.protocol.test.name}" for one in days), say("Again")],
        [*(one.protocol for one in days), None],
        f"{of.hex[:8]}.{''.join(str(one.protocol.number) for one in days)}",
    )


def _pulses(_: Staff, __: UUID | None) -> _Sheet:
    rules = [
        say(
            "Count for 10 s and write down the beats as counted, not multiplied. Feel "
            "lightly at the wrist or one side of the neck. Stop for pain, dizziness, "
            "chest tightness or wheeze."
        )
    ]
    columns = [
        say("At rest"),
        say("After warm-up"),
        say("After ________"),
        say("After ________"),
        say("After 60 s"),
    ]
    return _Sheet("Pulses", rules, columns, [None] * len(columns), "0.1")


def _blank(_: Staff, __: UUID | None) -> _Sheet:
    return _Sheet("", [say("Test ______________________  what counts ______________________")],
                  [""] * _BLANK_BOXES, [None] * _BLANK_BOXES, "0.1")  # fmt: skip


_MAKERS: Final[dict[SheetKind, Callable[[Staff, UUID | None], _Sheet]]] = {
    SheetKind.TEST: _test, SheetKind.BATTERY: _battery, SheetKind.WEEK: _week,
    SheetKind.PULSES: _pulses, SheetKind.BLANK: _blank,
}  # fmt: skip


def _rules(protocol: ProtocolVersion) -> list[str]:
    """What counts, forms and maximum, in the head of a sheet."""
    found = [_short(protocol)]
    if protocol.variants:
        forms = ", ".join(f"{one['key']} {one['name']}" for one in protocol.variants)
        found.append(say("Forms: {forms}.", forms=forms))
    if protocol.counts:
        found.append(say("Counts: {counts}", counts=" ".join(protocol.counts)))
    if protocol.does_not_count:
        found.append(
            say(
                "Does not count: {does_not_count}", does_not_count=" ".join(protocol.does_not_count)
            )
        )
    return found


def _short(protocol: ProtocolVersion) -> str:
    parts = []
    if protocol.seconds:
        parts.append(say("{seconds} s by the clock", seconds=protocol.seconds))
    if protocol.cap is not None:
        parts.append(say("At most {cap}", cap=format_value(protocol.cap, protocol.measure)))
    parts.append(say("Write {form_words}", form_words=form_words(protocol.measure)))
    return f"{'. '.join(parts)}."


def _headed(protocol: ProtocolVersion) -> str:
    return f"{protocol.test.name} ({protocol.unit})" if protocol.unit else protocol.test.name


def _best(histories: Histories | None, pupil: Pupil, protocol: ProtocolVersion | None) -> str:
    """The best so far, for its box; "" where it is not wanted or there is none."""
    if histories is None or protocol is None or protocol.test_id not in histories.protocols:
        return ""
    place = histories.latest(pupil, protocol.test_id)
    if place is None:
        return ""
    return histories.statement(pupil, histories.of(pupil, protocol.test_id), place).best_shown


def _kept_from(
    pupils: Sequence[Pupil], tests: Sequence[ProtocolVersion | None], today: date
) -> set[UUID]:
    """Children who are not to do something that one of the tests asks for. One query."""
    asked = frozenset[Care]().union(*(asked_by(one) for one in tests if one is not None))
    found = Exclusion.objects.filter(
        Q(until=None) | Q(until__gte=today), pupil__in=pupils, what__in=asked
    )
    kept = set(found.values_list("pupil_id", flat=True))
    if Care.MEASURING in asked:
        kept |= {one.id for one in pupils if one.measuring == Pupil.Consent.REFUSED}
    return kept


def _coder(
    kind: SheetKind, mark: str, group: SchoolClass, pupils: Sequence[Pupil]
) -> Callable[[int, int, int, int], tuple[str, str]]:
    """The code of a page names the sheet, the class, the order of its rows and the version, and
    where its first box belongs; nobody's name."""
    order = hashlib.sha256("".join(one.id.hex for one in pupils).encode()).hexdigest()[:8]

    def code(page: int, pages: int, top: int, left: int) -> tuple[str, str]:
        text = f"LAUF1 {kind} {mark} {group.id.hex[:8]} {order} {top}.{left} {page}/{pages}"
        words = f"{mark} {order} {page}/{pages}"
        drawn = segno.make(text, error="m", micro=False).svg_inline(
            scale=1, border=1, omitsize=True
        )
        shows = say("Code of this page: {words}", words=words)
        return drawn.replace("<svg", f'<svg aria-label="{shows}"', 1), words

    return code
