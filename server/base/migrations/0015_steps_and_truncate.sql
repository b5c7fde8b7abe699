-- Records that are added to and never emptied: triggers on rows do not see a truncate.
CREATE TRIGGER air_readings_not_emptied BEFORE TRUNCATE ON air_readings FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER analyses_not_emptied BEFORE TRUNCATE ON analyses FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER analysis_inputs_not_emptied BEFORE TRUNCATE ON analysis_inputs FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER audit_entries_not_emptied BEFORE TRUNCATE ON audit_entries FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER calibrations_not_emptied BEFORE TRUNCATE ON calibrations FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER change_answers_not_emptied BEFORE TRUNCATE ON change_answers FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER claim_events_not_emptied BEFORE TRUNCATE ON claim_events FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER claims_not_emptied BEFORE TRUNCATE ON claims FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER contrasts_not_emptied BEFORE TRUNCATE ON contrasts FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER dyno_versions_not_emptied BEFORE TRUNCATE ON dyno_versions FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER fitments_not_emptied BEFORE TRUNCATE ON fitments FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER input_changes_not_emptied BEFORE TRUNCATE ON input_changes FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER input_versions_not_emptied BEFORE TRUNCATE ON input_versions FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER part_revisions_not_emptied BEFORE TRUNCATE ON part_revisions FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER parts_not_emptied BEFORE TRUNCATE ON parts FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER people_not_emptied BEFORE TRUNCATE ON people FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER plan_versions_not_emptied BEFORE TRUNCATE ON plan_versions FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER policies_not_emptied BEFORE TRUNCATE ON policies FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER pull_exclusions_not_emptied BEFORE TRUNCATE ON pull_exclusions FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER pull_files_not_emptied BEFORE TRUNCATE ON pull_files FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER pulls_not_emptied BEFORE TRUNCATE ON pulls FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER software_versions_not_emptied BEFORE TRUNCATE ON software_versions FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER test_arms_not_emptied BEFORE TRUNCATE ON test_arms FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER tests_not_emptied BEFORE TRUNCATE ON tests FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER vehicle_ledger_not_emptied BEFORE TRUNCATE ON vehicle_ledger FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER vehicles_not_emptied BEFORE TRUNCATE ON vehicles FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- Beside the service (server/publish/claim-steps.ts): a claim goes from step to step, and who publishes it is a reviewer.
CREATE FUNCTION claim_moves_in_steps() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF (OLD.state, NEW.state) NOT IN (('draft', 'in review'), ('returned', 'in review'), ('in review', 'published'), ('in review', 'returned'),
      ('published', 'stale'), ('published', 'withdrawn'), ('stale', 'withdrawn')) THEN
    RAISE EXCEPTION 'claim % cannot go from % to %', OLD.code, OLD.state, NEW.state USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  IF NEW.state = 'published' AND NOT EXISTS (SELECT 1 FROM people WHERE id = NEW.reviewer_id AND role = 'reviewer' AND active) THEN
    RAISE EXCEPTION 'claim % is published by nobody who reviews claims', OLD.code USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER claims_move_in_steps BEFORE UPDATE OF state ON claims FOR EACH ROW
  WHEN (OLD.state IS DISTINCT FROM NEW.state) EXECUTE FUNCTION claim_moves_in_steps();
