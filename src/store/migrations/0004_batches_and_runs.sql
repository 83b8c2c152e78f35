CREATE TABLE "shares" (
	"batch_id" uuid NOT NULL,
	"revision_id" uuid NOT NULL,
	"state" jsonb NOT NULL,
	CONSTRAINT "shares_batch_id_revision_id_pk" PRIMARY KEY("batch_id","revision_id")
);
--> statement-breakpoint
CREATE TABLE "workers" (
	"id" text PRIMARY KEY NOT NULL,
	"instance" text NOT NULL,
	"beat" bigint DEFAULT 0 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "assignments" ADD COLUMN "traced" jsonb;--> statement-breakpoint
ALTER TABLE "assignments" ADD COLUMN "wanted" jsonb;--> statement-breakpoint
ALTER TABLE "assignments" ADD COLUMN "share" jsonb;--> statement-breakpoint
ALTER TABLE "batch_photos" ADD COLUMN "folder" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "batches" ADD COLUMN "messages" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "files" ADD COLUMN "gone" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "run_items" ADD COLUMN "difference" double precision;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "seq" integer NOT NULL GENERATED ALWAYS AS IDENTITY (sequence name "runs_seq_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1);--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "title" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "limit" jsonb;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "resumed_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "finished_then" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "paused_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "pause_reason" text;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "cancelled_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "files_deleted_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "shares" ADD CONSTRAINT "shares_batch_id_batches_id_fk" FOREIGN KEY ("batch_id") REFERENCES "public"."batches"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shares" ADD CONSTRAINT "shares_revision_id_brief_revisions_id_fk" FOREIGN KEY ("revision_id") REFERENCES "public"."brief_revisions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "run_items_name" ON "run_items" USING btree ("run_id",lower("output_name"));--> statement-breakpoint
CREATE INDEX "run_items_left" ON "run_items" USING btree ("run_id","state");