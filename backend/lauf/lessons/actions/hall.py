"""Writes of the clocks of a lesson: runs of an activity, and the conductor."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final
from uuid import UUID

from django.db import IntegrityError, transaction

from lauf.catalogue.models import ProtocolVersion
from lauf.errors import NotFound, Refused
from lauf.lessons.clock_state import Pause, RunState
from lauf.lessons.conductor import ConductState
from lauf.lessons.models import Conduct, Lesson, Run
from lauf.lessons.queries.entries import entries_of_revision
from lauf.lessons.queries.hall import made_timeline
from lauf.lessons.queries.lessons import activity_of, lesson_of
from lauf.messages import say
from lauf.people.models import Staff
from lauf.rules.reading.clocks import Way

#: Ways whose clock may be one wave's.
_BY_WAVES: Final = (Way.TAPS, Way.BEEPS)


@transaction.atomic
def report_run(
    staff: Staff,
    activity_id: UUID,
    run_id: UUID,
    state: RunState,
) -> Run:
    """Keep the state of one clock of an activity. The same report twice, or an older one that comes
    late, changes nothing. Where a wave is run again after one that was stopped early, the later
    one counts. Raises NotFound, or Refused when another run of the wave counts."""
    activity = activity_of(staff, activity_id)
    way, wave, worked_seconds = state.way, state.wave, state.worked_seconds
    if way is Way.WAVE:
        worked_seconds = _worked(activity.protocol, wave, state.ended, worked_seconds)
    elif way not in _BY_WAVES or wave not in range(1, activity.protocol.waves + 1):
        # Everybody goes by it.
        wave = None
    values = {
        "revision": state.revision,
        "anchor_ms": state.anchor_ms,
        "go_ms": state.go_ms,
        "paused_ms": state.paused_ms,
        "pauses": _in_order(state.pauses),
        "ended": state.ended,
        "worked_seconds": worked_seconds,
        "by": staff,
    }
    fixed = {"activity": activity, "wave": wave, "way": way, "try_number": state.try_number}
    if way is Way.WAVE and state.ended in (Run.Ended.COMPLETE, Run.Ended.EARLY):
        cut_short = Run.objects.filter(
            activity=activity,
            way=way,
            wave=wave,
            ended=Run.Ended.EARLY,
            anchor_ms__lt=state.anchor_ms,
        )
        cut_short.exclude(pk=run_id).update(ended=Run.Ended.RESTARTED, worked_seconds=None)
    try:
        with transaction.atomic():
            run, made = Run.objects.select_for_update().get_or_create(
                id=run_id, defaults={**values, **fixed}
            )
            if (run.activity_id, run.wave, run.way) != (activity.id, wave, way):
                raise Refused(say("That clock belongs to another test."))
            if not made and state.revision > run.revision:
                for name, value in values.items():
                    setattr(run, name, value)
                run.save()
    except IntegrityError as error:
        raise Refused(say("This wave has already run. Restart it to run it again.")) from error
    return run


def _worked(
    protocol: ProtocolVersion, wave: int | None, ended: str, worked_seconds: int | None
) -> int | None:
    """The seconds a wave worked, as they are kept. Raises Refused."""
    if wave is None or not 1 <= wave <= protocol.waves:
        raise Refused(say("This test has waves 1 to {waves}.", waves=protocol.waves))
    if ended not in (Run.Ended.COMPLETE, Run.Ended.EARLY):
        return None
    if protocol.seconds is None or not 0 <= (worked_seconds or 0) <= protocol.seconds:
        raise Refused(say("A wave of this test lasts 0 to {seconds} s.", seconds=protocol.seconds))
    if ended == Run.Ended.COMPLETE:
        return protocol.seconds
    if worked_seconds is None:
        raise Refused(say("An early stop needs the number of seconds."))
    return worked_seconds


def _in_order(pauses: Sequence[Pause]) -> list[dict[str, int]]:
    """Pauses as they are kept. Raises Refused for ones that lie in each other."""
    end = 0
    for pause in pauses:
        if not end <= pause.from_ms <= pause.to_ms:
            raise Refused(say("The pauses of a clock must follow each other."))
        end = pause.to_ms
    return [pause.model_dump() for pause in pauses]


@transaction.atomic
def report_conduct(staff: Staff, lesson_id: UUID, state: ConductState) -> Conduct:
    """Keep the state of a lesson's conductor. The same report twice, or an older one of the same
    run that comes late, changes nothing; a run begun later takes over, with the timeline of the
    plan it began with, which then stays. Raises NotFound, also for a test that is swapped in and is
    not in the lesson, or Refused for a plan there never was."""
    lesson_of(staff, lesson_id)
    lesson = Lesson.objects.select_for_update().get(pk=lesson_id)
    swapped = {one.activity_id for one in state.swaps if one.activity_id}
    if lesson.activities.filter(pk__in=swapped).count() < len(swapped):
        raise NotFound(say("test in this lesson"))
    conduct = Conduct.objects.filter(lesson=lesson).first()
    if conduct is None or conduct.run_id != state.run_id:
        if conduct is not None and state.anchor_ms < conduct.state["anchor_ms"]:
            return conduct  # of a run begun before the one that is on
        entries = entries_of_revision(lesson, state.plan_revision)
        conduct = Conduct(
            lesson=lesson,
            run_id=state.run_id,
            plan_revision=state.plan_revision,
            timeline=made_timeline(staff, lesson, entries),
        )
    elif state.revision <= conduct.revision:
        return conduct
    conduct.revision, conduct.state, conduct.by = state.revision, state.kept(), staff
    conduct.save()
    return conduct
