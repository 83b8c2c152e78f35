CREATE TABLE "comparisons" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"batch_id" uuid NOT NULL,
	"choices" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "weighings" (
	"assignment_id" uuid PRIMARY KEY NOT NULL,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL,
	"plan" jsonb,
	"error" text
);
--> statement-breakpoint
ALTER TABLE "assignments" ADD COLUMN "choice" jsonb;--> statement-breakpoint
ALTER TABLE "trials" ADD COLUMN "worst" jsonb;--> statement-breakpoint
ALTER TABLE "trials" ADD COLUMN "shift" jsonb;--> statement-breakpoint
ALTER TABLE "trials" ADD COLUMN "ms" integer;--> statement-breakpoint
ALTER TABLE "comparisons" ADD CONSTRAINT "comparisons_batch_id_batches_id_fk" FOREIGN KEY ("batch_id") REFERENCES "public"."batches"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "weighings" ADD CONSTRAINT "weighings_assignment_id_assignments_id_fk" FOREIGN KEY ("assignment_id") REFERENCES "public"."assignments"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "comparisons_batch" ON "comparisons" USING btree ("batch_id");