CREATE TABLE "pull_channels" (
	"pull_file_id" uuid NOT NULL,
	"reading" text NOT NULL,
	"quantity" text NOT NULL,
	"values" "bytea" NOT NULL,
	CONSTRAINT "pull_channels_pull_file_id_reading_quantity_pk" PRIMARY KEY("pull_file_id","reading","quantity"),
	CONSTRAINT "whole_doubles" CHECK (octet_length("pull_channels"."values") > 0 and octet_length("pull_channels"."values") % 8 = 0)
);
--> statement-breakpoint
ALTER TABLE "pull_channels" ADD CONSTRAINT "pull_channels_pull_file_id_pull_files_id_fk" FOREIGN KEY ("pull_file_id") REFERENCES "public"."pull_files"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE TRIGGER pull_channels_append_only BEFORE UPDATE OR DELETE ON pull_channels FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER pull_channels_not_emptied BEFORE TRUNCATE ON pull_channels FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
