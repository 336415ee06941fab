"""Make the files of one stage: a used school as an earlier Lauf kept it, and what its pages said.

Run from a checkout of that Lauf (`git worktree add`), on an empty database of its own:

    PYTHONPATH=backend LAUF_DATABASE_URL=... python .../tests/upgrades/make_stage.py FOLDER NAME

It writes `NAME.sql.xz` (a plain dump) and `NAME.pages.json.xz` (address to answer). The school is
the demo of that version, used further: every kind of score, every form, a test that later went
away, corrections, settled questions, calibrations, templates, norms of the school's own. It keeps
to what the models of the first version have, and adds what a later one has where it has it.
"""

from __future__ import annotations

import inspect
import json
import lzma
import os
import random
import re
import subprocess
import sys
import uuid
from collections.abc import Iterator
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from typing import Any
from unittest.mock import patch

#: When all of it is made, and when its pages are looked at, before and after.
NOW = datetime(2026, 11, 26, 18, 0, tzinfo=UTC)
TODAY = date(2026, 11, 26)
#: Settings that differ from those of a machine in use.
ZONE = "Europe/London"
#: How many of each are looked at, from all over.
_LOOKED_AT = {"pupil_id": 4, "activity_id": 12, "lesson_id": 4, "test_id": 8}
#: Pages that say the moment or the machine, or are no pages.
_NOT_KEPT = re.compile(
    r"session|openapi|health|\.(csv|xlsx|zip|ics|pdf)$|devices|backups|stand-ins"
)
#: Tests that later versions let go, and one that is edited after use.
_GONE = ("speed-bounce-20", "frog-jumps-15", "reps-300", "rounds-20-15-10")
_LEFT_UNUSED = "frog-jumps-15"
_IN_A_TEMPLATE = "reps-300"
_WITH_AN_OWN_LADDER = "rounds-20-15-10"
_NOT_SCORED = (_LEFT_UNUSED, _IN_A_TEMPLATE, _WITH_AN_OWN_LADDER)


def main(folder: Path, name: str) -> None:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "lauf.web.settings")
    os.environ.update(LAUF_TIME_ZONE=ZONE, LAUF_DEMO="1")
    import django

    django.setup()
    with patch("django.utils.timezone.now", lambda: NOW):
        use()
        dump(folder / f"{name}.sql.xz")  # first: some pages leave a line in the log
        pages = look(sorted(addresses()))
    packed = json.dumps(pages, sort_keys=True, separators=(",", ":"), default=str)
    (folder / f"{name}.pages.json.xz").write_bytes(lzma.compress(packed.encode(), preset=9))
    print(name, len(pages), "pages")


# Using it.


def use() -> None:
    from django.core.management import call_command

    from lauf.demo import school as demo

    call_command("migrate", verbosity=0)
    takes = inspect.signature(demo.load).parameters
    given = {"any_day": True} if "any_day" in takes else {"past": False} if "past" in takes else {}
    demo.load(TODAY, **given)
    _score_everything()
    _settle_and_correct()
    _calibrate()
    _norm_of_its_own()
    _template()
    _ladder_of_its_own()
    _edit_a_test()


def _model(part: str, name: str) -> Any:
    """A model of this version; None where it has none yet."""
    from django.apps import apps

    try:
        return apps.get_model(part, name)
    except LookupError:
        return None


def _fields(model: Any) -> set[str]:
    return {field.name for field in model._meta.get_fields()}


def _score_everything() -> None:
    """Two lessons a week apart: each test with forms, one of each kind, and those that went away,
    tried by eight children in each of its forms."""
    chance = random.Random("a used school")
    versions = _model("catalogue", "ProtocolVersion").objects.order_by("test__slug")
    kinds: set[str] = set()
    chosen = []
    for version in versions:
        slug = version.test.slug
        if getattr(version.test, "private", False) or slug in _NOT_SCORED:
            continue
        if version.variants or slug in _GONE or version.kind not in kinds:
            kinds.add(version.kind)
            chosen.append(version)
    for days in (16, 9):
        _lesson_of(chosen, days, chance)


def _lesson_of(versions: list[Any], days: int, chance: random.Random) -> None:
    group = _model("people", "SchoolClass").objects.get(name="4 Heron")
    teacher = group.teachers.get(username="demo")
    starts = NOW.replace(hour=11) - timedelta(days=days)
    lessons, activities = _model("lessons", "Lesson"), _model("lessons", "Activity")
    more = {"year_group": group.year_group} if "year_group" in _fields(lessons) else {}
    lesson = lessons.objects.create(
        school=group.school, school_class=group, teacher=teacher, place="Hall", starts_at=starts,
        minutes=50, closed_at=starts + timedelta(minutes=50), closed_by=teacher, **more,
    )  # fmt: skip
    for place, version in enumerate(versions):
        activity = activities.objects.create(lesson=lesson, position=place, protocol=version)
        codes = [one["code"] for one in version.variants] or [""]
        for index, pupil in enumerate(group.pupils.order_by("given_name", "family_name")[:8]):
            variant = codes[index % len(codes)]
            for attempt in _attempts(activity, pupil, variant, index, starts, chance):
                attempt.save(force_insert=True)


