"""What judges judge by, read once for a page: ladders, repeat tests and norms."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from datetime import date
from uuid import UUID

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import (
    KeptLadder,
    Norm,
    ladders_for,
    ladders_of,
    norms_for,
    norms_of,
)
from lauf.judgement.judge import Judge
from lauf.records.queries import Repeats, repeats_of


class Judges:
    """Judges of several tests for any year group, each made once."""

    def __init__(
        self,
        protocols: Mapping[UUID, ProtocolVersion],
        ladders: Sequence[KeptLadder],
        repeats: Repeats,
        norms: Sequence[Norm],
    ) -> None:
        self._protocols = protocols
        self._ladders = ladders
        self._repeats = repeats
        self._norms = norms
        self._made: dict[tuple[UUID, UUID], Judge] = {}

    def of(self, test_id: UUID, year_group_id: UUID) -> Judge:
        """The judge of one test for one year group."""
        asked = (test_id, year_group_id)
        if asked not in self._made:
            ladders = [
                kept.ladder
                for kept in self._ladders
                if kept.test_id == test_id and kept.year_group_id in (None, year_group_id)
            ]
            norms = [norm for norm in self._norms if norm.test_id == test_id]
            protocol = self._protocols[test_id]
            self._made[asked] = Judge(protocol, ladders, self._repeats, norms)
        return self._made[asked]


def judges_for(
    protocols: Mapping[UUID, ProtocolVersion],
    before: date,
    year_groups: Collection[UUID] | None = None,
) -> Judges:
    """Judges of these tests (by their ids), by repeat tests before a day; for every year group,
    or for some. Two queries and one a test. Centiles of height and weight are for the growth
    record alone."""
    shown = [test for test, version in protocols.items() if not version.test.private]
    return Judges(
        protocols,
        ladders_for(protocols, year_groups),
        repeats_of((protocols[test] for test in shown), before),
        norms_for(shown),
    )


def judge_for(protocol: ProtocolVersion, year_group_id: UUID, before: date) -> Judge:
    """The judge of one test for one year group, by repeat tests before a day. Three queries."""
    private = protocol.test.private
    return Judge(
        protocol,
        ladders_of(protocol.test_id, year_group_id),
        {} if private else repeats_of([protocol], before),
        # Centiles of height and weight are in no class view.
        () if private else norms_of(protocol.test_id),
    )
