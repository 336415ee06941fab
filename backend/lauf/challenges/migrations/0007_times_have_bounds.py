"""Every moment and day that is kept lies between 2000 and 2099, whichever way it came in: no row is
beyond what a calendar in any time zone can count. (Children may be born from 1980 on.)

A result of games that said another time was made when it came; any other time is moved to the
bound that it is beyond."""

from typing import Any

from django.db import migrations

# A day of slack: a moment at the bound is another day in some time zone.
FIRST, LAST, BORN = "1999-12-31", "2100-01-01", "1980-01-01"
#: Table, and its columns that had no bounds yet; tables that only this Lauf's own clock writes and
#: no file brings are left out.
COLUMNS = {
    "people_term": ("starts", "ends"),
    "people_change": ("at",),
    "people_schoolclass": ("closed_on",),
    "people_pupil": ("left_on", "born", "erased_on"),
    "people_exclusion": ("until", "made_at"),
    "people_merge": ("at",),
    "people_moveup": ("at", "undone_at"),
    "people_staff": ("last_login",),
    "lessons_lesson": ("closed_at",),
    "lessons_allowed": ("at",),
    "lessons_planrevision": ("at",),
    "lessons_conduct": ("changed_at",),
    "lessons_plantemplate": ("made_at",),
    "lessons_run": ("changed_at",),
    "records_attempt": ("on", "received_at"),
    "records_settlement": ("at",),
    "records_aim": ("at",),
    "records_groupaim": ("at",),
    "records_setaside": ("at",),
    "records_familyline": ("at",),
    "records_pulsereading": ("received_at",),
    "records_calibration": ("on", "made_at"),
    "records_repeatsummary": ("before", "made_at"),
    "challenges_challengeweek": ("made_at",),
    "challenges_challenge": ("on",),
    "challenges_point": ("at",),
    "challenges_games": ("made_at",),
    "challenges_gamesresult": ("came_at", "made_at"),
    "challenges_gamesnote": ("at",),
}


def bound(_: Any, editor: Any) -> None:
    with editor.connection.cursor() as cursor:
        for table, columns in COLUMNS.items():
            for column in columns:
                first = BORN if column == "born" else FIRST
                within = f"\"{column}\" BETWEEN '{first}' AND '{LAST}'"
                cursor.execute(f'SELECT EXISTS (SELECT FROM "{table}" WHERE NOT {within})')
                if cursor.fetchone()[0]:
                    _put_right(cursor, table, column, first, within)
                cursor.execute(
                    f'ALTER TABLE "{table}" ADD CONSTRAINT "{table}_{column}_has_bounds" '
                    f"CHECK ({within})"
                )


def _put_right(cursor: Any, table: str, column: str, first: str, within: str) -> None:
    value = f"LEAST(GREATEST(\"{column}\", '{first}'), '{LAST}')"
    if (table, column) == ("challenges_gamesresult", "made_at"):
        value = "came_at"
    cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
    cursor.execute(f'ALTER TABLE "{table}" DISABLE TRIGGER USER')
    cursor.execute(f'UPDATE "{table}" SET "{column}" = {value} WHERE NOT {within}')
    cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
    cursor.execute(f'ALTER TABLE "{table}" ENABLE TRIGGER USER')


def unbound(_: Any, editor: Any) -> None:
    for table, columns in COLUMNS.items():
        for column in columns:
            editor.execute(f'ALTER TABLE "{table}" DROP CONSTRAINT "{table}_{column}_has_bounds"')


class Migration(migrations.Migration):
    dependencies = [
        ("challenges", "0006_games"),
        ("people", "0009_games_in_the_log"),
        ("lessons", "0009_to_the_beat"),
        ("records", "0012_group_aims"),
    ]
    operations = [migrations.RunPython(bound, unbound)]
