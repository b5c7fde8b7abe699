CREATE TABLE "bench_entries" (
	"id" uuid PRIMARY KEY NOT NULL,
	"session_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"pull_id" uuid,
	"recording_id" uuid,
	"body" jsonb NOT NULL,
	"said_at" timestamp with time zone NOT NULL,
	"entered_at" timestamp with time zone NOT NULL,
	"by" uuid NOT NULL
);
--> statement-breakpoint
CREATE TABLE "bench_links" (
	"dyno_id" uuid PRIMARY KEY NOT NULL,
	"holder" uuid NOT NULL,
	"until" timestamp with time zone NOT NULL,
	"devices" jsonb DEFAULT '[]'::jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "bench_sessions" (
	"id" uuid PRIMARY KEY NOT NULL,
	"test_id" uuid NOT NULL,
	"dyno_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"day" date NOT NULL,
	"opened_at" timestamp with time zone NOT NULL,
	"opened_by" uuid NOT NULL,
	"closed_at" timestamp with time zone,
	"closed_by" uuid,
	"closing_note" text,
	CONSTRAINT "session_of_test" UNIQUE("test_id","number"),
	CONSTRAINT "closed_whole" CHECK (("bench_sessions"."closed_at" is null) = ("bench_sessions"."closed_by" is null))
);
--> statement-breakpoint
CREATE TABLE "mountings" (
	"id" uuid PRIMARY KEY NOT NULL,
	"session_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"by" uuid NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	CONSTRAINT "mounting_of_session" UNIQUE("session_id","number")
);
--> statement-breakpoint
CREATE TABLE "recording_chunks" (
	"recording_id" uuid NOT NULL,
	"device" text NOT NULL,
	"from" integer NOT NULL,
	"count" integer NOT NULL,
	"lines" text NOT NULL,
	"received_at" timestamp with time zone NOT NULL,
	CONSTRAINT "recording_chunks_recording_id_device_from_pk" PRIMARY KEY("recording_id","device","from"),
	CONSTRAINT "chunk_has_lines" CHECK ("recording_chunks"."count" > 0 and "recording_chunks"."lines" <> '')
);
--> statement-breakpoint
CREATE TABLE "recordings" (
	"id" uuid PRIMARY KEY NOT NULL,
	"session_id" uuid NOT NULL,
	"mounting_id" uuid,
	"pull_id" uuid,
	"arm" text NOT NULL,
	"state" text NOT NULL,
	"asked_at" timestamp with time zone NOT NULL,
	"asked_by" uuid NOT NULL,
	"device_key" text,
	"order" integer,
	"began_at" timestamp with time zone,
	"ended_at" timestamp with time zone,
	"channels" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"clocks_off" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"samples" integer,
	"abort_asked" boolean DEFAULT false NOT NULL,
	"file_sha256" text,
	"lines_sha256" text,
	"log_offset_s" double precision,
	"summary" jsonb,
	"problem" text,
	CONSTRAINT "recorded_once" UNIQUE("session_id","device_key"),
	CONSTRAINT "one_recording_a_place_in_order" UNIQUE("session_id","order"),
	CONSTRAINT "recording_state_known" CHECK ("recordings"."state" in ('armed', 'running', 'complete', 'incomplete', 'aborted', 'withdrawn')),
	CONSTRAINT "begun_has_its_place" CHECK (("recordings"."state" in ('armed', 'withdrawn')) = ("recordings"."order" is null) and ("recordings"."order" is null) = ("recordings"."began_at" is null)),
	CONSTRAINT "complete_has_its_file" CHECK ("recordings"."state" <> 'complete' or "recordings"."file_sha256" is not null)
);
--> statement-breakpoint
CREATE TABLE "dyno_devices" (
	"dyno_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"host" text NOT NULL,
	"port" integer NOT NULL,
	CONSTRAINT "dyno_devices_dyno_id_kind_pk" PRIMARY KEY("dyno_id","kind"),
	CONSTRAINT "device_kind_known" CHECK ("dyno_devices"."kind" in ('dyno', 'station', 'logger')),
	CONSTRAINT "port_is_one" CHECK ("dyno_devices"."port" between 1 and 65535)
);
--> statement-breakpoint
ALTER TABLE "air_readings" DROP CONSTRAINT "air_source_known";--> statement-breakpoint
ALTER TABLE "air_readings" ADD COLUMN "recording_id" uuid;--> statement-breakpoint
ALTER TABLE "bench_entries" ADD CONSTRAINT "bench_entries_session_id_bench_sessions_id_fk" FOREIGN KEY ("session_id") REFERENCES "public"."bench_sessions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench_entries" ADD CONSTRAINT "bench_entries_pull_id_pulls_id_fk" FOREIGN KEY ("pull_id") REFERENCES "public"."pulls"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench_entries" ADD CONSTRAINT "bench_entries_recording_id_recordings_id_fk" FOREIGN KEY ("recording_id") REFERENCES "public"."recordings"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench_entries" ADD CONSTRAINT "bench_entries_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench_links" ADD CONSTRAINT "bench_links_dyno_id_dynos_id_fk" FOREIGN KEY ("dyno_id") REFERENCES "public"."dynos"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench_sessions" ADD CONSTRAINT "bench_sessions_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench_sessions" ADD CONSTRAINT "bench_sessions_dyno_id_dynos_id_fk" FOREIGN KEY ("dyno_id") REFERENCES "public"."dynos"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench_sessions" ADD CONSTRAINT "bench_sessions_opened_by_people_id_fk" FOREIGN KEY ("opened_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench_sessions" ADD CONSTRAINT "bench_sessions_closed_by_people_id_fk" FOREIGN KEY ("closed_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mountings" ADD CONSTRAINT "mountings_session_id_bench_sessions_id_fk" FOREIGN KEY ("session_id") REFERENCES "public"."bench_sessions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mountings" ADD CONSTRAINT "mountings_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recording_chunks" ADD CONSTRAINT "recording_chunks_recording_id_recordings_id_fk" FOREIGN KEY ("recording_id") REFERENCES "public"."recordings"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recordings" ADD CONSTRAINT "recordings_session_id_bench_sessions_id_fk" FOREIGN KEY ("session_id") REFERENCES "public"."bench_sessions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recordings" ADD CONSTRAINT "recordings_mounting_id_mountings_id_fk" FOREIGN KEY ("mounting_id") REFERENCES "public"."mountings"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recordings" ADD CONSTRAINT "recordings_pull_id_pulls_id_fk" FOREIGN KEY ("pull_id") REFERENCES "public"."pulls"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recordings" ADD CONSTRAINT "recordings_asked_by_people_id_fk" FOREIGN KEY ("asked_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recordings" ADD CONSTRAINT "recordings_file_sha256_raw_files_sha256_fk" FOREIGN KEY ("file_sha256") REFERENCES "public"."raw_files"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recordings" ADD CONSTRAINT "recordings_lines_sha256_raw_files_sha256_fk" FOREIGN KEY ("lines_sha256") REFERENCES "public"."raw_files"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "dyno_devices" ADD CONSTRAINT "dyno_devices_dyno_id_dynos_id_fk" FOREIGN KEY ("dyno_id") REFERENCES "public"."dynos"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "entries_of_session" ON "bench_entries" USING btree ("session_id","entered_at");--> statement-breakpoint
CREATE UNIQUE INDEX "one_open_session_a_test" ON "bench_sessions" USING btree ("test_id") WHERE "bench_sessions"."closed_at" is null;--> statement-breakpoint
CREATE UNIQUE INDEX "one_open_session_a_dyno" ON "bench_sessions" USING btree ("dyno_id") WHERE "bench_sessions"."closed_at" is null;--> statement-breakpoint
CREATE INDEX "recordings_of_session" ON "recordings" USING btree ("session_id","order");--> statement-breakpoint
CREATE UNIQUE INDEX "one_whole_recording_a_pull" ON "recordings" USING btree ("pull_id") WHERE "recordings"."state" = 'complete';--> statement-breakpoint
CREATE UNIQUE INDEX "one_at_a_time" ON "recordings" USING btree ("session_id") WHERE "recordings"."state" in ('armed', 'running');--> statement-breakpoint
ALTER TABLE "air_readings" ADD CONSTRAINT "air_of_a_recording_names_it" CHECK (("air_readings"."source" = 'live station') = ("air_readings"."recording_id" is not null));--> statement-breakpoint
ALTER TABLE "air_readings" ADD CONSTRAINT "air_source_known" CHECK ("air_readings"."source" in ('typed', 'pasted', 'station file', 'live station'));--> statement-breakpoint
ALTER TABLE air_readings ADD CONSTRAINT air_readings_recording_id_recordings_id_fk FOREIGN KEY (recording_id) REFERENCES recordings (id);
--> statement-breakpoint
-- What was done is written once.
CREATE TRIGGER mountings_append_only BEFORE UPDATE OR DELETE ON mountings FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER mountings_not_emptied BEFORE TRUNCATE ON mountings FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER recording_chunks_append_only BEFORE UPDATE OR DELETE ON recording_chunks FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER recording_chunks_not_emptied BEFORE TRUNCATE ON recording_chunks FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER bench_entries_append_only BEFORE UPDATE OR DELETE ON bench_entries FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER bench_entries_not_emptied BEFORE TRUNCATE ON bench_entries FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER recordings_not_emptied BEFORE TRUNCATE ON recordings FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER bench_sessions_not_emptied BEFORE TRUNCATE ON bench_sessions FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- A session is closed once; nothing else of it changes.
CREATE FUNCTION keep_bench_session() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE closing text[] := ARRAY['closed_at', 'closed_by', 'closing_note'];
BEGIN
  IF TG_OP = 'DELETE' OR OLD.closed_at IS NOT NULL OR to_jsonb(NEW) - closing IS DISTINCT FROM to_jsonb(OLD) - closing THEN
    RAISE EXCEPTION 'a session is closed once and changes in nothing else' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER bench_sessions_kept BEFORE UPDATE OR DELETE ON bench_sessions FOR EACH ROW EXECUTE FUNCTION keep_bench_session();
--> statement-breakpoint
-- What a recording was (when, where in the order, by whom, in which mounting) is said once; what is over stays over.
CREATE FUNCTION keep_recording() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE once text[] := ARRAY['device_key', 'order', 'began_at', 'mounting_id', 'file_sha256', 'lines_sha256', 'pull_id']; field text;
BEGIN
  IF TG_OP = 'DELETE' THEN RAISE EXCEPTION 'recordings are never removed' USING ERRCODE = 'integrity_constraint_violation'; END IF;
  IF (NEW.session_id, NEW.arm, NEW.asked_at, NEW.asked_by) IS DISTINCT FROM (OLD.session_id, OLD.arm, OLD.asked_at, OLD.asked_by) THEN
    RAISE EXCEPTION 'what a recording is of does not change' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  FOREACH field IN ARRAY once LOOP
    IF to_jsonb(OLD) ->> field IS NOT NULL AND to_jsonb(NEW) ->> field IS DISTINCT FROM to_jsonb(OLD) ->> field THEN
      RAISE EXCEPTION 'the % of a recording is said once', field USING ERRCODE = 'integrity_constraint_violation';
    END IF;
  END LOOP;
  IF OLD.state IN ('complete', 'aborted', 'withdrawn') AND NEW.state <> OLD.state THEN
    RAISE EXCEPTION 'a recording that is % stays so', OLD.state USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER recordings_kept BEFORE UPDATE OR DELETE ON recordings FOR EACH ROW EXECUTE FUNCTION keep_recording();
--> statement-breakpoint
-- What a recording or an entry is about belongs to the test of its session; a closed session takes no more.
CREATE FUNCTION of_same_session() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE s bench_sessions%ROWTYPE;
BEGIN
  SELECT * INTO s FROM bench_sessions WHERE id = NEW.session_id;
  IF TG_OP = 'INSERT' AND s.closed_at IS NOT NULL AND TG_TABLE_NAME <> 'bench_entries' THEN
    RAISE EXCEPTION 'the session is closed' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  IF TG_TABLE_NAME <> 'mountings' AND (to_jsonb(NEW) ->> 'pull_id') IS NOT NULL AND NOT EXISTS (
    SELECT 1 FROM pulls p WHERE p.id = (to_jsonb(NEW) ->> 'pull_id')::uuid AND p.test_id = s.test_id) THEN
    RAISE EXCEPTION 'the pull belongs to another test' USING ERRCODE = '23514';
  END IF;
  IF TG_TABLE_NAME = 'recordings' AND (to_jsonb(NEW) ->> 'mounting_id') IS NOT NULL AND NOT EXISTS (
    SELECT 1 FROM mountings m WHERE m.id = (to_jsonb(NEW) ->> 'mounting_id')::uuid AND m.session_id = NEW.session_id) THEN
    RAISE EXCEPTION 'the mounting belongs to another session' USING ERRCODE = '23514';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER recordings_of_same_session BEFORE INSERT OR UPDATE ON recordings FOR EACH ROW EXECUTE FUNCTION of_same_session();
--> statement-breakpoint
CREATE TRIGGER entries_of_same_session BEFORE INSERT ON bench_entries FOR EACH ROW EXECUTE FUNCTION of_same_session();
--> statement-breakpoint
CREATE TRIGGER mountings_of_same_session BEFORE INSERT ON mountings FOR EACH ROW EXECUTE FUNCTION of_same_session();
--> statement-breakpoint
-- Open screens hear of every change, whichever process makes it.
CREATE FUNCTION tell_bench() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE row jsonb := to_jsonb(NEW); about uuid;
BEGIN
  IF TG_TABLE_NAME = 'bench_links' THEN
    IF TG_OP = 'UPDATE' AND row -> 'devices' IS NOT DISTINCT FROM to_jsonb(OLD) -> 'devices' THEN RETURN NULL; END IF;
    SELECT test_id INTO about FROM bench_sessions WHERE dyno_id = NEW.dyno_id AND closed_at IS NULL;
  ELSE
    SELECT test_id INTO about FROM bench_sessions WHERE id = coalesce(row ->> 'session_id', row ->> 'id')::uuid;
  END IF;
  IF about IS NOT NULL THEN PERFORM pg_notify('bench', jsonb_build_object('test', about, 'news', jsonb_build_object('type', 'changed'))::text); END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER bench_sessions_told AFTER INSERT OR UPDATE ON bench_sessions FOR EACH ROW EXECUTE FUNCTION tell_bench();
--> statement-breakpoint
CREATE TRIGGER mountings_told AFTER INSERT ON mountings FOR EACH ROW EXECUTE FUNCTION tell_bench();
--> statement-breakpoint
CREATE TRIGGER recordings_told AFTER INSERT OR UPDATE ON recordings FOR EACH ROW EXECUTE FUNCTION tell_bench();
--> statement-breakpoint
CREATE TRIGGER bench_entries_told AFTER INSERT ON bench_entries FOR EACH ROW EXECUTE FUNCTION tell_bench();
--> statement-breakpoint
CREATE TRIGGER bench_links_told AFTER INSERT OR UPDATE ON bench_links FOR EACH ROW EXECUTE FUNCTION tell_bench();
--> statement-breakpoint
-- What was done outranks what was planned: an analysis reads it, so a change of it is a change of an input.
CREATE FUNCTION session_noted() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE s bench_sessions%ROWTYPE; what text;
BEGIN
  SELECT * INTO s FROM bench_sessions WHERE id = NEW.session_id;
  IF TG_TABLE_NAME = 'recordings' THEN
    IF NEW.state NOT IN ('complete', 'aborted') OR (TG_OP = 'UPDATE' AND NEW.state = OLD.state AND NEW.pull_id IS NOT DISTINCT FROM OLD.pull_id) THEN RETURN NULL; END IF;
    what := 'a pull was recorded at the dyno';
  ELSIF TG_TABLE_NAME = 'mountings' THEN what := 'the car was strapped down';
  ELSE
    IF NEW.kind NOT IN ('changed', 'fitted', 'fuel') THEN RETURN NULL; END IF;
    what := 'the operator’s record has an entry';
  END IF;
  PERFORM evaluate_again(s.test_id);
  PERFORM note_input_change('session', s.test_id, NULL, what);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER recordings_noted AFTER INSERT OR UPDATE ON recordings FOR EACH ROW EXECUTE FUNCTION session_noted();
--> statement-breakpoint
CREATE TRIGGER mountings_noted AFTER INSERT ON mountings FOR EACH ROW EXECUTE FUNCTION session_noted();
--> statement-breakpoint
CREATE TRIGGER bench_entries_noted AFTER INSERT ON bench_entries FOR EACH ROW EXECUTE FUNCTION session_noted();
--> statement-breakpoint
-- Analyses made before sessions were recorded here read none.
INSERT INTO analysis_inputs (analysis_id, kind, subject_id, version) SELECT id, 'session', test_id, 0 FROM analyses ON CONFLICT DO NOTHING;
