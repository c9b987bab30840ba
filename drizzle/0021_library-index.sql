DROP INDEX "games_owner_place";--> statement-breakpoint
ALTER TABLE "games" ADD COLUMN "changed" bigint DEFAULT txid_current() NOT NULL;--> statement-breakpoint
CREATE INDEX "games_owner_changed" ON "games" USING btree ("owner_id","changed");--> statement-breakpoint
CREATE FUNCTION games_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  NEW.changed := txid_current();
  RETURN NEW;
END $$;--> statement-breakpoint
CREATE TRIGGER games_changed BEFORE UPDATE ON games FOR EACH ROW EXECUTE FUNCTION games_changed();