def _attempts(
    activity: Any, pupil: Any, variant: str, index: int, starts: datetime, chance: random.Random
) -> Iterator[Any]:
    """What somebody typed for one child, as this version reads it."""
    from lauf.rules.reading.entry import read_entry

    version = activity.protocol
    attempts = _model("records", "Attempt")
    conditions = dict(getattr(version, "conditions", {}) or {})
    wanted = {k: v for k, v in conditions.items() if k in ("course", "step", "reach", "course_mm")}
    for typed in _typed(version, index, chance):
        try:
            entry = read_entry(typed, version.measure)
        except Exception:
            continue
        more: dict[str, Any] = {}
        if "parts" in _fields(attempts):
            more["parts"] = dict(getattr(entry, "parts", None) or {})
        if "conditions" in _fields(attempts):
            more["conditions"] = wanted
        yield attempts(
            id=uuid.uuid4(), school_id=pupil.school_id, pupil=pupil, activity=activity,
            protocol=version, kind=version.kind, on=starts.date(), variant=variant,
            wave=1 + index % 2 if version.waves > 1 else None, typed=entry.typed,
            value=entry.value, reason=entry.reason.value if entry.reason else None,
            estimate=entry.estimate, recorded_by=activity.lesson.teacher,
            recorded_at=starts + timedelta(minutes=20, seconds=7 * index), **more,
        )  # fmt: skip
        return


def _typed(version: Any, index: int, chance: random.Random) -> tuple[str, ...]:
    """Entries to try, the first that this version reads for this kind counts."""
    if index == 7:
        return ("a",)
    rough = "~" if index == 5 else ""
    number = 9 + 2 * index + chance.randrange(4)
    return {
        "hits": (f"{min(number, 10)}/10",),
        "sides": (("y n", "n y", "y y")[index % 3],),
        "stages": (f"{2 + index % 4}.{1 + index % 6}",),
        "stage": (f"{2 + index % 4}.{1 + index % 6}",),
        "difference": (f"{150 + index} {170 + number}",),
        "marks": (f"{150 + index} {170 + number}",),
    }.get(version.kind, (f"{number}{rough}", f"{number}.5", f"0:{number:02d}", f"-{index}", "3.2"))


def _settle_and_correct() -> None:
    attempts = _model("records", "Attempt")
    open_ones = attempts.objects.filter(
        activity__lesson__starts_at__gte=NOW - timedelta(days=17), value__isnull=False
    )
    taken = set(attempts.objects.exclude(succeeds=None).values_list("succeeds_id", flat=True))
    free = [
        one for one in open_ones.order_by("activity__position", "pupil_id") if one.pk not in taken
    ]
    for place, one in enumerate(free[::17]):
        if place % 2:
            _model("records", "Settlement").objects.create(
                id=uuid.uuid4(), attempt=one, flag="class", by=one.recorded_by
            )
            continue
        again = attempts(**{
            field.attname: getattr(one, field.attname) for field in attempts._meta.concrete_fields
        })  # fmt: skip
        again.id, again.succeeds_id, again.why = uuid.uuid4(), one.id, "read wrong from the paper"
        again.recorded_at = one.recorded_at + timedelta(minutes=9)
        again.save(force_insert=True)


def _calibrate() -> None:
    calibrations = _model("records", "Calibration")
    if calibrations is None:
        return
    group = _model("people", "SchoolClass").objects.get(name="4 Heron")
    calibrations.objects.create(
        school=group.school, school_class=group, unit="hands", millimetres=148.0,
        on=TODAY - timedelta(days=30), by=group.teachers.get(username="demo"),
    )  # fmt: skip


def _norm_of_its_own() -> None:
    norms = _model("catalogue", "NormTable")
    if norms is None:
        return
    test = _model("catalogue", "Test").objects.get(slug="press-ups-60")
    norms.objects.create(
        school=test.school, test=test, seconds=60, name="Our county's table", source="a table",
        population="made up", year=2024, standing="made up", form="percentiles", unit="reps",
        unit_size=1, percentiles=[10, 50, 90],
        rows=[[sex, age, [age, 2 * age, 4 * age]] for sex in ("female", "male")
              for age in range(6, 12)],
    )  # fmt: skip


def _template() -> None:
    """A lesson kept as a template, with a test that later went away in it."""
    templates = _model("lessons", "PlanTemplate")
    if templates is None:
        return
    staff = _model("people", "Staff").objects.get(username="demo")
    blocks = [{"kind": "briefing", "label": "Talk", "seconds": 90}]
    if _model("catalogue", "Test").objects.filter(slug=_IN_A_TEMPLATE).exists():
        blocks.append({"kind": "test", "label": "", "test": _IN_A_TEMPLATE})
    templates.objects.create(
        school=staff.school, name="Our Monday", minutes=40, blocks=blocks, by=staff
    )


