ALTER TABLE "courses" ADD COLUMN "ends" jsonb;--> statement-breakpoint
ALTER TABLE "courses" ADD COLUMN "delivery" jsonb DEFAULT '[]'::jsonb NOT NULL;