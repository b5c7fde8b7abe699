ALTER TABLE "claims" ADD COLUMN "fell_by" text;--> statement-breakpoint
ALTER TABLE "claims" ADD COLUMN "fell_at" timestamp with time zone;--> statement-breakpoint
-- Of claims that fell before this was kept: when, by what happened to them; why, by what was written then. Whether
-- a number was wrong nobody was asked.
ALTER TABLE claims DISABLE TRIGGER claims_keep_words;
--> statement-breakpoint
UPDATE claims SET fell_at = coalesce((SELECT min(e.at) FROM claim_events e WHERE e.claim_id = claims.id AND e.to_state IN ('stale', 'withdrawn')), published_at, drafted_at),
  fell_by = CASE WHEN state = 'withdrawn' THEN 'set aside' WHEN stale_reason LIKE 'It is older than %' THEN 'age' ELSE 'evidence' END
  WHERE state IN ('stale', 'withdrawn');
--> statement-breakpoint
ALTER TABLE claims ENABLE TRIGGER claims_keep_words;
--> statement-breakpoint
CREATE INDEX "fallen_by_time" ON "claims" USING btree ("fell_at") WHERE "claims"."fell_at" is not null;
--> statement-breakpoint
ALTER TABLE "claims" ADD CONSTRAINT "fell_by_known" CHECK ("claims"."fell_by" in ('age', 'evidence', 'wrong', 'set aside'));
--> statement-breakpoint
ALTER TABLE "claims" ADD CONSTRAINT "fell_by_something" CHECK (("claims"."state" in ('stale', 'withdrawn')) = ("claims"."fell_by" is not null and "claims"."fell_at" is not null));
--> statement-breakpoint
CREATE OR REPLACE FUNCTION keep_claim_words() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE beside text[] := ARRAY['state', 'reviewer_id', 'published_at', 'stale_reason', 'snapshot', 'public_claim', 'fell_by', 'fell_at']; current_one uuid;
BEGIN
  IF to_jsonb(NEW) - beside IS DISTINCT FROM to_jsonb(OLD) - beside THEN
    RAISE EXCEPTION 'claim % keeps its number and wording; draft another', OLD.code USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  IF NEW.state = OLD.state AND (NEW.fell_by, NEW.fell_at) IS DISTINCT FROM (OLD.fell_by, OLD.fell_at) THEN
    RAISE EXCEPTION 'why and when claim % fell is kept', OLD.code USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  IF OLD.fell_at IS NOT NULL AND NEW.fell_at IS DISTINCT FROM OLD.fell_at THEN
    RAISE EXCEPTION 'claim % has not stood since it fell', OLD.code USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  IF OLD.snapshot IS NOT NULL AND NEW.snapshot IS DISTINCT FROM OLD.snapshot THEN
    RAISE EXCEPTION 'claim % was approved: what the public reads of it stays', OLD.code USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  IF NEW.state = 'published' AND OLD.state <> 'published' THEN
    SELECT current_analysis_id INTO current_one FROM tests WHERE id = NEW.test_id FOR UPDATE;
    IF current_one IS DISTINCT FROM NEW.analysis_id OR EXISTS (SELECT 1 FROM unanswered_changes WHERE claim_id = NEW.id) THEN
      RAISE EXCEPTION 'claim % rests on inputs that have changed', OLD.code USING ERRCODE = 'integrity_constraint_violation';
    END IF;
    IF NEW.snapshot IS NULL THEN
      RAISE EXCEPTION 'claim % is published without what the public reads of it', OLD.code USING ERRCODE = 'integrity_constraint_violation';
    END IF;
  END IF;
  RETURN NEW;
END $$;
