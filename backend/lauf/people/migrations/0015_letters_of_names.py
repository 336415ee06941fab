from django.contrib.postgres.indexes import GinIndex, OpClass
from django.contrib.postgres.operations import BtreeGinExtension, TrigramExtension
from django.db import migrations, models
from django.db.models.functions import Upper


class Migration(migrations.Migration):
    """Both extensions come with PostgreSQL, and whoever owns a database may have them in it."""

    dependencies = [
        ("people", "0014_trusts"),
    ]

    operations = [
        TrigramExtension(),
        BtreeGinExtension(),
        migrations.AddIndex(
            model_name="pupil",
            index=GinIndex(
                models.F("school"),
                OpClass(Upper("given_name"), name="gin_trgm_ops"),
                name="pupil_letters_of_given_name",
            ),
        ),
        migrations.AddIndex(
            model_name="pupil",
            index=GinIndex(
                models.F("school"),
                OpClass(Upper("family_name"), name="gin_trgm_ops"),
                name="pupil_letters_of_family_name",
            ),
        ),
    ]
