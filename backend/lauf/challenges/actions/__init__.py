"""Every write about challenges, one module a noun."""

from lauf.challenges.actions.points import give_all_points, give_points, reverse_point
from lauf.challenges.actions.rivals import Mark, RivalWish, make_mark, set_rival
from lauf.challenges.actions.sittings import hold_set, open_challenge, try_all_again
from lauf.challenges.actions.weeks import (
    Spread,
    add_challenges,
    delete_week,
    make_week,
    take_out_challenge,
)

__all__ = [
    "Mark",
    "RivalWish",
    "Spread",
    "add_challenges",
    "delete_week",
    "give_all_points",
    "give_points",
    "hold_set",
    "make_mark",
    "make_week",
    "open_challenge",
    "reverse_point",
    "set_rival",
    "take_out_challenge",
    "try_all_again",
]
