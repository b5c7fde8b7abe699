-- Changes of inputs are written down below every program: a version is counted and the change kept, in the
-- transaction that makes it. The row of the version is held until that transaction ends, so versions of one
-- subject are handed out in the order in which they become visible.
CREATE FUNCTION note_input_change(a_kind text, a_subject uuid, a_from timestamptz, a_what text) RETURNS void LANGUAGE plpgsql AS $$
DECLARE v integer;
BEGIN
  INSERT INTO input_versions (kind, subject_id, version) VALUES (a_kind, a_subject, 1)
    ON CONFLICT (kind, subject_id) DO UPDATE SET version = input_versions.version + 1 RETURNING version INTO v;
  INSERT INTO input_changes (kind, subject_id, version, at, effective_from, what) VALUES (a_kind, a_subject, v, now(), a_from, a_what);
END $$;
--> statement-breakpoint
-- The analysis that stands for a test no longer does, once something it was made from has changed.
CREATE FUNCTION evaluate_again(a_test uuid) RETURNS void LANGUAGE sql AS $$
  UPDATE tests SET current_analysis_id = NULL WHERE id = a_test AND current_analysis_id IS NOT NULL;
$$;
--> statement-breakpoint
ALTER TABLE tests ADD CONSTRAINT current_analysis_is_there FOREIGN KEY (current_analysis_id) REFERENCES analyses (id);
--> statement-breakpoint
-- ── Inputs of one test ──
CREATE FUNCTION pull_input_changed() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE p pulls%ROWTYPE;
BEGIN
  SELECT * INTO p FROM pulls WHERE id = NEW.pull_id;
  PERFORM evaluate_again(p.test_id);
  PERFORM note_input_change(TG_ARGV[0], NEW.pull_id, NULL, TG_ARGV[1] || ' ' || p.label ||
    CASE WHEN TG_OP = 'UPDATE' THEN ' was read in another way' ELSE ' ' || TG_ARGV[2] END);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER pull_files_noted AFTER INSERT ON pull_files FOR EACH ROW EXECUTE FUNCTION pull_input_changed('file', 'the file of pull', 'came or was replaced');
--> statement-breakpoint
CREATE TRIGGER air_readings_noted AFTER INSERT ON air_readings FOR EACH ROW EXECUTE FUNCTION pull_input_changed('air', 'the air of pull', 'was entered or corrected');
--> statement-breakpoint
CREATE FUNCTION keep_superseded() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'DELETE' OR NEW.current OR NOT OLD.current OR to_jsonb(NEW) - 'current' IS DISTINCT FROM to_jsonb(OLD) - 'current' THEN
    RAISE EXCEPTION '% rows are superseded, never changed or removed', TG_TABLE_NAME USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER pull_files_kept BEFORE UPDATE OR DELETE ON pull_files FOR EACH ROW EXECUTE FUNCTION keep_superseded();
--> statement-breakpoint
CREATE TRIGGER air_readings_kept BEFORE UPDATE OR DELETE ON air_readings FOR EACH ROW EXECUTE FUNCTION keep_superseded();
--> statement-breakpoint
-- Exclusions: the trail is what counts; the pull carries the latest of it.
INSERT INTO pull_exclusions (pull_id, act, reason, note, person_id, at, seen_result)
  SELECT id, 'excluded', excluded_reason, coalesce(excluded_note, ''), excluded_by, excluded_at, coalesce(excluded_seen_result, false) FROM pulls WHERE excluded_reason IS NOT NULL;
