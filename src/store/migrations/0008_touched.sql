ALTER TABLE "files" ADD COLUMN "touched_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "files" ADD COLUMN "marked_at" timestamp with time zone;