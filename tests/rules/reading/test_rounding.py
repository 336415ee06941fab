"""Halves go away from zero, and nothing that is shown is rounded in another way."""

from __future__ import annotations

import ast
import re
from decimal import ROUND_HALF_UP, Decimal
from fractions import Fraction
from pathlib import Path
from typing import Final

import pytest
from hypothesis import given
from hypothesis import strategies as st

import lauf
from lauf.rules.contests.games import Entrant, cells
from lauf.rules.judging.change import Change, Verdict
from lauf.rules.judging.summaries import amount_words, signed_words, summarise_class
from lauf.rules.reading.quantities import Better, Kind, Measure
from lauf.rules.reading.rounding import fixed, percent, places, whole

LAUF: Final = Path(lauf.__file__).parent
#: Modules whose numbers are for machines: pictures, clocks, sensors, whole numbers in disguise.
MACHINES: Final = {
    "rules/reading/rounding.py", "rules/body/sensors.py", "rules/judging/trends.py",
    "rules/reading/shuttle.py",
    "judgement/picture.py", "exchange/paper/lane.py", "exchange/paper/pages.py",
    "web/hashing.py", "web/doors/session.py", "web/checks.py", "web/watching.py",
}  # fmt: skip
#: ".1f", ".0%", ".3g".
_FORMAT: Final = re.compile(r"\.\d+[fgeFGE%]|^%$")


def roundings(source: str) -> list[str]:
    """Where a module rounds a number by itself."""
    found = []
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name):
            if node.func.id == "round":
                found.append(f"line {node.lineno}: round()")
        elif isinstance(node, ast.FormattedValue) and isinstance(node.format_spec, ast.JoinedStr):
            spec = "".join(
                str(part.value)
                for part in node.format_spec.values
                if isinstance(part, ast.Constant)
            )
            if _FORMAT.search(spec):
                found.append(f"line {node.lineno}: :{spec}")
    return found


def test_nothing_that_is_shown_is_rounded_elsewhere() -> None:
    assert roundings("f'{a:.1f} {round(b)} {c:%}'") != []
    found = {
        name: lines
        for path in LAUF.rglob("*.py")
        if (name := str(path.relative_to(LAUF))) not in MACHINES
        and not name.startswith("demo/")
        and "migrations" not in name
        and (lines := roundings(path.read_text()))
    }
    assert found == {}
    assert all((LAUF / name).is_file() for name in MACHINES), "the list names what is there"


@given(st.decimals(-10_000, 10_000, places=3), st.integers(0, 2))
def test_halves_go_away_from_zero(number: Decimal, digits: int) -> None:
    """Against Python's own decimal arithmetic."""
    expected = number.quantize(Decimal(1).scaleb(-digits), ROUND_HALF_UP)
    for form in (Fraction(number), float(number)):
        assert Decimal(fixed(form, digits)) == expected
        assert Decimal(str(places(form, digits))) == expected
        assert whole(form) == number.quantize(Decimal(1), ROUND_HALF_UP)


def test_shares_and_quartiles_and_arrows_by_chance_round_as_a_person_does() -> None:
    assert percent(15 / 24) == "63%"
    changes = [Change(Verdict.STEADY, 0)] * 25
    measure = Measure(Kind.COUNT, Better.UP, highest=60)
    assert summarise_class([20] * 25, changes, measure).chance_shown == 3
    values = [10, 11, 12, 13, 14, 16]  # median 12.5, as linear interpolation has it
    entrants = [Entrant((0, ""), True, 0, value) for value in values]
    (cell,) = cells(entrants, 1)
    assert cell.quartiles is not None
    assert cell.quartiles[1] == 13


TIME: Final = Measure(Kind.TIME, Better.DOWN, resolution=1000, unit="s", highest=600_000)


@pytest.mark.parametrize(
    ("amount", "words"),
    [(260.0, "0.3 s"), (12_400.0, "12 s"), (40.0, "0.04 s"), (-1500.0, "2 s")],
)
def test_a_part_of_a_step_is_not_said_as_a_whole_one(amount: float, words: str) -> None:
    assert amount_words(amount, TIME) == words


@given(st.lists(st.floats(-9000, 9000).filter(lambda a: a == 0 or abs(a) > 1e-3), min_size=3))
def test_what_is_more_than_nothing_never_reads_as_nought(amounts: list[float]) -> None:
    for amount, words in zip(amounts, signed_words(amounts, TIME), strict=True):
        nought = not re.search(r"[1-9]", words)
        assert nought == (amount == 0), (amount, words)
        assert words.startswith({True: "+", False: "−"}[amount > 0]) or nought
        if amount:
            assert re.search(r"[1-9]", amount_words(amount, TIME))
