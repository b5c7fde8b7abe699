CREATE TABLE "policy_preview_claims" (
	"preview_id" uuid NOT NULL,
	"claim_id" uuid NOT NULL,
	"holds" boolean NOT NULL,
	"instead" text DEFAULT '' NOT NULL,
	CONSTRAINT "policy_preview_claims_preview_id_claim_id_pk" PRIMARY KEY("preview_id","claim_id")
);
--> statement-breakpoint
CREATE TABLE "policy_previews" (
	"id" uuid PRIMARY KEY NOT NULL,
	"policy" jsonb NOT NULL,
	"reason" text NOT NULL,
	"total" integer NOT NULL,
	"state" text NOT NULL,
	"asked_by" uuid NOT NULL,
	"asked_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	CONSTRAINT "preview_state_known" CHECK ("policy_previews"."state" in ('running', 'done', 'cancelled')),
	CONSTRAINT "preview_ends_once" CHECK (("policy_previews"."state" = 'running') = ("policy_previews"."ended_at" is null))
);
--> statement-breakpoint
ALTER TABLE "policy_preview_claims" ADD CONSTRAINT "policy_preview_claims_preview_id_policy_previews_id_fk" FOREIGN KEY ("preview_id") REFERENCES "public"."policy_previews"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "policy_preview_claims" ADD CONSTRAINT "policy_preview_claims_claim_id_claims_id_fk" FOREIGN KEY ("claim_id") REFERENCES "public"."claims"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "policy_previews" ADD CONSTRAINT "policy_previews_asked_by_people_id_fk" FOREIGN KEY ("asked_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "preview_changes" ON "policy_preview_claims" USING btree ("preview_id") WHERE not "policy_preview_claims"."holds";--> statement-breakpoint
CREATE INDEX "previews_running" ON "policy_previews" USING btree ("asked_at") WHERE "policy_previews"."state" = 'running';--> statement-breakpoint
CREATE TRIGGER policy_preview_claims_append_only BEFORE UPDATE OR DELETE ON policy_preview_claims FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER policy_preview_claims_not_emptied BEFORE TRUNCATE ON policy_preview_claims FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
