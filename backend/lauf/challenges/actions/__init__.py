"""Every write about challenges, one module a noun."""

from lauf.challenges.actions.goes import accept_goes, decline_go, enter_go, let_wait, undo_go
from lauf.challenges.actions.points import give_all_points, give_points, reverse_point
from lauf.challenges.actions.rivals import Mark, RivalWish, make_mark, set_rival
from lauf.challenges.actions.sittings import hold_set, open_challenge, try_all_again
from lauf.challenges.actions.slips import publish, replace_slip, unpublish, withdraw_slip
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
    "accept_goes",
    "add_challenges",
    "decline_go",
    "delete_week",
    "enter_go",
    "give_all_points",
    "give_points",
    "hold_set",
    "let_wait",
    "make_mark",
    "make_week",
    "open_challenge",
    "publish",
    "replace_slip",
    "reverse_point",
    "set_rival",
    "take_out_challenge",
    "try_all_again",
    "undo_go",
    "unpublish",
    "withdraw_slip",
]
