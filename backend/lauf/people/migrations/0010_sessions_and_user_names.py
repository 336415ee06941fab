"""Sessions end after days without use, as the school says; user names are one for each spelling that
reads the same; who is signed in stays so although the password's module has another name."""

import unicodedata
from typing import Any

import django.db.models.functions.text
from django.conf import settings
from django.contrib.sessions.backends.db import SessionStore
from django.db import migrations, models

_BACKEND = "_auth_user_backend"
_MOVED = ("lauf.web.doors.PasswordBackend", "lauf.web.hashing.PasswordBackend")


def stay_signed_in(apps: Any, _: Any) -> None:
    store = SessionStore()
    for session in apps.get_model("sessions", "Session").objects.iterator():
        held = store.decode(session.session_data)
        if held.get(_BACKEND) == _MOVED[0]:
            session.session_data = store.encode({**held, _BACKEND: _MOVED[1]})
            session.save(update_fields=["session_data"])


def tell_apart(apps: Any, _: Any) -> None:
    """Of two that differ by case or width alone the one that was used last keeps its name; the other
    gets a number behind it, and the log says so."""
    staff = apps.get_model("people", "Staff")
    log = apps.get_model("people", "Change")
    taken: set[str] = set()
    last = models.F("last_login").desc(nulls_last=True)
    for one in staff.objects.order_by("-is_active", last, "id"):
        before, number = one.username, 1
        while _key(one.username) in taken:
            number += 1
            one.username = f"{before[:56]}-{number}"
        taken.add(_key(one.username))
        if one.username != before:
            one.save(update_fields=["username"])
            words = f"{one.name} signs in as {one.username} now: {before} is another person's"
            log.objects.create(school_id=one.school_id, by=one, what="staff", words=words,
                               about=one.id)  # fmt: skip


def _key(username: str) -> str:
    return unicodedata.normalize("NFKC", username).strip().lower()


class Migration(migrations.Migration):
    dependencies = [
        ("people", "0009_games_in_the_log"),
        ("sessions", "0001_initial"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]
    operations = [
        migrations.AddField("school", "idle_days", models.PositiveSmallIntegerField(default=14)),
        migrations.AddField(
            "school", "tablet_idle_days", models.PositiveSmallIntegerField(default=7)
        ),
        migrations.AddConstraint(
            "school",
            models.CheckConstraint(
                condition=models.Q(
                    ("idle_days__range", (1, 60)), ("tablet_idle_days__range", (1, 60))
                ),
                name="school_idle_days",
            ),
        ),
        migrations.RunPython(tell_apart, migrations.RunPython.noop),
        migrations.RunSQL("SET CONSTRAINTS ALL IMMEDIATE", migrations.RunSQL.noop),
        migrations.AddConstraint(
            "staff",
            models.UniqueConstraint(
                django.db.models.functions.text.Lower(
                    models.Func(
                        "username",
                        function="normalize",
                        template="%(function)s(%(expressions)s, NFKC)",
                    )
                ),
                name="staff_username_once",
            ),
        ),
        migrations.RunPython(stay_signed_in, migrations.RunPython.noop),
    ]
