"""What a certificate may be given for: by stated rules, proposed, and confirmed by a teacher."""

from __future__ import annotations

from collections.abc import Hashable, Mapping, Sequence
from enum import StrEnum
from typing import Final, NamedTuple, TypeVar

from lauf.messages import say, say_many
from lauf.rules.judging.change import Verdict


class Award(StrEnum):
    """What for."""

    NEW_BEST = "new_best"
    RUNG = "rung"
    ALL_TESTS = "all_tests"
    KEPT_TRYING = "kept_trying"
    IMPROVER = "improver"


#: The rule of each, as it is shown beside the proposal.
AWARD_RULES: Final[dict[Award, str]] = {
    Award.NEW_BEST: say(
        "a score better than all the child's earlier ones by more than day-to-day variation"
    ),
    Award.RUNG: say("a rung the child had never reached before"),
    Award.ALL_TESTS: say("a score in every test of this period"),
    Award.KEPT_TRYING: say(
        "three or more scores in one test in this period, without a best or a real "
        "improvement at the end"
    ),
    Award.IMPROVER: say(
        "the three largest improvements in the class, compared with the day-to-day "
        "variation of each test"
    ),
}
#: How many of a class are proposed as improvers, and how many scores make trying.
IMPROVERS: Final = 3
_TRIES: Final = 3


class Fact(NamedTuple):
    """One child's latest score in one test of these days.

    scores       how many in these days
    best         whether it is a new best
    gain_in_te   change in the better direction in typical errors of the test; None if not compared
    new_rung     name of a rung reached for the first time, "" for none
    """

    test: str
    shown: str
    scores: int
    verdict: Verdict
    best: bool
    gain_in_te: float | None
    new_rung: str


class Proposal(NamedTuple):
    award: Award
    words: str


Child = TypeVar("Child", bound=Hashable)
_UP: Final = (Verdict.BETTER, Verdict.REACHED_THE_TOP, Verdict.MOVED_UP)


def awards(facts: Mapping[Child, Sequence[Fact]], tests: int) -> dict[Child, list[Proposal]]:
    """What each child may be given, by `AWARD_RULES`; children without facts get nothing.

    tests   how many tests the class did in these days
    """
    improvers = _improvers(facts)
    found = {
        child: [
            *_of_scores(mine),
            *([improvers[child]] if child in improvers else []),
            *_of_all(mine, tests),
        ]
        for child, mine in facts.items()
    }
    return {child: given for child, given in found.items() if given}


def _improvers(facts: Mapping[Child, Sequence[Fact]]) -> dict[Child, Proposal]:
    """The largest changes of the class; who is level with the last of them is one of them."""
    gains = {
        child: max(
            ((fact.gain_in_te or 0.0, fact.test) for fact in mine
             if fact.verdict is Verdict.BETTER),
            default=(0.0, ""),
        )
        for child, mine in facts.items()
    }  # fmt: skip
    real = sorted((gain for gain, _ in gains.values() if gain > 0), reverse=True)
    if not real:
        return {}
    last = real[min(IMPROVERS, len(real)) - 1]
    return {
        child: Proposal(Award.IMPROVER, say("one of the class's most improved, {test}", test=test))
        for child, (gain, test) in gains.items()
        if gain >= last
    }


def _of_scores(mine: Sequence[Fact]) -> list[Proposal]:
    bests = [
        Proposal(
            Award.NEW_BEST, say("a new best in {test}: {shown}", test=fact.test, shown=fact.shown)
        )
        for fact in mine
        if fact.best and fact.verdict in _UP
    ]
    rungs = [
        Proposal(
            Award.RUNG, say("reached {new_rung} in {test}", new_rung=fact.new_rung, test=fact.test)
        )
        for fact in mine
        if fact.new_rung
    ]
    return bests + rungs


def _of_all(mine: Sequence[Fact], tests: int) -> list[Proposal]:
    given = []
    if tests > 1 and len(mine) == tests:
        given.append(
            Proposal(
                Award.ALL_TESTS,
                say("took part in all of {tests}", tests=say_many("{n} test", "{n} tests", tests)),
            )
        )
    given += [
        Proposal(
            Award.KEPT_TRYING,
            say(
                "kept trying {test}, {times}",
                test=fact.test,
                times=say_many("{n} time", "{n} times", fact.scores),
            ),
        )
        for fact in mine
        if fact.scores >= _TRIES and fact.verdict not in _UP and not fact.best
    ]
    return given
