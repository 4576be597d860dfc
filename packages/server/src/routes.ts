import { bodyParser } from '@koa/bodyparser';
import Router from '@koa/router';
import {
  COLLECTIONS,
  type Draft,
  type Endpoint,
  type EndpointName,
  ENDPOINTS,
  etagOf,
  openApiDocument,
  type Scouting,
  type ScoutingRequest,
  type StoredDocument,
} from '@glenmark/contract';
import { type Kind, kindOf, KINDS, MAX_TEXT } from '@glenmark/core';
import type { Context, Middleware } from 'koa';
import { Readable } from 'node:stream';
import { ProblemError } from './problem.js';
import { restoreSamples } from './samples.js';
import type { Scoutings } from './scoutings.js';
import type { Store } from './store.js';

interface Request {
  ctx: Context;
  kind: Kind;
  id: string;
  number: number;
  draft: Draft;
  /** The body as its endpoint's schema gives it, when it is no draft. */
  body: unknown;
  ifMatch: string;
}

/** What the endpoints are served from. */
export interface Served {
  store: Store;
  scoutings: Scoutings;
  version: string;
  /** The folder of the samples. */
  samples: string;
}

/** One handler an endpoint of the contract. What they return is the body; `status` and headers follow from the table. */
function handlers({
  store,
  scoutings,
  version,
  samples,
}: Served): Record<EndpointName, (r: Request) => Promise<unknown>> {
  return {
    health: () => Promise.resolve({ status: 'ready', version }),
    list: ({ kind }) => store.list(kind),
    create: ({ kind, draft }) => store.create(kind, draft),
    read: ({ kind, id }) => store.read(kind, id),
    save: ({ kind, id, draft, ifMatch }) => store.save(kind, id, draft, ifMatch),
    remove: ({ kind, id, ifMatch }) => store.remove(kind, id, ifMatch),
    revisions: ({ kind, id }) => store.revisions(kind, id),
    revision: ({ kind, id, number }) => store.read(kind, id, number),
    async file({ ctx, kind, id }) {
      const { text } = await store.read(kind, id);
      ctx.attachment(`${id}.yaml`);
      return text;
    },
    restoreSamples: () => restoreSamples(store, samples),
    scout: ({ body }) => scoutings.begin(body as ScoutingRequest),
    scouting: ({ id }) => Promise.resolve(scoutings.read(id)),
    stopScouting: ({ id }) => scoutings.stop(id),
    resumeScouting: ({ id }) => scoutings.resume(id),
    scoutings: ({ id }) => Promise.resolve(scoutings.of(id)),
    watchScouting({ ctx, id }) {
      // Each event goes out as it is made: nothing may wait for more of them to compress.
      ctx.compress = false;
      ctx.req.socket.setTimeout(0);
      return Promise.resolve(Readable.from(eventsOf(scoutings.watch(id))));
    },
    import({ draft }) {
      const kind = kindOf(draft.text);
      if (kind === undefined) {
        throw new ProblemError(
          422,
          `Nothing was imported: the file does not say 'kind: moveset', 'kind: course' or 'kind: tape'.`,
          { title: 'The document cannot be read' },
        );
      }
      return store.create(kind, draft);
    },
  };
}

/** The API, routed by the contract's endpoint table. */
export function apiRoutes(served: Served): Middleware[] {
  const router = new Router();
  const answer = handlers(served);
  // JSON may need two characters for one of the text's.
  const parse = bodyParser({
    enableTypes: ['json'],
    jsonLimit: 2 * MAX_TEXT + 10_000,
    onError: (error) => {
      throw error;
    },
  });
  for (const [name, endpoint] of Object.entries<Endpoint>(ENDPOINTS)) {
    const path = endpoint.path.replace(/\{(\w+)\}/g, ':$1');
    const before: Middleware[] = endpoint.body === undefined ? [] : [requireJson, parse as Middleware];
    router[endpoint.method](path, ...(before as []), async (ctx: Context) => {
      const body = await answer[name as EndpointName](readRequest(ctx, endpoint));
      ctx.set('Cache-Control', 'no-cache');
      ctx.status = endpoint.reply.status;
      if (endpoint.reply.etag === true) ctx.set('ETag', etagOf(body as StoredDocument));
      if (endpoint.reply.text !== undefined) ctx.type = endpoint.reply.text;
      if (endpoint.reply.status !== 204) ctx.body = body;
    });
  }
  const openApi = openApiDocument(served.version);
  router.get('/openapi.json', (ctx) => {
    ctx.body = openApi;
  });
  return [router.routes() as unknown as Middleware, router.allowedMethods() as unknown as Middleware];
}

/** States of a scouting as server-sent events (WHATWG HTML, 9.2). */
async function* eventsOf(states: AsyncIterable<Scouting>): AsyncGenerator<string> {
  yield 'retry: 1000\n\n';
  for await (const state of states) yield `data: ${JSON.stringify(state)}\n\n`;
}

const requireJson: Middleware = async (ctx, next) => {
  if (!ctx.is('application/json'))
    throw new ProblemError(415, 'Expected a body of type application/json, such as {"text": "…"}.');
  await next();
};

/** Path, body and header of a request, checked by the schemas of its endpoint. */
function readRequest(ctx: Context, endpoint: Endpoint): Request {
  const params: Record<string, string> = (ctx as Context & { params: Record<string, string> }).params;
  const values: Record<string, unknown> = {};
  for (const [name, schema] of Object.entries(endpoint.parameters)) {
    const parsed = schema.safeParse(params[name]);
    if (!parsed.success) throw new ProblemError(404, `There is nothing at ${ctx.path}.`);
    values[name] = parsed.data;
  }
  let draft: Draft = { text: '' };
  let body: unknown;
  if (endpoint.body !== undefined) {
    const parsed = endpoint.body.safeParse((ctx.request as unknown as { body: unknown }).body);
    if (!parsed.success) {
      const issue = parsed.error.issues[0]!;
      throw new ProblemError(
        400,
        `Nothing was saved: in the request, ${issue.path.join('.') || 'the body'}: ${issue.message}.`,
      );
    }
    if (typeof (parsed.data as Draft).text === 'string') draft = parsed.data as Draft;
    body = parsed.data;
  }
  const ifMatch = ctx.get('if-match');
  if (endpoint.ifMatch === true && ifMatch === '')
    throw new ProblemError(
      428,
      'Say with If-Match which revision this replaces, so that nobody\u2019s work is lost.',
    );
  return {
    ctx,
    kind: KINDS.find((kind) => COLLECTIONS[kind] === values['collection']) ?? 'moveset',
    id: (values['id'] as string | undefined) ?? '',
    number: (values['number'] as number | undefined) ?? 0,
    draft,
    body,
    ifMatch,
  };
}
