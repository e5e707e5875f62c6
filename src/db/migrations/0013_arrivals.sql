ALTER TABLE "recordings" RENAME TO "arrivals";--> statement-breakpoint
ALTER TABLE "arrivals" DROP CONSTRAINT "recordings_lesson_id_lessons_id_fk";
--> statement-breakpoint
ALTER TABLE "arrivals" ADD CONSTRAINT "arrivals_lesson_id_lessons_id_fk" FOREIGN KEY ("lesson_id") REFERENCES "public"."lessons"("id") ON DELETE cascade ON UPDATE no action;