import * as z from 'zod';
import { importedBackupSchema } from './backup.js';
import { scoutingRequestSchema, scoutingSchema, workersSchema } from './scouting.js';
import { restoredSamplesSchema } from './samples.js';
import { sessionSchema, signOutSchema } from './session.js';
import {
  documentSchema,
  draftSchema,
  idSchema,
  labelSchema,
  revisionSchema,
  summarySchema,
} from './document.js';

/** The paths that hold documents, by kind. */
export const COLLECTIONS = { moveset: 'movesets', course: 'courses', tape: 'tapes' } as const;

const collection = z.enum(['movesets', 'courses', 'tapes']);
const number = z.coerce.number().int().min(1);

/** A part of a list; the next one is named by the reply's `Link` header with `rel="next"`. */
const page = {
  limit: z.coerce.number().int().min(1).max(1000).optional().describe('at most so many; 1000 when left out'),
  cursor: z.string().max(1000).optional().describe('where the part begins, from the link to it'),
};

export interface Endpoint {
  method: 'get' | 'post' | 'put' | 'delete';
  /** With parameters as `{name}`, the way OpenAPI writes them. */
  path: string;
  summary: string;
  parameters: Record<string, z.ZodType>;
  query?: Record<string, z.ZodType>;
  body?: z.ZodType;
  /** The type of a file that the request sends, when it sends no JSON. */
  upload?: string;
  /** Set when the request must say which revision it replaces. */
  ifMatch?: boolean;
  /** Set when a repeated request with the same `Idempotency-Key` is answered with what the first one made. */
  idempotencyKey?: boolean;
  reply: { status: number; schema?: z.ZodType; text?: string; etag?: boolean; location?: boolean };
  problems: number[];
}

/** What a request with a body can be refused for before anybody looks at what it says. */
const BODY_PROBLEMS = [400, 413, 415];
/** What a save can be refused for besides: it cannot be read, the disk is full, the server is busy. */
const SAVE_PROBLEMS = [...BODY_PROBLEMS, 422, 503, 507];

