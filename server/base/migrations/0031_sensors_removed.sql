ALTER TABLE "sensors" ADD COLUMN "removed_at" timestamp with time zone;--> statement-breakpoint
-- Taking a sensor away says nothing of the sessions before.
CREATE OR REPLACE FUNCTION sensor_noted() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'INSERT' THEN
    PERFORM note_input_change('sensor', NEW.dyno_id, NEW.calibrated_on, 'a sensor (' || NEW.quantity || ', ' || NEW.serial || ') was entered, calibrated on ' || to_char(NEW.calibrated_on, 'FMDD Mon YYYY'));
  ELSIF (to_jsonb(NEW) - 'removed' - 'removed_at') IS DISTINCT FROM (to_jsonb(OLD) - 'removed' - 'removed_at') THEN
    PERFORM note_input_change('sensor', NEW.dyno_id, NULL, 'a sensor (' || NEW.quantity || ', ' || NEW.serial || ') was changed');
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
-- When those of before were taken away is not known: they go on saying nothing.
UPDATE sensors SET removed_at = '1970-01-01' WHERE removed;
--> statement-breakpoint
ALTER TABLE "sensors" ADD CONSTRAINT "removed_at_some_time" CHECK ("sensors"."removed" = ("sensors"."removed_at" is not null));
