// The application as it is started, on a data folder of its own, and Debian's Chromium to look at it.
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { root } from './build.mjs';

/** Starts it; `close` ends it and takes its data away. */
export async function serve() {
  const data = mkdtempSync(join(tmpdir(), 'glenmark-served-'));
  const server = spawn(process.execPath, [join(root, 'scripts/start.mjs')], {
    env: { ...process.env, PORT: '0', GLENMARK_DATA: data },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const url = await new Promise((done, failed) => {
    let out = '';
    server.once('exit', (code) => failed(new Error(`the server ended with ${code}`)));
    server.stdout.on('data', (chunk) => {
      out += chunk;
      const found = /at (http:\S+)\//.exec(out)?.[1];
      if (found) done(found);
    });
  });
  const browser = await chromium.launch(JSON.parse(readFileSync(join(root, 'e2e/browser.json'), 'utf8')));
  const close = async () => {
    await browser.close();
    server.removeAllListeners('exit');
    const ended = new Promise((done) => server.once('exit', done));
    server.kill('SIGTERM');
    await ended;
    rmSync(data, { recursive: true, force: true });
  };
  return { url, browser, close };
}