/** Every request the server answers. The server routes by this table, and `/openapi.json` is made from it. */
export const ENDPOINTS = {
  health: {
    method: 'get',
    path: '/healthz',
    summary: 'Whether the server lives; it answers everybody',
    parameters: {},
    reply: {
      status: 200,
      schema: z.object({ status: z.literal('alive'), version: z.string() }),
    },
    problems: [],
  },
  ready: {
    method: 'get',
    path: '/readyz',
    summary: 'Whether the server can use its data and the queue of scoutings; it answers everybody',
    parameters: {},
    reply: {
      status: 200,
      schema: z.object({ status: z.literal('ready') }),
    },
    problems: [503],
  },
  metrics: {
    method: 'get',
    path: '/metrics',
    summary: 'Figures for whoever watches the server, as OpenMetrics text',
    parameters: {},
    reply: { status: 200, text: 'application/openmetrics-text; version=1.0.0; charset=utf-8' },
    problems: [],
  },
  exportBackup: {
    method: 'get',
    path: '/api/backup',
    summary: 'Every document with all its revisions, and what scoutings found, as a zip',
    parameters: {},
    reply: { status: 200, text: 'application/zip' },
    problems: [503],
  },
  importBackup: {
    method: 'post',
    path: '/api/backup',
    summary: 'Adds everything that is in a backup, or nothing; what is here already stays',
    parameters: {},
    upload: 'application/zip',
    reply: { status: 200, schema: importedBackupSchema },
    problems: [413, 415, 422, 503, 507],
  },
  session: {
    method: 'get',
    path: '/api/session',
    summary: 'Whether the server asks for a token, so that one can be signed out',
    parameters: {},
    reply: { status: 200, schema: sessionSchema },
    problems: [],
  },
  signOut: {
    method: 'post',
    path: '/api/sign-out',
    summary: 'Ends the session of this browser, or those of all browsers on all servers that share the data',
    parameters: {},
    body: signOutSchema,
    reply: { status: 204 },
    problems: BODY_PROBLEMS,
  },
  // Before `create`, whose path it would match.
  import: {
    method: 'post',
    path: '/api/import',
    summary: 'Adds a document of whichever kind its text says it is',
    parameters: {},
    body: draftSchema,
    idempotencyKey: true,
    reply: { status: 201, schema: documentSchema, etag: true, location: true },
    problems: SAVE_PROBLEMS,
  },
  restoreSamples: {
    method: 'post',
    path: '/api/samples/restore',
    summary: 'Restores the samples that are missing; changed ones stay as they are, and are named',
    parameters: {},
    reply: { status: 200, schema: restoredSamplesSchema },
    problems: [507],
  },
  watchChanges: {
    method: 'get',
    path: '/api/changes',
    summary:
      'What is saved and removed from now on, or since `Last-Event-ID`, as server-sent events; `anew` when some are not known any more',
    parameters: {},
    reply: { status: 200, text: 'text/event-stream' },
    problems: [503],
  },
  // Before those of documents, whose paths they would match.
  scout: {
    method: 'post',
    path: '/api/scoutings',
    summary: 'Begins to scout a moveset at its newest revision; one that does so already is given instead',
    parameters: {},
    body: scoutingRequestSchema,
    idempotencyKey: true,
    reply: { status: 201, schema: scoutingSchema, location: true },
    problems: [...BODY_PROBLEMS, 404, 422],
  },
  scouting: {
    method: 'get',
    path: '/api/scoutings/{id}',
    summary: 'A scouting as it stands',
    parameters: { id: idSchema },
    reply: { status: 200, schema: scoutingSchema },
    problems: [404],
  },
  stopScouting: {
    method: 'post',
    path: '/api/scoutings/{id}/stop',
    summary: 'Ends a scouting; what it found so far is kept',
    parameters: { id: idSchema },
    reply: { status: 200, schema: scoutingSchema },
    problems: [404],
  },
  resumeScouting: {
    method: 'post',
    path: '/api/scoutings/{id}/resume',
    summary: 'Goes on with a stopped scouting; begins one that cannot go on again, from the same seed',
    parameters: { id: idSchema },
    reply: { status: 200, schema: scoutingSchema },
    problems: [404],
  },
  watchScouting: {
    method: 'get',
    path: '/api/scoutings/{id}/events',
    summary: 'A scouting as server-sent events, each the whole of it, until it ends',
    parameters: { id: idSchema },
    reply: { status: 200, text: 'text/event-stream' },
    problems: [404, 503],
  },
  workers: {
    method: 'get',
    path: '/api/workers',
    summary: 'Who searches: workers that share the database, or this server itself',
    parameters: {},
    reply: { status: 200, schema: workersSchema },
    problems: [503],
  },
  scoutings: {
    method: 'get',
    path: '/api/movesets/{id}/scoutings',
    summary: 'The scoutings of a moveset, newest first',
    parameters: { id: idSchema },
    reply: { status: 200, schema: z.array(scoutingSchema) },
    problems: [],
  },
  list: {
    method: 'get',
    path: '/api/{collection}',
    summary: 'The documents of a kind, newest change first',
    parameters: { collection },
    query: page,
    reply: { status: 200, schema: z.array(summarySchema) },
    problems: [400, 404],
  },
  create: {
    method: 'post',
    path: '/api/{collection}',
    summary: 'Adds a document; its id comes from its name',
    parameters: { collection },
    body: draftSchema,
    idempotencyKey: true,
    reply: { status: 201, schema: documentSchema, etag: true, location: true },
    problems: [...SAVE_PROBLEMS, 404],
  },
  read: {
    method: 'get',
    path: '/api/{collection}/{id}',
    summary: 'A document at its newest revision',
    parameters: { collection, id: idSchema },
    reply: { status: 200, schema: documentSchema, etag: true },
    problems: [404],
  },
  save: {
    method: 'put',
    path: '/api/{collection}/{id}',
    summary:
      'Adds a revision on top of the one named by If-Match; a text that is there already is left as it is',
    parameters: { collection, id: idSchema },
    body: draftSchema,
    ifMatch: true,
    reply: { status: 200, schema: documentSchema, etag: true },
    problems: [...SAVE_PROBLEMS, 404, 412, 428],
  },
  remove: {
    method: 'delete',
    path: '/api/{collection}/{id}',
    summary: 'Removes a document with all its revisions, and a moveset with its scoutings',
    parameters: { collection, id: idSchema },
    ifMatch: true,
    reply: { status: 204 },
    problems: [404, 412, 428, 507],
  },
  file: {
    method: 'get',
    path: '/api/{collection}/{id}/file',
    summary: 'The document as a file to keep',
    parameters: { collection, id: idSchema },
    reply: { status: 200, text: 'application/yaml' },
    problems: [404],
  },
  revisions: {
    method: 'get',
    path: '/api/{collection}/{id}/revisions',
    summary: 'What the document has been, newest first',
    parameters: { collection, id: idSchema },
    reply: { status: 200, schema: z.array(revisionSchema) },
    problems: [404],
  },
  revision: {
    method: 'get',
    path: '/api/{collection}/{id}/revisions/{number}',
    summary: 'The document as it was at a revision',
    parameters: { collection, id: idSchema, number },
    reply: { status: 200, schema: documentSchema, etag: true },
    problems: [404],
  },
  label: {
    method: 'put',
    path: '/api/{collection}/{id}/revisions/{number}/label',
    summary: 'Labels a revision; an empty label takes it away',
    parameters: { collection, id: idSchema, number },
    body: labelSchema,
    reply: { status: 200, schema: revisionSchema },
    problems: [...BODY_PROBLEMS, 404, 503, 507],
  },
} satisfies Record<string, Endpoint>;

export type EndpointName = keyof typeof ENDPOINTS;
