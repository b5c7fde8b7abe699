-- Every test counts: a result that has come, or has become another, touches the claims of other tests of the same
-- part on the same kind of car. What is there already rests on the other tests as they are: version 0.
INSERT INTO analysis_inputs (analysis_id, kind, subject_id, version)
  SELECT a.id, 'other tests', a.test_id, 0 FROM analyses a ON CONFLICT DO NOTHING;
--> statement-breakpoint
-- What of an analysis another test is held against: the averages of its arms, and whether a gate fails.
CREATE FUNCTION told_of_analysis(a_analysis uuid) RETURNS text LANGUAGE sql STABLE AS $$
  SELECT coalesce(a.failing, 0)::text || coalesce((SELECT string_agg(concat_ws(' ', c.position, c.with_excluded, c.arm, c.average_pct, c.average_pct_lower,
    c.average_pct_upper, c.up_to_kw, c.up_to_nm, c.peak_kw_lower, c.proven_losses), ';' ORDER BY c.position, c.with_excluded) FROM contrasts c WHERE c.analysis_id = a.id), '')
  FROM analyses a WHERE a.id = a_analysis;
$$;
--> statement-breakpoint
CREATE FUNCTION result_beside() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE former uuid; beside uuid;
BEGIN
  SELECT id INTO former FROM analyses WHERE test_id = NEW.id AND id <> NEW.current_analysis_id ORDER BY number DESC LIMIT 1;
  IF former IS NOT NULL AND told_of_analysis(former) = told_of_analysis(NEW.current_analysis_id) THEN RETURN NULL; END IF;
  FOR beside IN
    SELECT DISTINCT o.id FROM tests o JOIN test_arms b ON b.test_id = o.id AND b.role = 'part'
      JOIN test_arms m ON m.test_id = NEW.id AND m.role = 'part' AND (m.differences = b.differences OR m.part_revision_id = b.part_revision_id)
    WHERE o.fitment_id = NEW.fitment_id AND o.id <> NEW.id
      AND EXISTS (SELECT 1 FROM claims c WHERE c.test_id = o.id AND c.state <> 'withdrawn')
    ORDER BY o.id
  LOOP
    PERFORM note_input_change('other tests', beside, NULL, 'test ' || NEW.number || ' of the part has another result');
  END LOOP;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER tests_result_beside AFTER UPDATE OF current_analysis_id ON tests FOR EACH ROW
  WHEN (NEW.current_analysis_id IS NOT NULL AND NEW.current_analysis_id IS DISTINCT FROM OLD.current_analysis_id)
  EXECUTE FUNCTION result_beside();
