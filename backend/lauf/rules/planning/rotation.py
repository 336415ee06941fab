"""Groups over stations: who is where in which round; and how groups are made."""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Final, TypeVar

from lauf.messages import say, say_many


class GroupsBy(StrEnum):
    """How groups were made; by hand, from when one of them was changed."""

    HOUSE = "house"
    OWN = "own"
    RANDOM = "random"
    BALANCED = "balanced"
    HAND = "hand"


#: Steps of the search after which the best found stands, said to be so.
MOST_STEPS: Final = 120_000

#: Up to so many places the fewest clashes of a turn are worked out beforehand.
MOST_PLACES: Final = 9

Child = TypeVar("Child")


@dataclass(frozen=True, slots=True)
class Station:
    """One station: the parts it loads, and how many groups it holds at once."""

    name: str
    loads: frozenset[str] = frozenset()
    capacity: int = 1


@dataclass(frozen=True, slots=True)
class Rotation:
    """Station index by round and group, how often a group meets the same load twice running, what
    was given up, in words, and whether nothing better is possible for certain."""

    rounds: tuple[tuple[int, ...], ...]
    same_load: int
    gave_up: tuple[str, ...]
    proved: bool


def rotate(stations: Sequence[Station], groups: int, rounds: int) -> Rotation:
    """Each group at each station at most once, capacities kept, and fewest neighbours with the
    same load: by branch and bound, from the walk of all groups round one cycle. Raises ValueError
    when it cannot be done at all."""
    places = sum(one.capacity for one in stations)
    if groups < 1 or rounds < 1:
        raise ValueError(say("A rotation has at least one group and one round."))
    if groups > places:
        raise ValueError(
            say(
                "{groups} groups need {groups} places, but there are only {places}.",
                groups=groups,
                places=places,
            )
        )
    if rounds > len(stations):
        raise ValueError(
            say(
                "{rounds} rounds need as many stations, but there are only {stations}.",
                rounds=rounds,
                stations=len(stations),
            )
        )
    search = _Search(stations, groups, rounds)
    search.run()
    if search.best is None:
        raise ValueError(
            say(
                "There is not enough room for {groups} groups at {rounds} different stations.",
                groups=groups,
                rounds=rounds,
            )
        )
    gave_up = []
    if rounds < len(stations):
        left = len(stations) - rounds
        gave_up.append(
            say_many("Every group misses {n} station.", "Every group misses {n} stations.", left)
        )
    if search.least:
        gave_up.append(
            say_many(
                "Once, a group works the same part of the body twice running.",
                "{n} times, a group works the same part of the body twice running.",
                search.least,
            )
        )
    if not search.proved:
        gave_up.append(say("A better rotation may exist. This is the best one found."))
    return Rotation(search.best, search.least, tuple(gave_up), search.proved)