--> statement-breakpoint
CREATE FUNCTION exclusion_noted() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE p pulls%ROWTYPE;
BEGIN
  SELECT * INTO p FROM pulls WHERE id = NEW.pull_id FOR UPDATE;
  IF (NEW.act = 'excluded') = (p.excluded_reason IS NOT NULL) THEN
    RAISE EXCEPTION 'pull % is % already', p.label, NEW.act USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  IF NEW.act = 'excluded' THEN
    UPDATE pulls SET excluded_reason = NEW.reason, excluded_note = NEW.note, excluded_by = NEW.person_id, excluded_at = NEW.at, excluded_seen_result = NEW.seen_result WHERE id = NEW.pull_id;
  ELSE
    UPDATE pulls SET excluded_reason = NULL, excluded_note = NULL, excluded_by = NULL, excluded_at = NULL, excluded_seen_result = NULL WHERE id = NEW.pull_id;
  END IF;
  PERFORM evaluate_again(p.test_id);
  PERFORM note_input_change('exclusion', NEW.pull_id, NULL, 'pull ' || p.label || ' was ' || NEW.act);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER exclusions_noted AFTER INSERT ON pull_exclusions FOR EACH ROW EXECUTE FUNCTION exclusion_noted();
--> statement-breakpoint
CREATE TRIGGER exclusions_append_only BEFORE UPDATE OR DELETE ON pull_exclusions FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE FUNCTION exclusion_only_by_trail() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF pg_trigger_depth() < 2 AND (NEW.excluded_reason, NEW.excluded_note, NEW.excluded_by, NEW.excluded_at, NEW.excluded_seen_result) IS DISTINCT FROM
     (OLD.excluded_reason, OLD.excluded_note, OLD.excluded_by, OLD.excluded_at, OLD.excluded_seen_result) THEN
    RAISE EXCEPTION 'pull % is excluded and restored by entries of pull_exclusions', OLD.label USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER pulls_excluded_by_trail BEFORE UPDATE ON pulls FOR EACH ROW EXECUTE FUNCTION exclusion_only_by_trail();
--> statement-breakpoint
-- A pull is repeated at the end of its run: what comes after it on the sheet moves down, by an amendment.
ALTER TABLE pulls DROP CONSTRAINT one_pull_a_position;
--> statement-breakpoint
ALTER TABLE pulls ADD CONSTRAINT one_pull_a_position UNIQUE (test_id, position) DEFERRABLE INITIALLY IMMEDIATE;
--> statement-breakpoint
ALTER TABLE pulls ADD CONSTRAINT repeats_a_pull FOREIGN KEY (repeats) REFERENCES pulls (id);
--> statement-breakpoint
CREATE UNIQUE INDEX repeated_once ON pulls (repeats) WHERE repeats IS NOT NULL;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION keep_planned_pull() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE locked boolean; amended integer;
BEGIN
  SELECT locked_at IS NOT NULL, amendment_count INTO locked, amended FROM tests WHERE id = COALESCE(OLD.test_id, NEW.test_id);
  IF locked AND TG_OP = 'INSERT' AND NEW.amendment IS NOT NULL AND EXISTS (SELECT 1 FROM plan_amendments WHERE test_id = NEW.test_id AND number = NEW.amendment) THEN RETURN NEW; END IF;
  IF locked AND TG_OP = 'UPDATE' AND NEW.moved_by = amended AND NEW.moved_by IS DISTINCT FROM OLD.moved_by AND NEW.position = OLD.position + 1
     AND to_jsonb(NEW) - ARRAY['position', 'moved_by'] = to_jsonb(OLD) - ARRAY['position', 'moved_by']
     AND NOT EXISTS (SELECT 1 FROM pull_files WHERE pull_id = OLD.id) THEN RETURN NEW; END IF;
  IF locked AND (TG_OP <> 'UPDATE' OR
     (NEW.test_id, NEW.position, NEW.label, NEW.run, NEW.arm, NEW.mount, NEW.counted, NEW.amendment, NEW.repeats, NEW.moved_by) IS DISTINCT FROM
     (OLD.test_id, OLD.position, OLD.label, OLD.run, OLD.arm, OLD.mount, OLD.counted, OLD.amendment, OLD.repeats, OLD.moved_by)) THEN
    RAISE EXCEPTION 'the plan is locked: its pulls cannot change' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  IF TG_OP = 'DELETE' THEN RETURN OLD; END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
