CREATE TABLE "attempts" (
	"key" text PRIMARY KEY NOT NULL,
	"count" integer NOT NULL,
	"since" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "collection_games" (
	"collection_id" bigint NOT NULL,
	"game_id" bigint NOT NULL,
	CONSTRAINT "collection_games_collection_id_game_id_pk" PRIMARY KEY("collection_id","game_id")
);
--> statement-breakpoint
CREATE TABLE "collections" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "collections_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"owner_id" uuid NOT NULL,
	"name" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "credentials" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"owner_id" uuid NOT NULL,
	"account_id" text NOT NULL,
	"provider_id" text NOT NULL,
	"password" text,
	"access_token" text,
	"refresh_token" text,
	"id_token" text,
	"access_token_expires_at" timestamp with time zone,
	"refresh_token_expires_at" timestamp with time zone,
	"scope" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "grants" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "grants_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"owner_id" uuid NOT NULL,
	"game_id" bigint,
	"collection_id" bigint,
	"grantee_id" uuid,
	"link" text,
	"right" text NOT NULL,
	"expires_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "grants_link_unique" UNIQUE("link"),
	CONSTRAINT "grants_right" CHECK ("right" in ('read', 'comment', 'edit')),
	CONSTRAINT "grants_to" CHECK ((grantee_id is null) <> (link is null)),
	CONSTRAINT "grants_of" CHECK (game_id is null or collection_id is null),
	CONSTRAINT "grants_link" CHECK (link is null or "right" = 'read'),
	CONSTRAINT "grants_other" CHECK (grantee_id <> owner_id)
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"owner_id" uuid NOT NULL,
	"token" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"ip_address" text,
	"user_agent" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "sessions_token_unique" UNIQUE("token")
);
--> statement-breakpoint
CREATE TABLE "verifications" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"identifier" text NOT NULL,
	"value" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "owners" ADD COLUMN "name" text;--> statement-breakpoint
UPDATE "owners" SET "name" = 'Demo';--> statement-breakpoint
ALTER TABLE "owners" ALTER COLUMN "name" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "owners" ADD COLUMN "username" text;--> statement-breakpoint
UPDATE "owners" SET "username" = 'demo';--> statement-breakpoint
ALTER TABLE "owners" ALTER COLUMN "username" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "owners" ADD COLUMN "email" text;--> statement-breakpoint
UPDATE "owners" SET "email" = '2a97516c354b68848cdbd8f54a226a0a55b21ed138e207ad6c5cbb9c00aa5aea@account.invalid';--> statement-breakpoint
ALTER TABLE "owners" ALTER COLUMN "email" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "owners" ADD COLUMN "email_verified" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "owners" ADD COLUMN "image" text;--> statement-breakpoint
ALTER TABLE "owners" ADD COLUMN "updated_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "collection_games" ADD CONSTRAINT "collection_games_collection_id_collections_id_fk" FOREIGN KEY ("collection_id") REFERENCES "public"."collections"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "collection_games" ADD CONSTRAINT "collection_games_game_id_games_id_fk" FOREIGN KEY ("game_id") REFERENCES "public"."games"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "collections" ADD CONSTRAINT "collections_owner_id_owners_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."owners"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "credentials" ADD CONSTRAINT "credentials_owner_id_owners_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."owners"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "grants" ADD CONSTRAINT "grants_owner_id_owners_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."owners"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "grants" ADD CONSTRAINT "grants_game_id_games_id_fk" FOREIGN KEY ("game_id") REFERENCES "public"."games"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "grants" ADD CONSTRAINT "grants_collection_id_collections_id_fk" FOREIGN KEY ("collection_id") REFERENCES "public"."collections"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "grants" ADD CONSTRAINT "grants_grantee_id_owners_id_fk" FOREIGN KEY ("grantee_id") REFERENCES "public"."owners"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_owner_id_owners_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."owners"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "collection_games_game" ON "collection_games" USING btree ("game_id");--> statement-breakpoint
CREATE UNIQUE INDEX "collections_owner_name" ON "collections" USING btree ("owner_id","name");--> statement-breakpoint
CREATE UNIQUE INDEX "credentials_owner" ON "credentials" USING btree ("owner_id","provider_id");--> statement-breakpoint
CREATE INDEX "grants_owner" ON "grants" USING btree ("owner_id");--> statement-breakpoint
CREATE INDEX "grants_grantee" ON "grants" USING btree ("grantee_id");--> statement-breakpoint
CREATE UNIQUE INDEX "grants_one" ON "grants" USING btree ("owner_id","grantee_id",coalesce("game_id", 0),coalesce("collection_id", 0)) WHERE grantee_id is not null;--> statement-breakpoint
CREATE INDEX "sessions_owner" ON "sessions" USING btree ("owner_id");--> statement-breakpoint
ALTER TABLE "owners" ADD CONSTRAINT "owners_username_unique" UNIQUE("username");--> statement-breakpoint
ALTER TABLE "owners" ADD CONSTRAINT "owners_email_unique" UNIQUE("email");