CREATE TABLE "air_files" (
	"id" uuid PRIMARY KEY NOT NULL,
	"test_id" uuid NOT NULL,
	"sha256" text NOT NULL,
	"name" text NOT NULL,
	"said" jsonb NOT NULL,
	"sent_at" timestamp with time zone NOT NULL,
	"sent_by" uuid NOT NULL
);
--> statement-breakpoint
ALTER TABLE "air_readings" ADD COLUMN "source" text DEFAULT 'typed' NOT NULL;--> statement-breakpoint
ALTER TABLE "air_readings" ADD COLUMN "air_file_id" uuid;--> statement-breakpoint
ALTER TABLE "air_readings" ADD COLUMN "air_lines" integer[];--> statement-breakpoint
ALTER TABLE "air_files" ADD CONSTRAINT "air_files_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "air_files" ADD CONSTRAINT "air_files_sha256_raw_files_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."raw_files"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "air_files" ADD CONSTRAINT "air_files_sent_by_people_id_fk" FOREIGN KEY ("sent_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "air_file_as_said" ON "air_files" USING btree ("test_id","sha256","said");--> statement-breakpoint
ALTER TABLE "air_readings" ADD CONSTRAINT "air_readings_air_file_id_air_files_id_fk" FOREIGN KEY ("air_file_id") REFERENCES "public"."air_files"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "air_readings" ADD CONSTRAINT "air_source_known" CHECK ("air_readings"."source" in ('typed', 'pasted', 'station file'));--> statement-breakpoint
ALTER TABLE "air_readings" ADD CONSTRAINT "air_of_a_file_names_it" CHECK (("air_readings"."source" = 'station file') = ("air_readings"."air_file_id" is not null and coalesce(cardinality("air_readings"."air_lines"), 0) between 1 and 2));--> statement-breakpoint
CREATE TRIGGER air_files_append_only BEFORE UPDATE OR DELETE ON air_files FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER air_files_not_emptied BEFORE TRUNCATE ON air_files FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE FUNCTION air_file_of_same_test() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.air_file_id IS NOT NULL AND NOT EXISTS (
    SELECT 1 FROM air_files f JOIN pulls p ON p.test_id = f.test_id
    WHERE f.id = NEW.air_file_id AND p.id = NEW.pull_id
  ) THEN
    RAISE EXCEPTION 'the station file of an air reading belongs to another test' USING ERRCODE = '23514';
  END IF;
  RETURN NEW;
END $$;--> statement-breakpoint
CREATE TRIGGER air_file_of_same_test BEFORE INSERT OR UPDATE OF air_file_id ON air_readings FOR EACH ROW EXECUTE FUNCTION air_file_of_same_test();
