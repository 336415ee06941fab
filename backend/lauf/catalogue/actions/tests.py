"""Writes of tests and their protocol versions."""

from __future__ import annotations

import re
import uuid
from collections.abc import Sequence
from uuid import UUID

from django.db import IntegrityError, transaction
from django.utils.text import slugify
from typing_extensions import TypedDict

from lauf.catalogue.models import FAMILIES, Ladder, LadderRung, ProtocolVersion, Test
from lauf.catalogue.protocol import Protocol, VariantEntry
from lauf.catalogue.queries import (
    benchmark_key,
    clock_questions,
    edit_effects,
    meaning_changes,
    newest_protocol,
    read_condition,
)
from lauf.errors import Refused
from lauf.messages import say
from lauf.people.actions import log
from lauf.people.models import Change, Staff
from lauf.people.permissions import May, demand
from lauf.rules.contests.sets import name_in_seconds
from lauf.rules.reading.kinds import dimension_of
from lauf.rules.reading.quantities import GRAMS, MILLIMETRES, Dimension, Kind


@transaction.atomic
def make_test(
    staff: Staff, *, name: str, family: str, copy_of: UUID | None, protocol: Protocol
) -> ProtocolVersion:
    """An own test with its first version. `copy_of` names the test it was made from, whose ladders
    it takes along where they still fit. Raises Denied, NotFound or Refused."""
    demand(staff, May.EDIT_TESTS)
    source = newest_protocol(staff, copy_of) if copy_of else None
    if source and not family:
        family = source.test.family
    name = name.strip()
    if not 3 <= len(name) <= 80:
        raise Refused(say("Give the test a name of 3 to 80 letters."))
    if family not in dict(FAMILIES):
        raise Refused(
            say("A family must be one of {code}.", code=", ".join((code for code, _ in FAMILIES)))
        )
    slug = slugify(name)[:70] or "test"
    taken = set(staff.school.tests.filter(slug__startswith=slug).values_list("slug", flat=True))
    number = 2
    while slug in taken:
        slug, number = f"{slugify(name)[:70]}-{number}", number + 1
    if staff.school.tests.filter(name__iexact=name).exists():
        raise Refused(say("A test already has that name. Choose another name."))
    test = Test.objects.create(school_id=staff.school_id, name=name, slug=slug, family=family)
    version = ProtocolVersion(test=test, **_checked(protocol).kept())
    version.save(force_insert=True)
    if source:
        _take_ladders(source, version)
    log(staff, Change.What.TEST, say("Test {name} created", name=name), test.id)
    return version


def in_seconds(staff: Staff, version: ProtocolVersion, seconds: int) -> ProtocolVersion:
    """A test against another length of clock: the same where it is measured so already or has no
    clock to count against, else the school's own test of that name, made from it if there is none.
    Raises Denied where one is to be made by who may not, or Refused."""
    counted = Kind(version.kind) is Kind.COUNT and version.seconds is not None
    if not counted or version.seconds == seconds:
        return version
    name = name_in_seconds(version.test.name, seconds)
    found = (
        ProtocolVersion.objects.filter(test__school=staff.school_id, test__name__iexact=name)
        .select_related("test__school")
        .order_by("-number")
        .first()
    )
    if found is not None:
        if (found.kind, found.seconds) != (version.kind, seconds):
            raise Refused(
                say(
                    "There is already a different test called {name}. Choose it on its own.",
                    name=name,
                )
            )
        return found
    protocol = Protocol.model_validate(version).in_seconds(seconds)
    return make_test(staff, name=name, family="", copy_of=version.test_id, protocol=protocol)


def _take_ladders(source: ProtocolVersion, version: ProtocolVersion) -> None:
    """The source's ladders for a copy of it, where kind, clock and variant are still the same."""
    if (source.kind, source.seconds, source.unit) != (version.kind, version.seconds, version.unit):
        return
    kept = Ladder.objects.filter(
        test=source.test, variant__in=version.variant_codes, meaning=source.meaning
    )
    conditions = dict(benchmark_key(version, "").conditions)
    for ladder in kept.prefetch_related("rungs"):
        rungs = list(ladder.rungs.all())
        ladder.pk, ladder._state.adding = uuid.uuid4(), True
        ladder.test, ladder.meaning, ladder.conditions = version.test, 1, conditions
        ladder.save(force_insert=True)
        for rung in rungs:
            rung.pk, rung.ladder = uuid.uuid4(), ladder
        LadderRung.objects.bulk_create(rungs)


class Effects(TypedDict):
    """What an edit changes, and what that does; `questions` are about what may no longer fit beside
    a new clock."""

    changed: list[str]
    effects: list[str]
    questions: list[str]


def preview_edit(staff: Staff, test_id: UUID, protocol: Protocol) -> Effects:
    """Which fields an edit changes, what that does to comparisons, and what no longer fits beside
    it (for a copy as for an edit); keeps nothing. Raises NotFound, or Refused for a protocol that
    does not fit together."""
    current = newest_protocol(staff, test_id)
    given = _checked(protocol)
    changed = given.differs(current)
    return {
        "changed": [field.replace("_", " ") for field in changed],
        "effects": edit_effects(current, changed) if changed else [],
        "questions": clock_questions(current, given),
    }


