CREATE TABLE "claim_places" (
	"claim_id" uuid PRIMARY KEY NOT NULL,
	"place" smallint NOT NULL,
	"drafted_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "coverage_cells" (
	"part_id" uuid NOT NULL,
	"fitment_id" uuid NOT NULL,
	"rank" smallint NOT NULL,
	"tests" integer NOT NULL,
	"test_id" uuid,
	"arm" text,
	"served" boolean NOT NULL,
	"worth" double precision NOT NULL,
	CONSTRAINT "coverage_cells_part_id_fitment_id_pk" PRIMARY KEY("part_id","fitment_id")
);
--> statement-breakpoint
CREATE TABLE "coverage_counts" (
	"part_id" uuid NOT NULL,
	"rank" smallint NOT NULL,
	"cells" integer NOT NULL,
	CONSTRAINT "coverage_counts_part_id_rank_pk" PRIMARY KEY("part_id","rank")
);
--> statement-breakpoint
CREATE TABLE "coverage_rows" (
	"fitment_id" uuid PRIMARY KEY NOT NULL
);
--> statement-breakpoint
CREATE TABLE "places_due" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"part_id" uuid,
	"subject_id" uuid
);
--> statement-breakpoint
CREATE TABLE "test_places" (
	"test_id" uuid PRIMARY KEY NOT NULL,
	"number" integer NOT NULL,
	"asks" boolean NOT NULL,
	"capturing" boolean NOT NULL,
	"published" boolean NOT NULL,
	"found_by" text NOT NULL,
	"part_ids" uuid[] DEFAULT '{}' NOT NULL
);
--> statement-breakpoint
ALTER TABLE "claim_places" ADD CONSTRAINT "claim_places_claim_id_claims_id_fk" FOREIGN KEY ("claim_id") REFERENCES "public"."claims"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "coverage_cells" ADD CONSTRAINT "coverage_cells_part_id_parts_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."parts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "coverage_cells" ADD CONSTRAINT "coverage_cells_fitment_id_fitments_id_fk" FOREIGN KEY ("fitment_id") REFERENCES "public"."fitments"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "coverage_cells" ADD CONSTRAINT "coverage_cells_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_places" ADD CONSTRAINT "test_places_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "claims_in_order" ON "claim_places" USING btree ("place","drafted_at" DESC NULLS FIRST,"claim_id");--> statement-breakpoint
CREATE INDEX "cells_of_fitment" ON "coverage_cells" USING btree ("fitment_id");--> statement-breakpoint
CREATE INDEX "cells_by_worth" ON "coverage_cells" USING btree ("part_id","worth" DESC NULLS FIRST,"fitment_id");--> statement-breakpoint
CREATE INDEX "cells_by_rank" ON "coverage_cells" USING btree ("rank","fitment_id") WHERE "coverage_cells"."rank" > 0;--> statement-breakpoint
CREATE INDEX "tests_in_order" ON "test_places" USING btree ("number");--> statement-breakpoint
CREATE INDEX "tests_by_words" ON "test_places" USING gin ("found_by" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "tests_by_part" ON "test_places" USING gin ("part_ids");--> statement-breakpoint
CREATE INDEX "tests_that_ask" ON "test_places" USING btree ("number") WHERE "test_places"."asks";--> statement-breakpoint
CREATE INDEX "tests_capturing" ON "test_places" USING btree ("number") WHERE "test_places"."capturing";--> statement-breakpoint
CREATE INDEX "tests_published" ON "test_places" USING btree ("number") WHERE "test_places"."published";--> statement-breakpoint
ALTER TABLE "analyses" ADD CONSTRAINT "analysis_with_its_test" UNIQUE("id","test_id");--> statement-breakpoint
ALTER TABLE "claims" ADD CONSTRAINT "claim_of_an_arm" FOREIGN KEY ("test_id","arm") REFERENCES "public"."test_arms"("test_id","key") ON DELETE no action ON UPDATE no action NOT VALID;--> statement-breakpoint
ALTER TABLE "claims" ADD CONSTRAINT "analysis_is_of_the_test" FOREIGN KEY ("analysis_id","test_id") REFERENCES "public"."analyses"("id","test_id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "readings_of_pull" ON "air_readings" USING btree ("pull_id");--> statement-breakpoint
CREATE INDEX "files_of_pull" ON "pull_files" USING btree ("pull_id");--> statement-breakpoint
CREATE INDEX "pulls_of_file" ON "pull_files" USING btree ("sha256");--> statement-breakpoint
CREATE INDEX "tests_of_dyno" ON "tests" USING btree ("dyno_id");--> statement-breakpoint
CREATE INDEX "tests_of_partner" ON "tests" USING btree ("partner_id") WHERE "tests"."partner_id" is not null;--> statement-breakpoint
CREATE INDEX "events_of_claim" ON "claim_events" USING btree ("claim_id","id");--> statement-breakpoint
CREATE INDEX "claims_of_revision" ON "claims" USING btree ("part_revision_id");
--> statement-breakpoint
-- The analysis that stands for a test is one of its own.
ALTER TABLE tests ADD CONSTRAINT current_analysis_is_its_own FOREIGN KEY (current_analysis_id, id) REFERENCES analyses (id, test_id);
--> statement-breakpoint
-- ── How far the evidence has come ──
-- States of core/register/worth-testing.ts by their index, and the share of what one would like to know that is
-- open in each; held against the core by a test.
CREATE FUNCTION evidence_rank(a_state text) RETURNS smallint LANGUAGE sql IMMUTABLE AS $$
  SELECT (array_position(ARRAY['untested', 'planned', 'capturing', 'in combination', 'measured', 'no gain shown', 'claim drafted', 'stale', 'published'], a_state) - 1)::smallint
$$;
--> statement-breakpoint
CREATE FUNCTION evidence_open(a_rank integer) RETURNS double precision LANGUAGE sql IMMUTABLE AS $$
  SELECT (ARRAY[1, 0.8, 0.6, 0.6, 0.5, 0.15, 0.2, 0.7, 0.1]::double precision[])[a_rank + 1]
$$;
--> statement-breakpoint
-- With a finding from a sibling that one test serves, less is open.
CREATE FUNCTION family_discount() RETURNS double precision LANGUAGE sql IMMUTABLE AS $$ SELECT 0.5::double precision $$;
--> statement-breakpoint
-- The state a claim is shown in: published, but with a change under it that nobody answered, is in question.
CREATE VIEW claims_shown AS
  SELECT c.id, c.test_id, c.arm, c.tells, c.drafted_at,
    CASE WHEN c.state = 'published' AND EXISTS (SELECT 1 FROM unanswered_changes u WHERE u.claim_id = c.id) THEN 'in question' ELSE c.state END AS state
  FROM claims c;
--> statement-breakpoint
-- Each arm that is about a part: its claims speak for it, else its result, else what has been captured.
CREATE VIEW evidence_of_arms AS
  SELECT part_id, fitment_id, test_id, number, arm, position,
    least(rank, CASE WHEN own THEN evidence_rank('published') ELSE evidence_rank('in combination') END) AS rank
  FROM (
    SELECT r.part_id, t.fitment_id, t.id AS test_id, t.number, a.key AS arm, a.position,
      -- Scopes in which an arm is about the part itself; rows from before scopes were kept are.
      a.scope IN ('', 'part alone', 'part with what it needs', 'part with its calibration') AS own,
      coalesce(
        (SELECT max(evidence_rank(CASE c.state
            WHEN 'published' THEN 'published' WHEN 'in question' THEN 'stale' WHEN 'stale' THEN 'stale'
            WHEN 'withdrawn' THEN 'measured' ELSE 'claim drafted' END))
          FROM claims_shown c WHERE c.test_id = t.id AND c.arm = a.key AND c.tells = 'gain'),
        (SELECT evidence_rank(CASE WHEN n.verdict IN ('no gain shown', 'loss', 'send back to design') THEN 'no gain shown' ELSE 'measured' END)
          FROM analyses n WHERE n.id = t.current_analysis_id),
        CASE WHEN EXISTS (SELECT 1 FROM pulls q JOIN pull_files f ON f.pull_id = q.id WHERE q.test_id = t.id)
          THEN evidence_rank('capturing') ELSE evidence_rank('planned') END) AS rank
    FROM tests t JOIN test_arms a ON a.test_id = t.id JOIN part_revisions r ON r.id = a.part_revision_id) every_arm;
--> statement-breakpoint
-- The furthest arm speaks for its part on its fitment; among equals the newest test, and the first of its arms.
CREATE VIEW evidence_of_cells AS
  SELECT part_id, fitment_id, max(rank) AS rank, count(DISTINCT test_id)::integer AS tests,
    (array_agg(test_id ORDER BY rank DESC, number DESC))[1] AS test_id,
    (array_agg(arm ORDER BY rank DESC, number DESC, position))[1] AS arm
  FROM evidence_of_arms GROUP BY part_id, fitment_id;
--> statement-breakpoint
-- Fitments of the family of one that was measured, which the same test serves; as core/register/family.ts has it.
CREATE VIEW served_by_family AS
  SELECT DISTINCT m.part_id, o.id AS fitment_id
  FROM evidence_of_arms m JOIN fitments f ON f.id = m.fitment_id
  JOIN fitments o ON o.family = f.family AND o.engine_code = f.engine_code AND o.aspiration = f.aspiration
    AND o.ignition = f.ignition AND o.fuel = f.fuel AND o.id <> f.id AND abs(f.rated_power_kw / o.rated_power_kw - 1) <= 0.01
  WHERE m.rank >= evidence_rank('measured');
--> statement-breakpoint
CREATE VIEW coverage_cells_now AS
  SELECT a.part_id, a.fitment_id, coalesce(e.rank, 0)::smallint AS rank, coalesce(e.tests, 0) AS tests, e.test_id, e.arm,
    s.part_id IS NOT NULL AS served,
    greatest(1, f.units_per_year) * evidence_open(coalesce(e.rank, 0)) * CASE WHEN s.part_id IS NULL THEN 1 ELSE family_discount() END AS worth
  FROM applications a JOIN fitments f ON f.id = a.fitment_id
  LEFT JOIN evidence_of_cells e ON e.part_id = a.part_id AND e.fitment_id = a.fitment_id
  LEFT JOIN served_by_family s ON s.part_id = a.part_id AND s.fitment_id = a.fitment_id;
--> statement-breakpoint
-- ── What tests and claims are listed under ──
-- Lower case, letters parted from numbers, as core/register/phrase.ts has it.
CREATE FUNCTION plain_words(a_text text) RETURNS text LANGUAGE sql IMMUTABLE AS $$
  SELECT ' ' || trim(regexp_replace(regexp_replace(regexp_replace(lower(a_text), '([[:alpha:]])([0-9])', '\1 \2', 'g'), '([0-9])([[:alpha:]])', '\1 \2', 'g'), '[^[:alnum:].]+', ' ', 'g')) || ' '
$$;
--> statement-breakpoint
-- A test asks for a person when its plan is not locked, its result is refused or has failing findings, or a claim
-- of it is not published; as server/publish/stages.ts has it.
CREATE VIEW test_places_now AS
  SELECT t.id AS test_id, t.number,
    t.locked_at IS NULL OR (p.whole AND coalesce(n.failing > 0 OR k.refused IS NOT NULL, false)) OR coalesce(c.state <> 'published', false) AS asks,
    p.captured < p.counted AS capturing,
    coalesce(c.state = 'published', false) AS published,
    -- Names of parts are left out: they are found by the name a reader may know.
    plain_words(concat_ws(' ', f.found_by, t.number, v.tag, d.name, m.labels)) AS found_by, coalesce(m.part_ids, '{}') AS part_ids
  FROM tests t JOIN fitments f ON f.id = t.fitment_id JOIN vehicles v ON v.id = t.vehicle_id JOIN dynos d ON d.id = t.dyno_id
  CROSS JOIN LATERAL (
    SELECT string_agg(regexp_replace(a.label, '⟦[^⟧]*⟧', '', 'g'), ' ' ORDER BY a.position) AS labels,
      array_agg(DISTINCT r.part_id ORDER BY r.part_id) FILTER (WHERE r.part_id IS NOT NULL) AS part_ids
    FROM test_arms a LEFT JOIN LATERAL (
      SELECT a.part_revision_id AS id UNION SELECT (x ->> 'partRevisionId')::uuid FROM jsonb_array_elements(a.changes) x WHERE x ->> 'kind' = 'part fitted'
      ) w ON true LEFT JOIN part_revisions r ON r.id = w.id
    WHERE a.test_id = t.id) m
  LEFT JOIN analyses n ON n.id = t.current_analysis_id
  LEFT JOIN contrasts k ON k.analysis_id = n.id AND k.position = 0 AND NOT k.with_excluded
  CROSS JOIN LATERAL (
    SELECT count(*) FILTER (WHERE q.counted) AS counted, count(*) FILTER (WHERE q.counted AND f.id IS NOT NULL) AS captured,
      coalesce(bool_and(f.id IS NOT NULL AND r.id IS NOT NULL) FILTER (WHERE q.counted AND q.excluded_reason IS NULL), true) AS whole
    FROM pulls q LEFT JOIN pull_files f ON f.pull_id = q.id AND f.current LEFT JOIN air_readings r ON r.pull_id = q.id AND r.current
    WHERE q.test_id = t.id) p
  LEFT JOIN LATERAL (
    SELECT d.state FROM claims_shown d WHERE d.test_id = t.id
    ORDER BY array_position(ARRAY['withdrawn', 'returned', 'draft', 'stale', 'in question', 'in review', 'published'], d.state) DESC LIMIT 1) c ON true;
--> statement-breakpoint
-- What waits for a decision first.
CREATE VIEW claim_places_now AS
  SELECT id AS claim_id, (array_position(ARRAY['in question', 'in review', 'returned', 'draft', 'stale', 'published', 'withdrawn'], state) - 1)::smallint AS place, drafted_at
  FROM claims_shown;
--> statement-breakpoint
-- ── Keeping them ──
CREATE FUNCTION refresh_cell(a_part uuid, a_fitment uuid) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO coverage_cells (part_id, fitment_id, rank, tests, test_id, arm, served, worth)
    SELECT part_id, fitment_id, rank, tests, test_id, arm, served, worth FROM coverage_cells_now
      WHERE part_id = a_part AND fitment_id = a_fitment
    ON CONFLICT (part_id, fitment_id) DO UPDATE SET rank = EXCLUDED.rank, tests = EXCLUDED.tests, test_id = EXCLUDED.test_id,
      arm = EXCLUDED.arm, served = EXCLUDED.served, worth = EXCLUDED.worth;
  DELETE FROM coverage_cells c WHERE c.part_id = a_part AND c.fitment_id = a_fitment
    AND NOT EXISTS (SELECT 1 FROM applications a WHERE a.part_id = a_part AND a.fitment_id = a_fitment);
END $$;
--> statement-breakpoint
CREATE FUNCTION refresh_everything() RETURNS void LANGUAGE plpgsql AS $$
BEGIN
  DELETE FROM coverage_cells c WHERE NOT EXISTS (SELECT 1 FROM applications a WHERE a.part_id = c.part_id AND a.fitment_id = c.fitment_id);
  INSERT INTO coverage_cells AS c (part_id, fitment_id, rank, tests, test_id, arm, served, worth)
    SELECT part_id, fitment_id, rank, tests, test_id, arm, served, worth FROM coverage_cells_now
    ON CONFLICT (part_id, fitment_id) DO UPDATE SET rank = EXCLUDED.rank, tests = EXCLUDED.tests, test_id = EXCLUDED.test_id,
      arm = EXCLUDED.arm, served = EXCLUDED.served, worth = EXCLUDED.worth
      WHERE (c.rank, c.tests, c.test_id, c.arm, c.served, c.worth) IS DISTINCT FROM
        (EXCLUDED.rank, EXCLUDED.tests, EXCLUDED.test_id, EXCLUDED.arm, EXCLUDED.served, EXCLUDED.worth);
  DELETE FROM coverage_counts;
  INSERT INTO coverage_counts (part_id, rank, cells) SELECT part_id, rank, count(*) FROM coverage_cells GROUP BY 1, 2;
  DELETE FROM coverage_rows;
  INSERT INTO coverage_rows (fitment_id) SELECT DISTINCT fitment_id FROM coverage_cells;
  DELETE FROM test_places p WHERE NOT EXISTS (SELECT 1 FROM tests t WHERE t.id = p.test_id);
  INSERT INTO test_places AS p (test_id, number, asks, capturing, published, found_by, part_ids)
    SELECT test_id, number, asks, capturing, published, found_by, part_ids FROM test_places_now
    ON CONFLICT (test_id) DO UPDATE SET asks = EXCLUDED.asks, capturing = EXCLUDED.capturing, published = EXCLUDED.published,
      found_by = EXCLUDED.found_by, part_ids = EXCLUDED.part_ids
      WHERE (p.asks, p.capturing, p.published, p.found_by, p.part_ids) IS DISTINCT FROM
        (EXCLUDED.asks, EXCLUDED.capturing, EXCLUDED.published, EXCLUDED.found_by, EXCLUDED.part_ids);
  INSERT INTO claim_places AS p (claim_id, place, drafted_at) SELECT claim_id, place, drafted_at FROM claim_places_now
    ON CONFLICT (claim_id) DO UPDATE SET place = EXCLUDED.place WHERE p.place <> EXCLUDED.place;
END $$;
--> statement-breakpoint
-- Brings the places up to date with all that was committed before it was called. To be called on its own, never in
-- the transaction of a change: who calls it at the same time waits for the one that began.
CREATE FUNCTION refresh_places() RETURNS void LANGUAGE plpgsql AS $$
DECLARE
  all_of_it boolean; due_tests uuid[]; due_claims uuid[]; due_fitments uuid[]; cell_parts uuid[]; cell_fitments uuid[];
  cell record;
BEGIN
  IF NOT EXISTS (SELECT 1 FROM places_due) THEN RETURN; END IF;
  PERFORM pg_advisory_xact_lock(727009);
  WITH due AS (DELETE FROM places_due RETURNING kind, part_id, subject_id)
    SELECT coalesce(bool_or(kind = 'everything') OR count(*) > 5000, false),
      array_agg(DISTINCT subject_id) FILTER (WHERE kind = 'test'), array_agg(DISTINCT subject_id) FILTER (WHERE kind = 'claim'),
      array_agg(DISTINCT subject_id) FILTER (WHERE kind = 'fitment'),
      array_agg(part_id) FILTER (WHERE kind = 'cell'), array_agg(subject_id) FILTER (WHERE kind = 'cell')
    INTO all_of_it, due_tests, due_claims, due_fitments, cell_parts, cell_fitments FROM due;
  IF all_of_it THEN PERFORM refresh_everything(); RETURN; END IF;
  FOR cell IN
    WITH changed AS (
      SELECT r.part_id, t.fitment_id FROM tests t JOIN test_arms a ON a.test_id = t.id JOIN part_revisions r ON r.id = a.part_revision_id
        WHERE t.id = ANY (due_tests)
      UNION SELECT * FROM unnest(cell_parts, cell_fitments))
    SELECT c.part_id, o.id AS fitment_id FROM changed c JOIN fitments f ON f.id = c.fitment_id JOIN fitments o ON o.family = f.family
    UNION SELECT part_id, fitment_id FROM applications WHERE fitment_id = ANY (due_fitments)
    UNION SELECT part_id, fitment_id FROM coverage_cells WHERE fitment_id = ANY (due_fitments)
  LOOP
    PERFORM refresh_cell(cell.part_id, cell.fitment_id);
    cell_parts := array_append(cell_parts, cell.part_id);
    cell_fitments := array_append(cell_fitments, cell.fitment_id);
  END LOOP;
  IF cell_parts IS NOT NULL THEN
    DELETE FROM coverage_counts WHERE part_id = ANY (cell_parts);
    INSERT INTO coverage_counts (part_id, rank, cells) SELECT part_id, rank, count(*) FROM coverage_cells WHERE part_id = ANY (cell_parts) GROUP BY 1, 2;
    DELETE FROM coverage_rows r WHERE r.fitment_id = ANY (cell_fitments) AND NOT EXISTS (SELECT 1 FROM coverage_cells c WHERE c.fitment_id = r.fitment_id);
    INSERT INTO coverage_rows (fitment_id) SELECT DISTINCT fitment_id FROM coverage_cells WHERE fitment_id = ANY (cell_fitments) ON CONFLICT DO NOTHING;
  END IF;
  INSERT INTO test_places (test_id, number, asks, capturing, published, found_by, part_ids)
    SELECT v.test_id, v.number, v.asks, v.capturing, v.published, v.found_by, v.part_ids FROM unnest(due_tests) d CROSS JOIN LATERAL (SELECT * FROM test_places_now n WHERE n.test_id = d) v
    ON CONFLICT (test_id) DO UPDATE SET asks = EXCLUDED.asks, capturing = EXCLUDED.capturing, published = EXCLUDED.published,
      found_by = EXCLUDED.found_by, part_ids = EXCLUDED.part_ids;
  INSERT INTO claim_places (claim_id, place, drafted_at)
    SELECT v.claim_id, v.place, v.drafted_at FROM unnest(due_claims) d CROSS JOIN LATERAL (SELECT * FROM claim_places_now n WHERE n.claim_id = d) v
    ON CONFLICT (claim_id) DO UPDATE SET place = EXCLUDED.place;
END $$;
--> statement-breakpoint
-- ── What makes them due ──
CREATE FUNCTION place_due_test() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO places_due (kind, subject_id) VALUES ('test', NEW.id);
  IF TG_OP = 'UPDATE' AND OLD.fitment_id <> NEW.fitment_id THEN
    INSERT INTO places_due (kind, part_id, subject_id) SELECT DISTINCT 'cell', r.part_id, OLD.fitment_id
      FROM test_arms a JOIN part_revisions r ON r.id = a.part_revision_id WHERE a.test_id = NEW.id;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER tests_places_due AFTER INSERT OR UPDATE OF fitment_id, current_analysis_id, locked_at ON tests FOR EACH ROW EXECUTE FUNCTION place_due_test();
--> statement-breakpoint
CREATE FUNCTION place_due_arm() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE arm test_arms%ROWTYPE;
BEGIN
  FOREACH arm IN ARRAY CASE TG_OP WHEN 'INSERT' THEN ARRAY[NEW] WHEN 'DELETE' THEN ARRAY[OLD] ELSE ARRAY[OLD, NEW] END LOOP
    INSERT INTO places_due (kind, subject_id) VALUES ('test', arm.test_id);
    INSERT INTO places_due (kind, part_id, subject_id) SELECT 'cell', r.part_id, t.fitment_id
      FROM tests t, part_revisions r WHERE t.id = arm.test_id AND r.id = arm.part_revision_id;
  END LOOP;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER arms_places_due AFTER INSERT OR UPDATE OR DELETE ON test_arms FOR EACH ROW EXECUTE FUNCTION place_due_arm();
--> statement-breakpoint
CREATE FUNCTION place_due_pulls() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO places_due (kind, subject_id) SELECT DISTINCT 'test', test_id FROM changed;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER pulls_added_places_due AFTER INSERT ON pulls REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION place_due_pulls();
--> statement-breakpoint
CREATE TRIGGER pulls_changed_places_due AFTER UPDATE ON pulls REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION place_due_pulls();
--> statement-breakpoint
CREATE TRIGGER pulls_removed_places_due AFTER DELETE ON pulls REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION place_due_pulls();
--> statement-breakpoint
CREATE FUNCTION place_due_of_pull() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO places_due (kind, subject_id) SELECT 'test', test_id FROM pulls WHERE id = NEW.pull_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER pull_files_places_due AFTER INSERT ON pull_files FOR EACH ROW EXECUTE FUNCTION place_due_of_pull();
--> statement-breakpoint
CREATE TRIGGER air_readings_places_due AFTER INSERT ON air_readings FOR EACH ROW EXECUTE FUNCTION place_due_of_pull();
--> statement-breakpoint
CREATE FUNCTION place_due_claim() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO places_due (kind, subject_id) VALUES ('claim', NEW.id), ('test', NEW.test_id);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER claims_places_due AFTER INSERT OR UPDATE OF state ON claims FOR EACH ROW EXECUTE FUNCTION place_due_claim();
--> statement-breakpoint
CREATE FUNCTION place_due_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.kind IN ('policy', 'software') THEN
    INSERT INTO places_due (kind) VALUES ('everything');
  ELSE
    INSERT INTO places_due (kind, subject_id)
      SELECT w.kind, CASE w.kind WHEN 'claim' THEN c.id ELSE c.test_id END
      FROM analysis_inputs i JOIN claims c ON c.analysis_id = i.analysis_id AND c.state = 'published'
      CROSS JOIN (VALUES ('claim'), ('test')) w (kind)
      WHERE i.kind = NEW.kind AND i.subject_id = NEW.subject_id;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER input_changes_places_due AFTER INSERT ON input_changes FOR EACH ROW EXECUTE FUNCTION place_due_change();
--> statement-breakpoint
CREATE FUNCTION place_due_answer() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO places_due (kind, subject_id) SELECT 'claim', id FROM claims WHERE id = NEW.claim_id
    UNION ALL SELECT 'test', test_id FROM claims WHERE id = NEW.claim_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER answers_places_due AFTER INSERT ON change_answers FOR EACH ROW EXECUTE FUNCTION place_due_answer();
--> statement-breakpoint
CREATE FUNCTION place_due_fitment() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'INSERT' THEN
    INSERT INTO places_due (kind, subject_id) SELECT 'fitment', id FROM fitments WHERE family = NEW.family;
  ELSE
    INSERT INTO places_due (kind, subject_id) SELECT 'fitment', id FROM fitments WHERE family IN (OLD.family, NEW.family);
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER fitments_places_due AFTER INSERT OR UPDATE OF family, engine_code, aspiration, ignition, fuel, rated_power_kw, units_per_year ON fitments FOR EACH ROW EXECUTE FUNCTION place_due_fitment();
--> statement-breakpoint
-- A test is found by the names around it.
CREATE FUNCTION place_due_names() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO places_due (kind, subject_id) SELECT 'test', id FROM tests
    WHERE CASE TG_TABLE_NAME WHEN 'vehicles' THEN vehicle_id WHEN 'dynos' THEN dyno_id ELSE fitment_id END = NEW.id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER vehicles_names_due AFTER UPDATE OF tag ON vehicles FOR EACH ROW EXECUTE FUNCTION place_due_names();
--> statement-breakpoint
CREATE TRIGGER dynos_names_due AFTER UPDATE OF name ON dynos FOR EACH ROW EXECUTE FUNCTION place_due_names();
--> statement-breakpoint
CREATE TRIGGER fitments_names_due AFTER UPDATE OF found_by ON fitments FOR EACH ROW EXECUTE FUNCTION place_due_names();
--> statement-breakpoint
CREATE FUNCTION place_due_applications() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF (SELECT count(*) FROM changed) > 1000 THEN
    INSERT INTO places_due (kind) VALUES ('everything');
  ELSE
    INSERT INTO places_due (kind, part_id, subject_id) SELECT 'cell', part_id, fitment_id FROM changed;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER applications_added_places_due AFTER INSERT ON applications REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION place_due_applications();
--> statement-breakpoint
CREATE TRIGGER applications_removed_places_due AFTER DELETE ON applications REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION place_due_applications();
--> statement-breakpoint
INSERT INTO places_due (kind) VALUES ('everything');
