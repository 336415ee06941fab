"""Rules that only the database can keep: attempts and settlements are append-only, a value has its
protocol's kind, a child, its class's lessons and their scores stay within one school, a used
protocol version stays as it was."""

from django.db import migrations

FORWARD = """
CREATE FUNCTION lauf_append_only() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION '% is append-only: add a row that succeeds the old one', TG_TABLE_NAME
        USING ERRCODE = 'restrict_violation';
END $$;
CREATE TRIGGER attempt_append_only BEFORE UPDATE OR DELETE ON records_attempt
    FOR EACH ROW EXECUTE FUNCTION lauf_append_only();
CREATE TRIGGER settlement_append_only BEFORE UPDATE OR DELETE ON records_settlement
    FOR EACH ROW EXECUTE FUNCTION lauf_append_only();

CREATE FUNCTION lauf_protocol_in_use() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF EXISTS (SELECT 1 FROM records_attempt WHERE protocol_id = OLD.id) THEN
        RAISE EXCEPTION 'this protocol version has scores: make the next version'
            USING ERRCODE = 'restrict_violation';
    END IF;
    RETURN NEW;
END $$;
CREATE TRIGGER protocol_in_use BEFORE UPDATE ON catalogue_protocolversion
    FOR EACH ROW EXECUTE FUNCTION lauf_protocol_in_use();

ALTER TABLE records_attempt ADD CONSTRAINT attempt_kind_of_its_protocol
    FOREIGN KEY (protocol_id, kind) REFERENCES catalogue_protocolversion (id, kind);
ALTER TABLE people_pupil ADD CONSTRAINT pupil_id_and_school UNIQUE (id, school_id);
ALTER TABLE records_attempt ADD CONSTRAINT attempt_in_its_pupils_school
    FOREIGN KEY (pupil_id, school_id) REFERENCES people_pupil (id, school_id);
"""

BACKWARD = """
ALTER TABLE records_attempt DROP CONSTRAINT attempt_in_its_pupils_school;
ALTER TABLE people_pupil DROP CONSTRAINT pupil_id_and_school;
ALTER TABLE records_attempt DROP CONSTRAINT attempt_kind_of_its_protocol;
DROP TRIGGER protocol_in_use ON catalogue_protocolversion;
DROP FUNCTION lauf_protocol_in_use();
DROP TRIGGER settlement_append_only ON records_settlement;
DROP TRIGGER attempt_append_only ON records_attempt;
DROP FUNCTION lauf_append_only();
"""


class Migration(migrations.Migration):
    dependencies = [("records", "0001_initial")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
