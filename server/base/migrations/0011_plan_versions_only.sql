DROP TABLE "plan_amendments" CASCADE;--> statement-breakpoint
ALTER TABLE "tests" DROP COLUMN "locked_plan";--> statement-breakpoint
-- Amendments, for the triggers that let a locked plan change only with one.
CREATE VIEW plan_amendments AS SELECT test_id, version - 1 AS number, at, person_id, reason, changes, hash AS plan_hash FROM plan_versions WHERE version > 1;
--> statement-breakpoint
-- A plan is locked with its first version, and no version is skipped.
CREATE FUNCTION keep_plan_versions() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.version > 1 AND NOT EXISTS (SELECT 1 FROM plan_versions WHERE test_id = NEW.test_id AND version = NEW.version - 1) THEN
    RAISE EXCEPTION 'version % of a plan follows none', NEW.version USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  IF NEW.document IS NULL THEN
    RAISE EXCEPTION 'a version of a plan is kept whole' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER plan_versions_in_turn BEFORE INSERT ON plan_versions FOR EACH ROW EXECUTE FUNCTION keep_plan_versions();
--> statement-breakpoint
CREATE FUNCTION lock_with_version() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NOT EXISTS (SELECT 1 FROM plan_versions WHERE test_id = NEW.id AND version = 1 AND hash = NEW.plan_hash) THEN
    RAISE EXCEPTION 'test % is locked without the plan it is locked with', NEW.number USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER tests_locked_with_version BEFORE UPDATE OF locked_at ON tests FOR EACH ROW WHEN (OLD.locked_at IS NULL AND NEW.locked_at IS NOT NULL) EXECUTE FUNCTION lock_with_version();
