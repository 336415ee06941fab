"""A judged score as its family reads it: whole sentences, no sign and no term of measuring."""

from __future__ import annotations

from lauf.judgement.statements import Statement
from lauf.messages import say
from lauf.rules.judging.change import Change, Verdict
from lauf.rules.reading.kinds import format_difference
from lauf.rules.reading.quantities import Kind, Measure


def family_words(statement: Statement) -> str:
    """Which sides were reached, which step of the ladder, and what became of the last score."""
    row, measure = statement.row, statement.judge.measure
    words = []
    if measure.kind is Kind.SIDES and row.parts:
        words.append(_sides(bool(row.parts.get("left")), bool(row.parts.get("right"))))
    if statement.rung_name:
        words.append(say("Has reached the step “{rung}”.", rung=statement.rung_name))
    elif statement.ladder is not None:
        words.append(f"{statement.rung_words}.")
    if row.is_open:
        words.append(say("The school still has to check this score."))
    else:
        words.append(_change(statement.change, measure))
        if row.estimate:
            words.append(say("This score is an estimate."))
    return " ".join(words)


def _sides(left: bool, right: bool) -> str:
    match left, right:
        case True, True:
            return say("Both sides done.")
        case True, False:
            return say("Left side done, right side not yet.")
        case False, True:
            return say("Right side done, left side not yet.")
        case _:
            return say("Neither side yet.")


def _change(change: Change, measure: Measure) -> str:
    amount = format_difference(abs(change.gain), measure)
    match change.verdict:
        case Verdict.FIRST:
            return say("This is the first score.")
        case Verdict.BETTER:
            return say("Better than last time, by {amount}.", amount=amount)
        case Verdict.LOWER:
            return say("Lower than last time, by {amount}.", amount=amount)
        case Verdict.STEADY:
            same = change.gain == 0
            return say("The same as last time.") if same else say("About the same as last time.")
        case Verdict.AT_THE_TOP:
            return say("The highest score of this test, as last time.")
        case Verdict.REACHED_THE_TOP:
            return say("The highest score of this test, for the first time.")
        case Verdict.MOVED_UP:
            return say("Now does a harder form.")
        case Verdict.NOT_COMPARABLE:
            return say("Done in another way than last time, so the two are not compared.")
