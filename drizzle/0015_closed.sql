ALTER TABLE "owners" ADD COLUMN "closed_at" timestamp with time zone;--> statement-breakpoint
CREATE INDEX "games_owner_event" ON "games" USING btree ("owner_id","event");