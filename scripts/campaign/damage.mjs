// (c) A byte flipped, or the file cut, in files of a data folder.
import {
  cpSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { lostOf, makeDocuments, randomFrom, saving, startServer, stopServer } from './server.mjs';

const filesIn = (folder) =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((e) => e.isFile())
    .map((e) => join(e.parentPath ?? e.path, e.name))
    .filter((f) => statSync(f).size > 0);

export async function damage({ files: wanted, seed = 1 }) {
  const base = mkdtempSync(join(tmpdir(), 'glenmark-damage-'));
  const sound = join(base, 'sound');
  const data = join(base, 'data');
  const random = randomFrom(seed);
  const acknowledged = [];
  const wrong = [];
  const figures = { damaged: 0, lost: 0, notOpened: 0, rebuilt: 0, empty: 0 };
  try {
    const server = await startServer(sound);
    const ids = await makeDocuments(server.url, 3);
    const { stop, done } = saving(server.url, ids, acknowledged);
    await new Promise((over) => setTimeout(over, 1500));
    stop();
    await done;
    const count = (await (await fetch(`${server.url}/api/movesets`)).json()).length;
    await stopServer(server);
    const newest = [...new Map(acknowledged.map((a) => [a.id, a])).values()];
    const all = filesIn(sound);
    // Every file outside the tables of the database, and as many of those as were asked for.
    const tables = all.filter((f) => f.includes('/base/'));
    const others = all.filter((f) => !f.includes('/base/'));
    const chosen = [...tables.sort(() => random.next() - 0.5), ...others.sort(() => random.next() - 0.5)];
    const files = wanted === undefined ? chosen : [...new Set([...others, ...chosen])].slice(0, wanted);
    for (const file of files)
      for (const how of ['flip', 'cut']) {
        rmSync(data, { recursive: true, force: true });
        cpSync(sound, data, { recursive: true });
        const target = join(data, relative(sound, file));
        const size = statSync(target).size;
        const at = random.below(size);
        if (how === 'cut') truncateSync(target, at);
        else {
          const bytes = readFileSync(target);
          bytes[at] ^= 1 << random.below(8);
          writeFileSync(target, bytes);
        }
        figures.damaged++;
        const again = await startServer(data).catch((error) => error);
        if (again instanceof Error) {
          figures.notOpened++;
          wrong.push(`${how} ${relative(sound, file)}: ${again.message}`);
          continue;
        }
        if (/rebuilt/.test(again.out())) figures.rebuilt++;
        const lost = await lostOf(again.url, newest).catch(() => newest.length);
        const list = await fetch(`${again.url}/api/movesets`).then((r) => r.json());
        if (list.length !== count) figures.empty++;
        if (lost > 0 || list.length !== count)
          wrong.push(
            `${how} ${relative(sound, file)} at ${at}: ${lost} lost, ${list.length} of ${count} listed`,
          );
        figures.lost += lost;
        await stopServer(again);
      }
    for (const line of wrong) process.stderr.write(`${line}\n`);
    return { acknowledged: acknowledged.length, ...figures };
  } finally {
    rmSync(base, { recursive: true, force: true });
  }
}
