"""What repeat tests added up to is worked out again: one pair counts for no more than a bound."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("records", "0012_group_aims")]

    operations = [
        migrations.RunSQL("DELETE FROM records_repeatsummary", migrations.RunSQL.noop),
    ]
