CREATE TABLE "audit_entries" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"person_id" uuid,
	"person_name" text NOT NULL,
	"action" text NOT NULL,
	"subject_kind" text NOT NULL,
	"subject_id" text NOT NULL,
	"detail" jsonb DEFAULT '{}'::jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "people" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"email" text NOT NULL,
	"role" text NOT NULL,
	"password_hash" text NOT NULL,
	"clearance" boolean DEFAULT false NOT NULL,
	"does" text DEFAULT '' NOT NULL,
	"active" boolean DEFAULT true NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "people_email_unique" UNIQUE("email")
);
--> statement-breakpoint
CREATE TABLE "web_sessions" (
	"sid" varchar PRIMARY KEY NOT NULL,
	"sess" json NOT NULL,
	"expire" timestamp (6) NOT NULL
);
--> statement-breakpoint
CREATE TABLE "air_readings" (
	"id" uuid PRIMARY KEY NOT NULL,
	"pull_id" uuid NOT NULL,
	"temperature_c" double precision NOT NULL,
	"pressure_hpa" double precision NOT NULL,
	"pressure_kind" text NOT NULL,
	"humidity_kind" text NOT NULL,
	"humidity_value" double precision NOT NULL,
	"entered_at" timestamp with time zone NOT NULL,
	"entered_by" uuid NOT NULL,
	"current" boolean DEFAULT true NOT NULL
);
--> statement-breakpoint
CREATE TABLE "column_memory" (
	"id" uuid PRIMARY KEY NOT NULL,
	"dyno_id" uuid NOT NULL,
	"header" text NOT NULL,
	"columns" jsonb NOT NULL,
	"remembered_at" timestamp with time zone NOT NULL,
	CONSTRAINT "one_memory_a_layout" UNIQUE("dyno_id","header")
);
--> statement-breakpoint
CREATE TABLE "pull_files" (
	"id" uuid PRIMARY KEY NOT NULL,
	"pull_id" uuid NOT NULL,
	"sha256" text NOT NULL,
	"name" text NOT NULL,
	"columns" jsonb,
	"found" jsonb NOT NULL,
	"attached_at" timestamp with time zone NOT NULL,
	"attached_by" uuid NOT NULL,
	"current" boolean DEFAULT true NOT NULL
);
--> statement-breakpoint
CREATE TABLE "raw_files" (
	"sha256" text PRIMARY KEY NOT NULL,
	"bytes" "bytea" NOT NULL,
	"size" integer NOT NULL,
	"stored_at" timestamp with time zone NOT NULL,
	"stored_by" uuid NOT NULL,
	CONSTRAINT "size_is_of_bytes" CHECK ("raw_files"."size" = octet_length("raw_files"."bytes")),
	CONSTRAINT "named_by_hash" CHECK ("raw_files"."sha256" = encode(sha256("raw_files"."bytes"), 'hex'))
);
--> statement-breakpoint
CREATE TABLE "analyses" (
	"id" uuid PRIMARY KEY NOT NULL,
	"test_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"inputs_hash" text NOT NULL,
	"inputs" jsonb NOT NULL,
	"result" jsonb NOT NULL,
	"curves" jsonb NOT NULL,
	"policy" jsonb NOT NULL,
	"software_version" text NOT NULL,
	"computed_at" timestamp with time zone NOT NULL,
	CONSTRAINT "one_analysis_a_number" UNIQUE("test_id","number"),
	CONSTRAINT "one_analysis_an_input" UNIQUE("test_id","inputs_hash")
);
--> statement-breakpoint
CREATE TABLE "pulls" (
	"id" uuid PRIMARY KEY NOT NULL,
	"test_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"label" text NOT NULL,
	"run" integer NOT NULL,
	"arm" text NOT NULL,
	"mount" integer NOT NULL,
	"counted" boolean NOT NULL,
	"excluded_reason" text,
	"excluded_note" text,
	"excluded_by" uuid,
	"excluded_at" timestamp with time zone,
	"excluded_seen_result" boolean,
	CONSTRAINT "one_pull_a_position" UNIQUE("test_id","position"),
	CONSTRAINT "one_pull_a_label" UNIQUE("test_id","label"),
	CONSTRAINT "arm_known" CHECK ("pulls"."arm" in ('stock', 'part')),
	CONSTRAINT "excluded_whole" CHECK (("pulls"."excluded_reason" is null) = ("pulls"."excluded_by" is null) and ("pulls"."excluded_reason" is null) = ("pulls"."excluded_at" is null))
);
--> statement-breakpoint
CREATE TABLE "tests" (
	"id" uuid PRIMARY KEY NOT NULL,
	"number" integer GENERATED ALWAYS AS IDENTITY (sequence name "tests_number_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"question" text NOT NULL,
	"fitment_id" uuid NOT NULL,
	"vehicle_id" uuid NOT NULL,
	"part_revision_id" uuid NOT NULL,
	"dyno_id" uuid NOT NULL,
	"partner_id" uuid,
	"standard" text NOT NULL,
	"from_rpm" double precision NOT NULL,
	"to_rpm" double precision NOT NULL,
	"step_rpm" double precision NOT NULL,
	"smoothing_rpm" double precision NOT NULL,
	"confidence" double precision NOT NULL,
	"drift_bound" double precision NOT NULL,
	"metric" text NOT NULL,
	"protocol" text NOT NULL,
	"pulls_per_run" integer NOT NULL,
	"warm_ups" integer NOT NULL,
	"remount" boolean NOT NULL,
	"gear" text NOT NULL,
	"fuel" text NOT NULL,
	"calibration" text NOT NULL,
	"created_by" uuid NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"locked_at" timestamp with time zone,
	"locked_by" uuid,
	"plan_hash" text,
	"updated_at" timestamp with time zone NOT NULL,
	CONSTRAINT "tests_number_unique" UNIQUE("number"),
	CONSTRAINT "band_is_a_range" CHECK ("tests"."to_rpm" > "tests"."from_rpm" and "tests"."step_rpm" > 0),
	CONSTRAINT "locked_whole" CHECK (("tests"."locked_at" is null) = ("tests"."plan_hash" is null) and ("tests"."locked_at" is null) = ("tests"."locked_by" is null))
);
--> statement-breakpoint
CREATE TABLE "claim_events" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"claim_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"person_id" uuid NOT NULL,
	"from_state" text,
	"to_state" text NOT NULL,
	"note" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "claims" (
	"id" uuid PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"test_id" uuid NOT NULL,
	"analysis_id" uuid NOT NULL,
	"fitment_id" uuid NOT NULL,
	"part_revision_id" uuid NOT NULL,
	"metric" text NOT NULL,
	"value" double precision NOT NULL,
	"unit" text NOT NULL,
	"rpm" double precision,
	"interval" jsonb,
	"wording" text NOT NULL,
	"conditions" jsonb NOT NULL,
	"disclosures" jsonb NOT NULL,
	"grade" text NOT NULL,
	"state" text NOT NULL,
	"author_id" uuid NOT NULL,
	"reviewer_id" uuid,
	"drafted_at" timestamp with time zone NOT NULL,
	"published_at" timestamp with time zone,
	"stale_reason" text,
	CONSTRAINT "claims_code_unique" UNIQUE("code"),
	CONSTRAINT "author_does_not_approve" CHECK ("claims"."reviewer_id" is null or "claims"."reviewer_id" <> "claims"."author_id"),
	CONSTRAINT "claim_state_known" CHECK ("claims"."state" in ('draft', 'in review', 'returned', 'published', 'stale', 'withdrawn')),
	CONSTRAINT "published_by_a_reviewer" CHECK ("claims"."state" <> 'published' or ("claims"."reviewer_id" is not null and "claims"."published_at" is not null))
);
--> statement-breakpoint
CREATE TABLE "dynos" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"site" text NOT NULL,
	"kind" text NOT NULL,
	"site_height_m" double precision NOT NULL,
	"applies_standard" text NOT NULL,
	"repeatability" jsonb NOT NULL,
	CONSTRAINT "dynos_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "fitments" (
	"id" uuid PRIMARY KEY NOT NULL,
	"slug" text NOT NULL,
	"maker" text NOT NULL,
	"model" text NOT NULL,
	"platform_code" text NOT NULL,
	"year_from" integer NOT NULL,
	"year_to" integer,
	"engine_code" text NOT NULL,
	"displacement_cc" integer NOT NULL,
	"cylinders" integer NOT NULL,
	"aspiration" text NOT NULL,
	"ignition" text NOT NULL,
	"fuel" text NOT NULL,
	"transmission" text NOT NULL,
	"driven_wheels" text NOT NULL,
	"output_variant" text NOT NULL,
	"market" text NOT NULL,
	"rated_power_kw" double precision NOT NULL,
	"rated_torque_nm" double precision NOT NULL,
	"rated_standard" text NOT NULL,
	"family" text NOT NULL,
	CONSTRAINT "fitments_slug_unique" UNIQUE("slug")
);
--> statement-breakpoint
CREATE TABLE "part_revisions" (
	"id" uuid PRIMARY KEY NOT NULL,
	"part_id" uuid NOT NULL,
	"revision" text NOT NULL,
	CONSTRAINT "one_row_a_revision" UNIQUE("part_id","revision")
);
--> statement-breakpoint
CREATE TABLE "parts" (
	"id" uuid PRIMARY KEY NOT NULL,
	"sku" text NOT NULL,
	"maker" text NOT NULL,
	"name" text NOT NULL,
	"category" text NOT NULL,
	CONSTRAINT "parts_sku_unique" UNIQUE("sku")
);
--> statement-breakpoint
CREATE TABLE "vehicles" (
	"id" uuid PRIMARY KEY NOT NULL,
	"fitment_id" uuid NOT NULL,
	"tag" text NOT NULL,
	"odometer_km" integer NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	CONSTRAINT "vehicles_tag_unique" UNIQUE("tag")
);
--> statement-breakpoint
ALTER TABLE "audit_entries" ADD CONSTRAINT "audit_entries_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "air_readings" ADD CONSTRAINT "air_readings_pull_id_pulls_id_fk" FOREIGN KEY ("pull_id") REFERENCES "public"."pulls"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "air_readings" ADD CONSTRAINT "air_readings_entered_by_people_id_fk" FOREIGN KEY ("entered_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "column_memory" ADD CONSTRAINT "column_memory_dyno_id_dynos_id_fk" FOREIGN KEY ("dyno_id") REFERENCES "public"."dynos"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pull_files" ADD CONSTRAINT "pull_files_pull_id_pulls_id_fk" FOREIGN KEY ("pull_id") REFERENCES "public"."pulls"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pull_files" ADD CONSTRAINT "pull_files_sha256_raw_files_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."raw_files"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pull_files" ADD CONSTRAINT "pull_files_attached_by_people_id_fk" FOREIGN KEY ("attached_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "raw_files" ADD CONSTRAINT "raw_files_stored_by_people_id_fk" FOREIGN KEY ("stored_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "analyses" ADD CONSTRAINT "analyses_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pulls" ADD CONSTRAINT "pulls_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pulls" ADD CONSTRAINT "pulls_excluded_by_people_id_fk" FOREIGN KEY ("excluded_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "tests_fitment_id_fitments_id_fk" FOREIGN KEY ("fitment_id") REFERENCES "public"."fitments"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "tests_vehicle_id_vehicles_id_fk" FOREIGN KEY ("vehicle_id") REFERENCES "public"."vehicles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "tests_part_revision_id_part_revisions_id_fk" FOREIGN KEY ("part_revision_id") REFERENCES "public"."part_revisions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "tests_dyno_id_dynos_id_fk" FOREIGN KEY ("dyno_id") REFERENCES "public"."dynos"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "tests_partner_id_people_id_fk" FOREIGN KEY ("partner_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "tests_created_by_people_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "tests_locked_by_people_id_fk" FOREIGN KEY ("locked_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "claim_events" ADD CONSTRAINT "claim_events_claim_id_claims_id_fk" FOREIGN KEY ("claim_id") REFERENCES "public"."claims"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "claim_events" ADD CONSTRAINT "claim_events_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "claims" ADD CONSTRAINT "claims_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "claims" ADD CONSTRAINT "claims_analysis_id_analyses_id_fk" FOREIGN KEY ("analysis_id") REFERENCES "public"."analyses"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "claims" ADD CONSTRAINT "claims_fitment_id_fitments_id_fk" FOREIGN KEY ("fitment_id") REFERENCES "public"."fitments"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "claims" ADD CONSTRAINT "claims_part_revision_id_part_revisions_id_fk" FOREIGN KEY ("part_revision_id") REFERENCES "public"."part_revisions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "claims" ADD CONSTRAINT "claims_author_id_people_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "claims" ADD CONSTRAINT "claims_reviewer_id_people_id_fk" FOREIGN KEY ("reviewer_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD CONSTRAINT "part_revisions_part_id_parts_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."parts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "vehicles" ADD CONSTRAINT "vehicles_fitment_id_fitments_id_fk" FOREIGN KEY ("fitment_id") REFERENCES "public"."fitments"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "audit_subject" ON "audit_entries" USING btree ("subject_kind","subject_id");--> statement-breakpoint
CREATE INDEX "web_sessions_expire" ON "web_sessions" USING btree ("expire");--> statement-breakpoint
CREATE UNIQUE INDEX "one_current_reading_a_pull" ON "air_readings" USING btree ("pull_id") WHERE "air_readings"."current";--> statement-breakpoint
CREATE UNIQUE INDEX "one_current_file_a_pull" ON "pull_files" USING btree ("pull_id") WHERE "pull_files"."current";--> statement-breakpoint
CREATE UNIQUE INDEX "one_current_pull_a_file" ON "pull_files" USING btree ("sha256") WHERE "pull_files"."current";