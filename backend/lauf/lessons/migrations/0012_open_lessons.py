from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("lessons", "0011_helpers"),
    ]

    operations = [
        migrations.AddIndex(
            model_name="lesson",
            index=models.Index(
                condition=models.Q(("closed_at", None)),
                fields=["school", "starts_at"],
                name="lesson_open",
            ),
        ),
    ]
