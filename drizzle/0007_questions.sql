-- what was found is named by the question alone from here on, not by the sweep that asked it
CREATE TEMP TABLE "named" AS
SELECT "price"."id", row_number() OVER (
  PARTITION BY "price"."key", "price"."kind", "price"."history", "price"."engine", "price"."only_move", "main"."depth", "main"."nodes"
  ORDER BY "price"."id"
) AS "place", 'depth ' || "main"."depth" || ' nodes ' || greatest(1, 3 * "main"."nodes") || ' mate lines 1' AS "settings"
FROM "evaluations" "price" JOIN "evaluations" "main"
  ON "main"."key" = "price"."key" AND "main"."kind" = "price"."kind" AND "main"."history" = "price"."history"
  AND "main"."engine" = "price"."engine" AND "main"."settings" = "price"."settings" AND "main"."only_move" = ''
WHERE "price"."only_move" <> '';--> statement-breakpoint
DELETE FROM "evaluations" USING "named" WHERE "evaluations"."id" = "named"."id" AND "named"."place" > 1;--> statement-breakpoint
UPDATE "evaluations" SET "settings" = "named"."settings" FROM "named" WHERE "evaluations"."id" = "named"."id";--> statement-breakpoint
DROP TABLE "named";--> statement-breakpoint
UPDATE "evaluations" SET "settings" = regexp_replace("settings", '^depth (\d+) lines', 'depth \1 nodes 20000000 lines')
WHERE "only_move" = '' AND "settings" ~ '^depth \d+ lines';
