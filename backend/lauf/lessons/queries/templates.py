"""Plans to begin with: a few that come with Lauf, and the school's own."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Final, TypeAlias, cast
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.queries import newest_protocols
from lauf.errors import NotFound
from lauf.lessons.models import PlanTemplate
from lauf.lessons.queries.plans import PlanPage, plan_page
from lauf.messages import say
from lauf.people.models import Staff
from lauf.people.permissions import owns
from lauf.rules.planning.blocks import BlockEntry, BlockKind

#: A block as a template keeps it: JSON, with its test by the test's short name.
TemplateBlock: TypeAlias = Mapping[str, object]

_WARM: Final[TemplateBlock] = {"kind": "warm_up", "label": say("Warm-up"),
                "levels": [[1, 30], [2, 60], [3, 30], [2, 30], [4, 15], [1, 30]]}  # fmt: skip
_PULSE: Final[TemplateBlock] = {"kind": "pulse", "count_seconds": 10, "seconds": 50, "hold": 10,
                 "waits": True}  # fmt: skip
_COOL: Final[TemplateBlock] = {
    "kind": "cool_down",
    "label": say("Cool-down"),
    "steps": 40,
    "hold": 3,
    "seconds": 60,
}
_END: Final[TemplateBlock] = {"kind": "report", "label": say("What we found out"), "seconds": 120}


def _sets(name: str, efforts: str) -> TemplateBlock:
    movement = [{"name": name, "efforts": efforts}]
    return {"kind": "intervals", "label": name.capitalize(), "movements": movement}


#: Ready plans by code: name, minutes, blocks (tests by their slug).
READY: Final[dict[str, tuple[str, int, list[TemplateBlock]]]] = {
    "intervals": (
        say("What raises our pulse? Four activities, a pulse after each"),
        50,
        [
            {"kind": "briefing", "label": say("What raises our pulse?"), "seconds": 120},
            {**_PULSE, "label": say("Pulse at rest")},
            _WARM,
            {**_PULSE, "label": say("Pulse after the warm-up")},
            *(
                one
                for name, efforts in (
                    (say("star jumps"), "25/15/25"),
                    (say("high knees"), "12/8/12/8/12"),
                    (say("burpees"), "12/8/12"),
                    (say("shuttle sprints"), "14/16/14"),
                )
                for one in (
                    _sets(name, efforts),
                    {**_PULSE, "label": say("Pulse after {name}", name=name)},
                )
            ),
            {"kind": "water", "label": say("Water"), "seconds": 60},
            _COOL,
            {**_PULSE, "label": say("Pulse after resting")},
            _END,
        ],
    ),
    "stations": (
        say("Four stations, four rounds"),
        40,
        [
            {"kind": "briefing", "label": say("The stations"), "seconds": 180},
            _WARM,
            {
                "kind": "stations",
                "label": say("Stations"),
                "stations": [
                    {"name": say("skipping"), "loads": ["aerobic"], "room": 1},
                    {"name": say("press-ups"), "loads": ["push"], "room": 1},
                    {"name": say("step-ups"), "loads": ["legs"], "room": 1},
                    {"name": say("plank"), "loads": ["core"], "room": 1},
                ],
                "work": 60,
                "change": 30,
                "rounds": 4,
            },
            _COOL,
            _END,
        ],
    ),
    "target": (
        say("240 reps in 25 minutes"),
        50,
        [
            {"kind": "briefing", "label": say("How we count"), "seconds": 120},
            _WARM,
            {
                "kind": "rep_target",
                "label": say("240 reps"),
                "seconds": 1500,
                "names": [say("press-ups"), say("squats"), say("star jumps"), say("sit-ups")],
                "carries": "",
                "test": "reps-240",
            },
            {"kind": "water", "label": say("Water"), "seconds": 60},
            _COOL,
            _END,
        ],
    ),
    "baseline": (
        say("Three tests in a good order"),
        50,
        [
            {"kind": "briefing", "label": say("What we do today"), "seconds": 120},
            _WARM,
            {"kind": "test", "label": "", "test": "long-jump"},
            {"kind": "test", "label": "", "test": "press-ups-60"},
            {"kind": "test", "label": "", "test": "shuttles-180"},
            {"kind": "water", "label": say("Water"), "seconds": 60},
            _COOL,
            _END,
        ],
    ),
}


class TemplateRow(TypedDict):
    """A plan to begin with; `own` of the school's, `mine` to take away."""

    code: str
    name: str
    minutes: int
    own: bool
    mine: bool


def template_list(staff: Staff) -> list[TemplateRow]:
    """The plans to begin with, the school's own first. One query."""
    own = PlanTemplate.objects.filter(school_id=staff.school_id)
    return [
        *(
            TemplateRow(
                code=str(one.id),
                name=one.name,
                minutes=one.minutes,
                own=True,
                mine=owns(staff, one.by_id),
            )
            for one in own
        ),
        *(
            TemplateRow(code=code, name=name, minutes=minutes, own=False, mine=False)
            for code, (name, minutes, _) in READY.items()
        ),
    ]


def from_template(staff: Staff, lesson_id: UUID, code: str) -> PlanPage:
    """A template as the plan of a lesson. A proposal: nothing is kept. Tests that the school no
    longer has are left out. Raises NotFound or Refused."""
    blocks: Sequence[TemplateBlock]
    blocks = READY[code][2] if code in READY else template_of(staff, code).blocks
    wanted = {block.get("test") for block in blocks}
    tests: dict[str, tuple[UUID, int | None]] = {
        slug: (test, seconds)
        for slug, test, seconds in newest_protocols(staff)
        .filter(test__slug__in=wanted)
        .values_list("test__slug", "test_id", "seconds")
    }
    entries = []
    for block in blocks:
        kind, slug = BlockKind(str(block["kind"])), str(block.get("test") or "")
        if slug and slug not in tests and kind is BlockKind.TEST:
            continue
        test, seconds = tests.get(slug, (None, None))
        # As long as its test is now.
        lasts = {"seconds": seconds} if kind is BlockKind.REP_TARGET and seconds else {}
        kept = {key: value for key, value in block.items() if key != "test"}
        entries.append(cast("BlockEntry", {**kept, **lasts, "kind": kind, "test_id": test}))
    return plan_page(staff, lesson_id, entries)


def template_of(staff: Staff, code: str) -> PlanTemplate:
    """One of the school's own templates. Raises NotFound. One query."""
    try:
        found = PlanTemplate.objects.filter(school_id=staff.school_id, pk=UUID(code)).first()
    except ValueError:
        found = None
    if found is None:
        raise NotFound(say("template"))
    return found
