import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    """What a school did since a day, or of a test, is found without going through all there is."""

    dependencies = [
        ("catalogue", "0008_least_and_most_by_age"),
        ("people", "0015_letters_of_names"),
        ("records", "0017_told_at_once"),
    ]

    operations = [
        migrations.AddIndex(
            model_name="attempt",
            index=models.Index(fields=["school", "on"], name="attempt_by_day"),
        ),
        migrations.AlterField(
            model_name="attempt",
            name="school",
            field=models.ForeignKey(
                db_index=False,
                on_delete=django.db.models.deletion.PROTECT,
                related_name="attempts",
                to="people.school",
            ),
        ),
        migrations.AddIndex(
            model_name="attempt",
            index=models.Index(fields=["protocol", "on"], name="attempt_by_test"),
        ),
        migrations.AlterField(
            model_name="attempt",
            name="protocol",
            field=models.ForeignKey(
                db_index=False,
                on_delete=django.db.models.deletion.PROTECT,
                related_name="attempts",
                to="catalogue.protocolversion",
            ),
        ),
    ]
