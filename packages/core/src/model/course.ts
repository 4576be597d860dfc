import * as z from 'zod';
import { header, mapping, named, nameSchema, notationSchema, pointSchema } from './schema.js';

/** The shape of a course file: the place a moveset is tried in. */

const outlines = {
  box: z.tuple([pointSchema, pointSchema]).describe('two opposite corners'),
  points: z.array(pointSchema).min(3).describe('corners of a convex polygon, either way round'),
};

/** Something with an outline: a box or a convex polygon, and what else the kind of thing has. */
const outlined = <S extends z.ZodRawShape>(more: S) =>
  z.union([mapping({ box: outlines.box, ...more }), mapping({ points: outlines.points, ...more })], {
    error: "expected 'box' with two corners, or 'points' with at least three",
  });

const naming = { name: z.string().optional(), tag: nameSchema.optional() };

const vectorSchema = z.tuple([notationSchema, notationSchema], {
  error: 'expected two quantities, such as [0 m/s2, 20 m/s2]',
});

export const courseSchema = mapping({
  ...header('course'),
  solids: z.array(outlined(naming)).max(20_000),
  oneWays: z
    .array(mapping({ ...naming, from: pointSchema, to: pointSchema }))
    .max(5_000)
    .optional()
    .describe('platforms that stop only what comes from above'),
  movers: z
    .array(
      outlined({
        ...naming,
        path: z
          .array(pointSchema)
          .min(2)
          .describe('offsets, beginning with [0 m, 0 m]; there and back in one period'),
        period: notationSchema,
      }),
    )
    .max(200)
    .optional(),
  zones: z
    .array(
      outlined({
        name: z.string().optional(),
        tag: nameSchema,
        wind: vectorSchema.optional().describe('an acceleration'),
        launch: vectorSchema.optional().describe('a velocity, given on entering'),
        drag: notationSchema.optional(),
        unlocks: nameSchema.optional().describe('an ability'),
        once: z.boolean().optional().describe('gone after it was entered once'),
      }),
    )
    .max(2_000)
    .optional(),
  anchors: named(mapping({ at: pointSchema, tag: nameSchema })).optional(),
  spawns: named(mapping({ at: pointSchema, facing: z.enum(['left', 'right']).optional() })).refine(
    (spawns) => Object.keys(spawns).length > 0,
    { error: 'expected at least one spawn' },
  ),
});

export type CourseFile = z.infer<typeof courseSchema>;
