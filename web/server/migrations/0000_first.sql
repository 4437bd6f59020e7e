CREATE TABLE "runs" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"description" jsonb NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "scenes" (
	"id" text PRIMARY KEY NOT NULL,
	"run" text NOT NULL,
	"name" text NOT NULL,
	"document" jsonb NOT NULL,
	"thumbnail" text,
	"changed" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "shots" (
	"id" text PRIMARY KEY NOT NULL,
	"scene" text NOT NULL,
	"name" text NOT NULL,
	"caption" text,
	"position" integer NOT NULL,
	"document" jsonb NOT NULL,
	"thumbnail" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "scenes" ADD CONSTRAINT "scenes_run_runs_id_fk" FOREIGN KEY ("run") REFERENCES "public"."runs"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shots" ADD CONSTRAINT "shots_scene_scenes_id_fk" FOREIGN KEY ("scene") REFERENCES "public"."scenes"("id") ON DELETE cascade ON UPDATE no action;