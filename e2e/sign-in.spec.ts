import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { startServer } from './app.js';

test('a server with a token asks for it once', async ({ page }) => {
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
  const ended = new Promise((done) => child.once('exit', done));
  child.kill('SIGTERM');
  await ended;
  rmSync(data, { recursive: true, force: true });
});
