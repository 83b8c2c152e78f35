DROP INDEX "run_items_same";--> statement-breakpoint
ALTER TABLE "batch_photos" ADD COLUMN "alt" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "run_items" ADD COLUMN "part" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE UNIQUE INDEX "run_items_same" ON "run_items" USING btree ("run_id","assignment_id","part");