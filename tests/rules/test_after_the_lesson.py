"""What is made of scores afterwards: reliability, fit, the overall statement, awards, the sentences
read aloud and the working in one line; against pingouin, SciPy, open data and a simulation."""

from __future__ import annotations

import re
from fractions import Fraction
from typing import Any

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from lauf.rules.aloud import aloud
from lauf.rules.awards import IMPROVERS, Award, Fact, awards
from lauf.rules.change import PairSum, Verdict, compare, smallest_change, typical_error
from lauf.rules.fit import Form, what_to_try
from lauf.rules.norms import quantile_interval
from lauf.rules.quantities import Better, Kind, Measure
from lauf.rules.reliability import agreement, reliability
from lauf.rules.schemes import SchemeError, Standing, overall, read_scheme
from lauf.rules.summaries import CHANCE
from lauf.rules.working import change_working, target_working
from tests.support import references

COUNT = Measure(Kind.COUNT, highest=500)
SPRINT = Measure(Kind.TIME, Better.DOWN, "s", 100, 60_000)
JUMP = Measure(Kind.LENGTH, unit="cm", resolution=10, highest=4_000)


# Reliability


@pytest.mark.filterwarnings("ignore::pandas.errors.Pandas4Warning")
def test_reliability_against_pingouin_on_open_data() -> None:
    """Linnerud's exercise data (20 men), shipped with scikit-learn: chin-ups and sit-ups taken as
    two sittings each of a made-up second day; ICC(3,1) as pingouin has it."""
    frame = references.pandas.DataFrame(
        references.datasets.load_linnerud().data, columns=["chins", "situps", "jumps"]
    ).astype(int)
    shift = np.random.default_rng(4).normal(1, 3, len(frame))
    for name in frame.columns:
        again = (frame[name] + shift).round().clip(lower=1).astype(int)
        pairs = [(int(a), int(b)) for a, b in zip(frame[name], again, strict=True)]
        long = references.pandas.DataFrame(
            {
                "child": [*range(len(pairs))] * 2,
                "day": ["one"] * len(pairs) + ["two"] * len(pairs),
                "score": [a for a, _ in pairs] + [b for _, b in pairs],
            }
        )
        table = references.pingouin.intraclass_corr(long, "child", "day", "score").set_index("Type")
        expected = next(
            float(table.loc[kind, "ICC"]) for kind in ("ICC3", "ICC(C,1)") if kind in table.index
        )
        found = reliability(pairs)
        assert found is not None and found.icc == pytest.approx(expected, abs=1e-9)
        differences = [b - a for a, b in pairs]
        assert found.typical_error == pytest.approx(np.std(differences, ddof=1) / np.sqrt(2))
        assert found.learning == pytest.approx(np.mean(differences))


@pytest.mark.filterwarnings("ignore::pandas.errors.Pandas4Warning")
def test_agreement_of_two_counters_against_pingouin() -> None:
    """ICC(A,1) as pingouin has it, on Linnerud's sit-ups counted by a second, slower counter."""
    counts = references.datasets.load_linnerud().data[:, 1].astype(int)
    shift = np.random.default_rng(9).integers(-4, 2, len(counts))
    pairs = [(int(a), int(a + b)) for a, b in zip(counts, shift, strict=True)]
    long = references.pandas.DataFrame(
        {
            "child": [*range(len(pairs))] * 2,
            "by": ["one"] * len(pairs) + ["two"] * len(pairs),
            "count": [a for a, _ in pairs] + [b for _, b in pairs],
        }
    )
    table = references.pingouin.intraclass_corr(long, "child", "by", "count").set_index("Type")
    expected = next(
        float(table.loc[kind, "ICC"]) for kind in ("ICC2", "ICC(A,1)") if kind in table.index
    )
    found = agreement(pairs)
    assert found is not None and found.icc == pytest.approx(expected, abs=1e-9)
    assert found.shift == pytest.approx(np.mean(shift))
    assert found.spread == pytest.approx(1.96 * np.std(shift, ddof=1))
    assert found.same == np.mean(shift == 0)
    assert agreement(pairs[:9]) is None


