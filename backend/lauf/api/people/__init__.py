"""Children, classes, staff and the school's settings."""

from lauf.api.people import audit_log, classes, lists, move_up, own, pupils, school, search, staff

ROUTERS = [
    one.router for one in (audit_log, classes, lists, move_up, own, pupils, school, search, staff)
]
