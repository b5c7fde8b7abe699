ALTER TABLE "column_memory" DROP CONSTRAINT "one_memory_a_layout";--> statement-breakpoint
ALTER TABLE "column_memory" ADD COLUMN "remembered_by" uuid;--> statement-breakpoint
ALTER TABLE "column_memory" ADD COLUMN "file_name" text;--> statement-breakpoint
ALTER TABLE "column_memory" ADD COLUMN "shop" text DEFAULT 'house' NOT NULL;--> statement-breakpoint
ALTER TABLE "column_memory" ADD CONSTRAINT "column_memory_remembered_by_people_id_fk" FOREIGN KEY ("remembered_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "column_memory" ADD CONSTRAINT "one_memory_a_layout" UNIQUE("dyno_id","header","shop");