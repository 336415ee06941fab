"""Who gets what: the columns of the table of routes."""

from __future__ import annotations

from typing import Any

#: Status by role: nobody, stranger, stranger's head, colleague, own teacher, head of PE.
OWN = (401, 404, 404, 404, 200, 200)
ANY_STAFF = (401, 200, 200, 200, 200, 200)
PUBLIC = (200, 200, 200, 200, 200, 200)
#: A stranger's head may add classes, but not into this school's year group.
HEADS = (401, 403, 404, 403, 403, 201)
#: A stranger's test is not there for a stranger's head; only the own head may change it.
HEAD_ONLY = (401, 403, 404, 403, 403, 200)
HEAD_MAKES = (401, 403, 404, 403, 403, 201)
HEAD_DELETES = (401, 403, 404, 403, 403, 204)
OWN_MAKES = (401, 404, 404, 404, 201, 201)
NOBODYS = (401, 404, 404, 404, 404, 404)
#: What belongs to the school: its own staff, nobody else.
SCHOOL = (401, 404, 404, 200, 200, 200)

Routes = dict[tuple[str, str], tuple[str, Any, tuple[int, ...]]]
