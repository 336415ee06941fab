"""What the pulses of a class say: of all together, no more exact than the counts are."""

from __future__ import annotations

from lauf.rules.body.pulse import Moment
from lauf.rules.judging.class_pulse import ClassPulse, most_words, pulses_aloud, raised_most

TEN = 10


def counted(moment: Moment, label: str, *rates: int, seconds: int = TEN) -> ClassPulse:
    return ClassPulse(moment, label, rates, seconds)


REST = counted(Moment.REST, "", 84, 90, 78, 84, 96)
WARM = counted(Moment.WARM_UP, "", 120, 126, 114, 120, 132)
JUMPS = counted(Moment.ACTIVITY, "star jumps", 150, 156, 144, 150, 162)
KNEES = counted(Moment.ACTIVITY, "high knees", 168, 174, 162, 168, 180)
AFTER = counted(Moment.RECOVERY, "", 108, 114, 102, 108, 120)


def test_a_lesson_of_pulses_says_what_they_showed() -> None:
    assert pulses_aloud([REST, WARM, JUMPS, KNEES, AFTER], 5, 5) == [
        "All of us counted our pulse.",
        "The class median in beats a minute was 84 at rest, 120 after the warm-up, 150 after star "
        "jumps, 168 after high knees, 108 after resting.",
        "High knees raised our pulse most.",
        "It came down again at the end.",
    ]


def test_what_one_beat_makes_the_same_is_said_to_be_the_same() -> None:
    # One beat in 10 s is 6 a minute: 164 and 168 cannot be told apart, 150 and 168 can.
    close = counted(Moment.ACTIVITY, "burpees", 164, 164, 164, 164, 164)
    assert [one.label for one in raised_most([JUMPS, close, KNEES])] == ["high knees", "burpees"]
    assert most_words([JUMPS, close, KNEES]) == (
        "High knees and burpees raised our pulse most, by about the same. "
        "The class median was 164 to 168."
    )
    # A sensor counts for a whole minute: then 4 apart is apart.
    fine = [
        counted(Moment.ACTIVITY, one.label, *one.rates, seconds=60) for one in (JUMPS, close, KNEES)
    ]
    assert [one.label for one in raised_most(fine)] == ["high knees"]
    # Three at the same rate: no range where there is none.
    same = [counted(Moment.ACTIVITY, name, *KNEES.rates) for name in ("hops", "burpees")]
    assert most_words([KNEES, *same]) == (
        "High knees, hops and burpees raised our pulse most, by about the same. "
        "The class median was 168."
    )


def test_at_rest_again_and_nothing_raised() -> None:
    back = counted(Moment.RECOVERY, "", 84, 90, 84, 84, 90)
    assert (
        pulses_aloud([REST, JUMPS, back], 5, 30)[-1] == "At the end it was back to resting level."
    )
    lying = counted(Moment.ACTIVITY, "lying down", 84, 90, 84, 84, 84)
    said = " ".join(pulses_aloud([REST, lying, back], 5, 30))
    assert "raised" not in said and "came down" not in said


def test_a_few_children_are_not_told_aloud() -> None:
    few = counted(Moment.ACTIVITY, "high knees", 168, 174, 162, 168)
    said = " ".join(pulses_aloud([REST, JUMPS, few], 5, 30))
    assert "high knees" not in said and "Star jumps raised our pulse most." in said
    assert pulses_aloud([few], 4, 30) == []
    assert most_words([REST]) is None


def test_what_ends_a_lesson_is_said_of_a_recovery_alone() -> None:
    def said(*moments: ClassPulse) -> str:
        return " ".join(pulses_aloud(moments, 5, 30))

    assert "came down" not in said(REST, KNEES, JUMPS), "work at the end is no coming down"
    assert "came down" not in said(REST, counted(Moment.RECOVERY, "", 84, 90, 78, 84, 96))
    higher = counted(Moment.RECOVERY, "", 180, 186, 174, 180, 192)
    assert "came down" not in said(REST, KNEES, higher)
    assert "came down again" in said(KNEES, AFTER), "without a resting pulse too"
