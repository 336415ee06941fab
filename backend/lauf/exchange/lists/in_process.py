"""What runs in a process of its own: a list that somebody gave, read to plain cells."""

from __future__ import annotations

from lauf.exchange.lists.files import read_text
from lauf.exchange.lists.roster import read_any
from lauf.exchange.lists.tables import ListFile
from lauf.plain_json import JsonObject


def read_for_list(data: bytes, *, name: str, sheet: int, pasted: bool) -> JsonObject:
    """The tables of a list, as they are asked for from outside the process."""
    found = ListFile([""], read_text(data.decode())) if pasted else read_any(data, name, sheet)
    return {"sheets": list(found.sheets), "cells": found.cells}
