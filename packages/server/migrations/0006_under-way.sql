ALTER TABLE "scoutings" ADD COLUMN "under_way" boolean DEFAULT false NOT NULL;--> statement-breakpoint
UPDATE "scoutings" SET "under_way" = ("state"::json->>'state') IN ('queued', 'running');
