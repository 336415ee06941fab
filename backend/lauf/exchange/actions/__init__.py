"""Every write that files ask for."""

from lauf.exchange.actions.lists import keep_list

__all__ = ["keep_list"]
