"""The words of the pages, from the front end's catalogue: tests ask for a message, not a copy."""

from __future__ import annotations

import json
import re
from functools import cache
from pathlib import Path

from tests.support.served import ROOT

CATALOGUE = ROOT / "frontend/src/messages/en-GB"


@cache
def part(name: str) -> dict[str, str]:
    """The messages of a part by key."""
    found: dict[str, str] = json.loads((Path(CATALOGUE) / f"{name}.json").read_text())
    return found


def say(path: str, n: int | None = None, **named: object) -> str:
    """A message as a page says it: "school.forName" with what stands in its braces; `n` is how many
    there are. Braces that are not given end it: what stands before them is looked for."""
    name, key = path.split(".")
    message = part(name)[key]
    if " | " in message:
        one, many = message.split(" | ")
        message = one if n == 1 else many
    given = named if n is None else {"n": n, **named}
    filled = re.sub(
        r"\{'(.)'\}|\{(\w+)\}",
        lambda found: found[1] or str(given.get(found[2], found[0])),
        message,
    )
    return filled.split("{")[0].strip()
