CREATE TABLE "finding_answers" (
	"id" uuid PRIMARY KEY NOT NULL,
	"test_id" uuid NOT NULL,
	"analysis_id" uuid NOT NULL,
	"code" text NOT NULL,
	"message" text NOT NULL,
	"answer" text NOT NULL,
	"answered_by" uuid NOT NULL,
	"answered_at" timestamp with time zone NOT NULL,
	CONSTRAINT "answer_says_something" CHECK (length(trim("finding_answers"."answer")) >= 20)
);
--> statement-breakpoint
ALTER TABLE "finding_answers" ADD CONSTRAINT "finding_answers_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "finding_answers" ADD CONSTRAINT "finding_answers_analysis_id_analyses_id_fk" FOREIGN KEY ("analysis_id") REFERENCES "public"."analyses"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "finding_answers" ADD CONSTRAINT "finding_answers_answered_by_people_id_fk" FOREIGN KEY ("answered_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "finding_answers" ADD CONSTRAINT "answer_to_its_own_test" FOREIGN KEY ("analysis_id","test_id") REFERENCES "public"."analyses"("id","test_id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "answers_of_test" ON "finding_answers" USING btree ("test_id","answered_at");--> statement-breakpoint
CREATE TRIGGER finding_answers_append_only BEFORE UPDATE OR DELETE ON finding_answers FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER finding_answers_not_emptied BEFORE TRUNCATE ON finding_answers FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- An analysis reads answers: one more is a change of an input.
CREATE FUNCTION answer_noted() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM evaluate_again(NEW.test_id);
  PERFORM note_input_change('answer', NEW.test_id, NULL, 'somebody answered for a finding');
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER finding_answers_noted AFTER INSERT ON finding_answers FOR EACH ROW EXECUTE FUNCTION answer_noted();
--> statement-breakpoint
-- Analyses made before answers were kept read none.
INSERT INTO analysis_inputs (analysis_id, kind, subject_id, version) SELECT id, 'answer', test_id, 0 FROM analyses ON CONFLICT DO NOTHING;