class _Search:
    """Fills the table cell by cell, round after round, and leaves what cannot become better."""

    def __init__(self, stations: Sequence[Station], groups: int, rounds: int) -> None:
        self._n, self._groups, self._rounds = len(stations), groups, rounds
        self._capacity = [one.capacity for one in stations]
        self._clash = [
            [int(bool(one.loads & other.loads)) for other in stations] for one in stations
        ]
        # Whatever comes, a group pays at least this for one move, and all groups this together.
        self._least_move = [
            min((self._clash[a][b] for b in range(self._n) if b != a), default=0)
            for a in range(self._n)
        ]
        self._least_turn = _least_turn(self._clash, self._capacity, groups)
        self._table = [[-1] * groups for _ in range(rounds)]
        self._been = [0] * groups
        self._steps = 0
        self.best: tuple[tuple[int, ...], ...] | None = None
        self.least = 0
        self.proved = True

    def run(self) -> None:
        self._cycle()
        self._fill(0, 0, 0, [0] * self._n)

    def _cycle(self) -> None:
        """Everybody moves on by one station: a good beginning where capacities are one."""
        if self._groups > self._n:
            return
        order = _greedy_cycle(self._clash)
        table = tuple(
            tuple(order[(group + turn) % self._n] for group in range(self._groups))
            for turn in range(self._rounds)
        )
        self.best = table
        self.least = sum(
            self._clash[table[turn][group]][table[turn + 1][group]]
            for turn in range(self._rounds - 1)
            for group in range(self._groups)
        )

    def _fill(self, turn: int, group: int, cost: int, used: list[int]) -> None:
        if not self.proved:
            return
        self._steps += 1
        if self._steps > MOST_STEPS:
            self.proved = False
            return
        if self.best is not None and cost + self._bound(turn, group) >= self.least:
            return
        if group == self._groups:
            if turn + 1 == self._rounds:
                self.best, self.least = tuple(map(tuple, self._table)), cost
                return
            self._fill(turn + 1, 0, cost, [0] * self._n)
            return
        before = self._table[turn - 1][group] if turn else -1
        # Groups are alike: at the beginning they stand in the order of the stations.
        first = self._table[0][group - 1] if turn == 0 and group else 0
        choices = [
            one
            for one in range(first, self._n)
            if used[one] < self._capacity[one] and not self._been[group] >> one & 1
        ]
        if turn:
            choices.sort(key=lambda one: self._clash[before][one])
        for one in choices:
            self._table[turn][group] = one
            self._been[group] |= 1 << one
            used[one] += 1
            self._fill(turn, group + 1, cost + (self._clash[before][one] if turn else 0), used)
            used[one] -= 1
            self._been[group] ^= 1 << one

    def _bound(self, turn: int, group: int) -> int:
        """What the moves still to come cost at least."""
        if turn == 0:
            return self._least_turn * (self._rounds - 1)
        moving = sum(self._least_move[self._table[turn - 1][g]] for g in range(group, self._groups))
        if group == 0:
            moving = max(moving, self._least_turn)
        return moving + self._least_turn * (self._rounds - 1 - turn)


def _least_turn(clash: Sequence[Sequence[int]], capacity: Sequence[int], groups: int) -> int:
    """The fewest clashes when so many groups move on at once: an assignment of places to places,
    found over all sets of places taken."""
    places = [one for one, room in enumerate(capacity) for _ in range(room)]
    if len(places) > MOST_PLACES:
        return 0
    # fewest[taken] = clashes, with as many groups moved as places are taken
    fewest = {0: 0}
    for source in places:
        grown = dict(fewest)  # nobody stood there
        for taken, cost in fewest.items():
            for target, station in enumerate(places):
                if taken >> target & 1 or station == source:
                    continue
                asked, new = taken | 1 << target, cost + clash[source][station]
                if new < grown.get(asked, new + 1):
                    grown[asked] = new
        fewest = grown
    full = [cost for taken, cost in fewest.items() if taken.bit_count() == groups]
    return min(full, default=0)


def _greedy_cycle(clash: Sequence[Sequence[int]]) -> list[int]:
    order, left = [0], set(range(1, len(clash)))
    while left:
        following = min(sorted(left), key=lambda one: clash[order[-1]][one])
        order.append(following)
        left.remove(following)
    return order


def random_groups(children: Sequence[Child], groups: int, seed: int) -> list[list[Child]]:
    """Groups at random, sizes as even as can be; the same seed gives the same groups."""
    mixed = list(children)
    random.Random(seed).shuffle(mixed)
    return [mixed[place::groups] for place in range(groups)]


def balanced_groups(
    children: Sequence[tuple[Child, float | None]], groups: int
) -> list[list[Child]]:
    """Groups of about equal strength: the children in order of a score (those without one in the
    middle) are dealt out to and fro, so that sizes differ by one at most."""
    known = sorted(score for _, score in children if score is not None)
    middle = known[len(known) // 2] if known else 0.0
    ordered = sorted(children, key=lambda one: -(middle if one[1] is None else one[1]))
    dealt: list[list[Child]] = [[] for _ in range(groups)]
    for place, (child, _) in enumerate(ordered):
        turn, at = divmod(place, groups)
        dealt[at if turn % 2 == 0 else groups - 1 - at].append(child)
    return dealt
