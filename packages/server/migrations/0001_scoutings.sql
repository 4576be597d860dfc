CREATE TABLE "scoutings" (
	"id" text PRIMARY KEY NOT NULL,
	"moveset" text NOT NULL,
	"state" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
