"""Whatever is planned, swapped, copied, edited, retried, corrected, asked about and settled, in
whatever order: every kept score has the child, form, course, clock, wave, version and "about" that
were said when it was kept, and every page, file and paper says the same of it."""

from __future__ import annotations

import csv
import io
import uuid
from dataclasses import dataclass, replace
from typing import Any, Final

from django.db import transaction
from django.utils import timezone
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import (
    RuleBasedStateMachine,
    initialize,
    invariant,
    precondition,
    rule,
    run_state_machine_as_test,
)

from lauf.lessons.models import Activity
from lauf.records.models import Attempt
from tests.api.conftest import MANY, World
from tests.api.weeks import a_week, added, person

REPS, RUNS = "press-ups-60", "shuttles-180"
CHILDREN: Final = 3
CHILD = st.integers(0, CHILDREN - 1)
WHICH = st.integers(0, 9)
#: 6 and 60 are a slip of a digit beside the others: one may be asked about.
COUNTS = st.sampled_from(["28", "30", "31~", "33", "6", "60"])
COURSES = st.sampled_from([6000, 8000, 10000])
FORMS: Final = {"full": "full", "knees": "on the knees", "": ""}


@dataclass(frozen=True)
class Statement:
    """What was on screen of a score when it was kept."""

    head: str
    typed: str
    form: str
    course: int | None
    wave: int | None
    version: int
    seconds: int
    #: Whether waiting for an answer: others' scores may raise a question later.
    is_open: bool = False

    @property
    def about(self) -> bool:
        return self.typed.endswith("~")

    @property
    def number(self) -> str:
        return self.typed.removesuffix("~")

    @property
    def course_words(self) -> str:
        return "" if self.course is None else f"course length {self.course // 1000} m"


@dataclass
class There:
    """A test in a lesson as the hall was told of it."""

    id: str
    test: str
    name: str
    version: int
    seconds: int
    course: int | None
    forms: tuple[str, ...]


