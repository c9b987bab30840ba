CREATE TABLE "player_names" (
	"owner_id" uuid NOT NULL,
	"key" text NOT NULL,
	"name" text NOT NULL,
	"player_id" bigint NOT NULL,
	CONSTRAINT "player_names_owner_id_key_pk" PRIMARY KEY("owner_id","key")
);
--> statement-breakpoint
CREATE TABLE "players" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "players_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"owner_id" uuid NOT NULL,
	"name" text NOT NULL,
	"is_self" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "first_player_id" bigint;--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "second_player_id" bigint;--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "time_class" text;--> statement-breakpoint
ALTER TABLE "player_names" ADD CONSTRAINT "player_names_owner_id_owners_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."owners"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "player_names" ADD CONSTRAINT "player_names_player_id_players_id_fk" FOREIGN KEY ("player_id") REFERENCES "public"."players"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "players" ADD CONSTRAINT "players_owner_id_owners_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."owners"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "player_names_player" ON "player_names" USING btree ("player_id");--> statement-breakpoint
CREATE INDEX "players_owner" ON "players" USING btree ("owner_id");--> statement-breakpoint
CREATE UNIQUE INDEX "players_self" ON "players" USING btree ("owner_id") WHERE is_self;--> statement-breakpoint
ALTER TABLE "games" ADD CONSTRAINT "games_first_player_id_players_id_fk" FOREIGN KEY ("first_player_id") REFERENCES "public"."players"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "games" ADD CONSTRAINT "games_second_player_id_players_id_fk" FOREIGN KEY ("second_player_id") REFERENCES "public"."players"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "games_first_player" ON "games" USING btree ("first_player_id");--> statement-breakpoint
CREATE INDEX "games_second_player" ON "games" USING btree ("second_player_id");--> statement-breakpoint
ALTER TABLE "owners" DROP COLUMN "player_name";--> statement-breakpoint
ALTER TABLE "games" ADD CONSTRAINT "games_time_class" CHECK (time_class in ('blitz', 'rapid', 'long'));--> statement-breakpoint
INSERT INTO "players" ("owner_id", "name", "is_self") VALUES ('00000000-0000-4000-8000-000000000001', 'Mirela Tanase', true);--> statement-breakpoint
INSERT INTO "player_names" ("owner_id", "key", "name", "player_id") SELECT "owner_id", 'mirela tanase', "name", "id" FROM "players";
