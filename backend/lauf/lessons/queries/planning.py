"""The blocks of a plan, read and checked, with the tests they are of. Reads only."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from uuid import UUID

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import counts_calls, newest_protocols, planned, sees
from lauf.errors import NotFound, Refused
from lauf.lessons.models import Lesson
from lauf.messages import say
from lauf.people.models import Staff
from lauf.rules.judging.comparability import CALLS
from lauf.rules.planning import plan as rules
from lauf.rules.planning.block_kinds import BLOCK_KINDS
from lauf.rules.planning.blocks import (
    GET_READY,
    AnyBlock,
    BeatsEntry,
    Block,
    BlockEntry,
    BlockKind,
    TestEntry,
    TrialPlan,
    calls_of,
)
from lauf.rules.planning.plan import Planned
from lauf.rules.planning.timeline import block_seconds
from lauf.rules.reading.quantities import Kind, decimal
from lauf.rules.reading.words import fitting


@dataclass(frozen=True, slots=True)
class Planning:
    """One block of a plan being made, with what the rules need of it."""

    entry: BlockEntry
    block: AnyBlock
    seconds: int
    test: Planned | None
    version: ProtocolVersion | None
    # Of a private test that the asker does not see: it keeps its place and its time.
    closed: bool = False

    @property
    def kind(self) -> BlockKind:
        """What is done in it."""
        return self.entry["kind"]


def _block(entry: BlockEntry, version: ProtocolVersion | None, children: int) -> AnyBlock:
    """A block from what was entered. Raises Refused, naming the block."""
    kind = entry["kind"]
    try:
        label = fitting(entry.get("label", ""), 80, say("The name of a block"))
    except ValueError as problem:
        raise Refused(str(problem)) from problem
    label = label or (version.test.name if version else BLOCK_KINDS[kind].words)
    _check_its_test(kind, label, version)
    if version is None:
        return Block(entry, label)
    if entry["kind"] is BlockKind.TEST:
        return Block(entry, label, _trial(version, children, entry))
    if entry["kind"] is BlockKind.REP_TARGET:
        # It lasts as long as the test that it counts for.
        return Block({**entry, "seconds": entry.get("seconds") or version.seconds}, label)
    return Block(entry, label)


def _check_its_test(kind: BlockKind, label: str, version: ProtocolVersion | None) -> None:
    """A test block has a test; a rep target may count for one of a total, and what is called to a
    beat for one that is done to a beat. Raises Refused."""
    if kind is BlockKind.TEST:
        if version is None:
            raise Refused(say("{label}: choose the test of this block.", label=label))
    elif kind is BlockKind.BEATS:
        if version is not None and not counts_calls(version):
            raise Refused(say("{label}: choose a test of called movements.", label=label))
    elif version is not None and (kind is not BlockKind.REP_TARGET or version.kind != Kind.TOTAL):
        raise Refused(
            say("{label}: only a rep target can count for a test of a total.", label=label)
        )


def called_conditions(entry: BeatsEntry) -> dict[str, str]:
    """What a count of movements that were called is compared under: the movement, how many were
    called, and how fast. Raises ValueError for a block that calls nothing."""
    calls = calls_of(entry)
    movement = fitting(entry.get("movement") or "", 40, say("A movement")).lower()
    lasts = decimal(Fraction(calls[-1].at_ms, 1000), 1)
    return {
        "movement": movement or "any",
        CALLS: str(len(calls)),
        "beat": say("over {lasts} s", lasts=lasts),
    }


def _trial(version: ProtocolVersion, children: int, entry: TestEntry) -> TrialPlan:
    """The clock of a test in a lesson: the protocol's seconds, where the plan says no others. Where
    only so many go at once, it has no clock for all: its waves are those that the class needs."""
    test = planned(version, children)
    own_clock = version.at_once is None

    def seconds_of(value: int | None, usual: int) -> int:
        return usual if value is None else value

    return TrialPlan(
        seconds=version.seconds if own_clock else None,
        waves=rules.waves_needed(test, children),
        tries=version.tries,
        setup=seconds_of(entry.get("setup"), version.setup_seconds),
        trial=version.trial_seconds,
        changeover=seconds_of(entry.get("pause"), version.changeover_seconds),
        get_ready=seconds_of(entry.get("get_ready"), GET_READY),
        # A plan that says nothing was made for a teacher who goes on by hand.
        waits=entry.get("waits") is not False,
    )


def read_plan(
    staff: Staff, lesson: Lesson, entries: Sequence[BlockEntry], children: int
) -> list[Planning]:
    """The blocks of a plan. A test that is in the lesson keeps the protocol version it came in
    with, also a private one; one that is new to it gets the newest. Two queries. Raises NotFound
    for a test out of scope, or Refused."""
    wanted = {test for entry in entries if (test := entry.get("test_id"))}
    versions = _versions(staff, lesson, wanted) if wanted else {}
    if wanted - set(versions):
        raise NotFound(say("test"))
    found = []
    for entry in entries:
        version = versions.get(entry.get("test_id") or UUID(int=0))
        block = _block(entry, version, children)
        try:
            seconds = block_seconds(block)
        except ValueError as problem:
            raise Refused(f"{block.label}: {problem}") from problem
        if seconds == 0:
            raise Refused(say("{label}: give the time it lasts.", label=block.label))
        # A rep target has its own time; the sums of tests are of the test waves.
        trial = planned(version, children) if version and block.test else None
        closed = version is not None and not sees(staff, version.test)
        found.append(Planning(entry, block, seconds, trial, version, closed))
    return found


def _versions(staff: Staff, lesson: Lesson, wanted: set[UUID]) -> dict[UUID, ProtocolVersion]:
    """The protocol version of each of these tests in a lesson, by the test's id."""
    found = {v.test_id: v for v in newest_protocols(staff).filter(test__in=wanted)}
    in_lesson = lesson.activities.filter(protocol__test__in=wanted)
    for activity in in_lesson.select_related("protocol__test__school"):
        found[activity.protocol.test_id] = activity.protocol
    return found
