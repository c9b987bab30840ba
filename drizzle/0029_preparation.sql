ALTER TABLE "games" ADD COLUMN "prepared_for" smallint;--> statement-breakpoint
CREATE INDEX "games_prepared" ON "games" USING btree ("owner_id") WHERE prepared_for is not null;--> statement-breakpoint
ALTER TABLE "games" ADD CONSTRAINT "games_prepared_for" CHECK (prepared_for in (0, 1));