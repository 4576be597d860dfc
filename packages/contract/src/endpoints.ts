import * as z from 'zod';
import { scoutingRequestSchema, scoutingSchema } from './scouting.js';
import { restoredSamplesSchema } from './samples.js';
import { documentSchema, draftSchema, idSchema, revisionSchema, summarySchema } from './document.js';

/** The paths that hold documents, by kind. */
export const COLLECTIONS = { moveset: 'movesets', course: 'courses', tape: 'tapes' } as const;

const collection = z.enum(['movesets', 'courses', 'tapes']);
const number = z.coerce.number().int().min(1);

export interface Endpoint {
  method: 'get' | 'post' | 'put' | 'delete';
  /** With parameters as `{name}`, the way OpenAPI writes them. */
  path: string;
  summary: string;
  parameters: Record<string, z.ZodType>;
  body?: z.ZodType;
  /** Set when the request must say which revision it replaces. */
  ifMatch?: boolean;
  reply: { status: number; schema?: z.ZodType; text?: string; etag?: boolean };
  problems: number[];
}

/** Every request the server answers. The server routes by this table, and `/openapi.json` is made from it. */
export const ENDPOINTS = {
  health: {
    method: 'get',
    path: '/healthz',
    summary: 'Whether the server and its data are ready',
    parameters: {},
    reply: {
      status: 200,
      schema: z.object({ status: z.literal('ready'), version: z.string() }),
    },
    problems: [],
  },
  // Before `create`, whose path it would match.
  import: {
    method: 'post',
    path: '/api/import',
    summary: 'Adds a document of whichever kind its text says it is',
    parameters: {},
    body: draftSchema,
    reply: { status: 201, schema: documentSchema, etag: true },
    problems: [400, 413, 415, 422],
  },
  restoreSamples: {
    method: 'post',
    path: '/api/samples/restore',
    summary: 'Brings back the samples that are gone; changed ones stay as they are, and are named',
    parameters: {},
    reply: { status: 200, schema: restoredSamplesSchema },
    problems: [],
  },
  // Before those of documents, whose paths they would match.
  scout: {
    method: 'post',
    path: '/api/scoutings',
    summary: 'Begins to scout a moveset at its newest revision; one that does so already is given instead',
    parameters: {},
    body: scoutingRequestSchema,
    reply: { status: 201, schema: scoutingSchema },
    problems: [400, 404, 415],
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
    problems: [404],
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
    summary: 'All documents of a kind, newest change first',
    parameters: { collection },
    reply: { status: 200, schema: z.array(summarySchema) },
    problems: [404],
  },
  create: {
    method: 'post',
    path: '/api/{collection}',
    summary: 'Adds a document; its id comes from its name',
    parameters: { collection },
    body: draftSchema,
    reply: { status: 201, schema: documentSchema, etag: true },
    problems: [400, 404, 413, 415, 422],
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
    summary: 'Adds a revision on top of the one named by If-Match',
    parameters: { collection, id: idSchema },
    body: draftSchema,
    ifMatch: true,
    reply: { status: 200, schema: documentSchema, etag: true },
    problems: [400, 404, 412, 413, 415, 422, 428],
  },
  remove: {
    method: 'delete',
    path: '/api/{collection}/{id}',
    summary: 'Removes a document with all its revisions',
    parameters: { collection, id: idSchema },
    ifMatch: true,
    reply: { status: 204 },
    problems: [404, 412, 428],
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
} satisfies Record<string, Endpoint>;

export type EndpointName = keyof typeof ENDPOINTS;
