CREATE TABLE "legacy_evidence" (
	"id" uuid PRIMARY KEY NOT NULL,
	"fitment_id" uuid NOT NULL,
	"part_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"source" text NOT NULL,
	"missing" text NOT NULL,
	"figures" text NOT NULL,
	"entered_at" timestamp with time zone NOT NULL,
	"entered_by" uuid NOT NULL,
	CONSTRAINT "legacy_kind_known" CHECK ("legacy_evidence"."kind" in ('printed graph', 'number on a page', 'archive file')),
	CONSTRAINT "legacy_says_something" CHECK (length("legacy_evidence"."figures") > 0 and length("legacy_evidence"."source") >= 5)
);
--> statement-breakpoint
CREATE TABLE "legacy_files" (
	"legacy_id" uuid PRIMARY KEY NOT NULL,
	"sha256" text NOT NULL,
	"name" text NOT NULL,
	"added_at" timestamp with time zone NOT NULL,
	"added_by" uuid NOT NULL
);
--> statement-breakpoint
CREATE TABLE "legacy_struck" (
	"legacy_id" uuid PRIMARY KEY NOT NULL,
	"reason" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"by" uuid NOT NULL,
	CONSTRAINT "struck_with_a_reason" CHECK (length("legacy_struck"."reason") >= 5)
);
--> statement-breakpoint
ALTER TABLE "legacy_evidence" ADD CONSTRAINT "legacy_evidence_fitment_id_fitments_id_fk" FOREIGN KEY ("fitment_id") REFERENCES "public"."fitments"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legacy_evidence" ADD CONSTRAINT "legacy_evidence_part_id_parts_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."parts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legacy_evidence" ADD CONSTRAINT "legacy_evidence_entered_by_people_id_fk" FOREIGN KEY ("entered_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legacy_files" ADD CONSTRAINT "legacy_files_legacy_id_legacy_evidence_id_fk" FOREIGN KEY ("legacy_id") REFERENCES "public"."legacy_evidence"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legacy_files" ADD CONSTRAINT "legacy_files_sha256_raw_files_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."raw_files"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legacy_files" ADD CONSTRAINT "legacy_files_added_by_people_id_fk" FOREIGN KEY ("added_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legacy_struck" ADD CONSTRAINT "legacy_struck_legacy_id_legacy_evidence_id_fk" FOREIGN KEY ("legacy_id") REFERENCES "public"."legacy_evidence"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legacy_struck" ADD CONSTRAINT "legacy_struck_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "legacy_of_pair" ON "legacy_evidence" USING btree ("fitment_id","part_id");--> statement-breakpoint
CREATE INDEX "legacy_by_time" ON "legacy_evidence" USING btree ("entered_at");--> statement-breakpoint
CREATE TRIGGER legacy_evidence_append_only BEFORE UPDATE OR DELETE ON legacy_evidence FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER legacy_evidence_not_emptied BEFORE TRUNCATE ON legacy_evidence FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER legacy_files_append_only BEFORE UPDATE OR DELETE ON legacy_files FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER legacy_files_not_emptied BEFORE TRUNCATE ON legacy_files FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER legacy_struck_append_only BEFORE UPDATE OR DELETE ON legacy_struck FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER legacy_struck_not_emptied BEFORE TRUNCATE ON legacy_struck FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
