ALTER TABLE "base_segments" ADD COLUMN "firsts" "bytea" DEFAULT '' NOT NULL;--> statement-breakpoint
UPDATE "base_segments" SET "firsts" = coalesce((SELECT string_agg(int8send("first"), ''::bytea ORDER BY "first") FROM "base_blocks" WHERE "segment_id" = "base_segments"."id"), '');
