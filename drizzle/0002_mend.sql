CREATE TABLE "import_pieces" (
	"import_id" bigint NOT NULL,
	"place" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	CONSTRAINT "import_pieces_import_id_place_pk" PRIMARY KEY("import_id","place")
);
--> statement-breakpoint
ALTER TABLE "imports" ALTER COLUMN "state" SET DEFAULT 'uploading';--> statement-breakpoint
ALTER TABLE "studies" ALTER COLUMN "node" SET DATA TYPE bigint;--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "search_text" text;--> statement-breakpoint
ALTER TABLE "imports" ADD COLUMN "failures" smallint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "imports" ADD COLUMN "notes" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "studies" ADD COLUMN "failures" smallint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "sweeps" ADD COLUMN "failures" smallint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "import_pieces" ADD CONSTRAINT "import_pieces_import_id_imports_id_fk" FOREIGN KEY ("import_id") REFERENCES "public"."imports"("id") ON DELETE cascade ON UPDATE no action;