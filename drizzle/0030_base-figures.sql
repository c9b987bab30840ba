ALTER TABLE "base_games" ADD COLUMN "depth" real;--> statement-breakpoint
ALTER TABLE "base_games" ADD COLUMN "first_figures" real[];--> statement-breakpoint
ALTER TABLE "base_games" ADD COLUMN "second_figures" real[];--> statement-breakpoint
CREATE INDEX "base_games_stated" ON "base_games" USING btree ("base_id") WHERE first_figures is not null;