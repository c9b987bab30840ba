ALTER TABLE "asks" DROP CONSTRAINT "asks_plan";--> statement-breakpoint
ALTER TABLE "asks" DROP CONSTRAINT "asks_state";--> statement-breakpoint
ALTER TABLE "asks" ALTER COLUMN "game_id" DROP NOT NULL;--> statement-breakpoint
CREATE INDEX "asks_waiting" ON "asks" USING btree ("parent_id","id") WHERE state = 'queued';--> statement-breakpoint
CREATE INDEX "asks_batches" ON "asks" USING btree ("id") WHERE plan = 'batch' and state = 'running';--> statement-breakpoint
ALTER TABLE "asks" ADD CONSTRAINT "asks_many" CHECK ((plan = 'batch') = (game_id is null));--> statement-breakpoint
ALTER TABLE "asks" ADD CONSTRAINT "asks_plan" CHECK (plan in ('sweep', 'study', 'batch'));--> statement-breakpoint
ALTER TABLE "asks" ADD CONSTRAINT "asks_state" CHECK (state in ('queued', 'running', 'paused', 'done', 'cancelled', 'failed'));