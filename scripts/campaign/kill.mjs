// (a) kill -9 at random moments under concurrent saves and a running scouting.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ask, lostOf, makeDocuments, randomFrom, saving, startServer, stopServer } from './server.mjs';

export async function killing({ rounds, seed = 1 }) {
  const data = mkdtempSync(join(tmpdir(), 'glenmark-kill-'));
  const random = randomFrom(seed);
  const acknowledged = [];
  let lost = 0;
  let notStarted = 0;
  let slowest = 0;
  let ids;
  try {
    for (let round = 0; round < rounds; round++) {
      const began = Date.now();
      const server = await startServer(data).catch(() => undefined);
      if (server === undefined) {
        notStarted++;
        break;
      }
      if (round > 0) slowest = Math.max(slowest, Date.now() - began);
      ids ??= await makeDocuments(server.url, 4);
      const before = acknowledged.length;
      await ask(server.url, 'POST', '/api/scoutings', {
        moveset: 'courier',
        courses: ['mill-yard'],
        situations: 1_000_000,
      });
      const { first, done } = saving(server.url, ids, acknowledged);
      await first;
      await new Promise((over) => setTimeout(over, random.below(2500)));
      server.child.kill('SIGKILL');
      await server.ended;
      await done;
      if (acknowledged.length === before) continue;
      const again = await startServer(data).catch(() => undefined);
      if (again === undefined) {
        notStarted++;
        break;
      }
      lost += await lostOf(again.url, acknowledged.slice(before));
      await stopServer(again);
    }
    return { rounds, acknowledged: acknowledged.length, lost, notStarted, slowestStart: `${slowest} ms` };
  } finally {
    rmSync(data, { recursive: true, force: true });
  }
}
