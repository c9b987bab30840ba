CREATE TABLE "saved_filters" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "saved_filters_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"owner_id" uuid NOT NULL,
	"name" text NOT NULL,
	"query" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "words" text;--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "annotated" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "labels" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "trend" text;--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "turning_points" smallint;--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "depth" real;--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "first_figures" real[];--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "second_figures" real[];--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "opened_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "deleted_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "saved_filters" ADD CONSTRAINT "saved_filters_owner_id_owners_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."owners"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "saved_filters_owner_name" ON "saved_filters" USING btree ("owner_id","name");--> statement-breakpoint
CREATE INDEX "games_words" ON "games" USING gin ("words" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "games_deleted" ON "games" USING btree ("deleted_at") WHERE deleted_at is not null;--> statement-breakpoint
ALTER TABLE "asks" DROP COLUMN "figures";--> statement-breakpoint
ALTER TABLE "games" ADD CONSTRAINT "games_trend" CHECK (trend in ('level', 'one stroke', 'one way', 'slipped', 'turned', 'see-saw'));--> statement-breakpoint
-- what lists read stays in narrow rows: moves, tags and words are put elsewhere
ALTER TABLE "games" SET (toast_tuple_target = 256);--> statement-breakpoint
ALTER TABLE "games"
	ALTER COLUMN "start" SET STORAGE MAIN,
	ALTER COLUMN "first_player" SET STORAGE MAIN,
	ALTER COLUMN "second_player" SET STORAGE MAIN,
	ALTER COLUMN "event" SET STORAGE MAIN,
	ALTER COLUMN "source" SET STORAGE MAIN,
	ALTER COLUMN "fingerprint" SET STORAGE MAIN,
	ALTER COLUMN "search_text" SET STORAGE MAIN,
	ALTER COLUMN "labels" SET STORAGE MAIN,
	ALTER COLUMN "first_figures" SET STORAGE MAIN,
	ALTER COLUMN "second_figures" SET STORAGE MAIN;--> statement-breakpoint
-- is made anew at the next start, with what is searched and told apart since
UPDATE "games" SET "search_text" = NULL;--> statement-breakpoint
-- figures are kept with games from now on: the worker reckons them anew
UPDATE "asks" SET "rules" = NULL WHERE "plan" = 'sweep' AND "findings" IS NOT NULL;
