ALTER TABLE "assignments" RENAME COLUMN "wanted" TO "trials_asked";
--> statement-breakpoint
ALTER TABLE "planned_pictures" RENAME COLUMN "screen" TO "dot_screen";
--> statement-breakpoint
UPDATE "assignments" SET "measured" = replace(replace("measured"::text, '"screen":', '"dotScreen":'), '"packing":', '"compression":')::jsonb WHERE "measured" IS NOT NULL;
--> statement-breakpoint
UPDATE "assignments" SET "choice" = replace("choice"::text, '"packing":', '"compression":')::jsonb WHERE "choice"::text LIKE '%"packing":%';
--> statement-breakpoint
UPDATE "assignments" SET "share" = replace("share"::text, '"packing":', '"compression":')::jsonb WHERE "share"::text LIKE '%"packing":%';
--> statement-breakpoint
UPDATE "assignments" SET "traced" = replace("traced"::text, '"packing":', '"compression":')::jsonb WHERE "traced"::text LIKE '%"packing":%';
--> statement-breakpoint
UPDATE "run_items" SET "snapshot" = replace("snapshot"::text, '"packing":', '"compression":')::jsonb WHERE "snapshot"::text LIKE '%"packing":%';
--> statement-breakpoint
UPDATE "trials" SET "setting" = replace("setting"::text, '"packing":', '"compression":')::jsonb WHERE "setting"::text LIKE '%"packing":%';
--> statement-breakpoint
UPDATE "comparisons" SET "choices" = replace("choices"::text, '"packing":', '"compression":')::jsonb WHERE "choices"::text LIKE '%"packing":%';
