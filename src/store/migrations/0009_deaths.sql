CREATE TABLE "deaths" (
	"task" text NOT NULL,
	"subject" text NOT NULL,
	"count" integer NOT NULL,
	CONSTRAINT "deaths_task_subject_pk" PRIMARY KEY("task","subject")
);
