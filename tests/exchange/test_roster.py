"""OneRoster zips, made up, against the heads of the published CSV binding (1EdTech, OneRoster 1.1
and 1.2, "CSV tables"; the heads from memory)."""

from __future__ import annotations

from datetime import date

import pytest

from lauf.exchange.lists.reading import read_list
from lauf.exchange.lists.roster import read_any
from tests.exchange.lists import packed

TODAY = date(2026, 11, 26)
USERS_11 = (
    "sourcedId,status,dateLastModified,enabledUser,orgSourcedIds,role,username,userIds,givenName,"
    "familyName,middleName,identifier,email,sms,phone,agentSourcedIds,grades,password"
)
USERS_12 = (
    "sourcedId,status,dateLastModified,enabledUser,username,userIds,givenName,familyName,"
    "middleName,identifier,email,sms,phone,agentSourcedIds,grades,password,userMasterIdentifier,"
    "resourceSourcedIds,preferredGivenName,preferredMiddleName,preferredFamilyName,"
    "primaryOrgSourcedId,pronouns"
)
ROLES = (
    "sourcedId,status,dateLastModified,userSourcedId,roleType,role,beginDate,endDate,"
    "orgSourcedId,userProfileSourcedId"
)
CLASSES = (
    "sourcedId,status,dateLastModified,title,grades,courseSourcedId,classCode,classType,location,"
    "schoolSourcedId,termSourcedIds,subjects,subjectCodes,periods"
)
ENROLLED = (
    "sourcedId,status,dateLastModified,classSourcedId,schoolSourcedId,userSourcedId,role,primary,"
    "beginDate,endDate"
)
PEOPLE = "sourcedId,status,dateLastModified,birthDate,sex"


def table(head: str, *rows: dict[str, str]) -> str:
    names = head.split(",")
    assert not any(set(row) - set(names) for row in rows)
    lines = [",".join(f'"{row[n]}"' if "," in row.get(n, "") else row.get(n, "") for n in names)
             for row in rows]  # fmt: skip
    return "\r\n".join([head, *lines]) + "\r\n"


CLASS_FILE = table(
    CLASSES,
    {"sourcedId": "c1", "title": "PE, all", "classType": "scheduled"},
    {"sourcedId": "c2", "title": "4 Heron", "classType": "homeroom"},
    {"sourcedId": "c3", "title": "Old", "classType": "homeroom", "status": "tobedeleted"},
)
ENROLL_FILE = table(
    ENROLLED,
    {"sourcedId": "e1", "classSourcedId": "c1", "userSourcedId": "u1", "role": "student"},
    {"sourcedId": "e2", "classSourcedId": "c2", "userSourcedId": "u1", "role": "student"},
    {"sourcedId": "e3", "classSourcedId": "c2", "userSourcedId": "u2", "role": "student"},
    {"sourcedId": "e4", "classSourcedId": "c2", "userSourcedId": "t1", "role": "teacher"},
    {"sourcedId": "e5", "classSourcedId": "c3", "userSourcedId": "u3", "role": "student"},
)
BORN_FILE = table(
    PEOPLE,
    {"sourcedId": "u1", "birthDate": "2018-03-14", "sex": "female"},
    {"sourcedId": "u2", "birthDate": "2017-11-05", "sex": "male"},
)


def one_one() -> bytes:
    users = table(
        USERS_11,
        {"sourcedId": "u1", "role": "student", "givenName": "Ada", "familyName": "Abara",
         "identifier": "101", "grades": "03"},
        {"sourcedId": "u2", "role": "student", "givenName": "Björn", "familyName": "de Vance",
         "grades": "03,04", "status": "active"},
        {"sourcedId": "u3", "role": "student", "givenName": "Zoë", "familyName": "Ruiz"},
        {"sourcedId": "u4", "role": "student", "givenName": "Gone", "familyName": "Away",
         "status": "tobedeleted"},
        {"sourcedId": "t1", "role": "teacher", "givenName": "Kit", "familyName": "Marsh"},
    )  # fmt: skip
    return packed(**{
        "manifest": "propertyName,value\r\nmanifest.version,1.0\r\noneroster.version,1.1\r\n",
        "users": users, "classes": CLASS_FILE, "enrollments": ENROLL_FILE,
        "demographics": BORN_FILE,
    })  # fmt: skip


def one_two() -> bytes:
    users = table(
        USERS_12,
        {"sourcedId": "u1", "givenName": "Adaeze", "familyName": "Abara-Cole", "grades": "03",
         "identifier": "101", "preferredGivenName": "Ada", "preferredFamilyName": "Abara"},
        {"sourcedId": "u2", "givenName": "Björn", "familyName": "de Vance", "grades": "03"},
        {"sourcedId": "u3", "givenName": "Zoë", "familyName": "Ruiz"},
        {"sourcedId": "t1", "givenName": "Kit", "familyName": "Marsh"},
    )  # fmt: skip
    roles = table(ROLES, *(
        {"sourcedId": f"r{n}", "userSourcedId": user, "roleType": "primary", "role": role}
        for n, (user, role) in enumerate(
            [("u1", "student"), ("u2", "student"), ("u3", "student"), ("t1", "teacher")])
    ))  # fmt: skip
    return packed(**{
        "manifest": "propertyName,value\r\noneroster.version,1.2\r\n",
        "users": users, "roles": roles, "classes": CLASS_FILE,
        "enrollments": ENROLL_FILE, "demographics": BORN_FILE,
    })  # fmt: skip


@pytest.mark.parametrize(("data", "version"), [(one_one(), "1.1"), (one_two(), "1.2")])
def test_students_stand_in_their_home_room_with_what_is_known_of_them(
    data: bytes, version: str
) -> None:
    sheet = read_any(data)
    assert sheet.sheets == [f"OneRoster {version}"]
    read = read_list(sheet.cells, TODAY)
    assert not read.ask_order
    found = [
        (p.number, p.given, p.family, p.born, p.sex, p.year, p.school_class, p.wrong)
        for p in read.people
    ]
    assert found == [
        ("101", "Ada", "Abara", date(2018, 3, 14), "female", "3", "4 Heron", ""),
        ("u2", "Björn", "de Vance", date(2017, 11, 5), "male", "3", "4 Heron", ""),
        ("u3", "Zoë", "Ruiz", None, "", "", "", ""),
    ]


def test_other_csv_files_in_a_zip_stay_what_they_are() -> None:
    sheets = read_any(packed(**{"a": "Name,Class\nAda Abara,4 Heron", "users": "a,b\n1,2"}))
    assert sheets.sheets == ["a.csv", "users.csv"]


def test_a_roster_that_misses_columns_and_files_is_read_as_far_as_it_goes() -> None:
    users = "sourcedId,role,givenName,familyName\nu1,student,Ada,Abara\n"
    sheet = read_any(packed(**{"users": users, "enrollments": "x\n1\n"}))
    (person,) = read_list(sheet.cells, TODAY).people
    assert (person.name, person.number, person.wrong) == ("Ada Abara", "u1", "")
