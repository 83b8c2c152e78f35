UPDATE "assignments" a SET "current" = false WHERE a."current" AND EXISTS (SELECT 1 FROM "assignments" b WHERE b."batch_photo_id" = a."batch_photo_id" AND b."revision_id" = a."revision_id" AND b."current" AND (b."created_at", b."id") > (a."created_at", a."id"));--> statement-breakpoint
CREATE UNIQUE INDEX "assignments_current" ON "assignments" USING btree ("batch_photo_id","revision_id") WHERE "assignments"."current";--> statement-breakpoint
CREATE INDEX "batch_photos_photo" ON "batch_photos" USING btree ("photo_id");--> statement-breakpoint
CREATE INDEX "photos_file" ON "photos" USING btree ("sha256");--> statement-breakpoint
CREATE INDEX "photos_thumb" ON "photos" USING btree ("thumb_sha256");--> statement-breakpoint
CREATE INDEX "run_items_assignment" ON "run_items" USING btree ("assignment_id");--> statement-breakpoint
CREATE INDEX "run_items_output" ON "run_items" USING btree ("output_sha256");--> statement-breakpoint
CREATE INDEX "runs_batch" ON "runs" USING btree ("batch_id");--> statement-breakpoint
CREATE INDEX "trials_file" ON "trials" USING btree ("sha256");