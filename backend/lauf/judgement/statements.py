"""All that one judgement says of one score: what every board, page, file and handout shows."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property

from lauf.judgement.judge import Judge
from lauf.judgement.subject import Subject
from lauf.judgement.words import change_words, rung_words, score_words
from lauf.records.queries import Row, reason_words
from lauf.rules.judging.change import Change, TypicalError, Verdict
from lauf.rules.judging.ladders import Benchmark, Judgement
from lauf.rules.reading.entry import sides_words
from lauf.rules.reading.kinds import format_value
from lauf.rules.reading.quantities import Kind


class Statement:
    """A score judged beside the earlier ones of its child and test. What is asked for is worked out
    once, when it is asked for."""

    def __init__(self, judge: Judge, row: Row, earlier: Sequence[Row], who: Subject) -> None:
        self.judge, self.row, self.earlier, self.who = judge, row, earlier, who

    @property
    def shown(self) -> str:
        """The score, or why there is none."""
        return shown_of(self.row, self.judge)

    @property
    def form(self) -> str:
        """The form of the movement, "" where the test has only one."""
        variant = self.judge.variants.get(self.row.variant)
        return variant.name if variant else ""

    @cached_property
    def ladder(self) -> Benchmark | None:
        """The ladder that judges it; None without one, or where it cannot."""
        if self.judged.why_not is not None:
            return None
        return self.judge.ladder(self.row.variant, self.who, self.row.on)

    @cached_property
    def judged(self) -> Judgement:
        return self.judge.rung(self.row, self.who)

    @property
    def rung(self) -> int | None:
        """The rung reached, from 0; None below the first or without a ladder."""
        return self.judged.reached if self.ladder else None

    @property
    def rungs(self) -> int:
        """How many rungs there are, 0 without a ladder."""
        return len(self.ladder.rungs) if self.ladder else 0

    @property
    def rung_name(self) -> str:
        """The name of the rung reached, "" for none."""
        return "" if self.ladder is None or self.rung is None else (
            self.ladder.rungs[self.rung].name
        )  # fmt: skip

    @property
    def rung_words(self) -> str:
        """ "Centre line", or "3 more to Near line" below the first; "" without a ladder."""
        return rung_words(self.judge, self.judged, self.ladder)[0] if self.ladder else ""

    @cached_property
    def change(self) -> Change:
        return self.judge.change(self.row, self.earlier, self.who)

    @property
    def change_words(self) -> str:
        return change_words(self.judge, self.row, self.earlier, self.change)

    @cached_property
    def before(self) -> Row | None:
        """The score that the change is against."""
        return self.judge.before(self.row, self.earlier)

    @property
    def error(self) -> TypicalError:
        """The typical error of the test under its key, at the child's age."""
        return self.judge.error(self.judge.key(self.row), self.who.age(self.row.on))

    @property
    def gain_in_errors(self) -> float | None:
        """The change in the better direction in typical errors; None if nothing was compared."""
        if self.before is None or self.change.verdict is Verdict.NOT_COMPARABLE:
            return None
        return self.change.gain / self.error.at(self.before.value or 0)

    @property
    def best(self) -> bool:
        """Whether it beats every earlier one of its key."""
        return self.judge.is_new_best(self.row, self.earlier)

    @property
    def best_shown(self) -> str:
        """The best so far under its key, this one included."""
        best = self.judge.best([*self.earlier, self.row], self.judge.key(self.row))
        return "" if best is None else format_value(best, self.judge.measure)

    @property
    def target(self) -> str:
        """The next aim, "" at the top."""
        found = self.judge.target(self.row, self.earlier, self.who)
        return "" if found is None else format_value(found, self.judge.measure)

    @property
    def words(self) -> list[str]:
        """Everything said of it, in the order it is read."""
        return score_words(self.judge, self.row, self.earlier, self.who)


def shown_of(row: Row, judge: Judge) -> str:
    """A score, or why there is none, as it is shown."""
    if row.reason:
        return reason_words(row.reason)
    if row.kept is None or row.informal:
        return row.typed.rstrip("~")
    if row.parts and judge.measure.kind is Kind.SIDES:
        return sides_words(row.parts)
    return format_value(row.kept, judge.measure)
