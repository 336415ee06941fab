"""Challenges week after week."""

from __future__ import annotations

from lauf.rules.judging.series import A_FEW, WeekDone, like, story


def test_a_story_says_what_a_child_did_and_nothing_of_others() -> None:
    assert story([]) == story([WeekDone(0, 0, 0)]) == "has not taken part yet"
    assert story([WeekDone(3, 0, 0)]) == "took part in 1 of 1 week"
    assert story([WeekDone(1, 1, 0), WeekDone(2, 1, 1)]) == (
        "took part in 2 of 2 weeks, improved with another attempt 2 times, beat a rival once"
    )


def test_what_is_like_a_test_is_of_its_family_and_asks_the_same_of_the_body() -> None:
    tests = {
        "Hops": ("reps", frozenset({"legs", "aerobic"})),
        "Squats": ("reps", frozenset({"legs"})),
        "Jumps": ("reps", frozenset({"legs", "aerobic"})),
        "Press-ups": ("reps", frozenset({"push"})),
        "Plank": ("hold", frozenset({"core"})),
    }
    assert like(["Hops"], tests) == ["Jumps", "Squats", "Press-ups"]
    assert like(["Hops", "Jumps"], tests) == ["Squats", "Press-ups"]
    assert like([], tests) == [] and like(["gone"], tests) == []
    many = {f"t{n:02}": ("reps", frozenset({"legs"})) for n in range(20)}
    assert like(["t03"], many) == [f"t{n:02}" for n in range(A_FEW + 1) if n != 3]
