"""Published and own norms: percentile tables, LMS tables, and a school's own records."""

from __future__ import annotations

import csv
import itertools
import math
from collections import defaultdict
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

import lauf
from lauf.rules.judging.change import (
    Change,
    Verdict,
)
from lauf.rules.judging.norms import (
    OWN_PERCENTILES,
    LmsRow,
    LmsTable,
    PercentileTable,
    Standing,
    change_of_standing,
    lms_score,
    lms_z,
    own_norm,
    quantile_interval,
    standing_among,
)
from lauf.rules.judging.summaries import summarise_class
from lauf.rules.reading.quantities import Better, Kind, Measure
from tests.support import references


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


DATA = Path(lauf.__file__).parent / "catalogue" / "reference"


def cdc(measure: str) -> LmsTable:
    rows: dict[str, list[LmsRow]] = defaultdict(list)
    with (DATA / "cdc2000-lms.csv").open() as file:
        for row in csv.DictReader(file):
            if row["measure"] == measure:
                cells = [float(row[name]) for name in ("age_years", "L", "M", "S")]
                rows[row["sex"]].append(LmsRow(*cells))
    return LmsTable({sex: tuple(found) for sex, found in rows.items()})


@pytest.mark.parametrize("measure", ["height", "weight", "bmi"])
@pytest.mark.parametrize("sex", ["male", "female"])
def test_growth_z_scores_against_rcpchgrowth(measure: str, sex: str) -> None:
    """CDC 2000 growth charts, as rcpchgrowth holds them. It interpolates between the months by a
    cubic, we by a line (rules of the job), and treats a BMI above the 95th centile in its own
    way, so values stay below it."""
    table = cdc(measure)
    worst = 0.0
    for age in np.arange(4.05, 12.0, 0.37):
        middle = table.at(float(age), sex)
        assert isinstance(middle, LmsRow)
        for factor in (0.86, 0.93, 1.0, 1.04, 1.08):
            value = middle.m * factor
            ours = table.standing(value, float(age), sex)
            theirs = references.rcpchgrowth.sds_for_measurement(
                reference="cdc", age=float(age), measurement_method=measure,
                observation_value=value, sex=sex,
            )  # fmt: skip
            if measure == "bmi" and theirs > 1.6:
                continue
            assert ours.z is not None
            worst = max(worst, abs(ours.z - theirs))
    assert worst < 0.01


def test_lms_at_the_reference_points() -> None:
    """Cole & Green 1992: the median has z = 0, and L = 0 is the logarithm."""
    assert lms_z(20, 0.5, 20, 0.1) == 0
    assert lms_z(22, 0, 20, 0.1) == pytest.approx(math.log(1.1) / 0.1)
    assert lms_z(22, 1e-7, 20, 0.1) == pytest.approx(lms_z(22, 0, 20, 0.1), abs=1e-5)


def test_no_norm_is_said_and_never_guessed() -> None:
    height = cdc("height")
    assert height.standing(120, 1.5, "male").why_not == "no norm for age 1.5"
    assert (
        height.standing(120, None, "male").why_not
        == "the norm is by age, and there is no birth date"
    )
    assert "by sex" in (height.standing(120, 7.0, "").why_not or "")
    survey = PercentileTable((50, 85), {("male", 9.0): (32, 41)})
    assert survey.standing(40, 4.2, "male").why_not == "no norm for age 4"


def test_the_1985_survey_gives_bands_only() -> None:
    """National School Population Fitness Survey 1985 (Reiff et al. 1986), values from memory:
    a nine-year-old boy's median of curl-ups is 32, the top 15 % begin at 41."""
    rows = {}
    with (DATA / "survey-1985.csv").open() as file:
        for row in csv.DictReader(file):
            if row["test"] == "curl-ups in 60 s":
                key = (row["sex"], float(row["age"]))
                rows[key] = (float(row["p50"]), float(row["p85"]))
    table = PercentileTable((50, 85), rows)
    for value, words in ((31, "up to the median"), (32, "between"), (41, "in the top 15 %")):
        standing = table.standing(value, 9.7, "male")
        assert standing.percentile is None
        assert standing.words.startswith(words)


