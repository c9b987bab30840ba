ALTER TABLE "grants" DROP CONSTRAINT "grants_of";--> statement-breakpoint
DROP INDEX "grants_one";--> statement-breakpoint
ALTER TABLE "grants" ADD COLUMN "base_id" bigint;--> statement-breakpoint
ALTER TABLE "grants" ADD CONSTRAINT "grants_base_id_bases_id_fk" FOREIGN KEY ("base_id") REFERENCES "public"."bases"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "grants_one" ON "grants" USING btree ("owner_id","grantee_id",coalesce("game_id", 0),coalesce("collection_id", 0),coalesce("base_id", 0)) WHERE grantee_id is not null;--> statement-breakpoint
ALTER TABLE "grants" ADD CONSTRAINT "grants_base" CHECK (base_id is null or ("right" = 'read' and link is null));--> statement-breakpoint
ALTER TABLE "grants" ADD CONSTRAINT "grants_of" CHECK (num_nonnulls(game_id, collection_id, base_id) <= 1);