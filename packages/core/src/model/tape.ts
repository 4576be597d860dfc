import * as z from 'zod';
import { header, mapping, named, nameSchema, pointSchema } from './schema.js';

/** The longest tape: ten minutes at 144 ticks a second, and then some. */
export const MAX_TICKS = 100_000;

/** The shape of a tape file: inputs on the tick grid, and what is expected of the run. */
export const tapeSchema = mapping({
  ...header('tape'),
  moveset: z.string().optional().describe('the moveset it was made for; any may play it'),
  course: z.string(),
  spawn: nameSchema.optional().describe('where it begins: a spawn of the course'),
  at: pointSchema.optional().describe('or, in its place, any place: the feet'),
  facing: z
    .enum(['left', 'right'])
    .optional()
    .describe('the way faced at first; the spawn\u2019s when left out'),
  tickRate: z
    .number()
    .int()
    .min(10)
    .max(1000)
    .optional()
    .describe('the grid of the ticks below; the moveset\u2019s when left out'),
  ticks: z.number().int().min(1).max(MAX_TICKS),
  inputs: named(z.array(z.string()))
    .optional()
    .describe('per control, spans such as "20 for 11" or, for an axis, "6 for 144 at -1"'),
  marks: named(z.number().int().min(0)).optional(),
  expect: z.array(z.string()).optional(),
}).refine(({ spawn, at }) => (spawn === undefined) !== (at === undefined), {
  error: 'expected either a spawn to begin at, or a place as `at`',
});

export type TapeFile = z.infer<typeof tapeSchema>;
