ALTER TABLE "runs" ADD COLUMN "removed" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "former" jsonb;--> statement-breakpoint
ALTER TABLE "scenes" ADD COLUMN "removed" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "shots" ADD COLUMN "removed" timestamp with time zone;