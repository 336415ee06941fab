"""Every write that files ask for, or that reaches through all parts."""

from lauf.exchange.actions.erasing import due_to_go, erase_due, erase_pupil
from lauf.exchange.actions.games import GamesWish, hand_in, join_games, make_games
from lauf.exchange.actions.lists import keep_list
from lauf.exchange.actions.merging import merge_pupils, merges_of, part_pupils
from lauf.exchange.actions.results import know_school, let_in, remove_result, take_result
from lauf.exchange.package.read import read_package

__all__ = [
    "GamesWish",
    "due_to_go",
    "erase_due",
    "erase_pupil",
    "hand_in",
    "join_games",
    "keep_list",
    "know_school",
    "let_in",
    "make_games",
    "merge_pupils",
    "merges_of",
    "part_pupils",
    "read_package",
    "remove_result",
    "take_result",
]
