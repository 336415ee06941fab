"""Append-only tables have one door: a row is moved to another child or goes for good only inside it,
and whoever opens it leaves a line in the log (`records.door`)."""

from django.db import migrations

FORWARD = """
CREATE OR REPLACE FUNCTION lauf_append_only() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF coalesce(current_setting('lauf.door', true), '') = 'open' THEN
        RETURN CASE TG_OP WHEN 'DELETE' THEN OLD ELSE NEW END;
    END IF;
    RAISE EXCEPTION '% is append-only: add a row that succeeds the old one', TG_TABLE_NAME
        USING ERRCODE = 'restrict_violation';
END $$;
"""

BACKWARD = """
CREATE OR REPLACE FUNCTION lauf_append_only() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION '% is append-only: add a row that succeeds the old one', TG_TABLE_NAME
        USING ERRCODE = 'restrict_violation';
END $$;
"""


class Migration(migrations.Migration):
    dependencies = [("records", "0008_of_this_age")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
