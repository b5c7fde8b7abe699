ALTER TABLE "claims" ADD COLUMN "says" text DEFAULT 'lower limit' NOT NULL;--> statement-breakpoint
ALTER TABLE "claims" ADD CONSTRAINT "claim_form_known" CHECK ("claims"."says" in ('lower limit', 'mean with range'));--> statement-breakpoint
ALTER TABLE "claims" ADD CONSTRAINT "claim_says_at_most" CHECK ("claims"."tells" <> 'gain' or ("claims"."says" = 'lower limit' and ("claims"."interval" is null or jsonb_typeof("claims"."interval") = 'null'
        or "claims"."value" <= ("claims"."interval" ->> 'lower')::float8 + 1e-6))
        or ("claims"."says" = 'mean with range' and coalesce(("claims"."interval" ->> 'lower')::float8 > 0
          and "claims"."value" <= ("claims"."interval" ->> 'gain')::float8 + 1e-6, false)));