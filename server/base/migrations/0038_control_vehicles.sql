CREATE TABLE "control_check_pulls" (
	"check_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"sha256" text NOT NULL,
	"name" text NOT NULL,
	"temperature_c" double precision NOT NULL,
	"pressure_hpa" double precision NOT NULL,
	"humidity_pct" double precision NOT NULL,
	CONSTRAINT "control_check_pulls_check_id_position_pk" PRIMARY KEY("check_id","position"),
	CONSTRAINT "one_check_a_file" UNIQUE("sha256")
);
--> statement-breakpoint
CREATE TABLE "control_checks" (
	"id" uuid PRIMARY KEY NOT NULL,
	"control_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"timed" text NOT NULL,
	"warm_ups" integer NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"values" double precision[] NOT NULL,
	"software_version" text NOT NULL,
	"entered_at" timestamp with time zone NOT NULL,
	"entered_by" uuid NOT NULL,
	CONSTRAINT "check_has_pulls" CHECK (cardinality("control_checks"."values") between 3 and 12),
	CONSTRAINT "check_was_made" CHECK ("control_checks"."at" <= "control_checks"."entered_at"),
	CONSTRAINT "check_timed" CHECK ("control_checks"."timed" in ('file', 'typed')),
	CONSTRAINT "check_warmed" CHECK ("control_checks"."warm_ups" >= 0)
);
--> statement-breakpoint
CREATE TABLE "control_struck" (
	"check_id" uuid PRIMARY KEY NOT NULL,
	"reason" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"by" uuid NOT NULL,
	CONSTRAINT "check_struck_with_a_reason" CHECK (length("control_struck"."reason") >= 10)
);
--> statement-breakpoint
CREATE TABLE "control_vehicles" (
	"id" uuid PRIMARY KEY NOT NULL,
	"dyno_id" uuid NOT NULL,
	"vehicle_id" uuid NOT NULL,
	"standard" text NOT NULL,
	"from_rpm" double precision NOT NULL,
	"to_rpm" double precision NOT NULL,
	"gear" text NOT NULL,
	"replaces" uuid,
	"reason" text DEFAULT '' NOT NULL,
	"entered_at" timestamp with time zone NOT NULL,
	"entered_by" uuid NOT NULL,
	CONSTRAINT "control_band_is_a_range" CHECK ("control_vehicles"."to_rpm" - "control_vehicles"."from_rpm" >= 1000),
	CONSTRAINT "control_replaced_for_a_reason" CHECK (("control_vehicles"."replaces" is null) = ("control_vehicles"."reason" = ''))
);
--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "control_id" uuid;--> statement-breakpoint
ALTER TABLE "control_check_pulls" ADD CONSTRAINT "control_check_pulls_check_id_control_checks_id_fk" FOREIGN KEY ("check_id") REFERENCES "public"."control_checks"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "control_check_pulls" ADD CONSTRAINT "control_check_pulls_sha256_raw_files_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."raw_files"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "control_checks" ADD CONSTRAINT "control_checks_control_id_control_vehicles_id_fk" FOREIGN KEY ("control_id") REFERENCES "public"."control_vehicles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "control_checks" ADD CONSTRAINT "control_checks_entered_by_people_id_fk" FOREIGN KEY ("entered_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "control_struck" ADD CONSTRAINT "control_struck_check_id_control_checks_id_fk" FOREIGN KEY ("check_id") REFERENCES "public"."control_checks"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "control_struck" ADD CONSTRAINT "control_struck_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "control_vehicles" ADD CONSTRAINT "control_vehicles_dyno_id_dynos_id_fk" FOREIGN KEY ("dyno_id") REFERENCES "public"."dynos"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "control_vehicles" ADD CONSTRAINT "control_vehicles_vehicle_id_vehicles_id_fk" FOREIGN KEY ("vehicle_id") REFERENCES "public"."vehicles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "control_vehicles" ADD CONSTRAINT "control_vehicles_entered_by_people_id_fk" FOREIGN KEY ("entered_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "control_vehicles" ADD CONSTRAINT "control_vehicles_replaces_control_vehicles_id_fk" FOREIGN KEY ("replaces") REFERENCES "public"."control_vehicles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "checks_of_control" ON "control_checks" USING btree ("control_id","at");--> statement-breakpoint
CREATE UNIQUE INDEX "control_replaced_once" ON "control_vehicles" USING btree ("replaces") WHERE "control_vehicles"."replaces" is not null;--> statement-breakpoint
CREATE UNIQUE INDEX "control_vehicle_once" ON "control_vehicles" USING btree ("dyno_id","vehicle_id") WHERE "control_vehicles"."replaces" is null;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "tests_control_id_control_vehicles_id_fk" FOREIGN KEY ("control_id") REFERENCES "public"."control_vehicles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "one_way_names_its_control" CHECK (("tests"."protocol" = 'one-way') = ("tests"."control_id" is not null));--> statement-breakpoint
CREATE TRIGGER control_vehicles_append_only BEFORE UPDATE OR DELETE ON control_vehicles FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER control_vehicles_not_emptied BEFORE TRUNCATE ON control_vehicles FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER control_checks_append_only BEFORE UPDATE OR DELETE ON control_checks FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER control_checks_not_emptied BEFORE TRUNCATE ON control_checks FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER control_check_pulls_append_only BEFORE UPDATE OR DELETE ON control_check_pulls FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER control_check_pulls_not_emptied BEFORE TRUNCATE ON control_check_pulls FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER control_struck_append_only BEFORE UPDATE OR DELETE ON control_struck FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER control_struck_not_emptied BEFORE TRUNCATE ON control_struck FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- A file of a check is no file of a pull: what the car under test made is never what its control made.
CREATE FUNCTION check_has_own_files() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF EXISTS (SELECT 1 FROM pull_files f WHERE f.sha256 = NEW.sha256) THEN
    RAISE EXCEPTION 'the file of a check is the file of a pull' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER check_has_own_files BEFORE INSERT ON control_check_pulls FOR EACH ROW EXECUTE FUNCTION check_has_own_files();
--> statement-breakpoint
CREATE FUNCTION pull_is_no_check() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF EXISTS (SELECT 1 FROM control_check_pulls c WHERE c.sha256 = NEW.sha256) THEN
    RAISE EXCEPTION 'the file of a pull is the file of a check' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER pull_is_no_check BEFORE INSERT ON pull_files FOR EACH ROW EXECUTE FUNCTION pull_is_no_check();
--> statement-breakpoint
-- As many values as files, when the transaction ends.
CREATE FUNCTION check_is_whole() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF (SELECT count(*) FROM control_check_pulls WHERE check_id = NEW.id) <> cardinality(NEW.values) THEN
    RAISE EXCEPTION 'a check has as many files as values' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER check_is_whole AFTER INSERT ON control_checks DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_is_whole();
--> statement-breakpoint
-- What is there already rests on the control vehicle as it is: version 0.
INSERT INTO analysis_inputs (analysis_id, kind, subject_id, version)
  SELECT a.id, 'control', a.test_id, 0 FROM analyses a ON CONFLICT DO NOTHING;
--> statement-breakpoint
-- A check, or one crossed out, touches the sessions since the check before it, and every test whose return it stands in for.
CREATE FUNCTION control_noted() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE c control_checks%ROWTYPE; v control_vehicles%ROWTYPE; since timestamptz; touched uuid;
BEGIN
  SELECT * INTO c FROM control_checks WHERE id = (to_jsonb(NEW) ->> TG_ARGV[0])::uuid;
  SELECT * INTO v FROM control_vehicles WHERE id = c.control_id;
  SELECT max(at) INTO since FROM control_checks WHERE control_id = c.control_id AND id <> c.id AND at <= c.at;
  FOR touched IN
    SELECT DISTINCT t.id FROM tests t JOIN analyses a ON a.test_id = t.id
    WHERE t.control_id = c.control_id OR (t.dyno_id = v.dyno_id AND (since IS NULL OR a.until >= since))
    ORDER BY t.id
  LOOP
    PERFORM evaluate_again(touched);
    PERFORM note_input_change('control', touched, NULL, TG_ARGV[1]);
  END LOOP;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER control_checks_noted AFTER INSERT ON control_checks FOR EACH ROW EXECUTE FUNCTION control_noted('id', 'the dyno’s control vehicle was measured');
--> statement-breakpoint
CREATE TRIGGER control_struck_noted AFTER INSERT ON control_struck FOR EACH ROW EXECUTE FUNCTION control_noted('check_id', 'a check of the dyno’s control vehicle was crossed out');
--> statement-breakpoint
-- What stands in for a return was measured on the same dyno, and is another car.
CREATE FUNCTION control_of_its_dyno() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NOT EXISTS (SELECT 1 FROM control_vehicles c WHERE c.id = NEW.control_id AND c.dyno_id = NEW.dyno_id AND c.vehicle_id <> NEW.vehicle_id) THEN
    RAISE EXCEPTION 'the control vehicle of a test is another car on the same dyno' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER control_of_its_dyno BEFORE INSERT OR UPDATE ON tests FOR EACH ROW WHEN (NEW.control_id IS NOT NULL) EXECUTE FUNCTION control_of_its_dyno();
--> statement-breakpoint
-- A result touches the claims of the same change on other fitments of the family too.
CREATE OR REPLACE FUNCTION result_beside() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE former uuid; beside uuid;
BEGIN
  SELECT id INTO former FROM analyses WHERE test_id = NEW.id AND id <> NEW.current_analysis_id ORDER BY number DESC LIMIT 1;
  IF former IS NOT NULL AND told_of_analysis(former) = told_of_analysis(NEW.current_analysis_id) THEN RETURN NULL; END IF;
  FOR beside IN
    SELECT DISTINCT o.id FROM tests o JOIN test_arms b ON b.test_id = o.id AND b.role = 'part'
      JOIN test_arms m ON m.test_id = NEW.id AND m.role = 'part' AND (m.differences = b.differences OR m.part_revision_id = b.part_revision_id)
    WHERE o.fitment_id IN (SELECT f.id FROM fitments f WHERE f.family = (SELECT n.family FROM fitments n WHERE n.id = NEW.fitment_id)) AND o.id <> NEW.id
      AND EXISTS (SELECT 1 FROM claims c WHERE c.test_id = o.id AND c.state <> 'withdrawn')
    ORDER BY o.id
  LOOP
    PERFORM note_input_change('other tests', beside, NULL, 'test ' || NEW.number || ' of the part has another result');
  END LOOP;
  RETURN NULL;
END $$;
