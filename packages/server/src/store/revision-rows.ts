import type { Revision, StoredDocument } from '@glenmark/contract';
import { revisions } from './schema.js';

/** A revision as it is kept. */
export type RevisionRow = typeof revisions.$inferSelect;

/** What is told of a revision in a list. */
export const REVISION = {
  number: revisions.number,
  parent: revisions.parent,
  hash: revisions.hash,
  message: revisions.message,
  label: revisions.label,
  createdAt: revisions.createdAt,
};

/** A revision as it is told in a list. */
export const toRevision = ({
  number,
  parent,
  hash,
  message,
  label,
  createdAt,
}: Pick<RevisionRow, keyof typeof REVISION>): Revision => ({
  number,
  parent,
  hash,
  message,
  label,
  createdAt: createdAt.toISOString(),
});

/** A revision as the document that it is. */
export const toDocument = (r: RevisionRow): StoredDocument => ({
  kind: r.kind,
  id: r.id,
  name: r.name,
  revision: r.number,
  updatedAt: r.createdAt.toISOString(),
  text: r.text,
  hash: r.hash,
  message: r.message,
});
