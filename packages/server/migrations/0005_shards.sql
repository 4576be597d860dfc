CREATE TABLE "legs" (
	"scouting" text NOT NULL,
	"begun" integer NOT NULL,
	"leg" integer NOT NULL,
	"shard" integer NOT NULL,
	"result" "bytea" NOT NULL,
	"shown" text NOT NULL,
	"situations" integer NOT NULL,
	"ticks" integer NOT NULL,
	CONSTRAINT "legs_scouting_begun_leg_shard_pk" PRIMARY KEY("scouting","begun","leg","shard")
);
--> statement-breakpoint
CREATE TABLE "workers" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"threads" integer NOT NULL,
	"doing" text NOT NULL,
	"seen_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_scouting_scoutings_id_fk" FOREIGN KEY ("scouting") REFERENCES "public"."scoutings"("id") ON DELETE cascade ON UPDATE no action;