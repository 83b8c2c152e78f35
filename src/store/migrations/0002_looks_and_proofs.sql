ALTER TABLE "planned_pictures" ADD COLUMN "kernel" text;--> statement-breakpoint
ALTER TABLE "planned_pictures" ADD COLUMN "conversion" jsonb;--> statement-breakpoint
ALTER TABLE "planned_pictures" ADD COLUMN "screen" double precision;--> statement-breakpoint
ALTER TABLE "proofs" ADD COLUMN "dropped" jsonb DEFAULT '[]'::jsonb NOT NULL;