@given(st.lists(st.floats(0, 100), min_size=5, max_size=5, unique=True), st.floats(0, 1))
def test_interpolation_against_scipy(scores: list[float], part: float) -> None:
    """Between neighbouring percentiles the normal score is linear: SciPy's norm and interp."""
    marks, percents = sorted(scores), (5, 25, 50, 75, 95)
    if min(b - a for a, b in itertools.pairwise(marks)) < 1e-6:
        return
    value = marks[0] + (marks[-1] - marks[0]) * part
    z = np.interp(value, marks, references.stats.norm.ppf(np.array(percents) / 100))
    found = standing_among(value, percents, marks, Better.UP)
    assert found.percentile == pytest.approx(100 * references.stats.norm.cdf(z), abs=1e-6)


@given(
    st.lists(st.integers(0, 60), min_size=3, max_size=7),
    st.lists(st.integers(-5, 70), min_size=2, max_size=10),
    st.sampled_from(Better),
)
def test_a_better_score_never_stands_lower(
    scores: list[int], values: list[int], better: Better
) -> None:
    marks = sorted(scores, reverse=better is Better.DOWN)
    percents = tuple(np.linspace(5, 95, len(marks)))

    def place(value: int) -> float:
        found = standing_among(value, percents, marks, better)
        if found.percentile is not None:
            return found.percentile
        return 0.0 if found.words.startswith("below") else 100.0

    places = [place(value) for value in sorted(values, reverse=better is Better.DOWN)]
    assert places == sorted(places)


def test_points_are_interpolated_in_age_and_whole_years_are_not() -> None:
    rows = {("", 8.0): (10.0, 20.0, 30.0), ("", 9.0): (20.0, 30.0, 40.0)}
    points = PercentileTable((10, 50, 90), rows, at_points=True)
    years = PercentileTable((10, 50, 90), rows)
    assert points.standing(25, 8.5, "female").percentile == pytest.approx(50)
    assert years.standing(20, 8.9, "female").percentile == pytest.approx(50)
    assert points.standing(25, 9.2, "male").why_not == "no norm for age 9.2"


@given(st.floats(-1.2, 1.2), st.floats(8, 9), st.sampled_from([0.8, 0.0, -1.4]))
def test_the_score_of_a_standing_is_the_standing_the_other_way_round(
    z: float, age: float, skew: float
) -> None:
    rows = {("", 8.0): (10.0, 20.0, 30.0), ("", 9.0): (20.0, 30.0, 40.0)}
    table = PercentileTable((10, 50, 90), rows, at_points=True)
    score = table.score_at(z, age, "")
    assert score is not None
    assert table.standing(score, age, "").z == pytest.approx(z, abs=1e-9)
    curve = LmsTable({"": (LmsRow(8.0, skew, 100.0, 0.04), LmsRow(9.0, skew, 110.0, 0.05))})
    height = curve.score_at(z, age, "")
    assert height is not None
    assert curve.standing(height, age, "").z == pytest.approx(z, abs=1e-9)


@pytest.mark.parametrize("measure", ["height", "weight", "bmi"])
def test_every_centile_of_the_published_charts_comes_out_of_its_curve(measure: str) -> None:
    """CDC 2000 as shipped: a fifth of its rows, at five centiles."""
    for sex, rows in cdc(measure).rows.items():
        for row in rows[::5]:
            for z in (-1.645, -0.674, 0.0, 0.674, 1.645):
                score = lms_score(z, row.l, row.m, row.s)
                assert score is not None, (sex, row)
                assert lms_z(score, row.l, row.m, row.s) == pytest.approx(z, abs=1e-9)
    assert lms_score(3.0, -2.0, 16.0, 0.2) is None


