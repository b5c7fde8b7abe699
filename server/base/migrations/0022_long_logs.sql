CREATE TABLE "long_logs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"test_id" uuid NOT NULL,
	"sha256" text NOT NULL,
	"name" text NOT NULL,
	"sent_at" timestamp with time zone NOT NULL,
	"sent_by" uuid NOT NULL
);
--> statement-breakpoint
ALTER TABLE "long_logs" ADD CONSTRAINT "long_logs_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "long_logs" ADD CONSTRAINT "long_logs_sha256_raw_files_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."raw_files"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "long_logs" ADD CONSTRAINT "long_logs_sent_by_people_id_fk" FOREIGN KEY ("sent_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "long_log_once" ON "long_logs" USING btree ("test_id","sha256");--> statement-breakpoint
CREATE TRIGGER long_logs_append_only BEFORE UPDATE OR DELETE ON long_logs FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER long_logs_not_emptied BEFORE TRUNCATE ON long_logs FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
