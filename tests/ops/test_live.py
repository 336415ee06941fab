"""Events of a lesson, from a served Lauf: told at once, to whom they concern, and after a gap."""

from __future__ import annotations

from collections.abc import Iterator

import psycopg
import pytest

from tests.support import templates
from tests.support.devices import Device, a_lesson, score
from tests.support.served import Served, as_url, served, wait_for


@pytest.fixture(scope="module")
def lauf(tmp_path_factory: pytest.TempPathFactory, worker_id: str) -> Iterator[Served]:
    with served(templates.demo(tmp_path_factory, worker_id)) as running:
        yield running


def test_what_is_written_is_told_to_the_devices_of_its_lesson_and_to_no_other(
    lauf: Served,
) -> None:
    teacher, head, stranger = (Device(lauf).sign_in(one) for one in ("demo", "head", "other"))
    lesson, activity, pupils = a_lesson(teacher)
    elsewhere, _, _ = a_lesson(teacher)
    assert stranger.status("GET", f"/api/lessons/{lesson}/live") == 404
    assert Device(lauf).status("GET", f"/api/lessons/{lesson}/live") == 401
    with (
        teacher.events(f"/api/lessons/{lesson}/live") as here,
        head.events(f"/api/lessons/{elsewhere}/live") as there,
    ):
        assert next(here) == next(there) == {"what": "hello"}
        new = score(pupils[0], "20")
        teacher.ask("POST", f"/api/activities/{activity}/attempts", {**new, "wave": 1})
        told = next(here)
        assert told == {
            "what": "score", "activity": activity, "pupil": pupils[0], "entry": new["id"],
        }  # fmt: skip
        # Refused, nothing was written: nothing is told.
        wrong = {**score(pupils[1], "nonsense"), "wave": 1}
        assert teacher.status("POST", f"/api/activities/{activity}/attempts", wrong) == 422
        teacher.ask("POST", f"/api/lessons/{lesson}/close")
        assert next(here)["what"] == "plan"
        # The other lesson's device has heard of nothing but its own.
        teacher.ask("POST", f"/api/lessons/{elsewhere}/close")
        assert next(there)["what"] == "plan"


def test_a_helper_follows_until_sent_away(lauf: Served) -> None:
    teacher, helper = Device(lauf).sign_in("demo"), Device(lauf)
    lesson, activity, pupils = a_lesson(teacher)
    page = teacher.ask("POST", f"/api/lessons/{lesson}/helpers")
    helper.help(page["secret"], "Kim")
    with (
        teacher.events(f"/api/lessons/{lesson}/live") as hers,
        helper.events("/api/help/live") as his,
    ):
        assert next(hers) == next(his) == {"what": "hello"}
        helper.ask("POST", f"/api/help/activities/{activity}/attempts", score(pupils[0], "21"))
        assert next(hers)["what"] == next(his)["what"] == "score"
        teacher.ask("DELETE", f"/api/lessons/{lesson}/helpers")
        assert next(hers)["what"] == "helpers"
        assert list(his) == [{"what": "ended"}], "the stream is over"
    assert helper.status("GET", "/api/help/live") == 423


def test_a_device_hears_of_a_gap_and_streams_hold_up_no_request(lauf: Served) -> None:
    teacher = Device(lauf).sign_in("demo")
    lesson, activity, pupils = a_lesson(teacher)
    address = f"/api/lessons/{lesson}/live"
    with teacher.events(address) as here:
        assert next(here) == {"what": "hello"}
        # This server's own: others in the cluster listen too, and this one may be about to.
        ended = (
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity"
            " WHERE application_name = %s AND datname = current_database()"
        )
        with psycopg.connect(as_url(lauf.database), autocommit=True) as connection:
            wait_for(
                lambda: connection.execute(ended, ["lauf-live"]).fetchall(), lambda found: found
            )
        assert next(here) == {"what": "gap"}
        # More streams than requests that run at once: none of them is in a queue.
        many = [teacher.send("GET", address) for _ in range(40)]
        try:
            teacher.ask(
                "POST",
                f"/api/activities/{activity}/attempts",
                {**score(pupils[0], "20"), "wave": 1},
            )
            assert next(here)["what"] == "score"
        finally:
            for one in many:
                one.close()
    # It ends like a server without streams.
    with Device(lauf).sign_in("demo").events(address) as last:
        assert next(last) == {"what": "hello"}
        lauf.stop()
        assert list(last) == []
    lauf.start()