def test_too_few_pairs_or_no_spread_say_nothing() -> None:
    assert reliability([(n, n + 1) for n in range(9)]) is None
    same = reliability([(12, 12)] * 12)
    assert same is not None and same.icc is None and same.typical_error == 0


# Own norms


@pytest.mark.parametrize(("n", "percentile"), [(20, 50), (20, 25), (40, 10), (120, 95), (61, 75)])
def test_the_interval_of_a_percentile_holds_it_as_often_as_it_says(n: int, percentile: int) -> None:
    """Against SciPy's binomial law for the ranks it chose, and with none narrower."""
    values = list(range(1, n + 1))
    found = quantile_interval(values, percentile, Better.UP)
    assert found is not None
    low, high = (int(end) for end in found)
    share = percentile / 100

    def covered(one: int, other: int) -> float:
        return float(
            references.stats.binom.cdf(other - 1, n, share)
            - references.stats.binom.cdf(one - 1, n, share)
        )

    assert covered(low, high) >= 0.9 - 1e-12
    narrower = [covered(one, one + high - low - 1) for one in range(1, n - (high - low - 1) + 1)]
    assert max(narrower) < 0.9
    down = quantile_interval([-value for value in values], percentile, Better.DOWN)
    assert down == (-high, -low)
    assert quantile_interval(values[:19], 50, Better.UP) is None


@pytest.mark.parametrize(("n", "percentile"), [(20, 10), (21, 90), (20, 90), (50, 5), (55, 95)])
def test_an_outer_percentile_has_its_interval_from_where_it_is_shown(
    n: int, percentile: int
) -> None:
    """Where no two ranks do, by SciPy's standard error after Maritz and Jarrett (mjci)."""
    rng = np.random.default_rng(7)
    for _ in range(20):
        values = np.round(rng.normal(120, 15, n), 1)
        found = quantile_interval(list(values), percentile, Better.UP)
        assert found is not None
        (error,) = references.stats.mstats.mjci(values, [percentile / 100])
        middle = np.percentile(values, percentile)
        low = max(values.min(), middle - 1.6448536 * error)
        high = min(values.max(), middle + 1.6448536 * error)
        by_ranks = references.stats.binom.cdf(n - 1, n, percentile / 100)
        by_ranks -= references.stats.binom.cdf(0, n, percentile / 100)
        if by_ranks < 0.9:
            assert found == pytest.approx((low, high), abs=1e-6)
        assert found[0] < middle < found[1]


# Chance


def test_as_many_arrows_come_by_chance_as_are_said_to() -> None:
    """Twenty thousand children who have not changed, each tested twice with its own noise."""
    chance = np.random.default_rng(11)
    error = 20.0
    mdc = smallest_change(error)
    fine = Measure(Kind.LENGTH, unit="cm", resolution=1, highest=40_000)
    true = 1_200
    one, two = (np.rint(true + chance.normal(0, error, 20_000)) for _ in range(2))
    arrows = sum(
        compare(int(b), int(a), fine, mdc).verdict in (Verdict.BETTER, Verdict.LOWER)
        for a, b in zip(one, two, strict=True)
    )
    assert arrows / len(one) == pytest.approx(CHANCE, abs=0.01)


# Fit


@pytest.mark.parametrize(
    ("top", "floor", "forms", "others", "words"),
    [
        (0.1, 0.1, [], [], ""),
        (None, None, [], ["B"], ""),
        (0.15, 0.0, [Form("knees", 12), Form("full", 3)], ["B"], "try the form “full”"),
        (0.15, 0.0, [Form("knees", 3), Form("full", 12)], ["B"], "try B"),
        (0.5, None, [], ["B", "C"], "try B"),
        (0.5, None, [], [], "try it with a higher end, or a longer clock"),
        (0.0, 0.2, [Form("knees", 2), Form("full", 9)], [], "try the form “knees”"),
        (None, 0.2, [Form("knees", 9), Form("full", 2)], [], "try an easier movement first"),
        (None, 0.2, [], ["B"], "try an easier movement first"),
    ],
)
def test_what_to_try_where_a_test_does_not_fit(
    top: float | None, floor: float | None, forms: list[Form], others: list[str], words: str
) -> None:
    assert what_to_try(top, floor, forms, others) == words


