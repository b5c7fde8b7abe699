-- What may never change is guarded here, below every program that could try.
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION '% rows are written once and never changed or removed', TG_TABLE_NAME USING ERRCODE = 'integrity_constraint_violation';
END $$;
--> statement-breakpoint
CREATE TRIGGER raw_files_immutable BEFORE UPDATE OR DELETE ON raw_files FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER raw_files_not_emptied BEFORE TRUNCATE ON raw_files FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER analyses_immutable BEFORE UPDATE OR DELETE ON analyses FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER audit_append_only BEFORE UPDATE OR DELETE ON audit_entries FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER claim_events_append_only BEFORE UPDATE OR DELETE ON claim_events FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE FUNCTION keep_locked_plan() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF OLD.locked_at IS NOT NULL AND
     to_jsonb(NEW) - 'updated_at' IS DISTINCT FROM to_jsonb(OLD) - 'updated_at' THEN
    RAISE EXCEPTION 'test % is locked: its plan cannot change', OLD.number USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER tests_keep_locked_plan BEFORE UPDATE ON tests FOR EACH ROW EXECUTE FUNCTION keep_locked_plan();
--> statement-breakpoint
CREATE FUNCTION keep_planned_pull() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE locked boolean;
BEGIN
  SELECT locked_at IS NOT NULL INTO locked FROM tests WHERE id = COALESCE(OLD.test_id, NEW.test_id);
  IF locked AND (TG_OP <> 'UPDATE' OR
     (NEW.test_id, NEW.position, NEW.label, NEW.run, NEW.arm, NEW.mount, NEW.counted) IS DISTINCT FROM
     (OLD.test_id, OLD.position, OLD.label, OLD.run, OLD.arm, OLD.mount, OLD.counted)) THEN
    RAISE EXCEPTION 'the plan is locked: its pulls cannot change' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  IF TG_OP = 'DELETE' THEN RETURN OLD; END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER pulls_keep_plan BEFORE INSERT OR UPDATE OR DELETE ON pulls FOR EACH ROW EXECUTE FUNCTION keep_planned_pull();
--> statement-breakpoint
CREATE FUNCTION keep_claim_words() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF to_jsonb(NEW) - ARRAY['state', 'reviewer_id', 'published_at', 'stale_reason'] IS DISTINCT FROM
     to_jsonb(OLD) - ARRAY['state', 'reviewer_id', 'published_at', 'stale_reason'] THEN
    RAISE EXCEPTION 'claim % keeps its number and wording; draft another', OLD.code USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER claims_keep_words BEFORE UPDATE ON claims FOR EACH ROW EXECUTE FUNCTION keep_claim_words();