@transaction.atomic
def edit_protocol(
    staff: Staff, test_id: UUID, protocol: Protocol, *, why: str, based_on: int
) -> ProtocolVersion:
    """The next version of a protocol, the whole of it as it should be. `based_on` is the version
    the changes were made to: somebody else's edit in between is not lost. Raises Denied, NotFound
    or Refused."""
    demand(staff, May.EDIT_TESTS)
    current = newest_protocol(staff, test_id)
    if current.number != based_on:
        raise Refused(say("Someone else has changed this test. Look at the new version first."))
    asked = _checked(protocol)
    changed = asked.differs(current)
    if not changed:
        raise Refused(say("Nothing was changed."))
    breaking = meaning_changes(changed)
    version = ProtocolVersion(
        test=current.test,
        number=current.number + 1,
        meaning=current.meaning + (1 if breaking else 0),
        changed=why.strip()[:240],
        **asked.kept(),
    )
    try:
        with transaction.atomic():
            version.save(force_insert=True)
    except IntegrityError as error:
        raise Refused(say("Someone else has changed this test. Look at it first.")) from error
    names = ", ".join(field.replace("_", " ") for field in changed)
    words = say(
        "{name}, version {number}: {names} changed",
        name=current.test.name,
        number=version.number,
        names=names,
    )
    words += f" ({version.changed})" if version.changed else ""
    log(staff, Change.What.PROTOCOL, words, current.test_id)
    return version


def _checked(given: Protocol) -> Protocol:
    """A protocol after a look at what must fit together, its conditions as they are kept. Raises
    Refused."""
    _check_limits(given)
    _check_times(given)
    _check_variants(given.variants)
    _check_noise(given)
    if given.kind is Kind.STAGE and not given.schedule:
        raise Refused(say("Choose a schedule of stages, even or jump."))
    held = {code: read_condition(code, value) for code, value in given.conditions.items()}
    return given.model_copy(update={"conditions": held})


def _check_limits(given: Protocol) -> None:
    kind = given.kind
    units = {
        Dimension.MILLISECONDS: ("s",),
        Dimension.MILLIMETRES: tuple(MILLIMETRES),
        Dimension.GRAMS: tuple(GRAMS),
        Dimension.BEATS: ("bpm",),
    }.get(dimension_of(kind))
    if units and given.unit not in units:
        raise Refused(
            say("The unit of this kind of score must be one of {units}.", units=", ".join(units))
        )
    if given.highest <= given.lowest:
        raise Refused(say("The highest score must be above the lowest."))
    if given.cap is not None and not given.lowest < given.cap <= given.highest:
        raise Refused(say("The maximum must be between the lowest and the highest score."))
    if given.resolution > given.highest - given.lowest:
        raise Refused(say("The smallest step must be smaller than the range of scores."))
    bounds = given.bounds_by_age
    ages = [age for age, _, _ in bounds]
    if ages != sorted(set(ages)) or any(least > most for _, least, most in bounds):
        raise Refused(
            say("Limits by age need rising ages, each with its lowest and its highest score.")
        )
    if kind is Kind.HITS and not given.of:
        raise Refused(say("Give the number of shots."))


def _check_times(given: Protocol) -> None:
    if not 1 <= given.tries <= 10 or not 1 <= given.waves <= 8:
        raise Refused(say("A test must have 1 to 10 tries and 1 to 8 waves."))
    if given.from_age > given.to_age:
        raise Refused(say("The youngest age cannot be above the oldest."))


def _check_variants(variants: Sequence[VariantEntry]) -> None:
    keys = [variant.key for variant in variants]
    codes = [variant.code for variant in variants]
    if len(set(keys)) < len(keys) or len(set(codes)) < len(codes) or not all(codes):
        raise Refused(say("Each form needs its own code and key."))
    if sum(1 for variant in variants if variant.usual) > 1:
        raise Refused(say("Exactly one form must be the usual one."))
    if not all(re.fullmatch(r"[b-z]", key) for key in keys) or set(keys) & set("axkrvw"):
        raise Refused(
            say("The key of a form must be a small letter other than a, x, k, r, v and w.")
        )


def _check_noise(given: Protocol) -> None:
    share, table = given.error_share, given.errors_by_age
    if given.default_typical_error <= 0 or (share is not None and not 0 < share < 1):
        raise Refused(say("Day-to-day variation must be above zero. A guess is good enough."))
    ages = [age for age, _ in table]
    if ages != sorted(set(ages)) or any(not value > 0 for _, value in table):
        raise Refused(say("Day-to-day variation by age needs rising ages, each above zero."))
    if share is not None and any(value >= 1 for _, value in table):
        raise Refused(say("Day-to-day variation as a share of the score must be below 1."))
