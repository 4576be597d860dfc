import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { isUnderWay, type Scouting, scoutingSchema } from '@glenmark/contract';
import { createScoutings, type Scoutings, type Store } from '@glenmark/server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { example, silent as log, testServer, type TestServer, WORKER } from './test-server.js';

let served: TestServer;
let store: Store;
let scoutings: Scoutings;
let base: string;
let folder: string;

beforeAll(async () => {
  served = await testServer();
  ({ store, scoutings, base, folder } = served);
  await store.create('moveset', { text: example('courier-draft.yaml') });
  await store.create('moveset', { text: example('courier.yaml') });
  await store.create('course', { text: example('mill-yard.yaml') });
});

afterAll(() => served.close());

const post = (path: string, body?: unknown): Promise<Response> =>
  fetch(base + path, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });

const asked = (more: object = {}) => ({
  moveset: 'courier-draft',
  courses: ['mill-yard'],
  situations: 3000,
  seed: 1,
  ...more,
});

const ended = (list: Scoutings, id: string): Promise<Scouting> => followed(list, id, () => undefined);

/** Follows a scouting to its end; `see` gets each state as it comes. */
function followed(list: Scoutings, id: string, see: (state: Scouting) => unknown): Promise<Scouting> {
  return new Promise((done, fail) => {
    let last: Scouting;
    list
      .subscribe(
        id,
        (state) => {
          last = state;
          see(state);
        },
        () => done(last),
      )
      .catch(fail);
  });
}

/** All states that the events of a scouting tell, until it ends. */
async function eventsOf(id: string): Promise<Scouting[]> {
  const reply = await fetch(`${base}/api/scoutings/${id}/events`);
  expect(reply.headers.get('content-type')).toContain('text/event-stream');
  return [...(await reply.text()).matchAll(/^data: (.*)$/gm)].map((m) =>
    scoutingSchema.parse(JSON.parse(m[1]!)),
  );
}

describe('a scouting', () => {
  it('runs in the background, tells how far it is, and keeps what it found', async () => {
    const reply = await post('/api/scoutings', asked());
    expect(reply.status).toBe(201);
    const begun = scoutingSchema.parse(await reply.json());
    expect(isUnderWay(begun)).toBe(true);
    // Asked for once more, by another window: the same one.
    const again = scoutingSchema.parse(await (await post('/api/scoutings', asked())).json());
    expect(again.id).toBe(begun.id);
    const events = await eventsOf(begun.id);
    const last = events.at(-1)!;
    expect(last.problem).toBeNull();
    expect(last.state).toBe('done');
    expect(last.done).toBeGreaterThanOrEqual(3000);
    expect(last.coverage.ofCrossings).toBe(37);
    expect(last.findings.map((f) => f.code)).toContain('AG1');
    expect((await scoutings.of('courier-draft'))[0]).toEqual(last);
    expect((await store.scoutings()).find((s) => s.id === begun.id)).toEqual(last);
  });

  it('says what is wrong with a request, at its field', async () => {
    for (const [body, field] of [
      [asked({ situations: 0 }), 'situations'],
      [asked({ situations: 1e9 }), 'situations'],
      [asked({ courses: [] }), 'courses'],
    ] as const) {
      const reply = await post('/api/scoutings', body);
      expect(reply.status).toBe(400);
      expect(((await reply.json()) as { detail: string }).detail).toContain(field);
    }
    expect((await post('/api/scoutings', asked({ moveset: 'nobody' }))).status).toBe(404);
    expect((await post('/api/scoutings', asked({ courses: ['nowhere'] }))).status).toBe(404);
    expect((await fetch(`${base}/api/scoutings/none-1/events`)).status).toBe(404);
  });

  it('can be stopped with what it found so far, and begun again', async () => {
    const { id } = await scoutings.begin(asked({ moveset: 'courier', situations: 5_000_000 }));
    let stopping: Promise<unknown> | undefined;
    await followed(scoutings, id, (state) => {
      if (state.done > 0) stopping ??= post(`/api/scoutings/${id}/stop`);
    });
    await stopping;
    const stopped = await scoutings.read(id);
    expect(stopped.state).toBe('stopped');
    expect(stopped.done).toBeLessThan(5_000_000);
    expect(stopped.coverage.states.length).toBeGreaterThan(1);
    // It goes on from where it stood.
    await scoutings.resume(id);
    let lowest = Infinity;
    await followed(scoutings, id, (state) => {
      if (state.state === 'running') lowest = Math.min(lowest, state.done);
      if (state.done > stopped.done) void scoutings.stop(id);
    });
    expect(lowest).toBe(stopped.done);
    expect(await scoutings.read(id)).toMatchObject({ state: 'stopped', begun: 1 });
    // Once another one was begun in between, it begins anew.
    await ended(scoutings, (await scoutings.begin(asked({ situations: 500, seed: 5 }))).id);
    await scoutings.resume(id);
    const anew: number[] = [];
    await followed(scoutings, id, (state) => {
      if (state.state === 'running') anew.push(state.done);
      if (state.done > 0) void scoutings.stop(id);
    });
    expect(anew[0]).toBe(0);
  });

  it('with several threads and a grid comes to the same as with one', async () => {
    const several = await createScoutings({ store, log, worker: WORKER, workers: 3 });
    const request = asked({ situations: 2500, seed: 11, grid: 5 });
    const one = await ended(scoutings, (await scoutings.begin(request)).id);
    const three = await ended(several, (await several.begin(request)).id);
    expect(three.findings).toEqual(one.findings);
    expect(three).toMatchObject({ state: 'done', done: one.done, ticks: one.ticks, notes: [] });
    await several.close();
  });

  it('waits for its turn behind another', async () => {
    const first = await scoutings.begin(asked({ moveset: 'courier', situations: 5_000_000 }));
    const second = await scoutings.begin(asked({ situations: 500, seed: 2 }));
    const waited: string[] = [];
    await followed(scoutings, first.id, (state) => {
      if (state.done === 0 || !isUnderWay(state)) return;
      void scoutings.read(second.id).then(({ state }) => waited.push(state));
      void scoutings.stop(first.id);
    });
    expect(new Set(waited)).toEqual(new Set(['queued']));
    expect((await ended(scoutings, second.id)).state).toBe('done');
  });
});

