CREATE TABLE "jobs" (
	"id" text PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"input" jsonb NOT NULL,
	"lesson_id" text,
	"state" text NOT NULL,
	"progress" real DEFAULT 0 NOT NULL,
	"error" text,
	"error_code" text,
	"result" jsonb,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"finished_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "jobs" ADD CONSTRAINT "jobs_lesson_id_lessons_id_fk" FOREIGN KEY ("lesson_id") REFERENCES "public"."lessons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "jobs_by_lesson" ON "jobs" USING btree ("lesson_id");--> statement-breakpoint
CREATE INDEX "jobs_by_state" ON "jobs" USING btree ("state");--> statement-breakpoint
INSERT INTO "jobs" ("id", "kind", "input", "state", "progress", "error", "error_code", "result", "created_at")
SELECT "id", 'import', jsonb_build_object('kind', 'import', 'name', "name", 'purpose', "purpose", 'course', "course_id"),
  "state", "progress", "error", CASE WHEN "state" = 'failed' THEN 'refused' END,
  CASE WHEN "state" = 'done' THEN jsonb_build_object('media', "media", 'lesson', "lesson_id") END, "created_at" FROM "imports";
--> statement-breakpoint
INSERT INTO "jobs" ("id", "kind", "input", "lesson_id", "state", "progress", "error", "error_code", "result", "created_at", "finished_at")
SELECT "id", 'export', jsonb_build_object('kind', 'export', 'lesson', "lesson_id", 'revision', "revision", 'file', "kind", 'language', null),
  "lesson_id", "state", "progress", "error", CASE WHEN "state" = 'failed' THEN 'refused' END,
  CASE WHEN "state" = 'done' THEN jsonb_build_object('balance', "balance", 'bytes', "bytes") END, "created_at", "finished_at" FROM "exports";
--> statement-breakpoint
INSERT INTO "jobs" ("id", "kind", "input", "lesson_id", "state", "progress", "error", "error_code", "result", "created_at")
SELECT "id", "kind", "input", (SELECT "lessons"."id" FROM "lessons" WHERE "lessons"."id" = "tasks"."input"->>'lesson'),
  "state", "progress", "error", CASE WHEN "state" = 'failed' THEN 'refused' END, "result", "created_at" FROM "tasks"
ON CONFLICT DO NOTHING;
