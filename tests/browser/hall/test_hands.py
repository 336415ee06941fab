"""Hands that do not wait for the screen: on every way nobody gets what another child did, and
nothing typed is lost without being said. `./lauf bench` has them do it 5,000 times."""

from __future__ import annotations

from typing import Any

import pytest

from tests.support import hands_ways as ways
from tests.support.hands import Hands
from tests.support.served import Served

#: How many of the entries the server refuses, beside those that are slips.
REFUSED = 0.04


@pytest.mark.parametrize("way", ways.TYPED)
def test_what_is_typed_on_goes_to_whom_it_was_meant_for(visit: Any, lauf: Served, way: str) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    one.be()
    hands = Hands(one.page, seed=len(way))
    ways.type_a_lesson(one, lauf, hands, way, refused=REFUSED)
    assert hands.tally.wrong == [], " ".join(hands.log)
    assert hands.tally.typed > 20
    assert hands.tally.asked > 0, "nothing was asked: the model shows nothing"


@pytest.mark.parametrize("way", ways.TAPPED)
def test_what_is_tapped_on_goes_to_whom_it_was_meant_for(
    visit: Any, lauf: Served, way: str
) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    one.be()
    hands = Hands(one.page, seed=len(way))
    ways.tap_a_lesson(one, lauf, hands, way, refused=REFUSED)
    assert hands.tally.wrong == []
    assert hands.tally.taps > 20
