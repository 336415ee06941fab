"""Counts, totals, hits, sides, stages and pulses."""

from __future__ import annotations

import re
from fractions import Fraction
from typing import Final

from lauf.messages import mark, say, say_many
from lauf.rules.reading.levels import (
    LEVELS,
    PLAIN,
    Level,
    Reps,
    Weights,
    read_weights,
    weighed,
    weights_typed,
)
from lauf.rules.reading.quantities import Measure
from lauf.rules.reading.readers.text import NUMBER, Parts, Read, Unreadable, ask
from lauf.rules.reading.shuttle import total_shuttles


def read_count(body: str, measure: Measure) -> Read:
    """Finished repetitions."""
    if found := re.fullmatch(r"(\d+)\s*(?:reps?|times)?", body):
        return Read(Fraction(int(found[1])))
    if re.fullmatch(NUMBER, body):
        raise Unreadable("“{typed}” is not a whole number. Count only finished ones.")
    raise Unreadable("“{typed}” is not a count.")


_COUNTED: Final = re.compile(r"(\d+)\s*([euh]?)")
_BY: Final = re.compile(r"(.*\S)\s*\bby\s+(\S.*)")


def read_total(body: str, measure: Measure) -> Read:
    """A total, or its parts: a part with c before it was carried in, the levels of a movement stand
    side by side ("20e/10/5h"), and after "by" what a rep of each level counts."""
    body, weights = _weights(body)
    carried, movements = 0, []
    for piece in (piece.strip() for piece in body.split("+")):
        found = re.fullmatch(r"c\s*(\d+)", piece)
        if found and carried:
            raise Unreadable(
                "“{typed}” carries in twice. Only one movement can be carried in, once."
            )
        if found:
            carried = int(found[1])
        else:
            movements.append(_by_level(piece))
    total = carried + weighed(movements, weights or PLAIN)
    sums = [sum(reps) for reps in movements]
    apart = weights is not None or any(reps[0] or reps[2] for reps in movements)
    made_of: Parts = {}
    if carried or len(sums) > 1 or apart:
        made_of = {"carried": carried, "movements": sums}
    if apart:
        made_of["levels"] = [list(reps) for reps in movements]
    if weights is not None:
        made_of["weights"] = weights_typed(weights)
    return Read(Fraction(total), made_of)


def _weights(body: str) -> tuple[str, Weights | None]:
    """An entry without its weights, and those; None where it has none, or each rep counts one."""
    found = _BY.fullmatch(body)
    if not found:
        return body, None
    try:
        weights = read_weights(found[2])
    except ValueError as problem:
        raise Unreadable("“{typed}” has weights that cannot be read.", str(problem)) from None
    return found[1], None if weights == PLAIN else weights


def _by_level(piece: str) -> Reps:
    """The reps of one movement by level; those without a letter are usual ones."""
    reps = dict.fromkeys(LEVELS, 0)
    seen = []
    for part in piece.split("/"):
        found = _COUNTED.fullmatch(part.strip())
        if not found:
            raise Unreadable("“{typed}” is not a total or a sum of counts.")
        level = next((one for one in LEVELS if found[2] and one.startswith(found[2])), Level.USUAL)
        if level in seen:
            raise Unreadable("“{typed}” counts the {level} reps of a movement twice.", level=level)
        seen.append(level)
        reps[level] = int(found[1])
    return reps[Level.EASIER], reps[Level.USUAL], reps[Level.HARDER]


_SHOTS: Final = re.compile(r"[xoyn](?:[\s.,;/-]*[xoyn])*")
_HITS: Final = re.compile(r"(\d+)\s*(?:hits?)?(?:\s*(?:/|of|out of)\s*(\d+))?")


def read_hits(body: str, measure: Measure) -> Read:
    """Hits out of N, or every shot: x or a tick for a hit, o or a cross beside ticks for a miss."""
    if _SHOTS.fullmatch(body):
        return _shots(re.sub(r"[\s.,;/-]", "", body), measure)
    found = _HITS.fullmatch(body)
    if not found:
        raise Unreadable("“{typed}” is not a number of hits.")
    hits, of = int(found[1]), int(found[2]) if found[2] else measure.of
    if measure.of is not None and of != measure.of:
        raise Unreadable(
            "“{typed}” is out of {of}, but this test has {of2}.", of=of, of2=measure.of
        )
    if of is not None and hits > of:
        raise Unreadable("“{typed}” is more than the {of} there are.", of=of)
    return Read(Fraction(hits), {"of": of} if of is not None else {})


def _shots(shots: str, measure: Measure) -> Read:
    if measure.of is not None and len(shots) != measure.of:
        raise Unreadable(
            "“{typed}” has {shots}, not {of}.",
            shots=say_many("{n} shot", "{n} shots", len(shots)),
            of=measure.of,
        )
    signs = set(shots)
    if "y" in signs:
        if {"x", "o"} <= signs or ("n" in signs and signs & {"x", "o"}):
            raise Unreadable(
                "“{typed}” mixes ticks, crosses and letters. Is a cross a hit or a miss?"
            )
        plain = "".join("x" if sign == "y" else "o" for sign in shots)
    elif "n" in signs and signs & {"x", "o"}:
        raise Unreadable("“{typed}” mixes ticks, crosses and letters. Is a cross a hit or a miss?")
    elif signs == {"x"}:
        raise ask(
            "“{typed}” has only crosses.",
            (str(len(shots)), say("all {shots} hits", shots=len(shots))),
            ("0", "none"),
        )
    else:
        plain = shots.replace("n", "o")
    return Read(Fraction(plain.count("x")), {"shots": plain, "of": len(plain)})


