CREATE INDEX "fitments_engine" ON "fitments" USING btree ("engine_code");
--> statement-breakpoint
-- A result touches the claims of other revisions of its part on the same kind of car too: where nothing is recorded as
-- changed between them they are one thing.
CREATE OR REPLACE FUNCTION result_beside() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE former uuid; beside uuid;
BEGIN
  SELECT id INTO former FROM analyses WHERE test_id = NEW.id AND id <> NEW.current_analysis_id ORDER BY number DESC LIMIT 1;
  IF former IS NOT NULL AND told_of_analysis(former) = told_of_analysis(NEW.current_analysis_id) THEN RETURN NULL; END IF;
  FOR beside IN
    SELECT DISTINCT o.id FROM tests o JOIN test_arms b ON b.test_id = o.id AND b.role = 'part'
      LEFT JOIN part_revisions y ON y.id = b.part_revision_id
      JOIN test_arms m ON m.test_id = NEW.id AND m.role = 'part'
      LEFT JOIN part_revisions x ON x.id = m.part_revision_id
    WHERE o.fitment_id IN (SELECT f.id FROM fitments f WHERE f.family = (SELECT n.family FROM fitments n WHERE n.id = NEW.fitment_id)) AND o.id <> NEW.id
      AND (m.differences = b.differences OR m.part_revision_id = b.part_revision_id OR (o.fitment_id = NEW.fitment_id AND x.part_id = y.part_id))
      AND EXISTS (SELECT 1 FROM claims c WHERE c.test_id = o.id AND c.state <> 'withdrawn')
    ORDER BY o.id
  LOOP
    PERFORM note_input_change('other tests', beside, NULL, 'test ' || NEW.number || ' of the part has another result');
  END LOOP;
  RETURN NULL;
END $$;