-- The plan of a test: its lock and its amendments. Which analysis is current is no part of the plan.
CREATE OR REPLACE FUNCTION keep_locked_plan() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE kept text[] := ARRAY['id', 'number', 'fitment_id', 'vehicle_id', 'part_revision_id', 'dyno_id', 'protocol', 'remount', 'warm_ups', 'created_by', 'created_at', 'locked_at', 'locked_by', 'plan_hash', 'locked_plan'];
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
--> statement-breakpoint
CREATE FUNCTION plan_noted() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE beside text[] := ARRAY['updated_at', 'current_analysis_id', 'hours', 'blocks', 'gap_minutes', 'not_before', 'due', 'priority'];
BEGIN
  IF to_jsonb(NEW) - beside IS DISTINCT FROM to_jsonb(OLD) - beside THEN
    NEW.current_analysis_id := NULL;
    PERFORM note_input_change('plan', NEW.id, NULL, CASE WHEN OLD.locked_at IS NULL AND NEW.locked_at IS NOT NULL THEN 'the plan was locked'
      WHEN NEW.amendment_count > OLD.amendment_count THEN 'the plan was amended' ELSE 'the plan was changed' END);
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER tests_plan_noted BEFORE UPDATE ON tests FOR EACH ROW EXECUTE FUNCTION plan_noted();
--> statement-breakpoint
-- ── The register ──
CREATE FUNCTION ledger_noted() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE since timestamptz := NEW.at;
BEGIN
  IF NEW.supersedes IS NOT NULL THEN SELECT least(NEW.at, at) INTO since FROM vehicle_ledger WHERE id = NEW.supersedes; END IF;
  PERFORM note_input_change('ledger', NEW.vehicle_id, since, 'the vehicle’s ledger has an entry for ' || to_char(since AT TIME ZONE 'UTC', 'FMDD Mon YYYY'));
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER ledger_noted AFTER INSERT ON vehicle_ledger FOR EACH ROW EXECUTE FUNCTION ledger_noted();
--> statement-breakpoint
CREATE FUNCTION vehicle_noted() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF (NEW.fitment_id, NEW.tag, NEW.wheels, NEW.final_drive, NEW.gears) IS DISTINCT FROM (OLD.fitment_id, OLD.tag, OLD.wheels, OLD.final_drive, OLD.gears) THEN
    PERFORM note_input_change('vehicle', NEW.id, NULL, 'the record of the vehicle was changed');
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER vehicles_noted AFTER UPDATE ON vehicles FOR EACH ROW EXECUTE FUNCTION vehicle_noted();
--> statement-breakpoint
CREATE FUNCTION revision_noted() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM note_input_change('part revision', NEW.part_id, NULL, 'the part has a newer revision, ' || NEW.revision);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER part_revisions_noted AFTER INSERT ON part_revisions FOR EACH ROW EXECUTE FUNCTION revision_noted();
--> statement-breakpoint
CREATE FUNCTION calibration_noted() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE earlier uuid;
BEGIN
  FOR earlier IN SELECT id FROM calibrations WHERE lower(name) = lower(NEW.name) AND id <> NEW.id LOOP
    PERFORM note_input_change('calibration', earlier, NULL, 'the calibration has a newer revision, ' || NEW.revision);
  END LOOP;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER calibrations_noted AFTER INSERT ON calibrations FOR EACH ROW EXECUTE FUNCTION calibration_noted();
