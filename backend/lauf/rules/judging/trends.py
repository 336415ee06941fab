"""One child over many weeks: whether there is a trend, and how fast it goes."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import median
from typing import Final

#: A trend needs this many attempts, on this many days.
ATTEMPTS_NEEDED: Final = 5
DAYS_NEEDED: Final = 4
_Z90: Final = 1.6448536269514722


@dataclass(frozen=True, slots=True)
class Trend:
    """Theil–Sen slope in canonical units a week with its 90 % interval, and Kendall's tau-b."""

    slope: float
    low: float
    high: float
    tau: float

    @property
    def clear(self) -> bool:
        """Whether the interval leaves out zero."""
        return self.low > 0 or self.high < 0


def trend(points: Sequence[tuple[int, float]]) -> Trend | None:
    """Trend of (day number, value): the median of all slopes (Theil 1950; Sen 1968, J Am Stat
    Assoc 63:1379–1389, also for the interval, with its correction for ties) and Kendall's tau-b.
    None for fewer than five attempts or four days."""
    if len(points) < ATTEMPTS_NEEDED or len({day for day, _ in points}) < DAYS_NEEDED:
        return None
    slopes = []
    concordance = ties_day = ties_value = 0
    for index, (day, value) in enumerate(points):
        for other_day, other in points[:index]:
            if day != other_day:
                slopes.append((value - other) / (day - other_day))
            ties_day += day == other_day
            ties_value += value == other
            product = (day - other_day) * (value - other)
            concordance += (product > 0) - (product < 0)
    slopes.sort()
    pairs = len(points) * (len(points) - 1) // 2
    spread = math.sqrt((pairs - ties_day) * (pairs - ties_value))
    low, high = _interval(points, slopes)
    return Trend(median(slopes) * 7, low * 7, high * 7, concordance / spread if spread else 0.0)


def _interval(points: Sequence[tuple[int, float]], slopes: Sequence[float]) -> tuple[float, float]:
    """The slopes between which the true one lies (90 %): Sen's equation 2.6, where C = z·√Var(S)
    slopes are left out, half at each side."""
    n = len(points)
    variance = n * (n - 1) * (2 * n + 5)
    for side in (0, 1):
        for tied in Counter(point[side] for point in points).values():
            variance -= tied * (tied - 1) * (2 * tied + 5)
    left_out = _Z90 * math.sqrt(max(0, variance) / 18)
    last = len(slopes) - 1
    low = max(round((len(slopes) - left_out) / 2) - 1, 0)
    high = min(round((len(slopes) + left_out) / 2), last)
    return slopes[low], slopes[high]
