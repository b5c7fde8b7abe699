CREATE TABLE "upload_parts" (
	"person_id" uuid NOT NULL,
	"sha256" text NOT NULL,
	"start" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	"received_at" timestamp with time zone NOT NULL,
	CONSTRAINT "upload_parts_person_id_sha256_start_pk" PRIMARY KEY("person_id","sha256","start"),
	CONSTRAINT "part_of_a_file" CHECK ("upload_parts"."start" >= 0 and octet_length("upload_parts"."bytes") > 0)
);
--> statement-breakpoint
ALTER TABLE "upload_parts" ADD CONSTRAINT "upload_parts_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "upload_parts_by_age" ON "upload_parts" USING btree ("received_at");