--> statement-breakpoint
CREATE FUNCTION fitment_noted() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF (NEW.maker, NEW.model, NEW.output_variant, NEW.market, NEW.engine_code, NEW.displacement_cc, NEW.cylinders, NEW.aspiration, NEW.ignition, NEW.fuel, NEW.rated_power_kw, NEW.rated_torque_nm, NEW.stock_tyres) IS DISTINCT FROM
     (OLD.maker, OLD.model, OLD.output_variant, OLD.market, OLD.engine_code, OLD.displacement_cc, OLD.cylinders, OLD.aspiration, OLD.ignition, OLD.fuel, OLD.rated_power_kw, OLD.rated_torque_nm, OLD.stock_tyres) THEN
    PERFORM note_input_change('fitment', NEW.id, NULL, 'the record of the fitment was changed');
    IF (NEW.aspiration, NEW.ignition, NEW.fuel) IS DISTINCT FROM (OLD.aspiration, OLD.ignition, OLD.fuel) THEN
      UPDATE tests SET current_analysis_id = NULL WHERE fitment_id = NEW.id AND current_analysis_id IS NOT NULL;
    END IF;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER fitments_noted AFTER UPDATE ON fitments FOR EACH ROW EXECUTE FUNCTION fitment_noted();
--> statement-breakpoint
CREATE TRIGGER dyno_versions_append_only BEFORE UPDATE OR DELETE ON dyno_versions FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE FUNCTION dyno_facts(d dynos) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
  SELECT jsonb_build_object('name', d.name, 'kind', d.kind, 'siteHeightM', d.site_height_m, 'appliesStandard', d.applies_standard, 'repeatability', d.repeatability,
    'driftBound', d.drift_bound, 'rollerRadiusM', d.roller_radius_m, 'timeZone', d.time_zone);
$$;
--> statement-breakpoint
INSERT INTO dyno_versions (dyno_id, number, valid_from, facts) SELECT d.id, 1, '1970-01-01T00:00:00Z', dyno_facts(d) FROM dynos d;
--> statement-breakpoint
CREATE FUNCTION dyno_noted() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'INSERT' THEN
    INSERT INTO dyno_versions (dyno_id, number, valid_from, facts) VALUES (NEW.id, 1, '1970-01-01T00:00:00Z', dyno_facts(NEW));
  ELSIF dyno_facts(NEW) IS DISTINCT FROM dyno_facts(OLD) THEN
    INSERT INTO dyno_versions (dyno_id, number, valid_from, facts)
      SELECT NEW.id, coalesce(max(number), 0) + 1, NEW.facts_from, dyno_facts(NEW) FROM dyno_versions WHERE dyno_id = NEW.id;
    PERFORM note_input_change('dyno', NEW.id, NEW.facts_from, 'facts of the dyno were changed, valid from ' || to_char(NEW.facts_from AT TIME ZONE 'UTC', 'FMDD Mon YYYY'));
    UPDATE tests t SET current_analysis_id = NULL FROM analyses a
      WHERE t.dyno_id = NEW.id AND a.id = t.current_analysis_id AND coalesce(a.until, a.computed_at) >= NEW.facts_from;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER dynos_noted AFTER INSERT OR UPDATE ON dynos FOR EACH ROW EXECUTE FUNCTION dyno_noted();
--> statement-breakpoint
CREATE FUNCTION sensor_noted() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'INSERT' THEN
    PERFORM note_input_change('sensor', NEW.dyno_id, NEW.calibrated_on, 'a sensor (' || NEW.quantity || ', ' || NEW.serial || ') was entered, calibrated on ' || to_char(NEW.calibrated_on, 'FMDD Mon YYYY'));
  ELSIF (to_jsonb(NEW) - 'removed') IS DISTINCT FROM (to_jsonb(OLD) - 'removed') THEN
    PERFORM note_input_change('sensor', NEW.dyno_id, NULL, 'a sensor (' || NEW.quantity || ', ' || NEW.serial || ') was changed');
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER sensors_noted AFTER INSERT OR UPDATE ON sensors FOR EACH ROW EXECUTE FUNCTION sensor_noted();
--> statement-breakpoint
-- ── The house ──
CREATE FUNCTION house_noted() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE kept integer;
BEGIN
  EXECUTE format('SELECT count(*) FROM %I', TG_TABLE_NAME) INTO kept;
  -- The first one is where counting begins, no change.
  IF kept < 2 THEN RETURN NULL; END IF;
  PERFORM note_input_change(TG_ARGV[0], '00000000-0000-0000-0000-000000000000', NULL, TG_ARGV[1] || ' ' || NEW.version);
  UPDATE tests SET current_analysis_id = NULL WHERE current_analysis_id IS NOT NULL;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER policies_append_only BEFORE UPDATE OR DELETE ON policies FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER software_append_only BEFORE UPDATE OR DELETE ON software_versions FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
