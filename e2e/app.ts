import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base, expect, type Locator, type Page } from '@playwright/test';

const root = new URL('../', import.meta.url).pathname;

export const example = (file: string): string => readFileSync(join(root, 'examples', file), 'utf8');

/** The built server with a data folder of its own, as `npm start` would run it. */
export async function startServer(
  data: string,
  port = '0',
  env: Record<string, string> = {},
): Promise<{ child: ChildProcess; url: string }> {
  const child = spawn(process.execPath, ['scripts/start.mjs'], {
    cwd: root,
    env: { ...process.env, PORT: port, GLENMARK_DATA: data, ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const url = await new Promise<string>((done, fail) => {
    let out = '';
    child.stdout.on('data', (chunk: Buffer) => {
      out += chunk.toString();
      const found = /at (http:\S+)\//.exec(out)?.[1];
      if (found !== undefined) done(found);
    });
    child.once('exit', () => fail(new Error(`the server did not start: ${out}`)));
  });
  return { child, url };
}

/** Tests get a page at the address of a running server, and fail on any error that the page reports. */
export const test = base.extend<{ app: Page }, { server: string }>({
  server: [
    // eslint-disable-next-line no-empty-pattern -- Playwright asks for a pattern even where nothing is needed.
    async ({}, use) => {
      const data = mkdtempSync(join(tmpdir(), 'glenmark-e2e-'));
      const { child, url } = await startServer(data);
      await use(url);
      const ended = new Promise((done) => child.once('exit', done));
      child.kill('SIGTERM');
      await ended;
      rmSync(data, { recursive: true, force: true });
    },
    { scope: 'worker', timeout: 300_000 },
  ],
  baseURL: ({ server }, use) => use(server),
  app: async ({ page }, use) => {
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(error.message));
    page.on('console', (message) => {
      if (message.type() === 'error' && !/status of (4\d\d|503)|net::ERR_FAILED/.test(message.text()))
        errors.push(message.text());
    });
    await page.goto('/');
    await use(page);
    expect(errors).toEqual([]);
  },
});

export { expect };

/** A sample under another name, as a file to import: stories share a server, and this one is nobody else's. */
export const renamed = (
  file: string,
  from: RegExp,
  to: string,
): { name: string; mimeType: string; buffer: Buffer } => ({
  name: file,
  mimeType: 'application/yaml',
  buffer: Buffer.from(example(file).replace(from, to)),
});

/** Imports files on the shelf, as a person picks them in the browser's own dialog. */
export async function importFiles(
  app: Page,
  files: { name: string; mimeType: string; buffer: Buffer }[],
): Promise<void> {
  const chooser = app.waitForEvent('filechooser');
  await app.getByRole('button', { name: 'Import files' }).click();
  await (await chooser).setFiles(files);
}

/** Chooses from a list of choices by the words of one of them. */
export async function choose(box: Locator, name: string | RegExp): Promise<void> {
  await box.click();
  await box
    .page()
    .getByRole('option', { name, exact: typeof name === 'string' })
    .click();
}

/** Lets no save of a page reach the server until it is let go: so two windows edit at the same time. */
export async function holdSaves(page: Page): Promise<{ letGo: () => void }> {
  let letGo = (): void => undefined;
  const gone = new Promise<void>((done) => (letGo = done));
  await page.route('**/api/**', async (route) => {
    if (route.request().method() === 'PUT') await gone;
    await route.continue();
  });
  return { letGo };
}
