"""Every read for files, one module a noun."""

from lauf.exchange.queries.lists import ListWish, preview_list
from lauf.exchange.queries.scores import scores_csv

__all__ = ["ListWish", "preview_list", "scores_csv"]
