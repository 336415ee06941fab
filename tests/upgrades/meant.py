"""What reads otherwise after an upgrade, on purpose. Anything else that differs is a fault.

`until` is the last stage (see `stages/`) in whose answers the old way is found.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any, Final


@dataclass(frozen=True, slots=True)
class Meant:
    """A difference that is meant: where ("…" for anything), and why."""

    until: int
    why: str
    where: tuple[str, ...]

    def covers(self, path: str) -> bool:
        return any(re.fullmatch(_pattern(one), path) for one in self.where)


def _pattern(words: str) -> str:
    return ".*".join(re.escape(part) for part in words.split("…"))


MEANT: Final = (
    Meant(10, "the codes of a plan's warnings are one word", ("….warnings[]", "….warnings[].code")),
    Meant(
        10, "several groups read a, b and c", ("/api/games/…groups[]", "/api/games/…groups[].name")
    ),
    Meant(
        9,
        "every text is worded anew, its numbers as they were",
        (
            "….words",
            "….words[]",
            "….caution",
            "….ladder_source",
            "….sure",
            "….band_words",
            "….change",
            "….misfit",
            "….why",
            "….why_not",
            "….next_step",
            "….moved",
            "….gain",
            "….story",
            "….accepted",
            "….saves",
            "….chance",
            "….teacher",
            "….missing",
            "/api/lessons/*/found.pulses[]",
            "/api/lessons/*/pulse.most",
        ),
    ),
    Meant(9, "handing in alone says whether it was delivered", ("/api/games/*/file.delivered",)),
    Meant(
        8,
        "halves are rounded away from zero",
        ("…chance", "…groups[].middle", "…found.tests[].teacher", "/api/lessons/*/plan.saves"),
    ),
    Meant(8, "a class did a test, it was not measured in it", ("…aloud[]",)),
    Meant(8, "a most that is our estimate is asked about", ("…quick_check.highest",)),
    Meant(
        8,
        "what is asked about a score is kept beside it, by what was before it; here it is settled",
        ("…flags[]", "…flags[].settled", "…odd[]", "…odd"),
    ),
    Meant(8, "a is absent unless a form is called just that", ("…reasons[].key", "…accepted")),
    Meant(7, "more ways of writing an entry are read", ("…quick_check.pattern",)),
    Meant(7, "one child, not 1 children", ("…/benchmarks.own[].why_not",)),
    Meant(6, "the parts of a total are said by level", ("…accepted",)),
    Meant(
        5,
        "a best made earlier in the same challenge counts: more points wait to be given",
        ("/api/challenges/*.children[].waiting[]", "/api/challenges/*.waiting"),
    ),
    Meant(
        5,
        "P5 and P95 from 50 children on, the others with their interval",
        ("…/benchmarks.own[].percentiles[]",),
    ),
    Meant(5, "a week has challenges, several a day", ("/api/weeks/*.days",)),
    Meant(4, "body measurements give no norm of the school away", ("…/benchmarks.own[]",)),
    Meant(
        3,
        "the usual form, not the hardest, is shown where a child has none yet, with its ladder",
        (
            "…children[].variant",
            "…children[].lane.variant",
            "…children[].lane.rungs[]",
            "…children[].lane.rungs[].at",
            "…children[].lane.rungs[].shown",
        ),
    ),
    Meant(
        3,
        "a test's clock is read with its runs, and a timeline without set-up where there is none",
        (
            "/api/lessons/*.activities[].cues",
            "/api/lessons/*.activities[].go_ms",
            "/api/lessons/*.activities[].total_ms",
            "/api/lessons/*/timeline…",
        ),
    ),
    Meant(
        2,
        "day-to-day variation moves to the school's own by weight, and by age; bands follow",
        (
            "…lane.band",
            "…lane.band[]",
            "…lane.scale",
            "…lane.origin",
            "…band_words",
            "…children[].target",
            "…lanes[].target",
        ),
    ),
    Meant(2, "growth has no best, no verdict and no change", ("…lane.best",)),
    Meant(
        2,
        "tops, second times and new bests are said; no change is the same as last time",
        ("…words[]",),
    ),
    Meant(
        2,
        "in all tests growth is not judged, and a test's end counts as its top",
        (
            "/api/lessons/*/grid.children[].cells[].change",
            "/api/lessons/*/grid.children[].cells[].verdict",
            "/api/lessons/*/grid.tests[].better",
            "/api/lessons/*/grid.tests[].lower",
            "/api/lessons/*/grid.tests[].steady",
            "/api/lessons/*/grid.tests[].mean_change",
            "/api/lessons/*/grid.tests[].misfit",
        ),
    ),
    Meant(2, "letters are typed and confirmed", ("…reasons[].key", "/api/lessons/*/grid.reasons")),
    Meant(
        2,
        "tests of our own came for four others: unused ones went, used ones are the school's own",
        ("/api/catalogue.tests[]", "/api/tests[]", "…ready", "/api/templates[].name"),
    ),
)


def as_said_now(address: str, page: Any) -> Any:
    """An earlier answer in the shape of now, every cell of it in its new place: a block of a plan
    says what was entered as one thing. The kinds of block are in the vocabulary."""
    if not re.fullmatch(r"/api/lessons/[^/]+/plan", address):
        return page
    if not any("settings" in one for one in page["blocks"]):
        return page  # said so already
    entered = ("id", "kind", "label", "test_id", "activity_id")
    blocks = [
        {
            "entry": {**one["settings"], **{name: one[name] for name in entered if name in one}},
            "seconds": one["seconds"],
            "why": one["why"],
        }
        for one in page["blocks"]
    ]
    return {**{name: part for name, part in page.items() if name != "kinds"}, "blocks": blocks}
