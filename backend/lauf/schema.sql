-- The tables of an empty Lauf, made of its migrations by `./lauf schema`.

CREATE EXTENSION IF NOT EXISTS btree_gin WITH SCHEMA public;
COMMENT ON EXTENSION btree_gin IS 'support for indexing common datatypes in GIN';
CREATE EXTENSION IF NOT EXISTS pg_trgm WITH SCHEMA public;
COMMENT ON EXTENSION pg_trgm IS 'text similarity measurement and index searching based on trigrams';
CREATE FUNCTION public.lauf_append_only() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF coalesce(current_setting('lauf.door', true), '') = 'open' THEN
        RETURN CASE TG_OP WHEN 'DELETE' THEN OLD ELSE NEW END;
    END IF;
    RAISE EXCEPTION '% is append-only: add a row that succeeds the old one', TG_TABLE_NAME
        USING ERRCODE = 'restrict_violation';
END $$;
CREATE FUNCTION public.lauf_protocol_in_use() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF EXISTS (SELECT 1 FROM records_attempt WHERE protocol_id = OLD.id) THEN
        RAISE EXCEPTION 'this protocol version has scores: make the next version'
            USING ERRCODE = 'restrict_violation';
    END IF;
    RETURN NEW;
END $$;
CREATE FUNCTION public.lauf_tell_challenges_go() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'goes')::text)
    FROM (
        SELECT DISTINCT l.id
        FROM changed n
        JOIN people_pupil p ON p.id = n.pupil_id
        JOIN lessons_lesson l ON l.school_class_id = p.school_class_id
            AND l.starts_at BETWEEN n.made_at - interval '1 day' AND n.made_at + interval '1 day'
        LIMIT 100
    ) AS f (lesson);
    RETURN NULL;
END $$;
CREATE FUNCTION public.lauf_tell_lessons_activity() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF (SELECT count(*) FROM (SELECT 1 FROM changed LIMIT 41) AS few) > 40 THEN
        PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'gap')::text)
        FROM (SELECT DISTINCT l.id FROM changed n JOIN lessons_lesson l ON l.id = n.lesson_id LIMIT 100) AS f (lesson);
    ELSE
        PERFORM pg_notify('lauf_live', json_build_object(
            'lesson', f.lesson, 'what', 'plan', 'activity', f.activity, 'pupil', f.pupil,
            'entry', f.entry)::text)
        FROM (SELECT DISTINCT l.id, NULL::uuid, NULL::uuid, NULL::uuid FROM changed n JOIN lessons_lesson l ON l.id = n.lesson_id)
            AS f (lesson, activity, pupil, entry);
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION public.lauf_tell_lessons_allowed() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF (SELECT count(*) FROM (SELECT 1 FROM changed LIMIT 41) AS few) > 40 THEN
        PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'gap')::text)
        FROM (SELECT DISTINCT l.id FROM changed n JOIN lessons_lesson l ON l.id = n.lesson_id LIMIT 100) AS f (lesson);
    ELSE
        PERFORM pg_notify('lauf_live', json_build_object(
            'lesson', f.lesson, 'what', 'plan', 'activity', f.activity, 'pupil', f.pupil,
            'entry', f.entry)::text)
        FROM (SELECT DISTINCT l.id, NULL::uuid, NULL::uuid, NULL::uuid FROM changed n JOIN lessons_lesson l ON l.id = n.lesson_id)
            AS f (lesson, activity, pupil, entry);
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION public.lauf_tell_lessons_conduct() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF (SELECT count(*) FROM (SELECT 1 FROM changed LIMIT 41) AS few) > 40 THEN
        PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'gap')::text)
        FROM (SELECT DISTINCT l.id FROM changed n JOIN lessons_lesson l ON l.id = n.lesson_id LIMIT 100) AS f (lesson);
    ELSE
        PERFORM pg_notify('lauf_live', json_build_object(
            'lesson', f.lesson, 'what', 'clock', 'activity', f.activity, 'pupil', f.pupil,
            'entry', f.entry)::text)
        FROM (SELECT DISTINCT l.id, NULL::uuid, NULL::uuid, NULL::uuid FROM changed n JOIN lessons_lesson l ON l.id = n.lesson_id)
            AS f (lesson, activity, pupil, entry);
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION public.lauf_tell_lessons_helper() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF (SELECT count(*) FROM (SELECT 1 FROM changed LIMIT 41) AS few) > 40 THEN
        PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'gap')::text)
        FROM (SELECT DISTINCT l.id FROM changed n JOIN lessons_lesson l ON l.id = n.lesson_id LIMIT 100) AS f (lesson);
    ELSE
        PERFORM pg_notify('lauf_live', json_build_object(
            'lesson', f.lesson, 'what', 'helpers', 'activity', f.activity, 'pupil', f.pupil,
            'entry', f.entry)::text)
        FROM (SELECT DISTINCT l.id, NULL::uuid, NULL::uuid, NULL::uuid FROM changed n JOIN lessons_lesson l ON l.id = n.lesson_id)
            AS f (lesson, activity, pupil, entry);
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION public.lauf_tell_lessons_helpercode() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF (SELECT count(*) FROM (SELECT 1 FROM changed LIMIT 41) AS few) > 40 THEN
        PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'gap')::text)
        FROM (SELECT DISTINCT l.id FROM changed n JOIN lessons_lesson l ON l.id = n.lesson_id LIMIT 100) AS f (lesson);
    ELSE
        PERFORM pg_notify('lauf_live', json_build_object(
            'lesson', f.lesson, 'what', 'helpers', 'activity', f.activity, 'pupil', f.pupil,
            'entry', f.entry)::text)
        FROM (SELECT DISTINCT l.id, NULL::uuid, NULL::uuid, NULL::uuid FROM changed n JOIN lessons_lesson l ON l.id = n.lesson_id)
            AS f (lesson, activity, pupil, entry);
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION public.lauf_tell_lessons_lesson() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF (SELECT count(*) FROM (SELECT 1 FROM changed LIMIT 41) AS few) > 40 THEN
        PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'gap')::text)
        FROM (SELECT DISTINCT l.id FROM changed n JOIN lessons_lesson l ON l.id = n.id LIMIT 100) AS f (lesson);
    ELSE
        PERFORM pg_notify('lauf_live', json_build_object(
            'lesson', f.lesson, 'what', 'plan', 'activity', f.activity, 'pupil', f.pupil,
            'entry', f.entry)::text)
        FROM (SELECT DISTINCT l.id, NULL::uuid, NULL::uuid, NULL::uuid FROM changed n JOIN lessons_lesson l ON l.id = n.id)
            AS f (lesson, activity, pupil, entry);
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION public.lauf_tell_lessons_run() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF (SELECT count(*) FROM (SELECT 1 FROM changed LIMIT 41) AS few) > 40 THEN
        PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'gap')::text)
        FROM (SELECT DISTINCT l.id FROM changed n JOIN lessons_activity a ON a.id = n.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id LIMIT 100) AS f (lesson);
    ELSE
        PERFORM pg_notify('lauf_live', json_build_object(
            'lesson', f.lesson, 'what', 'clock', 'activity', f.activity, 'pupil', f.pupil,
            'entry', f.entry)::text)
        FROM (SELECT DISTINCT l.id, a.id, NULL::uuid, NULL::uuid FROM changed n JOIN lessons_activity a ON a.id = n.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id)
            AS f (lesson, activity, pupil, entry);
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION public.lauf_tell_records_attempt() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF (SELECT count(*) FROM (SELECT 1 FROM changed LIMIT 41) AS few) > 40 THEN
        PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'gap')::text)
        FROM (SELECT DISTINCT l.id FROM changed n JOIN lessons_activity a ON a.id = n.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id LIMIT 100) AS f (lesson);
    ELSE
        PERFORM pg_notify('lauf_live', json_build_object(
            'lesson', f.lesson, 'what', 'score', 'activity', f.activity, 'pupil', f.pupil,
            'entry', f.entry)::text)
        FROM (SELECT DISTINCT l.id, a.id, n.pupil_id, n.id FROM changed n JOIN lessons_activity a ON a.id = n.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id)
            AS f (lesson, activity, pupil, entry);
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION public.lauf_tell_records_pulsereading() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF (SELECT count(*) FROM (SELECT 1 FROM changed LIMIT 41) AS few) > 40 THEN
        PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'gap')::text)
        FROM (SELECT DISTINCT l.id FROM changed n JOIN lessons_lesson l ON l.id = n.lesson_id LIMIT 100) AS f (lesson);
    ELSE
        PERFORM pg_notify('lauf_live', json_build_object(
            'lesson', f.lesson, 'what', 'pulse', 'activity', f.activity, 'pupil', f.pupil,
            'entry', f.entry)::text)
        FROM (SELECT DISTINCT l.id, NULL::uuid, n.pupil_id, n.id FROM changed n JOIN lessons_lesson l ON l.id = n.lesson_id)
            AS f (lesson, activity, pupil, entry);
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION public.lauf_tell_records_question() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF (SELECT count(*) FROM (SELECT 1 FROM changed LIMIT 41) AS few) > 40 THEN
        PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'gap')::text)
        FROM (SELECT DISTINCT l.id FROM changed n JOIN records_attempt t ON t.id = n.attempt_id JOIN lessons_activity a ON a.id = t.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id LIMIT 100) AS f (lesson);
    ELSE
        PERFORM pg_notify('lauf_live', json_build_object(
            'lesson', f.lesson, 'what', 'score', 'activity', f.activity, 'pupil', f.pupil,
            'entry', f.entry)::text)
        FROM (SELECT DISTINCT l.id, a.id, t.pupil_id, NULL::uuid FROM changed n JOIN records_attempt t ON t.id = n.attempt_id JOIN lessons_activity a ON a.id = t.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id)
            AS f (lesson, activity, pupil, entry);
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION public.lauf_tell_records_recount() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF (SELECT count(*) FROM (SELECT 1 FROM changed LIMIT 41) AS few) > 40 THEN
        PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'gap')::text)
        FROM (SELECT DISTINCT l.id FROM changed n JOIN lessons_activity a ON a.id = n.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id LIMIT 100) AS f (lesson);
    ELSE
        PERFORM pg_notify('lauf_live', json_build_object(
            'lesson', f.lesson, 'what', 'score', 'activity', f.activity, 'pupil', f.pupil,
            'entry', f.entry)::text)
        FROM (SELECT DISTINCT l.id, a.id, n.pupil_id, n.id FROM changed n JOIN lessons_activity a ON a.id = n.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id)
            AS f (lesson, activity, pupil, entry);
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION public.lauf_tell_records_settlement() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF (SELECT count(*) FROM (SELECT 1 FROM changed LIMIT 41) AS few) > 40 THEN
        PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'gap')::text)
        FROM (SELECT DISTINCT l.id FROM changed n JOIN records_attempt t ON t.id = n.attempt_id JOIN lessons_activity a ON a.id = t.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id LIMIT 100) AS f (lesson);
    ELSE
        PERFORM pg_notify('lauf_live', json_build_object(
            'lesson', f.lesson, 'what', 'score', 'activity', f.activity, 'pupil', f.pupil,
            'entry', f.entry)::text)
        FROM (SELECT DISTINCT l.id, a.id, t.pupil_id, NULL::uuid FROM changed n JOIN records_attempt t ON t.id = n.attempt_id JOIN lessons_activity a ON a.id = t.activity_id JOIN lessons_lesson l ON l.id = a.lesson_id)
            AS f (lesson, activity, pupil, entry);
    END IF;
    RETURN NULL;
