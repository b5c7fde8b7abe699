CREATE TABLE "use_profile_versions" (
	"profile_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"name" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"points" jsonb NOT NULL,
	"retired" boolean DEFAULT false NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" uuid,
	CONSTRAINT "use_profile_versions_profile_id_number_pk" PRIMARY KEY("profile_id","number"),
	CONSTRAINT "use_versions_count" CHECK ("use_profile_versions"."number" >= 1),
	CONSTRAINT "use_has_points" CHECK (jsonb_array_length("use_profile_versions"."points") between 2 and 20)
);
--> statement-breakpoint
ALTER TABLE "use_profile_versions" ADD CONSTRAINT "use_profile_versions_created_by_people_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE TRIGGER use_profiles_written_once BEFORE UPDATE OR DELETE ON use_profile_versions FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER use_profiles_not_emptied BEFORE TRUNCATE ON use_profile_versions FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();--> statement-breakpoint
-- A version follows the one before it, whoever writes.
CREATE FUNCTION follow_use_version() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.number <> 1 + (SELECT coalesce(max(number), 0) FROM use_profile_versions WHERE profile_id = NEW.profile_id) THEN
    RAISE EXCEPTION 'version % of use profile % does not follow the last', NEW.number, NEW.profile_id USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;--> statement-breakpoint
CREATE TRIGGER use_versions_follow BEFORE INSERT ON use_profile_versions FOR EACH ROW EXECUTE FUNCTION follow_use_version();--> statement-breakpoint
-- Four uses to begin with; the house makes them its own.
INSERT INTO use_profile_versions (profile_id, number, name, note, points, created_at) VALUES
  ('0b5e0000-0000-4000-8000-000000000001', 1, 'towing', 'A loaded trailer: held between a fifth and three quarters of the speed of largest power. A starting point, to be changed by the house.', '[{"at":20,"weight":0},{"at":30,"weight":1},{"at":55,"weight":1},{"at":75,"weight":0}]', now()),
  ('0b5e0000-0000-4000-8000-000000000002', 1, 'street', 'Everyday driving, mostly low, now and then further up. A starting point, to be changed by the house.', '[{"at":25,"weight":0},{"at":35,"weight":1},{"at":55,"weight":0.6},{"at":80,"weight":0.2},{"at":100,"weight":0}]', now()),
  ('0b5e0000-0000-4000-8000-000000000003', 1, 'hill road', 'Out of bends and uphill: the middle and upper range. A starting point, to be changed by the house.', '[{"at":45,"weight":0},{"at":55,"weight":1},{"at":85,"weight":1},{"at":105,"weight":0}]', now()),
  ('0b5e0000-0000-4000-8000-000000000004', 1, 'track', 'Kept near the top between changes of gear. A starting point, to be changed by the house.', '[{"at":65,"weight":0},{"at":78,"weight":1},{"at":100,"weight":1},{"at":110,"weight":0}]', now());
