CREATE TABLE "watches" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"workspace_id" uuid NOT NULL,
	"folder" text NOT NULL,
	"out" text NOT NULL,
	"brief" jsonb NOT NULL,
	"ready" integer DEFAULT 0 NOT NULL,
	"needs_you" integer DEFAULT 0 NOT NULL,
	"said" text DEFAULT '' NOT NULL,
	"problem" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"stopped_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "watches" ADD CONSTRAINT "watches_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;