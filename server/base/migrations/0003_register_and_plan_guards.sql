-- What has been tested on a fitment is listed as fitting it.
INSERT INTO applications (part_id, fitment_id) SELECT DISTINCT r.part_id, t.fitment_id FROM tests t JOIN part_revisions r ON r.id = t.part_revision_id ON CONFLICT DO NOTHING;
--> statement-breakpoint
-- Searching by loosely typed words, and no two sessions in one place: both by PostgreSQL's own (trusted) extensions.
CREATE EXTENSION IF NOT EXISTS pg_trgm;
--> statement-breakpoint
CREATE EXTENSION IF NOT EXISTS btree_gist;
--> statement-breakpoint
CREATE UNIQUE INDEX one_fitment ON fitments (lower(maker), lower(model), lower(output_variant), lower(market));
--> statement-breakpoint
CREATE UNIQUE INDEX one_tag ON vehicles (lower(tag));
--> statement-breakpoint
CREATE UNIQUE INDEX one_sku ON parts (lower(sku));
--> statement-breakpoint
CREATE INDEX fitments_found_by ON fitments USING gin (found_by gin_trgm_ops);
--> statement-breakpoint
CREATE INDEX parts_found_by ON parts USING gin (found_by gin_trgm_ops);
--> statement-breakpoint
ALTER TABLE bookings ADD CONSTRAINT vehicle_in_one_place EXCLUDE USING gist (vehicle_id WITH =, tstzrange(starts_at, ends_at) WITH &&);
--> statement-breakpoint
ALTER TABLE booking_blocks ADD CONSTRAINT dyno_taken_once EXCLUDE USING gist (dyno_id WITH =, tstzrange(starts_at, ends_at) WITH &&);
--> statement-breakpoint
CREATE TRIGGER part_revisions_written_once BEFORE UPDATE OR DELETE ON part_revisions FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER calibrations_written_once BEFORE UPDATE OR DELETE ON calibrations FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER ledger_append_only BEFORE UPDATE OR DELETE ON vehicle_ledger FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE FUNCTION supersede_own_ledger() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.supersedes IS NOT NULL AND NOT EXISTS (SELECT 1 FROM vehicle_ledger WHERE id = NEW.supersedes AND vehicle_id = NEW.vehicle_id) THEN
    RAISE EXCEPTION 'ledger entry % does not belong to this vehicle', NEW.supersedes USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER ledger_supersedes_own BEFORE INSERT ON vehicle_ledger FOR EACH ROW EXECUTE FUNCTION supersede_own_ledger();
--> statement-breakpoint
CREATE TRIGGER amendments_append_only BEFORE UPDATE OR DELETE ON plan_amendments FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- A locked plan changes only together with an amendment, and never in what it was locked as.
CREATE OR REPLACE FUNCTION keep_locked_plan() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE kept text[] := ARRAY['id', 'number', 'fitment_id', 'vehicle_id', 'part_revision_id', 'dyno_id', 'protocol', 'remount', 'warm_ups', 'created_by', 'created_at', 'locked_at', 'locked_by', 'plan_hash', 'locked_plan'];
        field text;
BEGIN
  IF OLD.locked_at IS NULL OR to_jsonb(NEW) - 'updated_at' IS NOT DISTINCT FROM to_jsonb(OLD) - 'updated_at' THEN RETURN NEW; END IF;
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
--> statement-breakpoint
CREATE OR REPLACE FUNCTION keep_planned_pull() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE locked boolean;
BEGIN
  SELECT locked_at IS NOT NULL INTO locked FROM tests WHERE id = COALESCE(OLD.test_id, NEW.test_id);
  IF locked AND TG_OP = 'INSERT' AND NEW.amendment IS NOT NULL AND EXISTS (SELECT 1 FROM plan_amendments WHERE test_id = NEW.test_id AND number = NEW.amendment) THEN RETURN NEW; END IF;
  IF locked AND (TG_OP <> 'UPDATE' OR
     (NEW.test_id, NEW.position, NEW.label, NEW.run, NEW.arm, NEW.mount, NEW.counted, NEW.amendment) IS DISTINCT FROM
     (OLD.test_id, OLD.position, OLD.label, OLD.run, OLD.arm, OLD.mount, OLD.counted, OLD.amendment)) THEN
    RAISE EXCEPTION 'the plan is locked: its pulls cannot change' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  IF TG_OP = 'DELETE' THEN RETURN OLD; END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE FUNCTION keep_planned_arm() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF EXISTS (SELECT 1 FROM tests WHERE id = COALESCE(OLD.test_id, NEW.test_id) AND locked_at IS NOT NULL) THEN
    RAISE EXCEPTION 'the plan is locked: its arms cannot change' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  IF TG_OP = 'DELETE' THEN RETURN OLD; END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER arms_keep_plan BEFORE INSERT OR UPDATE OR DELETE ON test_arms FOR EACH ROW EXECUTE FUNCTION keep_planned_arm();
