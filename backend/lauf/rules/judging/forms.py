"""Who moves to a harder or an easier form of a test: at an end of the test or of its ladder."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lauf.messages import say
from lauf.rules.judging.change import Verdict

_AT_THE_END = (Verdict.AT_THE_TOP, Verdict.REACHED_THE_TOP)


@dataclass(frozen=True, slots=True)
class Standing:
    """Where a child's last score of a test stands.

    form     the code of the form it was done in
    rung     the rung it reached, from 0; None below the first, or without a ladder
    rungs    how many rungs the ladder has
    """

    form: str
    verdict: Verdict
    rung: int | None
    rungs: int
    rung_name: str = ""


@dataclass(frozen=True, slots=True)
class FormStep:
    """Another form, by its code, and why it fits."""

    form: str
    why: str


def harder_form(forms: Sequence[str], now: Standing) -> FormStep | None:
    """The next harder form for a score at the end of the test or on the top rung; None where it is
    neither, or where there is no harder form. `forms` go from the easiest to the hardest (common
    practice)."""
    at_the_end = now.verdict in _AT_THE_END
    on_top = now.rungs > 1 and now.rung == now.rungs - 1
    if now.form not in forms or now.form == forms[-1] or not (at_the_end or on_top):
        return None
    why = (
        say("at the maximum of the test")
        if at_the_end
        else say("at {rung_name}", rung_name=now.rung_name)
    )
    return FormStep(forms[forms.index(now.form) + 1], why)


def easier_form(forms: Sequence[str], now: Standing) -> FormStep | None:
    """The next easier form for a score on the first rung or below; None where it is higher, has no
    ladder, or where there is no easier form. `forms` as for `harder_form`."""
    low = now.rungs > 1 and not now.rung
    if now.form not in forms or now.form == forms[0] or not low:
        return None
    return FormStep(forms[forms.index(now.form) - 1], say("at the first rung or below"))
