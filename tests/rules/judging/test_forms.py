"""Who moves to another form of a test (common practice), as a table of cases."""

from __future__ import annotations

import pytest

from lauf.rules.judging.change import Verdict
from lauf.rules.judging.forms import FormStep, Standing, easier_form, harder_form

FORMS = ("wall", "knees", "full")
STEADY, TOP, REACHED = Verdict.STEADY, Verdict.AT_THE_TOP, Verdict.REACHED_THE_TOP
LOW = "at the first rung or below"


@pytest.mark.parametrize(
    ("form", "verdict", "rung", "rungs", "harder", "easier"),
    [
        ("knees", STEADY, 3, 4, FormStep("full", "at End wall"), None),
        ("knees", STEADY, 2, 4, None, None),
        ("knees", STEADY, 1, 4, None, None),
        ("knees", STEADY, 0, 4, None, FormStep("wall", LOW)),
        ("knees", STEADY, None, 4, None, FormStep("wall", LOW)),
        ("knees", TOP, 2, 4, FormStep("full", "at the maximum of the test"), None),
        ("knees", REACHED, 3, 4, FormStep("full", "at the maximum of the test"), None),
        # There is nothing harder or easier at the ends, and nothing known without a ladder.
        ("full", TOP, 3, 4, None, None),
        ("wall", STEADY, None, 4, None, None),
        ("knees", STEADY, None, 0, None, None),
        ("knees", STEADY, 0, 1, None, None),
        # A form that the test does not have any more.
        ("chair", TOP, 3, 4, None, None),
        ("chair", STEADY, None, 4, None, None),
    ],
)
def test_who_moves_to_another_form(
    form: str, verdict: Verdict, rung: int | None, rungs: int,
    harder: FormStep | None, easier: FormStep | None,
) -> None:  # fmt: skip
    now = Standing(form, verdict, rung, rungs, "End wall")
    assert harder_form(FORMS, now) == harder
    assert easier_form(FORMS, now) == easier
