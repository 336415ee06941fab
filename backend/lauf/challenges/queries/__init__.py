"""Every read about challenges, one module a noun."""

from lauf.challenges.queries.entrants import (
    Entrant,
    rival_mark_key,
    standings,
)
from lauf.challenges.queries.ledger import (
    Given,
    challenge_page,
    ledger,
    pupil_points,
)
from lauf.challenges.queries.weeks import (
    challenge_of,
    due_today,
    house_sums,
    pupils_in,
    rival_shown,
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
    "challenge_of",
    "challenge_page",
    "due_today",
    "house_sums",
    "ledger",
    "pupil_points",
    "pupils_in",
    "rival_mark_key",
    "rival_shown",
    "rules_shown",
    "standings",
    "week_list",
    "week_of",
    "week_page",
    "week_wall",
    "weeks_of",
]
