"""The same judgements on arrays: for whole schools at once.

Each function gives what its one-by-one counterpart gives (`ladders.judge_comparable`,
`norms.standing_among`, `change.compare`); a property test holds them together.
"""

from __future__ import annotations

from collections.abc import Sequence
from statistics import NormalDist
from typing import Final

import numpy as np
import numpy.typing as npt

from lauf.rules.judging.change import Verdict
from lauf.rules.judging.ladders import Rung
from lauf.rules.reading.quantities import Better, Measure

Ints = npt.NDArray[np.int64]
Floats = npt.NDArray[np.float64]
#: Verdicts by the number the arrays use.
VERDICTS: Final = tuple(Verdict)
_NUMBER: Final = {verdict: number for number, verdict in enumerate(VERDICTS)}
_NEVER: Final = np.iinfo(np.int64).max


def thresholds(ladders: Sequence[Sequence[Rung]], measure: Measure) -> Ints:
    """Rungs of several ladders as one array (ladder × rung): the least score that reaches each,
    turned so that higher is better, padded with what nobody reaches."""
    most = max((len(rungs) for rungs in ladders), default=0)
    table = np.full((len(ladders), most), _NEVER, dtype=np.int64)
    sign = measure.better.sign
    for row, rungs in enumerate(ladders):
        for column, rung in enumerate(rungs):
            table[row, column] = rung.threshold * sign + (measure.resolution if rung.beyond else 0)
    return table


def rungs_reached(values: Ints, ladder: Ints, table: Ints, better: Better) -> tuple[Ints, Ints]:
    """Index of the rung each value reaches (−1 for none) and the canonical amount to the next
    (−1 at the top), for values judged by `table[ladder]`. Rungs must be in order."""
    turned = values * better.sign
    reached = np.full(values.shape, -1, dtype=np.int64)
    to_next = np.full(values.shape, -1, dtype=np.int64)
    # Column by column: few rungs, many values, and no array of values × rungs.
    for column in range(table.shape[1]):
        marks = table[:, column][ladder]
        here = turned >= marks
        reached += here
        first = ~here & (to_next < 0) & (marks != _NEVER)
        np.subtract(marks, turned, out=to_next, where=first)
    return reached, to_next


def percentiles_of(
    values: Ints | Floats,
    cell: Ints,
    table: Floats,
    percentiles: Sequence[float],
    better: Better,
) -> Floats:
    """Percentile of each value among the scores `table[cell]` of ascending percentiles, linear in
    the normal score between neighbours; NaN outside the table (nothing is extrapolated).

    table   (cell × percentile), scores in canonical units
    """
    normal = NormalDist()
    z_marks = np.array([normal.inv_cdf(p / 100) for p in percentiles])
    marks = table * better.sign
    turned = values * float(better.sign)
    # Position among the marks by counting; equal marks count from both sides and are averaged.
    left = np.zeros(values.shape, dtype=np.int64)
    right = np.zeros(values.shape, dtype=np.int64)
    for column in range(marks.shape[1]):
        mark = marks[:, column][cell]
        left += turned > mark
        right += turned >= mark
    last = marks.shape[1] - 1
    inside = (right > 0) & (left <= last)
    low, high = np.clip(left - 1, 0, last), np.clip(left, 0, last)
    below, above = marks[cell, low], marks[cell, high]
    width = np.where(above > below, above - below, 1.0)
    between = z_marks[low] + (z_marks[high] - z_marks[low]) * (turned - below) / width
    on_mark = right > left
    exact = (z_marks[np.clip(left, 0, last)] + z_marks[np.clip(right - 1, 0, last)]) / 2
    z = np.where(on_mark, exact, between)
    return np.where(inside, 100 * _cdf(z), np.nan)


def _cdf(z: Floats) -> Floats:
    """Standard normal distribution function: Φ(z) = erfc(−z/√2)/2, with erfc by the rational
    Chebyshev form of Press et al., Numerical Recipes (error below 1.2e−7)."""
    x = np.abs(z) / np.sqrt(2)
    t = 1 / (1 + 0.5 * x)
    series = np.polyval(
        [0.17087277, -0.82215223, 1.48851587, -1.13520398, 0.27886807,
         -0.18628806, 0.09678418, 0.37409196, 1.00002368, -1.26551223], t
    )  # fmt: skip
    upper = t * np.exp(-x * x + series) / 2
    both: Floats = np.where(z > 0, 1 - upper, upper)
    return both


def verdicts(values: Ints, earlier: Ints, has_earlier: npt.NDArray[np.bool_], band: Floats,
             measure: Measure) -> npt.NDArray[np.int8]:  # fmt: skip
    """Verdict of each value beside an earlier one under the same key, as an index of `VERDICTS`.

    band   MDC90 of each value's key, canonical units
    """
    gain = (values - earlier) * measure.better.sign
    found = np.full(values.shape, _NUMBER[Verdict.STEADY], dtype=np.int8)
    changed = (gain != 0) & (np.abs(gain) >= band)
    found[changed & (gain > 0)] = _NUMBER[Verdict.BETTER]
    found[changed & (gain < 0)] = _NUMBER[Verdict.LOWER]
    if measure.top is not None:
        top = values >= measure.top
        found[top] = _NUMBER[Verdict.REACHED_THE_TOP]
        found[top & (earlier >= measure.top)] = _NUMBER[Verdict.AT_THE_TOP]
    found[~has_earlier] = _NUMBER[Verdict.FIRST]
    return found
