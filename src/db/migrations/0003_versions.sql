ALTER TABLE "lessons" ADD COLUMN "summary" jsonb;--> statement-breakpoint
ALTER TABLE "revisions" ADD COLUMN "name" text;