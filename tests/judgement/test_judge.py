"""Whatever was scored in any of the ready tests: what is said of it is true, and is English."""

from __future__ import annotations

import re
import uuid
from datetime import date
from statistics import NormalDist

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lauf.catalogue.ready import READY, Ready
from lauf.judgement.judge import Judge
from lauf.judgement.subject import Subject
from lauf.judgement.words import change_words, score_words, sure_words
from lauf.records.queries import Row
from lauf.rules.judging.change import PairSum, Verdict
from lauf.rules.judging.plausibility import CLASS_NEEDED, FlagCode
from lauf.rules.reading.rounding import whole
from tests.support.judging import DAY, WHO, judge_of, ready, row

#: Words a reader would stumble over.
_ODD = re.compile(
    r"[−+]0(?![.\d:])"  # nothing gained or lost with a sign
    r"|(?<![\d.:])1 (?:reps|hits|shuttles|laps|stages|points|seconds|tries|pairs|sides|beats)\b"
    r"|(?<![\d.:,])[02-9]\d* (?:rep|hit|shuttle|lap|stage|point|second|side|beat)\b"
    r"|None|nan|inf|\{|\}|  "
)


@st.composite
def series(draw: st.DrawFn) -> tuple[Judge, list[Row]]:
    """A test, and up to five scores of one child on days of their own."""
    judge = judge_of(draw(st.sampled_from(READY)), draw(st.booleans()))
    measure = judge.measure
    step = measure.resolution or 1
    values = st.integers(measure.lowest // step, measure.ceiling // step).map(lambda n: n * step)
    found = draw(st.lists(values, min_size=1, max_size=5))
    days = sorted(draw(st.sets(st.integers(0, 900), min_size=len(found), max_size=len(found))))
    sure = [draw(st.integers(0, 4)) > 0 for _ in found]
    return judge, [
        row(judge, value, day, estimate=not measured)
        for value, day, measured in zip(found, days, sure, strict=True)
    ]


@settings(deadline=None, max_examples=250)
@given(series())
def test_what_is_said_of_a_score_is_english_and_true(drawn: tuple[Judge, list[Row]]) -> None:
    judge, rows = drawn
    for place, one in enumerate(rows):
        words = score_words(judge, one, rows[:place], WHO)
        sentence = " · ".join(words)
        assert not _ODD.search(sentence), sentence
        assert len(set(words)) == len(words), sentence
        if judge.measures_only:
            assert not re.search(r"\bbetter\b|\blower\b|\bbest\b", sentence), sentence
            continue
        measured = [r for r in rows[:place] if not r.estimate]
        if "new best" in words:
            assert not one.estimate and judge.measure.better.sign * (one.value or 0) > max(
                (judge.measure.better.sign * (r.value or 0) for r in measured), default=-(10**9)
            )
        chance = sure_words(judge, one, rows[:place], WHO)
        assert chance is None or not _ODD.search(chance), chance


@settings(deadline=None, max_examples=200)
@given(series())
def test_better_one_way_is_lower_the_other(drawn: tuple[Judge, list[Row]]) -> None:
    """Two scores are told apart alike whichever came first, up to the level the noise is taken at;
    and the same score twice is steady."""
    judge, rows = drawn
    first, last = rows[0], rows[-1]
    if judge.measures_only or first is last or first.estimate or last.estimate:
        return
    there = judge.change(last, [first], WHO)
    back = judge.change(first._replace(on=last.on), [last._replace(on=first.on)], WHO)
    assert there.gain == -back.gain
    assert {there.verdict, back.verdict} != {Verdict.BETTER}
    assert {there.verdict, back.verdict} != {Verdict.LOWER}
    again = judge.change(first._replace(id=uuid.uuid4(), on=last.on), [first], WHO)
    assert again.verdict in (Verdict.STEADY, Verdict.AT_THE_TOP), again


@settings(deadline=None, max_examples=200)
@given(series(), st.integers(1, 50))
def test_a_better_score_never_stands_on_a_lower_rung(
    drawn: tuple[Judge, list[Row]], steps: int
) -> None:
    judge, (one, *_) = drawn
    further = (one.value or 0) + steps * judge.measure.better.sign
    higher = judge.rung(one._replace(value=further), WHO).reached
    lower = judge.rung(one, WHO).reached
    assert (-1 if higher is None else higher) >= (-1 if lower is None else lower)


@pytest.mark.parametrize("one", READY, ids=[one.slug for one in READY])
def test_scores_under_different_keys_are_not_told_apart(one: Ready) -> None:
    """Another clock, meaning or variant: neither better nor lower, and never a best beaten."""
    judge = judge_of(one)
    value = (judge.measure.lowest + judge.measure.ceiling) // 2
    now = row(judge, value, 20)
    for other in ({"seconds": 7}, {"meaning": 9}, {"variant": "another"}):
        before = row(judge, judge.measure.lowest, 5, **other)
        said = " ".join(score_words(judge, now, [before], WHO))
        assert not re.search(r"\bbetter, |\blower, |\bsteady\b", said), (other, said)


PRESS_UPS = judge_of(ready("press-ups-60"))


def test_a_score_that_is_not_there_says_why_it_is_not_judged() -> None:
    jump = judge_of(ready("long-jump"))
    hands: dict[str, object] = {"informal": 7_000, "informal_unit": "hand"}
    assert jump.rung(row(jump, 0, 1, parts=hands)._replace(value=None), WHO).why_not == (
        "no hand or step measured yet"
    )
    assert jump.rung(row(jump, 0, 1)._replace(value=None), WHO).why_not == "no score"
    assert jump.rung(row(jump, 900, 1).put(is_open=True), WHO).why_not == "waiting for an answer"
    assert jump.rung(row(jump, 900, 1, variant="odd"), WHO).why_not == (
        "no ladder for this year group and form"
    )


def test_a_harder_form_than_ever_before_has_moved_up_and_no_other() -> None:
    full, knees = {"variant": "full"}, {"variant": "knees"}
    first = [row(PRESS_UPS, 20, 1, **knees)]
    assert PRESS_UPS.change(row(PRESS_UPS, 9, 5, **full), first, WHO).verdict is Verdict.MOVED_UP
    down = PRESS_UPS.change(row(PRESS_UPS, 9, 5, **knees), [row(PRESS_UPS, 9, 1, **full)], WHO)
    assert down.verdict is Verdict.NOT_COMPARABLE
    # Done in that form before, against another clock: not compared, and nothing new.
    before = [
        row(PRESS_UPS, 9, 1, seconds=30, **full),
        *[one._replace(on=first[0].on) for one in first],
    ]
    back = PRESS_UPS.change(row(PRESS_UPS, 9, 5, **full), before, WHO)
    assert back.verdict is Verdict.NOT_COMPARABLE


def test_what_is_asked_about_a_score_depends_on_its_clock_its_age_and_what_is_sure() -> None:
    def codes(one: Row, *earlier: Row, ran_ms: int | None = None) -> set[FlagCode]:
        return {flag.code for flag in PRESS_UPS.flags(one, earlier, None, WHO, ran_ms)}

    fast = row(PRESS_UPS, 58, 1)
    assert FlagCode.RATE in codes(fast)
    assert FlagCode.RATE not in codes(fast._replace(parts={"sure": True}))
    usual = [row(PRESS_UPS, 12, day) for day in (1, 2)]
    far = row(PRESS_UPS, 30, 9)
    assert FlagCode.HISTORY in codes(far, *usual)
    assert FlagCode.HISTORY not in codes(far, *(one._replace(seconds=30) for one in usual))
    run = judge_of(ready("mile-run"))
    held = row(run, 600_000, 1)
    asked = {flag.code for flag in run.flags(held, [], None, WHO, ran_ms=300_000)}
    sure = held._replace(parts={"sure": True})
    told = {flag.code for flag in run.flags(sure, [], None, WHO, ran_ms=300_000)}
    assert (FlagCode.CLOCK in asked, FlagCode.CLOCK in told) == (True, False)


def test_a_most_by_age_is_held_against_the_age_of_the_day() -> None:
    jump = judge_of(ready("long-jump"))
    bounds = jump.protocol.bounds_by_age
    assert bounds, "the standing long jump has limits by age"
    age, _, most = bounds[0]
    young = Subject("female", date(DAY.year - int(age), 2, 3))
    beyond = row(jump, int(most) + 300, 1)
    assert FlagCode.AGE in {flag.code for flag in jump.flags(beyond, [], None, young)}
    last_most = bounds[-1][2]
    if last_most > most + 300:
        old = Subject("female", date(DAY.year - int(bounds[-1][0]), 2, 3))
        assert FlagCode.AGE not in {flag.code for flag in jump.flags(beyond, [], None, old)}


def test_a_class_is_compared_from_so_many_of_one_key_on() -> None:
    group = [row(PRESS_UPS, 10 + place, 1) for place in range(CLASS_NEEDED)]
    assert PRESS_UPS.class_z(group).keys() == {one.id for one in group}
    assert PRESS_UPS.class_z(group[1:]) == {}
    other = group[0]._replace(variant="full")
    assert PRESS_UPS.class_z([other, *group[1:]]) == {}, "another form is another group"


def test_an_aim_is_made_from_the_band_at_the_best_and_the_next_rung() -> None:
    one = row(PRESS_UPS, 12, 1, variant="full")
    rung, band = PRESS_UPS.aim_from(12, one, WHO)
    assert rung == 18
    assert band == PRESS_UPS.band(PRESS_UPS.key(one), 12, 8)
    assert band != PRESS_UPS.band(PRESS_UPS.key(one), 12, 11), "it grows with the age"
    # A child may have noise of its own school: repeat tests under the very key.
    known = Judge(PRESS_UPS.protocol, PRESS_UPS.ladders,
                  {PRESS_UPS.key(one): PairSum(40, 40 * 2.0 * 9.0 ** 2)})  # fmt: skip
    assert known.aim_from(12, one, WHO)[1] > 2 * band


def test_how_sure_a_change_is_is_worked_out_by_hand() -> None:
    """Φ(gain / (√2 · typical error)), the typical error that of the earlier score's age."""
    before, now = row(PRESS_UPS, 12, 1), row(PRESS_UPS, 14, 9)
    error = PRESS_UPS.error(PRESS_UPS.key(now), 8).at(12)
    chance = whole(100 * NormalDist().cdf(2 / (2**0.5 * error)))
    assert sure_words(PRESS_UPS, now, [before], WHO) == (
        f"{chance} in 100 chance that it is really better"
    )
    certain = sure_words(PRESS_UPS, row(PRESS_UPS, 50, 9), [before], WHO)
    assert certain == "99 in 100 chance that it is really better", "never certain"


def test_words_of_measures_runs_and_what_cannot_be_compared() -> None:
    height = judge_of(ready("height"))
    one = row(height, 1_300, 1)
    assert score_words(height, one, [], WHO) == ["saved as a measurement"]
    assert score_words(height, one._replace(estimate=True), [], WHO) == [
        "saved as a measurement", "an estimate",
    ]  # fmt: skip
    shuttles = judge_of(ready("shuttle-20m-even"))
    assert "1 shuttle, 20 m" in score_words(shuttles, row(shuttles, 1, 1), [], WHO)
    assert "7 shuttles, 140 m" in score_words(shuttles, row(shuttles, 7, 1), [], WHO)
    run = judge_of(ready("mile-run"))
    gave_up = row(run, 0, 1, reason="unfinished", parts={"distance_mm": 1_234_400})._replace(
        value=None
    )
    assert score_words(run, gave_up, [], WHO) == ["not finished, 1234 m run"]
    now = row(PRESS_UPS, 9, 5)
    nothing = change_words(height, one, [], height.change(one, []))
    assert nothing == "nothing to compare with"
    odd = row(PRESS_UPS, 9, 1, variant="one arm")
    assert "not compared: last time another form" in score_words(PRESS_UPS, now, [odd], WHO)
