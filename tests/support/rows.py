"""The rows of one school, a sum a table: `python -m tests.support.rows SCHOOL`."""

from __future__ import annotations

import hashlib
import sys

import django


def sums(school_id: str) -> dict[str, str]:
    """By table. What a database only numbers is left out, and what the Lauf it is on says of it."""
    from lauf.exchange.package.tables import tables
    from lauf.people.models import School

    school = School.objects.get(pk=school_id)
    found = {}
    for table in tables(moving=True):
        key = table.model._meta.pk
        place = None
        if key.get_internal_type() in ("AutoField", "BigAutoField"):
            place = table.columns.index(str(key.column))
        lines = sorted(
            "\x1f".join(cell for at, cell in enumerate(line) if at != place)
            for line in table.lines(school)
        )
        whole = "\x1e".join(lines).encode()
        found[table.name] = f"{len(lines)}:{hashlib.sha256(whole).hexdigest()}"
    return found


if __name__ == "__main__":
    django.setup()
    for name, found in sums(sys.argv[1]).items():
        sys.stdout.write(f"{name} {found}\n")
