"""What a child may be kept from, and which tests ask for it.

A school writes down what a family, a nurse or a doctor has said; Lauf only keeps to it and shows
it. What a test asks for follows from what its protocol says of itself: its effort and the parts of
the body it loads.
"""

from __future__ import annotations

from collections.abc import Collection
from enum import StrEnum
from typing import Final

from lauf.messages import say
from lauf.rules.planning.demands import EffortLevel, Load


class Care(StrEnum):
    """What a child is not to do."""

    MEASURING = "measuring"
    RUNNING = "running"
    MAXIMAL = "maximal"
    HANGING = "hanging"
    HANDS = "hands"


#: In the words of a note: "is not to …".
CARE_WORDS: Final[dict[Care, str]] = {
    Care.MEASURING: say("be measured (height, weight)"),
    Care.RUNNING: say("run to their limit"),
    Care.MAXIMAL: say("do anything to their limit"),
    Care.HANGING: say("hang from a bar"),
    Care.HANDS: say("put weight on the hands"),
}
#: What a note is made of; measuring follows from the family's consent.
EXCLUSIONS: Final = tuple(care for care in Care if care is not Care.MEASURING)


def asked_of(effort: str, loads: Collection[str], *, body_measure: bool) -> frozenset[Care]:
    """What a test asks of a child that some are kept from.

    Running to the limit is maximal effort with a load on heart and lungs; weight on the hands is a
    pushing load, hanging a pulling one (common practice).
    """
    maximal = effort == EffortLevel.MAXIMAL
    asked = {
        Care.MEASURING: body_measure,
        Care.RUNNING: maximal and Load.AEROBIC in loads,
        Care.MAXIMAL: maximal,
        Care.HANGING: Load.PULL in loads,
        Care.HANDS: Load.PUSH in loads,
    }
    return frozenset(care for care, is_asked in asked.items() if is_asked)
