ALTER TABLE "imports" DROP COLUMN "bytes";--> statement-breakpoint
-- branches are stored as lists of nodes from here on; games themselves are not concerned
DELETE FROM "game_steps" WHERE "step"->>'type' = 'insert';