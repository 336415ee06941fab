"""PDFs on their way. They are kept in this process only and for a quarter of an hour: what names a
child does not lie about. A server that was started again has forgotten them; they are made anew."""

from __future__ import annotations

import threading
import time
import uuid
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Final
from uuid import UUID

from typing_extensions import TypedDict

from lauf.errors import NotFound, Refused
from lauf.exchange.paper.apart import pdf_of
from lauf.exchange.paper.render import Part
from lauf.messages import say

_KEPT_SECONDS: Final = 15 * 60
#: How many are made for one person at once, and laid by for everybody.
_OF_ONE: Final = 10
_OF_ALL: Final = 40


@dataclass(slots=True)
class Job:
    """One PDF: how many of its pages' parts are laid out, and the file once it is there."""

    owner: UUID
    name: str
    of: int
    id: UUID = field(default_factory=uuid.uuid4)
    done: int = 0
    problem: str = ""
    file: bytes | None = None
    at: float = field(default_factory=time.monotonic)

    def one_more(self) -> None:
        """Another part is laid out: two tell so at a time."""
        with _LOCK:
            self.done += 1

    @property
    def state(self) -> Handout:
        return {
            "id": self.id, "name": self.name, "done": self.done, "of": self.of,
            "ready": self.file is not None, "problem": self.problem,
        }  # fmt: skip


_JOBS: dict[UUID, Job] = {}
_LOCK: Final = threading.Lock()
#: One is laid out at a time: it takes all processors there are, and scores go first.
_TURN: Final = threading.Lock()


class Handout(TypedDict):
    """A PDF on its way: how many of its parts are laid out; `ready` once it can be fetched."""

    id: UUID
    name: str
    done: int
    of: int
    ready: bool
    problem: str


def begin(owner: UUID, name: str, pages: Sequence[Part]) -> Job:
    """Begin to make a PDF of these pages. Raises Refused while too many are on their way."""
    job = Job(owner, name, len(pages))
    with _LOCK:
        _forget_old()
        busy = [one for one in _JOBS.values() if one.file is None and not one.problem]
        if sum(one.owner == owner for one in busy) >= _OF_ONE or len(busy) >= _OF_ALL:
            raise Refused(say("Other handouts are still being made. Wait for one of them."))
        _JOBS[job.id] = job
    threading.Thread(target=_make, args=(job, list(pages))).start()
    return job


def job_of(owner: UUID, job_id: UUID) -> Job:
    """A PDF of this person's. Raises NotFound: somebody else's, too old, or never begun."""
    with _LOCK:
        _forget_old()
        found = _JOBS.get(job_id)
    if found is None or found.owner != owner:
        raise NotFound(say("handout"))
    return found


def _make(job: Job, pages: Sequence[Part]) -> None:
    try:
        with _TURN:
            job.file = pdf_of(job.name, pages, job.one_more)
    except Exception:
        job.problem = say("The file could not be made. Nothing was lost. Try again.")
        raise


def _forget_old() -> None:
    now = time.monotonic()
    for one in [one for one in _JOBS.values() if now - one.at > _KEPT_SECONDS]:
        del _JOBS[one.id]
