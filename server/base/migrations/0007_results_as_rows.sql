CREATE TABLE "contrasts" (
	"analysis_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"with_excluded" boolean NOT NULL,
	"arm" text NOT NULL,
	"against" text NOT NULL,
	"design" text NOT NULL,
	"refused" text,
	"up_to_pct" double precision,
	"up_to_pct_rpm" double precision,
	"up_to_kw" double precision,
	"up_to_kw_rpm" double precision,
	"up_to_nm" double precision,
	"up_to_nm_rpm" double precision,
	"average_pct" double precision,
	"average_pct_lower" double precision,
	"average_pct_upper" double precision,
	"peak_kw" double precision,
	"peak_kw_lower" double precision,
	"peak_kw_upper" double precision,
	"peak_at_edge" boolean,
	"worst_pct" double precision,
	"worst_pct_rpm" double precision,
	"proven_losses" integer,
	CONSTRAINT "contrasts_analysis_id_position_with_excluded_pk" PRIMARY KEY("analysis_id","position","with_excluded"),
	CONSTRAINT "refused_or_measured" CHECK (("contrasts"."refused" is null) = ("contrasts"."up_to_kw" is not null))
);
--> statement-breakpoint
ALTER TABLE "analyses" ADD COLUMN "grade" text GENERATED ALWAYS AS (result ->> 'grade') STORED;--> statement-breakpoint
ALTER TABLE "analyses" ADD COLUMN "failing" integer GENERATED ALWAYS AS (jsonb_array_length(jsonb_path_query_array(result, '$.findings[*] ? (@.state == "fail" && @.gate != "effect")'))) STORED;--> statement-breakpoint
ALTER TABLE "analyses" ADD COLUMN "cautions" integer GENERATED ALWAYS AS (jsonb_array_length(jsonb_path_query_array(result, '$.findings[*] ? (@.state == "caution")'))) STORED;--> statement-breakpoint
ALTER TABLE "claims" ADD COLUMN "public_claim" jsonb GENERATED ALWAYS AS (snapshot #> '{evidence,claim}') STORED;--> statement-breakpoint
ALTER TABLE "contrasts" ADD CONSTRAINT "contrasts_analysis_id_analyses_id_fk" FOREIGN KEY ("analysis_id") REFERENCES "public"."analyses"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "claims_of_fitment" ON "claims" USING btree ("fitment_id","state");--> statement-breakpoint
CREATE INDEX "claims_of_analysis" ON "claims" USING btree ("analysis_id");--> statement-breakpoint
CREATE TRIGGER contrasts_append_only BEFORE UPDATE OR DELETE ON contrasts FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- The rows of what was computed before there were any.
INSERT INTO contrasts (analysis_id, position, with_excluded, arm, against, design, refused, up_to_pct, up_to_pct_rpm, up_to_kw, up_to_kw_rpm, up_to_nm, up_to_nm_rpm, average_pct, average_pct_lower, average_pct_upper, peak_kw, peak_kw_lower, peak_kw_upper, peak_at_edge, worst_pct, worst_pct_rpm, proven_losses)
  SELECT id, position, with_excluded, c ->> 'arm', c ->> 'against', c ->> 'design', c ->> 'code',
    (c #>> '{relative,upTo,gain}')::float8, (c #>> '{relative,upTo,rpm}')::float8, (c #>> '{power,upTo,gain}')::float8, (c #>> '{power,upTo,rpm}')::float8, (c #>> '{torque,upTo,gain}')::float8, (c #>> '{torque,upTo,rpm}')::float8,
    (c #>> '{relative,bandAverage,gain}')::float8, (c #>> '{relative,bandAverage,lower}')::float8, (c #>> '{relative,bandAverage,upper}')::float8,
    (c #>> '{power,peakToPeak,gain}')::float8, (c #>> '{power,peakToPeak,lower}')::float8, (c #>> '{power,peakToPeak,upper}')::float8, (c #>> '{power,peakToPeak,atEdge}')::boolean,
    (c #>> '{relative,worst,gain}')::float8, (c #>> '{relative,worst,rpm}')::float8, jsonb_array_length(c #> '{relative,losses}')
  FROM (
    SELECT a.id, e.ord::int - 1 AS position, false AS with_excluded, e.c FROM analyses a, jsonb_array_elements(a.result -> 'contrasts') WITH ORDINALITY e (c, ord)
    UNION ALL
    SELECT a.id, e.ord::int - 1, true, e.c -> 'withExcluded' FROM analyses a, jsonb_array_elements(a.result -> 'contrasts') WITH ORDINALITY e (c, ord) WHERE e.c ? 'withExcluded'
  ) every_one;
--> statement-breakpoint
-- As before, but for the column that the database itself reads out of the snapshot (not yet there before an update).
CREATE OR REPLACE FUNCTION keep_claim_words() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE beside text[] := ARRAY['state', 'reviewer_id', 'published_at', 'stale_reason', 'snapshot', 'public_claim']; current_one uuid;
BEGIN
  IF to_jsonb(NEW) - beside IS DISTINCT FROM to_jsonb(OLD) - beside THEN
    RAISE EXCEPTION 'claim % keeps its number and wording; draft another', OLD.code USING ERRCODE = 'integrity_constraint_violation';
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
