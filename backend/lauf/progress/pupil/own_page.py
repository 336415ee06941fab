"""A child's own page: its lanes and next aims, and nobody else's."""

from __future__ import annotations

from datetime import date

from typing_extensions import TypedDict

from lauf.judgement.picture import Lane
from lauf.people.models import Pupil, Staff
from lauf.progress.histories import histories_of
from lauf.progress.pupil.lanes import lanes_of


class OwnLane(TypedDict):
    """A test on a child's own page: the lane, the latest score, the best and the next aim."""

    test: str
    variant: str
    lane: Lane
    shown: str
    best: str | None
    target: str | None
    rung_name: str


class OwnPage(TypedDict):
    """What a child sees: the given name, own lanes and next aims, and nobody else's."""

    name: str
    lanes: list[OwnLane]


def own_page(pupil: Pupil, staff: Staff, today: date) -> OwnPage:
    """What a child sees of itself: the given name, own lanes and next aims, nothing else and nobody
    else. Ten queries."""
    histories = histories_of(staff, [pupil], today)
    lanes: list[OwnLane] = []
    for test_id, protocol in histories.protocols.items():
        found = lanes_of(pupil, protocol, histories)
        if histories.latest(pupil, test_id) is None or not found:
            continue
        newest = found[0]
        lanes.append(
            {
                "test": protocol.test.name,
                "variant": newest["variant"],
                "lane": newest["lane"],
                "shown": newest["shown"],
                "best": newest["best"],
                "target": newest["target"],
                "rung_name": newest["rung_name"],
            }
        )
    return {"name": pupil.given_name, "lanes": lanes}
