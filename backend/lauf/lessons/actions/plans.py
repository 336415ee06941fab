"""Writes of a lesson's plan."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import cast
from uuid import UUID, uuid4

from django.db import transaction

from lauf.catalogue.queries import sees
from lauf.errors import Refused
from lauf.lessons.models import Activity, Conduct, Lesson, PlanBlock, PlanRevision
from lauf.lessons.queries.entries import kept_entry, settings_of, with_closed
from lauf.lessons.queries.lessons import lesson_of
from lauf.lessons.queries.planning import Planning, called_conditions, read_plan
from lauf.messages import say, say_many
from lauf.people.actions import log
from lauf.people.models import Change, Staff
from lauf.rules.planning.blocks import BlockEntry, BlockKind, RepTargetEntry, weights_of
from lauf.rules.reading.levels import weights_typed

MOST_BLOCKS = 40


@transaction.atomic
def save_plan(
    staff: Staff, lesson_id: UUID, *, based_on: int, entries: Sequence[BlockEntry]
) -> Lesson:
    """Keep a lesson's plan whole. A test new to the lesson becomes an activity; one that is taken
    out goes, unless something was done in it; a battery keeps its tests. Raises NotFound, or
    Refused for a block that cannot be, or when somebody has changed the plan meanwhile."""
    lesson_of(staff, lesson_id)
    lesson = Lesson.objects.select_for_update().get(pk=lesson_id)
    if lesson.plan_revision != based_on:
        raise Refused(say("Someone else has changed this plan. Reload to see it."))
    if not 1 <= len(entries) <= MOST_BLOCKS:
        raise Refused(say("A plan must have 1 to {most_blocks} blocks.", most_blocks=MOST_BLOCKS))
    entries = _with_ids(lesson, with_closed(staff, lesson, entries))
    children = {str(pupil) for pupil in lesson.school_class.pupils.values_list("id", flat=True)}
    entries = [_with_own_children(entry, children) for entry in entries]
    plan = read_plan(staff, lesson, entries, max(1, len(children)))
    left = {one.id: one for one in lesson.activities.select_related("protocol__test")}
    kept = [_activity_for(lesson, one, left) for one in plan]
    _keep_what_was_counted(lesson, plan, kept)
    _demand_its_clock(lesson, plan, kept)
    # What stands beside the plan and is not seen is not taken out of it.
    hidden = [left.pop(one.id) for one in [*left.values()] if not sees(staff, one.protocol.test)]
    if lesson.battery_id is not None and (left or any(one and one._state.adding for one in kept)):
        raise Refused(
            say("The tests of a battery cannot change once it has been used. Copy it instead.")
        )
    lesson.blocks.all().delete()
    _take_out(lesson, left.values())
    _renumber([*(activity for activity in kept if activity), *hidden])
    PlanBlock.objects.bulk_create(
        PlanBlock(
            id=one.entry.get("id"),
            lesson=lesson,
            position=place,
            kind=one.kind,
            label=one.block.label,
            settings=settings_of(one.entry),
            activity=activity,
        )
        for place, (one, activity) in enumerate(zip(plan, kept, strict=True))
    )
    lesson.plan_revision += 1
    lesson.save(update_fields=["plan_revision", "changed_at"])
    keep_revision(
        staff,
        lesson,
        [
            kept_entry(one.entry, activity.id if activity else None)
            for one, activity in zip(plan, kept, strict=True)
        ],
    )
    words = say(
        "Plan of {lesson} changed: {blocks}",
        lesson=lesson,
        blocks=say_many("{n} block", "{n} blocks", len(plan)),
    )
    log(staff, Change.What.PLAN, words, lesson.id)
    return lesson


def _keep_what_was_counted(
    lesson: Lesson, plan: list[Planning], kept: list[Activity | None]
) -> None:
    """Reps are kept by the place of their movement: from the first on the movements of a target
    stay in their order, and a rep counts what it did. Raises Refused."""
    targets = lesson.blocks.filter(kind=BlockKind.REP_TARGET, activity__attempts__isnull=False)
    counted = dict(targets.values_list("activity", "settings"))
    for one, activity in zip(plan, kept, strict=True):
        if activity is None or activity.id not in counted:
            continue
        if one.entry["kind"] is not BlockKind.REP_TARGET:
            continue
        before = cast("RepTargetEntry", counted[activity.id])
        names = before.get("names") or []
        if (one.entry.get("names") or [])[: len(names)] != names:
            raise Refused(
                say(
                    "{label}: reps were already counted for {names}. Keep this order and "
                    "add new movements at the end.",
                    label=one.block.label,
                    names=", ".join(names),
                )
            )
        if weights_of(before) != weights_of(one.entry):
            raise Refused(
                say(
                    "{label}: reps were already counted, so their weights stay {weights_typed}.",
                    label=one.block.label,
                    weights_typed=weights_typed(weights_of(before)),
                )
            )


def _demand_its_clock(lesson: Lesson, plan: list[Planning], kept: list[Activity | None]) -> None:
    """A rep target that counts for a test runs as long as the test: its totals are of that. One
    that was planned otherwise before, and counted, stays as it was. Raises Refused."""
    targets = lesson.blocks.filter(kind=BlockKind.REP_TARGET, activity__attempts__isnull=False)
    before = {block.activity_id: block.settings.get("seconds") for block in targets}
    for one, activity in zip(plan, kept, strict=True):
        entry = one.block.entry
        if activity is None or entry["kind"] is not BlockKind.REP_TARGET:
            continue
        asked, seconds = entry.get("seconds") or 0, activity.protocol.seconds
        if seconds and asked != seconds and before.get(activity.id) != asked:
            raise Refused(
                say(
                    "{label}: it is planned for {minutes}, but {name} takes {minutes2}. "
                    "Give it the time of its test, or choose no test.",
                    label=one.block.label,
                    minutes=_minutes(asked),
                    name=activity.protocol.test.name,
                    minutes2=_minutes(seconds),
                )
            )


def _minutes(seconds: int) -> str:
    whole, rest = divmod(seconds, 60)
    return say_many("{n} minute", "{n} minutes", whole) if not rest else f"{seconds} s"


def _activity_for(lesson: Lesson, one: Planning, left: dict[UUID, Activity]) -> Activity | None:
    """The activity of a block: the one it had, else one of the same test that is `left` (which it
    is taken from), else a new one; None for a block without a test."""
    if one.version is None:
        return None
    test = one.version.test_id
    own = left.get(one.entry.get("activity_id") or UUID(int=0))
    same = [own] if own and own.protocol.test_id == test else []
    same += [activity for activity in left.values() if activity.protocol.test_id == test]
    found = left.pop(same[0].id) if same else Activity(lesson=lesson, protocol=one.version)
    if one.entry["kind"] is BlockKind.BEATS:
        # Scores already taken keep those they were taken under.
        found.conditions = {**found.conditions, **called_conditions(one.entry)}
    return found


def _take_out(lesson: Lesson, activities: Iterable[Activity]) -> None:
    """Take tests out of a lesson. Raises Refused for one in which something was done, or which the
    conductor is on its way to."""
    conduct = Conduct.objects.filter(lesson=lesson).first()
    running: set[str] = set()
    if conduct and conduct.timeline and not conduct.state.get("ended"):
        running = {str(block["activity_id"]) for block in conduct.timeline["blocks"]}
        running |= {str(swap["activity_id"]) for swap in conduct.state.get("swaps") or ()}
    for activity in activities:
        name = activity.protocol.test.name
        if activity.attempts.exists() or activity.runs.exists():
            raise Refused(say("{name} has records, so it stays in the plan.", name=name))
        if str(activity.id) in running:
            raise Refused(say("{name} is being done now, so it stays in the plan.", name=name))
        activity.delete()


def keep_revision(
    staff: Staff, lesson: Lesson, entries: Sequence[Mapping[str, object]]
) -> PlanRevision:
    """Keep the plan as it stands now under its revision's number."""
    return PlanRevision.objects.create(
        lesson=lesson, number=lesson.plan_revision, entries=entries, by=staff
    )


