import { KINDS, MAX_TEXT } from '@glenmark/core/model';
import * as z from 'zod';

/** Documents as they travel between server and web application. */

export const kindSchema = z.enum(KINDS as ['moveset', 'course', 'tape']);

export const idSchema = z
  .string()
  .regex(/^[\p{L}\p{N}\p{M}]+(?:-[\p{L}\p{N}\p{M}]+)*$/u)
  .max(120)
  .describe('short name of a document, unique within its kind');

export const summarySchema = z.object({
  kind: kindSchema,
  id: idSchema,
  name: z.string(),
  revision: z.number().int().min(1),
  updatedAt: z.iso.datetime(),
});

export const documentSchema = summarySchema.extend({
  text: z.string().describe('the document as YAML or JSON'),
  hash: z.string().describe('SHA-256 of the text, hexadecimal'),
  message: z.string(),
});

export const revisionSchema = z.object({
  number: z.number().int().min(1),
  parent: z.number().int().min(1).nullable(),
  hash: z.string(),
  message: z.string(),
  label: z.string().nullable().describe('what a person calls it'),
  createdAt: z.iso.datetime(),
});

/** Text that can be stored: whole characters, and no NUL among them. */
export const storableSchema = z
  .string()
  .refine((text) => !text.includes('\0') && !LONE_SURROGATE.test(text), {
    error: 'expected text without NUL and without halves of characters',
  });
const LONE_SURROGATE = /\p{Surrogate}/u;

/** A label of a revision that a request sets. An empty one takes it away. */
export const labelSchema = z.strictObject({ label: storableSchema.max(60).overwrite((text) => text.trim()) });

/** What a save or an import sends. A byte order mark at the beginning of the text is taken off. */
export const draftSchema = z.strictObject({
  text: storableSchema
    .min(1)
    .max(MAX_TEXT)
    .overwrite((text) => text.replace(/^\uFEFF/, '')),
  message: storableSchema.max(500).optional(),
});

export type Summary = z.infer<typeof summarySchema>;
export type StoredDocument = z.infer<typeof documentSchema>;
export type Revision = z.infer<typeof revisionSchema>;
export type Label = z.infer<typeof labelSchema>;
export type Draft = z.infer<typeof draftSchema>;

/** The entity tag of a revision, as `ETag` gives it and `If-Match` wants it back. */
export const etagOf = (document: { revision: number; hash: string }): string =>
  `"${document.revision}-${document.hash.slice(0, 12)}"`;
