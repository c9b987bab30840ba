CREATE TABLE "base_blocks" (
	"segment_id" bigint NOT NULL,
	"first" bigint NOT NULL,
	"bytes" "bytea" NOT NULL,
	CONSTRAINT "base_blocks_segment_id_first_pk" PRIMARY KEY("segment_id","first")
) PARTITION BY RANGE ("first");
--> statement-breakpoint
CREATE TABLE "base_blocks_0" PARTITION OF "base_blocks" FOR VALUES FROM (MINVALUE) TO ('-6917529027641081856');
--> statement-breakpoint
CREATE TABLE "base_blocks_1" PARTITION OF "base_blocks" FOR VALUES FROM ('-6917529027641081856') TO ('-4611686018427387904');
--> statement-breakpoint
CREATE TABLE "base_blocks_2" PARTITION OF "base_blocks" FOR VALUES FROM ('-4611686018427387904') TO ('-2305843009213693952');
--> statement-breakpoint
CREATE TABLE "base_blocks_3" PARTITION OF "base_blocks" FOR VALUES FROM ('-2305843009213693952') TO ('0');
--> statement-breakpoint
CREATE TABLE "base_blocks_4" PARTITION OF "base_blocks" FOR VALUES FROM ('0') TO ('2305843009213693952');
--> statement-breakpoint
CREATE TABLE "base_blocks_5" PARTITION OF "base_blocks" FOR VALUES FROM ('2305843009213693952') TO ('4611686018427387904');
--> statement-breakpoint
CREATE TABLE "base_blocks_6" PARTITION OF "base_blocks" FOR VALUES FROM ('4611686018427387904') TO ('6917529027641081856');
--> statement-breakpoint
CREATE TABLE "base_blocks_7" PARTITION OF "base_blocks" FOR VALUES FROM ('6917529027641081856') TO (MAXVALUE);
--> statement-breakpoint
CREATE TABLE "base_games" (
	"base_id" bigint NOT NULL,
	"number" integer NOT NULL,
	"game_id" bigint,
	"game_version" integer,
	"fingerprint" text,
	"first_player_id" integer,
	"second_player_id" integer,
	"first_rating" smallint,
	"second_rating" smallint,
	"result" text NOT NULL,
	"date" text,
	"time_class" text,
	"rated" boolean,
	"event" text,
	"start" text,
	"moves" "bytea" NOT NULL,
	"tags" jsonb NOT NULL,
	CONSTRAINT "base_games_base_id_number_pk" PRIMARY KEY("base_id","number")
);
--> statement-breakpoint
CREATE TABLE "base_players" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "base_players_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"base_id" bigint NOT NULL,
	"key" text NOT NULL,
	"name" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "base_segments" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "base_segments_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"base_id" bigint NOT NULL,
	"from_number" integer NOT NULL,
	"to_number" integer NOT NULL,
	"positions" integer NOT NULL,
	"facts" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "bases" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "bases_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"owner_id" uuid NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"source" text NOT NULL,
	"collection_id" bigint,
	"size" integer DEFAULT 0 NOT NULL,
	"indexed" integer DEFAULT 0 NOT NULL,
	"gone" integer DEFAULT 0 NOT NULL,
	"version" integer DEFAULT 0 NOT NULL,
	"seen" bigint DEFAULT 0 NOT NULL,
	"seen_members" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "bases_kind" CHECK (kind in ('chess', 'shogi')),
	CONSTRAINT "bases_source" CHECK (source in ('files', 'collection', 'library')),
	CONSTRAINT "bases_collection" CHECK ((source = 'collection') = (collection_id is not null))
);
--> statement-breakpoint
ALTER TABLE "imports" ADD COLUMN "base_id" bigint;--> statement-breakpoint
ALTER TABLE "base_blocks" ADD CONSTRAINT "base_blocks_segment_id_base_segments_id_fk" FOREIGN KEY ("segment_id") REFERENCES "public"."base_segments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "base_games" ADD CONSTRAINT "base_games_base_id_bases_id_fk" FOREIGN KEY ("base_id") REFERENCES "public"."bases"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "base_players" ADD CONSTRAINT "base_players_base_id_bases_id_fk" FOREIGN KEY ("base_id") REFERENCES "public"."bases"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "base_segments" ADD CONSTRAINT "base_segments_base_id_bases_id_fk" FOREIGN KEY ("base_id") REFERENCES "public"."bases"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bases" ADD CONSTRAINT "bases_owner_id_owners_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."owners"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bases" ADD CONSTRAINT "bases_collection_id_collections_id_fk" FOREIGN KEY ("collection_id") REFERENCES "public"."collections"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "base_games_fingerprint" ON "base_games" USING btree ("base_id","fingerprint");--> statement-breakpoint
CREATE INDEX "base_games_gone" ON "base_games" USING btree ("base_id") WHERE fingerprint is null;--> statement-breakpoint
CREATE INDEX "base_games_game" ON "base_games" USING btree ("game_id") WHERE game_id is not null;--> statement-breakpoint
CREATE UNIQUE INDEX "base_players_key" ON "base_players" USING btree ("base_id","key");--> statement-breakpoint
CREATE UNIQUE INDEX "base_segments_base" ON "base_segments" USING btree ("base_id","from_number");--> statement-breakpoint
CREATE UNIQUE INDEX "bases_owner_name" ON "bases" USING btree ("owner_id","name");--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_base_id_bases_id_fk" FOREIGN KEY ("base_id") REFERENCES "public"."bases"("id") ON DELETE cascade ON UPDATE no action;