"""The tests every new school begins with. Own wording; the rungs are starting values to edit."""

from __future__ import annotations

from typing import Any, Final

STARTER_SOURCE: Final = "starter values, no source: make them yours"
RUNG_NAMES: Final = ("Near line", "Centre line", "Far line", "End wall")

#: The variant codes run from the easiest to the hardest.
PRESS_UPS: Final[dict[str, Any]] = {
    "kind": "count",
    "better": "up",
    "unit": "reps",
    "resolution": 1,
    "highest": 200,
    "cap": 60,
    "seconds": 60,
    "waves": 2,
    "most_a_second": 0.9,
    "default_typical_error": 2.0,
    "variants": [
        {"code": "knees", "name": "on the knees", "key": "n"},
        {"code": "full", "name": "full", "key": "f"},
    ],
    "say": [
        "Find a partner and a space on the mat. One works, one counts out loud; then swap.",
        "Hands under the shoulders, body straight from shoulders to knees or feet.",
        "Bend the elbows until the chest is a fist above the mat, then push all the way up.",
        "You may rest at the top and go on.",
        "The count is how many you finish in 60 seconds, 60 at most.",
    ],
    "counts": [
        "Chest down to the partner's fist, arms straight at the top.",
        "A rest with straight arms, then more.",
    ],
    "does_not_count": [
        "Half-way down, or hips sagging or lifted.",
        "The one not finished when the clock stops.",
    ],
    "cautions": [
        "Warm up first, and check the medical notes before you start.",
        "Stop for pain, dizziness, chest tightness or wheeze; keep inhalers at hand.",
        "Taking part is always a choice. Knees down at any time.",
        "Follow your school's own policy; for a worry, ask the school nurse or a doctor.",
    ],
}

#: At least this many in 60 s for each rung, by the year group's age in completed years.
FULL_PRESS_UPS: Final[dict[int, tuple[int, int, int, int]]] = {
    4: (2, 5, 8, 12),
    5: (3, 7, 11, 15),
    6: (5, 10, 15, 20),
    7: (7, 12, 18, 24),
    8: (8, 14, 20, 27),
    9: (10, 16, 23, 30),
    10: (12, 18, 26, 34),
}
KNEE_PRESS_UPS: Final[dict[int, tuple[int, int, int, int]]] = {
    4: (4, 8, 12, 17),
    5: (6, 11, 16, 22),
    6: (8, 15, 21, 28),
    7: (10, 18, 25, 33),
    8: (12, 20, 28, 37),
    9: (14, 23, 32, 41),
    10: (16, 26, 36, 46),
}
