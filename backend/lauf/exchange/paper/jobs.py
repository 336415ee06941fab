"""PDFs on their way. They are kept for a quarter of an hour, where every process finds them; what
a process that has ended was laying out is told as not made."""

from __future__ import annotations

import threading
import uuid
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from typing import Final
from uuid import UUID

from django.db import connection, transaction
from django.db.models import F, Q
from django.db.models.functions import Now
from typing_extensions import TypedDict

from lauf.errors import NotFound, Refused
from lauf.exchange.models import HandoutJob
from lauf.exchange.paper.apart import pdf_of
from lauf.exchange.paper.render import Part
from lauf.messages import say

_KEPT: Final = timedelta(minutes=15)
#: One that is being made, or waits for its turn, is touched more often than this.
_ENDED_AFTER: Final = timedelta(seconds=60)
_TOUCHED_EVERY_S: Final = 10.0
#: How many are made for one person at once, and laid by for everybody.
_OF_ONE: Final = 10
_OF_ALL: Final = 40
#: One is begun at a time.
_ONE_BY_ONE: Final = "SELECT pg_advisory_xact_lock(hashtextextended('handouts', 7))"
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


def begin(owner: UUID, name: str, pages: Sequence[Part]) -> Handout:
    """Begin to make a PDF of these pages. Raises Refused while too many are on their way."""
    job = HandoutJob(id=uuid.uuid4(), owner=owner, name=name[:240], of=len(pages))
    # Whatever becomes of the request: others are to see it at once.
    with ThreadPoolExecutor(1) as apart:
        apart.submit(_on_its_own, lambda: _enter(job)).result()
    threading.Thread(target=_make, args=(job.id, name, list(pages))).start()
    return _state(job, ready=False, ended=False)


def state_of(owner: UUID, job_id: UUID) -> Handout:
    """How far a PDF of this person's is. Raises NotFound: somebody else's, too old, or never
    begun."""
    found = (
        HandoutJob.objects.filter(pk=job_id, owner=owner, touched_at__gte=Now() - _KEPT)
        .annotate(ready=~Q(file=None), ended=Q(touched_at__lt=Now() - _ENDED_AFTER))
        .defer("file")
        .first()
    )
    if found is None:
        raise NotFound(say("handout"))
    return _state(found, ready=found.ready, ended=found.ended)


def file_of(owner: UUID, job_id: UUID) -> tuple[str, bytes]:
    """Its name, and the PDF. Raises NotFound where it is not there, or not yet."""
    found = HandoutJob.objects.filter(pk=job_id, owner=owner, touched_at__gte=Now() - _KEPT).first()
    if found is None:
        raise NotFound(say("handout"))
    if found.file is None:
        raise NotFound(say("finished file"))
    return found.name, bytes(found.file)


def _state(job: HandoutJob, *, ready: bool, ended: bool) -> Handout:
    problem = job.problem or (_NOT_MADE if ended and not ready else "")
    return {
        "id": job.id, "name": job.name, "done": job.done, "of": job.of,
        "ready": ready, "problem": problem,
    }  # fmt: skip


_NOT_MADE: Final = say("The file could not be made. Nothing was lost. Try again.")


def _enter(job: HandoutJob) -> None:
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute(_ONE_BY_ONE)
        HandoutJob.objects.filter(touched_at__lt=Now() - _KEPT).delete()
        busy = HandoutJob.objects.filter(
            file=None, problem="", touched_at__gte=Now() - _ENDED_AFTER
        )
        if busy.filter(owner=job.owner).count() >= _OF_ONE or busy.count() >= _OF_ALL:
            raise Refused(say("Other handouts are still being made. Wait for one of them."))
        job.touched_at = Now()
        job.save(force_insert=True)


def _make(job_id: UUID, name: str, pages: Sequence[Part]) -> None:
    def told(**change: object) -> None:
        _on_its_own(lambda: HandoutJob.objects.filter(pk=job_id).update(touched_at=Now(), **change))

    try:
        while not _TURN.acquire(timeout=_TOUCHED_EVERY_S):
            told()
        try:
            file = pdf_of(name, pages, lambda: told(done=F("done") + 1))
        finally:
            _TURN.release()
        told(file=file)
    except Exception:
        told(problem=_NOT_MADE)
        raise


def _on_its_own(step: Callable[[], object]) -> None:
    """On a connection of this thread, which is given back: laying out takes long."""
    try:
        step()
    finally:
        connection.close()
