// `npm run screenshots`: one current picture of each main view, from the samples, into docs/screenshots/.
import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { root } from './build.mjs';

const VIEWS = [
  ['shelf', '/', ['day']],
  ['model', '/moveset/courier/model?from=Trot&to=Slide', ['day', 'night']],
  ['map', '/moveset/marram/model?as=map&state=Cling', ['day']],
  ['values', '/moveset/courier/model?beside=values', ['day']],
  ['text', '/moveset/courier/model?beside=text&state=Slide', ['night']],
  ['course', '/course/mill-yard', ['day', 'night']],
  ['run', '/moveset/courier/run?tape=culvert-slide&tick=60', ['day', 'night']],
  ['score', '/moveset/marram/run?tape=shaft-climb&tick=90', ['day', 'night']],
  ['report', '/moveset/courier-draft/report', ['day']],
  ['findings', '/moveset/courier-draft/findings?open=IN2%2Flegs%2FGlide', ['day', 'night']],
];

const browserOptions = JSON.parse(readFileSync(join(root, 'e2e/browser.json'), 'utf8'));
const data = mkdtempSync(join(tmpdir(), 'glenmark-pictures-'));
const server = spawn(process.execPath, [join(root, 'scripts/start.mjs')], {
  env: { ...process.env, PORT: '0', GLENMARK_DATA: data },
  stdio: ['ignore', 'pipe', 'inherit'],
});
const url = await new Promise((done) => {
  let out = '';
  server.stdout.on('data', (chunk) => {
    out += chunk;
    const found = /at (http:\S+)\//.exec(out)?.[1];
    if (found) done(found);
  });
});
mkdirSync(join(root, 'docs/screenshots'), { recursive: true });
const browser = await chromium.launch(browserOptions);
for (const [name, path, themes] of VIEWS) {
  for (const theme of themes) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript((t) => localStorage.setItem('glenmark.theme', t), theme);
    await page.goto(url + path);
    await page.waitForLoadState('networkidle');
    await page.waitForTimeout(2500);
    await page.screenshot({ path: join(root, `docs/screenshots/${name}-${theme}.png`) });
    await page.close();
  }
}
await browser.close();
server.kill('SIGTERM');
await new Promise((done) => server.once('exit', done));
rmSync(data, { recursive: true, force: true });