INSERT INTO software_versions (version, first_served_at) SELECT software_version, min(computed_at) FROM analyses GROUP BY software_version;
--> statement-breakpoint
CREATE TRIGGER policies_noted AFTER INSERT ON policies FOR EACH ROW EXECUTE FUNCTION house_noted('policy', 'house policy is now');
--> statement-breakpoint
CREATE TRIGGER software_noted AFTER INSERT ON software_versions FOR EACH ROW EXECUTE FUNCTION house_noted('software', 'results are now computed by version');
--> statement-breakpoint
CREATE TRIGGER input_changes_append_only BEFORE UPDATE OR DELETE ON input_changes FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER analysis_inputs_append_only BEFORE UPDATE OR DELETE ON analysis_inputs FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER change_answers_append_only BEFORE UPDATE OR DELETE ON change_answers FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- What is there already rests on things as they are: version 0 of each.
INSERT INTO analysis_inputs (analysis_id, kind, subject_id, version)
  SELECT a.id, k.kind, k.subject, 0 FROM analyses a JOIN tests t ON t.id = a.test_id, LATERAL (
    SELECT kinds.kind, p.id AS subject FROM pulls p, (VALUES ('file'), ('air'), ('exclusion')) kinds (kind) WHERE p.test_id = t.id
    UNION ALL VALUES ('plan', t.id), ('ledger', t.vehicle_id), ('vehicle', t.vehicle_id), ('fitment', t.fitment_id), ('dyno', t.dyno_id), ('sensor', t.dyno_id),
      ('policy', '00000000-0000-0000-0000-000000000000'::uuid), ('software', '00000000-0000-0000-0000-000000000000'::uuid)
    UNION ALL SELECT DISTINCT 'part revision', r.part_id FROM test_arms m JOIN part_revisions r ON r.id = m.part_revision_id WHERE m.test_id = t.id) k
  ON CONFLICT DO NOTHING;
--> statement-breakpoint
UPDATE tests t SET current_analysis_id = (SELECT a.id FROM analyses a WHERE a.test_id = t.id ORDER BY a.number DESC LIMIT 1);
--> statement-breakpoint
-- Changes under a claim that nobody has answered. A claim that has one is not current, whatever its state says.
CREATE VIEW unanswered_changes AS
  SELECT c.id AS claim_id, ch.id AS change_id, ch.kind, ch.subject_id, ch.version, ch.at, ch.what
  FROM claims c JOIN analyses a ON a.id = c.analysis_id JOIN analysis_inputs i ON i.analysis_id = a.id
  JOIN input_changes ch ON ch.kind = i.kind AND ch.subject_id = i.subject_id AND ch.version > i.version
  WHERE (ch.effective_from IS NULL OR ch.effective_from <= coalesce(a.until, a.computed_at))
    AND NOT EXISTS (SELECT 1 FROM change_answers w WHERE w.claim_id = c.id AND w.kind = ch.kind AND w.subject_id = ch.subject_id AND w.version >= ch.version);
