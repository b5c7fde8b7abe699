CREATE TABLE "sign_in_tries" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"email" text NOT NULL,
	"address" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"is_right" boolean NOT NULL
);
--> statement-breakpoint
CREATE INDEX "tries_from_a_place" ON "sign_in_tries" USING btree ("address","at");--> statement-breakpoint
CREATE INDEX "tries_by_age" ON "sign_in_tries" USING btree ("at");