def _ladder_of_its_own() -> None:
    """For a test that nothing else uses and that later went away."""
    test = _model("catalogue", "Test").objects.filter(slug=_WITH_AN_OWN_LADDER).first()
    if test is None:
        return
    ladder = _model("catalogue", "Ladder").objects.create(
        test=test, source="our own", from_age=8, to_age=9
    )
    _model("catalogue", "LadderRung").objects.create(
        ladder=ladder, position=0, name="Alder", threshold=600_000
    )


def _edit_a_test() -> None:
    """The next version of a test with forms that has scores, and one score under it."""
    versions = _model("catalogue", "ProtocolVersion").objects
    used = versions.filter(test__slug="press-ups-60").order_by("-number").first()
    if not used.variants:
        return
    used.pk, used.number = uuid.uuid4(), used.number + 1
    used.say = [*used.say, "Breathe out on the way up."]
    if "changed" in _fields(type(used)):
        used.changed = "one more thing to say"
    used.save(force_insert=True)
    _lesson_of([used], 2, random.Random("the next version"))


# Looking at it.


def addresses() -> Iterator[str]:
    """Every address of the API that is read, filled in with things that have scores."""
    from lauf.web.api import api

    things = _things()
    for template, methods in api.get_openapi_schema()["paths"].items():
        if "get" not in methods or _NOT_KEPT.search(template):
            continue
        asked = [one["name"] for one in methods["get"].get("parameters", ())
                 if one["in"] == "query" and one.get("required")]  # fmt: skip
        names = re.findall(r"{(\w+)}", template)
        if asked or len(names) > 1 or any(name not in things for name in names):
            continue
        for value in things[names[0]] if names else [""]:
            yield template.replace(f"{{{names[0]}}}", str(value)) if names else template


def look(wanted: list[str]) -> dict[str, Any]:
    """What the head of PE reads at some addresses; what is refused or no JSON is left out."""
    from django.test import Client

    client = Client(SERVER_NAME="127.0.0.1")
    client.force_login(_model("people", "Staff").objects.get(username="head"))
    answers = {address: client.get(address) for address in wanted}
    return {
        address: answer.json()
        for address, answer in answers.items()
        if answer.status_code == 200 and answer["Content-Type"].startswith("application/json")
    }


def _things() -> dict[str, list[Any]]:
    attempts = _model("records", "Attempt").objects
    kept = {
        "activity_id": attempts.order_by("activity__lesson__starts_at", "activity__position"),
        "lesson_id": attempts.order_by("activity__lesson__starts_at"),
        "test_id": attempts.order_by("protocol__test__slug"),
        "class_id": attempts.order_by("pupil__school_class__name"),
        "pupil_id": attempts.order_by("pupil__school_class__name", "pupil__given_name"),
    }
    paths = {
        "activity_id": "activity", "lesson_id": "activity__lesson", "test_id": "protocol__test",
        "class_id": "pupil__school_class", "pupil_id": "pupil",
    }  # fmt: skip
    things = {
        name: list(dict.fromkeys(rows.values_list(paths[name], flat=True)))
        for name, rows in kept.items()
    }
    for name, most in _LOOKED_AT.items():
        step = max(1, len(things[name]) // most)
        things[name] = things[name][::step][-most:]
    lessons = _model("lessons", "Lesson")
    if "battery" in _fields(lessons):
        of_batteries = lessons.objects.exclude(battery=None).order_by("starts_at")
        things["lesson_id"] += of_batteries.values_list("pk", flat=True)[:2]
    weeks, challenges = _model("challenges", "ChallengeWeek"), _model("challenges", "Challenge")
    if weeks is not None:
        things["week_id"] = list(weeks.objects.values_list("pk", flat=True))
        things["challenge_id"] = list(challenges.objects.values_list("pk", flat=True)[:4])
    games = _model("challenges", "Games")
    if games is not None:
        things["games_id"] = list(games.objects.values_list("pk", flat=True))
    return things


def dump(file: Path) -> None:
    """As SQL without whose it is; what psql of another version would not know is left out."""
    from django.db import connection

    at = connection.get_connection_params()
    done = subprocess.run(
        ["pg_dump", "--no-owner", "--no-privileges", "--exclude-table-data=django_session",
         "-h", at["host"], "-p", str(at["port"]), "-U", at["user"], at["dbname"]],
        env={**os.environ, "PGPASSWORD": at["password"]}, check=True, capture_output=True,
    )  # fmt: skip
    text = re.sub(rb"^\\(un)?restrict .*\n", b"", done.stdout, flags=re.M)
    file.write_bytes(lzma.compress(text, preset=9))


if __name__ == "__main__":
    main(Path(sys.argv[1]).resolve(), sys.argv[2])
