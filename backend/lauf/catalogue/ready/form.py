"""The form in which a ready protocol is written down, and what many of them share."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, Final

STARTER_SOURCE: Final = "starter values, no source: make them yours"
RUNG_NAMES: Final = ("Near line", "Centre line", "Far line", "End wall")

#: Cautions by what a test asks of body and room; the school's own policy comes first.
WARM: Final = "Warm up first, and check the medical notes before you start."
STOP: Final = "Stop for pain, dizziness, chest tightness or wheeze; keep inhalers at hand."
OPTIONAL: Final = "Taking part is optional. No maximal test for an unwell child."
SOFT: Final = "Use a mat or other soft surface."
SPACE: Final = "Keep clear space around each child; look before you move."
HANG: Final = "Only a fixed, load-tested bar; an adult stands beside; a mat below."
STEP: Final = "A sturdy step of known height on a floor that does not slip."
THROW: Final = "No throws towards glass or people; fetch on the signal only."
REST: Final = "Rest at least two minutes before the next maximal effort; water within reach."
CONSENT: Final = "Only with the school's and the family's consent, one child at a time, in private."


@dataclass(frozen=True, slots=True)
class Rungs:
    """Starter rungs of one variant and clock: the four thresholds for the youngest and the oldest
    year group, in the protocol's unit; the years between lie on the line."""

    young: tuple[float, ...]
    old: tuple[float, ...]
    variant: str = ""


@dataclass(frozen=True, slots=True)
class Ready:
    """One ready protocol. Values that are left out take the model's defaults.

    measure   fields of the measure (kind, better, unit, resolution, highest, lowest, cap, …)
    rungs     starter ladders, none where one makes no sense
    more      other fields of `ProtocolVersion`
    """

    name: str
    slug: str
    family: str
    measure: dict[str, Any]
    say: tuple[str, ...]
    counts: tuple[str, ...]
    does_not_count: tuple[str, ...]
    ends: str
    easier: str
    harder: str
    cautions: tuple[str, ...]
    space: str
    places: tuple[str, ...]
    loads: tuple[str, ...]
    error: float
    rungs: tuple[Rungs, ...] = ()
    private: bool = False
    more: dict[str, Any] = field(default_factory=dict)


def count(highest: int, cap: int | None = None) -> dict[str, Any]:
    """Repetitions, more is better."""
    return {"kind": "count", "better": "up", "unit": "reps", "highest": highest, "cap": cap}


def held(highest_s: int, cap_s: int | None = None) -> dict[str, Any]:
    """A time held, longer is better, to the tenth of a second."""
    cap = None if cap_s is None else cap_s * 1000
    return {"kind": "time", "better": "up", "unit": "s", "resolution": 100,
            "highest": highest_s * 1000, "cap": cap}  # fmt: skip


def taken(lowest_s: float, highest_s: int, step_ms: int = 100) -> dict[str, Any]:
    """A time taken, shorter is better."""
    return {"kind": "time", "better": "down", "unit": "s", "resolution": step_ms,
            "lowest": round(lowest_s * 1000), "highest": highest_s * 1000}  # fmt: skip


def length(highest_cm: int) -> dict[str, Any]:
    """A length in centimetres, longer is better."""
    return {"kind": "length", "better": "up", "unit": "cm", "resolution": 10,
            "highest": highest_cm * 10}  # fmt: skip


def kit(*items: tuple[str, float, str]) -> list[dict[str, Any]]:
    """Kit as (item, how many, for each): for each "child", "pair", "group" or "class"."""
    return [{"item": item, "each": each, "of": of} for item, each, of in items]


HALL: Final = ("hall", "playground")
ANY: Final = ("hall", "playground", "grass")
INSIDE: Final = ("hall",)
