// (b) A power cut: after it, the data folder is what had been synced by then.
import { mkdtempSync, renameSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { lostOf, makeDocuments, randomFrom, saving, startServer, stopServer } from './server.mjs';

const PRELOAD = pathToFileURL(new URL('power-preload.mjs', import.meta.url).pathname).href;

export async function powerCuts({ rounds, seed = 1 }) {
  const base = mkdtempSync(join(tmpdir(), 'glenmark-power-'));
  const data = join(base, 'data');
  const shadow = join(base, 'shadow');
  const random = randomFrom(seed);
  const acknowledged = [];
  let lost = 0;
  let notOpened = 0;
  let rebuilt = 0;
  let ids;
  try {
    for (let round = 0; round < rounds; round++) {
      const env = {
        POWER_SHADOW: shadow,
        POWER_CUT_AFTER: String(1 + random.below(400)),
        POWER_TORN: String(round % 2),
      };
      const server = await startServer(data, { preload: PRELOAD, env });
      ids ??= await makeDocuments(server.url, 4);
      server.child.kill('SIGUSR2');
      await new Promise((over) => setTimeout(over, 300));
      const before = acknowledged.length;
      const { done } = saving(server.url, ids, acknowledged);
      await server.ended;
      await done;
      rmSync(data, { recursive: true });
      renameSync(shadow, data);
      const again = await startServer(data).catch((error) => error);
      if (again instanceof Error) {
        notOpened++;
        break;
      }
      if (/rebuilt/.test(again.out())) rebuilt++;
      lost += await lostOf(again.url, acknowledged.slice(before));
      await stopServer(again);
    }
    return { rounds, acknowledged: acknowledged.length, lost, notOpened, rebuilt };
  } finally {
    rmSync(base, { recursive: true, force: true });
  }
}
