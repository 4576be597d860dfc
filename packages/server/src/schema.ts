import { foreignKey, integer, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core';

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
});

/** Facts about the installation itself, such as that the samples were loaded once. */
export const settings = pgTable('settings', {
  key: text('key').primaryKey(),
  value: text('value').notNull(),
});
