"""The tests every school begins with, read from the TOML files beside this one.

One file a family, one `[[test]]` a test. Own wording, trade terms; the rungs are starting values to
edit. A caution is a sentence, or one of the words of `CAUTIONS`. `rungs` give the thresholds of
the youngest and the oldest year group in the protocol's unit; the years between lie on the line.
"""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from pathlib import Path
from typing import Final

from lauf.messages import say
from lauf.plain_json import JsonObject

STARTER_SOURCE: Final = say("starting values without a source, to be adjusted by your school")
RUNG_NAMES: Final = (say("Near line"), say("Centre line"), say("Far line"), say("End wall"))

#: Cautions that many tests share, by what a test asks of body and room; the school's own policy
#: comes first.
CAUTIONS: Final = {
    "warm": say("Warm up first, and check the medical notes before you start."),
    "stop": say("Stop for pain, dizziness, chest tightness or wheeze. Keep inhalers at hand."),
    "optional": say("Taking part is optional. No maximal test for an unwell child."),
    "soft": say("Use a mat or other soft surface."),
    "space": say("Keep clear space around each child. Look before you move."),
    "hang": say("Use only a fixed, load-tested bar, with an adult beside it and a mat below."),
    "step": say("Use a sturdy step of known height on a floor that is not slippery."),
    "throw": say("Never throw towards glass or people. Fetch only on the signal."),
    "rest": say(
        "Rest at least two minutes before the next maximal effort, with water within reach."
    ),
    "consent": say(
        "Measure only with the school's and the family's consent, one child at a time, in private."
    ),
}


@dataclass(frozen=True, slots=True)
class Rungs:
    """Starter rungs of one variant, in the protocol's unit."""

    young: tuple[float, ...]
    old: tuple[float, ...]
    variant: str = ""


@dataclass(frozen=True, slots=True)
class Ready:
    """One ready protocol. `protocol` holds fields of `ProtocolVersion`; those left out take the
    model's defaults."""

    name: str
    slug: str
    family: str
    private: bool
    rungs: tuple[Rungs, ...]
    protocol: JsonObject


def _read(family: str, given: JsonObject) -> Ready:
    fields = dict(given)
    rungs = fields.pop("rungs", [])
    fields["cautions"] = [CAUTIONS.get(one, one) for one in fields.get("cautions", [])]
    fields["variants"] = [{"usual": False, **one} for one in fields.get("variants", [])]
    fields["default_typical_error"] = fields.pop("typical_error")
    return Ready(
        name=fields.pop("name"),
        slug=fields.pop("slug"),
        family=family,
        private=fields.pop("private", False),
        rungs=tuple(
            Rungs(tuple(one["young"]), tuple(one["old"]), one.get("variant", "")) for one in rungs
        ),
        protocol={**fields.pop("measure"), **fields},
    )


def _all() -> tuple[Ready, ...]:
    found = []
    for path in sorted(Path(__file__).parent.glob("*.toml")):
        with path.open("rb") as file:
            found += [_read(path.stem, given) for given in tomllib.load(file)["test"]]
    return tuple(found)


READY: Final[tuple[Ready, ...]] = _all()
