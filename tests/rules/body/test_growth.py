"""Height and weight. Private, never ranked, no labels."""

from __future__ import annotations

from datetime import date

import pytest

from lauf.rules.body import growth


def test_growth() -> None:
    begin = (date(2026, 1, 10), 1_280)
    assert growth.growth_a_year(begin, (date(2026, 3, 1), 1_290)) is None
    grown = growth.growth_a_year(begin, (date(2026, 7, 11), 1_310))
    assert float(grown or 0) == pytest.approx(30 * 365.25 / 182)
    assert float(growth.body_mass_index(31_500, 1_330)) == pytest.approx(31.5 / 1.33**2)
