-- Beside the service (server/judge/answers.ts): what fails a gate is let stand by a reviewer and nobody else.
CREATE FUNCTION overridden_by_a_reviewer() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.code IN ('ARMS_A_UNIT_APART', 'SCATTER_ABOVE_HISTORY', 'SCATTER_FAR_BELOW_HISTORY')
    AND NOT EXISTS (SELECT 1 FROM people WHERE id = NEW.answered_by AND role = 'reviewer' AND active) THEN
    RAISE EXCEPTION 'what fails a gate is let stand by a reviewer only' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER overridden_by_reviewers BEFORE INSERT ON finding_answers FOR EACH ROW EXECUTE FUNCTION overridden_by_a_reviewer();
