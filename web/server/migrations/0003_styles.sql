CREATE TABLE "choices" (
	"about" text PRIMARY KEY NOT NULL,
	"value" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "styles" (
	"id" text PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"document" jsonb NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL,
	"removed" timestamp with time zone
);
--> statement-breakpoint
CREATE INDEX "styles_kind" ON "styles" USING btree ("kind","name");