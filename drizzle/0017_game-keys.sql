CREATE TABLE "game_keys" (
	"game_id" bigint PRIMARY KEY NOT NULL,
	"owner_id" uuid NOT NULL,
	"keys" "bytea" NOT NULL
);
--> statement-breakpoint
ALTER TABLE "game_keys" ADD CONSTRAINT "game_keys_game_id_games_id_fk" FOREIGN KEY ("game_id") REFERENCES "public"."games"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "game_keys_owner" ON "game_keys" USING btree ("owner_id");--> statement-breakpoint
-- they are looked through, so they stay in the rows, as they are
ALTER TABLE "game_keys" ALTER COLUMN "keys" SET STORAGE EXTERNAL;--> statement-breakpoint
ALTER TABLE "game_keys" SET (toast_tuple_target = 8160);--> statement-breakpoint
INSERT INTO "game_keys" ("game_id", "owner_id", "keys")
	SELECT "games"."id", "games"."owner_id", string_agg(int8send("positions"."key"), '' ORDER BY "positions"."ply")
	FROM "positions" JOIN "games" ON "games"."id" = "positions"."game_id" GROUP BY "games"."id";
