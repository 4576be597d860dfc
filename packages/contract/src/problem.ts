import * as z from 'zod';

/** Problem details (RFC 9457), with the places of what is wrong in a document. */
export const problemSchema = z.object({
  type: z.string().describe('about:blank, or urn:glenmark:problem:… when the status alone does not say it'),
  title: z.string(),
  status: z.number().int(),
  detail: z.string().describe('what happened, what is kept, what to do'),
  instance: z.string().optional().describe('this very request, as the log of the server names it'),
  diagnostics: z
    .array(
      z.object({
        severity: z.enum(['error', 'warning']),
        message: z.string(),
        path: z.array(z.union([z.string(), z.number()])),
        line: z.number().int().min(1),
        column: z.number().int().min(1),
      }),
    )
    .optional(),
  current: z.number().int().optional().describe('the newest revision, when a save came too late'),
});

export type Problem = z.infer<typeof problemSchema>;
export const PROBLEM_TYPE = 'application/problem+json';
