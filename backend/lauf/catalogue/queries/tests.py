"""Reads of tests, their protocol versions, and how long one takes a class."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final
from uuid import UUID

from django.db.models import F, Max, QuerySet
from typing_extensions import TypedDict

from lauf.catalogue import models
from lauf.catalogue.models import ProtocolVersion, Test
from lauf.catalogue.protocol import Protocol, VariantEntry
from lauf.catalogue.queries.privacy import seen
from lauf.errors import NotFound
from lauf.messages import say
from lauf.people.models import Staff
from lauf.people.permissions import May, may
from lauf.rules.judging.comparability import CALLS, COURSE
from lauf.rules.planning.plan import Kit, Planned, class_seconds, kit_list, shares
from lauf.rules.reading.entry import accepted_words
from lauf.rules.reading.kinds import format_value
from lauf.rules.reading.quantities import Kind
from lauf.rules.reading.rounding import whole


def tests_of(staff: Staff) -> QuerySet[Test]:
    """The school's tests; growth only for staff who may see it."""
    return seen(staff, Test.objects.filter(school_id=staff.school_id))


def test_of(staff: Staff, test_id: UUID) -> Test:
    """One test in scope. Raises NotFound. One query."""
    found = tests_of(staff).filter(pk=test_id).first()
    if found is None:
        raise NotFound(say("test"))
    return found


def newest_protocol(staff: Staff, test_id: UUID) -> ProtocolVersion:
    """The version a new lesson uses. Raises NotFound outside the scope. One query."""
    versions = ProtocolVersion.objects.filter(test_id=test_id, test__in=tests_of(staff))
    newest = versions.select_related("test__school").order_by("-number").first()
    if newest is None:
        raise NotFound(say("test"))
    return newest


def newest_protocols(staff: Staff) -> QuerySet[ProtocolVersion]:
    """The newest version of every test in scope, with its test, by name."""
    newest = Max("test__versions__number")
    return (
        ProtocolVersion.objects.filter(test__in=tests_of(staff))
        .annotate(newest=newest)
        .filter(number=F("newest"))
        .select_related("test__school")
        .order_by("test__name")
    )


class TestChoice(TypedDict):
    """A test to choose, with what its newest protocol measures."""

    id: UUID
    name: str
    kind: Kind
    # How long its clock runs, where it has one.
    seconds: int | None
    variants: list[VariantEntry]
    # Whether it is run on a course of some length.
    course: bool
    # A count of movements that are called.
    called: bool


def test_list(staff: Staff) -> list[TestChoice]:
    """The school's tests by name, with the kind and variants of their newest protocol. One
    query."""
    return [
        {
            "id": version.test_id,
            "name": version.test.name,
            "kind": Kind(version.kind),
            "seconds": version.seconds,
            "variants": version.variants,
            "course": COURSE in version.conditions,
            "called": counts_calls(version),
        }
        for version in newest_protocols(staff)
    ]


class KitRow(TypedDict):
    """An item of kit, and how many of it a class needs."""

    item: str
    number: int


def kit_rows(tests: Sequence[Planned], children: int) -> list[KitRow]:
    """The kit that a class needs for some tests."""
    return [{"item": item, "number": n} for item, n in kit_list(tests, children).items()]


#: The class that kit and minutes are first worked out for.
CLASS_SIZE: Final = 28


class Family(TypedDict):
    """A family that tests are found by."""

    code: str
    words: str


class TestCard(TypedDict):
    """A test as a card of the catalogue."""

    id: UUID
    name: str
    family: str
    ready: bool
    kind: str
    seconds: int | None
    from_age: int
    to_age: int
    minutes: int
    places: list[str]
    loads: list[str]
    effort: str
    kit: list[str]
    version: int


class CataloguePage(TypedDict):
    """Every test, with what it can be found by."""

    families: list[Family]
    may_edit: bool
    tests: list[TestCard]


class VersionRow(TypedDict):
    """A version of a protocol, and what was changed in it."""

    number: int
    changed: str
    meaning: int


class ProtocolCard(TypedDict):
    """One test whole."""

    id: UUID
    name: str
    family: str
    family_words: str
    ready: bool
    private: bool
    may_edit: bool
    version: int
    used: bool
    protocol: Protocol
    cap_shown: str | None
    accepted: str
    kit_for_class: list[KitRow]
    children: int
    minutes: int
    versions: list[VersionRow]


def catalogue_page(staff: Staff) -> CataloguePage:
    """Every test as a card, with what it can be found by. One query."""
    return {
        "families": [{"code": code, "words": words} for code, words in models.FAMILIES],
        "may_edit": may(staff, May.EDIT_TESTS),
        "tests": [
            {
                "id": version.test_id,
                "name": version.test.name,
                "family": version.test.family,
                "ready": version.test.ready,
                "kind": version.kind,
                "seconds": version.seconds,
                "from_age": version.from_age,
                "to_age": version.to_age,
                "minutes": class_minutes(version, CLASS_SIZE),
                "places": version.places,
                "loads": version.loads,
                "effort": version.effort,
                "kit": [item["item"] for item in version.kit],
                "version": version.number,
            }
            for version in newest_protocols(staff)
        ],
    }


def counts_calls(version: ProtocolVersion) -> bool:
    """Whether a test is a count of movements that are called."""
    return version.kind == Kind.COUNT and CALLS in version.conditions


def planned(version: ProtocolVersion, children: int) -> Planned:
    """A protocol as planning sees it. Where so many go at once at a set of kit, every group has a
    set if the kit is counted by groups."""
    sets = max((shares(children)[item["of"]] for item in version.kit), default=1)
    return Planned(
        name=version.test.name,
        setup=version.setup_seconds,
        trial=version.trial_seconds,
        changeover=version.changeover_seconds,
        tries=version.tries,
        waves=version.waves,
        at_once=version.at_once,
        sets=sets,
        helpers=version.helpers,
        family=version.test.family,
        effort=version.effort,
        loads=tuple(version.loads),
        ages=(version.from_age, version.to_age),
        kit=tuple(Kit(item["item"], item["each"], item["of"]) for item in version.kit),
    )


def class_minutes(version: ProtocolVersion, children: int) -> int:
    """About how many minutes a test takes a class."""
    return whole(class_seconds(planned(version, children), children) / 60)


def protocol_card(staff: Staff, test_id: UUID, children: int = CLASS_SIZE) -> ProtocolCard:
    """One test whole: how to show it, what counts, kit for a class, its versions. Three queries.
    Raises NotFound."""
    version = newest_protocol(staff, test_id)
    versions = list(
        version.test.versions.order_by("-number").values("number", "changed", "meaning")
    )
    used = version.attempts.exists()
    measure = version.measure
    return {
        "id": version.test_id,
        "name": version.test.name,
        "family": version.test.family,
        "family_words": dict(models.FAMILIES)[version.test.family],
        "ready": version.test.ready,
        "private": version.test.private,
        "may_edit": may(staff, May.EDIT_TESTS),
        "version": version.number,
        "used": used,
        "protocol": Protocol.model_validate(version),
        "accepted": accepted_words(measure),
        "cap_shown": None if version.cap is None else format_value(version.cap, measure),
        "kit_for_class": [
            {"item": item.item, "number": item.needed(children)}
            for item in planned(version, children).kit
        ],
        "children": children,
        "minutes": class_minutes(version, children),
        "versions": versions,
    }
