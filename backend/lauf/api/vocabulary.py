"""The words of the trade that both sides need: made from the rules' own enums and registries, and
written as TypeScript by `manage.py api_schema`."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from typing import Any, Final

from lauf.rules.body.pulse import COUNT_SECONDS
from lauf.rules.contests.points import RULE_WORDS
from lauf.rules.contests.rivals import RIVAL_WORDS
from lauf.rules.judging.comparability import FREE_CONDITIONS
from lauf.rules.judging.tries import MERGE_WORDS
from lauf.rules.planning.block_kinds import BLOCK_KINDS
from lauf.rules.planning.blocks import SETTINGS
from lauf.rules.planning.care import CARE_WORDS, EXCLUSIONS
from lauf.rules.planning.demands import EFFORT_WORDS, Load, Place
from lauf.rules.planning.plan import KitFor
from lauf.rules.reading.kinds import KINDS
from lauf.rules.reading.quantities import UNIT_SIZES
from lauf.rules.reading.reasons import REASON_KEYS, REASON_WORDS

Rows = Sequence[Any]


def _worded(words: Mapping[Any, str]) -> Rows:
    return [{"code": str(code), "words": text} for code, text in words.items()]


VOCABULARY: Final[dict[str, tuple[str, Rows]]] = {
    "KINDS": (
        "The kinds of score: the units each may be shown in, and the keys it needs on a pad.",
        [
            {
                "code": str(kind),
                "words": one.name,
                "units": list(one.units),
                "noise_grows": one.noise_grows,
                "pad": list(one.pad),
            }
            for kind, one in KINDS.items()
        ],
    ),
    "CONDITIONS": ("What may differ from one attempt to another.", _worded(FREE_CONDITIONS)),
    "UNIT_SIZES": (
        "One of a unit in the canonical unit of its kind: milliseconds, millimetres or grams.",
        [{"code": unit, "size": float(size)} for unit, size in UNIT_SIZES.items()],
    ),
    "EFFORTS": ("How much a test asks of a child.", _worded(EFFORT_WORDS)),
    "LOADS": ("What a test or a station asks for.", [str(load) for load in Load]),
    "PLACES": ("Where a test can be done.", [str(place) for place in Place]),
    "KIT_FOR": ("Who needs one of an item of kit.", [str(who) for who in KitFor]),
    "MERGES": ("How several tries become one score.", _worded(MERGE_WORDS)),
    "REASONS": (
        "Why there is no score, with the key that says so.",
        [
            {"key": key, "code": str(reason), "words": REASON_WORDS[reason]}
            for key, reason in REASON_KEYS.items()
        ],
    ),
    "BLOCKS": (
        "The kinds of block of a plan: what a new one begins with, the settings it can have, "
        "whether it ends when somebody says so, and whether it stays at the end.",
        [
            {
                "code": str(kind),
                "words": one.words,
                "new": one.new,
                "settings": list(SETTINGS[kind]),
                "talks": one.talks,
                "closing": one.closing,
            }
            for kind, one in BLOCK_KINDS.items()
        ],
    ),
    "RIVALS": ("Whose mark a challenge may have.", _worded(RIVAL_WORDS)),
    "POINT_RULES": ("What earns points in a challenge.", _worded(RULE_WORDS)),
    "EXCLUSIONS": (
        "What a child may be kept from, after “is not to”.",
        [{"code": str(care), "words": CARE_WORDS[care]} for care in EXCLUSIONS],
    ),
    "COUNT_SECONDS": ("How long the beats of a pulse are counted.", list(COUNT_SECONDS)),
}


def as_typescript() -> str:
    """The vocabulary as a TypeScript module."""
    lines = [
        "/** Made from the rules by `manage.py api_schema`: never typed by hand. */",
        'import { worded } from "../messages/area";',
        "",
    ]
    for name, (words, rows) in VOCABULARY.items():
        text = json.dumps(rows, ensure_ascii=False, indent=2)
        made = f'worded("{name}", {text} as const)' if _words_of(rows) else f"{text} as const"
        lines += [f"/** {words} */", f"export const {name} = {made};"]
    return "\n".join(lines) + "\n"


def words_by_code() -> dict[str, dict[str, str]]:
    """What the rows of each list are called in the language of this installation."""
    return {name: found for name, (_, rows) in VOCABULARY.items() if (found := _words_of(rows))}


def _words_of(rows: Rows) -> dict[str, str]:
    return {one["code"]: one["words"] for one in rows if isinstance(one, dict) and "words" in one}
