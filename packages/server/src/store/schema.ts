import {
  bigserial,
  boolean,
  customType,
  foreignKey,
  integer,
  pgTable,
  primaryKey,
  text,
  timestamp,
} from 'drizzle-orm/pg-core';

const bytea = customType<{ data: Uint8Array }>({ dataType: () => 'bytea' });

/** A document by its kind and id; `head` is its newest revision. */
export const documents = pgTable(
  'documents',
  {
    kind: text('kind', { enum: ['moveset', 'course', 'tape'] }).notNull(),
    id: text('id').notNull(),
    name: text('name').notNull(),
    head: integer('head').notNull(),
    updatedAt: timestamp('updated_at', { withTimezone: true }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.kind, table.id] })],
);

/** What a document was; rows are only ever added, or removed with their document. */
export const revisions = pgTable(
  'revisions',
  {
    kind: text('kind', { enum: ['moveset', 'course', 'tape'] }).notNull(),
    id: text('id').notNull(),
    number: integer('number').notNull(),
    parent: integer('parent'),
    name: text('name').notNull(),
    hash: text('hash').notNull(),
    message: text('message').notNull(),
    /** What a person calls this revision; the rest of it never changes. */
    label: text('label'),
    text: text('text').notNull(),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.kind, table.id, table.number] }),
    foreignKey({ columns: [table.kind, table.id], foreignColumns: [documents.kind, documents.id] }).onDelete(
      'cascade',
    ),
  ],
);

/** Searches in the background; `state` is the whole of one as JSON, as the contract has it. */
export const scoutings = pgTable('scoutings', {
  id: text('id').primaryKey(),
  moveset: text('moveset').notNull(),
  state: text('state').notNull(),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
  /** What `state` says of it, for those who look after what is under way: reports are long. */
  underWay: boolean('under_way').notNull().default(false),
});

/** Facts about the installation itself, such as that the samples were loaded once. */
export const settings = pgTable('settings', {
  key: text('key').primaryKey(),
  value: text('value').notNull(),
});

/**
 * What became other, in the order in which it was committed, for those who follow it: a document at a revision, or without
 * one when it was removed. Old rows are let go; who missed them reads everything anew.
 */
export const changes = pgTable('changes', {
  number: bigserial('number', { mode: 'number' }).primaryKey(),
  kind: text('kind', { enum: ['moveset', 'course', 'tape'] }).notNull(),
  id: text('id').notNull(),
  revision: integer('revision'),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
});

/** What shards of scoutings found in their legs, written once by whichever worker was first. */
export const legs = pgTable(
  'legs',
  {
    scouting: text('scouting')
      .notNull()
      .references(() => scoutings.id, { onDelete: 'cascade' }),
    /** How often the scouting was begun; what an earlier try left is not looked at. */
    begun: integer('begun').notNull(),
    leg: integer('leg').notNull(),
    shard: integer('shard').notNull(),
    /** What the other shards need of it: a `LegResult`, packed. */
    result: bytea('result').notNull(),
    /** What is shown of it while the scouting runs, as JSON. */
    shown: text('shown').notNull(),
    situations: integer('situations').notNull(),
    ticks: integer('ticks').notNull(),
  },
  (table) => [primaryKey({ columns: [table.scouting, table.begun, table.leg, table.shard] })],
);

/** Workers that are there; `doing` is what each of them works at, as JSON. One that says nothing any more is gone. */
export const workers = pgTable('workers', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  threads: integer('threads').notNull(),
  doing: text('doing').notNull(),
  seenAt: timestamp('seen_at', { withTimezone: true }).notNull(),
});

/** Requests with an `Idempotency-Key` that made something: a repeated one is answered with what the first one made. */
export const requests = pgTable('requests', {
  key: text('key').primaryKey(),
  /** SHA-256 of what was asked for: another request under the same key is a mistake of the client. */
  hash: text('hash').notNull(),
  /** What it made, such as `moveset/courier`. */
  made: text('made').notNull(),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
});