# The overall statement

SCHEME = {
    "below": 0, "points": [1, 2, 4], "words": [["0.5", "on the way"], ["2.5", "strong"]],
    "fewest": 2,
}  # fmt: skip


@pytest.mark.parametrize(
    ("rungs", "words", "working"),
    [
        ([0], "", []),  # too few
        ([], "", []),
        ([0, 1], "on the way", "(1 + 2) ÷ 2 = 1.5 points a test"),
        ([2, 1], "strong", "(4 + 2) ÷ 2 = 3 points a test"),
        ([2, 5], "strong", "(4 + 4) ÷ 2 = 4 points a test"),  # more rungs count as the last
        ([None, None, 0], "", "(0 + 0 + 1) ÷ 3 = 0.33 points a test"),
    ],
)
def test_an_overall_statement_shows_its_working(
    rungs: list[int | None], words: str, working: str | list[str]
) -> None:
    scheme = read_scheme(SCHEME)
    assert scheme is not None
    found = overall(scheme, [Standing("ABCD"[n], rung, "") for n, rung in enumerate(rungs)])
    assert found.words == words and bool(found.why_not) == (not words)
    if working:
        assert working in found.working
    else:
        assert found.working == () and found.mean is None


@given(st.lists(st.none() | st.integers(0, 4), min_size=2, max_size=9), st.data())
def test_a_test_left_out_never_counts_as_nought(rungs: list[int | None], data: Any) -> None:
    """The mean is of the tests that are there, and a rung more never lowers it."""
    scheme = read_scheme(SCHEME)
    assert scheme is not None
    standings = [Standing(str(n), rung, "r") for n, rung in enumerate(rungs)]
    mean = overall(scheme, standings).mean
    assert mean is not None
    given = [0 if rung is None else [1, 2, 4][min(rung, 2)] for rung in rungs]
    assert mean == Fraction(sum(given), len(given))
    place = data.draw(st.integers(0, len(rungs) - 1))
    rung = rungs[place]
    higher = list(standings)
    higher[place] = Standing(str(place), 0 if rung is None else rung + 1, "r")
    assert (overall(scheme, higher).mean or 0) >= mean


@pytest.mark.parametrize(
    "wrong",
    [
        {"points": []},
        {"points": [2, 1]},
        {"below": 3},
        {"points": [1, 101]},
        {"words": []},
        {"words": [["2", "a"], ["1", "b"]]},
        {"words": [["1", " "]]},
        {"fewest": 0},
    ],
)
def test_a_scheme_that_cannot_be_used_is_refused(wrong: dict[str, Any]) -> None:
    with pytest.raises(SchemeError):
        read_scheme({**SCHEME, **wrong})
    assert read_scheme({}) is None


# Awards


def fact(test: str = "A", verdict: Verdict = Verdict.STEADY, **more: Any) -> Fact:
    known: dict[str, Any] = {
        "shown": "12", "scores": 1, "best": False, "gain_in_te": None, "new_rung": "",
    }  # fmt: skip
    return Fact(test=test, verdict=verdict, **{**known, **more})


