ALTER TABLE "runs" ALTER COLUMN "revision_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "batch_photos" ADD COLUMN "revision_id" uuid;--> statement-breakpoint
ALTER TABLE "briefs" ADD COLUMN "shelf_revision_id" uuid;--> statement-breakpoint
ALTER TABLE "batch_photos" ADD CONSTRAINT "batch_photos_revision_id_brief_revisions_id_fk" FOREIGN KEY ("revision_id") REFERENCES "public"."brief_revisions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
UPDATE "briefs" SET "shelf_revision_id" = (
  SELECT r."id" FROM "brief_revisions" r WHERE r."brief_id" = "briefs"."id"
  ORDER BY CASE WHEN "briefs"."shipped" THEN r."number" ELSE -r."number" END LIMIT 1
);
