CREATE TABLE "photographs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"test_id" uuid NOT NULL,
	"sha256" text NOT NULL,
	"name" text NOT NULL,
	"caption" text NOT NULL,
	"arm" text,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	"thumb" "bytea" NOT NULL,
	"says_where" boolean NOT NULL,
	"added_at" timestamp with time zone NOT NULL,
	"added_by" uuid NOT NULL,
	CONSTRAINT "photograph_once" UNIQUE("test_id","sha256")
);
--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "boosted_school" text DEFAULT 'correct' NOT NULL;--> statement-breakpoint
ALTER TABLE "photographs" ADD CONSTRAINT "photographs_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "photographs" ADD CONSTRAINT "photographs_sha256_raw_files_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."raw_files"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "photographs" ADD CONSTRAINT "photographs_added_by_people_id_fk" FOREIGN KEY ("added_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "boosted_school_is_known" CHECK ("tests"."boosted_school" in ('correct', 'temperature only', 'do not correct'));--> statement-breakpoint
CREATE TRIGGER photographs_append_only BEFORE UPDATE OR DELETE ON photographs FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER photographs_not_emptied BEFORE TRUNCATE ON photographs FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
