import * as z from 'zod';

/** What became of the samples when they were brought back: those that were gone, and those that somebody changed. */
export const restoredSamplesSchema = z.object({
  restored: z.array(z.string()),
  changed: z.array(z.string()),
});

export type RestoredSamples = z.infer<typeof restoredSamplesSchema>;
