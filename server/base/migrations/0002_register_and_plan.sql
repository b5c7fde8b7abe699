CREATE TABLE "booking_blocks" (
	"test_id" uuid NOT NULL,
	"block" integer NOT NULL,
	"dyno_id" uuid NOT NULL,
	"starts_at" timestamp with time zone NOT NULL,
	"ends_at" timestamp with time zone NOT NULL,
	CONSTRAINT "booking_blocks_test_id_block_pk" PRIMARY KEY("test_id","block"),
	CONSTRAINT "block_is_a_span" CHECK ("booking_blocks"."ends_at" > "booking_blocks"."starts_at")
);
--> statement-breakpoint
CREATE TABLE "bookings" (
	"test_id" uuid PRIMARY KEY NOT NULL,
	"vehicle_id" uuid NOT NULL,
	"dyno_id" uuid NOT NULL,
	"starts_at" timestamp with time zone NOT NULL,
	"ends_at" timestamp with time zone NOT NULL,
	"placed_by" text NOT NULL,
	"person_id" uuid NOT NULL,
	"placed_at" timestamp with time zone NOT NULL,
	CONSTRAINT "booking_is_a_span" CHECK ("bookings"."ends_at" > "bookings"."starts_at")
);
--> statement-breakpoint
CREATE TABLE "closures" (
	"id" uuid PRIMARY KEY NOT NULL,
	"dyno_id" uuid NOT NULL,
	"starts_at" timestamp with time zone NOT NULL,
	"ends_at" timestamp with time zone NOT NULL,
	"reason" text NOT NULL,
	CONSTRAINT "closure_is_a_span" CHECK ("closures"."ends_at" > "closures"."starts_at")
);
--> statement-breakpoint
CREATE TABLE "plan_amendments" (
	"test_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"person_id" uuid NOT NULL,
	"reason" text NOT NULL,
	"changes" jsonb NOT NULL,
	"plan_hash" text NOT NULL,
	CONSTRAINT "plan_amendments_test_id_number_pk" PRIMARY KEY("test_id","number"),
	CONSTRAINT "has_a_reason" CHECK (length("plan_amendments"."reason") >= 10)
);
--> statement-breakpoint
CREATE TABLE "test_arms" (
	"test_id" uuid NOT NULL,
	"key" text NOT NULL,
	"position" integer NOT NULL,
	"label" text NOT NULL,
	"role" text NOT NULL,
	"from_key" text,
	"changes" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"part_revision_id" uuid,
	"scope" text DEFAULT '' NOT NULL,
	"scope_text" text DEFAULT '' NOT NULL,
	"differences" jsonb DEFAULT '[]'::jsonb NOT NULL,
	CONSTRAINT "test_arms_test_id_key_pk" PRIMARY KEY("test_id","key")
);
--> statement-breakpoint
CREATE TABLE "applications" (
	"part_id" uuid NOT NULL,
	"fitment_id" uuid NOT NULL,
	CONSTRAINT "applications_part_id_fitment_id_pk" PRIMARY KEY("part_id","fitment_id")
);
--> statement-breakpoint
CREATE TABLE "calibrations" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"revision" text NOT NULL,
	"file_hash" text NOT NULL,
	"file_name" text DEFAULT '' NOT NULL,
	"fitment_id" uuid,
	"fuel" text,
	"ethanol_pct" double precision,
	"expects_part_revision_ids" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" uuid,
	CONSTRAINT "one_row_a_calibration" UNIQUE("name","revision"),
	CONSTRAINT "hash_is_sha256" CHECK ("calibrations"."file_hash" ~ '^[0-9a-f]{64}$')
);
--> statement-breakpoint
CREATE TABLE "sensors" (
	"id" uuid PRIMARY KEY NOT NULL,
	"dyno_id" uuid NOT NULL,
	"quantity" text NOT NULL,
	"serial" text NOT NULL,
	"uncertainty" double precision NOT NULL,
	"unit" text NOT NULL,
	"calibrated_on" date NOT NULL,
	"due_on" date,
	"note" text DEFAULT '' NOT NULL,
	"removed" boolean DEFAULT false NOT NULL,
	CONSTRAINT "uncertainty_above_zero" CHECK ("sensors"."uncertainty" > 0)
);
--> statement-breakpoint
CREATE TABLE "vehicle_ledger" (
	"id" uuid PRIMARY KEY NOT NULL,
	"vehicle_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"odometer_km" integer,
	"change" jsonb,
	"note" text DEFAULT '' NOT NULL,
	"supersedes" uuid,
	"entered_at" timestamp with time zone NOT NULL,
	"entered_by" uuid NOT NULL,
	CONSTRAINT "says_something" CHECK ("vehicle_ledger"."change" is not null or "vehicle_ledger"."supersedes" is not null)
);
--> statement-breakpoint
ALTER TABLE "pulls" DROP CONSTRAINT "arm_known";--> statement-breakpoint
ALTER TABLE "analyses" ADD COLUMN "verdict" text GENERATED ALWAYS AS (result ->> 'verdict') STORED;--> statement-breakpoint
ALTER TABLE "analyses" ADD COLUMN "glyphs" jsonb;--> statement-breakpoint
ALTER TABLE "pulls" ADD COLUMN "amendment" integer;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "metrics" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "run_order" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "cool_down_minutes" double precision DEFAULT 4 NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "controls" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "photographs" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "logs" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "hours" jsonb;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "blocks" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "gap_minutes" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "not_before" date;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "due" date;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "priority" integer DEFAULT 5 NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "series_id" uuid;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "locked_plan" jsonb;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "amendment_count" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "claims" ADD COLUMN "arm" text DEFAULT 'part' NOT NULL;--> statement-breakpoint
ALTER TABLE "dynos" ADD COLUMN "drive" text DEFAULT 'two-wheel' NOT NULL;--> statement-breakpoint
ALTER TABLE "dynos" ADD COLUMN "cell" text DEFAULT 'enclosed' NOT NULL;--> statement-breakpoint
ALTER TABLE "dynos" ADD COLUMN "fan" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "dynos" ADD COLUMN "sampling_hz" double precision;--> statement-breakpoint
ALTER TABLE "dynos" ADD COLUMN "last_calibrated_on" date;--> statement-breakpoint
ALTER TABLE "dynos" ADD COLUMN "time_zone" text DEFAULT 'UTC' NOT NULL;--> statement-breakpoint
ALTER TABLE "dynos" ADD COLUMN "hourly_rate" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "dynos" ADD COLUMN "labour_rate" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "dynos" ADD COLUMN "currency" text DEFAULT 'EUR' NOT NULL;--> statement-breakpoint
ALTER TABLE "dynos" ADD COLUMN "drift_bound" double precision;--> statement-breakpoint
ALTER TABLE "dynos" ADD COLUMN "opening" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "dynos" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "fitments" ADD COLUMN "stock_tyres" text;--> statement-breakpoint
ALTER TABLE "fitments" ADD COLUMN "units_per_year" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "fitments" ADD COLUMN "found_by" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "fitments" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "released_on" date;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "change_note" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "options" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "needs" jsonb DEFAULT '{"partIds":[],"calibration":false,"fuel":null}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "conflicts" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "weight_kg" double precision;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "install_hours" double precision DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "remove_hours" double precision DEFAULT 0.5 NOT NULL;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "special_tools" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "irreversible_steps" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "replace_on_install" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "created_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "created_by" uuid;--> statement-breakpoint
ALTER TABLE "parts" ADD COLUMN "promise" text DEFAULT 'power' NOT NULL;--> statement-breakpoint
ALTER TABLE "parts" ADD COLUMN "price_cents" integer;--> statement-breakpoint
ALTER TABLE "parts" ADD COLUMN "currency" text DEFAULT 'EUR' NOT NULL;--> statement-breakpoint
ALTER TABLE "parts" ADD COLUMN "launch_date" date;--> statement-breakpoint
ALTER TABLE "parts" ADD COLUMN "legal" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "parts" ADD COLUMN "embargo_until" date;--> statement-breakpoint
ALTER TABLE "parts" ADD COLUMN "code_name" text;--> statement-breakpoint
ALTER TABLE "parts" ADD COLUMN "note" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "parts" ADD COLUMN "found_by" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "parts" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "vehicles" ADD COLUMN "owner" text DEFAULT 'house' NOT NULL;--> statement-breakpoint
ALTER TABLE "vehicles" ADD COLUMN "wheels" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "vehicles" ADD COLUMN "final_drive" double precision;--> statement-breakpoint
ALTER TABLE "vehicles" ADD COLUMN "gears" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "vehicles" ADD COLUMN "available_from" date;--> statement-breakpoint
ALTER TABLE "vehicles" ADD COLUMN "available_to" date;--> statement-breakpoint
ALTER TABLE "vehicles" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "booking_blocks" ADD CONSTRAINT "booking_blocks_test_id_bookings_test_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."bookings"("test_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "booking_blocks" ADD CONSTRAINT "booking_blocks_dyno_id_dynos_id_fk" FOREIGN KEY ("dyno_id") REFERENCES "public"."dynos"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bookings" ADD CONSTRAINT "bookings_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bookings" ADD CONSTRAINT "bookings_vehicle_id_vehicles_id_fk" FOREIGN KEY ("vehicle_id") REFERENCES "public"."vehicles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bookings" ADD CONSTRAINT "bookings_dyno_id_dynos_id_fk" FOREIGN KEY ("dyno_id") REFERENCES "public"."dynos"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bookings" ADD CONSTRAINT "bookings_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "closures" ADD CONSTRAINT "closures_dyno_id_dynos_id_fk" FOREIGN KEY ("dyno_id") REFERENCES "public"."dynos"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_amendments" ADD CONSTRAINT "plan_amendments_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_amendments" ADD CONSTRAINT "plan_amendments_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_arms" ADD CONSTRAINT "test_arms_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_arms" ADD CONSTRAINT "test_arms_part_revision_id_part_revisions_id_fk" FOREIGN KEY ("part_revision_id") REFERENCES "public"."part_revisions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "applications" ADD CONSTRAINT "applications_part_id_parts_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."parts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "applications" ADD CONSTRAINT "applications_fitment_id_fitments_id_fk" FOREIGN KEY ("fitment_id") REFERENCES "public"."fitments"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calibrations" ADD CONSTRAINT "calibrations_fitment_id_fitments_id_fk" FOREIGN KEY ("fitment_id") REFERENCES "public"."fitments"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calibrations" ADD CONSTRAINT "calibrations_created_by_people_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sensors" ADD CONSTRAINT "sensors_dyno_id_dynos_id_fk" FOREIGN KEY ("dyno_id") REFERENCES "public"."dynos"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "vehicle_ledger" ADD CONSTRAINT "vehicle_ledger_vehicle_id_vehicles_id_fk" FOREIGN KEY ("vehicle_id") REFERENCES "public"."vehicles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "vehicle_ledger" ADD CONSTRAINT "vehicle_ledger_entered_by_people_id_fk" FOREIGN KEY ("entered_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "closures_of_dyno" ON "closures" USING btree ("dyno_id","starts_at");--> statement-breakpoint
CREATE INDEX "arms_of_revision" ON "test_arms" USING btree ("part_revision_id");--> statement-breakpoint
CREATE INDEX "applications_of_fitment" ON "applications" USING btree ("fitment_id");--> statement-breakpoint
CREATE INDEX "sensors_of_dyno" ON "sensors" USING btree ("dyno_id");--> statement-breakpoint
CREATE INDEX "ledger_of_vehicle" ON "vehicle_ledger" USING btree ("vehicle_id","at");--> statement-breakpoint
CREATE UNIQUE INDEX "superseded_once" ON "vehicle_ledger" USING btree ("supersedes") WHERE "vehicle_ledger"."supersedes" is not null;--> statement-breakpoint
-- Tests made before arms were kept by themselves get the two they had.
ALTER TABLE "tests" DISABLE TRIGGER tests_keep_locked_plan;--> statement-breakpoint
UPDATE "tests" t SET "metrics" = ARRAY["metric"], "run_order" = (SELECT coalesce(array_agg(r.arm ORDER BY r.run), '{}') FROM (SELECT DISTINCT run, arm FROM "pulls" WHERE test_id = t.id) r);--> statement-breakpoint
ALTER TABLE "tests" ENABLE TRIGGER tests_keep_locked_plan;--> statement-breakpoint
INSERT INTO "test_arms" ("test_id", "key", "position", "label", "role", "part_revision_id") SELECT id, 'stock', 0, 'stock', 'baseline', NULL FROM "tests";--> statement-breakpoint
INSERT INTO "test_arms" ("test_id", "key", "position", "label", "role", "part_revision_id") SELECT id, 'part', 1, 'part', 'part', part_revision_id FROM "tests";--> statement-breakpoint
ALTER TABLE "pulls" ADD CONSTRAINT "pull_of_an_arm" FOREIGN KEY ("test_id","arm") REFERENCES "public"."test_arms"("test_id","key") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD CONSTRAINT "part_revisions_created_by_people_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "tests_of_fitment" ON "tests" USING btree ("fitment_id");--> statement-breakpoint
CREATE INDEX "tests_of_vehicle" ON "tests" USING btree ("vehicle_id");--> statement-breakpoint
CREATE INDEX "tests_of_series" ON "tests" USING btree ("series_id");--> statement-breakpoint
CREATE INDEX "fitments_in_order" ON "fitments" USING btree ("maker","model","output_variant","market","id");--> statement-breakpoint
CREATE INDEX "fitments_family" ON "fitments" USING btree ("family");--> statement-breakpoint
CREATE INDEX "parts_in_order" ON "parts" USING btree ("name","sku");--> statement-breakpoint
CREATE INDEX "parts_embargo" ON "parts" USING btree ("embargo_until");--> statement-breakpoint
CREATE INDEX "vehicles_fitment" ON "vehicles" USING btree ("fitment_id");--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "amended_after_lock" CHECK ("tests"."amendment_count" = 0 or "tests"."locked_at" is not null);--> statement-breakpoint
ALTER TABLE "parts" ADD CONSTRAINT "embargoed_has_code_name" CHECK ("parts"."embargo_until" is null or length("parts"."code_name") >= 3);--> statement-breakpoint
ALTER TABLE "vehicles" ADD CONSTRAINT "there_before_gone" CHECK ("vehicles"."available_from" is null or "vehicles"."available_to" is null or "vehicles"."available_to" >= "vehicles"."available_from");