CREATE TABLE "pull_logs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"pull_id" uuid NOT NULL,
	"file_sha256" text NOT NULL,
	"sha256" text NOT NULL,
	"name" text NOT NULL,
	"offset_s" double precision NOT NULL,
	"found_offset_s" double precision,
	"correlation" double precision,
	"joined_at" timestamp with time zone NOT NULL,
	"joined_by" uuid NOT NULL,
	"current" boolean DEFAULT true NOT NULL,
	"removed" boolean DEFAULT false NOT NULL,
	CONSTRAINT "log_is_not_the_pull" CHECK ("pull_logs"."sha256" <> "pull_logs"."file_sha256")
);
--> statement-breakpoint
ALTER TABLE "pull_logs" ADD CONSTRAINT "pull_logs_pull_id_pulls_id_fk" FOREIGN KEY ("pull_id") REFERENCES "public"."pulls"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pull_logs" ADD CONSTRAINT "pull_logs_file_sha256_raw_files_sha256_fk" FOREIGN KEY ("file_sha256") REFERENCES "public"."raw_files"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pull_logs" ADD CONSTRAINT "pull_logs_sha256_raw_files_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."raw_files"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pull_logs" ADD CONSTRAINT "pull_logs_joined_by_people_id_fk" FOREIGN KEY ("joined_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "one_current_log_a_pull" ON "pull_logs" USING btree ("pull_id") WHERE "pull_logs"."current";--> statement-breakpoint
CREATE TRIGGER pull_logs_noted AFTER INSERT ON pull_logs FOR EACH ROW EXECUTE FUNCTION pull_input_changed('file', 'the log of pull', 'was joined, shifted or taken off');
--> statement-breakpoint
CREATE TRIGGER pull_logs_kept BEFORE UPDATE OR DELETE ON pull_logs FOR EACH ROW EXECUTE FUNCTION keep_superseded();
--> statement-breakpoint
CREATE TRIGGER pull_logs_not_emptied BEFORE TRUNCATE ON pull_logs FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
