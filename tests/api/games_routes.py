"""Routes of games between schools: who gets what."""

from __future__ import annotations

import json
import uuid

from django.utils import timezone

from tests.api.conftest import World
from tests.api.games import BANDS, FarSchool, file_of, games_ids, new_games
from tests.api.roles import ANY_STAFF, HEAD_MAKES, HEAD_ONLY, SCHOOL, Routes

#: Any school's head joins what is open to it; the own school has it already.
JOIN = (401, 403, 201, 404, 404, 404)


def games_routes(world: World) -> Routes:
    ids = games_ids(world)
    at = f"/api/games/{ids['games_id']}"
    today = timezone.localdate().isoformat()
    new = {
        "key": uuid.uuid4(), "name": "Games", "starts_on": today, "ends_on": today,
        "closes_on": today, "bands": BANDS, "test_ids": [world.activity.protocol.test_id],
    }  # fmt: skip
    closed = new_games(world)["id"]
    file = {"text": json.dumps(file_of(world, closed))}
    far = FarSchool("Quarry Hill", file_of(world, ids["games_id"]))
    yes = {"yes": True}
    return {
        ("GET", "/api/games"): ("/api/games", None, ANY_STAFF),
        ("POST", "/api/games"): ("/api/games", new, HEAD_MAKES),
        ("POST", "/api/games/look"): ("/api/games/look", file, ANY_STAFF),
        # The own school has made them: the same file again is the same games.
        ("POST", "/api/games/join"): ("/api/games/join", file, (401, 403, 201, 403, 403, 201)),
        ("GET", "/api/games/{games_id}"): (at, None, SCHOOL),
        ("POST", "/api/games/{games_id}/join"): (f"{at}/join", None, JOIN),
        ("GET", "/api/games/{games_id}/file"): (f"{at}/file", None, SCHOOL),
        ("POST", "/api/games/{games_id}/result"): (f"{at}/result", None, HEAD_ONLY),
        ("POST", "/api/games/{games_id}/results"): (
            f"{at}/results",
            {"text": json.dumps(far.result())},
            HEAD_ONLY,
        ),
        ("PUT", "/api/games/{games_id}/schools/{school_id}"): (
            f"{at}/schools/{ids['school_id']}",
            yes,
            HEAD_ONLY,
        ),
        ("PUT", "/api/games/{games_id}/results/{result_id}"): (
            f"{at}/results/{ids['result_id']}",
            yes,
            HEAD_ONLY,
        ),
        ("DELETE", "/api/games/{games_id}/results/{result_id}"): (
            f"{at}/results/{ids['result_id']}",
            None,
            HEAD_ONLY,
        ),
    }
