import * as z from 'zod';
import { header, mapping, named, nameSchema, pointSchema } from './schema.js';

/** The shape of a course file: the place a moveset is tried in. */

const solidSchema = z.union(
  [
    mapping({
      name: z.string().optional(),
      box: z.tuple([pointSchema, pointSchema]).describe('two opposite corners'),
      tag: nameSchema.optional(),
    }),
    mapping({
      name: z.string().optional(),
      points: z.array(pointSchema).min(3).describe('corners of a convex polygon, either way round'),
      tag: nameSchema.optional(),
    }),
  ],
  { error: "expected 'box' with two corners, or 'points' with at least three" },
);

export const courseSchema = mapping({
  ...header('course'),
  solids: z.array(solidSchema).max(20_000),
  spawns: named(mapping({ at: pointSchema, facing: z.enum(['left', 'right']).optional() })).refine(
    (spawns) => Object.keys(spawns).length > 0,
    { error: 'expected at least one spawn' },
  ),
});

export type CourseFile = z.infer<typeof courseSchema>;
