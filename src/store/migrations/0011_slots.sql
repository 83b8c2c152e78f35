DROP INDEX "batch_photos_same";--> statement-breakpoint
ALTER TABLE "batch_photos" ADD COLUMN "copy" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "batches" ADD COLUMN "slots" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "photos" ADD COLUMN "kind" text;--> statement-breakpoint
CREATE UNIQUE INDEX "batch_photos_same" ON "batch_photos" USING btree ("batch_id","photo_id","copy");--> statement-breakpoint
UPDATE "batches" b SET "slots" = s.slots FROM (
  SELECT p.batch_id, jsonb_agg(jsonb_build_object('id', e.key, 'name', coalesce(r.body->>'name', e.key), 'revisionId', e.value->>'revisionId', 'row', e.value->'batchPhotoId')) AS slots
  FROM "packages" p CROSS JOIN LATERAL jsonb_each(p.slots) e LEFT JOIN "brief_revisions" r ON r.id = (e.value->>'revisionId')::uuid
  GROUP BY p.batch_id
) s WHERE s.batch_id = b.id;--> statement-breakpoint
ALTER TABLE "packages" DROP COLUMN "slots";