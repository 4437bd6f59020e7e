ALTER TABLE "shots" ADD COLUMN "kind" text DEFAULT 'picture' NOT NULL;--> statement-breakpoint
ALTER TABLE "shots" ADD COLUMN "film_time" double precision;--> statement-breakpoint
ALTER TABLE "shots" ADD COLUMN "folder" text;--> statement-breakpoint
ALTER TABLE "shots" ADD COLUMN "tags" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "shots" ADD COLUMN "notes" text DEFAULT '' NOT NULL;