def _with_ids(lesson: Lesson, entries: Sequence[BlockEntry]) -> list[BlockEntry]:
    """Each block under an id of its own: the one it has, or a new one where it has none yet, has
    another's, or one of another lesson."""
    asked = [entry.get("id") for entry in entries]
    foreign = set(
        PlanBlock.objects.filter(pk__in=[one for one in asked if one])
        .exclude(lesson=lesson)
        .values_list("id", flat=True)
    )
    taken: set[UUID] = set()
    found: list[BlockEntry] = []
    for entry in entries:
        own = entry.get("id")
        if own is None or own in taken or own in foreign:
            own = uuid4()
        taken.add(own)
        found.append(cast("BlockEntry", {**entry, "id": own}))
    return found


def _with_own_children(entry: BlockEntry, children: set[str]) -> BlockEntry:
    """A block whose groups hold children of the class only: those who have left it, and whoever
    never was in it, are in no group."""
    if entry["kind"] is not BlockKind.STATIONS:
        return entry
    groups = entry.get("groups")
    if not groups:
        return entry
    members = [[one for one in group if str(one) in children] for group in groups["members"]]
    return {**entry, "groups": {**groups, "members": members}}


def _renumber(activities: list[Activity]) -> None:
    """Give the activities their places; out of the way first, since each place is there once."""
    known = [activity for activity in activities if not activity._state.adding]
    for place, activity in enumerate(known):
        activity.position = 1000 + place
        activity.save(update_fields=["position"])
    for place, activity in enumerate(activities):
        activity.position = place
        activity.save()
