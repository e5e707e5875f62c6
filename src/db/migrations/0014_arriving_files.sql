DROP INDEX "recordings_by_lesson";--> statement-breakpoint
ALTER TABLE "arrivals" ALTER COLUMN "details" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "arrivals" ADD COLUMN "name" text DEFAULT '' NOT NULL;--> statement-breakpoint
CREATE INDEX "arrivals_by_lesson" ON "arrivals" USING btree ("lesson_id");