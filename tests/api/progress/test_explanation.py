"""Why a score is judged as it is, step by step."""

from __future__ import annotations

from tests.api.asking import get, tested
from tests.api.conftest import World


def test_why_goes_from_what_was_typed_to_the_next_aim(world: World) -> None:
    tested(world)
    lanes = get(world.teacher, f"/api/activities/{world.activity.id}/lanes")["children"]
    score = lanes[0]["score"]
    why = get(world.teacher, f"/api/attempts/{score['id']}/why")
    assert (why["shown"], why["words"], why["name"]) == ("34", lanes[0]["words"], lanes[0]["name"])
    # One lane alone has a scale of its own; what stands on it is the same.
    for part in ("rungs", "earlier", "today", "best", "band", "variant"):
        assert why["lane"][part] == lanes[0]["lane"][part]
    steps = {step["what"]: step for step in why["steps"]}
    assert list(steps) == [
        "Entry as typed", "Saved as", "Rung", "Day-to-day variation", "Change", "Best so far",
        "Next target",
    ]  # fmt: skip
    assert "“34”" in steps["Entry as typed"]["words"]
    assert "34 − 18 = 16" in steps["Change"]["words"]
    assert "1.645 × √2" in steps["Change"]["words"] and "Weir 2005" in steps["Change"]["source"]
    assert "typical error" in steps["Day-to-day variation"]["words"]
    assert "starting value" in steps["Day-to-day variation"]["source"]
    assert steps["Next target"]["words"].startswith(lanes[0]["target"])


def test_why_of_what_has_no_value_or_was_taken_back_says_so(world: World) -> None:
    absent = world.record(world.pupils[0], "a")
    why = get(world.teacher, f"/api/attempts/{absent.id}/why")
    assert (why["shown"], why["lane"]) == ("absent", None)
    assert [step["what"] for step in why["steps"]] == ["Entry as typed"]
    corrected = world.record(world.pupils[0], "12", succeeds=absent.id)
    again = get(world.teacher, f"/api/attempts/{corrected.id}/why")
    assert "before that “a”" in again["steps"][0]["words"]
