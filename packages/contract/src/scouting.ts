import { coverageSchema, findingSchema } from '@glenmark/core/findings';
import * as z from 'zod';
import { idSchema } from './document.js';

/** Scoutings as they travel between server and web application: a search in the background, with what it found. */

/** The most new situations that one scouting may ask for: of more, workers would take too many for ones that are known. */
export const MAX_SITUATIONS = 100_000_000;

/** What somebody asks for. */
export const scoutingRequestSchema = z.strictObject({
  moveset: idSchema,
  courses: z.array(idSchema).min(1).max(20),
  situations: z.number().int().min(1).max(MAX_SITUATIONS),
  seed: z
    .number()
    .int()
    .min(0)
    .max(2 ** 31 - 1)
    .default(1),
  grid: z
    .number()
    .min(0.25)
    .max(100)
    .optional()
    .describe('begin at every place of a grid this wide too, in metres'),
  parts: z
    .number()
    .int()
    .min(1)
    .max(64)
    .optional()
    .describe('in how many parts each course is searched, where workers share a database'),
});

/** A worker that is there. */
export const workerSchema = z.object({
  name: z.string().describe('its machine and process'),
  threads: z.number().int().describe('how many parts it can search at a time'),
  busy: z.number().int().describe('threads that are at something'),
  perSecond: z.number().describe('new situations a second, of all its threads'),
});

/** Who searches: workers that share the database, or without one this server itself. */
export const workersSchema = z.object({ shared: z.boolean(), workers: z.array(workerSchema) });

/** How a scouting goes that workers share: the same plan gives the same report, whoever they are. */
export const sharedSchema = z.object({
  parts: z.number().int(),
  /** How often it went on after a stop. */
  turn: z.number().int(),
  /** When the first worker took part of it. */
  startedAt: z.iso.datetime().nullable(),
  /** The revision of each course that is searched. */
  courseRevisions: z.array(z.number().int()),
  /** Exchanges between the shards: how many were made, of how many. */
  leg: z.number().int(),
  legs: z.number().int(),
  shards: z.array(
    z.object({
      course: z.string(),
      part: z.number().int(),
      situations: z.number().int(),
      found: z.number().int(),
    }),
  ),
  /** Who is there, and which shards of this scouting each of them is at; `reports` while it puts the report together. */
  workers: z.array(workerSchema.extend({ shards: z.array(z.number().int()), reports: z.boolean() })),
});

export const SCOUTING_STATES = ['queued', 'running', 'done', 'stopped', 'failed'] as const;

export const scoutingSchema = scoutingRequestSchema.extend({
  id: idSchema,
  /** The revision of the moveset that is scouted. */
  revision: z.number().int().min(1),
  state: z.enum(SCOUTING_STATES),
  /** How often it was begun: more than once when the server went away meanwhile, or a worker died. */
  begun: z.number().int().min(0),
  seconds: z.number(),
  done: z.number().int().describe('situations so far'),
  ticks: z.number().int(),
  course: z.string(),
  coverage: coverageSchema,
  findings: z.array(findingSchema),
  /** What went wrong on the way and was made good, such as a thread that died and was replaced. */
  notes: z.array(z.string()).default([]),
  /** Why it failed; null when it did not. */
  problem: z.string().nullable(),
  createdAt: z.iso.datetime(),
  shared: sharedSchema.optional(),
});

export type WorkerState = z.infer<typeof workerSchema>;
export type Workers = z.infer<typeof workersSchema>;
export type Shared = z.infer<typeof sharedSchema>;

export type ScoutingRequest = z.infer<typeof scoutingRequestSchema>;
export type Scouting = z.infer<typeof scoutingSchema>;

/** Whether anything may still happen to it. */
export const isUnderWay = ({ state }: Pick<Scouting, 'state'>): boolean =>
  state === 'queued' || state === 'running';
