CREATE TABLE "side_by_sides" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"document" jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"changed" timestamp with time zone DEFAULT now() NOT NULL,
	"removed" timestamp with time zone
);
