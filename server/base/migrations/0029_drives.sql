ALTER TABLE "part_revisions" ADD COLUMN "drive_crank_mm" double precision;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "drive_head_mm" double precision;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "drive_step_up" double precision;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD COLUMN "most_drive_rpm" double precision;--> statement-breakpoint
ALTER TABLE "part_revisions" ADD CONSTRAINT "drive_is_above_zero" CHECK (least("part_revisions"."drive_crank_mm", "part_revisions"."drive_head_mm", "part_revisions"."drive_step_up", "part_revisions"."most_drive_rpm") > 0);