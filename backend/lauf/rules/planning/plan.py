"""How long a test takes a class, in which order tests go, and what a plan should be told."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from enum import IntEnum, StrEnum
from typing import Final

from lauf.messages import and_list, say
from lauf.rules.planning.block_kinds import BLOCK_KINDS
from lauf.rules.planning.blocks import BlockKind
from lauf.rules.planning.demands import HARD, EffortLevel, Load

#: Children who share what is needed once a group.
GROUP_SIZE: Final = 6


class KitFor(StrEnum):
    """Who needs one of an item of kit."""

    CHILD = "child"
    PAIR = "pair"
    GROUP = "group"
    CLASS = "class"


def shares(children: int) -> dict[str, int]:
    """How many of each there are in a class: children, pairs, groups, the class itself."""
    return {
        KitFor.CHILD: children,
        KitFor.PAIR: -(-children // 2),
        KitFor.GROUP: -(-children // GROUP_SIZE),
        KitFor.CLASS: 1,
    }


@dataclass(frozen=True, slots=True)
class Kit:
    """So many of an item for each child, pair, group or class."""

    item: str
    each: float
    of: str

    def needed(self, children: int) -> int:
        return -(-int(shares(children)[self.of] * self.each * 100) // 100)


@dataclass(frozen=True, slots=True)
class Planned:
    """What planning must know of one test. Times in seconds.

    at_once    how many go at one set of kit; None when a whole wave goes together
    sets       sets of kit there are, where `at_once` is given
    waves      waves of the class where everybody has room (two: partners swap)
    """

    name: str
    setup: int
    trial: int
    changeover: int
    tries: int = 1
    waves: int = 1
    at_once: int | None = None
    sets: int = 1
    helpers: int = 0
    family: str = ""
    effort: str = EffortLevel.HIGH
    loads: tuple[str, ...] = ()
    ages: tuple[int, int] = (3, 19)
    kit: tuple[Kit, ...] = ()


def waves_needed(test: Planned, children: int) -> int:
    """ceil(children / at once), or the test's own waves where everybody has room."""
    if test.at_once is None:
        return test.waves
    return -(-children // (test.at_once * max(1, test.sets)))


def class_seconds(test: Planned, children: int) -> int:
    """Waves × tries × (trial + changeover) + set-up."""
    one = test.trial + test.changeover
    return test.setup + waves_needed(test, children) * test.tries * one


@dataclass(frozen=True, slots=True)
class Budget:
    """How tests fit a time: seconds of each, the sum, the one that takes longest, and what one
    more set of its kit (and helper) would save."""

    seconds: tuple[int, ...]
    total: int
    bottleneck: int | None
    one_more_saves: int


def time_budget(tests: Sequence[Planned], children: int) -> Budget:
    """The time of several tests one after the other. A test whose waves are partners taking turns
    is not made shorter by kit."""
    each = tuple(class_seconds(test, children) for test in tests)
    if not each:
        return Budget((), 0, None, 0)
    slowest = max(range(len(each)), key=lambda index: each[index])
    test = tests[slowest]
    saves = 0
    if test.at_once is not None:
        saves = each[slowest] - class_seconds(replace(test, sets=test.sets + 1), children)
    return Budget(each, sum(each), slowest, saves)


class Rank(IntEnum):
    """Order of tests in a session: NSCA Essentials of Strength Training and Conditioning, 4th ed.
    (from memory): what tires least comes first, what tires most last."""

    REST = 0
    FLEXIBILITY = 1
    AGILITY = 2
    STRENGTH = 3
    SPRINT = 4
    ENDURANCE = 5
    AEROBIC = 6


RANK_WORDS: Final = {
    Rank.REST: say("growth and resting pulse"),
    Rank.FLEXIBILITY: say("flexibility"),
    Rank.AGILITY: say("jumps, aim and agility"),
    Rank.STRENGTH: say("strength"),
    Rank.SPRINT: say("sprints"),
    Rank.ENDURANCE: say("muscular endurance"),
    Rank.AEROBIC: say("aerobic"),
}
_BY_FAMILY: Final = {
    "growth": Rank.REST,
    "reach": Rank.FLEXIBILITY,
    "distance": Rank.AGILITY,
    "aim": Rank.AGILITY,
    "unbroken": Rank.STRENGTH,
    "hold": Rank.STRENGTH,
    "timed_reps": Rank.ENDURANCE,
    "total": Rank.AEROBIC,
    "stages": Rank.AEROBIC,
}


def rank(test: Planned) -> Rank:
    """Where a test belongs in the order."""
    if test.effort == EffortLevel.REST:
        return Rank.REST
    if test.effort == EffortLevel.LOW and test.family not in ("reach", "growth"):
        return Rank.AGILITY
    if test.family in ("laps", "work"):
        # A run of less than half a minute is a sprint.
        return Rank.SPRINT if test.trial < 30 else Rank.AEROBIC
    return _BY_FAMILY.get(test.family, Rank.ENDURANCE)


def in_good_order(tests: Sequence[Planned]) -> list[int]:
    """The indices of the tests in a good order: by rank, and within a rank so that neighbours load
    other parts where that can be had; else as they were."""
    found: list[int] = []
    left = list(range(len(tests)))
    while left:
        lowest = min(rank(tests[index]) for index in left)
        here = [index for index in left if rank(tests[index]) == lowest]
        last = tests[found[-1]] if found else None
        chosen = next((i for i in here if last is None or not same_load(last, tests[i])), here[0])
        found.append(chosen)
        left.remove(chosen)
    return found


#: Parts of the body that tire; skill and balance do not.
_TIRING: Final[set[str]] = {
    Load.WHOLE_BODY, Load.LEGS, Load.PUSH, Load.PULL, Load.CORE, Load.AEROBIC,
}  # fmt: skip


def same_load(one: Planned, other: Planned) -> set[str]:
    """The parts that two tests both load at high effort; everything meets the whole body."""
    if one.effort not in HARD or other.effort not in HARD:
        return set()
    shared = set(one.loads) & set(other.loads) & _TIRING
    for this, that in ((one, other), (other, one)):
        if "whole body" in this.loads:
            shared |= set(that.loads) & _TIRING
    return shared


@dataclass(frozen=True, slots=True)
class Warning:
    """Something a plan should be told: a code, the block it is about (−1: all), a sentence."""

    code: str
    block: int
    words: str


@dataclass(frozen=True, slots=True)
class PlanItem:
    """One block as the checks see it: its kind, its seconds, and the test in it, if any."""

    kind: BlockKind
    label: str
    seconds: int
    test: Planned | None = None
    cautions: tuple[str, ...] = field(default=())


def check_plan(
    items: Sequence[PlanItem], *, lesson_seconds: int, age: int, notes: int
) -> list[Warning]:
    """Everything a plan should be told, in the order of the lesson."""
    found: list[Warning] = []
    total = sum(item.seconds for item in items)
    if total > lesson_seconds:
        over = -(-(total - lesson_seconds) // 60)
        found.append(
            Warning(
                "too_long",
                -1,
                say("The plan is about {over} min longer than the lesson.", over=over),
            )
        )
    if notes:
        words = say(
            "{notes} children have a medical note. Read them before you start.", notes=notes
        )
        if notes == 1:
            words = say("One child has a medical note. Read it before you start.")
        found.append(Warning("notes", -1, words))
    warm = False
    before: tuple[int, Planned] | None = None
    for index, item in enumerate(items):
        warm = warm or BLOCK_KINDS[item.kind].warms
        test = item.test
        if test is None:
            if BLOCK_KINDS[item.kind].works and not warm:
                found.append(
                    Warning(
                        "cold", index, say("{label} comes before any warm-up.", label=item.label)
                    )
                )
            continue
        if not warm and test.effort in HARD:
            words = say(
                "{label} needs {effort} effort but comes before any warm-up.",
                label=item.label,
                effort=test.effort,
            )
            found.append(Warning("cold", index, words))
        low, high = test.ages
        if not low <= age <= high:
            words = say(
                "{label} suits ages {low} to {high}. This class is about {age}.",
                label=item.label,
                low=low,
                high=high,
                age=age,
            )
            found.append(Warning("age", index, words))
        if before is not None:
            found += _beside(before[1], test, index, item.label)
        before = index, test
    if any(item.test and item.test.effort in HARD for item in items) and not any(
        item.kind is BlockKind.COOL_DOWN for item in items
    ):
        found.append(Warning("no_cool_down", -1, say("There is no cool-down at the end.")))
    return found


def _beside(earlier: Planned, test: Planned, index: int, label: str) -> list[Warning]:
    found = []
    if rank(test) < rank(earlier):
        words = say(
            "{label} ({rank_words}) should come before {name} ({rank_words2}).",
            label=label,
            rank_words=RANK_WORDS[rank(test)],
            name=earlier.name,
            rank_words2=RANK_WORDS[rank(earlier)],
        )
        found.append(Warning("order", index, words))
    if shared := same_load(earlier, test):
        parts = and_list(sorted(shared))
        found.append(
            Warning(
                "same_load",
                index,
                say("{label} works the {parts} again.", label=label, parts=parts),
            )
        )
    return found


def kit_list(tests: Sequence[Planned], children: int) -> dict[str, int]:
    """What a class of this size needs: of each item the most that any one test needs."""
    needed: dict[str, int] = {}
    for test in tests:
        for item in test.kit:
            needed[item.item] = max(needed.get(item.item, 0), item.needed(children))
    return dict(sorted(needed.items()))


def fit_to_time(
    seconds: Sequence[int], least: Sequence[int], available: int
) -> tuple[int, ...] | None:
    """Blocks shortened to fit, each in proportion to what it can give and none under its least;
    whole seconds. None when even the least does not fit; unchanged when all fits."""
    over = sum(seconds) - available
    if over <= 0:
        return tuple(seconds)
    room = [max(0, now - low) for now, low in zip(seconds, least, strict=True)]
    if sum(room) < over:
        return None
    # Round each cut up so that the sum fits, then give back what is too much, latest first.
    cuts = [-(-over * one // sum(room)) for one in room]
    spare = sum(cuts) - over
    for index in reversed(range(len(cuts))):
        back = min(spare, cuts[index])
        cuts[index] -= back
        spare -= back
    return tuple(now - cut for now, cut in zip(seconds, cuts, strict=True))
