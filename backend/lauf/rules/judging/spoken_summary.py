"""What a class found, in sentences fit to be read aloud: of all together, never of one child, and
nothing of who went down."""

from __future__ import annotations

from collections.abc import Sequence

_NUMBERS = (
    "None", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight", "Nine", "Ten", "Eleven",
    "Twelve",
)  # fmt: skip


def number_word(number: int) -> str:
    """ "Seven", and from thirteen on digits."""
    return _NUMBERS[number] if number < len(_NUMBERS) else str(number)


def of_us(number: int, class_size: int) -> str:
    """ "Seven of us", "All of us", "One of us"."""
    return "All of us" if number == class_size > 1 else f"{number_word(number)} of us"


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
    said = [f"{of_us(took_part, children)} did {test}."]
    if together:
        said.append(f"Together we made {together}.")
    if better:
        got = "has" if better == 1 else "have"
        said.append(f"{of_us(better, took_part)} {got} really got better at it.")
    if bests:
        made = "a new best of their own" if bests == 1 else "new bests of their own"
        said.append(f"{of_us(bests, took_part)} made {made}.")
    half = [(name, count) for name, count in rungs if 2 * count >= took_part]
    if half:
        name, count = half[-1]
        said.append(f"{of_us(count, took_part)} reached {name} or more.")
    return said