def test_growing_up_is_not_getting_fitter() -> None:
    rows = {("", 8.0): (10.0, 20.0, 30.0), ("", 9.0): (20.0, 30.0, 40.0)}
    table = PercentileTable((10, 50, 90), rows)
    before, after = table.standing(22, 8.2, ""), table.standing(26, 9.2, "")
    assert (change_of_standing(before, after) or "").startswith("for their age down")


def test_own_norm_and_class_summary_on_open_data() -> None:
    """Linnerud's exercise data (20 men; sit-ups, chin-ups, jumps), shipped with scikit-learn,
    against pandas quantiles and SciPy's t-interval."""
    data = references.datasets.load_linnerud()
    frame = references.pandas.DataFrame(data.data, columns=data.feature_names).astype(int)
    for name in frame.columns:
        values = [int(value) for value in frame[name]]
        norm = own_norm([[value] for value in values], Better.UP)
        expected = frame[name].quantile([p / 100 for p in OWN_PERCENTILES]).tolist()
        assert not isinstance(norm, str)
        assert norm == pytest.approx(expected)
        changes = [Change(Verdict.BETTER, value - 50) for value in values]
        summary = summarise_class(values, changes, Measure(Kind.COUNT))
        assert summary.median == frame[name].median()
        assert summary.lower_quartile == frame[name].quantile(0.25)
        assert summary.upper_quartile == frame[name].quantile(0.75)
        gains = frame[name] - 50
        low, high = references.stats.t.interval(0.90, 19, loc=gains.mean(), scale=gains.sem())
        assert summary.change_interval == pytest.approx((low, high), abs=5e-3)
        # Ranked by standing, children come in the order pandas ranks their scores.
        places = [standing_among(value, OWN_PERCENTILES, norm, Better.UP) for value in values]
        inside = [i for i, place in enumerate(places) if place.percentile is not None]
        by_place = sorted(inside, key=lambda i: places[i].percentile or 0)
        ranks = frame[name].rank()
        assert [ranks[i] for i in by_place] == sorted(ranks[i] for i in inside)
        assert len(inside) >= 16
    assert own_norm([[n] for n in range(19)], Better.UP) == "19 children so far, 20 needed"


def test_one_value_a_child() -> None:
    """A child tested many times counts once, by its median."""
    many = [[10, 10, 40]] + [[n] for n in range(20, 40)]
    once = [[10]] + [[n] for n in range(20, 40)]
    assert own_norm(many, Better.UP) == own_norm(once, Better.UP)


@pytest.mark.parametrize(
    ("before", "after", "words"),
    [
        (Standing(40, -0.25), Standing(62, 0.31), "for their age up, P40 to P62"),
        (Standing(62, 0.31), Standing(40, -0.25), "for their age down, P62 to P40"),
        (Standing(62, 0.31), Standing(40, 0.2), "for their age down, P62 to P40"),
        (Standing(50.1, 0.0), Standing(50.3, 0.01), "for their age unchanged, at P50"),
        (Standing(), Standing(40, -0.25), None),
        (Standing(40, -0.25), Standing(), None),
        (Standing(40, -0.25), Standing(40), None),
        (Standing(40), Standing(40, -0.25), None),
    ],
)
def test_standing_moves_for_the_age(before: Standing, after: Standing, words: str | None) -> None:
    assert change_of_standing(before, after) == words


@pytest.mark.parametrize(
    ("value", "percentiles", "scores", "words"),
    [
        (9, (50, 85), (10, 20), "up to the median"),
        (10, (50, 85), (10, 20), "between the median and the top 15 %"),
        (19, (50, 85), (10, 20), "between the median and the top 15 %"),
        (20, (50, 85), (10, 20), "in the top 15 %"),
        (10, (50,), (10,), "at the median or better"),
        (9, (85,), (10,), "up to the top 15 %"),
    ],
)
def test_with_one_or_two_percentiles_only_bands_are_said(
    value: float, percentiles: tuple[float, ...], scores: tuple[float, ...], words: str
) -> None:
    found = standing_among(value, percentiles, scores, Better.UP)
    assert (found.percentile, found.words) == (None, words)
