CREATE TABLE "kept_requests" (
	"person_id" uuid NOT NULL,
	"key" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"deed" text NOT NULL,
	"status" integer,
	"answer" text,
	CONSTRAINT "kept_requests_person_id_key_pk" PRIMARY KEY("person_id","key")
);
--> statement-breakpoint
ALTER TABLE "kept_requests" ADD CONSTRAINT "kept_requests_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "kept_requests_by_age" ON "kept_requests" USING btree ("at");