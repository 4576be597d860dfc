import { createHash } from 'node:crypto';
import { bodyParser } from '@koa/bodyparser';
import Router from '@koa/router';
import {
  COLLECTIONS,
  type Draft,
  type Endpoint,
  type EndpointName,
  ENDPOINTS,
  etagOf,
  type Label,
  openApiDocument,
  PROBLEM_TYPE,
  type Scouting,
  type ScoutingRequest,
  type SignOut,
  type StoredDocument,
} from '@glenmark/contract';
import { type Kind, KINDS, MAX_TEXT } from '@glenmark/core/model';
import type { Context, Middleware } from 'koa';
import type { Check } from '../checking/checker.js';
import { ProblemError, unreadable } from '../problem.js';
import { restoreSamples } from '../samples.js';
import type { Scoutings } from '../scouting/scoutings.js';
import type { Metrics } from '../metrics.js';
import type { RequestKey } from '../store/requests.js';
import type { Page, Store } from '../store/store.js';
import { type Access, forgetSession } from './access.js';
import { sendBackup, takeBackup } from './backups.js';
import { sendHappenings, sendStates } from './events.js';

interface Request {
  ctx: Context;
  kind: Kind;
  id: string;
  number: number;
  draft: Draft;
  /** The body as its endpoint's schema gives it, when it is no draft. */
  body: unknown;
  ifMatch: string;
  page: Page;
  /** There when the client may repeat the request. */
  key: RequestKey | undefined;
}

/** What the endpoints are served from. */
export interface Served {
  store: Store;
  scoutings: Scoutings;
  check: Check;
  version: string;
  /** The folder of the samples. */
  samples: string;
  metrics: Metrics;
  /** Who may; without it everybody who reaches the server. */
  access?: Access;
}

/** How long the store may take to answer before the server counts as not ready (ms). */
const PATIENCE = 2000;

/** One handler an endpoint of the contract. What they return is the body; `status` and headers follow from the table. */
function handlers(served: Served): Record<EndpointName, (r: Request) => Promise<unknown>> {
  const { store, scoutings, check, version, samples, metrics, access } = served;
  return {
    health: () => Promise.resolve({ status: 'alive', version }),
    async ready() {
      const late = new Promise<never>((_, fail) => {
        setTimeout(() => fail(new Error('no answer')), PATIENCE).unref();
      });
      await Promise.race([Promise.all([store.ping(), scoutings.ping()]), late]).catch(() => {
        throw new ProblemError(503, 'The data cannot be read or written. See the server\u2019s log.');
      });
      return { status: 'ready' };
    },
    metrics: () => metrics.text(),
    exportBackup: ({ ctx }) => sendBackup(ctx, served),
    importBackup: ({ ctx }) => takeBackup(ctx, served),
    session: () => Promise.resolve({ asksForToken: access !== undefined }),
    async signOut({ ctx, body }) {
      if ((body as SignOut).everywhere) await access?.signOutEverywhere();
      forgetSession(ctx);
    },
    async list({ ctx, kind, page }) {
      const { items, next } = await store.list(kind, page);
      if (next !== undefined) {
        const query = new URLSearchParams({
          ...(page.limit === undefined ? {} : { limit: String(page.limit) }),
          cursor: next,
        });
        ctx.set('Link', `<${ctx.path}?${query}>; rel="next"`);
      }
      return items;
    },
    create: ({ kind, draft, key }) => store.create(kind, draft, key),
    read: ({ kind, id }) => store.read(kind, id),
    save: ({ kind, id, draft, ifMatch }) => store.save(kind, id, draft, ifMatch),
    async remove({ kind, id, ifMatch }) {
      await store.remove(kind, id, ifMatch);
      if (kind === 'moveset') scoutings.forget(id);
    },
    revisions: ({ kind, id }) => store.revisions(kind, id),
    revision: ({ kind, id, number }) => store.read(kind, id, number),
    label: ({ kind, id, number, body }) => store.label(kind, id, number, (body as Label).label || null),
    async file({ ctx, kind, id }) {
      const { text } = await store.read(kind, id);
      ctx.attachment(`${id}.yaml`);
      return text;
    },
    restoreSamples: () => restoreSamples(store, samples),
    async scout({ body, key }) {
      const made = key === undefined ? undefined : await store.madeBy(key);
      if (made !== undefined) return scoutings.read(made.replace('scouting/', ''));
      const scouting = await scoutings.begin(body as ScoutingRequest);
      if (key !== undefined) await store.remember(key, `scouting/${scouting.id}`);
      return scouting;
    },
    scouting: ({ id }) => scoutings.read(id),
    stopScouting: ({ id }) => scoutings.stop(id),
    resumeScouting: ({ id }) => scoutings.resume(id),
    scoutings: ({ id }) => scoutings.of(id),
    workers: () => scoutings.workers(),
    async watchScouting({ ctx, id }) {
      await scoutings.read(id);
      return sendStates(ctx, (next, end) => scoutings.subscribe(id, next, end));
    },
    watchChanges({ ctx }) {
      const after = Number.parseInt(ctx.get('last-event-id'), 10);
      return Promise.resolve(
        sendHappenings(ctx, (next, anew) =>
          store.follow(Number.isNaN(after) ? undefined : after, next, anew),
        ),
      );
    },
    async import({ draft, key }) {
      const { kind, diagnostics, errors } = await check(undefined, draft.text);
      if (errors > 0) throw unreadable(diagnostics, errors);
      if (kind === undefined) {
        throw new ProblemError(
          422,
          `Nothing was imported: the file does not say 'kind: moveset', 'kind: course' or 'kind: tape'.`,
          { title: 'The document cannot be read' },
        );
      }
      return store.create(kind, draft, key);
    },
  };
}

