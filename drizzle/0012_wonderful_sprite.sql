ALTER TABLE "imports" ADD COLUMN "sweep" text;--> statement-breakpoint
ALTER TABLE "imports" ADD COLUMN "batch_id" bigint;--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_batch_id_asks_id_fk" FOREIGN KEY ("batch_id") REFERENCES "public"."asks"("id") ON DELETE set null ON UPDATE no action;