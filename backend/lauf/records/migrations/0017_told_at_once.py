"""Devices of a lesson are told at once what was written for it: PostgreSQL's NOTIFY, sent with the
transaction that wrote."""

from django.db import migrations

#: By table: what is told, and how its rows lead to a lesson, a test and a child.
TOLD = {
    "records_attempt": (
        "score",
        "JOIN lessons_activity a ON a.id = n.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id",
        "a.id, n.pupil_id, n.id",
    ),
    "records_recount": (
        "score",
        "JOIN lessons_activity a ON a.id = n.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id",
        "a.id, n.pupil_id, n.id",
    ),
    "records_settlement": (
        "score",
        "JOIN records_attempt t ON t.id = n.attempt_id JOIN lessons_activity a"
        " ON a.id = t.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id",
        "a.id, t.pupil_id, NULL::uuid",
    ),
    "records_question": (
        "score",
        "JOIN records_attempt t ON t.id = n.attempt_id JOIN lessons_activity a"
        " ON a.id = t.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id",
        "a.id, t.pupil_id, NULL::uuid",
    ),
    "records_pulsereading": (
        "pulse",
        "JOIN lessons_lesson l ON l.id = n.lesson_id",
        "NULL::uuid, n.pupil_id, n.id",
    ),
    "lessons_run": (
        "clock",
        "JOIN lessons_activity a ON a.id = n.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id",
        "a.id, NULL::uuid, NULL::uuid",
    ),
    "lessons_conduct": (
        "clock",
        "JOIN lessons_lesson l ON l.id = n.lesson_id",
        "NULL::uuid, NULL::uuid, NULL::uuid",
    ),
    "lessons_activity": (
        "plan",
        "JOIN lessons_lesson l ON l.id = n.lesson_id",
        "NULL::uuid, NULL::uuid, NULL::uuid",
    ),
    "lessons_allowed": (
        "plan",
        "JOIN lessons_lesson l ON l.id = n.lesson_id",
        "NULL::uuid, NULL::uuid, NULL::uuid",
    ),
    "lessons_lesson": (
        "plan",
        "JOIN lessons_lesson l ON l.id = n.id",
        "NULL::uuid, NULL::uuid, NULL::uuid",
    ),
    "lessons_helper": (
        "helpers",
        "JOIN lessons_lesson l ON l.id = n.lesson_id",
        "NULL::uuid, NULL::uuid, NULL::uuid",
    ),
    "lessons_helpercode": (
        "helpers",
        "JOIN lessons_lesson l ON l.id = n.lesson_id",
        "NULL::uuid, NULL::uuid, NULL::uuid",
    ),
}
#: Rows of these are changed or deleted too; the others are only added.
CHANGED = {
    "records_question": ("UPDATE", "DELETE"),
    "lessons_run": ("UPDATE",),
    "lessons_conduct": ("UPDATE",),
    "lessons_activity": ("UPDATE", "DELETE"),
    "lessons_allowed": ("DELETE",),
    "lessons_lesson": ("UPDATE",),
    "lessons_helper": ("UPDATE",),
    "lessons_helpercode": ("UPDATE", "DELETE"),
}

#: What one statement changed of so many rows is told row by row; of more, that all may be new.
FUNCTION = """
CREATE FUNCTION lauf_tell_{table}() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF (SELECT count(*) FROM (SELECT 1 FROM changed LIMIT 41) AS few) > 40 THEN
        PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'gap')::text)
        FROM (SELECT DISTINCT l.id FROM changed n {joins} LIMIT 100) AS f (lesson);
    ELSE
        PERFORM pg_notify('lauf_live', json_build_object(
            'lesson', f.lesson, 'what', '{what}', 'activity', f.activity, 'pupil', f.pupil,
            'entry', f.entry)::text)
        FROM (SELECT DISTINCT l.id, {columns} FROM changed n {joins})
            AS f (lesson, activity, pupil, entry);
    END IF;
    RETURN NULL;
END $$;
"""
TRIGGER = """
CREATE TRIGGER told_of_{event} AFTER {event} ON {table}
    REFERENCING {rows} TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION lauf_tell_{table}();
"""


def _forward() -> str:
    made = []
    for table, (what, joins, columns) in TOLD.items():
        made.append(FUNCTION.format(table=table, what=what, joins=joins, columns=columns))
        for event in ("INSERT", *CHANGED.get(table, ())):
            rows = "OLD" if event == "DELETE" else "NEW"
            made.append(TRIGGER.format(table=table, event=event, rows=rows))
    return "".join(made)


def _backward() -> str:
    return "".join(f"DROP FUNCTION lauf_tell_{table}() CASCADE;" for table in TOLD)


class Migration(migrations.Migration):
    dependencies = [("records", "0016_helpers")]
    operations = [migrations.RunSQL(_forward(), _backward())]
