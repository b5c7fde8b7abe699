CREATE TABLE "input_changes" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"subject_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"effective_from" timestamp with time zone,
	"what" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "input_versions" (
	"kind" text NOT NULL,
	"subject_id" uuid NOT NULL,
	"version" integer NOT NULL,
	CONSTRAINT "input_versions_kind_subject_id_pk" PRIMARY KEY("kind","subject_id")
);
--> statement-breakpoint
CREATE TABLE "policies" (
	"version" text PRIMARY KEY NOT NULL,
	"number" integer NOT NULL,
	"body" jsonb NOT NULL,
	"reason" text NOT NULL,
	"entered_at" timestamp with time zone NOT NULL,
	"entered_by" uuid,
	CONSTRAINT "policies_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "software_versions" (
	"version" text PRIMARY KEY NOT NULL,
	"first_served_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "analysis_inputs" (
	"analysis_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"subject_id" uuid NOT NULL,
	"version" integer NOT NULL,
	CONSTRAINT "analysis_inputs_analysis_id_kind_subject_id_pk" PRIMARY KEY("analysis_id","kind","subject_id")
);
--> statement-breakpoint
CREATE TABLE "pull_exclusions" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"pull_id" uuid NOT NULL,
	"act" text NOT NULL,
	"reason" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"person_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"seen_result" boolean NOT NULL,
	CONSTRAINT "exclusion_act_known" CHECK ("pull_exclusions"."act" in ('excluded', 'restored'))
);
--> statement-breakpoint
CREATE TABLE "change_answers" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"claim_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"subject_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"reason" text NOT NULL,
	"person_id" uuid,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "answer_has_a_reason" CHECK (length("change_answers"."reason") >= 10)
);
--> statement-breakpoint
CREATE TABLE "dyno_versions" (
	"dyno_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"valid_from" timestamp with time zone NOT NULL,
	"facts" jsonb NOT NULL,
	CONSTRAINT "dyno_versions_dyno_id_number_pk" PRIMARY KEY("dyno_id","number")
);
--> statement-breakpoint
ALTER TABLE "tests" ALTER COLUMN "part_revision_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "claim_events" ALTER COLUMN "person_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "claims" ALTER COLUMN "part_revision_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "pull_files" ADD COLUMN "recorded_text" text;--> statement-breakpoint
ALTER TABLE "pull_files" ADD COLUMN "recorded_by" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "analyses" ADD COLUMN "until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "pulls" ADD COLUMN "repeats" uuid;--> statement-breakpoint
ALTER TABLE "pulls" ADD COLUMN "moved_by" integer;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "tyres" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "current_analysis_id" uuid;--> statement-breakpoint
ALTER TABLE "claims" ADD COLUMN "subject" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "claims" ADD COLUMN "subject_kind" text DEFAULT 'part' NOT NULL;--> statement-breakpoint
ALTER TABLE "claims" ADD COLUMN "tells" text DEFAULT 'gain' NOT NULL;--> statement-breakpoint
ALTER TABLE "claims" ADD COLUMN "snapshot" jsonb;--> statement-breakpoint
ALTER TABLE "dynos" ADD COLUMN "roller_radius_m" double precision;--> statement-breakpoint
ALTER TABLE "dynos" ADD COLUMN "facts_from" timestamp with time zone DEFAULT '1970-01-01T00:00:00Z' NOT NULL;--> statement-breakpoint
ALTER TABLE "policies" ADD CONSTRAINT "policies_entered_by_people_id_fk" FOREIGN KEY ("entered_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "analysis_inputs" ADD CONSTRAINT "analysis_inputs_analysis_id_analyses_id_fk" FOREIGN KEY ("analysis_id") REFERENCES "public"."analyses"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pull_exclusions" ADD CONSTRAINT "pull_exclusions_pull_id_pulls_id_fk" FOREIGN KEY ("pull_id") REFERENCES "public"."pulls"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pull_exclusions" ADD CONSTRAINT "pull_exclusions_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "change_answers" ADD CONSTRAINT "change_answers_claim_id_claims_id_fk" FOREIGN KEY ("claim_id") REFERENCES "public"."claims"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "change_answers" ADD CONSTRAINT "change_answers_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "dyno_versions" ADD CONSTRAINT "dyno_versions_dyno_id_dynos_id_fk" FOREIGN KEY ("dyno_id") REFERENCES "public"."dynos"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "input_changes_of" ON "input_changes" USING btree ("kind","subject_id","version");--> statement-breakpoint
CREATE INDEX "analyses_on_input" ON "analysis_inputs" USING btree ("kind","subject_id");--> statement-breakpoint
CREATE INDEX "exclusions_of_pull" ON "pull_exclusions" USING btree ("pull_id","id");--> statement-breakpoint
CREATE INDEX "answers_of_claim" ON "change_answers" USING btree ("claim_id","kind","subject_id");--> statement-breakpoint
-- One claim drafted twice at the same moment: the later twin steps back before the index refuses it.
UPDATE claims c SET state = 'withdrawn', stale_reason = 'Drafted twice at the same moment; the other one stands.'
  WHERE c.state IN ('draft', 'in review', 'returned', 'published') AND EXISTS (SELECT 1 FROM claims o WHERE o.analysis_id = c.analysis_id AND o.arm = c.arm AND o.metric = c.metric
    AND o.unit = c.unit AND o.state IN ('draft', 'in review', 'returned', 'published') AND (o.state = 'published', o.id) > (c.state = 'published', c.id));
--> statement-breakpoint
CREATE UNIQUE INDEX "drafted_once" ON "claims" USING btree ("analysis_id","arm","metric","unit","tells") WHERE "claims"."state" in ('draft', 'in review', 'returned', 'published');--> statement-breakpoint
CREATE INDEX "claims_of_test" ON "claims" USING btree ("test_id");