@pytest.mark.parametrize(
    ("facts", "tests", "given"),
    [
        ([], 2, []),
        ([fact(verdict=Verdict.BETTER, best=True)], 2, [Award.NEW_BEST]),
        ([fact(best=True)], 2, []),  # a best within a good day is none
        ([fact(new_rung="Far line")], 2, [Award.RUNG]),
        ([fact(), fact("B")], 2, [Award.ALL_TESTS]),
        ([fact()], 1, []),  # one test is no "all"
        ([fact(scores=3)], 2, [Award.KEPT_TRYING]),
        ([fact(scores=3, verdict=Verdict.BETTER)], 2, []),
    ],
)
def test_what_a_certificate_is_proposed_for(
    facts: list[Fact], tests: int, given: list[Award]
) -> None:
    found = awards({"child": facts}, tests).get("child", [])
    assert [one.award for one in found] == given


@given(st.lists(st.floats(0, 9, allow_nan=False), min_size=1, max_size=12))
def test_the_improvers_are_the_largest_changes_beyond_noise_and_nobody_level_is_left_out(
    gains: list[float],
) -> None:
    facts = {
        n: [fact(verdict=Verdict.BETTER if gain else Verdict.STEADY, gain_in_te=gain)]
        for n, gain in enumerate(gains)
    }
    found = awards(facts, 5)
    chosen = {n for n, given in found.items() if any(g.award is Award.IMPROVER for g in given)}
    real = sorted((gain for gain in gains if gain > 0), reverse=True)
    least = real[min(IMPROVERS, len(real)) - 1] if real else 0
    assert chosen == {n for n, gain in enumerate(gains) if gain > 0 and gain >= least}


# Words


@given(
    st.integers(0, 34), st.integers(0, 34), st.integers(0, 34), st.integers(0, 34),
    st.lists(st.integers(0, 34), max_size=4),
)  # fmt: skip
def test_what_is_read_aloud_names_nobody_nothing_lower_and_counts_rightly(
    children: int, took: int, better: int, bests: int, rungs: list[int]
) -> None:
    assume(took <= children and max(better, bests, *rungs, 0) <= took)
    named = [(f"rung {n}", count) for n, count in enumerate(sorted(rungs, reverse=True))]
    said = aloud(
        "Plank", took_part=took, children=children, better=better, bests=bests,
        together="", rungs=named,
    )  # fmt: skip
    assert bool(said) == (took > 0)
    for sentence in said:
        assert sentence[0].isupper() or sentence[0].isdigit()
        assert sentence.endswith(".") and "lower" not in sentence and "None of us" not in sentence
        assert not re.search(r"\bOne of us (have|were)\b|\b(Two|All) of us (has|was)\b", sentence)
    for _, count in named:
        if 2 * count >= took > 0:
            break
    else:
        assert not any("reached" in sentence for sentence in said)


@given(st.integers(0, 4_000), st.integers(0, 4_000), st.sampled_from([COUNT, JUMP, SPRINT]))
def test_the_arithmetic_of_a_change_adds_up_and_agrees_with_the_verdict(
    now: int, then: int, measure: Measure
) -> None:
    step = measure.resolution
    now, then = now // step * step, then // step * step
    error = typical_error(PairSum(), 3.0 * step, measure, share=False)
    change = compare(now, then, measure, smallest_change(error.at(then)))
    line = change_working(now, then, change, error, measure)
    first, second, difference = (
        Fraction(part.replace("−", "-"))
        for part in re.match(r"(\S+) − (\S+) = (\S+);", line).groups()  # type: ignore[union-attr]
    )
    assert first - second == difference
    steady = change.verdict is Verdict.STEADY
    assert ("it is steady" in line) == steady and "−0;" not in line


def test_the_working_of_a_change_by_hand() -> None:
    """Worked on paper: 18 against 12 with a typical error of 2.1 reps."""
    error = typical_error(PairSum(), 2.1, COUNT, share=False)
    change = compare(18, 12, COUNT, smallest_change(error.at(12)))
    assert change_working(18, 12, change, error, COUNT) == (
        "18 − 12 = 6; day-to-day variation 1.645 × √2 × 2.1 = 4.89; 6 is as much or more, so it "
        "is a change"
    )
    assert target_working(18, 20, 4.9, COUNT) == (
        "own best 18 + 3 = 21; the next rung begins at 20; the nearer of the two"
    )
