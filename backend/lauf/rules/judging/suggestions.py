"""What to try where a test does not fit a class."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from lauf.messages import say
from lauf.rules.judging.summaries import MISFIT_SHARE


class Form(NamedTuple):
    """A form of a movement and how many of the children of a class did it; easiest first."""

    name: str
    children: int


def what_to_try(
    at_top: float | None, at_floor: float | None, forms: Sequence[Form], others: Sequence[str]
) -> str:
    """What may fit a class better than a test that is too easy or too hard; "" where it fits.

    at_top, at_floor   shares of the class at the test's end and at a true nought; None without one
    forms              from the easiest to the hardest
    others             tests of the same kind for this age without an end of their own, by name
    """
    if at_top is not None and at_top >= MISFIT_SHARE:
        harder = _beyond(forms)
        if harder:
            return say("try the form “{harder}”", harder=harder)
        if others:
            return say("try {others}", others=others[0])
        return say("try a higher maximum or a longer clock")
    if at_floor is not None and at_floor >= MISFIT_SHARE:
        easier = _before(forms)
        if easier:
            return say("try the form “{easier}”", easier=easier)
        return say("try an easier movement first")
    return ""


def _most(forms: Sequence[Form]) -> int | None:
    """The place of the form that most of the class did."""
    if not any(form.children for form in forms):
        return None
    return max(range(len(forms)), key=lambda place: forms[place].children)


def _beyond(forms: Sequence[Form]) -> str:
    place = _most(forms)
    return "" if place is None or place + 1 >= len(forms) else forms[place + 1].name


def _before(forms: Sequence[Form]) -> str:
    place = _most(forms)
    return "" if not place else forms[place - 1].name
