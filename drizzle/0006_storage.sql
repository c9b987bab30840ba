CREATE EXTENSION IF NOT EXISTS pg_trgm;--> statement-breakpoint
-- moves in steps are written in codes from here on; games themselves are not concerned
DELETE FROM "game_steps" WHERE "step"->>'type' = 'insert';--> statement-breakpoint
DROP INDEX "games_owner_date";--> statement-breakpoint
ALTER TABLE "game_steps" ADD COLUMN "author_id" uuid;--> statement-breakpoint
ALTER TABLE "game_steps" ADD CONSTRAINT "game_steps_author_id_owners_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."owners"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "games_owner_place" ON "games" USING btree ("owner_id",coalesce("date", '') desc,"id" desc);--> statement-breakpoint
CREATE INDEX "games_search" ON "games" USING gin ("search_text" gin_trgm_ops);--> statement-breakpoint
ALTER TABLE "evaluations" ADD CONSTRAINT "evaluations_kind" CHECK (kind in ('chess', 'shogi'));--> statement-breakpoint
ALTER TABLE "games" ADD CONSTRAINT "games_kind" CHECK (kind in ('chess', 'shogi'));--> statement-breakpoint
ALTER TABLE "games" ADD CONSTRAINT "games_result" CHECK (result in ('1-0', '0-1', '1/2-1/2', '*'));--> statement-breakpoint
ALTER TABLE "games" ADD CONSTRAINT "games_own_side" CHECK (own_side in (0, 1));--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_state" CHECK (state in ('uploading', 'queued', 'running', 'done', 'cancelled', 'failed'));