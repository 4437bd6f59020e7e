CREATE TABLE "report_states" (
	"report" text NOT NULL,
	"revision" integer NOT NULL,
	"document" jsonb NOT NULL,
	"saved" timestamp with time zone NOT NULL,
	"replaced" timestamp with time zone DEFAULT now() NOT NULL,
	"note" text,
	CONSTRAINT "report_states_report_revision_pk" PRIMARY KEY("report","revision")
);
--> statement-breakpoint
CREATE TABLE "reports" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"document" jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"changed" timestamp with time zone DEFAULT now() NOT NULL,
	"removed" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "report_states" ADD CONSTRAINT "report_states_report_reports_id_fk" FOREIGN KEY ("report") REFERENCES "public"."reports"("id") ON DELETE cascade ON UPDATE no action;