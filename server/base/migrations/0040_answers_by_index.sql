-- Whether a change is answered is looked up by index, change by change, whatever the planner takes the table for: right after a policy
-- came into force over a full house it had joined every claim's change with every claim's answer, and readers waited a minute.
CREATE OR REPLACE VIEW unanswered_changes AS
  SELECT c.id AS claim_id, ch.id AS change_id, ch.kind, ch.subject_id, ch.version, ch.at, ch.what
  FROM claims c JOIN analyses a ON a.id = c.analysis_id JOIN analysis_inputs i ON i.analysis_id = a.id
  JOIN input_changes ch ON ch.kind = i.kind AND ch.subject_id = i.subject_id AND ch.version > i.version
  WHERE (ch.effective_from IS NULL OR ch.effective_from <= coalesce(a.until, a.computed_at))
    AND NOT EXISTS (SELECT 1 FROM change_answers w WHERE w.claim_id = c.id AND w.kind = ch.kind AND w.subject_id = ch.subject_id AND w.version >= ch.version OFFSET 0);