class AnyMeaning(RuleBasedStateMachine):
    """Three children, a count with forms, runs on a course, and what befalls both."""

    world: World

    @initialize()
    def begin(self) -> None:
        # What one example does is not there for the next.
        self.undone = transaction.atomic()
        self.undone.__enter__()
        self.pupils = self.world.pupils[:CHILDREN]
        self.tests = {
            slug: str(self.world.lesson_on(30, slug).protocol.test_id) for slug in (REPS, RUNS)
        }
        week = a_week(self.world)
        self.week = f"/api/weeks/{week.id}"
        self.challenge = added(self.world, week, week.starts_on, self.tests[RUNS])
        row = person("Brook", (self.challenge, ""))
        self.ask("PUT", f"{self.week}/rival", row)
        self.there: list[There] = []
        self.said: dict[tuple[str, int], Statement] = {}
        #: The course of the challenge's newest entry.
        self.course: int | None = None
        self.a_lesson()

    def teardown(self) -> None:
        transaction.set_rollback(True)
        self.undone.__exit__(None, None, None)

    def ask(self, method: str, path: str, body: Any = None, who: str = "teacher") -> Any:
        answer = getattr(self.world, who).ask(method, path, body)
        assert answer.status_code in (200, 201), answer.content
        return answer.json()

    def card(self, test: str) -> Any:
        return self.ask("GET", f"/api/tests/{test}")

    def found(self, activity: str) -> There:
        """What the hall is told of an activity, for the model to hold it to from then on."""
        board = self.ask("GET", f"/api/activities/{activity}/lanes")
        one = Activity.objects.select_related("protocol__test").get(pk=activity)
        courses = [row["value"] for row in board["conditions"] if row["code"] == "course_mm"]
        return There(
            activity, str(one.protocol.test_id), board["test"], one.protocol.number,
            board["seconds"], courses[0] if courses else None,
            tuple(row["code"] for row in board["variants"]) or ("",),
        )  # fmt: skip

    def come(self, lesson: str) -> list[There]:
        """The tests of a lesson that the model does not know yet."""
        known = {one.id for one in self.there}
        page = self.ask("GET", f"/api/lessons/{lesson}")
        new = [self.found(one["id"]) for one in page["activities"] if one["id"] not in known]
        self.there += new
        return new

    # What befalls them

    @rule()
    def a_lesson(self) -> None:
        """A lesson of both tests, by their newest versions and on the usual course."""
        made = self.ask("POST", "/api/lessons", {
            "class_id": str(self.world.school_class.id), "test_ids": list(self.tests.values()),
            "starts_at": timezone.now().isoformat(), "minutes": 50, "place": "Hall",
        })  # fmt: skip
        for one in self.come(made["id"]):
            card = self.card(one.test)
            assert (one.version, one.seconds) == (card["version"], card["protocol"]["seconds"])

    @rule(which=WHICH, seconds=st.sampled_from([30, 45, 90]))
    def a_copy_is_swapped_in(self, which: int, seconds: int) -> None:
        """The same movement against another clock, done instead in a lesson that is on."""
        one = self.there[which % len(self.there)]
        card = self.card(one.test)
        name = f"{one.name.split(' in ')[0]} {uuid.uuid4().hex[:6]} in {seconds} s"
        body = {
            "name": name, "family": "", "copy_of": one.test,
            "protocol": {**card["protocol"], "seconds": seconds},
        }  # fmt: skip
        made = self.ask("POST", "/api/tests", body, "head")["id"]
        lesson = Activity.objects.get(pk=one.id).lesson_id
        self.ask("POST", f"/api/lessons/{lesson}/activities", {"test_id": made})
        (new,) = self.come(str(lesson))
        assert (new.name, new.version, new.seconds, new.forms) == (name, 1, seconds, one.forms)

    @rule(slug=st.sampled_from([REPS, RUNS]), seconds=st.sampled_from([50, 75, 120]))
    def a_test_is_edited(self, slug: str, seconds: int) -> None:
        card = self.card(self.tests[slug])
        if card["protocol"]["seconds"] == seconds:
            return
        edit = {
            "based_on": card["version"], "why": "another clock",
            "protocol": {**card["protocol"], "seconds": seconds},
        }  # fmt: skip
        self.ask("POST", f"/api/tests/{self.tests[slug]}/versions", edit, "head")

    @rule(which=WHICH, course=COURSES)
    def another_course(self, which: int, course: int) -> None:
        courses = [one for one in self.there if one.course]
        one = courses[which % len(courses)]
        path = f"/api/activities/{one.id}/conditions"
        self.ask("PUT", path, {"conditions": {"course_mm": course}})
        one.course = course

    @rule(child=CHILD, which=WHICH, typed=COUNTS, form=WHICH, wave=st.sampled_from([1, 2, None]))
    def a_score(self, child: int, which: int, typed: str, form: int, wave: int | None) -> None:
        """The first of a child, or its correction, by what is on screen now."""
        one = self.there[which % len(self.there)]
        before = self.said.get((one.id, child))
        variant = one.forms[form % len(one.forms)]
        more = {"succeeds": before.head, "why": "looked again"} if before else {}
        body = self.world.body(self.pupils[child], typed, variant=variant, wave=wave, **more)
        answer = self.world.teacher.ask("POST", f"/api/activities/{one.id}/attempts", body)
        if answer.status_code != 200:
            # More than anybody does in so little time: nothing is kept.
            assert answer.status_code == 422, answer.content
            return
        self.said[one.id, child] = Statement(
            body["id"], typed, variant, one.course, wave, one.version, one.seconds
        )
        self.what_is_asked(one.id)
        if one.test == self.tests[RUNS] and one.version == self.challenge.protocol.number:
            self.course = one.course

    def what_is_asked(self, activity: str) -> None:
        """The questions of a sheet, as it shows them after a score."""
        lanes = self.ask("GET", f"/api/activities/{activity}/lanes")
        rows = {row["pupil_id"]: row for row in lanes["children"]}
        for child, pupil in enumerate(self.pupils):
            one, row = self.said.get((activity, child)), rows[str(pupil.id)]
            if one:
                is_open = row["score"]["open"]
                assert row["flags"] or not is_open
                self.said[activity, child] = replace(one, is_open=is_open)

    @precondition(lambda self: any(one.is_open for one in self.said.values()))
    @rule(which=WHICH)
    def a_question_is_settled(self, which: int) -> None:
        asked = [key for key, one in self.said.items() if one.is_open]
        activity, child = asked[which % len(asked)]
        one, pupil = self.said[activity, child], str(self.pupils[child].id)
        lanes = self.ask("GET", f"/api/activities/{activity}/lanes")
        row = next(row for row in lanes["children"] if row["pupil_id"] == pupil)
        for flag in row["flags"]:
            self.ask("POST", f"/api/attempts/{one.head}/confirm", {"flag": flag["code"]})
        self.what_is_asked(activity)
        assert not self.said[activity, child].is_open

    @rule()
    def another_go(self) -> None:
        """All of the week once more: on the course of the go before."""
        choice = {"class_id": self.world.school_class.id}
        made = self.ask("POST", f"{self.week}/again", choice)
        for one in self.come(made["id"]):
            assert one.version == self.challenge.protocol.number
            assert one.course == (self.course or 10000)

    @rule(which=WHICH, mark=st.sampled_from(["30", "41"]))
    def a_rival_is_timed_beside(self, which: int, mark: str) -> None:
        """Its mark is of the course that the class is on."""
        known = {"test": self.tests[RUNS], "version": self.challenge.protocol.number}
        here = [
            one for one in self.there
            if {"test": one.test, "version": one.version} == known
        ]  # fmt: skip
        if not here:
            return
        one = here[which % len(here)]
        path = f"/api/activities/{one.id}/rivals/{self.challenge.id}"
        made = self.ask("PUT", path, {"typed": mark, "sure": True})
        rival = next(row["rival"] for row in made if row["challenge_id"] == str(self.challenge.id))
        assert rival["course"] == f"{(one.course or 0) // 1000} m"
        assert rival["typed"] == mark, rival

    # What holds throughout

    @invariant()
    def what_is_kept_is_what_was_said(self) -> None:
        for (activity, child), one in self.said.items():
            kept = Attempt.objects.select_related("protocol").get(
                activity=activity, pupil=self.pupils[child], successor=None
            )
            assert (str(kept.id), kept.typed, kept.variant, kept.wave, kept.estimate) == (
                one.head, one.typed, one.form, one.wave, one.about,
            )  # fmt: skip
            assert (kept.value, kept.protocol.number, kept.protocol.seconds) == (
                int(one.number), one.version, one.seconds,
            )  # fmt: skip
            assert kept.conditions.get("course_mm") == one.course

    @invariant()
    def the_sheet_and_the_table_say_it(self) -> None:
        for there in self.there:
            lanes = self.ask("GET", f"/api/activities/{there.id}/lanes")
            assert lanes["seconds"] == there.seconds
            lesson = lanes["lesson_id"]
            grid = self.ask("GET", f"/api/lessons/{lesson}/grid")
            place = [test["activity_id"] for test in grid["tests"]].index(there.id)
            for child, pupil in enumerate(self.pupils):
                row = next(one for one in lanes["children"] if one["pupil_id"] == str(pupil.id))
                cells = next(one for one in grid["children"] if one["pupil_id"] == str(pupil.id))
                one = self.said.get((there.id, child))
                for score in (row["score"], cells["cells"][place]["score"]):
                    if one is None:
                        assert score is None
                    else:
                        self.tells(score, one)

    @invariant()
    def the_childs_page_says_it(self) -> None:
        for child, pupil in enumerate(self.pupils):
            page = self.ask("GET", f"/api/pupils/{pupil.id}")
            rows = {row["id"]: row for test in page["tests"] for row in test["history"]}
            mine = {one.head: one for (_, who), one in self.said.items() if who == child}
            assert set(rows) == set(mine)
            for head, one in mine.items():
                self.tells(rows[head]["score"], one)
                assert rows[head]["variant"] == FORMS[one.form]
                assert rows[head]["conditions"] == one.course_words

    @invariant()
    def the_board_says_it(self) -> None:
        """Of each child and test one score: whichever it is, as it was kept."""
        board = self.ask("GET", f"/api/classes/{self.world.school_class.id}/board")
        rows = {row["pupil_id"]: row["cells"] for row in board["children"]}
        for child, pupil in enumerate(self.pupils):
            mine = {one.head: one for (_, who), one in self.said.items() if who == child}
            for cell in rows[str(pupil.id)]:
                if cell["attempt_id"] is None:
                    continue
                one = mine[cell["attempt_id"]]
                assert (cell["typed"], cell["form"], cell["estimate"]) == (
                    one.typed, FORMS[one.form], one.about,
                )  # fmt: skip

    @invariant()
    def the_file_says_it(self) -> None:
        for there in self.there:
            said = {child: self.said.get((there.id, child)) for child in range(CHILDREN)}
            if not any(said.values()):
                continue
            answer = self.world.teacher.ask("GET", f"/api/activities/{there.id}/scores.csv")
            text = answer.content.decode().removeprefix("\ufeff")
            rows = {row["given_name"]: row for row in csv.DictReader(io.StringIO(text))}
            for child, one in said.items():
                row = rows[self.pupils[child].given_name]
                assert (row["test"], row["protocol_version"], row["seconds"]) == (
                    there.name, str(there.version), str(there.seconds),
                )  # fmt: skip
                if one is None:
                    assert row["status"] == "not recorded"
                    continue
                status = "open" if one.is_open else "estimate" if one.about else "measured"
                assert (row["raw"], row["variant"], row["conditions"], row["status"]) == (
                    one.typed, one.form, one.course_words, status,
                )  # fmt: skip
                assert (row["wave"], row["value"]) == (str(one.wave or ""), one.number)

    @staticmethod
    def tells(score: dict[str, Any], one: Statement) -> None:
        assert (score["id"], score["typed"], score["variant"], score["wave"]) == (
            one.head, one.typed, one.form, one.wave,
        )  # fmt: skip
        assert (score["estimate"], score["open"]) == (one.about, one.is_open)
        assert score["shown"].strip("~≈ about").startswith(one.number), (score["shown"], one)
        assert score["conditions"].get("course_mm") == one.course


def test_meaning_travels_with_every_score(world: World) -> None:
    class Here(AnyMeaning):
        pass

    Here.world = world
    run_state_machine_as_test(Here, settings=settings(MANY, max_examples=5, stateful_step_count=15))
