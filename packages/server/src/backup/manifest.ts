import { idSchema, kindSchema, revisionSchema, storableSchema } from '@glenmark/contract';
import * as z from 'zod';

/** The name of the list of what is in a backup, and the format that it is in. */
export const MANIFEST = 'manifest.json';
export const FORMAT = 1;

/** A revision, and the file that its text is in. */
const revision = revisionSchema.extend({
  file: z.string(),
  name: storableSchema.min(1),
  hash: z.string().regex(/^[0-9a-f]{64}$/),
  message: storableSchema,
  label: storableSchema.nullable(),
});

/** All revisions of a document, oldest first, without a gap. */
const document = z
  .strictObject({ kind: kindSchema, id: idSchema, revisions: z.array(revision).min(1) })
  .refine(
    ({ revisions }) =>
      revisions.every(({ number, parent }, i) => number === i + 1 && parent === (i === 0 ? null : i)),
    { error: 'expected revisions 1, 2, 3 and so on, each on top of the one before' },
  );

/** What is in a backup: every document with all its revisions, and what scoutings found. */
export const manifestSchema = z.strictObject({
  glenmark: z.literal(FORMAT),
  kind: z.literal('backup'),
  release: z.string(),
  createdAt: z.iso.datetime(),
  documents: z.array(document),
  scoutings: z.array(z.strictObject({ id: idSchema, file: z.string(), hash: z.string() })),
});

export type Manifest = z.infer<typeof manifestSchema>;
