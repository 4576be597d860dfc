import * as z from 'zod';
import { courseSchema } from './course.js';
import { movesetSchema } from './moveset.js';
import type { Kind } from './read.js';
import { tapeSchema } from './tape.js';

/** The JSON Schema (2020-12) of a kind of document, so that any editor completes and checks our files. */
export function jsonSchema(kind: Kind): Record<string, unknown> {
  const schema = { moveset: movesetSchema, course: courseSchema, tape: tapeSchema }[kind];
  return {
    title: `Glenmark ${kind}`,
    ...(z.toJSONSchema(schema, { io: 'input' }) as Record<string, unknown>),
  };
}
