CREATE TABLE "plan_versions" (
	"test_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"person_id" uuid NOT NULL,
	"reason" text,
	"changes" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"hash" text NOT NULL,
	"document" jsonb,
	CONSTRAINT "plan_versions_test_id_version_pk" PRIMARY KEY("test_id","version"),
	CONSTRAINT "amended_for_a_reason" CHECK (case when "plan_versions"."version" = 1 then "plan_versions"."reason" is null else length("plan_versions"."reason") >= 10 end)
);
--> statement-breakpoint
ALTER TABLE "plan_versions" ADD CONSTRAINT "plan_versions_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_versions" ADD CONSTRAINT "plan_versions_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
INSERT INTO plan_versions (test_id, version, at, person_id, hash, document)
  SELECT id, 1, locked_at, locked_by, plan_hash, locked_plan FROM tests WHERE locked_at IS NOT NULL;
--> statement-breakpoint
INSERT INTO plan_versions (test_id, version, at, person_id, reason, changes, hash)
  SELECT test_id, number + 1, at, person_id, reason, changes, plan_hash FROM plan_amendments;
--> statement-breakpoint
CREATE TRIGGER plan_versions_append_only BEFORE UPDATE OR DELETE ON plan_versions FOR EACH ROW EXECUTE FUNCTION refuse_change();
