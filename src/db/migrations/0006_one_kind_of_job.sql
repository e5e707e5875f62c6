DROP TABLE "exports" CASCADE;--> statement-breakpoint
DROP TABLE "imports" CASCADE;--> statement-breakpoint
DROP TABLE "tasks" CASCADE;