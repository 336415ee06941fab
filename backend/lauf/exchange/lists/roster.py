"""OneRoster: the open form in which school systems hand over who is in which class.

A zip of CSV files that point to each other: here they become one table, a row a child. After the
1EdTech OneRoster specification, CSV binding, versions 1.1 and 1.2: in 1.1 a user's role stands in
`users.csv`, in 1.2 in `roles.csv`, and preferred names beside the legal ones.
"""

from __future__ import annotations

import io
import zipfile
from collections.abc import Mapping
from typing import Final

from lauf.exchange.lists.files import decoded, names_in, read_file, read_text
from lauf.exchange.lists.tables import ListFile, Table

#: Heads of the table that it becomes, as any list has them.
HEADS: Final = ["Pupil number", "First name", "Last name", "Date of birth", "Sex", "Year", "Class"]
_Row = dict[str, str]
_USERS: Final = "users.csv"
#: The files of the form that say something about a class list.
_FILES: Final = (
    _USERS, "roles.csv", "demographics.csv", "classes.csv", "enrollments.csv", "manifest.csv",
)  # fmt: skip


def read_any(data: bytes, name: str = "", sheet: int = 0) -> ListFile:
    """The tables of a file, those of a OneRoster zip as the one that they make together. Raises
    Unreadable."""
    return _read_roster(data) or read_file(data, name, sheet)


def _read_roster(data: bytes) -> ListFile | None:
    """None for what is no zip of OneRoster, or a broken one, which is then refused as any is."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            here = {one.rpartition("/")[2].lower(): one for one in names_in(packed)}
            if _USERS not in here:
                return None
            files: dict[str, list[_Row]] = {
                name: _rows(read_text(decoded(packed.read(here[name]))))
                for name in _FILES
                if name in here
            }
    except (zipfile.BadZipFile, KeyError, NotImplementedError, RuntimeError, EOFError):
        return None
    return as_roster(files)


def as_roster(files: Mapping[str, list[_Row]]) -> ListFile | None:
    """The one table of the files of a OneRoster zip; None for files that are none. Rows that are
    to be deleted are left out; a child in several classes stands in its home room, else in the
    first of them."""
    users = files.get(_USERS)
    if not users or "sourcedId" not in users[0]:
        return None
    students = _students(users, files)
    born = {row.get("sourcedId"): row for row in files.get("demographics.csv", [])}
    groups = _classes_of(files)
    table: Table = [list(HEADS)]
    for user in students:
        key = user.get("sourcedId", "")
        more = born.get(key, {})
        table.append(
            [
                user.get("identifier") or key,
                user.get("preferredGivenName") or user.get("givenName", ""),
                user.get("preferredFamilyName") or user.get("familyName", ""),
                more.get("birthDate", ""),
                more.get("sex", ""),
                _grade(user.get("grades", "")),
                groups.get(key, ""),
            ]
        )
    version = _version(files.get("manifest.csv", []))
    return ListFile([f"OneRoster {version}".strip()], table)


def _rows(cells: Table) -> list[_Row]:
    if not cells:
        return []
    head, *rest = cells
    return [row for row in (dict(zip(head, line, strict=True)) for line in rest) if _stands(row)]


def _stands(row: Mapping[str, str]) -> bool:
    """In a bulk file the status is empty; in one of changes a row may be to be deleted."""
    return row.get("status", "").lower() not in ("tobedeleted", "inactive")


def _students(users: list[_Row], files: Mapping[str, list[_Row]]) -> list[_Row]:
    if "roles.csv" in files:
        found = {
            one.get("userSourcedId") for one in files["roles.csv"] if one.get("role") == "student"
        }
        return [user for user in users if user.get("sourcedId") in found]
    return [user for user in users if user.get("role") == "student"]


def _classes_of(files: Mapping[str, list[_Row]]) -> dict[str, str]:
    """Each student's class by name."""
    classes = {one.get("sourcedId"): one for one in files.get("classes.csv", [])}
    found: dict[str, _Row] = {}
    for one in files.get("enrollments.csv", []):
        group, user = classes.get(one.get("classSourcedId")), one.get("userSourcedId", "")
        if group is None or one.get("role") != "student":
            continue
        held = found.get(user)
        if held is None or (_is_home(group) and not _is_home(held)):
            found[user] = group
    return {user: group.get("title", "") for user, group in found.items()}


def _is_home(group: Mapping[str, str]) -> bool:
    return group.get("classType", "").lower() == "homeroom"


def _grade(grades: str) -> str:
    """The first grade of a list, as a year is read: "03" is 3, "KG" kindergarten."""
    first = grades.split(",")[0].strip()
    return str(int(first)) if first.isdigit() else {"KG": "Kindergarten"}.get(first, first)


def _version(manifest: list[_Row]) -> str:
    named = {one.get("propertyName"): one.get("value", "") for one in manifest}
    return named.get("oneroster.version", "")
