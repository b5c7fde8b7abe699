ALTER TABLE "tests" ADD COLUMN "start_sensor" text;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "start_slope" jsonb;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "start_sensor_is_known" CHECK ("tests"."start_sensor" in ('coolant', 'oil', 'cell air'));--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "slope_of_a_sensor" CHECK ("tests"."start_slope" is null or "tests"."start_sensor" is not null);--> statement-breakpoint
-- How a result is computed is no more amended than who was compared.
CREATE OR REPLACE FUNCTION keep_locked_plan() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE kept text[] := ARRAY['id', 'number', 'fitment_id', 'vehicle_id', 'part_revision_id', 'dyno_id', 'protocol', 'remount', 'warm_ups', 'created_by', 'created_at', 'locked_at', 'locked_by', 'plan_hash', 'locked_plan',
        'smoothing_rpm', 'confidence', 'guard', 'boosted_school', 'start_sensor', 'start_slope', 'drift_bound'];
        beside text[] := ARRAY['updated_at', 'current_analysis_id'];
        field text;
BEGIN
  IF OLD.locked_at IS NULL OR to_jsonb(NEW) - beside IS NOT DISTINCT FROM to_jsonb(OLD) - beside THEN RETURN NEW; END IF;
  IF NEW.amendment_count = OLD.amendment_count + 1 AND EXISTS (SELECT 1 FROM plan_amendments WHERE test_id = OLD.id AND number = NEW.amendment_count) THEN
    FOREACH field IN ARRAY kept LOOP
      IF to_jsonb(NEW) -> field IS DISTINCT FROM to_jsonb(OLD) -> field THEN
        RAISE EXCEPTION 'test % is locked: % cannot be amended', OLD.number, field USING ERRCODE = 'integrity_constraint_violation';
      END IF;
    END LOOP;
    RETURN NEW;
  END IF;
  RAISE EXCEPTION 'test % is locked: its plan cannot change without an amendment', OLD.number USING ERRCODE = 'integrity_constraint_violation';
END $$;
