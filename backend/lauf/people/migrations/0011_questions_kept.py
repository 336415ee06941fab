"""A school from before questions were kept beside the scores is asked about all of them once."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("people", "0010_sessions_and_user_names")]

    operations = [
        migrations.AddField("school", "questions_kept", models.BooleanField(default=False)),
        migrations.AlterField("school", "questions_kept", models.BooleanField(default=True)),
    ]
