"""Forms by generator, as people write what they have measured: whatever is certain is read as what
was meant exactly, and whatever could be meant in two ways comes back.

The ways of writing are common practice; what each means is worked out here with exact fractions,
past the readers."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator
from fractions import Fraction
from typing import Final

import pytest

from lauf.rules.reading.entry import EntryError, read_entry
from lauf.rules.reading.quantities import Measure, to_step
from tests.rules.reading.entries import (
    BOX,
    COUNT,
    HITS,
    HOLD,
    IN_METRES,
    LAPS,
    LONG_JUMP,
    MANY,
    MILE,
    REACH,
    SPRINT,
    THROW,
    TOTAL,
    WEIGHT,
)

MANY_FORMS: Final = 2_000
INCH, FOOT, POUND = Fraction("25.4"), Fraction("304.8"), Fraction("453.59237")
#: A form, its measure, and what it means in canonical units before it is rounded.
Meant = tuple[str, Measure, Fraction]
Chance = random.Random


def _two(number: int) -> str:
    return f"{number:02d}"


def counted(dice: Chance) -> Meant:
    n = dice.randint(0, 60)
    return (
        dice.choice((f"{n}", f" {n} ", f"{n} reps", f"{n}reps", f"{n} times")),
        COUNT,
        Fraction(n),
    )


def thousands(dice: Chance) -> Meant:
    n = dice.randint(1000, 4999)
    return dice.choice((f"{n}", f"{n // 1000},{n % 1000:03d}")), MANY, Fraction(n)


def clocked(dice: Chance) -> Meant:
    minutes, seconds = dice.randint(5, 50), dice.randint(0, 59)
    form = dice.choice(
        ("{m}:{ss}", "{m}m{ss}", "{m} min {s} s", "{m}'{ss}\"", "{m}′{ss}″", "{m}:{ss} min",
         "{m} minutes and {s} seconds", "{m} mins {s} secs")
    )  # fmt: skip
    text = form.format(m=minutes, s=seconds, ss=_two(seconds))
    return text, MILE, Fraction((minutes * 60 + seconds) * 1000)


def held(dice: Chance) -> Meant:
    tenths = dice.randint(600, 3599)  # from a minute on no decimal is a clock's
    text = f"{tenths // 10}.{tenths % 10}"
    form = dice.choice(("{t}", "{t}s", "{t} sec", "{c} seconds"))
    return form.format(t=text, c=text.replace(".", ",")), HOLD, Fraction(tenths * 100)


def sprinted(dice: Chance) -> Meant:
    hundredths = dice.randint(660, 1990)
    text = f"{hundredths // 100}.{_two(hundredths % 100)}"
    return (
        dice.choice((text, text.replace(".", ","), f"{text} s")),
        SPRINT,
        Fraction(hundredths * 10),
    )


def jumped(dice: Chance) -> Meant:
    cm = dice.randint(81, 399)
    metres = f"{cm // 100}.{_two(cm % 100)}"
    forms = (f"{cm}", f"{cm}cm", f"{cm} cm", f"{metres}m", f"{metres} metres",
             f"{metres.replace('.', ',')} m", f"{cm * 10}mm")  # fmt: skip
    extra = (f"{cm // 100}m{_two(cm % 100)}", f"{cm // 100} m {cm % 100} cm") if cm >= 100 else ()
    return dice.choice((*forms, *extra)), LONG_JUMP, Fraction(cm * 10)


def in_feet(dice: Chance) -> Meant:
    feet, inches, half = dice.randint(3, 11), dice.randint(0, 11), dice.random() < 0.3
    mark = dice.choice(("½", " 1/2")) if half else ""
    form = dice.choice(
        ("{f}ft {i}{h}in", "{f} ft {i}{h}", "{f}'{i}{h}\"", "{f} feet {i}{h} inches")
    )
    text = form.format(f=feet, i=inches, h=mark)
    return text, LONG_JUMP, feet * FOOT + (inches + Fraction(int(half), 2)) * INCH


def in_inches(dice: Chance) -> Meant:
    inches, quarters = dice.randint(20, 140), dice.randint(0, 3)
    mark = {0: "", 1: " 1/4", 2: "½", 3: "¾"}[quarters]
    unit = dice.choice(("in", " inches", '"'))
    return f"{inches}{mark}{unit}", LONG_JUMP, (inches + Fraction(quarters, 4)) * INCH


def thrown(dice: Chance) -> Meant:
    cm = dice.randint(610, 2999)
    return dice.choice((f"{cm}", f"{cm // 100}.{_two(cm % 100)}m")), THROW, Fraction(cm * 10)


def in_whole_metres(dice: Chance) -> Meant:
    dm = dice.randint(20, 590)
    return (
        dice.choice((f"{dm // 10}.{dm % 10}", f"{dm // 10}.{dm % 10} m")),
        IN_METRES,
        Fraction(dm * 100),
    )


def marked(dice: Chance) -> Meant:
    low, up = dice.randint(100, 190), dice.randint(10, 45)
    form = dice.choice(("{a} {b}", "{a}-{b}", "{a} to {b}", "{a} -> {b}", "{a}; {b}"))
    return form.format(a=low, b=low + up), REACH, Fraction(up * 10)


def reached(dice: Chance) -> Meant:
    cm = dice.randint(-30, 30)
    text = f"{cm:+d}" if cm else "0"
    return dice.choice((text, f"{text}cm", text.replace("-", "−"))), BOX, Fraction(cm * 10)


def hit(dice: Chance) -> Meant:
    shots = [dice.choice("xo") for _ in range(10)]
    n = shots.count("x")
    return dice.choice((f"{n}", f"{n}/10", f"{n} of 10", "".join(shots))), HITS, Fraction(n)


def run_in_laps(dice: Chance) -> Meant:
    laps, metres = dice.randint(2, 40), dice.randint(1, 47)
    return f"{laps} laps + {metres} m", LAPS, Fraction(laps * 48_000 + metres * 1000)


def summed(dice: Chance) -> Meant:
    parts = [dice.randint(1, 90) for _ in range(dice.randint(2, 4))]
    return dice.choice((" + ", "+")).join(map(str, parts)), TOTAL, Fraction(sum(parts))


def weighed(dice: Chance) -> Meant:
    if dice.random() < 0.5:
        hectograms = dice.randint(150, 800)
        return f"{hectograms // 10}.{hectograms % 10}", WEIGHT, Fraction(hectograms * 100)
    pounds = dice.randint(40, 200)
    return dice.choice((f"{pounds}lb", f"{pounds} lbs")), WEIGHT, pounds * POUND


CERTAIN: Final[tuple[Callable[[Chance], Meant], ...]] = (
    counted, thousands, clocked, held, sprinted, jumped, in_feet, in_inches, thrown,
    in_whole_metres, marked, reached, hit, run_in_laps, summed, weighed,
)  # fmt: skip


def forms() -> Iterator[Meant]:
    dice = Chance(27)
    for number in range(MANY_FORMS):
        yield CERTAIN[number % len(CERTAIN)](dice)


def test_two_thousand_certain_forms_are_read_as_they_were_meant() -> None:
    bent = []
    for text, measure, meant in forms():
        try:
            found = read_entry(text, measure)
        except EntryError as problem:
            bent.append((text, measure.kind.value, str(problem)[:60]))
            continue
        if found.value != to_step(meant, measure.resolution):
            bent.append((text, measure.kind.value, str(found.value)))
    assert not bent, f"{len(bent)} of {MANY_FORMS}: {bent[:12]}"


#: What could be meant in two ways, or is half of something: each from a number or two.
UNCERTAIN: Final[tuple[tuple[str, Measure], ...]] = (
    ("{a}.{tt}", HOLD),  # a clock's point, or a decimal of seconds
    ("{a}:{d}", MILE), ("{a}:0{tt}", MILE), ("0:0{d}:{tt}", MILE), ("{a}'{d}", HOLD),
    ("{a}.{d} min", MILE), ("{a}:{over}", MILE), ("{a}/{d}", HOLD), ("{d}/{b}", HOLD),
    ("{a}.{d} ft", LONG_JUMP), ("{a}.{d}'", LONG_JUMP), ("{a}m {d}", LONG_JUMP),
    ("{a}.{tt}", LONG_JUMP), ("1.{tt}", LONG_JUMP), ("{a}ft 1{t}in", LONG_JUMP),
    ("{a}/{b}", LONG_JUMP), ("1,{ttt}", IN_METRES), ("1.{ttt}m", LAPS),
    ("{a}.{d}", COUNT), ("-{a}", COUNT), ("{a} or {b}", COUNT), ("{a}?", COUNT), ("{a}o", COUNT),
    ("{a} / 1{d}", HITS), ("1{d}", HITS), ("{b}.{d}.{t}", WEIGHT), ("{a}/1{b} laps", LAPS),
    ("{a}.{d} {b} laps", LAPS), ("{a}++{b}", TOTAL), ("{a}.", HOLD), ("{a}..{d}", SPRINT),
)  # fmt: skip


@pytest.mark.parametrize(("form", "measure"), UNCERTAIN, ids=lambda one: str(one)[:24])
def test_two_thousand_uncertain_forms_come_back(form: str, measure: Measure) -> None:
    """Each with words, and where readings are offered every one of them can be typed."""
    dice = Chance(form)
    each = -(-MANY_FORMS // len(UNCERTAIN))
    for _ in range(each):
        a, b = dice.randint(5, 9), dice.randint(2, 4)
        d, t = dice.randint(1, 5), dice.randint(2, 9)
        text = form.format(a=a, b=b, d=d, t=t, tt=dice.randint(10, 59), ttt=dice.randint(101, 999),
                           over=dice.randint(60, 99))  # fmt: skip
        with pytest.raises(EntryError) as refused:
            read_entry(text, measure)
        assert refused.value.message and refused.value.accepted
        for choice in refused.value.choices:
            read_entry(choice.typed, measure)
