CREATE TABLE "import_failures" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "import_failures_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"import_id" bigint NOT NULL,
	"problem" jsonb NOT NULL,
	"format" text,
	"text" text
);
--> statement-breakpoint
ALTER TABLE "imports" ADD COLUMN "collection_id" bigint;--> statement-breakpoint
ALTER TABLE "imports" ADD COLUMN "labels" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "imports" ADD COLUMN "player_id" bigint;--> statement-breakpoint
ALTER TABLE "imports" ADD COLUMN "started_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "imports" ADD COLUMN "read_bytes" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "imports" ADD COLUMN "merged" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "import_failures" ADD CONSTRAINT "import_failures_import_id_imports_id_fk" FOREIGN KEY ("import_id") REFERENCES "public"."imports"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "import_failures_import" ON "import_failures" USING btree ("import_id");--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_collection_id_collections_id_fk" FOREIGN KEY ("collection_id") REFERENCES "public"."collections"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_player_id_players_id_fk" FOREIGN KEY ("player_id") REFERENCES "public"."players"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "import_pieces" ALTER COLUMN "bytes" SET STORAGE EXTERNAL;
