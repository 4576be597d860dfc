CREATE TABLE "changes" (
	"number" bigserial PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"id" text NOT NULL,
	"revision" integer,
	"created_at" timestamp with time zone NOT NULL
);
