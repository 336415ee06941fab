"""Whatever was scored in any of the ready tests: what is said of it is true, and is English."""

from __future__ import annotations

import re
import uuid
from datetime import date, timedelta
from fractions import Fraction
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.models import Test as Known
from lauf.catalogue.queries import benchmark_key
from lauf.catalogue.ready import READY, RUNG_NAMES, Ready
from lauf.judgement.judge import Judge
from lauf.judgement.subject import Subject
from lauf.judgement.words import score_words, sure_words
from lauf.people.models import School
from lauf.records.queries import Row
from lauf.rules.judging.change import Verdict
from lauf.rules.judging.ladders import Benchmark, Rung
from lauf.rules.reading.quantities import to_step, unit_size

DAY = date(2026, 9, 7)
#: A child of eight.
WHO = Subject("female", date(2018, 2, 3))
#: Words a reader would stumble over.
_ODD = re.compile(
    r"[−+]0(?![.\d:])"  # nothing gained or lost with a sign
    r"|(?<![\d.:])1 (?:reps|hits|shuttles|laps|stages|points|seconds|tries|pairs|sides|beats)\b"
    r"|(?<![\d.:,])[02-9]\d* (?:rep|hit|shuttle|lap|stage|point|second|side|beat)\b"
    r"|None|nan|inf|\{|\}|  "
)


def judge_of(ready: Ready, imperial: bool = False) -> Judge:
    """The judge of a ready test with its starting ladders for the oldest, nothing kept anywhere."""
    test = Known(slug=ready.slug, name=ready.name, private=ready.private,
                school=School(name="S", imperial=imperial))  # fmt: skip
    version = ProtocolVersion(test=test, **ready.protocol)
    unit = unit_size(version.unit)
    ladders = []
    for given_rungs in ready.rungs:
        variant = given_rungs.variant or (version.variants[0]["code"] if version.variants else "")
        rungs = tuple(
            Rung(name, to_step(Fraction(str(edge)) * unit, version.resolution or 1))
            for name, edge in zip(RUNG_NAMES, given_rungs.old, strict=True)
        )
        ladders.append(Benchmark(rungs, benchmark_key(version, variant)))
    return Judge(version, ladders, {})


def row(judge: Judge, value: int, day: int, **more: Any) -> Row:
    protocol = judge.protocol
    given_row = {
        "id": uuid.uuid4(), "pupil_id": uuid.UUID(int=1), "activity_id": uuid.uuid4(),
        "test_id": uuid.UUID(int=2), "on": DAY + timedelta(days=day), "typed": str(value),
        "value": value, "reason": None, "estimate": False,
        "variant": next(iter(judge.variants), ""), "wave": None, "succeeds_id": None,
        "seconds": protocol.seconds, "try_number": 1, "meaning": protocol.meaning,
        "how": protocol.merge, "better": protocol.better, "step": protocol.resolution,
        "parts": {}, "conditions": dict(protocol.conditions), **more,
    }  # fmt: skip
    return Row(**given_row)


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


@pytest.mark.parametrize("ready", READY, ids=[ready.slug for ready in READY])
def test_scores_under_different_keys_are_not_told_apart(ready: Ready) -> None:
    """Another clock, meaning or variant: neither better nor lower, and never a best beaten."""
    judge = judge_of(ready)
    value = (judge.measure.lowest + judge.measure.ceiling) // 2
    now = row(judge, value, 20)
    for other in ({"seconds": 7}, {"meaning": 9}, {"variant": "another"}):
        before = row(judge, judge.measure.lowest, 5, **other)
        said = " ".join(score_words(judge, now, [before], WHO))
        assert not re.search(r"\bbetter, |\blower, |\bsteady\b", said), (other, said)
