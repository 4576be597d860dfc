CREATE TABLE "documents" (
	"kind" text NOT NULL,
	"id" text NOT NULL,
	"name" text NOT NULL,
	"head" integer NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	CONSTRAINT "documents_kind_id_pk" PRIMARY KEY("kind","id")
);
--> statement-breakpoint
CREATE TABLE "revisions" (
	"kind" text NOT NULL,
	"id" text NOT NULL,
	"number" integer NOT NULL,
	"parent" integer,
	"name" text NOT NULL,
	"hash" text NOT NULL,
	"message" text NOT NULL,
	"text" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "revisions_kind_id_number_pk" PRIMARY KEY("kind","id","number")
);
--> statement-breakpoint
CREATE TABLE "settings" (
	"key" text PRIMARY KEY NOT NULL,
	"value" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "revisions" ADD CONSTRAINT "revisions_kind_id_documents_kind_id_fk" FOREIGN KEY ("kind","id") REFERENCES "public"."documents"("kind","id") ON DELETE cascade ON UPDATE no action;