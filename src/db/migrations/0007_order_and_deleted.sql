ALTER TABLE "courses" ADD COLUMN "place" integer;--> statement-breakpoint
ALTER TABLE "courses" ADD COLUMN "deleted_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "lessons" ADD COLUMN "place" integer;--> statement-breakpoint
ALTER TABLE "lessons" ADD COLUMN "deleted_at" timestamp with time zone;