"""The ledger is never changed: a line is taken back by another one. Its children are of its own
school."""

from django.db import migrations

FORWARD = """
CREATE TRIGGER point_append_only BEFORE UPDATE OR DELETE ON challenges_point
    FOR EACH ROW EXECUTE FUNCTION lauf_append_only();
ALTER TABLE challenges_point ADD CONSTRAINT point_in_its_pupils_school
    FOREIGN KEY (pupil_id, school_id) REFERENCES people_pupil (id, school_id);
"""
BACKWARD = """
ALTER TABLE challenges_point DROP CONSTRAINT point_in_its_pupils_school;
DROP TRIGGER point_append_only ON challenges_point;
"""


class Migration(migrations.Migration):
    dependencies = [
        ("challenges", "0001_initial"),
        ("records", "0002_what_must_never_be_false"),
    ]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
