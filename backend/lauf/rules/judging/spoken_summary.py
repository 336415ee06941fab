"""What a class found, in sentences fit to be read aloud: of all together, never of one child, and
nothing of who went down."""

from __future__ import annotations

from collections.abc import Sequence

from lauf.messages import say, say_many

_NUMBERS = (
    say("None"), say("One"), say("Two"), say("Three"), say("Four"), say("Five"), say("Six"),
    say("Seven"), say("Eight"), say("Nine"), say("Ten"), say("Eleven"), say("Twelve"),
)  # fmt: skip


def number_word(number: int) -> str:
    """ "Seven", and from thirteen on digits."""
    return _NUMBERS[number] if number < len(_NUMBERS) else str(number)


def of_us(number: int, class_size: int) -> str:
    """ "Seven of us", "All of us", "One of us"."""
    return (
        say("All of us")
        if number == class_size > 1
        else say("{number_word} of us", number_word=number_word(number))
    )


def aloud(
    test: str,
    *,
    took_part: int,
    children: int,
    better: int,
    bests: int,
    together: str,
    rungs: Sequence[tuple[str, int]],
) -> list[str]:
    """Sentences about one test of a lesson; none where nobody has a score.

    better     changed for the better beyond day-to-day variation
    bests      with a new best
    together   all scores added up, where that means something: "512 reps"; "" otherwise
    rungs      from the lowest up: name, and how many reached it or more
    """
    if not took_part:
        return []
    sentences = [say("{of_us} did {test}.", of_us=of_us(took_part, children), test=test)]
    if together:
        sentences.append(say("Together we made {together}.", together=together))
    if better:
        sentences.append(
            say_many(
                "{of_us} has really got better at it.",
                "{of_us} have really got better at it.",
                better,
                of_us=of_us(better, took_part),
            )
        )
    if bests:
        sentences.append(
            say_many(
                "{of_us} made a new best of their own.",
                "{of_us} made new bests of their own.",
                bests,
                of_us=of_us(bests, took_part),
            )
        )
    half = [(name, count) for name, count in rungs if 2 * count >= took_part]
    if half:
        name, count = half[-1]
        sentences.append(
            say("{of_us} reached {name} or more.", of_us=of_us(count, took_part), name=name)
        )
    return sentences