END $$;
CREATE TABLE public.auth_group (
    id integer NOT NULL,
    name character varying(150) NOT NULL
);
ALTER TABLE public.auth_group ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.auth_group_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.auth_group_permissions (
    id bigint NOT NULL,
    group_id integer NOT NULL,
    permission_id integer NOT NULL
);
ALTER TABLE public.auth_group_permissions ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.auth_group_permissions_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.auth_permission (
    id integer NOT NULL,
    name character varying(255) NOT NULL,
    content_type_id integer NOT NULL,
    codename character varying(100) NOT NULL
);
ALTER TABLE public.auth_permission ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.auth_permission_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.catalogue_battery (
    id uuid NOT NULL,
    name character varying(80) NOT NULL,
    school_id uuid NOT NULL
);
CREATE TABLE public.catalogue_batterytest (
    id bigint NOT NULL,
    "position" smallint NOT NULL,
    battery_id uuid NOT NULL,
    test_id uuid NOT NULL,
    CONSTRAINT catalogue_batterytest_position_check CHECK (("position" >= 0))
);
ALTER TABLE public.catalogue_batterytest ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.catalogue_batterytest_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.catalogue_course (
    id uuid NOT NULL,
    name character varying(60) NOT NULL,
    lap_mm integer NOT NULL,
    steps double precision,
    step_mm integer,
    school_id uuid NOT NULL,
    by_id uuid,
    CONSTRAINT catalogue_course_lap_mm_check CHECK ((lap_mm >= 0)),
    CONSTRAINT catalogue_course_step_mm_check CHECK ((step_mm >= 0)),
    CONSTRAINT course_has_a_length CHECK (((lap_mm >= 1000) AND (lap_mm <= 5000000)))
);
CREATE TABLE public.catalogue_ladder (
    id uuid NOT NULL,
    variant character varying(20) NOT NULL,
    seconds integer,
    source character varying(120) NOT NULL,
    year_group_id uuid,
    test_id uuid NOT NULL,
    conditions jsonb NOT NULL,
    from_age smallint,
    meaning smallint NOT NULL,
    sex character varying(6) NOT NULL,
    to_age smallint,
    CONSTRAINT catalogue_ladder_from_age_check CHECK ((from_age >= 0)),
    CONSTRAINT catalogue_ladder_meaning_check CHECK ((meaning >= 0)),
    CONSTRAINT catalogue_ladder_seconds_check CHECK ((seconds >= 0)),
    CONSTRAINT catalogue_ladder_to_age_check CHECK ((to_age >= 0)),
    CONSTRAINT ladder_is_for_a_year_or_for_ages CHECK ((((from_age IS NULL) AND (to_age IS NULL) AND (year_group_id IS NOT NULL)) OR ((from_age IS NOT NULL) AND (to_age >= from_age) AND (year_group_id IS NULL))))
);
CREATE TABLE public.catalogue_ladderrung (
    id uuid NOT NULL,
    "position" smallint NOT NULL,
    name character varying(40) NOT NULL,
    threshold bigint NOT NULL,
    beyond boolean NOT NULL,
    ladder_id uuid NOT NULL,
    CONSTRAINT catalogue_ladderrung_position_check CHECK (("position" >= 0))
);
CREATE TABLE public.catalogue_normtable (
    id uuid NOT NULL,
    variant character varying(20) NOT NULL,
    seconds integer,
    meaning smallint NOT NULL,
    name character varying(120) NOT NULL,
    source character varying(240) NOT NULL,
    population character varying(120) NOT NULL,
    year smallint NOT NULL,
    standing character varying(240) NOT NULL,
    form character varying(12) NOT NULL,
    unit_size double precision NOT NULL,
    unit character varying(12) NOT NULL,
    at_points boolean NOT NULL,
    percentiles jsonb NOT NULL,
    rows jsonb NOT NULL,
    school_id uuid NOT NULL,
    test_id uuid NOT NULL,
    CONSTRAINT catalogue_normtable_meaning_check CHECK ((meaning >= 0)),
    CONSTRAINT catalogue_normtable_seconds_check CHECK ((seconds >= 0)),
    CONSTRAINT catalogue_normtable_year_check CHECK ((year >= 0)),
    CONSTRAINT norm_form_is_known CHECK (((form)::text = ANY ((ARRAY['percentiles'::character varying, 'lms'::character varying])::text[])))
);
CREATE TABLE public.catalogue_protocolversion (
    id uuid NOT NULL,
    number smallint NOT NULL,
    kind character varying(12) NOT NULL,
    better character varying(4) NOT NULL,
    unit character varying(12) NOT NULL,
    resolution integer NOT NULL,
    lowest bigint NOT NULL,
    highest bigint NOT NULL,
    cap bigint,
    seconds integer,
    waves smallint NOT NULL,
    most_a_second double precision,
    default_typical_error double precision NOT NULL,
    variants jsonb NOT NULL,
    say jsonb NOT NULL,
    counts jsonb NOT NULL,
    does_not_count jsonb NOT NULL,
    cautions jsonb NOT NULL,
    test_id uuid NOT NULL,
    at_once smallint,
    changed character varying(240) NOT NULL,
    changeover_seconds integer NOT NULL,
    conditions jsonb NOT NULL,
    counted_by character varying(60) NOT NULL,
    easier character varying(240) NOT NULL,
    effort character varying(8) NOT NULL,
    ends character varying(240) NOT NULL,
    from_age smallint NOT NULL,
    harder character varying(240) NOT NULL,
    helpers smallint NOT NULL,
    kit jsonb NOT NULL,
    loads jsonb NOT NULL,
    meaning smallint NOT NULL,
    merge character varying(4) NOT NULL,
    of smallint,
    places jsonb NOT NULL,
    schedule character varying(8) NOT NULL,
    setup_seconds integer NOT NULL,
    space character varying(120) NOT NULL,
    target_mm bigint,
    to_age smallint NOT NULL,
    trial_seconds integer NOT NULL,
    tries smallint NOT NULL,
    error_share double precision,
    errors_by_age jsonb NOT NULL,
    bounds_by_age jsonb NOT NULL,
    CONSTRAINT catalogue_protocolversion_at_once_check CHECK ((at_once >= 0)),
    CONSTRAINT catalogue_protocolversion_changeover_seconds_check CHECK ((changeover_seconds >= 0)),
    CONSTRAINT catalogue_protocolversion_from_age_check CHECK ((from_age >= 0)),
    CONSTRAINT catalogue_protocolversion_helpers_check CHECK ((helpers >= 0)),
    CONSTRAINT catalogue_protocolversion_meaning_check CHECK ((meaning >= 0)),
    CONSTRAINT catalogue_protocolversion_number_check CHECK ((number >= 0)),
    CONSTRAINT catalogue_protocolversion_of_check CHECK ((of >= 0)),
    CONSTRAINT catalogue_protocolversion_resolution_check CHECK ((resolution >= 0)),
    CONSTRAINT catalogue_protocolversion_seconds_check CHECK ((seconds >= 0)),
    CONSTRAINT catalogue_protocolversion_setup_seconds_check CHECK ((setup_seconds >= 0)),
    CONSTRAINT catalogue_protocolversion_to_age_check CHECK ((to_age >= 0)),
    CONSTRAINT catalogue_protocolversion_trial_seconds_check CHECK ((trial_seconds >= 0)),
    CONSTRAINT catalogue_protocolversion_tries_check CHECK ((tries >= 0)),
    CONSTRAINT catalogue_protocolversion_waves_check CHECK ((waves >= 0)),
    CONSTRAINT protocol_has_a_try CHECK (((tries >= 1) AND (waves >= 1))),
    CONSTRAINT protocol_kind_is_known CHECK (((kind)::text = ANY ((ARRAY['count'::character varying, 'time'::character varying, 'length'::character varying, 'marks'::character varying, 'offset'::character varying, 'sides'::character varying, 'hits'::character varying, 'stage'::character varying, 'laps'::character varying, 'total'::character varying, 'mass'::character varying, 'pulse'::character varying])::text[])))
);
CREATE TABLE public.catalogue_test (
    id uuid NOT NULL,
    name character varying(80) NOT NULL,
    slug character varying(80) NOT NULL,
    school_id uuid NOT NULL,
    family character varying(20) NOT NULL,
    private boolean NOT NULL,
    ready boolean NOT NULL
);
CREATE TABLE public.challenges_challenge (
    id uuid NOT NULL,
    "on" date NOT NULL,
    rival character varying(60) NOT NULL,
    rival_typed character varying(180) NOT NULL,
    rival_value bigint,
    rival_variant character varying(20) NOT NULL,
    protocol_id uuid NOT NULL,
    week_id uuid NOT NULL,
    rival_conditions jsonb NOT NULL,
    "position" smallint NOT NULL,
    rival_kind character varying(8) NOT NULL,
    rival_rung smallint,
    CONSTRAINT challenges_challenge_on_has_bounds CHECK ((("on" >= '1999-12-31'::date) AND ("on" <= '2100-01-01'::date))),
    CONSTRAINT challenges_challenge_position_check CHECK (("position" >= 0)),
    CONSTRAINT challenges_challenge_rival_rung_check CHECK ((rival_rung >= 0)),
    CONSTRAINT rival_has_a_mark CHECK (((((rival_kind)::text = ANY ((ARRAY[''::character varying, 'self'::character varying])::text[])) AND (rival_rung IS NULL) AND (rival_value IS NULL)) OR (((rival_kind)::text = 'person'::text) AND (rival_rung IS NULL)) OR (((rival_kind)::text = 'group'::text) AND (rival_rung IS NULL) AND (rival_value IS NOT NULL)) OR (((rival_kind)::text = 'rung'::text) AND (rival_rung IS NOT NULL) AND (rival_value IS NULL)))),
    CONSTRAINT rival_is_named CHECK (((((rival)::text = ''::text) AND ((rival_kind)::text = ''::text)) OR ((NOT ((rival)::text = ''::text)) AND (NOT ((rival_kind)::text = ''::text))))),
    CONSTRAINT rival_kind_is_known CHECK (((rival_kind)::text = ANY ((ARRAY[''::character varying, 'person'::character varying, 'group'::character varying, 'rung'::character varying, 'self'::character varying])::text[])))
);
CREATE TABLE public.challenges_challengecode (
    id uuid NOT NULL,
    code character varying(8) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    school_class_id uuid NOT NULL,
    week_id uuid NOT NULL
);
CREATE TABLE public.challenges_challengeweek (
    id uuid NOT NULL,
    name character varying(60) NOT NULL,
    starts_on date NOT NULL,
    ends_on date NOT NULL,
    points jsonb NOT NULL,
    made_at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    school_id uuid NOT NULL,
    pause smallint NOT NULL,
    CONSTRAINT challenges_challengeweek_made_at_has_bounds CHECK (((made_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (made_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT challenges_challengeweek_pause_check CHECK ((pause >= 0)),
    CONSTRAINT week_ends_after_it_starts CHECK ((ends_on >= starts_on)),
    CONSTRAINT week_is_of_this_age CHECK (((ends_on <= '2099-12-31'::date) AND (starts_on >= '2000-01-01'::date)))
);
CREATE TABLE public.challenges_challengeweek_classes (
    id bigint NOT NULL,
    challengeweek_id uuid NOT NULL,
    schoolclass_id uuid NOT NULL
);
ALTER TABLE public.challenges_challengeweek_classes ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.challenges_challengeweek_classes_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.challenges_games (
    id uuid NOT NULL,
    key uuid NOT NULL,
    name character varying(60) NOT NULL,
    starts_on date NOT NULL,
    ends_on date NOT NULL,
    closes_on date NOT NULL,
    body jsonb NOT NULL,
    signed_by character varying(60) NOT NULL,
    signature character varying(100) NOT NULL,
    organised_here boolean NOT NULL,
    open_here boolean NOT NULL,
    handed_in integer NOT NULL,
    made_at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    school_id uuid NOT NULL,
    CONSTRAINT challenges_games_handed_in_check CHECK ((handed_in >= 0)),
    CONSTRAINT challenges_games_made_at_has_bounds CHECK (((made_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (made_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT games_are_of_this_age CHECK (((closes_on <= '2099-12-31'::date) AND (starts_on >= '2000-01-01'::date))),
    CONSTRAINT games_end_before_they_close CHECK (((ends_on >= starts_on) AND (closes_on >= ends_on)))
);
CREATE TABLE public.challenges_gameskey (
    school_id uuid NOT NULL,
    private character varying(60) NOT NULL,
    public character varying(60) NOT NULL
);
CREATE TABLE public.challenges_gamesnote (
    id bigint NOT NULL,
    words character varying(240) NOT NULL,
    at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    games_id uuid NOT NULL,
    CONSTRAINT challenges_gamesnote_at_has_bounds CHECK (((at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (at <= '2100-01-01 00:00:00+00'::timestamp with time zone)))
);
ALTER TABLE public.challenges_gamesnote ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.challenges_gamesnote_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.challenges_gamesresult (
    id uuid NOT NULL,
    number integer NOT NULL,
    made_at timestamp with time zone NOT NULL,
    body jsonb NOT NULL,
    signature character varying(100) NOT NULL,
    came_at timestamp with time zone NOT NULL,
    let_in boolean NOT NULL,
    came_by_id uuid NOT NULL,
    sent_by_id uuid NOT NULL,
    CONSTRAINT challenges_gamesresult_came_at_has_bounds CHECK (((came_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (came_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT challenges_gamesresult_made_at_has_bounds CHECK (((made_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (made_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT challenges_gamesresult_number_check CHECK ((number >= 0))
);
CREATE TABLE public.challenges_gamesschool (
    id uuid NOT NULL,
    public character varying(60) NOT NULL,
    name character varying(120) NOT NULL,
    games_id uuid NOT NULL,
    known_by_id uuid
);
CREATE TABLE public.challenges_gamestest (
    id uuid NOT NULL,
    "position" smallint NOT NULL,
    games_id uuid NOT NULL,
    protocol_id uuid NOT NULL,
    CONSTRAINT challenges_gamestest_position_check CHECK (("position" >= 0))
);
CREATE TABLE public.challenges_go (
    id uuid NOT NULL,
    by_slip boolean NOT NULL,
    typed character varying(180) NOT NULL,
    variant character varying(20) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    received_at timestamp with time zone NOT NULL,
    state character varying(8) NOT NULL,
    decided_at timestamp with time zone,
    attempt_id uuid,
    challenge_id uuid NOT NULL,
    counted_by_id uuid,
    decided_by_id uuid,
    pupil_id uuid NOT NULL,
    school_id uuid NOT NULL,
    CONSTRAINT challenges_go_received_at_has_bounds CHECK (((received_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (received_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT go_is_accepted_as_a_score CHECK ((((attempt_id IS NOT NULL) AND ((state)::text = 'accepted'::text)) OR ((NOT ((state)::text = 'accepted'::text)) AND (attempt_id IS NULL)))),
    CONSTRAINT go_is_of_this_age CHECK ((((made_at >= '2000-01-01 00:00:00+00'::timestamp with time zone) AND (made_at <= '2099-12-31 00:00:00+00'::timestamp with time zone)) AND ((decided_at IS NULL) OR ((decided_at >= '2000-01-01 00:00:00+00'::timestamp with time zone) AND (decided_at <= '2099-12-31 00:00:00+00'::timestamp with time zone))))),
    CONSTRAINT go_state_is_known CHECK (((state)::text = ANY ((ARRAY['waiting'::character varying, 'accepted'::character varying, 'declined'::character varying, 'undone'::character varying])::text[])))
);
CREATE TABLE public.challenges_point (
    id uuid NOT NULL,
    rule character varying(16) NOT NULL,
    points smallint NOT NULL,
    why character varying(240) NOT NULL,
    at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    challenge_id uuid NOT NULL,
    pupil_id uuid NOT NULL,
    reverses_id uuid,
    school_id uuid NOT NULL,
    CONSTRAINT challenges_point_at_has_bounds CHECK (((at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT point_is_given_or_taken_back CHECK ((((points >= 1) AND (points <= 20) AND (reverses_id IS NULL)) OR ((reverses_id IS NOT NULL) AND (points >= '-20'::integer) AND (points <= 20) AND (NOT (points = 0))))),
    CONSTRAINT point_rule_is_known CHECK (((rule)::text = ANY ((ARRAY['took_part'::character varying, 'beat_own_best'::character varying, 'reached_rung'::character varying, 'beat_rival'::character varying])::text[])))
);
CREATE TABLE public.challenges_slip (
    id uuid NOT NULL,
    picture smallint NOT NULL,
    code character varying(12),
    made_at timestamp with time zone NOT NULL,
    withdrawn_at timestamp with time zone,
    by_id uuid NOT NULL,
    pupil_id uuid NOT NULL,
    week_id uuid NOT NULL,
    CONSTRAINT challenges_slip_made_at_has_bounds CHECK (((made_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (made_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT challenges_slip_picture_check CHECK ((picture >= 0)),
    CONSTRAINT slip_is_withdrawn_in_our_age CHECK (((withdrawn_at IS NULL) OR ((withdrawn_at >= '2000-01-01 00:00:00+00'::timestamp with time zone) AND (withdrawn_at <= '2099-12-31 00:00:00+00'::timestamp with time zone))))
);
CREATE TABLE public.django_content_type (
    id integer NOT NULL,
    app_label character varying(100) NOT NULL,
    model character varying(100) NOT NULL
);
ALTER TABLE public.django_content_type ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.django_content_type_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.django_migrations (
    id bigint NOT NULL,
    app character varying(255) NOT NULL,
    name character varying(255) NOT NULL,
    applied timestamp with time zone NOT NULL
);
ALTER TABLE public.django_migrations ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.django_migrations_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.django_session (
    session_key character varying(40) NOT NULL,
    session_data text NOT NULL,
    expire_date timestamp with time zone NOT NULL
);
CREATE UNLOGGED TABLE public.exchange_handoutjob (
    id uuid NOT NULL,
    owner uuid NOT NULL,
    name character varying(240) NOT NULL,
    of integer NOT NULL,
    done integer NOT NULL,
    problem character varying(240) NOT NULL,
    file bytea,
    touched_at timestamp with time zone NOT NULL,
    CONSTRAINT exchange_handoutjob_done_check CHECK ((done >= 0)),
    CONSTRAINT exchange_handoutjob_of_check CHECK ((of >= 0))
);
CREATE TABLE public.lessons_activity (
    id uuid NOT NULL,
    "position" smallint NOT NULL,
    protocol_id uuid NOT NULL,
    lesson_id uuid NOT NULL,
    conditions jsonb NOT NULL,
    counted_twice boolean NOT NULL,
    CONSTRAINT lessons_activity_position_check CHECK (("position" >= 0))
);
CREATE TABLE public.lessons_allowed (
    id bigint NOT NULL,
    what character varying(12) NOT NULL,
    at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    lesson_id uuid NOT NULL,
    pupil_id uuid NOT NULL,
    CONSTRAINT allowed_is_known CHECK (((what)::text = ANY ((ARRAY['measuring'::character varying, 'running'::character varying, 'maximal'::character varying, 'hanging'::character varying, 'hands'::character varying])::text[]))),
    CONSTRAINT lessons_allowed_at_has_bounds CHECK (((at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (at <= '2100-01-01 00:00:00+00'::timestamp with time zone)))
);
ALTER TABLE public.lessons_allowed ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.lessons_allowed_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.lessons_conduct (
    lesson_id uuid NOT NULL,
    run_id uuid NOT NULL,
    revision integer NOT NULL,
    plan_revision integer NOT NULL,
    state jsonb NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    timeline jsonb,
    CONSTRAINT lessons_conduct_changed_at_has_bounds CHECK (((changed_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (changed_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT lessons_conduct_plan_revision_check CHECK ((plan_revision >= 0)),
    CONSTRAINT lessons_conduct_revision_check CHECK ((revision >= 0))
);
CREATE TABLE public.lessons_helper (
    id uuid NOT NULL,
    name character varying(40) NOT NULL,
    proof character varying(64),
    joined_at timestamp with time zone NOT NULL,
    ended_at timestamp with time zone,
    lesson_id uuid NOT NULL,
    let_in_by_id uuid NOT NULL,
    CONSTRAINT lessons_helper_ended_at_has_bounds CHECK (((ended_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (ended_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT lessons_helper_joined_at_has_bounds CHECK (((joined_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (joined_at <= '2100-01-01 00:00:00+00'::timestamp with time zone)))
);
CREATE TABLE public.lessons_helpercode (
    lesson_id uuid NOT NULL,
    code character varying(12) NOT NULL,
    secret character varying(40) NOT NULL,
    until timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    CONSTRAINT lessons_helpercode_until_has_bounds CHECK (((until >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (until <= '2100-01-01 00:00:00+00'::timestamp with time zone)))
);
CREATE TABLE public.lessons_lesson (
    id uuid NOT NULL,
    place character varying(60) NOT NULL,
    starts_at timestamp with time zone NOT NULL,
    minutes smallint NOT NULL,
    closed_at timestamp with time zone,
    closed_by_id uuid,
    school_id uuid NOT NULL,
    school_class_id uuid NOT NULL,
    teacher_id uuid NOT NULL,
    battery_id uuid,
    plan_revision integer NOT NULL,
    year_group_id uuid NOT NULL,
    changed_at timestamp with time zone DEFAULT statement_timestamp() NOT NULL,
    CONSTRAINT lesson_closed_by_somebody CHECK ((((closed_at IS NULL) AND (closed_by_id IS NULL)) OR ((closed_at IS NOT NULL) AND (closed_by_id IS NOT NULL)))),
    CONSTRAINT lesson_is_of_this_age CHECK (((starts_at >= '2000-01-01 00:00:00+00'::timestamp with time zone) AND (starts_at <= '2099-12-31 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT lessons_lesson_changed_at_has_bounds CHECK (((changed_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (changed_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT lessons_lesson_closed_at_has_bounds CHECK (((closed_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (closed_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT lessons_lesson_minutes_check CHECK ((minutes >= 0)),
    CONSTRAINT lessons_lesson_plan_revision_check CHECK ((plan_revision >= 0))
);
CREATE TABLE public.lessons_planblock (
    id uuid NOT NULL,
    "position" smallint NOT NULL,
    kind character varying(12) NOT NULL,
    label character varying(80) NOT NULL,
    settings jsonb NOT NULL,
    activity_id uuid,
    lesson_id uuid NOT NULL,
    CONSTRAINT block_kind_is_known CHECK (((kind)::text = ANY ((ARRAY['briefing'::character varying, 'warm_up'::character varying, 'stretch'::character varying, 'pulse'::character varying, 'test'::character varying, 'intervals'::character varying, 'beats'::character varying, 'rep_target'::character varying, 'stations'::character varying, 'water'::character varying, 'cool_down'::character varying, 'report'::character varying])::text[]))),
    CONSTRAINT block_of_a_test_has_its_activity CHECK ((((activity_id IS NOT NULL) AND ((kind)::text = 'test'::text)) OR ((kind)::text = ANY ((ARRAY['rep_target'::character varying, 'beats'::character varying])::text[])) OR ((NOT ((kind)::text = 'test'::text)) AND (activity_id IS NULL)))),
    CONSTRAINT lessons_planblock_position_check CHECK (("position" >= 0))
);
CREATE TABLE public.lessons_planrevision (
    id bigint NOT NULL,
    number integer NOT NULL,
    entries jsonb NOT NULL,
    at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    lesson_id uuid NOT NULL,
    CONSTRAINT lessons_planrevision_at_has_bounds CHECK (((at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT lessons_planrevision_number_check CHECK ((number >= 0))
);
ALTER TABLE public.lessons_planrevision ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.lessons_planrevision_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.lessons_plantemplate (
    id uuid NOT NULL,
    name character varying(60) NOT NULL,
    minutes smallint NOT NULL,
    blocks jsonb NOT NULL,
    made_at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    school_id uuid NOT NULL,
    CONSTRAINT lessons_plantemplate_made_at_has_bounds CHECK (((made_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (made_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT lessons_plantemplate_minutes_check CHECK ((minutes >= 0))
);
CREATE TABLE public.lessons_run (
    id uuid NOT NULL,
    wave smallint,
    revision integer NOT NULL,
    anchor_ms bigint NOT NULL,
    paused_ms bigint,
    ended character varying(10) NOT NULL,
    worked_seconds integer,
    changed_at timestamp with time zone NOT NULL,
    activity_id uuid NOT NULL,
    by_id uuid NOT NULL,
    way character varying(10) NOT NULL,
    try_number smallint NOT NULL,
    go_ms integer NOT NULL,
    pauses jsonb NOT NULL,
    CONSTRAINT lessons_run_changed_at_has_bounds CHECK (((changed_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (changed_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT lessons_run_go_ms_check CHECK ((go_ms >= 0)),
    CONSTRAINT lessons_run_try_number_check CHECK ((try_number >= 0)),
    CONSTRAINT lessons_waverun_revision_check CHECK ((revision >= 0)),
    CONSTRAINT lessons_waverun_wave_check CHECK ((wave >= 0)),
    CONSTRAINT lessons_waverun_worked_seconds_check CHECK ((worked_seconds >= 0)),
    CONSTRAINT run_ended_is_known CHECK (((ended)::text = ANY ((ARRAY[''::character varying, 'complete'::character varying, 'early'::character varying, 'restarted'::character varying])::text[]))),
    CONSTRAINT run_of_a_wave_has_one CHECK (((NOT ((way)::text = 'wave'::text)) OR (wave IS NOT NULL))),
    CONSTRAINT run_says_what_was_worked CHECK ((((ended)::text = ANY ((ARRAY[''::character varying, 'restarted'::character varying])::text[])) OR (worked_seconds IS NOT NULL) OR (NOT ((way)::text = 'wave'::text)))),
    CONSTRAINT run_way_is_known CHECK (((way)::text = ANY ((ARRAY['wave'::character varying, 'taps'::character varying, 'tally'::character varying, 'beeps'::character varying, 'target'::character varying])::text[])))
);
CREATE TABLE public.lessons_slot (
    id uuid NOT NULL,
    weekday smallint NOT NULL,
    at time without time zone NOT NULL,
    minutes smallint NOT NULL,
    place character varying(60) NOT NULL,
    school_class_id uuid NOT NULL,
    teacher_id uuid NOT NULL,
    changed_at timestamp with time zone DEFAULT statement_timestamp() NOT NULL,
    CONSTRAINT lessons_slot_changed_at_has_bounds CHECK (((changed_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (changed_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT lessons_slot_minutes_check CHECK ((minutes >= 0)),
    CONSTRAINT lessons_slot_weekday_check CHECK ((weekday >= 0)),
    CONSTRAINT slot_is_in_a_week CHECK ((((minutes >= 5) AND (minutes <= 240)) AND (weekday <= 6)))
);
CREATE TABLE public.people_change (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    what character varying(12) NOT NULL,
    about character varying(40) NOT NULL,
    words character varying(240) NOT NULL,
    by_id uuid NOT NULL,
    school_id uuid NOT NULL,
    CONSTRAINT people_change_at_has_bounds CHECK (((at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (at <= '2100-01-01 00:00:00+00'::timestamp with time zone)))
);
ALTER TABLE public.people_change ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.people_change_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.people_countedgroup (
    id bigint NOT NULL,
    of character varying(64) NOT NULL,
    asked character varying(64) NOT NULL,
    children uuid[] NOT NULL,
    at timestamp with time zone NOT NULL
);
ALTER TABLE public.people_countedgroup ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.people_countedgroup_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.people_exclusion (
    id uuid NOT NULL,
    what character varying(12) NOT NULL,
    until date,
    made_at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    pupil_id uuid NOT NULL,
    CONSTRAINT exclusion_is_known CHECK (((what)::text = ANY ((ARRAY['measuring'::character varying, 'running'::character varying, 'maximal'::character varying, 'hanging'::character varying, 'hands'::character varying])::text[]))),
    CONSTRAINT people_exclusion_made_at_has_bounds CHECK (((made_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (made_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT people_exclusion_until_has_bounds CHECK (((until >= '1999-12-31'::date) AND (until <= '2100-01-01'::date)))
);
CREATE TABLE public.people_house (
    id uuid NOT NULL,
    name character varying(40) NOT NULL,
    school_id uuid NOT NULL
);
CREATE TABLE public.people_invitation (
    staff_id uuid NOT NULL,
    proof character varying(64) NOT NULL,
    expires_at timestamp with time zone NOT NULL,
    made_at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL
);
CREATE TABLE public.people_merge (
    id uuid NOT NULL,
    moved jsonb NOT NULL,
    at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    double_id uuid NOT NULL,
    kept_id uuid NOT NULL,
    was_in_id uuid,
    CONSTRAINT people_merge_at_has_bounds CHECK (((at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (at <= '2100-01-01 00:00:00+00'::timestamp with time zone)))
);
CREATE TABLE public.people_moveup (
    id uuid NOT NULL,
    before jsonb NOT NULL,
    at timestamp with time zone NOT NULL,
    undone_at timestamp with time zone,
    by_id uuid NOT NULL,
    school_id uuid NOT NULL,
    CONSTRAINT people_moveup_at_has_bounds CHECK (((at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT people_moveup_undone_at_has_bounds CHECK (((undone_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (undone_at <= '2100-01-01 00:00:00+00'::timestamp with time zone)))
);
CREATE TABLE public.people_ownpage (
    pupil_id uuid NOT NULL,
    proof character varying(64) NOT NULL,
    until timestamp with time zone NOT NULL,
    by_id uuid NOT NULL
);
CREATE TABLE public.people_pupil (
    id uuid NOT NULL,
    given_name character varying(60) NOT NULL,
    family_name character varying(60) NOT NULL,
    born date,
    sex character varying(6) NOT NULL,
    medical_note character varying(240) NOT NULL,
    house_id uuid,
    school_id uuid NOT NULL,
    school_class_id uuid,
    place smallint NOT NULL,
    left_on date,
    left_from_id uuid,
    number character varying(40) NOT NULL,
    erased_on date,
    "group" character varying(40) NOT NULL,
    measuring character varying(8) NOT NULL,
    merged_into_id uuid,
    CONSTRAINT people_pupil_born_has_bounds CHECK (((born >= '1980-01-01'::date) AND (born <= '2100-01-01'::date))),
    CONSTRAINT people_pupil_erased_on_has_bounds CHECK (((erased_on >= '1999-12-31'::date) AND (erased_on <= '2100-01-01'::date))),
    CONSTRAINT people_pupil_left_on_has_bounds CHECK (((left_on >= '1999-12-31'::date) AND (left_on <= '2100-01-01'::date))),
    CONSTRAINT people_pupil_place_check CHECK ((place >= 0)),
    CONSTRAINT pupil_erased_is_nobody CHECK (((erased_on IS NULL) OR ((born IS NULL) AND ((family_name)::text = ''::text) AND ((given_name)::text = ''::text) AND (house_id IS NULL) AND ((medical_note)::text = ''::text) AND ((number)::text = ''::text) AND (school_class_id IS NULL)))),
    CONSTRAINT pupil_is_in_a_class_or_has_left_one CHECK ((((left_from_id IS NULL) AND (left_on IS NULL) AND (school_class_id IS NOT NULL)) OR ((left_from_id IS NOT NULL) AND (left_on IS NOT NULL) AND (school_class_id IS NULL)))),
    CONSTRAINT pupil_measuring_is_known CHECK (((measuring)::text = ANY ((ARRAY[''::character varying, 'given'::character varying, 'refused'::character varying])::text[]))),
    CONSTRAINT pupil_merged_is_in_no_class CHECK (((merged_into_id IS NULL) OR (school_class_id IS NULL)))
);
CREATE TABLE public.people_school (
    id uuid NOT NULL,
    name character varying(120) NOT NULL,
    cut_off_month smallint NOT NULL,
    cut_off_day smallint NOT NULL,
    is_demo boolean NOT NULL,
    imperial boolean NOT NULL,
    keep_years smallint,
    scores_outlive boolean NOT NULL,
    second_factor_required boolean NOT NULL,
    scheme jsonb NOT NULL,
    idle_days smallint NOT NULL,
    tablet_idle_days smallint NOT NULL,
    questions_kept boolean NOT NULL,
    most_children integer,
    most_staff integer,
    paused_at timestamp with time zone,
    trust_id uuid,
    CONSTRAINT people_school_cut_off_day_check CHECK ((cut_off_day >= 0)),
    CONSTRAINT people_school_cut_off_month_check CHECK ((cut_off_month >= 0)),
    CONSTRAINT people_school_idle_days_check CHECK ((idle_days >= 0)),
    CONSTRAINT people_school_keep_years_check CHECK ((keep_years >= 0)),
    CONSTRAINT people_school_most_children_check CHECK ((most_children >= 0)),
    CONSTRAINT people_school_most_staff_check CHECK ((most_staff >= 0)),
    CONSTRAINT people_school_tablet_idle_days_check CHECK ((tablet_idle_days >= 0)),
    CONSTRAINT school_cut_off_is_a_day CHECK ((((cut_off_day >= 1) AND (cut_off_day <= 28)) AND ((cut_off_month >= 1) AND (cut_off_month <= 12)))),
    CONSTRAINT school_idle_days CHECK ((((idle_days >= 1) AND (idle_days <= 60)) AND ((tablet_idle_days >= 1) AND (tablet_idle_days <= 60))))
);
CREATE TABLE public.people_schoolclass (
    id uuid NOT NULL,
    name character varying(40) NOT NULL,
    school_id uuid NOT NULL,
    year_group_id uuid NOT NULL,
    closed_on date,
    CONSTRAINT people_schoolclass_closed_on_has_bounds CHECK (((closed_on >= '1999-12-31'::date) AND (closed_on <= '2100-01-01'::date)))
);
CREATE TABLE public.people_schoolclass_teachers (
    id bigint NOT NULL,
    schoolclass_id uuid NOT NULL,
    staff_id uuid NOT NULL
);
ALTER TABLE public.people_schoolclass_teachers ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.people_schoolclass_teachers_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.people_secondfactor (
    staff_id uuid NOT NULL,
    secret character varying(64) NOT NULL,
    proved_at timestamp with time zone,
    last_step bigint NOT NULL,
    papers jsonb NOT NULL
);
CREATE TABLE public.people_secondpost (
    post_id uuid NOT NULL,
    account_id uuid NOT NULL
);
CREATE TABLE public.people_signin (
    id uuid NOT NULL,
    session_key character varying(40) NOT NULL,
    device character varying(80) NOT NULL,
    at timestamp with time zone NOT NULL,
    staff_id uuid NOT NULL
);
CREATE TABLE public.people_staff (
    password character varying(128) NOT NULL,
    last_login timestamp with time zone,
    id uuid NOT NULL,
    username character varying(60) NOT NULL,
    name character varying(120) NOT NULL,
    role character varying(10) NOT NULL,
    is_active boolean NOT NULL,
    school_id uuid NOT NULL,
    may_see_growth boolean NOT NULL,
    may_edit_tests boolean NOT NULL,
    sessions_from integer NOT NULL,
    calendar_proof character varying(64) NOT NULL,
    email character varying(254) NOT NULL,
    may_see_school boolean NOT NULL,
    at_office boolean DEFAULT false NOT NULL,
    CONSTRAINT people_staff_last_login_has_bounds CHECK (((last_login >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (last_login <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT people_staff_sessions_from_check CHECK ((sessions_from >= 0)),
    CONSTRAINT staff_role_is_known CHECK (((role)::text = ANY ((ARRAY['head'::character varying, 'teacher'::character varying])::text[])))
);
CREATE TABLE public.people_term (
    id uuid NOT NULL,
    kind character varying(8) NOT NULL,
    name character varying(40) NOT NULL,
    starts date NOT NULL,
    ends date NOT NULL,
    school_id uuid NOT NULL,
    CONSTRAINT people_term_ends_has_bounds CHECK (((ends >= '1999-12-31'::date) AND (ends <= '2100-01-01'::date))),
    CONSTRAINT people_term_starts_has_bounds CHECK (((starts >= '1999-12-31'::date) AND (starts <= '2100-01-01'::date))),
    CONSTRAINT term_ends_after_it_starts CHECK ((ends >= starts)),
    CONSTRAINT term_kind_is_known CHECK (((kind)::text = ANY ((ARRAY['term'::character varying, 'holiday'::character varying])::text[])))
);
CREATE TABLE public.people_trust (
    id uuid NOT NULL,
    name character varying(120) NOT NULL,
    office_id uuid NOT NULL
);
CREATE TABLE public.people_yeargroup (
    id uuid NOT NULL,
    name character varying(40) NOT NULL,
    "position" smallint NOT NULL,
    age smallint NOT NULL,
    school_id uuid NOT NULL,
    CONSTRAINT people_yeargroup_age_check CHECK ((age >= 0)),
    CONSTRAINT people_yeargroup_position_check CHECK (("position" >= 0))
);
CREATE TABLE public.records_aim (
    id uuid NOT NULL,
    typed character varying(180) NOT NULL,
    value bigint NOT NULL,
    variant character varying(20) NOT NULL,
    proposed boolean NOT NULL,
    at timestamp with time zone NOT NULL,
    activity_id uuid NOT NULL,
    by_id uuid NOT NULL,
    pupil_id uuid NOT NULL,
    CONSTRAINT records_aim_at_has_bounds CHECK (((at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (at <= '2100-01-01 00:00:00+00'::timestamp with time zone)))
);
CREATE TABLE public.records_attempt (
    id uuid NOT NULL,
    kind character varying(12) NOT NULL,
    "on" date NOT NULL,
    variant character varying(20) NOT NULL,
    wave smallint,
    try_number smallint NOT NULL,
    typed character varying(180) NOT NULL,
    value bigint,
    reason character varying(12),
    estimate boolean NOT NULL,
    why character varying(240) NOT NULL,
    recorded_at timestamp with time zone NOT NULL,
    received_at timestamp with time zone NOT NULL,
    activity_id uuid NOT NULL,
    protocol_id uuid NOT NULL,
    pupil_id uuid NOT NULL,
    recorded_by_id uuid NOT NULL,
    school_id uuid NOT NULL,
    succeeds_id uuid,
    conditions jsonb NOT NULL,
    parts jsonb NOT NULL,
    counted_by_id uuid,
    run_id uuid,
    helper_id uuid,
    CONSTRAINT attempt_does_not_succeed_itself CHECK ((NOT ((succeeds_id = id) AND (succeeds_id IS NOT NULL)))),
    CONSTRAINT attempt_estimate_has_a_value CHECK (((NOT estimate) OR (reason IS NULL))),
    CONSTRAINT attempt_is_of_this_age CHECK (((recorded_at >= '2000-01-01 00:00:00+00'::timestamp with time zone) AND (recorded_at <= '2099-12-31 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT attempt_reason_is_known CHECK (((reason IS NULL) OR ((reason)::text = ANY ((ARRAY['absent'::character varying, 'sat_out'::character varying, 'no_kit'::character varying, 'did_not_want'::character varying, 'void'::character varying, 'unfinished'::character varying, 'withdrawn'::character varying])::text[])))),
    CONSTRAINT attempt_value_or_reason CHECK ((((reason IS NULL) AND (value IS NOT NULL)) OR ((reason IS NOT NULL) AND (value IS NULL)) OR ((parts ? 'informal'::text) AND (reason IS NULL) AND (value IS NULL)))),
    CONSTRAINT attempt_value_within_its_kind CHECK (((value IS NULL) OR (((kind)::text = 'count'::text) AND ((value >= 0) AND (value <= 100000))) OR (((kind)::text = 'time'::text) AND ((value >= 0) AND (value <= 86400000))) OR (((kind)::text = 'length'::text) AND ((value >= '-10000'::integer) AND (value <= 50000000))) OR (((kind)::text = 'marks'::text) AND ((value >= '-10000'::integer) AND (value <= 50000000))) OR (((kind)::text = 'offset'::text) AND ((value >= '-10000'::integer) AND (value <= 50000000))) OR (((kind)::text = 'sides'::text) AND ((value >= 0) AND (value <= 100000))) OR (((kind)::text = 'hits'::text) AND ((value >= 0) AND (value <= 100000))) OR (((kind)::text = 'stage'::text) AND ((value >= 0) AND (value <= 100000))) OR (((kind)::text = 'laps'::text) AND ((value >= '-10000'::integer) AND (value <= 50000000))) OR (((kind)::text = 'total'::text) AND ((value >= 0) AND (value <= 100000))) OR (((kind)::text = 'mass'::text) AND ((value >= 0) AND (value <= 300000))) OR (((kind)::text = 'pulse'::text) AND ((value >= 0) AND (value <= 300))))),
    CONSTRAINT records_attempt_on_has_bounds CHECK ((("on" >= '1999-12-31'::date) AND ("on" <= '2100-01-01'::date))),
    CONSTRAINT records_attempt_received_at_has_bounds CHECK (((received_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (received_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT records_attempt_try_number_check CHECK ((try_number >= 0)),
    CONSTRAINT records_attempt_wave_check CHECK ((wave >= 0))
);
CREATE TABLE public.records_calibration (
    id uuid NOT NULL,
    unit character varying(12) NOT NULL,
    millimetres double precision NOT NULL,
    "on" date NOT NULL,
    made_at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    pupil_id uuid,
    school_id uuid NOT NULL,
    school_class_id uuid,
    CONSTRAINT calibration_is_a_length CHECK (((millimetres > (20.0)::double precision) AND (millimetres < (3000.0)::double precision))),
    CONSTRAINT calibration_of_a_child_or_a_class CHECK ((((pupil_id IS NOT NULL) AND (school_class_id IS NULL)) OR ((pupil_id IS NULL) AND (school_class_id IS NOT NULL)))),
    CONSTRAINT records_calibration_made_at_has_bounds CHECK (((made_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (made_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT records_calibration_on_has_bounds CHECK ((("on" >= '1999-12-31'::date) AND ("on" <= '2100-01-01'::date)))
);
CREATE TABLE public.records_familyline (
    pupil_id uuid NOT NULL,
    text character varying(300) NOT NULL,
    at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    CONSTRAINT records_familyline_at_has_bounds CHECK (((at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (at <= '2100-01-01 00:00:00+00'::timestamp with time zone)))
);
CREATE TABLE public.records_groupaim (
    id uuid NOT NULL,
    "group" character varying(40) NOT NULL,
    value integer NOT NULL,
    at timestamp with time zone NOT NULL,
    activity_id uuid NOT NULL,
    by_id uuid NOT NULL,
    CONSTRAINT records_groupaim_at_has_bounds CHECK (((at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT records_groupaim_value_check CHECK ((value >= 0))
);
CREATE TABLE public.records_pulsereading (
    id uuid NOT NULL,
    "position" smallint NOT NULL,
    moment character varying(10) NOT NULL,
    label character varying(80) NOT NULL,
    waited smallint,
    typed character varying(20) NOT NULL,
    beats smallint,
    seconds smallint,
    reason character varying(12),
    confirmed boolean NOT NULL,
    recorded_at timestamp with time zone NOT NULL,
    received_at timestamp with time zone NOT NULL,
    lesson_id uuid NOT NULL,
    pupil_id uuid NOT NULL,
    recorded_by_id uuid NOT NULL,
    school_id uuid NOT NULL,
    succeeds_id uuid,
    CONSTRAINT pulse_beats_or_reason CHECK ((((beats IS NOT NULL) AND (reason IS NULL) AND (seconds = ANY (ARRAY[10, 15, 20, 30, 60]))) OR ((beats IS NULL) AND (reason IS NOT NULL) AND (seconds IS NULL)))),
    CONSTRAINT pulse_is_a_pulse CHECK (((beats IS NULL) OR ((beats >= ((seconds * 30) / 60)) AND (beats <= ((seconds * 240) / 60))))),
    CONSTRAINT pulse_is_of_this_age CHECK (((recorded_at >= '2000-01-01 00:00:00+00'::timestamp with time zone) AND (recorded_at <= '2099-12-31 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT records_pulsereading_beats_check CHECK ((beats >= 0)),
    CONSTRAINT records_pulsereading_position_check CHECK (("position" >= 0)),
    CONSTRAINT records_pulsereading_received_at_has_bounds CHECK (((received_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (received_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT records_pulsereading_seconds_check CHECK ((seconds >= 0)),
    CONSTRAINT records_pulsereading_waited_check CHECK ((waited >= 0))
);
CREATE TABLE public.records_question (
    id uuid NOT NULL,
    flag character varying(20) NOT NULL,
    words character varying(200) NOT NULL,
    settled boolean NOT NULL,
    attempt_id uuid NOT NULL
);
CREATE TABLE public.records_recount (
    id uuid NOT NULL,
    try_number smallint NOT NULL,
    variant character varying(20) NOT NULL,
    typed character varying(180) NOT NULL,
    kind character varying(12) NOT NULL,
    value bigint,
    reason character varying(12),
    recorded_at timestamp with time zone NOT NULL,
    received_at timestamp with time zone NOT NULL,
    activity_id uuid NOT NULL,
    beside_id uuid NOT NULL,
    helper_id uuid NOT NULL,
    pupil_id uuid NOT NULL,
    school_id uuid NOT NULL,
    CONSTRAINT records_recount_received_at_has_bounds CHECK (((received_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (received_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT records_recount_recorded_at_has_bounds CHECK (((recorded_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (recorded_at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT records_recount_try_number_check CHECK ((try_number >= 0)),
    CONSTRAINT recount_is_of_this_age CHECK (((recorded_at >= '2000-01-01 00:00:00+00'::timestamp with time zone) AND (recorded_at <= '2099-12-31 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT recount_reason_is_known CHECK (((reason IS NULL) OR ((reason)::text = ANY ((ARRAY['absent'::character varying, 'sat_out'::character varying, 'no_kit'::character varying, 'did_not_want'::character varying, 'void'::character varying, 'unfinished'::character varying, 'withdrawn'::character varying])::text[])))),
    CONSTRAINT recount_value_within_its_kind CHECK (((value IS NULL) OR (((kind)::text = 'count'::text) AND ((value >= 0) AND (value <= 100000))) OR (((kind)::text = 'time'::text) AND ((value >= 0) AND (value <= 86400000))) OR (((kind)::text = 'length'::text) AND ((value >= '-10000'::integer) AND (value <= 50000000))) OR (((kind)::text = 'marks'::text) AND ((value >= '-10000'::integer) AND (value <= 50000000))) OR (((kind)::text = 'offset'::text) AND ((value >= '-10000'::integer) AND (value <= 50000000))) OR (((kind)::text = 'sides'::text) AND ((value >= 0) AND (value <= 100000))) OR (((kind)::text = 'hits'::text) AND ((value >= 0) AND (value <= 100000))) OR (((kind)::text = 'stage'::text) AND ((value >= 0) AND (value <= 100000))) OR (((kind)::text = 'laps'::text) AND ((value >= '-10000'::integer) AND (value <= 50000000))) OR (((kind)::text = 'total'::text) AND ((value >= 0) AND (value <= 100000))) OR (((kind)::text = 'mass'::text) AND ((value >= 0) AND (value <= 300000))) OR (((kind)::text = 'pulse'::text) AND ((value >= 0) AND (value <= 300)))))
);
CREATE TABLE public.records_repeatsummary (
    id bigint NOT NULL,
    before date NOT NULL,
    state jsonb NOT NULL,
    made_at timestamp with time zone NOT NULL,
    test_id uuid NOT NULL,
    CONSTRAINT records_repeatsummary_before_has_bounds CHECK (((before >= '1999-12-31'::date) AND (before <= '2100-01-01'::date))),
    CONSTRAINT records_repeatsummary_made_at_has_bounds CHECK (((made_at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (made_at <= '2100-01-01 00:00:00+00'::timestamp with time zone)))
);
ALTER TABLE public.records_repeatsummary ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.records_repeatsummary_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.records_setaside (
    id uuid NOT NULL,
    need character varying(12) NOT NULL,
    words character varying(1000) NOT NULL,
    why character varying(240) NOT NULL,
    at timestamp with time zone NOT NULL,
    by_id uuid NOT NULL,
    pupil_id uuid NOT NULL,
    CONSTRAINT records_setaside_at_has_bounds CHECK (((at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (at <= '2100-01-01 00:00:00+00'::timestamp with time zone))),
    CONSTRAINT set_aside_need_is_known CHECK (((need)::text = ANY ((ARRAY['lower'::character varying, 'never'::character varying, 'first_rung'::character varying, 'at_end'::character varying, 'pulse'::character varying, 'praise'::character varying])::text[])))
);
CREATE TABLE public.records_settlement (
    id uuid NOT NULL,
    flag character varying(20) NOT NULL,
    at timestamp with time zone NOT NULL,
    attempt_id uuid NOT NULL,
    by_id uuid NOT NULL,
    CONSTRAINT records_settlement_at_has_bounds CHECK (((at >= '1999-12-31 00:00:00+00'::timestamp with time zone) AND (at <= '2100-01-01 00:00:00+00'::timestamp with time zone)))
);
CREATE UNLOGGED TABLE public.web_guess (
    id bigint NOT NULL,
    key character varying(200) NOT NULL,
    at timestamp with time zone DEFAULT statement_timestamp() NOT NULL
);
ALTER TABLE public.web_guess ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.web_guess_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
ALTER TABLE ONLY public.lessons_activity
    ADD CONSTRAINT activity_position_once UNIQUE (lesson_id, "position");
ALTER TABLE ONLY public.records_aim
    ADD CONSTRAINT aim_once_an_activity UNIQUE (activity_id, pupil_id);
ALTER TABLE ONLY public.lessons_allowed
    ADD CONSTRAINT allowed_once UNIQUE (lesson_id, pupil_id, what);
ALTER TABLE ONLY public.auth_group
    ADD CONSTRAINT auth_group_name_key UNIQUE (name);
ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissions_group_id_permission_id_0cd325b0_uniq UNIQUE (group_id, permission_id);
ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissions_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.auth_group
    ADD CONSTRAINT auth_group_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.auth_permission
    ADD CONSTRAINT auth_permission_content_type_id_codename_01ab375a_uniq UNIQUE (content_type_id, codename);
ALTER TABLE ONLY public.auth_permission
    ADD CONSTRAINT auth_permission_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.catalogue_battery
    ADD CONSTRAINT battery_name_once UNIQUE (school_id, name);
ALTER TABLE ONLY public.catalogue_batterytest
    ADD CONSTRAINT battery_place_once UNIQUE (battery_id, "position");
ALTER TABLE ONLY public.catalogue_batterytest
    ADD CONSTRAINT battery_test_once UNIQUE (battery_id, test_id);
ALTER TABLE ONLY public.lessons_planblock
    ADD CONSTRAINT block_position_once UNIQUE (lesson_id, "position") DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.catalogue_battery
    ADD CONSTRAINT catalogue_battery_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.catalogue_batterytest
    ADD CONSTRAINT catalogue_batterytest_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.catalogue_course
    ADD CONSTRAINT catalogue_course_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.catalogue_ladder
    ADD CONSTRAINT catalogue_ladder_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.catalogue_ladderrung
    ADD CONSTRAINT catalogue_ladderrung_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.catalogue_normtable
    ADD CONSTRAINT catalogue_normtable_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.catalogue_protocolversion
    ADD CONSTRAINT catalogue_protocolversion_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.catalogue_test
    ADD CONSTRAINT catalogue_test_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.challenges_challenge
    ADD CONSTRAINT challenge_once_a_day UNIQUE (week_id, "on", protocol_id);
ALTER TABLE ONLY public.challenges_challenge
    ADD CONSTRAINT challenges_challenge_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.challenges_challengecode
    ADD CONSTRAINT challenges_challengecode_code_key UNIQUE (code);
ALTER TABLE ONLY public.challenges_challengecode
    ADD CONSTRAINT challenges_challengecode_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.challenges_challengeweek_classes
    ADD CONSTRAINT challenges_challengeweek_challengeweek_id_schoolc_9f530a56_uniq UNIQUE (challengeweek_id, schoolclass_id);
ALTER TABLE ONLY public.challenges_challengeweek_classes
    ADD CONSTRAINT challenges_challengeweek_classes_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.challenges_challengeweek
    ADD CONSTRAINT challenges_challengeweek_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.challenges_games
    ADD CONSTRAINT challenges_games_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.challenges_gameskey
    ADD CONSTRAINT challenges_gameskey_pkey PRIMARY KEY (school_id);
ALTER TABLE ONLY public.challenges_gameskey
    ADD CONSTRAINT challenges_gameskey_public_key UNIQUE (public);
ALTER TABLE ONLY public.challenges_gamesnote
    ADD CONSTRAINT challenges_gamesnote_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.challenges_gamesresult
    ADD CONSTRAINT challenges_gamesresult_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.challenges_gamesschool
    ADD CONSTRAINT challenges_gamesschool_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.challenges_gamestest
    ADD CONSTRAINT challenges_gamestest_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.challenges_go
    ADD CONSTRAINT challenges_go_attempt_id_key UNIQUE (attempt_id);
ALTER TABLE ONLY public.challenges_go
    ADD CONSTRAINT challenges_go_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.challenges_point
    ADD CONSTRAINT challenges_point_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.challenges_point
    ADD CONSTRAINT challenges_point_reverses_id_key UNIQUE (reverses_id);
ALTER TABLE ONLY public.challenges_slip
    ADD CONSTRAINT challenges_slip_code_key UNIQUE (code);
ALTER TABLE ONLY public.challenges_slip
    ADD CONSTRAINT challenges_slip_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_schoolclass
    ADD CONSTRAINT class_name_once UNIQUE (school_id, name);
ALTER TABLE ONLY public.challenges_challengecode
    ADD CONSTRAINT code_once_a_class UNIQUE (week_id, school_class_id);
ALTER TABLE ONLY public.catalogue_course
    ADD CONSTRAINT course_name_once UNIQUE (school_id, name);
ALTER TABLE ONLY public.django_content_type
    ADD CONSTRAINT django_content_type_app_label_model_76bd3d3b_uniq UNIQUE (app_label, model);
ALTER TABLE ONLY public.django_content_type
    ADD CONSTRAINT django_content_type_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.django_migrations
    ADD CONSTRAINT django_migrations_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.django_session
    ADD CONSTRAINT django_session_pkey PRIMARY KEY (session_key);
ALTER TABLE ONLY public.exchange_handoutjob
    ADD CONSTRAINT exchange_handoutjob_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_exclusion
    ADD CONSTRAINT exclusion_once UNIQUE (pupil_id, what);
ALTER TABLE ONLY public.challenges_games
    ADD CONSTRAINT games_once_a_school UNIQUE (school_id, key);
ALTER TABLE ONLY public.challenges_gamesresult
    ADD CONSTRAINT games_result_once UNIQUE (sent_by_id, signature);
ALTER TABLE ONLY public.challenges_gamesschool
    ADD CONSTRAINT games_school_once UNIQUE (games_id, public);
ALTER TABLE ONLY public.challenges_gamestest
    ADD CONSTRAINT games_test_place_once UNIQUE (games_id, "position");
ALTER TABLE ONLY public.records_groupaim
    ADD CONSTRAINT group_aim_once_an_activity UNIQUE (activity_id, "group");
ALTER TABLE ONLY public.people_house
    ADD CONSTRAINT house_name_once UNIQUE (school_id, name);
ALTER TABLE ONLY public.catalogue_ladder
    ADD CONSTRAINT ladder_once_a_year_sex_and_variant UNIQUE NULLS NOT DISTINCT (test_id, year_group_id, from_age, sex, variant);
ALTER TABLE ONLY public.lessons_activity
    ADD CONSTRAINT lessons_activity_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.lessons_allowed
    ADD CONSTRAINT lessons_allowed_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.lessons_conduct
    ADD CONSTRAINT lessons_conduct_pkey PRIMARY KEY (lesson_id);
ALTER TABLE ONLY public.lessons_helper
    ADD CONSTRAINT lessons_helper_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.lessons_helper
    ADD CONSTRAINT lessons_helper_proof_key UNIQUE (proof);
ALTER TABLE ONLY public.lessons_helpercode
    ADD CONSTRAINT lessons_helpercode_code_key UNIQUE (code);
ALTER TABLE ONLY public.lessons_helpercode
    ADD CONSTRAINT lessons_helpercode_pkey PRIMARY KEY (lesson_id);
ALTER TABLE ONLY public.lessons_helpercode
    ADD CONSTRAINT lessons_helpercode_secret_key UNIQUE (secret);
ALTER TABLE ONLY public.lessons_lesson
    ADD CONSTRAINT lessons_lesson_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.lessons_planblock
    ADD CONSTRAINT lessons_planblock_activity_id_key UNIQUE (activity_id);
ALTER TABLE ONLY public.lessons_planblock
    ADD CONSTRAINT lessons_planblock_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.lessons_planrevision
    ADD CONSTRAINT lessons_planrevision_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.lessons_plantemplate
    ADD CONSTRAINT lessons_plantemplate_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.lessons_slot
    ADD CONSTRAINT lessons_slot_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.lessons_run
    ADD CONSTRAINT lessons_waverun_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_change
    ADD CONSTRAINT people_change_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_countedgroup
    ADD CONSTRAINT people_countedgroup_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_exclusion
    ADD CONSTRAINT people_exclusion_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_house
    ADD CONSTRAINT people_house_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_invitation
    ADD CONSTRAINT people_invitation_pkey PRIMARY KEY (staff_id);
ALTER TABLE ONLY public.people_invitation
    ADD CONSTRAINT people_invitation_proof_key UNIQUE (proof);
ALTER TABLE ONLY public.people_merge
    ADD CONSTRAINT people_merge_double_id_key UNIQUE (double_id);
ALTER TABLE ONLY public.people_merge
    ADD CONSTRAINT people_merge_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_moveup
    ADD CONSTRAINT people_moveup_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_ownpage
    ADD CONSTRAINT people_ownpage_pkey PRIMARY KEY (pupil_id);
ALTER TABLE ONLY public.people_ownpage
    ADD CONSTRAINT people_ownpage_proof_key UNIQUE (proof);
ALTER TABLE ONLY public.people_pupil
    ADD CONSTRAINT people_pupil_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_school
    ADD CONSTRAINT people_school_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_schoolclass
    ADD CONSTRAINT people_schoolclass_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_schoolclass_teachers
    ADD CONSTRAINT people_schoolclass_teach_schoolclass_id_staff_id_294d2b1b_uniq UNIQUE (schoolclass_id, staff_id);
ALTER TABLE ONLY public.people_schoolclass_teachers
    ADD CONSTRAINT people_schoolclass_teachers_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_secondfactor
    ADD CONSTRAINT people_secondfactor_pkey PRIMARY KEY (staff_id);
ALTER TABLE ONLY public.people_secondpost
    ADD CONSTRAINT people_secondpost_pkey PRIMARY KEY (post_id);
ALTER TABLE ONLY public.people_signin
    ADD CONSTRAINT people_signin_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_signin
    ADD CONSTRAINT people_signin_session_key_key UNIQUE (session_key);
ALTER TABLE ONLY public.people_staff
    ADD CONSTRAINT people_staff_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_staff
    ADD CONSTRAINT people_staff_username_key UNIQUE (username);
ALTER TABLE ONLY public.people_term
    ADD CONSTRAINT people_term_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_trust
    ADD CONSTRAINT people_trust_office_id_key UNIQUE (office_id);
ALTER TABLE ONLY public.people_trust
    ADD CONSTRAINT people_trust_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_yeargroup
    ADD CONSTRAINT people_yeargroup_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.lessons_planrevision
    ADD CONSTRAINT plan_revision_once UNIQUE (lesson_id, number);
ALTER TABLE ONLY public.catalogue_protocolversion
    ADD CONSTRAINT protocol_id_and_kind UNIQUE (id, kind);
ALTER TABLE ONLY public.catalogue_protocolversion
    ADD CONSTRAINT protocol_number_once UNIQUE (test_id, number);
ALTER TABLE ONLY public.people_pupil
    ADD CONSTRAINT pupil_id_and_school UNIQUE (id, school_id);
ALTER TABLE ONLY public.records_question
    ADD CONSTRAINT question_once_a_flag UNIQUE (attempt_id, flag);
ALTER TABLE ONLY public.records_aim
    ADD CONSTRAINT records_aim_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.records_attempt
    ADD CONSTRAINT records_attempt_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.records_attempt
    ADD CONSTRAINT records_attempt_succeeds_id_key UNIQUE (succeeds_id);
ALTER TABLE ONLY public.records_calibration
    ADD CONSTRAINT records_calibration_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.records_familyline
    ADD CONSTRAINT records_familyline_pkey PRIMARY KEY (pupil_id);
ALTER TABLE ONLY public.records_groupaim
    ADD CONSTRAINT records_groupaim_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.records_pulsereading
    ADD CONSTRAINT records_pulsereading_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.records_pulsereading
    ADD CONSTRAINT records_pulsereading_succeeds_id_key UNIQUE (succeeds_id);
ALTER TABLE ONLY public.records_question
    ADD CONSTRAINT records_question_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.records_recount
    ADD CONSTRAINT records_recount_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.records_repeatsummary
    ADD CONSTRAINT records_repeatsummary_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.records_setaside
    ADD CONSTRAINT records_setaside_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.records_settlement
    ADD CONSTRAINT records_settlement_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.records_repeatsummary
    ADD CONSTRAINT repeats_once_a_day UNIQUE (test_id, before);
ALTER TABLE ONLY public.catalogue_ladderrung
    ADD CONSTRAINT rung_position_once UNIQUE (ladder_id, "position");
ALTER TABLE ONLY public.records_setaside
    ADD CONSTRAINT set_aside_once_a_need UNIQUE (pupil_id, need);
ALTER TABLE ONLY public.records_settlement
    ADD CONSTRAINT settlement_once_a_flag UNIQUE (attempt_id, flag);
ALTER TABLE ONLY public.lessons_slot
    ADD CONSTRAINT slot_of_a_class_once UNIQUE (school_class_id, weekday, at);
ALTER TABLE ONLY public.lessons_plantemplate
    ADD CONSTRAINT template_name_once UNIQUE (school_id, name);
ALTER TABLE ONLY public.catalogue_test
    ADD CONSTRAINT test_slug_once UNIQUE (school_id, slug);
ALTER TABLE ONLY public.web_guess
    ADD CONSTRAINT web_guess_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.people_yeargroup
    ADD CONSTRAINT year_group_name_once UNIQUE (school_id, name);
ALTER TABLE ONLY public.people_yeargroup
    ADD CONSTRAINT year_group_position_once UNIQUE (school_id, "position");
CREATE INDEX attempt_by_day ON public.records_attempt USING btree (school_id, "on");
CREATE INDEX attempt_by_test ON public.records_attempt USING btree (protocol_id, "on");
CREATE UNIQUE INDEX attempt_one_beginning ON public.records_attempt USING btree (activity_id, pupil_id, try_number) WHERE (succeeds_id IS NULL);
CREATE INDEX auth_group_name_a6ea08ec_like ON public.auth_group USING btree (name varchar_pattern_ops);
CREATE INDEX auth_group_permissions_group_id_b120cbf9 ON public.auth_group_permissions USING btree (group_id);
CREATE INDEX auth_group_permissions_permission_id_84c5c92e ON public.auth_group_permissions USING btree (permission_id);
CREATE INDEX auth_permission_content_type_id_2f476e4b ON public.auth_permission USING btree (content_type_id);
CREATE INDEX catalogue_battery_school_id_d08c8182 ON public.catalogue_battery USING btree (school_id);
CREATE INDEX catalogue_batterytest_battery_id_b2c6fda5 ON public.catalogue_batterytest USING btree (battery_id);
CREATE INDEX catalogue_batterytest_test_id_a33b1cd6 ON public.catalogue_batterytest USING btree (test_id);
CREATE INDEX catalogue_course_by_id_2920fc53 ON public.catalogue_course USING btree (by_id);
CREATE INDEX catalogue_course_school_id_56f91864 ON public.catalogue_course USING btree (school_id);
CREATE INDEX catalogue_ladder_test_id_37bd1557 ON public.catalogue_ladder USING btree (test_id);
CREATE INDEX catalogue_ladder_year_group_id_c7ff5a06 ON public.catalogue_ladder USING btree (year_group_id);
CREATE INDEX catalogue_ladderrung_ladder_id_2c09966c ON public.catalogue_ladderrung USING btree (ladder_id);
CREATE INDEX catalogue_normtable_school_id_896ab9d9 ON public.catalogue_normtable USING btree (school_id);
CREATE INDEX catalogue_normtable_test_id_d8ccfb52 ON public.catalogue_normtable USING btree (test_id);
CREATE INDEX catalogue_protocolversion_test_id_25bef5fe ON public.catalogue_protocolversion USING btree (test_id);
CREATE INDEX catalogue_test_school_id_dba436cf ON public.catalogue_test USING btree (school_id);
CREATE INDEX catalogue_test_slug_1d1744f9 ON public.catalogue_test USING btree (slug);
CREATE INDEX catalogue_test_slug_1d1744f9_like ON public.catalogue_test USING btree (slug varchar_pattern_ops);
CREATE INDEX challenges_challenge_protocol_id_2ea9ae28 ON public.challenges_challenge USING btree (protocol_id);
CREATE INDEX challenges_challenge_week_id_4ba9b4fa ON public.challenges_challenge USING btree (week_id);
CREATE INDEX challenges_challengecode_by_id_eb061012 ON public.challenges_challengecode USING btree (by_id);
CREATE INDEX challenges_challengecode_code_d83c1f35_like ON public.challenges_challengecode USING btree (code varchar_pattern_ops);
CREATE INDEX challenges_challengecode_school_class_id_636ffeae ON public.challenges_challengecode USING btree (school_class_id);
CREATE INDEX challenges_challengecode_week_id_4d31bb43 ON public.challenges_challengecode USING btree (week_id);
CREATE INDEX challenges_challengeweek_by_id_78864764 ON public.challenges_challengeweek USING btree (by_id);
CREATE INDEX challenges_challengeweek_classes_challengeweek_id_b6ea2e64 ON public.challenges_challengeweek_classes USING btree (challengeweek_id);
CREATE INDEX challenges_challengeweek_classes_schoolclass_id_404805a0 ON public.challenges_challengeweek_classes USING btree (schoolclass_id);
CREATE INDEX challenges_challengeweek_school_id_f5a7576e ON public.challenges_challengeweek USING btree (school_id);
CREATE INDEX challenges_games_by_id_c8fe1bb6 ON public.challenges_games USING btree (by_id);
CREATE INDEX challenges_games_school_id_899aaf0a ON public.challenges_games USING btree (school_id);
CREATE INDEX challenges_gameskey_public_5d84c173_like ON public.challenges_gameskey USING btree (public varchar_pattern_ops);
CREATE INDEX challenges_gamesnote_by_id_1843aa0b ON public.challenges_gamesnote USING btree (by_id);
CREATE INDEX challenges_gamesnote_games_id_9b05dbd4 ON public.challenges_gamesnote USING btree (games_id);
CREATE INDEX challenges_gamesresult_came_by_id_37ecb6e5 ON public.challenges_gamesresult USING btree (came_by_id);
CREATE INDEX challenges_gamesresult_sent_by_id_09581043 ON public.challenges_gamesresult USING btree (sent_by_id);
CREATE INDEX challenges_gamesschool_games_id_3c1972c2 ON public.challenges_gamesschool USING btree (games_id);
CREATE INDEX challenges_gamesschool_known_by_id_71fc79ac ON public.challenges_gamesschool USING btree (known_by_id);
CREATE INDEX challenges_gamestest_games_id_07b34566 ON public.challenges_gamestest USING btree (games_id);
CREATE INDEX challenges_gamestest_protocol_id_01c9b0f0 ON public.challenges_gamestest USING btree (protocol_id);
CREATE INDEX challenges_go_challenge_id_9646618e ON public.challenges_go USING btree (challenge_id);
CREATE INDEX challenges_go_counted_by_id_bca735c6 ON public.challenges_go USING btree (counted_by_id);
CREATE INDEX challenges_go_decided_by_id_630bed24 ON public.challenges_go USING btree (decided_by_id);
CREATE INDEX challenges_go_pupil_id_ec232284 ON public.challenges_go USING btree (pupil_id);
CREATE INDEX challenges_go_school_id_d4314b31 ON public.challenges_go USING btree (school_id);
CREATE INDEX challenges_point_by_id_f95d859b ON public.challenges_point USING btree (by_id);
CREATE INDEX challenges_point_challenge_id_6a603f19 ON public.challenges_point USING btree (challenge_id);
CREATE INDEX challenges_point_pupil_id_80d21626 ON public.challenges_point USING btree (pupil_id);
CREATE INDEX challenges_point_school_id_f5630788 ON public.challenges_point USING btree (school_id);
CREATE INDEX challenges_slip_by_id_7fe37c00 ON public.challenges_slip USING btree (by_id);
CREATE INDEX challenges_slip_code_2901aa04_like ON public.challenges_slip USING btree (code varchar_pattern_ops);
CREATE INDEX challenges_slip_pupil_id_0a7c0d5b ON public.challenges_slip USING btree (pupil_id);
CREATE INDEX challenges_slip_week_id_5fc25307 ON public.challenges_slip USING btree (week_id);
CREATE INDEX counted_of ON public.people_countedgroup USING btree (of, at);
CREATE INDEX django_session_expire_date_a5c62663 ON public.django_session USING btree (expire_date);
CREATE INDEX django_session_session_key_c0390e0f_like ON public.django_session USING btree (session_key varchar_pattern_ops);
CREATE INDEX go_waiting ON public.challenges_go USING btree (challenge_id) WHERE ((state)::text = 'waiting'::text);
CREATE INDEX guess_by_key ON public.web_guess USING btree (key, at);
CREATE INDEX guess_by_time ON public.web_guess USING btree (at);
CREATE INDEX handout_by_time ON public.exchange_handoutjob USING btree (touched_at);
CREATE INDEX lesson_open ON public.lessons_lesson USING btree (school_id, starts_at) WHERE (closed_at IS NULL);
CREATE INDEX lessons_activity_lesson_id_febf154b ON public.lessons_activity USING btree (lesson_id);
CREATE INDEX lessons_activity_protocol_id_a6bdfaac ON public.lessons_activity USING btree (protocol_id);
CREATE INDEX lessons_allowed_by_id_023f77c1 ON public.lessons_allowed USING btree (by_id);
CREATE INDEX lessons_allowed_lesson_id_b6b03012 ON public.lessons_allowed USING btree (lesson_id);
CREATE INDEX lessons_allowed_pupil_id_6f3dc528 ON public.lessons_allowed USING btree (pupil_id);
CREATE INDEX lessons_conduct_by_id_b5aa2827 ON public.lessons_conduct USING btree (by_id);
CREATE INDEX lessons_helper_lesson_id_4438ad2d ON public.lessons_helper USING btree (lesson_id);
CREATE INDEX lessons_helper_let_in_by_id_62844a7b ON public.lessons_helper USING btree (let_in_by_id);
CREATE INDEX lessons_helper_proof_526f1a17_like ON public.lessons_helper USING btree (proof varchar_pattern_ops);
CREATE INDEX lessons_helpercode_by_id_7186bb74 ON public.lessons_helpercode USING btree (by_id);
CREATE INDEX lessons_helpercode_code_91912604_like ON public.lessons_helpercode USING btree (code varchar_pattern_ops);
CREATE INDEX lessons_helpercode_secret_86f2616c_like ON public.lessons_helpercode USING btree (secret varchar_pattern_ops);
CREATE INDEX lessons_les_school__bb2b97_idx ON public.lessons_lesson USING btree (school_id, starts_at);
CREATE INDEX lessons_lesson_battery_id_d0bbaab7 ON public.lessons_lesson USING btree (battery_id);
CREATE INDEX lessons_lesson_closed_by_id_acc846f0 ON public.lessons_lesson USING btree (closed_by_id);
CREATE INDEX lessons_lesson_school_class_id_21f85d48 ON public.lessons_lesson USING btree (school_class_id);
CREATE INDEX lessons_lesson_school_id_0f88b9cb ON public.lessons_lesson USING btree (school_id);
CREATE INDEX lessons_lesson_teacher_id_57e59f26 ON public.lessons_lesson USING btree (teacher_id);
CREATE INDEX lessons_lesson_year_group_id_434d16a7 ON public.lessons_lesson USING btree (year_group_id);
CREATE INDEX lessons_planblock_lesson_id_fd498d33 ON public.lessons_planblock USING btree (lesson_id);
CREATE INDEX lessons_planrevision_by_id_4c981a72 ON public.lessons_planrevision USING btree (by_id);
CREATE INDEX lessons_planrevision_lesson_id_0967724f ON public.lessons_planrevision USING btree (lesson_id);
CREATE INDEX lessons_plantemplate_by_id_55ef8e58 ON public.lessons_plantemplate USING btree (by_id);
CREATE INDEX lessons_plantemplate_school_id_cfeca669 ON public.lessons_plantemplate USING btree (school_id);
CREATE INDEX lessons_slot_school_class_id_74b20c7b ON public.lessons_slot USING btree (school_class_id);
CREATE INDEX lessons_slot_teacher_id_ef34d277 ON public.lessons_slot USING btree (teacher_id);
CREATE INDEX lessons_waverun_activity_id_7631b3fb ON public.lessons_run USING btree (activity_id);
CREATE INDEX lessons_waverun_by_id_bae09666 ON public.lessons_run USING btree (by_id);
CREATE INDEX people_chan_school__fbb77f_idx ON public.people_change USING btree (school_id, id DESC);
CREATE INDEX people_change_by_id_ba2c0987 ON public.people_change USING btree (by_id);
CREATE INDEX people_change_school_id_6bee0bd2 ON public.people_change USING btree (school_id);
CREATE INDEX people_exclusion_by_id_c4da0664 ON public.people_exclusion USING btree (by_id);
CREATE INDEX people_exclusion_pupil_id_adec5afe ON public.people_exclusion USING btree (pupil_id);
CREATE INDEX people_house_school_id_1fbde7ba ON public.people_house USING btree (school_id);
CREATE INDEX people_invitation_by_id_4f7f0179 ON public.people_invitation USING btree (by_id);
CREATE INDEX people_invitation_proof_d3092005_like ON public.people_invitation USING btree (proof varchar_pattern_ops);
CREATE INDEX people_merge_by_id_dc211320 ON public.people_merge USING btree (by_id);
CREATE INDEX people_merge_kept_id_d4ee6e06 ON public.people_merge USING btree (kept_id);
CREATE INDEX people_merge_was_in_id_efdd458d ON public.people_merge USING btree (was_in_id);
CREATE INDEX people_moveup_by_id_82ca78c3 ON public.people_moveup USING btree (by_id);
CREATE INDEX people_moveup_school_id_5b68a525 ON public.people_moveup USING btree (school_id);
CREATE INDEX people_ownpage_by_id_f280c9f6 ON public.people_ownpage USING btree (by_id);
CREATE INDEX people_ownpage_proof_93b28f20_like ON public.people_ownpage USING btree (proof varchar_pattern_ops);
CREATE INDEX people_pupi_school__d40f1d_idx ON public.people_pupil USING btree (school_class_id, given_name, family_name);
CREATE INDEX people_pupil_house_id_f4ca16bb ON public.people_pupil USING btree (house_id);
CREATE INDEX people_pupil_left_from_id_c5dd0101 ON public.people_pupil USING btree (left_from_id);
CREATE INDEX people_pupil_merged_into_id_96b6df4f ON public.people_pupil USING btree (merged_into_id);
CREATE INDEX people_pupil_school_class_id_fad2dc13 ON public.people_pupil USING btree (school_class_id);
CREATE INDEX people_pupil_school_id_d98606fe ON public.people_pupil USING btree (school_id);
CREATE INDEX people_school_trust_id_1cd1ed1e ON public.people_school USING btree (trust_id);
CREATE INDEX people_schoolclass_school_id_f73a37de ON public.people_schoolclass USING btree (school_id);
CREATE INDEX people_schoolclass_teachers_schoolclass_id_7633e483 ON public.people_schoolclass_teachers USING btree (schoolclass_id);
CREATE INDEX people_schoolclass_teachers_staff_id_35c558b2 ON public.people_schoolclass_teachers USING btree (staff_id);
CREATE INDEX people_schoolclass_year_group_id_6233478a ON public.people_schoolclass USING btree (year_group_id);
CREATE INDEX people_secondpost_account_id_c0ee4a28 ON public.people_secondpost USING btree (account_id);
CREATE INDEX people_signin_session_key_03dda37d_like ON public.people_signin USING btree (session_key varchar_pattern_ops);
CREATE INDEX people_signin_staff_id_c53909ad ON public.people_signin USING btree (staff_id);
CREATE INDEX people_staff_calendar_proof_4b1478f8 ON public.people_staff USING btree (calendar_proof);
CREATE INDEX people_staff_calendar_proof_4b1478f8_like ON public.people_staff USING btree (calendar_proof varchar_pattern_ops);
CREATE INDEX people_staff_school_id_38ce23f0 ON public.people_staff USING btree (school_id);
CREATE INDEX people_staff_username_c62041ad_like ON public.people_staff USING btree (username varchar_pattern_ops);
CREATE INDEX people_term_school_id_8f7a91c9 ON public.people_term USING btree (school_id);
CREATE INDEX people_yeargroup_school_id_0827617f ON public.people_yeargroup USING btree (school_id);
CREATE UNIQUE INDEX point_once ON public.challenges_point USING btree (challenge_id, pupil_id, rule) WHERE (reverses_id IS NULL);
CREATE UNIQUE INDEX pulse_one_beginning ON public.records_pulsereading USING btree (lesson_id, pupil_id, "position") WHERE (succeeds_id IS NULL);
CREATE INDEX pupil_letters_of_family_name ON public.people_pupil USING gin (school_id, upper((family_name)::text) public.gin_trgm_ops);
CREATE INDEX pupil_letters_of_given_name ON public.people_pupil USING gin (school_id, upper((given_name)::text) public.gin_trgm_ops);
CREATE UNIQUE INDEX pupil_number_once ON public.people_pupil USING btree (school_id, number) WHERE (NOT ((number)::text = ''::text));
CREATE INDEX question_open ON public.records_question USING btree (attempt_id) WHERE (NOT settled);
CREATE INDEX records_aim_activity_id_b550a140 ON public.records_aim USING btree (activity_id);
CREATE INDEX records_aim_by_id_36824596 ON public.records_aim USING btree (by_id);
CREATE INDEX records_aim_pupil_id_6329439f ON public.records_aim USING btree (pupil_id);
CREATE INDEX records_att_pupil_i_ad9dfa_idx ON public.records_attempt USING btree (pupil_id, protocol_id, "on");
CREATE INDEX records_attempt_activity_id_819945a3 ON public.records_attempt USING btree (activity_id);
CREATE INDEX records_attempt_counted_by_id_9b553842 ON public.records_attempt USING btree (counted_by_id);
CREATE INDEX records_attempt_helper_id_da6a2942 ON public.records_attempt USING btree (helper_id);
CREATE INDEX records_attempt_pupil_id_9fedb73a ON public.records_attempt USING btree (pupil_id);
CREATE INDEX records_attempt_recorded_by_id_a0763405 ON public.records_attempt USING btree (recorded_by_id);
CREATE INDEX records_attempt_run_id_6071e7a0 ON public.records_attempt USING btree (run_id);
CREATE INDEX records_calibration_by_id_6a9102f6 ON public.records_calibration USING btree (by_id);
CREATE INDEX records_calibration_pupil_id_912c5b73 ON public.records_calibration USING btree (pupil_id);
CREATE INDEX records_calibration_school_class_id_6af0f56d ON public.records_calibration USING btree (school_class_id);
CREATE INDEX records_calibration_school_id_6b55ab43 ON public.records_calibration USING btree (school_id);
CREATE INDEX records_familyline_by_id_f5627aa0 ON public.records_familyline USING btree (by_id);
CREATE INDEX records_groupaim_activity_id_a06e29fa ON public.records_groupaim USING btree (activity_id);
CREATE INDEX records_groupaim_by_id_ab90bb16 ON public.records_groupaim USING btree (by_id);
CREATE INDEX records_pulsereading_lesson_id_da7db766 ON public.records_pulsereading USING btree (lesson_id);
CREATE INDEX records_pulsereading_pupil_id_acb76c81 ON public.records_pulsereading USING btree (pupil_id);
CREATE INDEX records_pulsereading_recorded_by_id_0a15d937 ON public.records_pulsereading USING btree (recorded_by_id);
CREATE INDEX records_pulsereading_school_id_09bad98f ON public.records_pulsereading USING btree (school_id);
CREATE INDEX records_question_attempt_id_7183539b ON public.records_question USING btree (attempt_id);
CREATE INDEX records_rec_activit_a55737_idx ON public.records_recount USING btree (activity_id, pupil_id);
CREATE INDEX records_recount_activity_id_1df9c95e ON public.records_recount USING btree (activity_id);
CREATE INDEX records_recount_beside_id_701b4c79 ON public.records_recount USING btree (beside_id);
CREATE INDEX records_recount_helper_id_de4cf936 ON public.records_recount USING btree (helper_id);
CREATE INDEX records_recount_pupil_id_fabd5f5c ON public.records_recount USING btree (pupil_id);
CREATE INDEX records_recount_school_id_88eeb635 ON public.records_recount USING btree (school_id);
CREATE INDEX records_repeatsummary_test_id_18d19ca9 ON public.records_repeatsummary USING btree (test_id);
CREATE INDEX records_setaside_by_id_d2eb67d4 ON public.records_setaside USING btree (by_id);
CREATE INDEX records_setaside_pupil_id_99d3c6ec ON public.records_setaside USING btree (pupil_id);
CREATE INDEX records_settlement_attempt_id_e3c79333 ON public.records_settlement USING btree (attempt_id);
CREATE INDEX records_settlement_by_id_c8a69942 ON public.records_settlement USING btree (by_id);
CREATE UNIQUE INDEX run_that_counts_once ON public.lessons_run USING btree (activity_id, wave) WHERE (((ended)::text = ANY ((ARRAY['complete'::character varying, 'early'::character varying])::text[])) AND ((way)::text = 'wave'::text));
CREATE UNIQUE INDEX sitting_open_once ON public.lessons_lesson USING btree (battery_id, school_class_id) WHERE ((battery_id IS NOT NULL) AND (closed_at IS NULL));
CREATE UNIQUE INDEX slip_once_a_child ON public.challenges_slip USING btree (week_id, pupil_id) WHERE (withdrawn_at IS NULL);
CREATE UNIQUE INDEX staff_username_once ON public.people_staff USING btree (lower(NORMALIZE(username, NFKC)));
CREATE TRIGGER attempt_append_only BEFORE DELETE OR UPDATE ON public.records_attempt FOR EACH ROW EXECUTE FUNCTION public.lauf_append_only();
CREATE TRIGGER calibration_append_only BEFORE DELETE OR UPDATE ON public.records_calibration FOR EACH ROW EXECUTE FUNCTION public.lauf_append_only();
CREATE TRIGGER change_append_only BEFORE DELETE OR UPDATE ON public.people_change FOR EACH ROW EXECUTE FUNCTION public.lauf_append_only();
CREATE TRIGGER point_append_only BEFORE DELETE OR UPDATE ON public.challenges_point FOR EACH ROW EXECUTE FUNCTION public.lauf_append_only();
CREATE TRIGGER protocol_in_use BEFORE UPDATE ON public.catalogue_protocolversion FOR EACH ROW EXECUTE FUNCTION public.lauf_protocol_in_use();
CREATE TRIGGER pulse_append_only BEFORE DELETE OR UPDATE ON public.records_pulsereading FOR EACH ROW EXECUTE FUNCTION public.lauf_append_only();
CREATE TRIGGER recount_append_only BEFORE DELETE OR UPDATE ON public.records_recount FOR EACH ROW EXECUTE FUNCTION public.lauf_append_only();
CREATE TRIGGER settlement_append_only BEFORE DELETE OR UPDATE ON public.records_settlement FOR EACH ROW EXECUTE FUNCTION public.lauf_append_only();
CREATE TRIGGER told_of_delete AFTER DELETE ON public.lessons_activity REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_activity();
CREATE TRIGGER told_of_delete AFTER DELETE ON public.lessons_allowed REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_allowed();
CREATE TRIGGER told_of_delete AFTER DELETE ON public.lessons_helpercode REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_helpercode();
CREATE TRIGGER told_of_delete AFTER DELETE ON public.records_question REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_records_question();
CREATE TRIGGER told_of_insert AFTER INSERT ON public.challenges_go REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_challenges_go();
CREATE TRIGGER told_of_insert AFTER INSERT ON public.lessons_activity REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_activity();
CREATE TRIGGER told_of_insert AFTER INSERT ON public.lessons_allowed REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_allowed();
CREATE TRIGGER told_of_insert AFTER INSERT ON public.lessons_conduct REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_conduct();
CREATE TRIGGER told_of_insert AFTER INSERT ON public.lessons_helper REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_helper();
CREATE TRIGGER told_of_insert AFTER INSERT ON public.lessons_helpercode REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_helpercode();
CREATE TRIGGER told_of_insert AFTER INSERT ON public.lessons_lesson REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_lesson();
CREATE TRIGGER told_of_insert AFTER INSERT ON public.lessons_run REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_run();
CREATE TRIGGER told_of_insert AFTER INSERT ON public.records_attempt REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_records_attempt();
CREATE TRIGGER told_of_insert AFTER INSERT ON public.records_pulsereading REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_records_pulsereading();
CREATE TRIGGER told_of_insert AFTER INSERT ON public.records_question REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_records_question();
CREATE TRIGGER told_of_insert AFTER INSERT ON public.records_recount REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_records_recount();
CREATE TRIGGER told_of_insert AFTER INSERT ON public.records_settlement REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_records_settlement();
CREATE TRIGGER told_of_update AFTER UPDATE ON public.challenges_go REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_challenges_go();
CREATE TRIGGER told_of_update AFTER UPDATE ON public.lessons_activity REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_activity();
CREATE TRIGGER told_of_update AFTER UPDATE ON public.lessons_conduct REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_conduct();
CREATE TRIGGER told_of_update AFTER UPDATE ON public.lessons_helper REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_helper();
CREATE TRIGGER told_of_update AFTER UPDATE ON public.lessons_helpercode REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_helpercode();
CREATE TRIGGER told_of_update AFTER UPDATE ON public.lessons_lesson REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_lesson();
CREATE TRIGGER told_of_update AFTER UPDATE ON public.lessons_run REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_lessons_run();
CREATE TRIGGER told_of_update AFTER UPDATE ON public.records_question REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.lauf_tell_records_question();
ALTER TABLE ONLY public.records_attempt
    ADD CONSTRAINT attempt_in_its_pupils_school FOREIGN KEY (pupil_id, school_id) REFERENCES public.people_pupil(id, school_id);
ALTER TABLE ONLY public.records_attempt
    ADD CONSTRAINT attempt_kind_of_its_protocol FOREIGN KEY (protocol_id, kind) REFERENCES public.catalogue_protocolversion(id, kind);
ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissio_permission_id_84c5c92e_fk_auth_perm FOREIGN KEY (permission_id) REFERENCES public.auth_permission(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissions_group_id_b120cbf9_fk_auth_group_id FOREIGN KEY (group_id) REFERENCES public.auth_group(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.auth_permission
    ADD CONSTRAINT auth_permission_content_type_id_2f476e4b_fk_django_co FOREIGN KEY (content_type_id) REFERENCES public.django_content_type(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.catalogue_battery
    ADD CONSTRAINT catalogue_battery_school_id_d08c8182_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.catalogue_batterytest
    ADD CONSTRAINT catalogue_batterytes_battery_id_b2c6fda5_fk_catalogue FOREIGN KEY (battery_id) REFERENCES public.catalogue_battery(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.catalogue_batterytest
    ADD CONSTRAINT catalogue_batterytest_test_id_a33b1cd6_fk_catalogue_test_id FOREIGN KEY (test_id) REFERENCES public.catalogue_test(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.catalogue_course
    ADD CONSTRAINT catalogue_course_by_id_2920fc53_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.catalogue_course
    ADD CONSTRAINT catalogue_course_school_id_56f91864_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.catalogue_ladder
    ADD CONSTRAINT catalogue_ladder_test_id_37bd1557_fk_catalogue_test_id FOREIGN KEY (test_id) REFERENCES public.catalogue_test(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.catalogue_ladder
    ADD CONSTRAINT catalogue_ladder_year_group_id_c7ff5a06_fk_people_yeargroup_id FOREIGN KEY (year_group_id) REFERENCES public.people_yeargroup(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.catalogue_ladderrung
    ADD CONSTRAINT catalogue_ladderrung_ladder_id_2c09966c_fk_catalogue_ladder_id FOREIGN KEY (ladder_id) REFERENCES public.catalogue_ladder(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.catalogue_normtable
    ADD CONSTRAINT catalogue_normtable_school_id_896ab9d9_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.catalogue_normtable
    ADD CONSTRAINT catalogue_normtable_test_id_d8ccfb52_fk_catalogue_test_id FOREIGN KEY (test_id) REFERENCES public.catalogue_test(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.catalogue_protocolversion
    ADD CONSTRAINT catalogue_protocolversion_test_id_25bef5fe_fk_catalogue_test_id FOREIGN KEY (test_id) REFERENCES public.catalogue_test(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.catalogue_test
    ADD CONSTRAINT catalogue_test_school_id_dba436cf_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_challengeweek_classes
    ADD CONSTRAINT challenges_challenge_challengeweek_id_b6ea2e64_fk_challenge FOREIGN KEY (challengeweek_id) REFERENCES public.challenges_challengeweek(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_challenge
    ADD CONSTRAINT challenges_challenge_protocol_id_2ea9ae28_fk_catalogue FOREIGN KEY (protocol_id) REFERENCES public.catalogue_protocolversion(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_challengecode
    ADD CONSTRAINT challenges_challenge_school_class_id_636ffeae_fk_people_sc FOREIGN KEY (school_class_id) REFERENCES public.people_schoolclass(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_challengeweek_classes
    ADD CONSTRAINT challenges_challenge_schoolclass_id_404805a0_fk_people_sc FOREIGN KEY (schoolclass_id) REFERENCES public.people_schoolclass(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_challenge
    ADD CONSTRAINT challenges_challenge_week_id_4ba9b4fa_fk_challenge FOREIGN KEY (week_id) REFERENCES public.challenges_challengeweek(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_challengecode
    ADD CONSTRAINT challenges_challenge_week_id_4d31bb43_fk_challenge FOREIGN KEY (week_id) REFERENCES public.challenges_challengeweek(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_challengecode
    ADD CONSTRAINT challenges_challengecode_by_id_eb061012_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_challengeweek
    ADD CONSTRAINT challenges_challengeweek_by_id_78864764_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_challengeweek
    ADD CONSTRAINT challenges_challengeweek_school_id_f5a7576e_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_games
    ADD CONSTRAINT challenges_games_by_id_c8fe1bb6_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_games
    ADD CONSTRAINT challenges_games_school_id_899aaf0a_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_gameskey
    ADD CONSTRAINT challenges_gameskey_school_id_45490616_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_gamesnote
    ADD CONSTRAINT challenges_gamesnote_by_id_1843aa0b_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_gamesnote
    ADD CONSTRAINT challenges_gamesnote_games_id_9b05dbd4_fk_challenges_games_id FOREIGN KEY (games_id) REFERENCES public.challenges_games(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_gamesresult
    ADD CONSTRAINT challenges_gamesresu_sent_by_id_09581043_fk_challenge FOREIGN KEY (sent_by_id) REFERENCES public.challenges_gamesschool(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_gamesresult
    ADD CONSTRAINT challenges_gamesresult_came_by_id_37ecb6e5_fk_people_staff_id FOREIGN KEY (came_by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_gamesschool
    ADD CONSTRAINT challenges_gamesschool_games_id_3c1972c2_fk_challenges_games_id FOREIGN KEY (games_id) REFERENCES public.challenges_games(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_gamesschool
    ADD CONSTRAINT challenges_gamesschool_known_by_id_71fc79ac_fk_people_staff_id FOREIGN KEY (known_by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_gamestest
    ADD CONSTRAINT challenges_gamestest_games_id_07b34566_fk_challenges_games_id FOREIGN KEY (games_id) REFERENCES public.challenges_games(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_gamestest
    ADD CONSTRAINT challenges_gamestest_protocol_id_01c9b0f0_fk_catalogue FOREIGN KEY (protocol_id) REFERENCES public.catalogue_protocolversion(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_go
    ADD CONSTRAINT challenges_go_attempt_id_1e9acd26_fk_records_attempt_id FOREIGN KEY (attempt_id) REFERENCES public.records_attempt(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_go
    ADD CONSTRAINT challenges_go_challenge_id_9646618e_fk_challenges_challenge_id FOREIGN KEY (challenge_id) REFERENCES public.challenges_challenge(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_go
    ADD CONSTRAINT challenges_go_counted_by_id_bca735c6_fk_people_pupil_id FOREIGN KEY (counted_by_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_go
    ADD CONSTRAINT challenges_go_decided_by_id_630bed24_fk_people_staff_id FOREIGN KEY (decided_by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_go
    ADD CONSTRAINT challenges_go_pupil_id_ec232284_fk_people_pupil_id FOREIGN KEY (pupil_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_go
    ADD CONSTRAINT challenges_go_school_id_d4314b31_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_point
    ADD CONSTRAINT challenges_point_by_id_f95d859b_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_point
    ADD CONSTRAINT challenges_point_challenge_id_6a603f19_fk_challenge FOREIGN KEY (challenge_id) REFERENCES public.challenges_challenge(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_point
    ADD CONSTRAINT challenges_point_pupil_id_80d21626_fk_people_pupil_id FOREIGN KEY (pupil_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_point
    ADD CONSTRAINT challenges_point_reverses_id_4561e12d_fk_challenges_point_id FOREIGN KEY (reverses_id) REFERENCES public.challenges_point(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_point
    ADD CONSTRAINT challenges_point_school_id_f5630788_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_slip
    ADD CONSTRAINT challenges_slip_by_id_7fe37c00_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_slip
    ADD CONSTRAINT challenges_slip_pupil_id_0a7c0d5b_fk_people_pupil_id FOREIGN KEY (pupil_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_slip
    ADD CONSTRAINT challenges_slip_week_id_5fc25307_fk_challenges_challengeweek_id FOREIGN KEY (week_id) REFERENCES public.challenges_challengeweek(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_activity
    ADD CONSTRAINT lessons_activity_lesson_id_febf154b_fk_lessons_lesson_id FOREIGN KEY (lesson_id) REFERENCES public.lessons_lesson(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_activity
    ADD CONSTRAINT lessons_activity_protocol_id_a6bdfaac_fk_catalogue FOREIGN KEY (protocol_id) REFERENCES public.catalogue_protocolversion(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_allowed
    ADD CONSTRAINT lessons_allowed_by_id_023f77c1_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_allowed
    ADD CONSTRAINT lessons_allowed_lesson_id_b6b03012_fk_lessons_lesson_id FOREIGN KEY (lesson_id) REFERENCES public.lessons_lesson(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_allowed
    ADD CONSTRAINT lessons_allowed_pupil_id_6f3dc528_fk_people_pupil_id FOREIGN KEY (pupil_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_conduct
    ADD CONSTRAINT lessons_conduct_by_id_b5aa2827_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_conduct
    ADD CONSTRAINT lessons_conduct_lesson_id_b9c5da3f_fk_lessons_lesson_id FOREIGN KEY (lesson_id) REFERENCES public.lessons_lesson(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_helper
    ADD CONSTRAINT lessons_helper_lesson_id_4438ad2d_fk_lessons_lesson_id FOREIGN KEY (lesson_id) REFERENCES public.lessons_lesson(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_helper
    ADD CONSTRAINT lessons_helper_let_in_by_id_62844a7b_fk_people_staff_id FOREIGN KEY (let_in_by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_helpercode
    ADD CONSTRAINT lessons_helpercode_by_id_7186bb74_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_helpercode
    ADD CONSTRAINT lessons_helpercode_lesson_id_98714c0f_fk_lessons_lesson_id FOREIGN KEY (lesson_id) REFERENCES public.lessons_lesson(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_lesson
    ADD CONSTRAINT lessons_lesson_battery_id_d0bbaab7_fk_catalogue_battery_id FOREIGN KEY (battery_id) REFERENCES public.catalogue_battery(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_lesson
    ADD CONSTRAINT lessons_lesson_closed_by_id_acc846f0_fk_people_staff_id FOREIGN KEY (closed_by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_lesson
    ADD CONSTRAINT lessons_lesson_school_class_id_21f85d48_fk_people_sc FOREIGN KEY (school_class_id) REFERENCES public.people_schoolclass(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_lesson
    ADD CONSTRAINT lessons_lesson_school_id_0f88b9cb_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_lesson
    ADD CONSTRAINT lessons_lesson_teacher_id_57e59f26_fk_people_staff_id FOREIGN KEY (teacher_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_lesson
    ADD CONSTRAINT lessons_lesson_year_group_id_434d16a7_fk_people_yeargroup_id FOREIGN KEY (year_group_id) REFERENCES public.people_yeargroup(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_planblock
    ADD CONSTRAINT lessons_planblock_activity_id_92c6f62f_fk_lessons_activity_id FOREIGN KEY (activity_id) REFERENCES public.lessons_activity(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_planblock
    ADD CONSTRAINT lessons_planblock_lesson_id_fd498d33_fk_lessons_lesson_id FOREIGN KEY (lesson_id) REFERENCES public.lessons_lesson(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_planrevision
    ADD CONSTRAINT lessons_planrevision_by_id_4c981a72_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_planrevision
    ADD CONSTRAINT lessons_planrevision_lesson_id_0967724f_fk_lessons_lesson_id FOREIGN KEY (lesson_id) REFERENCES public.lessons_lesson(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_plantemplate
    ADD CONSTRAINT lessons_plantemplate_by_id_55ef8e58_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_plantemplate
    ADD CONSTRAINT lessons_plantemplate_school_id_cfeca669_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_slot
    ADD CONSTRAINT lessons_slot_school_class_id_74b20c7b_fk_people_schoolclass_id FOREIGN KEY (school_class_id) REFERENCES public.people_schoolclass(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_slot
    ADD CONSTRAINT lessons_slot_teacher_id_ef34d277_fk_people_staff_id FOREIGN KEY (teacher_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_run
    ADD CONSTRAINT lessons_waverun_activity_id_7631b3fb_fk_lessons_activity_id FOREIGN KEY (activity_id) REFERENCES public.lessons_activity(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.lessons_run
    ADD CONSTRAINT lessons_waverun_by_id_bae09666_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_change
    ADD CONSTRAINT people_change_by_id_ba2c0987_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_change
    ADD CONSTRAINT people_change_school_id_6bee0bd2_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_exclusion
    ADD CONSTRAINT people_exclusion_by_id_c4da0664_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_exclusion
    ADD CONSTRAINT people_exclusion_pupil_id_adec5afe_fk_people_pupil_id FOREIGN KEY (pupil_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_house
    ADD CONSTRAINT people_house_school_id_1fbde7ba_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_invitation
    ADD CONSTRAINT people_invitation_by_id_4f7f0179_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_invitation
    ADD CONSTRAINT people_invitation_staff_id_67a9a594_fk_people_staff_id FOREIGN KEY (staff_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_merge
    ADD CONSTRAINT people_merge_by_id_dc211320_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_merge
    ADD CONSTRAINT people_merge_double_id_3e7b2645_fk_people_pupil_id FOREIGN KEY (double_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_merge
    ADD CONSTRAINT people_merge_kept_id_d4ee6e06_fk_people_pupil_id FOREIGN KEY (kept_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_merge
    ADD CONSTRAINT people_merge_was_in_id_efdd458d_fk_people_schoolclass_id FOREIGN KEY (was_in_id) REFERENCES public.people_schoolclass(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_moveup
    ADD CONSTRAINT people_moveup_by_id_82ca78c3_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_moveup
    ADD CONSTRAINT people_moveup_school_id_5b68a525_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_ownpage
    ADD CONSTRAINT people_ownpage_by_id_f280c9f6_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_ownpage
    ADD CONSTRAINT people_ownpage_pupil_id_6f5fd577_fk_people_pupil_id FOREIGN KEY (pupil_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_pupil
    ADD CONSTRAINT people_pupil_house_id_f4ca16bb_fk_people_house_id FOREIGN KEY (house_id) REFERENCES public.people_house(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_pupil
    ADD CONSTRAINT people_pupil_left_from_id_c5dd0101_fk_people_schoolclass_id FOREIGN KEY (left_from_id) REFERENCES public.people_schoolclass(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_pupil
    ADD CONSTRAINT people_pupil_merged_into_id_96b6df4f_fk_people_pupil_id FOREIGN KEY (merged_into_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_pupil
    ADD CONSTRAINT people_pupil_school_class_id_fad2dc13_fk_people_schoolclass_id FOREIGN KEY (school_class_id) REFERENCES public.people_schoolclass(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_pupil
    ADD CONSTRAINT people_pupil_school_id_d98606fe_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_school
    ADD CONSTRAINT people_school_trust_id_1cd1ed1e_fk_people_trust_id FOREIGN KEY (trust_id) REFERENCES public.people_trust(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_schoolclass
    ADD CONSTRAINT people_schoolclass_school_id_f73a37de_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_schoolclass_teachers
    ADD CONSTRAINT people_schoolclass_t_schoolclass_id_7633e483_fk_people_sc FOREIGN KEY (schoolclass_id) REFERENCES public.people_schoolclass(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_schoolclass_teachers
    ADD CONSTRAINT people_schoolclass_t_staff_id_35c558b2_fk_people_st FOREIGN KEY (staff_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_schoolclass
    ADD CONSTRAINT people_schoolclass_year_group_id_6233478a_fk_people_ye FOREIGN KEY (year_group_id) REFERENCES public.people_yeargroup(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_secondfactor
    ADD CONSTRAINT people_secondfactor_staff_id_c9426ce6_fk_people_staff_id FOREIGN KEY (staff_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_secondpost
    ADD CONSTRAINT people_secondpost_account_id_c0ee4a28_fk_people_staff_id FOREIGN KEY (account_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_secondpost
    ADD CONSTRAINT people_secondpost_post_id_bffbd462_fk_people_staff_id FOREIGN KEY (post_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_signin
    ADD CONSTRAINT people_signin_staff_id_c53909ad_fk_people_staff_id FOREIGN KEY (staff_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_staff
    ADD CONSTRAINT people_staff_school_id_38ce23f0_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_term
    ADD CONSTRAINT people_term_school_id_8f7a91c9_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_trust
    ADD CONSTRAINT people_trust_office_id_9cce417b_fk_people_school_id FOREIGN KEY (office_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.people_yeargroup
    ADD CONSTRAINT people_yeargroup_school_id_0827617f_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.challenges_point
    ADD CONSTRAINT point_in_its_pupils_school FOREIGN KEY (pupil_id, school_id) REFERENCES public.people_pupil(id, school_id);
ALTER TABLE ONLY public.records_pulsereading
    ADD CONSTRAINT pulse_in_its_pupils_school FOREIGN KEY (pupil_id, school_id) REFERENCES public.people_pupil(id, school_id);
ALTER TABLE ONLY public.records_aim
    ADD CONSTRAINT records_aim_activity_id_b550a140_fk_lessons_activity_id FOREIGN KEY (activity_id) REFERENCES public.lessons_activity(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_aim
    ADD CONSTRAINT records_aim_by_id_36824596_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_aim
    ADD CONSTRAINT records_aim_pupil_id_6329439f_fk_people_pupil_id FOREIGN KEY (pupil_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_attempt
    ADD CONSTRAINT records_attempt_activity_id_819945a3_fk_lessons_activity_id FOREIGN KEY (activity_id) REFERENCES public.lessons_activity(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_attempt
    ADD CONSTRAINT records_attempt_counted_by_id_9b553842_fk_people_pupil_id FOREIGN KEY (counted_by_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_attempt
    ADD CONSTRAINT records_attempt_helper_id_da6a2942_fk_lessons_helper_id FOREIGN KEY (helper_id) REFERENCES public.lessons_helper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_attempt
    ADD CONSTRAINT records_attempt_protocol_id_08636f42_fk_catalogue FOREIGN KEY (protocol_id) REFERENCES public.catalogue_protocolversion(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_attempt
    ADD CONSTRAINT records_attempt_pupil_id_9fedb73a_fk_people_pupil_id FOREIGN KEY (pupil_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_attempt
    ADD CONSTRAINT records_attempt_recorded_by_id_a0763405_fk_people_staff_id FOREIGN KEY (recorded_by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_attempt
    ADD CONSTRAINT records_attempt_school_id_df5cf0e0_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_attempt
    ADD CONSTRAINT records_attempt_succeeds_id_facec1e2_fk_records_attempt_id FOREIGN KEY (succeeds_id) REFERENCES public.records_attempt(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_calibration
    ADD CONSTRAINT records_calibration_by_id_6a9102f6_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_calibration
    ADD CONSTRAINT records_calibration_pupil_id_912c5b73_fk_people_pupil_id FOREIGN KEY (pupil_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_calibration
    ADD CONSTRAINT records_calibration_school_class_id_6af0f56d_fk_people_sc FOREIGN KEY (school_class_id) REFERENCES public.people_schoolclass(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_calibration
    ADD CONSTRAINT records_calibration_school_id_6b55ab43_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_familyline
    ADD CONSTRAINT records_familyline_by_id_f5627aa0_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_familyline
    ADD CONSTRAINT records_familyline_pupil_id_f1744ef7_fk_people_pupil_id FOREIGN KEY (pupil_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_groupaim
    ADD CONSTRAINT records_groupaim_activity_id_a06e29fa_fk_lessons_activity_id FOREIGN KEY (activity_id) REFERENCES public.lessons_activity(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_groupaim
    ADD CONSTRAINT records_groupaim_by_id_ab90bb16_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_pulsereading
    ADD CONSTRAINT records_pulsereading_lesson_id_da7db766_fk_lessons_lesson_id FOREIGN KEY (lesson_id) REFERENCES public.lessons_lesson(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_pulsereading
    ADD CONSTRAINT records_pulsereading_pupil_id_acb76c81_fk_people_pupil_id FOREIGN KEY (pupil_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_pulsereading
    ADD CONSTRAINT records_pulsereading_recorded_by_id_0a15d937_fk_people_staff_id FOREIGN KEY (recorded_by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_pulsereading
    ADD CONSTRAINT records_pulsereading_school_id_09bad98f_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_pulsereading
    ADD CONSTRAINT records_pulsereading_succeeds_id_5404f0c3_fk_records_p FOREIGN KEY (succeeds_id) REFERENCES public.records_pulsereading(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_question
    ADD CONSTRAINT records_question_attempt_id_7183539b_fk_records_attempt_id FOREIGN KEY (attempt_id) REFERENCES public.records_attempt(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_recount
    ADD CONSTRAINT records_recount_activity_id_1df9c95e_fk_lessons_activity_id FOREIGN KEY (activity_id) REFERENCES public.lessons_activity(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_recount
    ADD CONSTRAINT records_recount_beside_id_701b4c79_fk_records_attempt_id FOREIGN KEY (beside_id) REFERENCES public.records_attempt(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_recount
    ADD CONSTRAINT records_recount_helper_id_de4cf936_fk_lessons_helper_id FOREIGN KEY (helper_id) REFERENCES public.lessons_helper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_recount
    ADD CONSTRAINT records_recount_pupil_id_fabd5f5c_fk_people_pupil_id FOREIGN KEY (pupil_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_recount
    ADD CONSTRAINT records_recount_school_id_88eeb635_fk_people_school_id FOREIGN KEY (school_id) REFERENCES public.people_school(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_repeatsummary
    ADD CONSTRAINT records_repeatsummary_test_id_18d19ca9_fk_catalogue_test_id FOREIGN KEY (test_id) REFERENCES public.catalogue_test(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_setaside
    ADD CONSTRAINT records_setaside_by_id_d2eb67d4_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_setaside
    ADD CONSTRAINT records_setaside_pupil_id_99d3c6ec_fk_people_pupil_id FOREIGN KEY (pupil_id) REFERENCES public.people_pupil(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_settlement
    ADD CONSTRAINT records_settlement_attempt_id_e3c79333_fk_records_attempt_id FOREIGN KEY (attempt_id) REFERENCES public.records_attempt(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_settlement
    ADD CONSTRAINT records_settlement_by_id_c8a69942_fk_people_staff_id FOREIGN KEY (by_id) REFERENCES public.people_staff(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_recount
    ADD CONSTRAINT recount_in_its_pupils_school FOREIGN KEY (pupil_id, school_id) REFERENCES public.people_pupil(id, school_id);
INSERT INTO public.django_migrations (app, name, applied) VALUES
    ('contenttypes', '0001_initial', now()),
    ('contenttypes', '0002_remove_content_type_name', now()),
    ('auth', '0001_initial', now()),
    ('auth', '0002_alter_permission_name_max_length', now()),
    ('auth', '0003_alter_user_email_max_length', now()),
    ('auth', '0004_alter_user_username_opts', now()),
    ('auth', '0005_alter_user_last_login_null', now()),
    ('auth', '0006_require_contenttypes_0002', now()),
    ('auth', '0007_alter_validators_add_error_messages', now()),
    ('auth', '0008_alter_user_username_max_length', now()),
    ('auth', '0009_alter_user_last_name_max_length', now()),
    ('auth', '0010_alter_group_name_max_length', now()),
    ('auth', '0011_update_proxy_permissions', now()),
    ('auth', '0012_alter_user_first_name_max_length', now()),
    ('people', '0001_initial', now()),
    ('catalogue', '0001_initial', now()),
    ('lessons', '0001_initial', now()),
    ('records', '0001_initial', now()),
    ('records', '0002_what_must_never_be_false', now()),
    ('people', '0002_growth_and_units', now()),
    ('people', '0003_sitting_order', now()),
    ('catalogue', '0002_every_kind_of_score', now()),
    ('lessons', '0002_conditions_and_batteries', now()),
    ('lessons', '0003_plans_and_conductor', now()),
    ('lessons', '0004_templates_and_targets', now()),
    ('lessons', '0005_stations_with_loads', now()),
    ('lessons', '0006_one_clock_one_plan', now()),
    ('challenges', '0001_initial', now()),
    ('challenges', '0002_ledger_is_append_only', now()),
    ('catalogue', '0003_day_to_day_variation_by_age', now()),
    ('catalogue', '0004_ready_tests_of_our_own', now()),
    ('catalogue', '0005_norm_units_are_exact', now()),
    ('catalogue', '0006_the_usual_form', now()),
    ('catalogue', '0007_courses_know_their_maker', now()),
    ('catalogue', '0008_least_and_most_by_age', now()),
    ('records', '0003_parts_pulses_calibrations', now()),
    ('records', '0004_pulses_are_append_only', now()),
    ('records', '0005_lap_times_in_one_entry', now()),
    ('records', '0006_attempt_counted_by', now()),
    ('people', '0004_audit_log', now()),
    ('records', '0007_attempts_know_their_run', now()),
    ('lessons', '0007_of_this_age_and_one_sitting', now()),
    ('records', '0008_of_this_age', now()),
    ('records', '0009_one_door', now()),
    ('people', '0005_leavers_and_numbers', now()),
    ('people', '0006_staff_come_by_a_link', now()),
    ('people', '0007_living_school', now()),
    ('people', '0008_after_the_lesson', now()),
    ('records', '0010_after_the_lesson', now()),
    ('lessons', '0008_living_school', now()),
    ('records', '0011_own_targets', now()),
    ('lessons', '0009_to_the_beat', now()),
    ('records', '0012_group_aims', now()),
    ('records', '0013_robust_repeats', now()),
    ('records', '0014_questions', now()),
    ('records', '0015_words_of_reasons', now()),
    ('sessions', '0001_initial', now()),
    ('people', '0009_games_in_the_log', now()),
    ('people', '0010_sessions_and_user_names', now()),
    ('people', '0011_questions_kept', now()),
    ('people', '0012_one_lock_out', now()),
    ('lessons', '0010_when_it_was_changed', now()),
    ('lessons', '0011_helpers', now()),
    ('records', '0016_helpers', now()),
    ('records', '0017_told_at_once', now()),
    ('challenges', '0003_rival_conditions', now()),
    ('challenges', '0004_of_this_age', now()),
    ('challenges', '0005_sets_and_rivals', now()),
    ('challenges', '0006_games', now()),
    ('challenges', '0007_times_have_bounds', now()),
    ('challenges', '0008_goes', now()),
    ('exchange', '0001_handouts', now()),
    ('lessons', '0012_open_lessons', now()),
    ('people', '0013_counted_groups', now()),
    ('people', '0014_trusts', now()),
    ('people', '0015_letters_of_names', now()),
    ('records', '0018_scores_by_day', now()),
    ('web', '0001_guesses', now());