--> statement-breakpoint
-- Beside the service: nothing is published on inputs that are not those of its analysis, and what was approved stays as it was.
CREATE OR REPLACE FUNCTION keep_claim_words() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE beside text[] := ARRAY['state', 'reviewer_id', 'published_at', 'stale_reason', 'snapshot']; current_one uuid;
BEGIN
  IF to_jsonb(NEW) - beside IS DISTINCT FROM to_jsonb(OLD) - beside THEN
    RAISE EXCEPTION 'claim % keeps its number and wording; draft another', OLD.code USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  IF OLD.snapshot IS NOT NULL AND NEW.snapshot IS DISTINCT FROM OLD.snapshot THEN
    RAISE EXCEPTION 'claim % was approved: what the public reads of it stays', OLD.code USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  IF NEW.state = 'published' AND OLD.state <> 'published' THEN
    SELECT current_analysis_id INTO current_one FROM tests WHERE id = NEW.test_id FOR UPDATE;
    IF current_one IS DISTINCT FROM NEW.analysis_id OR EXISTS (SELECT 1 FROM unanswered_changes WHERE claim_id = NEW.id) THEN
      RAISE EXCEPTION 'claim % rests on inputs that have changed', OLD.code USING ERRCODE = 'integrity_constraint_violation';
    END IF;
    IF NEW.snapshot IS NULL THEN
      RAISE EXCEPTION 'claim % is published without what the public reads of it', OLD.code USING ERRCODE = 'integrity_constraint_violation';
    END IF;
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE FUNCTION draft_first() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.state <> 'draft' THEN
    RAISE EXCEPTION 'a claim begins as a draft' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER claims_begin_as_draft BEFORE INSERT ON claims FOR EACH ROW EXECUTE FUNCTION draft_first();
--> statement-breakpoint
CREATE TRIGGER claims_not_removed BEFORE DELETE ON claims FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- Subjects of claims drafted before they were kept with them.
ALTER TABLE claims DISABLE TRIGGER claims_keep_words;
--> statement-breakpoint
UPDATE claims c SET subject = coalesce(nullif(regexp_replace(split_part(c.conditions ->> 0, ' on ', 1), ' against stock$', ''), ''), (SELECT label FROM test_arms m WHERE m.test_id = c.test_id AND m.key = c.arm), 'part'),
  subject_kind = coalesce((SELECT CASE m.scope WHEN 'part alone' THEN 'part' WHEN 'part with what it needs' THEN m.scope WHEN 'part with its calibration' THEN 'part with calibration'
    WHEN 'setting of the part' THEN 'setting' WHEN 'calibration alone' THEN 'calibration' WHEN '' THEN 'part' ELSE 'combination' END FROM test_arms m WHERE m.test_id = c.test_id AND m.key = c.arm), 'part');
--> statement-breakpoint
ALTER TABLE claims ENABLE TRIGGER claims_keep_words;
--> statement-breakpoint
-- A dyno is not closed over a session, nor a session placed in a closure: both take the dyno's row, so one sees the other.
CREATE FUNCTION closure_is_clear() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM 1 FROM dynos WHERE id = NEW.dyno_id FOR UPDATE;
  IF EXISTS (SELECT 1 FROM booking_blocks b WHERE b.dyno_id = NEW.dyno_id AND tstzrange(b.starts_at, b.ends_at) && tstzrange(NEW.starts_at, NEW.ends_at)) THEN
    RAISE EXCEPTION 'a session is placed in this time' USING ERRCODE = 'exclusion_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER closures_clear BEFORE INSERT OR UPDATE ON closures FOR EACH ROW EXECUTE FUNCTION closure_is_clear();
--> statement-breakpoint
CREATE FUNCTION block_is_clear() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM 1 FROM dynos WHERE id = NEW.dyno_id FOR UPDATE;
  IF EXISTS (SELECT 1 FROM closures c WHERE c.dyno_id = NEW.dyno_id AND tstzrange(c.starts_at, c.ends_at) && tstzrange(NEW.starts_at, NEW.ends_at)) THEN
    RAISE EXCEPTION 'the dyno is closed in this time' USING ERRCODE = 'exclusion_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER blocks_clear BEFORE INSERT OR UPDATE ON booking_blocks FOR EACH ROW EXECUTE FUNCTION block_is_clear();
