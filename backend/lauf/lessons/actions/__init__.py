"""Every write about lessons, one module a noun."""

from lauf.lessons.actions.care import allow
from lauf.lessons.actions.hall import (
    report_conduct,
    report_run,
)
from lauf.lessons.actions.helpers import (
    HOURS,
    called,
    close_to_helpers,
    end_helper,
    helper_by,
    join,
    leave,
    open_to_helpers,
)
from lauf.lessons.actions.lessons import (
    MOST_TESTS,
    add_activity,
    change_lesson,
    close_lesson,
    copy_lesson,
    delete_lesson,
    lesson_for_a_look,
    plan_lesson,
    reopen_lesson,
    set_conditions,
    start_sitting,
)
from lauf.lessons.actions.plans import (
    MOST_BLOCKS,
    keep_revision,
    save_plan,
)
from lauf.lessons.actions.templates import (
    delete_template,
    save_template,
)
from lauf.lessons.actions.timetable import SlotEntry, set_timetable

__all__ = [
    "HOURS",
    "MOST_BLOCKS",
    "MOST_TESTS",
    "SlotEntry",
    "add_activity",
    "allow",
    "called",
    "change_lesson",
    "close_lesson",
    "close_to_helpers",
    "copy_lesson",
    "delete_lesson",
    "delete_template",
    "end_helper",
    "helper_by",
    "join",
    "keep_revision",
    "leave",
    "lesson_for_a_look",
    "open_to_helpers",
    "plan_lesson",
    "reopen_lesson",
    "report_conduct",
    "report_run",
    "save_plan",
    "save_template",
    "set_conditions",
    "set_timetable",
    "start_sitting",
]