_SIDE: Final = {"l": "left", "left": "left", "r": "right", "right": "right"}
_ANSWER: Final = {"y": True, "yes": True, "tick": True, "1": True,
                  "n": False, "no": False, "-": False, "0": False}  # fmt: skip
_CROSSES: Final = {"x", "cross"}
#: Both sides in words: left, right.
_WHOLE: Final = {
    "both": (True, True), "b": (True, True), "2": (True, True), "2/2": (True, True),
    "2 of 2": (True, True), "none": (False, False), "neither": (False, False),
    "0/2": (False, False), "0 of 2": (False, False), "left only": (True, False),
    "only left": (True, False), "right only": (False, True), "only right": (False, True),
}  # fmt: skip
_SIDE_WORDS: Final = re.compile(r"left|right|yes|no|tick|cross|[lrynx10-]")
_EACH: Final = mark("“{typed}” does not say yes or no for each side.")


def read_sides(body: str, measure: Measure) -> Read:
    """Yes or no for each side: named in any order, or left then right. A cross beside a tick is a
    no; crosses alone are asked about."""
    if re.fullmatch(r"-[\s,;/]*-", body):
        raise ask("“{typed}” could be neither side, or not tested.", ("none", say("neither side")))
    if (whole := _WHOLE.get(body)) is None:
        whole = _each_side(_side_words(body))
    left, right = whole
    return Read(Fraction(left + right), {"left": left, "right": right})


def _side_words(body: str) -> list[str]:
    words = _SIDE_WORDS.findall(re.sub(r"[\s.,;:/=]+", " ", body))
    if "".join(words) != re.sub(r"[\s.,;:/=]", "", body):
        raise Unreadable(_EACH)
    return list(words)


def _each_side(words: list[str]) -> tuple[bool, bool]:
    if len(words) == 1 and words[0] in _SIDE:
        side = _SIDE[words[0]]
        both = "L y R n" if side == "left" else "L n R y"
        raise ask("“{typed}” does not give the other side.", (both, say("{side} only", side=side)))
    order, answers = _sides_and_answers(words)
    if _CROSSES & set(answers) and not any(_ANSWER.get(word) for word in answers):
        crossed = [side for side, word in zip(order, answers, strict=True) if word in _CROSSES]
        raise ask(
            "“{typed}” has crosses. Is a cross yes or no?",
            ("none", say("crosses mean no (neither side)")),
            (
                "both" if len(crossed) == 2 else f"{crossed[0]} only",
                say("crosses mean yes"),
            ),
        )
    answered = (_ANSWER.get(word, False) for word in answers)  # beside a tick a cross is a no
    given = dict(zip(order, answered, strict=True))
    return given["left"], given["right"]


def _sides_and_answers(words: list[str]) -> tuple[list[str], list[str]]:
    """The sides in the order they are answered in, left before right where none is named, and
    their answers."""
    answers = [word for word in words if word not in _SIDE]
    named = [_SIDE[word] for word in words if word in _SIDE]
    if len(set(named)) < len(named):
        raise Unreadable("“{typed}” names a side twice.")
    paired = not named or [word in _SIDE for word in words] in _PAIRED
    if len(answers) != 2 or len(named) == 1 or not paired:
        raise Unreadable(_EACH)
    return named or ["left", "right"], answers


#: Side, answer, side, answer; or the answer first; or both sides before both answers.
_PAIRED: Final = ([True, False, True, False], [False, True, False, True],
                  [True, True, False, False])  # fmt: skip


def read_stage(body: str, measure: Measure) -> Read:
    """The last completed stage and shuttle."""
    found = re.fullmatch(
        r"(?:stage|level)?\s*(\d+)\s*(?:[.:/, ]|shuttles?)\s*(?:shuttles?)?\s*(\d+)", body
    )
    if not found:
        raise Unreadable("“{typed}” is not a stage and a shuttle.")
    stage, shuttle = int(found[1]), int(found[2])
    try:
        total = total_shuttles(stage, shuttle, measure.schedule)
    except ValueError as problem:
        raise Unreadable("“{typed}” is not possible: {problem}.", problem=problem) from None
    return Read(Fraction(total), {"stage": stage, "shuttle": shuttle})


_BEATS: Final = re.compile(r"(\d+)\s*(?:beats?)?\s*(?:/|in)\s*(10|15|20|30|60)\s*(?:s|secs?|"
                           r"seconds?)?")  # fmt: skip
_TIMES: Final = re.compile(r"(\d+)\s*x\s*(6|4|3|2)")


def read_pulse(body: str, measure: Measure) -> Read:
    """Beats a minute, or beats in so many seconds."""
    if found := _BEATS.fullmatch(body):
        beats, seconds = int(found[1]), int(found[2])
        return Read(Fraction(beats * 60, seconds), {"beats": beats, "seconds": seconds})
    if found := _TIMES.fullmatch(body):
        beats, seconds = int(found[1]), 60 // int(found[2])
        return Read(Fraction(beats * 60, seconds), {"beats": beats, "seconds": seconds})
    if found := re.fullmatch(r"(\d+)\s*(?:bpm|a minute)?", body):
        return Read(Fraction(int(found[1])))
    raise Unreadable("“{typed}” is not a pulse.")
