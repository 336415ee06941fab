"""Wrong sign-ins are counted in one place: what was kept of them in the database goes."""

from __future__ import annotations

from django.db import migrations

_GONE = """
DROP TABLE IF EXISTS axes_accessattemptexpiration, axes_accessattempt, axes_accesslog,
    axes_accessfailurelog CASCADE;
DELETE FROM django_migrations WHERE app = 'axes';
DELETE FROM auth_permission WHERE content_type_id IN
    (SELECT id FROM django_content_type WHERE app_label = 'axes');
DELETE FROM django_content_type WHERE app_label = 'axes';
"""


class Migration(migrations.Migration):
    dependencies = [
        ("people", "0011_questions_kept"),
        ("auth", "0012_alter_user_first_name_max_length"),
    ]

    operations = [migrations.RunSQL(_GONE, migrations.RunSQL.noop)]
