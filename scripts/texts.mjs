// Gathers every text of the web application that is marked for translation into packages/web/src/locale/messages.json.
// With --check it says whether that file is what the code holds, and changes nothing.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { root, run } from './build.mjs';

const KEPT = join(root, 'packages/web/src/locale');
const checks = process.argv.includes('--check');
const target = checks ? mkdtempSync(join(tmpdir(), 'glenmark-texts-')) : KEPT;
const textsIn = (folder) => JSON.parse(readFileSync(join(folder, 'messages.json'), 'utf8')).translations;

run('npm', [
  'run',
  '--silent',
  'extract',
  '-w',
  '@glenmark/web',
  '--',
  '--output-path',
  target,
  '--progress',
  'false',
]);
if (checks) {
  const [kept, found] = [textsIn(KEPT), textsIn(target)];
  rmSync(target, { recursive: true });
  const only = (a, b) => Object.keys(a).filter((id) => !(id in b));
  const news = only(found, kept).map((id) => `new: ${found[id]}`);
  const gone = only(kept, found).map((id) => `gone: ${kept[id]}`);
  if (news.length + gone.length > 0) {
    const place = relative(root, join(KEPT, 'messages.json'));
    process.stderr.write(
      `${place} is not what the code holds; run 'npm run texts'.\n${[...news, ...gone].join('\n')}\n`,
    );
    process.exit(1);
  }
}
