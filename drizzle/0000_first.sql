CREATE TABLE "evaluations" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "evaluations_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"kind" text NOT NULL,
	"key" bigint NOT NULL,
	"history" text NOT NULL,
	"engine" text NOT NULL,
	"settings" text NOT NULL,
	"only_move" text NOT NULL,
	"depth" smallint NOT NULL,
	"nodes" bigint NOT NULL,
	"milliseconds" integer NOT NULL,
	"lines" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "game_steps" (
	"game_id" bigint NOT NULL,
	"version" integer NOT NULL,
	"step" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "game_steps_game_id_version_pk" PRIMARY KEY("game_id","version")
);
--> statement-breakpoint
CREATE TABLE "games" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "games_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"owner_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"nodes" jsonb NOT NULL,
	"start" text NOT NULL,
	"tags" jsonb NOT NULL,
	"result" text NOT NULL,
	"end_reason" text,
	"first_player" text,
	"second_player" text,
	"first_rating" smallint,
	"second_rating" smallint,
	"first_country" text,
	"second_country" text,
	"event" text,
	"round" text,
	"date" text,
	"time" text,
	"rated" boolean,
	"time_control" text,
	"handicap" text,
	"source" text NOT NULL,
	"plies" integer NOT NULL,
	"fingerprint" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "imports" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "imports_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"owner_id" uuid NOT NULL,
	"name" text NOT NULL,
	"bytes" "bytea" NOT NULL,
	"size" integer NOT NULL,
	"as_copies" boolean DEFAULT false NOT NULL,
	"state" text DEFAULT 'queued' NOT NULL,
	"read" integer DEFAULT 0 NOT NULL,
	"kept" integer DEFAULT 0 NOT NULL,
	"duplicates" integer DEFAULT 0 NOT NULL,
	"failed" integer DEFAULT 0 NOT NULL,
	"problems" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"game_ids" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"finished_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "owners" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"player_name" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "positions" (
	"game_id" bigint NOT NULL,
	"ply" smallint NOT NULL,
	"key" bigint NOT NULL,
	CONSTRAINT "positions_game_id_ply_pk" PRIMARY KEY("game_id","ply")
);
--> statement-breakpoint
CREATE TABLE "sweeps" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "sweeps_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"owner_id" uuid NOT NULL,
	"game_id" bigint NOT NULL,
	"settings" text NOT NULL,
	"engine" text,
	"state" text DEFAULT 'queued' NOT NULL,
	"done" integer DEFAULT 0 NOT NULL,
	"total" integer NOT NULL,
	"error" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"finished_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "game_steps" ADD CONSTRAINT "game_steps_game_id_games_id_fk" FOREIGN KEY ("game_id") REFERENCES "public"."games"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "games" ADD CONSTRAINT "games_owner_id_owners_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."owners"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_owner_id_owners_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."owners"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "positions" ADD CONSTRAINT "positions_game_id_games_id_fk" FOREIGN KEY ("game_id") REFERENCES "public"."games"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sweeps" ADD CONSTRAINT "sweeps_owner_id_owners_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."owners"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sweeps" ADD CONSTRAINT "sweeps_game_id_games_id_fk" FOREIGN KEY ("game_id") REFERENCES "public"."games"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "evaluations_fact" ON "evaluations" USING btree ("key","kind","history","engine","settings","only_move");--> statement-breakpoint
CREATE UNIQUE INDEX "games_owner_fingerprint" ON "games" USING btree ("owner_id","fingerprint");--> statement-breakpoint
CREATE INDEX "games_owner_date" ON "games" USING btree ("owner_id","date" DESC NULLS LAST,"id" DESC NULLS LAST);--> statement-breakpoint
CREATE INDEX "imports_owner" ON "imports" USING btree ("owner_id","id" DESC NULLS LAST);--> statement-breakpoint
CREATE INDEX "positions_key" ON "positions" USING btree ("key");--> statement-breakpoint
CREATE INDEX "sweeps_game" ON "sweeps" USING btree ("game_id","id" DESC NULLS LAST);--> statement-breakpoint
CREATE UNIQUE INDEX "sweeps_open" ON "sweeps" USING btree ("game_id") WHERE state in ('queued', 'running');--> statement-breakpoint
INSERT INTO "owners" ("id", "player_name") VALUES ('00000000-0000-4000-8000-000000000001', 'Mirela Tanase');
