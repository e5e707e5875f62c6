CREATE TABLE "asset_sources" (
	"asset" text NOT NULL,
	"source" text NOT NULL,
	CONSTRAINT "asset_sources_asset_source_pk" PRIMARY KEY("asset","source")
);
--> statement-breakpoint
CREATE TABLE "assets" (
	"name" text PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"edition" text NOT NULL,
	"bytes" bigint NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"used_at" timestamp with time zone DEFAULT now() NOT NULL,
	"unneeded_since" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "lesson_media" (
	"lesson_id" text NOT NULL,
	"media" text NOT NULL,
	CONSTRAINT "lesson_media_lesson_id_media_pk" PRIMARY KEY("lesson_id","media")
);
--> statement-breakpoint
ALTER TABLE "asset_sources" ADD CONSTRAINT "asset_sources_asset_assets_name_fk" FOREIGN KEY ("asset") REFERENCES "public"."assets"("name") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lesson_media" ADD CONSTRAINT "lesson_media_lesson_id_lessons_id_fk" FOREIGN KEY ("lesson_id") REFERENCES "public"."lessons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "assets_by_source" ON "asset_sources" USING btree ("source");--> statement-breakpoint
CREATE INDEX "assets_by_kind" ON "assets" USING btree ("kind","used_at");--> statement-breakpoint
INSERT INTO "lesson_media" SELECT DISTINCT "id", (regexp_matches("document"::text, '[0-9a-f]{64}', 'g'))[1] FROM "lessons";
