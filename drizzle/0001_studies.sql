CREATE TABLE "external_engines" (
	"name" text PRIMARY KEY NOT NULL,
	"options" jsonb NOT NULL,
	"problem" text,
	"checked_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "studies" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "studies_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"owner_id" uuid NOT NULL,
	"game_id" bigint NOT NULL,
	"node" integer NOT NULL,
	"moves" text[] NOT NULL,
	"engine" text,
	"settings" text NOT NULL,
	"state" text DEFAULT 'queued' NOT NULL,
	"depth" smallint DEFAULT 0 NOT NULL,
	"nodes" bigint DEFAULT 0 NOT NULL,
	"milliseconds" integer DEFAULT 0 NOT NULL,
	"lines" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"error" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"finished_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "studies" ADD CONSTRAINT "studies_owner_id_owners_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."owners"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "studies" ADD CONSTRAINT "studies_game_id_games_id_fk" FOREIGN KEY ("game_id") REFERENCES "public"."games"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "studies_game" ON "studies" USING btree ("game_id","id" DESC NULLS LAST);