"""The tests every school begins with, held to what is common practice with children."""

from __future__ import annotations

import csv
from pathlib import Path

import numpy as np
import pytest

import lauf.catalogue
from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.ready import CAUTIONS, READY, Ready
from lauf.judgement.judge import starting_error
from lauf.rules.planning.demands import EffortLevel
from lauf.rules.reading.quantities import unit_size

REFERENCE = Path(lauf.catalogue.__file__).parent / "reference"
BY_SLUG = {ready.slug: ready for ready in READY}
EACH = pytest.mark.parametrize("ready", READY, ids=list(BY_SLUG))


@EACH
def test_it_is_safe_to_begin_with(ready: Ready) -> None:
    """Common practice: a maximal effort is never asked of the unwell, and nothing is said twice."""
    protocol = ready.protocol
    cautions = protocol["cautions"]
    assert len(set(cautions)) == len(cautions)
    told = " ".join(cautions).lower()
    for words in ("warm up", "stop for pain", "clear space", "rest at least"):
        assert told.count(words) <= 1, words
    effort = protocol.get("effort", EffortLevel.HIGH)
    if effort == EffortLevel.MAXIMAL:
        assert CAUTIONS["optional"] in cautions
    if effort in (EffortLevel.HIGH, EffortLevel.MAXIMAL):
        assert CAUTIONS["warm"] in cautions and CAUTIONS["stop"] in cautions


@EACH
def test_its_error_is_believable(ready: Ready) -> None:
    """Common practice: two tries of one child differ by less than a third of what a good score is,
    and the younger the child, the more, as a share of it."""
    version = ProtocolVersion(**ready.protocol)
    unit = unit_size(version.unit)
    for rungs in ready.rungs:
        shares = []
        for age, good in ((5, rungs.young), (11, rungs.old)):
            error = starting_error(version, age)
            middle = sorted(good)[len(good) // 2] * unit
            if middle <= 0:
                return  # a reach past the toes has no zero to be a share of
            shares.append(error if version.error_share else error / middle)
        assert all(0 < share < 1 / 3 for share in shares), shares
        if version.errors_by_age:
            assert shares[0] >= shares[1], shares


def test_least_and_most_by_age_leave_room_for_real_children() -> None:
    """Published: height and weight between three standard scores below and above the median (CDC
    2000) are asked of nobody."""
    with (REFERENCE / "cdc2000-lms.csv").open() as file:
        for row in csv.DictReader(file):
            age, l, m, s = (float(row[name]) for name in ("age_years", "L", "M", "S"))  # noqa: E741
            bounds = BY_SLUG.get(row["measure"])
            if bounds is None or not 4 <= age <= 11:
                continue
            ages, least, most = zip(*bounds.protocol["bounds_by_age"], strict=True)
            low, high = (
                m * (1 + l * s * z) ** (1 / l) * unit_size(row["unit"]) for z in (-3.0, 3.0)
            )
            assert np.interp(age, ages, least) < low, (row["measure"], age)
            assert np.interp(age, ages, most) > high, (row["measure"], age)


def test_nobody_starts_what_a_body_is_too_young_for() -> None:
    """Common practice: a hang before a pull, a run of minutes not for infants."""
    ages = {slug: ready.protocol.get("from_age", 4) for slug, ready in BY_SLUG.items()}
    assert ages["pull-ups"] >= 8
    assert ages["mile-run"] >= 7
    assert min(ages[slug] for slug in ages if slug.startswith("shuttle-20m")) >= 7


def test_our_own_forms_of_the_tests() -> None:
    assert BY_SLUG["frog-jumps-30"].protocol["seconds"] == 30
    bounce = BY_SLUG["speed-bounce-30"].protocol
    assert bounce["seconds"] == 30 and "block" in " ".join(bounce["say"])
    assert BY_SLUG["mile-laps"].protocol["effort"] == EffortLevel.HIGH
    for ready in READY:
        if ready.protocol["kind"] == "hits":
            told = " ".join([*ready.protocol["say"], *ready.protocol["counts"]])
            assert "x" in told and "o" in told, "which letter is a hit"
