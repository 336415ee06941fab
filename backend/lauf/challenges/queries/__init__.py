"""Every read about challenges, one module a noun."""

from lauf.challenges.queries.entrants import Entrant, standings, standings_of
from lauf.challenges.queries.games import (
    bands_of,
    file_states,
    games_of,
    open_to_join,
    own_sums,
    points_rule,
    results_of,
    sums_as_said,
    sums_read,
    tests_of,
)
from lauf.challenges.queries.ledger import Given, challenge_page, ledgers, pupil_points
from lauf.challenges.queries.rivals import (
    Group,
    group_of,
    group_values,
    mark_for,
    rival_shown,
)
from lauf.challenges.queries.series import series
from lauf.challenges.queries.sheet import ready_sets, set_sheet
from lauf.challenges.queries.weeks import (
    challenge_of,
    due_today,
    house_sums,
    performing,
    pupils_in,
    rivals_in,
    rules_shown,
    week_list,
    week_of,
    week_page,
    week_wall,
    weeks_of,
)

__all__ = [
    "Entrant",
    "Given",
    "Group",
    "bands_of",
    "challenge_of",
    "challenge_page",
    "due_today",
    "file_states",
    "games_of",
    "group_of",
    "group_values",
    "house_sums",
    "ledgers",
    "mark_for",
    "open_to_join",
    "own_sums",
    "performing",
    "points_rule",
    "pupil_points",
    "pupils_in",
    "ready_sets",
    "results_of",
    "rival_shown",
    "rivals_in",
    "rules_shown",
    "series",
    "set_sheet",
    "standings",
    "standings_of",
    "sums_as_said",
    "sums_read",
    "tests_of",
    "week_list",
    "week_of",
    "week_page",
    "week_wall",
    "weeks_of",
]
