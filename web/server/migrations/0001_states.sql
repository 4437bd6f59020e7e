CREATE TABLE "scene_states" (
	"scene" text NOT NULL,
	"revision" integer NOT NULL,
	"document" jsonb NOT NULL,
	"saved" timestamp with time zone NOT NULL,
	"replaced" timestamp with time zone DEFAULT now() NOT NULL,
	"note" text,
	CONSTRAINT "scene_states_scene_revision_pk" PRIMARY KEY("scene","revision")
);
--> statement-breakpoint
ALTER TABLE "scenes" ADD COLUMN "revision" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "scene_states" ADD CONSTRAINT "scene_states_scene_scenes_id_fk" FOREIGN KEY ("scene") REFERENCES "public"."scenes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
UPDATE "shots" SET "position" = "ranked"."place" FROM (SELECT "id", row_number() OVER (PARTITION BY "scene" ORDER BY "position", "id") - 1 AS "place" FROM "shots") "ranked" WHERE "ranked"."id" = "shots"."id";--> statement-breakpoint
CREATE UNIQUE INDEX "shots_place" ON "shots" USING btree ("scene","position");