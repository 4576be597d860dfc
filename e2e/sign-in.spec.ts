import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { startServer } from './app.js';

test('a server with a token asks for it once, and again after everybody was signed out', async ({
  page,
  browser,
}) => {
  test.setTimeout(120_000);
  const data = mkdtempSync(join(tmpdir(), 'glenmark-sign-in-'));
  const token = 'tide mill, low water';
  const { child, url } = await startServer(data, '0', { GLENMARK_TOKEN: token });
  await page.goto(`${url}/moveset/courier/model`);
  const field = page.getByLabel('Access token, as printed where the server was started');
  await expect(field).toBeFocused();
  await field.fill('high water');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toHaveText(/^This is not the token\./);
  await field.fill(token);
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: 'Courier', exact: true }).click();
  await expect(page.getByRole('grid')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('grid')).toBeVisible();
  // Somebody else signs everybody out.
  const theirs = await (await browser.newContext()).newPage();
  await theirs.goto(url);
  await theirs.getByLabel('Access token, as printed where the server was started').fill(token);
  await theirs.keyboard.press('Enter');
  await theirs.getByRole('button', { name: 'Sign out' }).click();
  await theirs.getByRole('menuitem', { name: 'Everybody, in every browser' }).click();
  await expect(theirs).toHaveURL(`${url}/sign-in`);
  await page.reload();
  await expect(field).toBeFocused();
  const ended = new Promise((done) => child.once('exit', done));
  child.kill('SIGTERM');
  await ended;
  rmSync(data, { recursive: true, force: true });
});
