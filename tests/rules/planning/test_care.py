"""What a child may be kept from, and which tests ask for it."""

from __future__ import annotations

import pytest

from lauf.rules.planning.care import Care, asked_of

R, M, H, W, B = Care.RUNNING, Care.MAXIMAL, Care.HANGING, Care.HANDS, Care.MEASURING


@pytest.mark.parametrize(
    ("effort", "loads", "body", "asked"),
    [
        ("maximal", ["legs", "aerobic"], False, {R, M}),
        ("high", ["legs", "aerobic"], False, set()),
        ("maximal", ["legs"], False, {M}),  # a sprint over in seconds
        ("high", ["pull"], False, {H}),
        ("high", ["push", "core"], False, {W}),
        ("rest", [], True, {B}),
        ("low", ["flexibility"], False, set()),
        ("maximal", ["pull", "push", "aerobic"], True, {R, M, H, W, B}),
    ],
)
def test_what_a_protocol_says_of_itself_is_what_it_asks(
    effort: str, loads: list[str], body: bool, asked: set[Care]
) -> None:
    assert asked_of(effort, loads, body_measure=body) == asked
