DROP INDEX "games_words";--> statement-breakpoint
CREATE INDEX "games_words" ON "games" USING gin ("words" gin_trgm_ops) WHERE words is not null;