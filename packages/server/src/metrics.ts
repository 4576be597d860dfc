import type { Middleware } from 'koa';
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import type { Scoutings } from './scouting/scoutings.js';

/** Figures of a running server for whoever watches it. */
export interface Metrics {
  /** Counts and times every request; `ctx.state.endpoint` says which endpoint of the contract it went to. */
  count: Middleware;
  /** All figures as OpenMetrics text (version 1.0.0 of its specification). */
  text(): Promise<string>;
}

/** Upper ends of the classes of answer times (s). */
const SECONDS = [0.005, 0.02, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10];
/** Endpoints that keep a text when they answer with success. */
const SAVES = new Set(['create', 'save', 'import']);

export function createMetrics(scoutings: Pick<Scoutings, 'all' | 'jobs' | 'workers'>): Metrics {
  const registry = new Registry<typeof Registry.OPENMETRICS_CONTENT_TYPE>();
  registry.setContentType(Registry.OPENMETRICS_CONTENT_TYPE);
  const registers = [registry];
  collectDefaultMetrics({ register: registry });
  const requests = new Counter({
    name: 'glenmark_requests',
    help: 'Requests that were answered',
    labelNames: ['endpoint', 'status'] as const,
    registers,
  });
  const seconds = new Histogram({
    name: 'glenmark_request_seconds',
    help: 'Time from a request to the end of its answer, event streams left out',
    labelNames: ['endpoint'] as const,
    buckets: SECONDS,
    registers,
  });
  const saves = new Counter({ name: 'glenmark_saves', help: 'Texts that were saved', registers });
  new Gauge({
    name: 'glenmark_scoutings',
    help: 'Scoutings that are kept, by state',
    labelNames: ['state'] as const,
    registers,
    async collect() {
      this.reset();
      for (const { state } of await scoutings.all()) this.inc({ state });
    },
  });
  new Gauge({
    name: 'glenmark_jobs',
    help: 'Parts of scoutings that wait, are searched, or were given up',
    labelNames: ['state'] as const,
    registers,
    async collect() {
      this.reset();
      for (const [state, count] of Object.entries(await scoutings.jobs())) this.set({ state }, count);
    },
  });
  new Gauge({
    name: 'glenmark_workers',
    help: 'Workers that are there',
    registers,
    async collect() {
      this.set((await scoutings.workers()).workers.length);
    },
  });
  new Gauge({
    name: 'glenmark_situations_per_second',
    help: 'Situations a second of the scoutings that run',
    registers,
    async collect() {
      const { shared, workers } = await scoutings.workers();
      if (shared) return this.set(workers.reduce((sum, { perSecond }) => sum + perSecond, 0));
      const running = (await scoutings.all()).filter(
        ({ state, seconds }) => state === 'running' && seconds > 0,
      );
      this.set(running.reduce((sum, { done, seconds }) => sum + done / seconds, 0));
    },
  });
  return {
    async count(ctx, next) {
      const began = performance.now();
      ctx.res.once('close', () => {
        const endpoint = (ctx.state['endpoint'] as string | undefined) ?? 'page';
        const { statusCode: status } = ctx.res;
        requests.inc({ endpoint, status });
        if (!endpoint.startsWith('watch')) seconds.observe({ endpoint }, (performance.now() - began) / 1000);
        if (SAVES.has(endpoint) && status < 300) saves.inc();
      });
      await next();
    },
    text: () => registry.metrics(),
  };
}