/** The API, routed by the contract's endpoint table. */
export function apiRoutes(served: Served): Middleware[] {
  const router = new Router();
  const answer = handlers(served);
  // JSON may need two bytes for one of the text's.
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
    router[endpoint.method](path, accepting(endpoint), ...(before as []), async (ctx: Context) => {
      ctx.state['endpoint'] = name;
      const body = await answer[name as EndpointName](readRequest(ctx, endpoint));
      ctx.set('Cache-Control', 'no-cache');
      ctx.status = endpoint.reply.status;
      if (endpoint.reply.etag === true) ctx.set('ETag', etagOf(body as StoredDocument));
      if (endpoint.reply.location === true) ctx.set('Location', addressOf(body as StoredDocument | Scouting));
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

/** Where something that was made is read. */
const addressOf = (made: StoredDocument | Scouting): string =>
  'kind' in made
    ? `/api/${COLLECTIONS[made.kind]}/${encodeURIComponent(made.id)}`
    : `/api/scoutings/${encodeURIComponent(made.id)}`;

/** Refuses a request that wants another type than its endpoint gives. */
const accepting = ({ reply }: Endpoint): Middleware => {
  const types = reply.text === undefined ? ['application/json', PROBLEM_TYPE] : [reply.text, PROBLEM_TYPE];
  return async (ctx, next) => {
    if (reply.status !== 204 && ctx.accepts(types) === false)
      throw new ProblemError(406, `This is given as ${types[0]} only, not as ${ctx.get('accept')}.`);
    await next();
  };
};

const requireJson: Middleware = async (ctx, next) => {
  if (!ctx.is('application/json'))
    throw new ProblemError(415, 'Expected a body of type application/json, such as {"text": "…"}.');
  await next();
};

/** Path, query, body and headers of a request, checked by the schemas of its endpoint. */
function readRequest(ctx: Context, endpoint: Endpoint): Request {
  const params: Record<string, string> = (ctx as Context & { params: Record<string, string> }).params;
  const values: Record<string, unknown> = {};
  for (const [name, schema] of Object.entries(endpoint.parameters)) {
    const parsed = schema.safeParse(params[name]);
    if (!parsed.success) throw new ProblemError(404, `There is nothing at ${ctx.path}.`);
    values[name] = parsed.data;
  }
  const page: Record<string, unknown> = {};
  for (const [name, schema] of Object.entries(endpoint.query ?? {})) {
    const parsed = schema.safeParse(ctx.query[name]);
    if (!parsed.success)
      throw new ProblemError(400, `In the address, ${name}: ${parsed.error.issues[0]!.message}.`);
    if (parsed.data !== undefined) page[name] = parsed.data;
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
    page,
    key: endpoint.idempotencyKey === true ? requestKey(ctx, body) : undefined,
  };
}

function requestKey(ctx: Context, body: unknown): RequestKey | undefined {
  const key = ctx.get('idempotency-key');
  if (key === '') return undefined;
  if (key.length > 200)
    throw new ProblemError(400, `The Idempotency-Key has ${key.length} characters, expected at most 200.`);
  const hash = createHash('sha256')
    .update(`${ctx.path}\n${JSON.stringify(body)}`)
    .digest('hex');
  return { key, hash };
}
