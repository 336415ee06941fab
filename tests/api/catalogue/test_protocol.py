"""A protocol as it is copied to another clock."""

from __future__ import annotations

import re

import pytest

from lauf.catalogue.protocol import Protocol
from lauf.catalogue.ready import READY, Ready


@pytest.mark.parametrize("seconds", [20, 45, 90])
@pytest.mark.parametrize(
    "ready",
    [one for one in READY if one.protocol["kind"] == "count" and one.protocol.get("seconds")],
    ids=lambda one: one.slug,
)
def test_a_test_against_another_clock_says_and_takes_what_is_of_that_clock(
    ready: Ready, seconds: int
) -> None:
    """Copied to 60 s a test kept "in 30 seconds", "after 30 s" and a most of 39: a true 40 was
    refused."""
    given = Protocol.model_validate(ready.protocol)
    before = given.seconds or 0
    made = given.in_seconds(seconds)
    said = " ".join(
        [*made.say, *made.counts, *made.does_not_count, made.ends, made.easier, made.harder]
    )
    assert before == seconds or not re.search(rf"\b{before} ?s(econds?)?\b", said), said
    assert made.seconds == seconds
    assert made.trial_seconds >= seconds
    # As many a second as before can be done, and no test's own maximum is out of reach.
    assert made.highest * before >= given.highest * seconds
    assert made.highest >= (made.cap or 0)
