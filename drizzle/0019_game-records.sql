CREATE TABLE "game_records" (
	"game_id" bigint PRIMARY KEY NOT NULL,
	"nodes" jsonb NOT NULL,
	"tags" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "game_records" ADD CONSTRAINT "game_records_game_id_games_id_fk" FOREIGN KEY ("game_id") REFERENCES "public"."games"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
INSERT INTO "game_records" ("game_id", "nodes", "tags") SELECT "id", "nodes", "tags" FROM "games";--> statement-breakpoint
ALTER TABLE "games" DROP COLUMN "nodes";--> statement-breakpoint
ALTER TABLE "games" DROP COLUMN "tags";