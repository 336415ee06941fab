"""How long the tests wait for anything: a condition, an answer, a process. It ends as soon as what
is waited for is there, and is as long as the busiest machine may need: one limit, for all."""

from __future__ import annotations

from typing import Final

LIMIT_S: Final = 180
LIMIT_MS: Final = 1000 * LIMIT_S
