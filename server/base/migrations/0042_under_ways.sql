CREATE UNLOGGED TABLE "under_ways" (
	"person_id" uuid NOT NULL,
	"path" text NOT NULL,
	"done" integer NOT NULL,
	"total" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "under_ways_person_id_path_pk" PRIMARY KEY("person_id","path")
);
--> statement-breakpoint
ALTER TABLE "under_ways" ADD CONSTRAINT "under_ways_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;