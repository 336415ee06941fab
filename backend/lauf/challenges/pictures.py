"""The pictures by which children choose themselves without a name. Drawn by the Material Design
Icons community (Apache License 2.0), as the front end's icons are."""

from __future__ import annotations

import json
from functools import cache
from pathlib import Path
from typing import Final

from typing_extensions import TypedDict

from lauf.messages import say

#: What each is called when it is read out. Neighbours look different.
WORDS: Final = (
    say("cat"), say("rocket"), say("flower"), say("fish"), say("castle"), say("owl"), say("apple"),
    say("train"), say("elephant"), say("umbrella"), say("duck"), say("star"), say("turtle"),
    say("bell"), say("tree"), say("penguin"), say("carrot"), say("boat"), say("bee"), say("key"),
    say("dolphin"), say("mushroom"), say("bicycle"), say("cow"), say("sun"), say("horse"),
    say("tent"), say("cherries"), say("snail"), say("plane"), say("butterfly"), say("guitar"),
    say("pig"), say("cactus"), say("sheep"), say("tractor"), say("leaf"), say("rabbit"),
    say("snowflake"), say("snake"), say("lighthouse"), say("kangaroo"), say("pineapple"),
    say("dog"), say("cloud"), say("ladybird"), say("anchor"), say("unicorn"),
)  # fmt: skip


class Picture(TypedDict):
    """A picture: what it is called, and its outline as an SVG path in a square of 24."""

    word: str
    path: str


@cache
def _paths() -> tuple[str, ...]:
    return tuple(json.loads((Path(__file__).parent / "pictures.json").read_text()).values())


def picture(place: int) -> Picture:
    """The picture at a place from 0. Beyond the last they come again with a number: "cat 2"."""
    turn, at = divmod(place, len(WORDS))
    return {"word": f"{WORDS[at]} {turn + 1}" if turn else WORDS[at], "path": _paths()[at]}