describe('when something goes wrong', () => {
  it('one that ran when the server died begins again, and comes to the same', async () => {
    const before = await ended(scoutings, (await scoutings.begin(asked({ situations: 1500, seed: 4 }))).id);
    await store.keepScouting({ ...before, id: 'courier-draft-90', state: 'running', findings: [] });
    const anew = await createScoutings({ store, log, worker: WORKER });
    const after = await ended(anew, 'courier-draft-90');
    expect(after.state).toBe('done');
    expect(after.findings).toEqual(before.findings);
    await anew.close();
  });

  it('a report of an earlier release loads without what has another shape today', async () => {
    const today = await ended(scoutings, (await scoutings.begin(asked({ situations: 1500, seed: 4 }))).id);
    const [finding] = today.findings;
    const { evidence: _, ...earlier } = finding!;
    const old = {
      findings: [earlier, finding],
      coverage: { ...today.coverage, states: ['legs Trot'], crossings: ['legs Trot → Slide #3'] },
    } as unknown as Pick<Scouting, 'findings' | 'coverage'>;
    await store.keepScouting({ ...today, ...old, id: 'courier-draft-92' });
    const anew = await createScoutings({ store, log, worker: WORKER });
    expect(await anew.read('courier-draft-92')).toMatchObject({
      state: 'done',
      findings: [finding],
      coverage: { states: [], crossings: [], ofStates: 0, ofCrossings: 0 },
    });
    await anew.close();
  });

  it('a thread that dies is tried once more, then told; the next one runs', async () => {
    const bad = join(folder, 'bad-worker.mjs');
    writeFileSync(bad, 'throw new Error("out of memory");\n');
    const fragile = await createScoutings({ store, log, worker: pathToFileURL(bad) });
    const { id } = await fragile.begin(asked({ seed: 7 }));
    const failed = await ended(fragile, id);
    expect(failed).toMatchObject({ state: 'failed', begun: 2 });
    expect(failed.notes).toEqual(['It died and was begun again: out of memory.']);
    expect(failed.problem).toBe('Scouting failed: out of memory.');
    await fragile.close();
  });

  it('one that was running each time the server died is given up, with what it had found', async () => {
    const before = await ended(scoutings, (await scoutings.begin(asked({ situations: 1500, seed: 6 }))).id);
    await store.keepScouting({ ...before, id: 'courier-draft-91', state: 'running', begun: 2 });
    const anew = await createScoutings({ store, log, worker: WORKER });
    expect(await anew.read('courier-draft-91')).toMatchObject({
      state: 'failed',
      problem: 'Scouting failed: the server ended 2 times while it ran.',
      findings: before.findings,
    });
    await anew.close();
  });

  it('one that ended just before the server did is written down all the same', async () => {
    let letGo = (): void => undefined;
    const held = new Promise<void>((done) => (letGo = done));
    const slow: Store = {
      ...store,
      keepScouting: async (scouting, options) => {
        if (scouting.state === 'done') await held;
        await store.keepScouting(scouting, options);
      },
    };
    const list = await createScoutings({ store: slow, log, worker: WORKER });
    const { id } = await ended(list, (await list.begin(asked({ situations: 500, seed: 14 }))).id);
    const closed = list.close();
    letGo();
    await closed;
    expect((await store.scoutings()).find((s) => s.id === id)).toMatchObject({ state: 'done' });
  });

  it('one that grows past its memory ends with what it found', async () => {
    const small = await createScoutings({ store, log, worker: WORKER, memory: 1 });
    const request = asked({ moveset: 'courier', situations: 5_000_000, seed: 12 });
    const last = await ended(small, (await small.begin(request)).id);
    expect(last).toMatchObject({ state: 'done', notes: ['It ended early: its memory of 1 MB was full.'] });
    expect(last.done).toBeLessThan(5_000_000);
    await small.close();
  });

  it('one that proves, and looks at nothing else, is stopped all the same', async () => {
    const stubborn = join(folder, 'stubborn-worker.mjs');
    writeFileSync(stubborn, 'for (;;);\n');
    const list = await createScoutings({ store, log, worker: pathToFileURL(stubborn) });
    const { id } = await list.begin(asked({ seed: 13 }));
    const last = await followed(list, id, (state) => {
      if (state.state === 'running') void list.stop(id);
    });
    expect(last).toMatchObject({ state: 'stopped', problem: null });
    await list.close();
  });

  it('a course that is gone by then is told', async () => {
    const { id: gone } = await store.create('course', {
      text: example('mill-yard.yaml').replace('Mill yard', 'Gone yard'),
    });
    const first = await scoutings.begin(asked({ moveset: 'courier', situations: 5_000_000, seed: 8 }));
    const second = await scoutings.begin(asked({ courses: [gone], seed: 9 }));
    const { revision, hash } = await store.read('course', gone);
    await store.remove('course', gone, `"${revision}-${hash.slice(0, 12)}"`);
    await scoutings.stop(first.id);
    await ended(scoutings, first.id);
    const failed = await ended(scoutings, second.id);
    expect(failed.state).toBe('failed');
    expect(failed.problem).toContain(`There is no course '${gone}'`);
  });
});
