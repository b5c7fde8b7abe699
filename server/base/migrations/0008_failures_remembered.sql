CREATE TABLE "failed_analyses" (
	"test_id" uuid NOT NULL,
	"inputs_hash" text NOT NULL,
	"code" text NOT NULL,
	"message" text NOT NULL,
	"failed_at" timestamp with time zone NOT NULL,
	CONSTRAINT "failed_analyses_test_id_inputs_hash_pk" PRIMARY KEY("test_id","inputs_hash")
);
--> statement-breakpoint
ALTER TABLE "failed_analyses" ADD CONSTRAINT "failed_analyses_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE TRIGGER failed_analyses_append_only BEFORE UPDATE OR DELETE ON failed_analyses FOR EACH ROW EXECUTE FUNCTION refuse_change();
