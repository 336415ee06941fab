"""Pulses and calibrations are added, never changed; a child's pulses stay in its school."""

from django.db import migrations

FORWARD = """
CREATE TRIGGER pulse_append_only BEFORE UPDATE OR DELETE ON records_pulsereading
    FOR EACH ROW EXECUTE FUNCTION lauf_append_only();
CREATE TRIGGER calibration_append_only BEFORE UPDATE OR DELETE ON records_calibration
    FOR EACH ROW EXECUTE FUNCTION lauf_append_only();
ALTER TABLE records_pulsereading ADD CONSTRAINT pulse_in_its_pupils_school
    FOREIGN KEY (pupil_id, school_id) REFERENCES people_pupil (id, school_id);
"""

BACKWARD = """
ALTER TABLE records_pulsereading DROP CONSTRAINT pulse_in_its_pupils_school;
DROP TRIGGER calibration_append_only ON records_calibration;
DROP TRIGGER pulse_append_only ON records_pulsereading;
"""


class Migration(migrations.Migration):
    dependencies = [("records", "0003_parts_pulses_calibrations")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
