ALTER TABLE "tests" ADD COLUMN "guard" text DEFAULT 'strict' NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "guard_is_known" CHECK ("tests"."guard" in ('strict', 'usual'));