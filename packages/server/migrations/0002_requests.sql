CREATE TABLE "requests" (
	"key" text PRIMARY KEY NOT NULL,
	"hash" text NOT NULL,
	"made" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
