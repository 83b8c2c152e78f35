ALTER TABLE "batch_photos" ALTER COLUMN "alt" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "batch_photos" ALTER COLUMN "alt" DROP NOT NULL;--> statement-breakpoint
UPDATE "batch_photos" SET "alt" = NULL WHERE "alt" = '';
