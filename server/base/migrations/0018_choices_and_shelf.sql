CREATE TABLE "person_choices" (
	"person_id" uuid NOT NULL,
	"name" text NOT NULL,
	"value" jsonb NOT NULL,
	"changed_at" timestamp with time zone NOT NULL,
	CONSTRAINT "person_choices_person_id_name_pk" PRIMARY KEY("person_id","name")
);
--> statement-breakpoint
CREATE TABLE "taken_over" (
	"event_id" bigint PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "person_choices" ADD CONSTRAINT "person_choices_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "taken_over" ADD CONSTRAINT "taken_over_event_id_claim_events_id_fk" FOREIGN KEY ("event_id") REFERENCES "public"."claim_events"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "taken_over" ADD CONSTRAINT "taken_over_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE TRIGGER taken_over_append_only BEFORE UPDATE OR DELETE ON taken_over FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER taken_over_not_emptied BEFORE TRUNCATE ON taken_over FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
