CREATE TABLE "ending_surveys" (
	"owner_id" uuid PRIMARY KEY NOT NULL,
	"seen" bigint NOT NULL,
	"files" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "reached_endings" (
	"game_id" bigint NOT NULL,
	"ply" smallint NOT NULL,
	"node" integer NOT NULL,
	"name" text NOT NULL,
	"position" text NOT NULL,
	"worth" smallint,
	"is_passing" boolean DEFAULT false NOT NULL,
	"is_let_go" boolean DEFAULT false NOT NULL,
	CONSTRAINT "reached_endings_game_id_ply_pk" PRIMARY KEY("game_id","ply"),
	CONSTRAINT "reached_endings_worth" CHECK (worth in (-1, 0, 1))
);
--> statement-breakpoint
ALTER TABLE "ending_surveys" ADD CONSTRAINT "ending_surveys_owner_id_owners_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."owners"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reached_endings" ADD CONSTRAINT "reached_endings_game_id_games_id_fk" FOREIGN KEY ("game_id") REFERENCES "public"."games"("id") ON DELETE cascade ON UPDATE no action;