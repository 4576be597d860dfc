import { present } from '../present.js';
import * as z from 'zod';
import { didYouMean } from './diagnostics.js';

/**
 * Building blocks that the three document kinds share. Every mapping is strict: an unknown key is an error
 * that names the nearest known one, because a misspelt key that is silently ignored costs an afternoon.
 */
export function mapping<S extends z.ZodRawShape>(shape: S) {
  return z.strictObject(shape, {
    error: (issue) =>
      issue.code === 'unrecognized_keys'
        ? `unknown key '${issue.keys[0]}'${didYouMean(present(issue.keys[0]), Object.keys(shape)) || `, expected one of ${Object.keys(shape).join(', ')}`}`
        : undefined,
  });
}

/** What a name of ours looks like, so that it can stand in the notation. */
export const NAME = /^[A-Za-z_][A-Za-z0-9_]*$/;

export const nameSchema = z
  .string()
  .regex(NAME, { error: 'expected a name: letters, digits and underscores, not starting with a digit' })
  .refine((name) => !(name in Object.prototype), {
    error: 'expected another name: this one has a meaning of its own',
  });

/** Why a text cannot be a name, as the end of a sentence; undefined when it can. */
export const nameFault = (text: string): string | undefined =>
  nameSchema.safeParse(text).error?.issues[0]?.message;

/** Text in the notation, or a bare number or truth value, which is notation too. Its meaning is checked later. */
export const notationSchema = z.union([z.string(), z.number(), z.boolean()], {
  error: 'expected text in the notation, such as 3 m/s or pressed(hop)',
});

/** A point as two lengths. */
export const pointSchema = z.tuple([notationSchema, notationSchema], {
  error: 'expected a point, such as [2 m, 0.5 m]',
});

export const one = <T extends z.ZodType>(item: T) =>
  z.union([item, z.array(item)], { error: 'expected one item or a list of them' });

/** A mapping from names of ours to values of one shape; file order is kept. */
export const named = <T extends z.ZodType>(value: T) => z.record(nameSchema, value);

export const header = <K extends string>(kind: K) => ({
  glenmark: z.literal(1).describe('format version'),
  kind: z.literal(kind),
  name: z.string().min(1).max(200),
  note: z.string().optional(),
});
