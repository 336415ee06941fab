"""Every read about people, one module a noun."""

from lauf.people.queries.classes import children_in, class_list, class_page
from lauf.people.queries.move_up import is_scored_since, last_move_up, move_up_preview
from lauf.people.queries.posts import account_of, posts_of
from lauf.people.queries.school import (
    LOG_LINES,
    change_log,
    own_account,
    school_settings,
)
from lauf.people.queries.scope import (
    class_of,
    classes_of,
    pupil_of,
    pupils_of,
    search,
    setup_needed,
    staff_named,
)

__all__ = [
    "LOG_LINES",
    "account_of",
    "change_log",
    "children_in",
    "class_list",
    "class_of",
    "class_page",
    "classes_of",
    "is_scored_since",
    "last_move_up",
    "move_up_preview",
    "own_account",
    "posts_of",
    "pupil_of",
    "pupils_of",
    "school_settings",
    "search",
    "setup_needed",
    "staff_named",
]
